package query

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/differences"
	"mevrin/store"
	"mevrin/workspace"
)

// Versioned is the page of the states in which a map was.
type Versioned struct {
	MapID    cm.ID
	Title    string
	Now      int // the present revision
	At       int // the state that is looked at
	Name     string
	Versions []store.Version
	Sittings []SatDown
	Drawing  string // as markup
	Against  int    // the state with which it is compared
	Since    differences.Differences
	Fresh    string // the elements that are new, parted by spaces
	Fault    string
}

// SatDown is a sitting, as it is listed.
type SatDown struct {
	store.Sitting
	Who     string
	Changes int
}

// Sat lists sittings with the names of people; who is not known has none.
func Sat(all []store.Sitting, names map[string]string) []SatDown {
	out := make([]SatDown, len(all))
	for i, one := range all {
		out[i] = SatDown{one, names[one.Author], one.Last - one.First + 1}
	}
	return out
}

// Differ says how the state that is looked at differs from another.
func (v *Versioned) Differ(before, after *cm.Map) {
	v.Since = differences.Between(before, after)
	var fresh []string
	for _, key := range v.Since.Fresh {
		fresh = append(fresh, workspace.Element(key))
	}
	v.Fresh = strings.Join(fresh, " ")
}

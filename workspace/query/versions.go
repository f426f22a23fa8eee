package query

import (
	"slices"
	"strconv"
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
	Counts   string // of the state that is shown; see Counted
	Against  int    // the state with which it is compared
	Since    differences.Differences
	Marks    Marks // what differs, on the drawing
	Hands    []Hand
	Fault    string
}

// Hand is somebody who altered the map, with the revisions that are theirs, parted by spaces.
type Hand struct {
	Who       string // their name; empty for those who are not known by one
	Revisions string
	Made      string // the elements of the state shown that they put there, parted by spaces
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
	v.Marks = MarksOf(v.Since.Fresh, v.Since.Altered, v.Since.Lost)
}

// MaxHands bounds how many people are told apart where a map is seen to grow.
const MaxHands = 12

// HandsOf gives those who altered a map, whoever did so the most first; those without an account count as one.
func HandsOf(all []store.Deeds, names map[string]string, shown *cm.Map) []Hand {
	by := map[string]*Hand{}
	var order []string
	count := map[string]int{}
	for _, one := range all {
		who := names[one.Author]
		if by[who] == nil {
			by[who] = &Hand{Who: who}
			order = append(order, who)
		}
		count[who]++
		by[who].Revisions += " " + strconv.Itoa(one.Revision)
		for _, key := range one.Made {
			if shown.Concepts[key.ID] != nil || shown.Links[key.ID] != nil {
				by[who].Made += " " + workspace.Element(key)
			}
		}
	}
	slices.SortStableFunc(order, func(a, b string) int { return count[b] - count[a] })
	var hands []Hand
	for _, who := range order[:min(len(order), MaxHands)] {
		h := *by[who]
		h.Revisions, h.Made = strings.TrimSpace(h.Revisions), strings.TrimSpace(h.Made)
		hands = append(hands, h)
	}
	return hands
}

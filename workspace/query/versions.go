package query

import (
	"maps"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"mevrin/core/structure"
	"mevrin/store"
	"mevrin/workspace"
)

// Differences says in words what differs between two states of a map.
type Differences struct {
	Added, Gone []Said      // concepts and sentences
	Reworded    [][2]string // before and after
	Moved       int
	Other       []string // sorts of other things that differ
	// Fresh are the elements that the later state has and the earlier had not.
	Fresh []string
}

// Said is a sentence, or a concept alone.
type Said struct{ From, Phrase, To string }

// Any tells whether anything differs.
func (d Differences) Any() bool {
	return len(d.Added)+len(d.Gone)+len(d.Reworded)+len(d.Other)+d.Moved > 0
}

// DifferencesBetween compares two states of a map.
func (s Reading) DifferencesBetween(before, after *workspace.State) (d Differences) {
	sentences := func(st *workspace.State) map[cm.Strand]Said {
		all := map[cm.Strand]Said{}
		for _, p := range st.Structure.Propositions() {
			all[p.Strand] = sentenceOf(st.Map, p)
		}
		return all
	}
	was, is := sentences(before), sentences(after)
	for _, strand := range slices.SortedFunc(maps.Keys(is), compareStrands) {
		if _, there := was[strand]; !there {
			d.Added = append(d.Added, is[strand])
			d.Fresh = append(d.Fresh, "l-"+string(strand.Link))
		}
	}
	for _, strand := range slices.SortedFunc(maps.Keys(was), compareStrands) {
		if _, there := is[strand]; !there {
			d.Gone = append(d.Gone, was[strand])
		}
	}
	other := map[string]bool{}
	for _, c := range history.Between(before.Map, after.Map) {
		b, a := before.Map.Concepts[c.ID], after.Map.Concepts[c.ID]
		switch {
		case c.Kind == cm.EntityConcept && b == nil:
			d.Fresh = append(d.Fresh, "c-"+string(c.ID))
			if after.Structure.Places[c.ID].Loose {
				d.Added = append(d.Added, Said{From: after.Map.Words(a.Label)})
			}
		case c.Kind == cm.EntityConcept && a == nil:
			if before.Structure.Places[c.ID].Loose {
				d.Gone = append(d.Gone, Said{From: before.Map.Words(b.Label)})
			}
		case c.Kind == cm.EntityConcept:
			if x, y := before.Map.Words(b.Label), after.Map.Words(a.Label); x != y {
				d.Reworded = append(d.Reworded, [2]string{x, y})
			}
			if b.At != a.At {
				d.Moved++
			}
			if before.Map.Words(b.Note) != after.Map.Words(a.Note) {
				other[s.t("notes")] = true
			}
		case c.Kind == cm.EntityLink:
			b, a := before.Map.Links[c.ID], after.Map.Links[c.ID]
			if b != nil && a != nil {
				if x, y := before.Map.Words(b.Phrase), after.Map.Words(a.Phrase); x != y {
					d.Reworded = append(d.Reworded, [2]string{x, y})
				}
			}
		case c.Kind == cm.EntityRoute || c.Kind == cm.EntityStop:
			other[s.t("routes")] = true
		case c.Kind == cm.EntityMap:
			other[s.t("what the map says of itself, and its look")] = true
		default:
			other[s.t("kinds, tags, comments and the like")] = true
		}
	}
	d.Other = slices.Sorted(maps.Keys(other))
	return d
}

func compareStrands(a, b cm.Strand) int {
	return strings.Compare(string(a.Link)+" "+string(a.From)+" "+string(a.To), string(b.Link)+" "+string(b.From)+" "+string(b.To))
}

func sentenceOf(m *cm.Map, p structure.Proposition) Said {
	return Said{m.Words(m.Concepts[p.Subject].Label), m.Words(m.Links[p.Strand.Link].Phrase), m.Words(m.Concepts[p.Object].Label)}
}

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
	Since    Differences
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

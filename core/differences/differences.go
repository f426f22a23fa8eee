// Package differences says what differs between two states of a map, as people speak of it.
package differences

import (
	"maps"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"mevrin/core/structure"
)

// Sorts are what else can differ than sentences, words and places; each is a key of the catalogue.
var Sorts = []string{"notes", "routes", "kinds, tags, comments and the like", "what the map says of itself, and its look"}

// Differences says in words what differs between two states of a map.
type Differences struct {
	Added, Gone []Said      // concepts and sentences
	Reworded    [][2]string // before and after
	Moved       int
	Other       []string // of Sorts: what else differs
	// Fresh are the concepts and links that the later state has and the earlier had not.
	Fresh []cm.Key
	// Altered are those that both have, in other words or elsewhere; Lost those that the earlier state alone has.
	Altered, Lost []cm.Key
	// Shifts are where concepts were that stand elsewhere now.
	Shifts []Shift
}

// Shift is a concept that moved, by the top centre of its slip.
type Shift struct {
	Concept  cm.ID
	From, To cm.Point
}

// Said is a sentence, or a concept alone.
type Said struct{ From, Phrase, To string }

// Any tells whether anything differs.
func (d Differences) Any() bool {
	return len(d.Added)+len(d.Gone)+len(d.Reworded)+len(d.Other)+d.Moved > 0
}

// Between compares two states of a map, whatever was done in between.
func Between(before, after *cm.Map) (d Differences) {
	was, is := structure.Of(before), structure.Of(after)
	earlier, later := sentences(before, was), sentences(after, is)
	for _, strand := range slices.SortedFunc(maps.Keys(later), compareStrands) {
		if _, there := earlier[strand]; !there {
			d.Added = append(d.Added, later[strand])
			d.Fresh = append(d.Fresh, cm.Key{Kind: cm.EntityLink, ID: strand.Link})
		}
	}
	for _, strand := range slices.SortedFunc(maps.Keys(earlier), compareStrands) {
		if _, there := later[strand]; !there {
			d.Gone = append(d.Gone, earlier[strand])
			if after.Links[strand.Link] == nil {
				d.Lost = append(d.Lost, cm.Key{Kind: cm.EntityLink, ID: strand.Link})
			}
		}
	}
	other := map[string]bool{}
	for _, c := range history.Between(before, after) {
		b, a := before.Concepts[c.ID], after.Concepts[c.ID]
		switch {
		case c.Kind == cm.EntityConcept && b == nil:
			d.Fresh = append(d.Fresh, c.Key)
			if is.Places[c.ID].Loose {
				d.Added = append(d.Added, Said{From: after.Words(a.Label)})
			}
		case c.Kind == cm.EntityConcept && a == nil:
			d.Lost = append(d.Lost, c.Key)
			if was.Places[c.ID].Loose {
				d.Gone = append(d.Gone, Said{From: before.Words(b.Label)})
			}
		case c.Kind == cm.EntityConcept:
			x, y := before.Words(b.Label), after.Words(a.Label)
			if x != y {
				d.Reworded = append(d.Reworded, [2]string{x, y})
			}
			if b.At != a.At {
				d.Moved++
				d.Shifts = append(d.Shifts, Shift{c.ID, b.At, a.At})
			}
			if x != y || b.At != a.At {
				d.Altered = append(d.Altered, c.Key)
			}
			if before.Words(b.Note) != after.Words(a.Note) {
				other["notes"] = true
			}
		case c.Kind == cm.EntityLink:
			b, a := before.Links[c.ID], after.Links[c.ID]
			if b != nil && a != nil {
				if x, y := before.Words(b.Phrase), after.Words(a.Phrase); x != y {
					d.Reworded = append(d.Reworded, [2]string{x, y})
					d.Altered = append(d.Altered, c.Key)
				}
			}
		case c.Kind == cm.EntityRoute || c.Kind == cm.EntityStop:
			other["routes"] = true
		case c.Kind == cm.EntityMap:
			other["what the map says of itself, and its look"] = true
		default:
			other["kinds, tags, comments and the like"] = true
		}
	}
	for _, sort := range Sorts {
		if other[sort] {
			d.Other = append(d.Other, sort)
		}
	}
	return d
}

func sentences(m *cm.Map, s *structure.Structure) map[cm.Strand]Said {
	all := map[cm.Strand]Said{}
	for _, p := range s.Propositions() {
		all[p.Strand] = Said{m.Words(m.Concepts[p.Subject].Label), m.Words(m.Links[p.Strand.Link].Phrase), m.Words(m.Concepts[p.Object].Label)}
	}
	return all
}

func compareStrands(a, b cm.Strand) int {
	return strings.Compare(string(a.Link)+" "+string(a.From)+" "+string(a.To), string(b.Link)+" "+string(b.From)+" "+string(b.To))
}

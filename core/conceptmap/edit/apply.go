package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/history"
)

// Placer finds places on the paper. It is asked where an operation leaves the
// place to Mevrin, since only the drawing knows how large words are.
type Placer interface {
	// Free gives the place nearest to the concept's own at which its slip
	// covers no other slip.
	Free(m *cm.Map, c *cm.Concept) cm.Point
	// FreeTogether gives how far new concepts are to be moved, all alike, so that
	// the slip of none covers one of the map's.
	FreeTogether(m *cm.Map, fresh []*cm.Concept) cm.Point
	// Size gives the extent of a concept's slip, in pixels.
	Size(m *cm.Map, c *cm.Concept) (w, h float64)
	// Arrange puts a part of the map in order.
	Arrange(m *cm.Map, s Scope) (Arrangement, error)
	// Siblings gives the children of a concept's parent in the order in which
	// they stand on the paper.
	Siblings(m *cm.Map, id cm.ID) []cm.ID
	// Clear gives new places to what stands on, or too near to, other slips. The
	// concepts named stay, and so does what is pinned.
	Clear(m *cm.Map, stay []cm.ID) map[cm.ID]cm.Point
}

// editing is an entry in the making.
type editing struct {
	*draft.Draft
	placer Placer
	// meant says which concept, kind or tag stands for an id that was given for a new
	// one, where the map had such a one already.
	meant map[cm.ID]cm.ID
}

func edit(m *cm.Map, placer Placer) *editing {
	return &editing{Draft: draft.New(m), placer: placer, meant: map[cm.ID]cm.ID{}}
}

// Apply performs the operations of one entry, in order, all or none. Placer may
// be nil: then things stay where they were put. An error is a *Refusal where
// the operation cannot be done.
func Apply(m *cm.Map, ops []Operation, placer Placer) (history.Outcome, error) {
	d := edit(m, placer)
	for _, op := range ops {
		if err := op.apply(d); err != nil {
			return history.Outcome{}, err
		}
	}
	if err := d.Fits(); err != nil {
		return history.Outcome{}, err
	}
	d.MendHierarchy()
	if err := d.keepTidy(ops); err != nil {
		return history.Outcome{}, err
	}
	return history.OutcomeOf(d.Draft), nil
}

// lang gives the language meant: the map's own where none is named.
func (d *editing) lang(l cm.Lang) (cm.Lang, error) {
	if l == "" {
		return d.Map.Language, nil
	}
	if !l.Valid() {
		return "", cm.Refusef("That is not the name of a language.")
	}
	return l, nil
}

func set[V any](field *V, to *V) {
	if to != nil {
		*field = *to
	}
}

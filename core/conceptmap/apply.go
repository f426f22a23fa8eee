package conceptmap

// Placer finds places on the paper. It is asked where an operation leaves the
// place to Mevrin, since only the drawing knows how large words are.
type Placer interface {
	// Free gives the place nearest to the concept's own at which its slip
	// covers no other slip.
	Free(m *Map, c *Concept) Point
	// Size gives the extent of a concept's slip, in pixels.
	Size(m *Map, c *Concept) (w, h float64)
	// Arrange puts a part of the map in order.
	Arrange(m *Map, s Scope) (Arrangement, error)
	// Siblings gives the children of a concept's parent in the order in which
	// they stand on the paper.
	Siblings(m *Map, id ID) []ID
	// Clear gives new places to what stands on, or too near to, other slips. The
	// concepts named stay, and so does what is pinned.
	Clear(m *Map, stay []ID) map[ID]Point
}

// editing is an entry in the making.
type editing struct {
	*draft
	placer Placer
	// meant says which concept, kind or tag stands for an id that was given for a new
	// one, where the map had such a one already.
	meant map[ID]ID
}

func edit(m *Map, placer Placer) *editing {
	return &editing{draft: newDraft(m), placer: placer, meant: map[ID]ID{}}
}

// Apply performs the operations of one entry, in order, all or none. Placer may
// be nil: then things stay where they were put. An error is a *Refusal where
// the operation cannot be done.
func Apply(m *Map, ops []Operation, placer Placer) (Outcome, error) {
	d := edit(m, placer)
	for _, op := range ops {
		if err := op.apply(d); err != nil {
			return Outcome{}, err
		}
	}
	if err := d.fits(); err != nil {
		return Outcome{}, err
	}
	d.settle()
	if err := d.keepTidy(ops); err != nil {
		return Outcome{}, err
	}
	return OutcomeOf(d.draft), nil
}

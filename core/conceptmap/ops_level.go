package conceptmap

import "slices"

// Way is a direction in the hierarchy.
type Way string

// The two ways in which a concept can change its level.
const (
	WayUp   Way = "up"   // below its parent's parent
	WayDown Way = "down" // below the sibling before it
)

// ShiftLevel hangs a concept one level higher or lower, with everything below
// it. Where it alone hangs from its phrase, the phrase's other end is led to
// the new parent; where it shares the phrase, it leaves it and hangs from a
// new link with the same words. The new strand is its main strand.
type ShiftLevel struct {
	Concept ID  `json:"concept"`
	Way     Way `json:"way"`
	// Ids for what may have to be made: a link, the concept's own end of it,
	// and the end at the new parent.
	Link   ID `json:"link"`
	Own    ID `json:"own"`
	Parent ID `json:"parent"`
}

func (op *ShiftLevel) apply(d *draft) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.m.Parent(c)
	if parent == "" {
		return refusef("Only a concept below another can change its level.")
	}
	next, err := d.nextParent(c, parent, op.Way)
	if err != nil {
		return err
	}
	old := *d.m.Links[c.Main.Link]
	if hasConcept(old.From, next) || hasConcept(old.To, next) {
		return refusef("The same phrase joins it to that concept already.")
	}
	// Which end is the concept's own, and on which side.
	ownEnd, parentEnd, ownSide := c.Main.To, c.Main.From, SideTo
	if from, _, _ := d.m.Between(c.Main.Strand); from == c.ID {
		ownEnd, parentEnd, ownSide = c.Main.From, c.Main.To, SideFrom
	}
	if len(old.From) == 1 && len(old.To) == 1 {
		move := MoveEnd{Link: old.ID, Old: parentEnd, End: End{op.Parent, next}}
		if err := move.apply(d); err != nil {
			return err
		}
		return d.chooseMain(c.ID, next, strandOf(old.ID, ownSide, ownEnd, op.Parent))
	}
	leave := RemoveEnd{Link: old.ID, End: ownEnd}
	if own, _ := old.side(ownSide); len(*own) == 1 {
		leave.End = parentEnd // its own end is all that this side has
	}
	if err := leave.apply(d); err != nil {
		return err
	}
	add := AddLink{ID: op.Link, Heads: old.Heads, From: []End{{op.Parent, next}}, To: []End{{op.Own, c.ID}}}
	if ownSide == SideFrom {
		add.From, add.To = add.To, add.From
	}
	if err := add.apply(d); err != nil {
		return err
	}
	fresh := *d.m.Links[op.Link]
	fresh.Phrase = old.Phrase
	d.putLink(&fresh)
	return d.chooseMain(c.ID, next, strandOf(op.Link, ownSide, op.Own, op.Parent))
}

func (d *draft) nextParent(c *Concept, parent ID, way Way) (ID, error) {
	switch way {
	case WayUp:
		if up := d.m.Parent(d.m.Concepts[parent]); up != "" {
			return up, nil
		}
		return "", refusef("It is as high as it can be.")
	case WayDown:
		all := d.m.siblings(parent)
		if i := slices.IndexFunc(all, func(s *Concept) bool { return s.ID == c.ID }); i > 0 {
			return all[i-1].ID, nil
		}
		return "", refusef("There is no sibling before it to go below.")
	}
	return "", refusef("A level is changed up or down.")
}

// chooseMain settles what the change has shaken, then makes a strand the main
// one of a concept.
func (d *draft) chooseMain(id, parent ID, s Strand) error {
	d.settle()
	if d.under(parent, id) {
		return refusef("That would put the concept below itself.")
	}
	d.setMain(id, parent, s)
	return nil
}

func strandOf(link ID, ownSide Side, own, other ID) Strand {
	if ownSide == SideFrom {
		return Strand{Link: link, From: own, To: other}
	}
	return Strand{Link: link, From: other, To: own}
}

package edit

import (
	cm "mevrin/core/conceptmap"
	"slices"
)

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
	Concept cm.ID `json:"concept"`
	Way     Way   `json:"way"`
	// Ids for what may have to be made: a link, the concept's own end of it,
	// and the end at the new parent.
	Link   cm.ID `json:"link"`
	Own    cm.ID `json:"own"`
	Parent cm.ID `json:"parent"`
}

func (op *ShiftLevel) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.Map.Parent(c)
	if parent == "" {
		return cm.Refusef("Only a concept below another can change its level.")
	}
	next, err := d.nextParent(c, parent, op.Way)
	if err != nil {
		return err
	}
	return d.hangUnder(c, next, op.Link, op.Own, op.Parent)
}

// Reparent hangs a concept below another one with everything below it, behind one
// of the children there or before all of them. The phrase by which it hung goes
// with it, as in ShiftLevel; below its own parent it only changes its rank.
type Reparent struct {
	Concept cm.ID `json:"concept"`
	Below   cm.ID `json:"below"`
	After   cm.ID `json:"after,omitempty"` // a child there; empty: to the front
	// Ids for what may have to be made, as in ShiftLevel.
	Link   cm.ID `json:"link"`
	Own    cm.ID `json:"own"`
	Parent cm.ID `json:"parent"`
}

func (op *Reparent) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if _, err := d.Concept(op.Below); err != nil {
		return err
	}
	parent := d.Map.Parent(c)
	switch {
	case op.Concept == d.Map.Focus:
		return cm.Refusef("The focus concept stands at the top; nothing is above it.")
	case d.Under(op.Below, op.Concept):
		return cm.Refusef("That would put the concept below itself.")
	case parent == "":
		link := AddLink{ID: op.Link, From: []cm.End{{ID: op.Parent, Concept: op.Below}}, To: []cm.End{{ID: op.Own, Concept: op.Concept}}}
		if err := link.apply(d); err != nil {
			return err
		}
		if err := d.chooseMain(op.Concept, op.Below, cm.Strand{Link: op.Link, From: op.Parent, To: op.Own}); err != nil {
			return err
		}
	case parent != op.Below:
		if err := d.hangUnder(c, op.Below, op.Link, op.Own, op.Parent); err != nil {
			return err
		}
	}
	rank := RankConcept{Concept: op.Concept, After: op.After}
	return rank.apply(d)
}

// hangUnder leads the phrase by which a concept hangs to another parent. Link,
// own and at are ids for what may have to be made.
func (d *editing) hangUnder(c *cm.Concept, next, link, own, at cm.ID) error {
	old := *d.Map.Links[c.Main.Link]
	// Which end is the concept's own, and on which side.
	ownEnd, parentEnd, ownSide := c.Main.To, c.Main.From, cm.SideTo
	if from, _, _ := d.Map.Between(c.Main.Strand); from == c.ID {
		ownEnd, parentEnd, ownSide = c.Main.From, c.Main.To, cm.SideFrom
	}
	if above := (map[cm.Side][]cm.End{cm.SideTo: old.From, cm.SideFrom: old.To})[ownSide]; cm.HasConcept(above, next) {
		return cm.Refusef("The same phrase joins it to that concept already.")
	}
	if len(old.From) == 1 && len(old.To) == 1 {
		move := MoveEnd{Link: old.ID, Old: parentEnd, End: cm.End{ID: at, Concept: next}}
		if err := move.apply(d); err != nil {
			return err
		}
		return d.chooseMain(c.ID, next, strandOf(old.ID, ownSide, ownEnd, at))
	}
	leave := RemoveEnd{Link: old.ID, End: ownEnd}
	if side, _ := old.EndsAt(ownSide); len(*side) == 1 {
		leave.End = parentEnd // its own end is all that this side has
	}
	if err := leave.apply(d); err != nil {
		return err
	}
	add := AddLink{ID: link, Heads: old.Heads, From: []cm.End{{ID: at, Concept: next}}, To: []cm.End{{ID: own, Concept: c.ID}}}
	if ownSide == cm.SideFrom {
		add.From, add.To = add.To, add.From
	}
	if err := add.apply(d); err != nil {
		return err
	}
	fresh := *d.Map.Links[link]
	fresh.Phrase = old.Phrase
	d.Put(&fresh)
	return d.chooseMain(c.ID, next, strandOf(link, ownSide, own, at))
}

func (d *editing) nextParent(c *cm.Concept, parent cm.ID, way Way) (cm.ID, error) {
	switch way {
	case WayUp:
		if up := d.Map.Parent(d.Map.Concepts[parent]); up != "" {
			return up, nil
		}
		return "", cm.Refusef("It is as high as it can be.")
	case WayDown:
		all := d.Map.Siblings(parent)
		if i := slices.IndexFunc(all, func(s *cm.Concept) bool { return s.ID == c.ID }); i > 0 {
			return all[i-1].ID, nil
		}
		return "", cm.Refusef("There is no sibling before it to go below.")
	}
	return "", cm.Refusef("A level is changed up or down.")
}

// chooseMain settles what the change has shaken, then makes a strand the main
// one of a concept.
func (d *editing) chooseMain(id, parent cm.ID, s cm.Strand) error {
	d.MendHierarchy()
	if d.Under(parent, id) {
		return cm.Refusef("That would put the concept below itself.")
	}
	d.SetMain(id, parent, s)
	return nil
}

func strandOf(link cm.ID, ownSide cm.Side, own, other cm.ID) cm.Strand {
	if ownSide == cm.SideFrom {
		return cm.Strand{Link: link, From: own, To: other}
	}
	return cm.Strand{Link: link, From: other, To: own}
}

// SetOrder gives the children of a concept the order that is listed; children
// that it does not name come after them, in the order that they had.
type SetOrder struct {
	Parent cm.ID   `json:"parent"`
	Order  []cm.ID `json:"order"`
}

func (op *SetOrder) apply(d *editing) error {
	if _, err := d.Concept(op.Parent); err != nil {
		return err
	}
	var order []*cm.Concept
	rest := d.Map.Siblings(op.Parent)
	for _, id := range op.Order {
		i := slices.IndexFunc(rest, func(c *cm.Concept) bool { return c.ID == id })
		if i < 0 {
			return cm.Refusef("Those concepts no longer stand below the same one.")
		}
		order = append(order, rest[i])
		rest = slices.Delete(rest, i, i+1)
	}
	return d.rankAll(append(order, rest...))
}

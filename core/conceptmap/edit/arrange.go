package edit

import (
	"cmp"
	"slices"

	cm "mevrin/core/conceptmap"
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
	if err := rank.rank(d); err != nil {
		return err
	}
	if parent == op.Below || op.After != "" { // to hang from another one alone is no order
		return d.ordered(op.Concept)
	}
	return nil
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
	if err := d.rankAll(append(order, rest...)); err != nil {
		return err
	}
	return (&KeepOrder{Concepts: []cm.ID{op.Parent}, On: true}).apply(d)
}

// LineUpWay says how several slips are put in line.
type LineUpWay string

// The ways in which slips are put in line with each other.
const (
	LineUpLeft   LineUpWay = "left"   // left edges
	LineUpCentre LineUpWay = "centre" // middles, below each other
	LineUpRight  LineUpWay = "right"  // right edges
	LineUpTop    LineUpWay = "top"    // upper edges
	LineUpMiddle LineUpWay = "middle" // middles, beside each other
	LineUpBottom LineUpWay = "bottom" // lower edges
	SpaceAcross  LineUpWay = "across" // the same room between each and the next, from left to right
	SpaceDown    LineUpWay = "down"   // the same from top to bottom
	SameWidth    LineUpWay = "width"  // as wide as the widest
)

// LineUp puts slips in line, or spaces them out evenly.
type LineUp struct {
	Concepts []cm.ID   `json:"concepts"`
	Way      LineUpWay `json:"way"`
}

// slipAt is a slip with its extent.
type slipAt struct {
	*cm.Concept
	w, h float64
}

func (s slipAt) left() float64 { return s.At.X - s.w/2 }

func (s slipAt) right() float64 { return s.At.X + s.w/2 }

func (s slipAt) bottom() float64 { return s.At.Y + s.h }

func (op *LineUp) apply(d *editing) error {
	var all []slipAt
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if d.placer == nil || slices.ContainsFunc(all, func(s slipAt) bool { return s.ID == id }) {
			continue
		}
		w, h := d.placer.Size(d.Map, c)
		all = append(all, slipAt{c, w, h})
	}
	if len(op.Concepts) < 2 {
		return cm.Refusef("Select at least two concepts to put in line.")
	}
	if len(all) < 2 {
		return nil
	}
	if op.Way == SameWidth {
		return op.widen(d, all)
	}
	places, err := lineUp(all, op.Way)
	if err != nil {
		return err
	}
	return d.move(places, true)
}

// most gives the greatest of a measure.
func most(all []slipAt, of func(slipAt) float64) float64 {
	best := of(all[0])
	for _, s := range all[1:] {
		best = max(best, of(s))
	}
	return best
}

func least(all []slipAt, of func(slipAt) float64) float64 {
	return -most(all, func(s slipAt) float64 { return -of(s) })
}

func lineUp(all []slipAt, way LineUpWay) (map[cm.ID]cm.Point, error) {
	places := map[cm.ID]cm.Point{}
	each := func(to func(slipAt) cm.Point) {
		for _, s := range all {
			places[s.ID] = to(s)
		}
	}
	switch way {
	case LineUpLeft:
		edge := least(all, slipAt.left)
		each(func(s slipAt) cm.Point { return cm.Point{X: edge + s.w/2, Y: s.At.Y} })
	case LineUpRight:
		edge := most(all, slipAt.right)
		each(func(s slipAt) cm.Point { return cm.Point{X: edge - s.w/2, Y: s.At.Y} })
	case LineUpCentre:
		middle := (least(all, slipAt.left) + most(all, slipAt.right)) / 2
		each(func(s slipAt) cm.Point { return cm.Point{X: middle, Y: s.At.Y} })
	case LineUpTop:
		edge := least(all, func(s slipAt) float64 { return s.At.Y })
		each(func(s slipAt) cm.Point { return cm.Point{X: s.At.X, Y: edge} })
	case LineUpBottom:
		edge := most(all, slipAt.bottom)
		each(func(s slipAt) cm.Point { return cm.Point{X: s.At.X, Y: edge - s.h} })
	case LineUpMiddle:
		middle := (least(all, func(s slipAt) float64 { return s.At.Y }) + most(all, slipAt.bottom)) / 2
		each(func(s slipAt) cm.Point { return cm.Point{X: s.At.X, Y: middle - s.h/2} })
	case SpaceAcross, SpaceDown:
		spaceOut(all, way == SpaceAcross, places)
	default:
		return nil, cm.Refusef("Slips are put in line at an edge or in the middle, or spaced out.")
	}
	return places, nil
}

// spaceOut leaves the same room between each slip and the next. The outer ones
// stay, unless there is no room between them: then the rest go on from the first.
func spaceOut(all []slipAt, across bool, places map[cm.ID]cm.Point) {
	const least = 12
	begin, long := func(s slipAt) float64 { return s.At.Y }, func(s slipAt) float64 { return s.h }
	if across {
		begin, long = slipAt.left, func(s slipAt) float64 { return s.w }
	}
	all = slices.Clone(all)
	slices.SortStableFunc(all, func(a, b slipAt) int {
		return cmp.Or(cmp.Compare(begin(a)+long(a)/2, begin(b)+long(b)/2), cmp.Compare(a.ID, b.ID))
	})
	sum := 0.0
	for _, s := range all {
		sum += long(s)
	}
	last := all[len(all)-1]
	gap := max(least, (begin(last)+long(last)-begin(all[0])-sum)/float64(len(all)-1))
	at := begin(all[0])
	for _, s := range all {
		if across {
			places[s.ID] = cm.Point{X: at + s.w/2, Y: s.At.Y}
		} else {
			places[s.ID] = cm.Point{X: s.At.X, Y: at}
		}
		at += long(s) + gap
	}
}

// widen sets labels so that all slips are as wide as the widest.
func (op *LineUp) widen(d *editing, all []slipAt) error {
	wide := most(all, func(s slipAt) float64 { return s.w })
	for _, s := range all {
		c := *s.Concept
		// What surrounds the words depends on the outline: measured, not known.
		c.Width = min(max(wide, cm.MinWidth), cm.MaxWidth)
		w, _ := d.placer.Size(d.Map, &c)
		c.Width = min(max(c.Width-(w-wide), cm.MinWidth), cm.MaxWidth)
		d.Put(&c)
	}
	return nil
}

// Stretch brings everything below a concept closer to it or further away, by a
// factor; what would then overlap is kept apart.
type Stretch struct {
	Concept cm.ID   `json:"concept"`
	By      float64 `json:"by"`
}

func (op *Stretch) apply(d *editing) error {
	top, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if !(op.By >= 0.1 && op.By <= 10) {
		return cm.Refusef("A branch is brought closer or further apart by a tenth to ten times.")
	}
	places := map[cm.ID]cm.Point{}
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		if c := d.Map.Concepts[id]; id != top.ID && c.Hold != cm.HoldPin && d.Under(id, top.ID) {
			places[id] = cm.Point{X: top.At.X + (c.At.X-top.At.X)*op.By, Y: top.At.Y + (c.At.Y-top.At.Y)*op.By}
		}
	}
	if len(places) == 0 {
		return cm.Refusef("Nothing is below this concept.")
	}
	if err := d.move(places, true); err != nil {
		return err
	}
	return d.clear([]cm.ID{top.ID})
}

// MakeRoom pushes aside what stands on, or too near to, some concepts.
type MakeRoom struct {
	Concepts []cm.ID `json:"concepts"`
}

func (op *MakeRoom) apply(d *editing) error {
	for _, id := range op.Concepts {
		if _, err := d.Concept(id); err != nil {
			return err
		}
	}
	return d.clear(op.Concepts)
}

func (d *editing) clear(stay []cm.ID) error {
	if d.placer == nil {
		return nil
	}
	return d.move(d.placer.Clear(d.Map, stay), false)
}

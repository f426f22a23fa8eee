package edit

import (
	"cmp"
	cm "mevrin/core/conceptmap"
	"slices"
)

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

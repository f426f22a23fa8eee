package layout

import (
	"math"

	"mevrin/core/geometry"
)

// Side says where a new concept is wished that is to be joined with one that stands.
type Side string

// The sides: as the next child of the concept, or plainly to one of its four sides.
const (
	AsChild Side = "child"
	ToRight Side = "right"
	Below   Side = "below"
	ToLeft  Side = "left"
	Above   Side = "above"
)

// Sides lists all of them.
var Sides = []Side{AsChild, ToRight, Below, ToLeft, Above}

// Standing is what a new concept has to keep clear of: the slips other than the one that
// it is joined with, and the room of phrases.
type Standing struct{ Slips, Phrases []geometry.Rect }

const (
	awaySideways = 110.0 // from the concept to one at its side: room for a phrase
	awayBelow    = 92.0
	awaySibling  = 94.0 // from one child to the next
	farthestWay  = 900.0
)

// Near gives the free place, as the middle of the upper edge of a slip of the size given,
// for a concept that is to be joined with the one whose slip is from; children are the
// slips of those that hang from it already. Best is a place near the wished one that is
// free and to which a straight line runs through nothing, with room for a phrase in its
// middle; where there is none, one that comes near to that.
func Near(s Standing, from geometry.Rect, children []geometry.Rect, side Side, size Size) geometry.Point {
	mid := from.Middle()
	wish := geometry.Point{X: mid.X, Y: from.Y1 + awayBelow}
	// Outwards, and aside along the row: how far a step goes, and what it costs.
	out, aside := geometry.Point{Y: 64}, geometry.Point{X: 24}
	outCost, asideCost := 110.0, 24.0
	switch side {
	case AsChild:
		last := geometry.Rect{X1: math.Inf(-1)}
		for _, c := range children {
			if c.Y0 > mid.Y && c.X1 > last.X1 {
				last = c
			}
		}
		if !math.IsInf(last.X1, -1) {
			wish = geometry.Point{X: last.X1 + awaySibling, Y: last.Y0}
		}
	case Above:
		wish.Y, out.Y = from.Y0-awayBelow-size.H, -out.Y
	case ToLeft, ToRight:
		way := 1.0
		if side == ToLeft {
			way = -1
		}
		wish = geometry.Point{X: mid.X + way*((from.X1-from.X0)/2+awaySideways+size.W/2), Y: mid.Y - size.H/2}
		out, aside = geometry.Point{X: way * 60}, geometry.Point{Y: 26}
	}
	s = s.within(geometry.Span(mid, wish).Grown(farthestWay + size.W + size.H + 200))
	best, least := wish, math.Inf(1)
	for o := range 12 {
		for a := 0; float64(a)*asideCost < farthestWay; a++ {
			for _, way := range [2]float64{1, -1} {
				cost := float64(o)*outCost + float64(a)*asideCost
				if way < 0 {
					cost *= 1.1 // as one reads: rather to the right, rather down
				}
				if cost >= least || a == 0 && way < 0 {
					continue
				}
				at := geometry.Point{X: wish.X + float64(o)*out.X + way*float64(a)*aside.X, Y: wish.Y + float64(o)*out.Y + way*float64(a)*aside.Y}
				box := slipRect(at, size, Gap)
				if meetsAny(s.Slips, box) || box.Meets(from) {
					continue
				}
				if s.cut(mid, box.Middle()) {
					cost += 900
				}
				if meetsAny(s.Phrases, slipRect(at, size, Gap/3)) {
					cost += 300
				}
				if cost < least {
					best, least = at, cost
				}
			}
		}
	}
	return best
}

// farForPhrase is how far off, in pixels, a concept may be put for the room of its phrase
// on a map that keeps itself in order.
const farForPhrase = 160

// NearInOrder does as Near on a map that keeps itself in order: that makes room for the
// phrase anyway, so that a nearer place is rather taken than one far off.
func NearInOrder(s Standing, from geometry.Rect, children []geometry.Rect, side Side, size Size) geometry.Point {
	far, nearer := Near(s, from, children, side, size), Near(Standing{Slips: s.Slips}, from, children, side, size)
	if geometry.Distance(nearer, far) > farForPhrase {
		return nearer
	}
	return far
}

// within gives what meets a part of the paper: on a large map little of it does.
func (s Standing) within(part geometry.Rect) (near Standing) {
	for _, all := range [2]struct {
		from []geometry.Rect
		to   *[]geometry.Rect
	}{{s.Slips, &near.Slips}, {s.Phrases, &near.Phrases}} {
		for _, r := range all.from {
			if r.Meets(part) {
				*all.to = append(*all.to, r)
			}
		}
	}
	return near
}

func meetsAny(all []geometry.Rect, box geometry.Rect) bool {
	for _, r := range all {
		if r.Meets(box) {
			return true
		}
	}
	return false
}

// cut tells whether a straight line runs through something, or its phrase would stand on
// something: the middle third needs more room than the line does.
func (s Standing) cut(a, b geometry.Point) bool {
	const line, phrase = 5, 24
	third := func(t float64) geometry.Point {
		return geometry.Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t}
	}
	for _, all := range [2][]geometry.Rect{s.Slips, s.Phrases} {
		for _, r := range all {
			if r.Grown(line).Cut(a, b) || r.Grown(phrase).Cut(third(1.0/3), third(2.0/3)) {
				return true
			}
		}
	}
	return false
}

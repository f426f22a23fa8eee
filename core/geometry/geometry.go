// Package geometry has the shapes by which places on the paper are told. Lengths are
// pixels at scale 1, x to the right, y down.
package geometry

import (
	"math"
	"slices"
)

// Point is a place.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Size is the extent of a box.
type Size struct{ W, H float64 }

// Rect is a box by its edges.
type Rect struct{ X0, Y0, X1, Y1 float64 }

// At gives the box of a size around a centre.
func At(p Point, s Size) Rect { return Rect{p.X - s.W/2, p.Y - s.H/2, p.X + s.W/2, p.Y + s.H/2} }

// Grown gives the box with a margin on all sides.
func (r Rect) Grown(by float64) Rect { return Rect{r.X0 - by, r.Y0 - by, r.X1 + by, r.Y1 + by} }

// Meets tells whether two boxes share more than an edge.
func (r Rect) Meets(o Rect) bool { return r.X0 < o.X1 && o.X0 < r.X1 && r.Y0 < o.Y1 && o.Y0 < r.Y1 }

// Everywhere is the box that all others meet.
var Everywhere = Rect{X0: math.Inf(-1), Y0: math.Inf(-1), X1: math.Inf(1), Y1: math.Inf(1)}

// Around gives the box around all; of none, one that is inside out: its right edge is left of
// its left one.
func Around(all []Rect) Rect {
	out := Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	for _, r := range all {
		out = Rect{X0: min(out.X0, r.X0), Y0: min(out.Y0, r.Y0), X1: max(out.X1, r.X1), Y1: max(out.Y1, r.Y1)}
	}
	return out
}

// Contains tells whether all of another box lies inside, or on an edge.
func (r Rect) Contains(o Rect) bool {
	return r.X0 <= o.X0 && r.Y0 <= o.Y0 && r.X1 >= o.X1 && r.Y1 >= o.Y1
}

// Holds tells whether a point lies inside, not on an edge.
func (r Rect) Holds(p Point) bool { return p.X > r.X0 && p.X < r.X1 && p.Y > r.Y0 && p.Y < r.Y1 }

// Span gives the box around a straight line, with an extent both ways.
func Span(a, b Point) Rect {
	return Rect{min(a.X, b.X), min(a.Y, b.Y), max(a.X, b.X) + 0.01, max(a.Y, b.Y) + 0.01}
}

// Middle gives the centre of the box.
func (r Rect) Middle() Point { return Point{(r.X0 + r.X1) / 2, (r.Y0 + r.Y1) / 2} }

// Cut tells whether the straight line between two points comes inside, after
// Liang and Barsky, A new concept and method for line clipping, 1984.
func (r Rect) Cut(a, b Point) bool {
	low, high := r.Through(a, b)
	return high-low > 1e-9
}

// Through gives the part of the line, between 0 and 1, that runs inside; low is
// above high where none does.
func (r Rect) Through(a, b Point) (low, high float64) {
	low, high = 0, 1
	clip := func(at, by, from, to float64) {
		if math.Abs(by) < 1e-12 {
			if at <= from || at >= to {
				low, high = 1, 0
			}
			return
		}
		t0, t1 := (from-at)/by, (to-at)/by
		if t0 > t1 {
			t0, t1 = t1, t0
		}
		low, high = max(low, t0), min(high, t1)
	}
	clip(a.X, b.X-a.X, r.X0, r.X1)
	clip(a.Y, b.Y-a.Y, r.Y0, r.Y1)
	return low, high
}

// Box is a box by its upper left corner and its extent, as drawings write it.
type Box struct{ X, Y, W, H float64 }

// Middle gives the centre of the box.
func (b Box) Middle() Point { return Point{b.X + b.W/2, b.Y + b.H/2} }

// Grown gives the box with a margin around it.
func (b Box) Grown(x, y float64) Box { return Box{b.X - x, b.Y - y, b.W + 2*x, b.H + 2*y} }

// Meets tells whether two boxes overlap.
func (b Box) Meets(o Box) bool {
	return b.X < o.X+o.W && o.X < b.X+b.W && b.Y < o.Y+o.H && o.Y < b.Y+b.H
}

// Holds tells whether a point lies in the box.
func (r Box) Holds(p Point) bool {
	return p.X >= r.X && p.X <= r.X+r.W && p.Y >= r.Y && p.Y <= r.Y+r.H
}

// Rect gives the box by its edges.
func (b Box) Rect() Rect { return Rect{b.X, b.Y, b.X + b.W, b.Y + b.H} }

// Distance gives how far two points lie from each other.
func Distance(a, b Point) float64 { dx, dy := a.X-b.X, a.Y-b.Y; return math.Sqrt(dx*dx + dy*dy) }

// Median gives the upper middle one of some values, of which there must be at least one.
func Median(values []float64) float64 {
	sorted := slices.Sorted(slices.Values(values))
	return sorted[len(sorted)/2]
}

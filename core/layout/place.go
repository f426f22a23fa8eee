// Package layout finds places on the paper. It works on rectangles: how large
// words are is told to it by a Measurer, since the core draws nothing.
package layout

import (
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/work"
)

// Size is the extent of a slip in pixels.
type Size = geometry.Size

// Measurer tells how large the slip of a concept is on a map, and how much room
// the words of a link need.
type Measurer interface {
	Slip(m *cm.Map, c *cm.Concept) Size
	Phrase(m *cm.Map, l *cm.Link) Size
}

// Gap is the room that is kept free around a newly placed slip, in pixels.
const Gap = 18

// Placer finds free places for single slips, and puts maps in order. It implements
// conceptmap.Placer.
type Placer struct {
	Measurer Measurer
	// Stop lets putting in order be broken off; nil where it never is.
	Stop *work.Limit
}

// Size gives the extent of a concept's slip.
func (r Placer) Size(m *cm.Map, c *cm.Concept) (w, h float64) {
	size := r.Measurer.Slip(m, c)
	return size.W, size.H
}

// Free gives the place nearest to the concept's own at which its slip, with
// Gap around it, meets no other slip. Places beside the wished one are tried
// before places below, and those before places above, at growing distances;
// where nothing is free within 4,000 px it goes below everything.
func (r Placer) Free(m *cm.Map, c *cm.Concept) cm.Point {
	own := r.Measurer.Slip(m, c)
	taken := make([]geometry.Rect, 0, len(m.Concepts))
	lowest := c.At.Y
	for id, other := range m.Concepts {
		if id == c.ID {
			continue
		}
		size := r.Measurer.Slip(m, other)
		box := slipRect(other.At, size, 0)
		taken = append(taken, box)
		lowest = math.Max(lowest, box.Y1)
	}
	free := func(at cm.Point) bool {
		box := slipRect(at, own, Gap)
		for _, t := range taken {
			if box.Meets(t) {
				return false
			}
		}
		return true
	}
	if free(c.At) {
		return c.At
	}
	const step, farthest = 20, 4000
	for d := float64(step); d <= farthest; d += step {
		best, bestCost := cm.Point{}, math.Inf(1)
		// The square ring at distance d; cost prefers staying in the row, then
		// going down.
		for o := -d; o <= d; o += step {
			for _, p := range [4]cm.Point{{X: d, Y: o}, {X: -d, Y: o}, {X: o, Y: d}, {X: o, Y: -d}} {
				cost := math.Abs(p.X) + 1.5*math.Abs(p.Y)
				if p.Y < 0 {
					cost += 60
				}
				if p.X < 0 {
					cost += 10
				}
				at := cm.Point{X: c.At.X + p.X, Y: c.At.Y + p.Y}
				if cost < bestCost && free(at) {
					best, bestCost = at, cost
				}
			}
		}
		if !math.IsInf(bestCost, 1) {
			return best
		}
	}
	return cm.Point{X: c.At.X, Y: lowest + 3*Gap}
}

// FreeTogether gives how far new concepts are to be moved, all alike, so that the box
// around them meets no slip of the map, and what joins them covers none: to the right or
// down, whichever is shorter.
func (r Placer) FreeTogether(m *cm.Map, fresh []*cm.Concept) cm.Point {
	around := geometry.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	for _, c := range fresh {
		box := slipRect(c.At, r.Measurer.Slip(m, c), Gap)
		around = geometry.Rect{X0: min(around.X0, box.X0), Y0: min(around.Y0, box.Y0), X1: max(around.X1, box.X1), Y1: max(around.Y1, box.Y1)}
	}
	taken := make([]geometry.Rect, 0, len(m.Concepts))
	for _, c := range m.Concepts {
		taken = append(taken, slipRect(c.At, r.Measurer.Slip(m, c), 0))
	}
	// Past each slip that is met, until none is: ever further, so that it ends.
	slide := func(at geometry.Rect, past func(at, slip geometry.Rect) geometry.Rect) geometry.Rect {
		for {
			i := slices.IndexFunc(taken, at.Meets)
			if i < 0 {
				return at
			}
			at = past(at, taken[i])
		}
	}
	right := slide(around, func(at, slip geometry.Rect) geometry.Rect {
		return geometry.Rect{X0: slip.X1, Y0: at.Y0, X1: slip.X1 + at.X1 - at.X0, Y1: at.Y1}
	})
	down := slide(around, func(at, slip geometry.Rect) geometry.Rect {
		return geometry.Rect{X0: at.X0, Y0: slip.Y1, X1: at.X1, Y1: slip.Y1 + at.Y1 - at.Y0}
	})
	if right.X0-around.X0 <= down.Y0-around.Y0 {
		return cm.Point{X: right.X0 - around.X0}
	}
	return cm.Point{Y: down.Y0 - around.Y0}
}

func slipRect(at cm.Point, s Size, around float64) geometry.Rect {
	return geometry.Rect{X0: at.X - s.W/2 - around, Y0: at.Y - around, X1: at.X + s.W/2 + around, Y1: at.Y + s.H + around}
}

// Package layout finds places on the paper. It works on rectangles: how large
// words are is told to it by a Measurer, since the core draws nothing.
package layout

import (
	"math"

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

// together is how far, right and down, what is placed as a whole is moved on, in
// pixels, and how often before it goes to the right of everything.
const (
	togetherRight, togetherDown = 16, 24
	togetherTries               = 80
	// togetherWork bounds the pairs of slips that are looked at.
	togetherWork = 20_000_000
)

// FreeTogether gives how far new concepts are to be moved, all alike, so that the slip of
// none covers one of the map's: by steps right and down, or else to the right of
// everything.
func (r Placer) FreeTogether(m *cm.Map, fresh []*cm.Concept) cm.Point {
	var taken, own []geometry.Rect
	right, left := math.Inf(-1), math.Inf(1)
	for _, c := range m.Concepts {
		box := slipRect(c.At, r.Measurer.Slip(m, c), Gap/3)
		taken, right = append(taken, box), max(right, box.X1)
	}
	for _, c := range fresh {
		box := slipRect(c.At, r.Measurer.Slip(m, c), 0)
		own, left = append(own, box), min(left, box.X0)
	}
	covers := func(by cm.Point) bool {
		for _, box := range own {
			box = geometry.Rect{X0: box.X0 + by.X, Y0: box.Y0 + by.Y, X1: box.X1 + by.X, Y1: box.Y1 + by.Y}
			for _, t := range taken {
				if box.Meets(t) {
					return true
				}
			}
		}
		return false
	}
	tries := min(togetherTries, togetherWork/max(1, len(own)*len(taken)))
	for i := range tries {
		if by := (cm.Point{X: togetherRight * float64(i), Y: togetherDown * float64(i)}); !covers(by) {
			return by
		}
	}
	return cm.Point{X: max(0, right+Gap-left)}
}

func slipRect(at cm.Point, s Size, around float64) geometry.Rect {
	return geometry.Rect{X0: at.X - s.W/2 - around, Y0: at.Y - around, X1: at.X + s.W/2 + around, Y1: at.Y + s.H + around}
}

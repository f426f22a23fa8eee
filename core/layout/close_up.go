package layout

import (
	"slices"

	"mevrin/core/geometry"
)

// Closing closes up what lies empty between boxes: along each axis, every band in which no box lies
// is narrowed, and what lies beyond it follows. Places keep their order to the left and right and
// above and below each other; boxes keep their sizes, and those that did not meet do not meet.
type Closing struct{ x, y []shift }

// shift is by how much everything moves that lies from a place on.
type shift struct{ from, by float64 }

// CloseUp works out how to close up what lies between some boxes, so that at most a gap, in pixels,
// is left of each empty band.
func CloseUp(boxes []geometry.Box, gap float64) Closing {
	along := func(edges func(geometry.Box) (from, to float64)) (shifts []shift) {
		sorted := slices.Clone(boxes)
		slices.SortFunc(sorted, func(a, b geometry.Box) int {
			a0, _ := edges(a)
			b0, _ := edges(b)
			if a0 < b0 {
				return -1
			}
			return 1
		})
		by := 0.0
		for i, box := range sorted {
			from, to := edges(box)
			if i == 0 {
				shifts = append(shifts, shift{from, 0}, shift{to, 0})
				continue
			}
			if last := &shifts[len(shifts)-1]; from-last.from > gap {
				by += from - last.from - gap
				shifts = append(shifts, shift{from, -by}, shift{to, -by})
			} else {
				last.from = max(last.from, to)
			}
		}
		return shifts
	}
	return Closing{
		along(func(b geometry.Box) (float64, float64) { return b.X, b.X + b.W }),
		along(func(b geometry.Box) (float64, float64) { return b.Y, b.Y + b.H }),
	}
}

// At gives where a place comes to lie.
func (c Closing) At(p geometry.Point) geometry.Point {
	return geometry.Point{X: moved(c.x, p.X), Y: moved(c.y, p.Y)}
}

// moved moves a place along one axis; within a band that is narrowed it keeps its share of the way.
func moved(shifts []shift, at float64) float64 {
	for i, s := range shifts {
		switch {
		case at > s.from:
		case i == 0 || at == s.from:
			return at + s.by
		default:
			before := shifts[i-1]
			share := (at - before.from) / (s.from - before.from)
			return at + before.by + share*(s.by-before.by)
		}
	}
	if len(shifts) == 0 {
		return at
	}
	return at + shifts[len(shifts)-1].by
}

// Package route leads lines around boxes and finds room for the words on them.
// Everything here is a pure function; the same input gives the same lines.
//
// Lengths are pixels at scale 1, y down. Boxes are known by their centres.
package route

import (
	"math"

	"mevrin/core/geometry"
	"mevrin/core/work"
)

// The shapes of package geometry.
type (
	Point = geometry.Point
	Size  = geometry.Size
	Rect  = geometry.Rect
)

// Cross tells whether two straight lines cross, each inside the other.
func Cross(a, b, c, d Point) bool {
	turn := func(p, q, r Point) float64 { return (q.X-p.X)*(r.Y-p.Y) - (q.Y-p.Y)*(r.X-p.X) }
	return turn(a, b, c)*turn(a, b, d) < 0 && turn(c, d, a)*turn(c, d, b) < 0
}

const cell = 160 // of an index, in pixels

// Index finds boxes by where they stand.
type Index struct {
	cells map[[2]int32][]int32
	boxes []Rect
	seen  []uint32 // when a box was last looked at
	now   uint32
	stop  *work.Limit
}

// NewIndex gives an index of boxes, known by their places in the list.
func NewIndex(boxes []Rect) *Index {
	x := &Index{cells: make(map[[2]int32][]int32, len(boxes))}
	for _, r := range boxes {
		x.Add(r)
	}
	return x
}

// Under lets work with the index be broken off.
func (x *Index) Under(stop *work.Limit) *Index {
	x.stop = stop
	return x
}

// Add puts in one more box and gives its number.
func (x *Index) Add(r Rect) int {
	id := int32(len(x.boxes))
	x.boxes, x.seen = append(x.boxes, r), append(x.seen, 0)
	x.each(r, func(key [2]int32) bool { x.cells[key] = append(x.cells[key], id); return true })
	return int(id)
}

func (x *Index) each(r Rect, do func([2]int32) bool) {
	at := func(v float64) int32 { return int32(math.Floor(v / cell)) }
	for i := at(r.X0); i <= at(r.X1); i++ {
		for j := at(r.Y0); j <= at(r.Y1); j++ {
			x.stop.Tick()
			if !do([2]int32{i, j}) {
				return
			}
		}
	}
}

// Near calls do for each box that may meet r, until it says no.
func (x *Index) Near(r Rect, do func(id int, box Rect) bool) {
	x.now++
	x.each(r, func(key [2]int32) bool {
		for _, id := range x.cells[key] {
			if x.seen[id] == x.now {
				continue
			}
			x.seen[id] = x.now
			if x.boxes[id].Meets(r) && !do(int(id), x.boxes[id]) {
				return false
			}
		}
		return true
	})
}

// AddLine puts in a straight line and gives its number. It is found by Along where
// the two cross: it lies in the places that it passes alone, so that a long one
// takes little room.
func (x *Index) AddLine(a, b Point) int {
	id := int32(len(x.boxes))
	x.boxes, x.seen = append(x.boxes, geometry.Span(a, b)), append(x.seen, 0)
	n := int(geometry.Distance(a, b)/cell) + 1
	from := a
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		to := Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t}
		x.each(geometry.Span(from, to), func(key [2]int32) bool {
			if all := x.cells[key]; len(all) == 0 || all[len(all)-1] != id {
				x.cells[key] = append(all, id)
			}
			return true
		})
		from = to
	}
	return int(id)
}

// Along calls do for each box, grown by a margin, that the line between two
// points cuts, until it says no.
func (x *Index) Along(a, b Point, margin float64, do func(id int, box Rect) bool) {
	x.now++
	// The line is followed in pieces, so that a long one does not look at all the
	// boxes between its two ends.
	n := int(geometry.Distance(a, b)/cell) + 1
	from := a
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		to := Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t}
		span := Rect{X0: min(from.X, to.X), Y0: min(from.Y, to.Y), X1: max(from.X, to.X), Y1: max(from.Y, to.Y)}.Grown(margin)
		more := true
		x.each(span, func(key [2]int32) bool {
			for _, id := range x.cells[key] {
				if x.seen[id] == x.now {
					continue
				}
				if box := x.boxes[id].Grown(margin); box.Cut(a, b) {
					x.seen[id] = x.now
					if more = do(int(id), x.boxes[id]); !more {
						return false
					}
				}
			}
			return true
		})
		if !more {
			return
		}
		from = to
	}
}

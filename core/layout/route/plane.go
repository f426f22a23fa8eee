// Package route leads lines around boxes and finds room for the words on them.
// Everything here is a pure function; the same input gives the same lines.
//
// Lengths are pixels at scale 1, y down. Boxes are known by their centres.
package route

import (
	"math"

	"mevrin/core/work"
)

// Point is a place.
type Point struct{ X, Y float64 }

// Size is the extent of a box.
type Size struct{ W, H float64 }

// Rect is a box where it stands.
type Rect struct{ X0, Y0, X1, Y1 float64 }

// At gives the box of a size around a centre.
func At(p Point, s Size) Rect { return Rect{p.X - s.W/2, p.Y - s.H/2, p.X + s.W/2, p.Y + s.H/2} }

// Grown gives the box with a margin on all sides.
func (r Rect) Grown(by float64) Rect { return Rect{r.X0 - by, r.Y0 - by, r.X1 + by, r.Y1 + by} }

// Meets tells whether two boxes share more than an edge.
func (r Rect) Meets(o Rect) bool { return r.X0 < o.X1 && o.X0 < r.X1 && r.Y0 < o.Y1 && o.Y0 < r.Y1 }

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

// Distance gives how far two points lie from each other.
func Distance(a, b Point) float64 { dx, dy := a.X-b.X, a.Y-b.Y; return math.Sqrt(dx*dx + dy*dy) }

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
	x.boxes, x.seen = append(x.boxes, Span(a, b)), append(x.seen, 0)
	n := int(Distance(a, b)/cell) + 1
	from := a
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		to := Point{a.X + (b.X-a.X)*t, a.Y + (b.Y-a.Y)*t}
		x.each(Span(from, to), func(key [2]int32) bool {
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
	n := int(Distance(a, b)/cell) + 1
	from := a
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		to := Point{a.X + (b.X-a.X)*t, a.Y + (b.Y-a.Y)*t}
		span := Rect{min(from.X, to.X), min(from.Y, to.Y), max(from.X, to.X), max(from.Y, to.Y)}.Grown(margin)
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

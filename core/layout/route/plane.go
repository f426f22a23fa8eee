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
	// near are the cells of the part of the paper where most stands, row by row; cells the others.
	near      [][]int32
	left, top int32 // of the first of them
	columns   int32
	rows      int32
	cells     map[[2]int32][]int32
	boxes     []Rect
	seen      []uint32 // when a box was last looked at
	now       uint32
	stop      *work.Limit
	way       *way // of the line that was led around what stands here last
}

// NewIndex gives an index of boxes, known by their places in the list.
func NewIndex(boxes []Rect) *Index {
	x := NewIndexWithin(geometry.Around(boxes))
	x.boxes, x.seen = make([]Rect, 0, len(boxes)), make([]uint32, 0, len(boxes))
	for _, r := range boxes {
		x.Add(r)
	}
	return x
}

// mostCells bounds the cells that are kept for a part of the paper, whether anything stands there
// or not.
const mostCells = 1 << 14

// NewIndexWithin gives an empty index, which is quick for what stands in a part of the paper.
func NewIndexWithin(room Rect) *Index {
	x := &Index{cells: map[[2]int32][]int32{}}
	if !(room.X0 <= room.X1 && room.Y0 <= room.Y1) {
		return x
	}
	x.left, x.top = cellAt(room.X0)-1, cellAt(room.Y0)-1
	columns, rows := int64(cellAt(room.X1))+2-int64(x.left), int64(cellAt(room.Y1))+2-int64(x.top)
	if columns <= mostCells && rows <= mostCells && columns*rows <= mostCells {
		x.columns, x.rows = int32(columns), int32(rows)
		x.near = make([][]int32, columns*rows)
	}
	return x
}

func cellAt(v float64) int32 {
	const far = 1 << 30
	return int32(max(-far, min(far, math.Floor(v/cell))))
}

// in gives what stands in a cell.
func (x *Index) in(column, row int32) []int32 {
	if i, j := column-x.left, row-x.top; i >= 0 && j >= 0 && i < x.columns && j < x.rows {
		return x.near[j*x.columns+i]
	}
	if len(x.cells) == 0 {
		return nil
	}
	return x.cells[[2]int32{column, row}]
}

func (x *Index) put(column, row, id int32) {
	if i, j := column-x.left, row-x.top; i >= 0 && j >= 0 && i < x.columns && j < x.rows {
		x.near[j*x.columns+i] = append(x.near[j*x.columns+i], id)
		return
	}
	key := [2]int32{column, row}
	x.cells[key] = append(x.cells[key], id)
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
	x.each(r, func(i, j int32) bool { x.put(i, j, id); return true })
	return int(id)
}

// each calls do for each cell that a box touches, until it says no.
func (x *Index) each(r Rect, do func(column, row int32) bool) {
	right, top, bottom := cellAt(r.X1), cellAt(r.Y0), cellAt(r.Y1)
	for i := cellAt(r.X0); i <= right; i++ {
		for j := top; j <= bottom; j++ {
			x.stop.Tick()
			if !do(i, j) {
				return
			}
		}
	}
}

// Near calls do for each box that may meet r, until it says no.
func (x *Index) Near(r Rect, do func(id int, box Rect) bool) {
	x.now++
	x.each(r, func(i, j int32) bool {
		for _, id := range x.in(i, j) {
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
		x.each(geometry.Span(from, to), func(i, j int32) bool {
			if all := x.in(i, j); len(all) == 0 || all[len(all)-1] != id {
				x.put(i, j, id)
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
		x.each(span, func(i, j int32) bool {
			for _, id := range x.in(i, j) {
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

package layout

import (
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
)

// What the plain patterns of a beginning leave free, in pixels.
const (
	rowWide    = 860 // of Rows
	columnStep = 120 // between a concept and those to the right of it: room for a phrase
	leafStep   = 26  // between leaves one below the other
	maxFanStep = 180 // more than columnStep, where many fan out
)

// Rows places slips in lines from left to right, as words on a page, around
// the origin. It gives top centres in the order of the sizes.
func Rows(sizes []Size) []cm.Point {
	places := make([]cm.Point, len(sizes))
	x, y, tall, first := 0.0, 0.0, 0.0, 0
	centre := func(end int, wide float64) {
		for i := first; i < end; i++ {
			places[i].X -= wide / 2
		}
		first = end
	}
	for i, s := range sizes {
		if x > 0 && x+s.W > rowWide {
			centre(i, x-2*Gap)
			x, y, tall = 0, y+tall+2*Gap, 0
		}
		places[i] = cm.Point{X: x + s.W/2, Y: y}
		x += s.W + 2*Gap
		tall = math.Max(tall, s.H)
	}
	centre(len(sizes), x-2*Gap)
	return places
}

// Across places a forest with its roots at the left, each level to the right
// of the one before, leaves one below the other and parents beside the middle
// of their children. It gives top centres. Parents holds each concept's parent,
// or "" for a root; children and roots stand in the order in which concepts are
// listed.
func Across(order []cm.ID, parents map[cm.ID]cm.ID, size func(cm.ID) Size) map[cm.ID]cm.Point {
	f := forest{children: map[cm.ID][]cm.ID{}, size: size, depth: map[cm.ID]int{}, middle: map[cm.ID]float64{}}
	for _, id := range order {
		f.children[parents[id]] = append(f.children[parents[id]], id)
	}
	all := f.order()
	f.levels(all)
	places := make(map[cm.ID]cm.Point, len(all))
	for _, id := range all {
		places[id] = cm.Point{X: f.left[f.depth[id]] + size(id).W/2, Y: f.middle[id] - size(id).H/2}
	}
	return places
}

type forest struct {
	children map[cm.ID][]cm.ID // roots below ""
	size     func(cm.ID) Size
	depth    map[cm.ID]int
	left     []float64 // the left edge of each level
	middle   map[cm.ID]float64
}

// order lists each tree from the top down, each concept before its children,
// and notes how deep they stand.
func (f *forest) order() []cm.ID {
	var all []cm.ID
	open := slices.Clone(f.children[""])
	slices.Reverse(open)
	for len(open) > 0 {
		id := open[len(open)-1]
		open = open[:len(open)-1]
		all = append(all, id)
		for _, child := range slices.Backward(f.children[id]) {
			f.depth[child] = f.depth[id] + 1
			open = append(open, child)
		}
	}
	return all
}

// levels finds the left edge of each level and the middle line of each slip.
func (f *forest) levels(all []cm.ID) {
	var widest []float64
	next := 0.0
	for _, id := range all {
		for len(widest) <= f.depth[id] {
			widest = append(widest, 0)
		}
		s := f.size(id)
		widest[f.depth[id]] = math.Max(widest[f.depth[id]], s.W)
		if len(f.children[id]) == 0 {
			f.middle[id] = next + s.H/2
			next += s.H + leafStep
		}
	}
	fan := make([]float64, len(widest)) // how far the children of one concept stand apart, at most
	for _, id := range slices.Backward(all) {
		if kids := f.children[id]; len(kids) > 0 {
			first, last := f.middle[kids[0]], f.middle[kids[len(kids)-1]]
			f.middle[id] = (first + last) / 2
			fan[f.depth[id]+1] = math.Max(fan[f.depth[id]+1], last-first)
		}
	}
	f.left = make([]float64, len(widest))
	for d := 1; d < len(f.left); d++ {
		f.left[d] = f.left[d-1] + widest[d-1] + columnStep + math.Min(maxFanStep, fan[d]/4)
	}
}

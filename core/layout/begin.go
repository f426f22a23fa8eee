package layout

import (
	"math"

	cm "mevrin/core/conceptmap"
)

// What the plain patterns of a beginning leave free, in pixels.
const (
	rowWide    = 860 // of Rows
	columnStep = 120 // between a concept and those to the right of it: room for a phrase
	leafStep   = 26  // between leaves one below the other
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
// of their children. It gives top centres. Parents must hold a concept's
// parent or "", and list no concept before its parent.
func Across(order []cm.ID, parents map[cm.ID]cm.ID, size func(cm.ID) Size) map[cm.ID]cm.Point {
	children := map[cm.ID][]cm.ID{}
	depth := map[cm.ID]int{}
	var widest []float64
	for _, id := range order {
		if p := parents[id]; p != "" {
			children[p] = append(children[p], id)
			depth[id] = depth[p] + 1
		}
		for len(widest) <= depth[id] {
			widest = append(widest, 0)
		}
		widest[depth[id]] = math.Max(widest[depth[id]], size(id).W)
	}
	column := make([]float64, len(widest)) // the left edge of each
	for d := 1; d < len(column); d++ {
		column[d] = column[d-1] + widest[d-1] + columnStep
	}
	middle := map[cm.ID]float64{}
	next := 0.0
	for _, id := range order {
		if len(children[id]) == 0 {
			middle[id] = next + size(id).H/2
			next += size(id).H + leafStep
		}
	}
	// Children stand behind their parent in the order, so that from its end
	// they are placed first.
	for i := len(order) - 1; i >= 0; i-- {
		if kids := children[order[i]]; len(kids) > 0 {
			middle[order[i]] = (middle[kids[0]] + middle[kids[len(kids)-1]]) / 2
		}
	}
	places := make(map[cm.ID]cm.Point, len(order))
	for _, id := range order {
		places[id] = cm.Point{X: column[depth[id]] + size(id).W/2, Y: middle[id] - size(id).H/2}
	}
	return places
}

package tidy

import (
	"cmp"
	"slices"

	"mevrin/core/layout/route"
)

// Shelves draws a graph as words on a page: its root above, all others below it in
// rows, in the order in which they hang, each with its phrase above it; as many in a
// row as make the page somewhat wider than high. Lines to lower rows run down the
// sides of the page, each in a lane of its own. It is for boxes that are large
// drawings themselves.
func Shelves(g Graph, s Spacing, _ bool) Drawing {
	return inParts(g, s, func(p part) placed {
		c := &shelf{tree: treeOf(&g, p), space: s, at: placed{boxes: map[int]Point{}, wish: map[int]Point{}, led: map[int]*route.Line{}}}
		c.gather()
		c.set()
		c.lanes()
		return c.at
	})
}

// ShelvesUp, ShelvesRight and ShelvesLeft draw Shelves that begin below, and in columns
// that begin at the left and at the right.
func ShelvesUp(g Graph, s Spacing, keep bool) Drawing { return mirrored(Shelves(g, s, keep), 1, -1) }

// ShelvesRight: see ShelvesUp.
func ShelvesRight(g Graph, s Spacing, keep bool) Drawing { return turned(Shelves, g, s, keep) }

// ShelvesLeft: see ShelvesUp.
func ShelvesLeft(g Graph, s Spacing, keep bool) Drawing {
	return mirrored(turned(Shelves, g, s, keep), -1, 1)
}

// shelf is a part being set in rows.
type shelf struct {
	*tree
	space Spacing
	at    placed
	row   map[int]int // in which each box stands
	top   []float64   // of the phrases of each row
	wide  float64
	runs  []*run
}

// run is a wire that joins the root with boxes of one or more rows.
type run struct {
	wire int
	kids []int
	last int             // the lowest row that it reaches
	left bool            // at which side of the page it runs down
	lane float64         // how far beside the page
	rise map[int]float64 // how far above the phrases of each row
}

// set finds the rows and the places in them.
func (c *shelf) set() {
	kids := c.reading()
	items := make([]Size, len(kids))
	for i, b := range kids {
		words := c.phrase(b)
		items[i] = Size{W: max(c.g.Boxes[b].W, words.W), H: words.H + c.space.Side + c.g.Boxes[b].H}
	}
	c.row = make(map[int]int, len(kids))
	x, lowest := 0.0, 0
	page := pageOf(items, c.g.Boxes[c.root].Size, c.space)
	for i, b := range kids {
		if x > 0 && x+items[i].W > page {
			x, lowest = 0, lowest+1
		}
		c.row[b] = lowest
		c.at.boxes[b] = Point{X: x + items[i].W/2}
		x += items[i].W
		c.wide = max(c.wide, x)
		x += c.space.Part / 2
	}
	c.at.boxes[c.root] = Point{X: c.wide / 2, Y: c.g.Boxes[c.root].H / 2}
	c.gatherRuns(kids)
	c.top = make([]float64, lowest+1)
	y := c.g.Boxes[c.root].H
	for r := range c.top {
		lanes := 0.0
		for _, run := range c.runs {
			lanes = max(lanes, run.rise[r])
		}
		c.top[r] = y + 2*c.space.Level + lanes
		y = c.top[r]
		for i, b := range kids {
			if c.row[b] == r {
				c.at.boxes[b] = Point{X: c.at.boxes[b].X, Y: c.top[r] + items[i].H - c.g.Boxes[b].H/2}
				y = max(y, c.top[r]+items[i].H)
			}
		}
	}
}

// gatherRuns finds the wires that join the root with what hangs from it alone, and
// gives those that reach a lower row a lane: the nearer to the page the higher they
// end, and within a row the further they reach in, so that none crosses another.
func (c *shelf) gatherRuns(kids []int) {
	of := map[int]*run{}
	for _, b := range kids {
		w := c.wire[b]
		if w < 0 || c.up[b] != c.root {
			continue
		}
		if of[w] == nil {
			of[w] = &run{wire: w}
			c.runs = append(c.runs, of[w])
		}
		of[w].kids = append(of[w].kids, b)
		of[w].last = max(of[w].last, c.row[b])
	}
	c.runs = slices.DeleteFunc(c.runs, func(r *run) bool { return len(c.g.Wires[r.wire].ends()) != len(r.kids)+1 })
	low := make([]*run, 0, len(c.runs))
	for _, r := range c.runs {
		if r.last > 0 {
			r.left = c.at.boxes[r.kids[len(r.kids)-1]].X < c.wide/2
			low = append(low, r)
		}
	}
	inwards := func(r *run) float64 {
		x := c.at.boxes[r.kids[len(r.kids)-1]].X
		return min(x, c.wide-x)
	}
	slices.SortStableFunc(low, func(a, b *run) int {
		if d := a.last - b.last; d != 0 {
			return d
		}
		return cmp.Compare(inwards(b), inwards(a))
	})
	gap := min(6, max(1.5, 200/float64(len(low)+1)))
	var used [2]float64
	risen := map[int]float64{}
	for _, r := range slices.Backward(low) {
		r.rise = map[int]float64{}
		for _, b := range r.kids {
			if row := c.row[b]; r.rise[row] == 0 {
				risen[row] += gap
				r.rise[row] = risen[row]
			}
		}
	}
	for _, r := range low {
		side := 0
		if r.left {
			side = 1
		}
		used[side] += gap
		r.lane = used[side]
	}
}

// lanes leads the runs.
func (c *shelf) lanes() {
	root := c.at.boxes[c.root]
	for _, r := range c.runs {
		first := c.row[r.kids[0]]
		n := 0
		for n < len(r.kids) && c.row[r.kids[n]] == first {
			n++
		}
		words := c.g.Wires[r.wire].Phrase
		line := &route.Line{Phrase: Point{X: (c.at.boxes[r.kids[0]].X + c.at.boxes[r.kids[n-1]].X) / 2, Y: c.top[first] + words.H/2}}
		edge := c.wide + c.space.Line + r.lane
		if r.left {
			edge = -c.space.Line - r.lane
		}
		// Down the side to a row, and in it above the phrases to a place.
		down := func(from Point, x float64, row int) []Point {
			y := c.top[row] - c.space.Line - r.rise[row]
			return []Point{from, {X: edge, Y: from.Y}, {X: edge, Y: y}, {X: x, Y: y}}
		}
		legs := map[int][]Point{}
		if first == 0 {
			legs[c.root] = []Point{{X: line.Phrase.X, Y: c.top[0] - c.space.Line}}
		} else {
			legs[c.root] = down(Point{X: root.X, Y: root.Y - r.lane/4}, line.Phrase.X, first)[1:]
		}
		for _, b := range r.kids {
			at := c.at.boxes[b]
			switch row := c.row[b]; {
			case row == first && at.X != line.Phrase.X:
				legs[b] = []Point{{X: at.X, Y: line.Phrase.Y}}
			case row != first:
				legs[b] = down(Point{X: line.Phrase.X, Y: c.top[first] - c.space.Line - r.rise[first]}, at.X, row)
				slices.Reverse(legs[b])
			}
		}
		for _, e := range c.g.Wires[r.wire].ends() {
			line.Legs = append(line.Legs, legs[e])
		}
		c.at.led[r.wire] = line
	}
}

// reading lists what hangs from the root, each box before what hangs from it and that
// before the next: as it is read.
func (t *tree) reading() []int {
	var all []int
	var down func(b int)
	down = func(b int) {
		for _, c := range t.kids[b] {
			all = append(all, c)
			down(c)
		}
	}
	down(t.root)
	return all
}

// pageOf gives the width of a page on which items fill rows so that it becomes
// somewhat wider than high. Widths are those of a ladder, so that a page does not
// break its rows anew with every item that is added.
func pageOf(items []Size, root Size, s Spacing) float64 {
	page := root.W
	for _, i := range items {
		page = max(page, i.W)
	}
	wide := 400.0
	for ; wide < page; wide *= 1.25 {
	}
	for range 80 {
		x, tall, all := 0.0, 0.0, root.H+2*s.Level
		for _, i := range items {
			if x > 0 && x+i.W > wide {
				x, all, tall = 0, all+tall+2*s.Level, 0
			}
			x += i.W + s.Part/2
			tall = max(tall, i.H)
		}
		if wide > 1.3*(all+tall) {
			break
		}
		wide *= 1.25
	}
	return wide
}

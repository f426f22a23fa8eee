package tidy

import (
	"math"

	"mevrin/core/layout/route"
)

// lister writes branches as indented lists: each box below the one before, those
// that hang from it further in, each line an elbow down from the edge of what it
// hangs from, with its phrase on the way to its box.
type lister struct {
	*tree
	space Spacing
	at    placed
}

func newLister(g *Graph, p part, s Spacing) *lister {
	t := treeOf(g, p)
	t.gather()
	return &lister{t, s, placed{boxes: map[int]Point{}, wish: map[int]Point{}, led: map[int]*route.Line{}}}
}

const indent = 18 // of the upright piece of an elbow from the edge of its box

// list is a branch that has been written down, with its upper left corner at the
// origin.
type list struct {
	boxes map[int]Point
	led   map[int]*route.Line
	wide  float64
	tall  float64
}

// write writes a branch down.
func (l *lister) write(b int) *list {
	out := &list{boxes: map[int]Point{}, led: map[int]*route.Line{}}
	size := l.g.Boxes[b].Size
	out.boxes[b] = Point{X: size.W / 2, Y: size.H / 2}
	out.wide, out.tall = size.W, size.H
	legs := map[int]map[int][]Point{}
	for _, c := range l.kids[b] {
		below := l.write(c)
		words := l.phrase(c)
		x := indent + words.W + 2*l.space.Line
		top := out.tall + l.space.Line
		middle := below.boxes[c].Y
		if over := words.H/2 - middle; over > 0 {
			top += over
		}
		for d, p := range below.boxes {
			out.boxes[d] = Point{X: p.X + x, Y: p.Y + top}
		}
		for w, line := range below.led {
			out.led[w] = shifted(line, Point{X: x, Y: top})
		}
		out.wide, out.tall = max(out.wide, x+below.wide), top+below.tall
		w := l.wire[c]
		if w < 0 {
			continue
		}
		y := top + middle
		line := out.led[w]
		if line == nil {
			line = &route.Line{Phrase: Point{X: indent + l.space.Line + words.W/2, Y: y}}
			out.led[w] = line
			legs[w] = map[int][]Point{b: {{X: indent, Y: size.H}, {X: indent, Y: y}}}
		} else { // one more to which the same phrase leads
			legs[w][c] = []Point{{X: line.Phrase.X, Y: y}}
		}
	}
	for w, of := range legs {
		for _, e := range l.g.Wires[w].ends() {
			out.led[w].Legs = append(out.led[w].Legs, of[e])
			if _, here := out.boxes[e]; !here {
				delete(out.led, w) // it leads elsewhere, too
				break
			}
		}
	}
	return out
}

func shifted(line *route.Line, by Point) *route.Line {
	next := &route.Line{Phrase: Point{X: line.Phrase.X + by.X, Y: line.Phrase.Y + by.Y}}
	for _, leg := range line.Legs {
		moved := make([]Point, len(leg))
		for i, p := range leg {
			moved[i] = Point{X: p.X + by.X, Y: p.Y + by.Y}
		}
		next.Legs = append(next.Legs, moved)
	}
	return next
}

// put puts a list on the drawing, upside down with flip.
func (l *lister) put(in *list, to Point, flip bool) {
	turn := func(p Point) Point {
		if flip {
			p.Y = in.tall - p.Y
		}
		return Point{X: p.X + to.X, Y: p.Y + to.Y}
	}
	for b, p := range in.boxes {
		l.at.boxes[b] = turn(p)
	}
	for w, line := range in.led {
		next := &route.Line{Phrase: turn(line.Phrase)}
		for _, leg := range line.Legs {
			moved := make([]Point, len(leg))
			for i, p := range leg {
				moved[i] = turn(p)
			}
			next.Legs = append(next.Legs, moved)
		}
		l.at.led[w] = next
	}
}

// under makes room for a phrase that stands above the first box of a list: the
// list is put so far to the right of x that the phrase does not reach further
// left, and takes the width given.
func (l *lister) under(b int, in *list, x float64) (at, wide float64) {
	words, head := l.phrase(b).W, in.boxes[b].X
	off := max(0, words/2-head)
	return x + off, max(in.wide, head+words/2)
}

// Columns draws a graph in rows and columns: its root above, each branch a list of
// its own below, as many beside each other as make the page about half as wide
// again as high.
func Columns(g Graph, s Spacing, _ bool) Drawing {
	return inParts(g, s, func(p part) placed {
		l := newLister(&g, p, s)
		kids := l.kids[l.root]
		lists := make([]*list, len(kids))
		area := 0.0
		for i, c := range kids {
			lists[i] = l.write(c)
			area += (lists[i].wide + s.Part) * (lists[i].tall + s.Part)
		}
		room := 0.0 // above each row, for the phrases that lead to it
		for _, c := range kids {
			room = max(room, l.phrase(c).H)
		}
		room += 2*s.Level + s.Side
		root := g.Boxes[l.root].Size
		page := math.Sqrt(area * 1.6)
		x, y, tall, widest, row := 0.0, root.H+room, 0.0, root.W, 0
		for i, in := range lists {
			_, wide := l.under(kids[i], in, 0)
			if x > 0 && x+wide > page {
				x, y, tall, row = 0, y+tall+room, 0, row+1
			}
			x, wide = l.under(kids[i], in, x)
			l.put(in, Point{X: x, Y: y}, false)
			l.head(kids[i], y, row)
			x += wide + s.Part
			widest, tall = max(widest, x-s.Part), max(tall, in.tall)
		}
		l.at.boxes[l.root] = Point{X: widest / 2, Y: root.H / 2}
		return l.at
	})
}

// head places the phrase that leads to a column. The line to a column of a lower
// row runs down the left side of the page, where nothing stands.
func (l *lister) head(b int, top float64, row int) {
	w := l.wire[b]
	if w < 0 || len(l.g.Wires[w].ends()) != 2 {
		return
	}
	words := l.phrase(b)
	at := Point{X: l.at.boxes[b].X, Y: top - l.space.Side - words.H/2}
	if row == 0 {
		l.at.wish[w] = at
		return
	}
	edge := -l.space.Part / 2
	above := l.g.Boxes[l.root].H + l.space.Level/2
	turn := at.Y - words.H/2 - l.space.Line
	line := &route.Line{Phrase: at}
	for _, e := range l.g.Wires[w].ends() {
		var leg []Point
		if e == l.root {
			leg = []Point{{X: edge, Y: above}, {X: edge, Y: turn}, {X: at.X, Y: turn}}
		}
		line.Legs = append(line.Legs, leg)
	}
	l.at.led[w] = line
}

// Spine draws a graph along a spine that begins at its root: each branch is a rib,
// in turn above and below, and what hangs from it is listed on it.
func Spine(g Graph, s Spacing, _ bool) Drawing {
	return inParts(g, s, func(p part) placed {
		l := newLister(&g, p, s)
		root := g.Boxes[l.root].Size
		l.at.boxes[l.root] = Point{X: -root.W / 2}
		next := [2]float64{s.Part, s.Part}
		kids := l.kids[l.root]
		for i := 0; i < len(kids); {
			// What one phrase leads to forms one rib beside the other, on one side.
			run := i + 1
			for run < len(kids) && l.fan(kids[run]) {
				run++
			}
			side := i % 2
			if next[1] < next[0]-1 && side == 0 || next[0] < next[1]-1 && side == 1 {
				side = 1 - side
			}
			for ; i < run; i++ {
				next[side] = l.rib(kids[i], next[side], side == 0)
			}
			other := 1 - side
			next[other] = max(next[other], next[side]-l.g.Boxes[kids[run-1]].W-s.Part)
		}
		return l.at
	})
}

// rib puts one branch on the spine, at x, and gives where the next may stand.
func (l *lister) rib(b int, x float64, above bool) float64 {
	in := l.write(b)
	words := l.phrase(b)
	gap := l.space.Level + words.H + l.space.Side // between the spine and the box
	x, wide := l.under(b, in, x)
	y := gap
	if above {
		y = -gap - in.tall
	}
	l.put(in, Point{X: x, Y: y}, above)
	w, head := l.wire[b], l.at.boxes[b]
	if w >= 0 && len(l.g.Wires[w].ends()) == 2 {
		at := Point{X: head.X, Y: (l.space.Level + words.H) / 2}
		if above {
			at.Y = -at.Y
		}
		line := &route.Line{Phrase: at}
		for _, e := range l.g.Wires[w].ends() {
			var leg []Point
			if e == l.root { // along the spine, then aside
				leg = []Point{{X: head.X}}
			}
			line.Legs = append(line.Legs, leg)
		}
		l.at.led[w] = line
	} else if w >= 0 {
		at := l.at.wish[w]
		if _, there := l.at.wish[w]; !there {
			at = Point{X: head.X, Y: math.Copysign((l.space.Level+words.H)/2, y)}
		}
		l.at.wish[w] = at
	}
	return x + wide + l.space.Part
}

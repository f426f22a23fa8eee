package tidy

import (
	"slices"

	"mevrin/core/layout/route"
)

// lister writes branches as indented lists: each box below the one before, those
// that hang from it further in, each line an elbow down from the edge of what it
// hangs from, with its phrase on the way to its box.
type lister struct {
	*tree
	space Spacing
	at    placed
	// upside tells of a box that its branch was written upside down; nil where none was.
	upside func(b int) bool
	// read tells where a branch of the root stood, in the order in which they are read.
	read func(b int) float64
	// inOrder tells that no siblings may change places, and many is how much is in each branch.
	inOrder bool
	many    map[int]int
	// inRanks leaves siblings in their order: where that in which they stood cannot be told.
	inRanks bool
	// anew leaves out of account how all was written.
	anew bool
}

func newLister(g *Graph, p part, s Spacing, keep bool) *lister {
	t := treeOf(g, p)
	t.gather()
	l := &lister{tree: t, space: s, inOrder: keep, many: map[int]int{}, at: placed{boxes: map[int]Point{}, wish: map[int]Point{}, led: map[int]*route.Line{}}}
	for _, b := range slices.Backward(t.order) {
		l.many[b]++
		if b != t.root {
			l.many[t.up[b]] += l.many[b]
		}
	}
	return l
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

// write writes a branch down in a shape.
func (l *lister) write(b int, s *shape) *list {
	out := &list{boxes: map[int]Point{}, led: map[int]*route.Line{}, wide: s.wide, tall: s.tall}
	size := l.g.Boxes[b].Size
	low := l.lowered(b, s) + size.H
	head := Point{X: size.W / 2, Y: low - size.H/2}
	out.boxes[b] = head
	legs := map[int]map[int][]Point{}
	// Lines down run beside each other, the longer ones further out, so that none crosses another.
	apart := min(5, (indent-4)/float64(max(1, len(l.kids[b])-1)))
	l.each(s, b, func(i int, x, y float64) {
		c := l.kids[b][i]
		out.add(l.write(c, s.kids[i]), Point{X: x, Y: y})
		w := l.wire[c]
		if w < 0 {
			return
		}
		if c == s.beside-1 {
			if len(l.g.Wires[w].ends()) == 2 {
				out.led[w] = &route.Line{Phrase: Point{X: (size.W + x) / 2, Y: head.Y}, Legs: make([][]Point, 2)}
			}
			return
		}
		words, middle := l.phrase(c), out.boxes[c].Y
		left, lane := x-words.W-2*l.space.Line, low+l.space.Line
		if line := out.led[w]; line != nil { // one more to which the same phrase leads
			legs[w][c] = []Point{{X: line.Phrase.X, Y: middle}}
			if x := line.Phrase.X; left > x+words.W { // from a further column
				legs[w][c] = []Point{{X: left, Y: middle}, {X: left, Y: lane}, {X: x, Y: lane}}
			}
			return
		}
		out.led[w] = &route.Line{Phrase: Point{X: x - l.space.Line - words.W/2, Y: middle}}
		way := []Point{{X: indent - apart*float64(i), Y: low}}
		if left > indent+1 { // in a further column
			way = []Point{{X: indent, Y: low}, {X: indent, Y: lane}, {X: left, Y: lane}, {X: left, Y: middle}}
		} else {
			way = append(way, Point{X: indent - apart*float64(i), Y: middle})
		}
		legs[w] = map[int][]Point{b: way}
	})
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

// add takes in what is written of a child.
func (out *list) add(in *list, at Point) {
	for b, p := range in.boxes {
		out.boxes[b] = Point{X: p.X + at.X, Y: p.Y + at.Y}
	}
	for w, line := range in.led {
		out.led[w] = shifted(line, at)
	}
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

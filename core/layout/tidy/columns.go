package tidy

import (
	"cmp"
	"slices"

	"mevrin/core/layout/route"
)

// branches gives the shapes of what hangs from the root, and heights at which they may end.
func (l *lister) branches() (of [][]*shape, talls []float64) {
	for _, c := range l.kids[l.root] {
		shapes := l.shapes(c)
		of = append(of, shapes)
		for _, s := range shapes {
			talls = append(talls, s.tall)
		}
	}
	return of, sampled(talls)
}

// within takes of each branch the narrowest shape that is no taller, or else the lowest.
func within(of [][]*shape, tall float64) []*shape {
	take := make([]*shape, len(of))
	for i, shapes := range of {
		at := slices.IndexFunc(shapes, func(s *shape) bool { return s.tall <= tall })
		if at < 0 {
			at = len(shapes) - 1
		}
		take[i] = shapes[at]
	}
	return take
}

// under makes room for a phrase that stands above the first box of what is written: that is
// put so far to the right of x that the phrase does not reach further left, and takes the
// width given.
func (l *lister) under(b int, s *shape, x float64) (at, wide float64) {
	words, head := l.phrase(b).W, l.g.Boxes[b].W/2
	off := max(0, words/2-head)
	return x + off, max(s.wide, head+words/2)
}

// Columns draws a graph in rows and columns: its root above, each branch a list of its own
// below, in such shapes and as many beside each other as make the whole fit a window.
func Columns(g Graph, s Spacing, keep bool) Drawing {
	return inParts(g, s, func(p part) placed {
		l := newLister(&g, p, s, keep)
		stood := l.stoodInRows()
		if stood != nil {
			const far = 1e7
			l.read = func(b int) float64 { return far*float64(stood[b]) + g.Was[b].X }
		}
		chosen := l.choose(p, keep, func() []plan { return l.page(stood) }, func(p plan) map[int]Point {
			at := map[int]Point{l.root: {X: p.wide / 2, Y: g.Boxes[l.root].H / 2}}
			if p.whole != nil {
				l.spread(l.root, p.whole, Point{}, 1, at)
				return at
			}
			l.rows(p, func(i int, x, y float64) { l.spread(l.kids[l.root][i], p.take[i], Point{X: x, Y: y}, 1, at) })
			return at
		})
		if chosen.whole != nil {
			l.put(l.write(l.root, chosen.whole), Point{}, false)
			return l.at
		}
		y, row := 0.0, -1
		widest := g.Boxes[l.root].W
		l.rows(chosen, func(i int, x, top float64) {
			if row < 0 || top > y {
				y, row = top, row+1
			}
			c := l.kids[l.root][i]
			l.put(l.write(c, chosen.take[i]), Point{X: x, Y: top}, false)
			l.head(c, top, row)
			widest = max(widest, x+chosen.take[i].wide)
		})
		l.at.boxes[l.root] = Point{X: widest / 2, Y: g.Boxes[l.root].H / 2}
		return l.at
	})
}

// above is the room above each row, for the phrases that lead to it.
func (l *lister) above() float64 {
	room := 0.0
	for _, c := range l.kids[l.root] {
		room = max(room, l.phrase(c).H)
	}
	return room + 2*l.space.Level + l.space.Side
}

// page looks for the rows that make the whole fit a small window.
func (l *lister) page(stood map[int]int) []plan {
	of, talls := l.branches()
	var all []plan
	try := func(p plan) {
		wide, tall := l.g.Boxes[l.root].W, 0.0
		l.rows(p, func(i int, x, y float64) {
			wide, tall = max(wide, x+p.take[i].wide), max(tall, y+p.take[i].tall)
		})
		p.wide, p.need = wide, fits(wide, tall)
		all = append(all, p)
	}
	known := l.as(l.root)
	var was []int
	last := -1
	for i, c := range l.kids[l.root] {
		if row, old := stood[c]; old && l.as(c) {
			if last >= 0 && row != last {
				was = append(was, i)
			}
			last = row
		}
	}
	const simpler = 0.8 // what one list has to save
	asList := known && stood == nil
	if !known || asList {
		for _, s := range l.shapes(l.root) {
			all = append(all, plan{whole: s, wide: s.wide, need: fits(s.wide, s.tall) / simpler})
		}
	}
	if asList {
		return all
	}
	for _, tall := range talls {
		take := within(of, tall)
		if known {
			try(plan{take: take, breaks: was})
			continue
		}
		sum := 0.0
		for i, c := range l.kids[l.root] {
			_, wide := l.under(c, take[i], 0)
			sum += wide + l.space.Part
		}
		for n := 1.0; n <= 12 && n <= float64(len(take)); n++ {
			try(plan{take: take, breaks: l.filled(take, sum/n*1.08)})
		}
	}
	if len(talls) == 0 { // nothing hangs from the root
		try(plan{})
	}
	return all
}

// stoodInRows tells in which row each branch stood; nil where all was written as one list
// below the root.
func (l *lister) stoodInRows() map[int]int {
	g := l.g
	if g.Was == nil || !g.old(l.root) {
		return nil
	}
	left := func(b int) float64 { return g.Was[b].X - g.Boxes[b].W/2 }
	top := func(b int) float64 { return g.Was[b].Y - g.Boxes[b].H/2 }
	list := true
	var kids []int
	for b := range l.up {
		list = list && (!g.old(b) || left(b) > left(l.root)-1)
		if l.up[b] == l.root && b != l.root && g.old(b) {
			kids = append(kids, b)
		}
	}
	if list {
		return nil
	}
	slices.SortFunc(kids, func(x, y int) int { return cmp.Or(cmp.Compare(top(x), top(y)), cmp.Compare(x, y)) })
	rows, row := map[int]int{}, 0
	for i, c := range kids {
		// A head may stand a little lower than others of its row.
		if i > 0 && top(c) > top(kids[i-1])+l.above()/2 {
			row++
		}
		rows[c] = row
	}
	return rows
}

// filled breaks branches into rows of a width.
func (l *lister) filled(take []*shape, page float64) []int {
	var breaks []int
	x := 0.0
	for i, c := range l.kids[l.root] {
		_, wide := l.under(c, take[i], 0)
		if x > 0 && x+wide > page {
			breaks = append(breaks, i)
			x = 0
		}
		x += wide + l.space.Part
	}
	return breaks
}

// rows tells where the branches of a page stand: their upper left corners.
func (l *lister) rows(p plan, at func(i int, x, y float64)) {
	room := l.above()
	x, y, tall := 0.0, l.g.Boxes[l.root].H+room, 0.0
	for i, c := range l.kids[l.root] {
		if slices.Contains(p.breaks, i) {
			x, y, tall = 0, y+tall+room, 0
		}
		left, wide := l.under(c, p.take[i], x)
		at(i, left, y)
		x += wide + l.space.Part
		tall = max(tall, p.take[i].tall)
	}
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

package tidy

import (
	"cmp"
	"math"
	"slices"

	"mevrin/core/layout/route"
)

// plan is how the branches of a root are written: each in a shape, and by breaks a page in
// rows, or by sides a spine.
type plan struct {
	take   []*shape
	whole  *shape  // instead: of all, as one list below the root
	breaks []int   // the branches with which a row begins, or a further spine
	sides  []int   // for each branch, 0 above the spine, 1 below
	wide   float64 // of a page
	need   float64
}

// steadier is how much larger a drawing may be that is written as it was.
const steadier = 1.4

// choose takes the plan that needs the least room, or that by which the drawing stays as it
// was, where that needs little more; siblings that may change places do so first, for fewer
// crossings, and of plans that need hardly more room that is taken whose lines cross least.
func (l *lister) choose(p part, keep bool, plans func() []plan, places func(plan) map[int]Point) plan {
	if l.g.Was == nil {
		first := smallest(plans())
		if first.sides != nil && first.breaks != nil {
			return first // of several spines the order could not be taken up again
		}
		took := l.took(first)
		l.sift(p, keep, 2, nil, func() map[int]Point { return places(l.again(first, took)) })
		return l.clearest(p, plans(), places)
	}
	if !l.inRanks {
		l.sift(p, keep, 1, l.before(), nil)
	}
	kept := smallest(plans())
	if l.g.Loosely {
		return kept
	}
	l.anew = true
	free := smallest(plans())
	l.anew = false
	if kept.need <= steadier*free.need {
		return kept
	}
	return free
}

func smallest(plans []plan) plan {
	return slices.MinFunc(plans, func(a, b plan) int { return cmp.Compare(a.need, b.need) })
}

// clearest takes, of the plans that need hardly more room than the smallest, one whose
// straight lines cross least.
func (l *lister) clearest(p part, plans []plan, places func(plan) map[int]Point) plan {
	best := smallest(plans)
	counted := sifting{tree: l.tree, part: p}
	counted.lines()
	const looked = 24
	if len(counted.ends) > 20*looked {
		return best
	}
	slices.SortStableFunc(plans, func(a, b plan) int { return cmp.Compare(a.need, b.need) })
	least := -1
	for _, a := range plans[:min(len(plans), looked)] {
		if a.need > 1.12*plans[0].need {
			break
		}
		counted.place = func() map[int]Point { return places(a) }
		if n := counted.clutter(); least < 0 || n < least {
			best, least = a, n
		}
	}
	return best
}

// took gives the shape of each branch by its head.
func (l *lister) took(p plan) map[int]*shape {
	all := map[int]*shape{}
	var note func(b int, s *shape)
	note = func(b int, s *shape) {
		all[b] = s
		for i, c := range l.kids[b] {
			note(c, s.kids[i])
		}
	}
	if p.whole != nil {
		note(l.root, p.whole)
		return all
	}
	for i, c := range l.kids[l.root] {
		note(c, p.take[i])
	}
	return all
}

// again measures the shapes of a plan for the order that siblings have now.
func (l *lister) again(p plan, took map[int]*shape) plan {
	var anew func(b int) *shape
	anew = func(b int) *shape {
		next := &shape{breaks: took[b].breaks, beside: took[b].beside}
		for _, c := range l.kids[b] {
			next.kids = append(next.kids, anew(c))
		}
		return l.measured(b, next)
	}
	next := plan{breaks: p.breaks, sides: p.sides}
	if p.whole != nil {
		next.whole = anew(l.root)
		return next
	}
	for _, c := range l.kids[l.root] {
		next.take = append(next.take, anew(c))
	}
	return next
}

// spread tells where the boxes of a branch stand, upside down with -1.
func (l *lister) spread(b int, s *shape, at Point, down float64, to map[int]Point) {
	size := l.g.Boxes[b].Size
	head := Point{X: at.X + size.W/2, Y: at.Y + down*size.H/2}
	if s.beside {
		c := l.kids[b][0]
		below, child := l.level(b, c)
		head.Y += down * below
		l.spread(c, s.kids[0], Point{X: at.X + size.W + l.aside(c), Y: at.Y + down*child}, down, to)
	} else {
		l.each(s, b, func(i int, x, y float64) {
			l.spread(l.kids[b][i], s.kids[i], Point{X: at.X + x, Y: at.Y + down*y}, down, to)
		})
	}
	to[b] = head
}

// before tells where siblings stood in the order in which what is written is read: column by
// column, each downwards.
func (l *lister) before() func(b, up int) float64 {
	g := l.g
	left, right := map[int]float64{}, map[int]float64{} // of what was written of a branch
	for i := len(l.order) - 1; i > 0; i-- {
		b := l.order[i]
		half := g.Boxes[b].W / 2
		if _, met := right[b]; !met {
			right[b] = g.Was[b].X + half
		}
		right[b] = max(right[b], g.Was[b].X+half)
		left[b] = g.Was[b].X - half - l.phrase(b).W - 2*l.space.Line
		if up := l.up[b]; right[b] > right[up] || right[up] == 0 {
			right[up] = right[b]
		}
	}
	columns := map[int]float64{} // by heads: how many stand before
	for _, kids := range l.kids {
		kids = slices.DeleteFunc(slices.Clone(kids), func(c int) bool { return !g.old(c) })
		slices.SortStableFunc(kids, func(x, y int) int { return cmp.Compare(left[x], left[y]) })
		column, edge := 0.0, math.Inf(1)
		for _, c := range kids {
			if left[c] > edge {
				column++
			}
			if left[c] > edge || math.IsInf(edge, 1) {
				edge = right[c]
			}
			edge = max(edge, right[c])
			columns[c] = column
		}
	}
	const far = 1e7
	return func(b, up int) float64 {
		if up == l.root && l.read != nil {
			return l.read(b)
		}
		y := g.Was[b].Y
		if l.upside != nil && l.upside(b) {
			y = -y
		}
		return far*columns[b] + y
	}
}

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
		l := newLister(&g, p, s)
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

// filled breaks branches into rows of a width; what one phrase leads to starts no row.
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

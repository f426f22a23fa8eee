package tidy

import (
	"math"
	"slices"
)

// Sides draws a graph to both sides of its root, each branch as a tree that
// grows outwards. Trees are packed by their outlines (Reingold and Tilford, Tidier
// drawings of trees, 1981; van der Ploeg, Drawing non-layered tidy trees in linear
// time, 2014). The first branches stand at the right, from the top down, the
// others at the left, from the bottom up: clockwise.
func Sides(g Graph, s Spacing, keep bool) Drawing {
	return inParts(g, s, func(p part) placed {
		t := treeOf(&g, p)
		t.gather()
		o := outward{t, s}
		t.centre()
		t.sift(p, keep, 2+len(p.boxes)/6, t.rightThenLeft, func() map[int]Point { return o.place().boxes })
		return o.place()
	})
}

type outward struct {
	*tree
	space Spacing
}

// centre makes the first box from which several hang the middle, where but one hangs from the
// root: what led there then hangs from it, too.
func (t *tree) centre() {
	next := t.root
	for len(t.kids[next]) == 1 {
		next = t.kids[next][0]
	}
	if next == t.root || len(t.kids[next]) == 0 {
		return
	}
	path := []int{next}
	for at := next; at != t.root; at = t.up[at] {
		path = append(path, t.up[at])
	}
	wires := make([]int, len(path))
	for i, b := range path[:len(path)-1] {
		wires[i] = t.wire[b]
	}
	for i := 1; i < len(path); i++ {
		t.kids[path[i]] = nil
		t.kids[path[i-1]] = append(slices.Clone(t.kids[path[i-1]]), path[i])
		t.up[path[i]], t.wire[path[i]] = path[i-1], wires[i-1]
	}
	delete(t.wire, next)
	t.up[next], t.root = next, next
	t.renumber()
}

// rightThenLeft tells where a box stood: below its siblings; of those that hang from the root, at
// the right from the top down, then at the left from the bottom up.
func (t *tree) rightThenLeft(b, up int) float64 {
	const behind = 1e7 // all at the right
	p := t.g.Was[b]
	if up != t.root || p.X >= t.g.Was[t.root].X {
		return p.Y
	}
	return behind - p.Y
}

// renumber finds depths and the order anew, from the root.
func (t *tree) renumber() {
	t.depth, t.order = map[int]int{t.root: 0}, []int{t.root}
	for i := 0; i < len(t.order); i++ {
		for _, c := range t.kids[t.order[i]] {
			t.depth[c] = t.depth[t.order[i]] + 1
			t.order = append(t.order, c)
		}
	}
}

// grown is a branch that grows to the right: its boxes and phrases, from the left
// middle of its own box on.
type grown struct {
	boxes   map[int]Point
	phrases map[int]Point // by wire
	shape   []strip
}

// strip is the height that a stretch of a drawing takes.
type strip struct{ x0, x1, top, bottom float64 }

func (o *outward) place() placed {
	kids := o.kids[o.root]
	branches := make([]*grown, len(kids))
	tall := make([]float64, len(kids))
	sum := 0.0
	for i, c := range kids {
		branches[i] = o.grow(c)
		low, high := math.Inf(1), math.Inf(-1)
		for _, s := range branches[i].shape {
			low, high = min(low, s.top), max(high, s.bottom)
		}
		tall[i] = high - low
		sum += tall[i]
	}
	cut, at := 0, 0.0
	for cut < len(kids) && (at+tall[cut]/2 < sum/2 || cut == 0) {
		at += tall[cut]
		cut++
	}
	if cut = o.beside(kids, tall, cut); o.g.Was != nil && o.g.old(o.root) {
		cut = o.sidesBefore(kids, cut)
	}
	out := placed{boxes: map[int]Point{o.root: {}}, wish: map[int]Point{}}
	put := func(from, to int, sign float64) {
		side := o.pile(kids[from:to], branches[from:to], o.root, sign < 0)
		for b, p := range side.boxes {
			out.boxes[b] = Point{X: sign * p.X, Y: p.Y}
		}
		for w, p := range side.phrases {
			if _, there := out.wish[w]; !there {
				out.wish[w] = Point{X: sign * p.X, Y: p.Y}
			}
		}
	}
	put(0, cut, 1)
	put(cut, len(kids), -1)
	return out
}

// sidesBefore gives the cut at which boxes stay on the side of the root on which they stood.
func (o *outward) sidesBefore(kids []int, cut int) int {
	old := false
	for i, c := range kids {
		if !o.g.old(c) {
			continue
		}
		if old = true; o.g.Was[c].X < o.g.Was[o.root].X {
			return i
		}
	}
	if old {
		return len(kids)
	}
	return cut
}

// beside moves the cut between the two sides so that what one phrase leads to stays together,
// unless one side would then take nearly all.
func (o *outward) beside(kids []int, tall []float64, cut int) int {
	if cut == 0 || cut >= len(kids) || !o.fan(kids[cut]) {
		return cut
	}
	const nearlyAll = 0.75
	share := func(n int) float64 {
		part, sum := 0.0, 0.0
		for i, h := range tall {
			sum += h
			if i < n {
				part += h
			}
		}
		return part / sum
	}
	before, behind := cut, cut
	for before > 0 && o.fan(kids[before]) {
		before--
	}
	for behind < len(kids) && o.fan(kids[behind]) {
		behind++
	}
	switch a, b := share(before), share(behind); {
	case b <= nearlyAll && (1-a > nearlyAll || b-0.5 <= 0.5-a):
		return behind
	case 1-a <= nearlyAll:
		return before
	}
	return cut
}

// grow draws a branch.
func (o *outward) grow(b int) *grown {
	branches := make([]*grown, len(o.kids[b]))
	for i, c := range o.kids[b] {
		branches[i] = o.grow(c)
	}
	size := o.g.Boxes[b].Size
	all := o.pile(o.kids[b], branches, b, false)
	// What was drawn around the middle of the box goes to its left middle.
	moved := &grown{boxes: map[int]Point{b: {X: size.W / 2}}, phrases: map[int]Point{}}
	for c, p := range all.boxes {
		moved.boxes[c] = Point{X: p.X + size.W/2, Y: p.Y}
	}
	for w, p := range all.phrases {
		moved.phrases[w] = Point{X: p.X + size.W/2, Y: p.Y}
	}
	moved.shape = append(moved.shape, strip{0, size.W, -size.H / 2, size.H / 2})
	for _, s := range all.shape {
		moved.shape = append(moved.shape, strip{s.x0 + size.W/2, s.x1 + size.W/2, s.top, s.bottom})
	}
	return moved
}

// pile puts branches below each other at the right of a box, around the middle of
// that box; upwards where they are to stand at its left.
func (o *outward) pile(kids []int, branches []*grown, b int, upwards bool) *grown {
	all := &grown{boxes: map[int]Point{}, phrases: map[int]Point{}}
	if len(kids) == 0 {
		return all
	}
	wide := 0.0
	for _, c := range kids {
		wide = max(wide, o.phrase(c).W)
	}
	edge := o.g.Boxes[b].W / 2
	x := edge + wide + 2*o.space.Side + o.space.Line
	order := make([]int, len(kids))
	for i := range order {
		order[i] = i
		if upwards {
			order[i] = len(kids) - 1 - i
		}
	}
	at := make([]float64, len(kids))
	for n, i := range order {
		c, branch := kids[i], branches[i]
		// A phrase stands on the line to its concept, or half way down its fan.
		lead := strip{-o.phrase(c).W - 2*o.space.Side, 0, -o.phrase(c).H / 2, o.phrase(c).H / 2}
		shape := append([]strip{lead}, branch.shape...)
		if n > 0 {
			at[i] = all.under(shape, x, o.space.Side*0.8)
		}
		for _, s := range shape {
			all.shape = append(all.shape, strip{s.x0 + x, s.x1 + x, s.top + at[i], s.bottom + at[i]})
		}
	}
	mid := (at[order[0]] + at[order[len(order)-1]]) / 2
	fan := map[int][]float64{}
	for i, c := range kids {
		for d, p := range branches[i].boxes {
			all.boxes[d] = Point{X: p.X + x, Y: p.Y + at[i] - mid}
		}
		for w, p := range branches[i].phrases {
			all.phrases[w] = Point{X: p.X + x, Y: p.Y + at[i] - mid}
		}
		if w := o.wire[c]; w >= 0 {
			fan[w] = append(fan[w], at[i]-mid)
		}
	}
	for w, ys := range fan {
		low, high := ys[0], ys[0]
		for _, y := range ys {
			low, high = min(low, y), max(high, y)
		}
		size := o.g.Wires[w].Phrase
		p := Point{X: x - o.space.Side - size.W/2, Y: (low + high) / 2}
		if len(ys) > 1 { // nearer to the one than to the many
			p.X = edge + o.space.Side + size.W/2
		}
		all.phrases[w] = p
	}
	for i := range all.shape {
		all.shape[i].top -= mid
		all.shape[i].bottom -= mid
	}
	return all
}

// under gives how far down a shape must go to lie below all that is there.
func (g *grown) under(shape []strip, x, gap float64) float64 {
	at := math.Inf(-1)
	for _, a := range g.shape {
		for _, b := range shape {
			if b.x0+x < a.x1 && a.x0 < b.x1+x {
				at = max(at, a.bottom+gap-b.top)
			}
		}
	}
	if math.IsInf(at, -1) {
		at = 0
		for _, a := range g.shape {
			at = max(at, a.bottom)
		}
	}
	return at
}

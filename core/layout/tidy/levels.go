package tidy

import (
	"maps"
	"math"
	"slices"
)

// Levels draws a graph on levels, so that most wires lead downwards: each
// phrase stands on a level of its own between what it joins, after Sugiyama,
// Tagawa and Toda, Methods for visual understanding of hierarchical system
// structures, IEEE Transactions SMC 11(2), 1981. With keep, those that hang from
// the same box keep their order; otherwise the order with the fewest crossings
// that is found stands.
func Levels(g Graph, s Spacing, keep bool) Drawing {
	out := Drawing{Boxes: make([]Point, len(g.Boxes)), Wires: make([]Line, len(g.Wires))}
	pieces := make([]*piece, 0, 1)
	parts, loose := partsOf(g)
	for _, p := range parts {
		l := newLevelled(&g, p, s, keep)
		l.draw(&out)
		pieces = append(pieces, pieceOf(&g, &out, p))
	}
	pieces = append(pieces, rows(&g, &out, loose, s)...)
	pack(&out, pieces, s.Part)
	if len(g.Wires) <= manyWires {
		pull(&g, &out)
	}
	return out
}

// manyWires is from how many on lines are not drawn taut.
const manyWires = 1200

// part is a set of boxes that wires join, and those wires.
type part struct{ boxes, wires []int }

// partsOf gives the parts of a graph, that of the root first and the rest in
// the order of their first boxes, and the boxes at which no wire ends.
func partsOf(g Graph) (parts []part, loose []int) {
	head := make([]int, len(g.Boxes))
	for i := range head {
		head[i] = i
	}
	find := func(b int) int {
		for head[b] != b {
			head[b] = head[head[b]]
			b = head[b]
		}
		return b
	}
	wired := make([]bool, len(g.Boxes))
	for _, w := range g.Wires {
		all := w.ends()
		for _, b := range all {
			wired[b] = true
			head[find(b)] = find(all[0])
		}
	}
	index := map[int]int{}
	for b := range g.Boxes {
		if !wired[b] {
			loose = append(loose, b)
			continue
		}
		h := find(b)
		if _, known := index[h]; !known {
			index[h] = len(parts)
			parts = append(parts, part{})
		}
		parts[index[h]].boxes = append(parts[index[h]].boxes, b)
	}
	for i, w := range g.Wires {
		p := &parts[index[find(w.ends()[0])]]
		p.wires = append(p.wires, i)
	}
	if g.Root >= 0 && wired[g.Root] {
		at := index[find(g.Root)]
		root := parts[at]
		parts = slices.Insert(slices.Delete(parts, at, at+1), 0, root)
	}
	return parts, loose
}

// levelled is one part in the making. Its vertices are the part's boxes, the
// phrases of its wires, and the places where longer lines pass a level.
type levelled struct {
	g      *Graph
	part   part
	space  Spacing
	vertex map[int]int // of a box
	size   []Size
	dummy  []bool
	phrase []int     // the vertex of each of the part's wires, or -1
	chains [][]chain // for each of the part's wires, one for each end
	layers
	x    []float64
	top  []float64 // of each layer
	tall []float64
}

// chain is the way of one line: the vertices from the box to the phrase, or to
// the other box of a wire without one.
type chain []int

// newLevelled puts the vertices of a part on layers and in order. What leads
// back, and how much a phrase is drawn to its one end rather than to its many,
// can be chosen in several ways; that with the fewest crossings stands.
func newLevelled(g *Graph, p part, s Spacing, keep bool) *levelled {
	wires := make([]Wire, len(p.wires))
	for i, w := range p.wires {
		wires[i] = g.Wires[w]
	}
	if g.Above != nil {
		return layered(g, p, s, wires, sequence(p.boxes, wires, g.Root), true, keep)
	}
	orders := []map[int]int{sequence(p.boxes, wires, g.Root), fewBack(p.boxes, wires, g.Root)}
	if maps.Equal(orders[0], orders[1]) {
		orders = orders[:1]
	}
	var best *levelled
	least := 0
	for _, at := range orders {
		for _, fans := range []bool{true, false} {
			l := layered(g, p, s, wires, at, fans, keep)
			if n := l.crossings(); best == nil || n < least {
				best, least = l, n
			}
		}
	}
	return best
}

// layered does so for one order of boxes; with fans, a line that stands for
// several is kept short.
func layered(g *Graph, p part, s Spacing, wires []Wire, at map[int]int, fans, keep bool) *levelled {
	l := &levelled{g: g, part: p, space: s, vertex: map[int]int{}}
	for i, b := range p.boxes {
		l.vertex[b] = i
		l.size = append(l.size, g.Boxes[b].Size)
	}
	var arcs []arc
	add := func(a, b, weight int, down bool) {
		if !down {
			a, b = b, a
		}
		if !fans {
			weight = 1
		}
		arcs = append(arcs, arc{a, b, weight})
	}
	for _, w := range wires {
		l.phrase = append(l.phrase, -1)
		switch {
		case self(w):
		case w.Phrase.W == 0 && len(w.ends()) == 2 && g.Above == nil:
			add(l.vertex[w.From[0]], l.vertex[w.To[0]], 1, at[w.From[0]] < at[w.To[0]])
		default:
			phrase, cut := len(l.size), between(w, at)
			l.phrase[len(l.phrase)-1] = phrase
			l.size = append(l.size, w.Phrase)
			for _, b := range w.From {
				add(l.vertex[b], phrase, len(w.To), at[b] < cut)
			}
			for _, b := range w.To {
				add(l.vertex[b], phrase, len(w.From), at[b] < cut)
			}
		}
	}
	l.dummy = make([]bool, len(l.size))
	if g.Above != nil {
		l.chain(wires, l.hierarchy(wires))
	} else {
		l.chain(wires, ranks(len(l.size), arcs, 4000))
	}
	l.begin(at, keep)
	l.untangle()
	return l
}

// hierarchy gives the levels of a part whose boxes hang from each other: each box
// on the level below what it hangs from, whatever else leads there, with a level
// for phrases after each.
func (l *levelled) hierarchy(wires []Wire) []int {
	rank := make([]int, len(l.size))
	for _, b := range l.part.boxes {
		depth := 0
		for at := l.g.Above[b]; at >= 0 && depth <= len(l.part.boxes); at = l.g.Above[at] {
			depth++
		}
		rank[l.vertex[b]] = 2 * depth
	}
	for i, w := range wires {
		if l.phrase[i] < 0 {
			continue
		}
		low, high := math.MaxInt, 0
		for _, b := range w.ends() {
			low, high = min(low, rank[l.vertex[b]]), max(high, rank[l.vertex[b]])
		}
		rank[l.phrase[i]] = (low+high)/2 | 1
	}
	return rank
}

// self tells that a wire leads from a box to itself and to nothing else.
func self(w Wire) bool {
	for _, b := range w.ends() {
		if b != w.From[0] {
			return false
		}
	}
	return true
}

// chain leads each line through every level between its two ends.
func (l *levelled) chain(wires []Wire, rank []int) {
	l.of = rank
	count := slices.Max(rank) + 1
	l.row = make([][]int, count)
	l.near = [2][][]half{make([][]half, len(rank)), make([][]half, len(rank))}
	lead := func(a, b, weight int) chain {
		way := chain{a}
		step := 1
		if rank[a] > rank[b] {
			step = -1
		}
		for r := l.of[a] + step; r != l.of[b]; r += step {
			v := len(l.size)
			l.size, l.dummy, l.of = append(l.size, Size{}), append(l.dummy, true), append(l.of, r)
			l.near[0], l.near[1] = append(l.near[0], nil), append(l.near[1], nil)
			way = append(way, v)
		}
		way = append(way, b)
		for i := 1; i < len(way); i++ {
			upper, lower := way[i-1], way[i]
			if step < 0 {
				upper, lower = lower, upper
			}
			l.join(upper, lower, weight)
		}
		return way
	}
	for i, w := range wires {
		l.chains = append(l.chains, nil)
		switch p := l.phrase[i]; {
		case self(w):
		case p < 0:
			l.chains[i] = []chain{lead(l.vertex[w.From[0]], l.vertex[w.To[0]], 1)}
		default:
			for _, b := range w.From {
				l.chains[i] = append(l.chains[i], lead(l.vertex[b], p, len(w.To)))
			}
			for _, b := range w.To {
				l.chains[i] = append(l.chains[i], lead(l.vertex[b], p, len(w.From)))
			}
		}
	}
}

// begin puts the vertices of each layer in the order in which they are met from
// the top, depth first and siblings in their order.
func (l *levelled) begin(at map[int]int, keep bool) {
	n := len(l.size)
	l.at, l.group, l.turn = make([]int, n), make([]int, n), make([]int, n)
	for v := range l.group {
		l.group[v] = -1
	}
	if keep && l.g.Above != nil {
		for _, b := range l.part.boxes {
			if up := l.g.Above[b]; up >= 0 {
				l.group[l.vertex[b]], l.turn[l.vertex[b]] = up, l.g.Rank[b]
			}
		}
	}
	boxes := slices.Clone(l.part.boxes)
	slices.SortFunc(boxes, func(a, b int) int { return at[a] - at[b] })
	seen := make([]bool, n)
	var visit func(v int)
	visit = func(v int) {
		if seen[v] {
			return
		}
		seen[v] = true
		l.row[l.of[v]] = append(l.row[l.of[v]], v)
		for _, side := range []int{1, 0} {
			for _, h := range l.near[side][v] {
				if side == 1 || l.of[v] > 0 && l.dummy[h.v] {
					visit(h.v)
				}
			}
		}
	}
	for _, b := range boxes {
		visit(l.vertex[b])
	}
	for v := range n {
		visit(v)
	}
	for i := range l.row {
		l.place(i)
	}
}

// draw places the vertices and leads the lines, with the part's top left corner
// near the origin.
func (l *levelled) draw(out *Drawing) {
	l.across()
	l.down()
	for _, b := range l.part.boxes {
		v := l.vertex[b]
		out.Boxes[b] = Point{X: l.x[v], Y: l.middle(v)}
	}
	for i, w := range l.part.wires {
		wire := l.g.Wires[w]
		switch p := l.phrase[i]; {
		case self(wire):
			out.Wires[w] = loop(l.g.Boxes[wire.From[0]].Size, out.Boxes[wire.From[0]], wire)
		case p < 0:
			way := l.route(l.chains[i][0])
			out.Wires[w] = halve(way, out.Boxes[wire.From[0]], out.Boxes[wire.To[0]])
		default:
			line := Line{Phrase: Point{X: l.x[p], Y: l.middle(p)}}
			for _, c := range l.chains[i] {
				line.Legs = append(line.Legs, l.route(c))
			}
			out.Wires[w] = line
		}
	}
}

func (l *levelled) middle(v int) float64 { return l.top[l.of[v]] + l.tall[l.of[v]]/2 }

// apart gives the least distance of the middles of two vertices beside each
// other.
func (l *levelled) apart(u, v int) float64 {
	gap := l.space.Side
	if l.dummy[u] || l.dummy[v] {
		gap = l.space.Line
	}
	return l.size[u].W/2 + gap + l.size[v].W/2
}

// across finds how far to the right each vertex stands: layer after layer, each
// as near to its neighbours as the others on its layer let it, again and again.
// Long lines are drawn straight with more force than short ones.
func (l *levelled) across() {
	l.x = make([]float64, len(l.size))
	apart := make([][]float64, len(l.row))
	for i, row := range l.row {
		apart[i] = make([]float64, len(row))
		at := 0.0
		for j, v := range row {
			if j > 0 {
				apart[i][j] = l.apart(row[j-1], v)
				at += apart[i][j]
			}
			l.x[v] = at
		}
		for _, v := range row {
			l.x[v] -= at / 2
		}
	}
	force := func(u, v int) float64 {
		switch {
		case l.dummy[u] && l.dummy[v]:
			return 8
		case l.dummy[u] || l.dummy[v]:
			return 2
		}
		return 1
	}
	var wish, weight []float64
	settle := func(i int, sides ...int) {
		wish, weight = wish[:0], weight[:0]
		for _, v := range l.row[i] {
			sum, all := 0.0, 0.0
			for _, side := range sides {
				for _, h := range l.near[side][v] {
					f := force(v, h.v)
					sum += f * l.x[h.v]
					all += f
				}
			}
			if all == 0 {
				sum, all = l.x[v]*0.01, 0.01
			}
			wish, weight = append(wish, sum/all), append(weight, all)
		}
		for j, x := range spread(wish, weight, apart[i]) {
			l.x[l.row[i][j]] = x
		}
	}
	rounds := 60
	if len(l.size) > 1500 {
		rounds = 24
	}
	for range rounds / 6 {
		for i := range l.row {
			settle(i, 0)
		}
		for i := len(l.row) - 1; i >= 0; i-- {
			settle(i, 1)
		}
	}
	for range rounds {
		for i := range l.row {
			settle(i, 0, 1)
		}
		for i := len(l.row) - 1; i >= 0; i-- {
			settle(i, 0, 1)
		}
	}
	l.plumb(apart)
}

// plumb lets each line that passes several levels hang straight where the
// others on those levels leave room.
func (l *levelled) plumb(apart [][]float64) {
	for _, chains := range l.chains {
		for _, c := range chains {
			for from := 1; from < len(c)-1; {
				low, high := math.Inf(-1), math.Inf(1)
				to := from
				sum := 0.0
				for ; to < len(c)-1; to++ {
					v := c[to]
					row, at := l.row[l.of[v]], l.at[v]
					a, b := low, high
					if at > 0 {
						a = max(a, l.x[row[at-1]]+apart[l.of[v]][at])
					}
					if at+1 < len(row) {
						b = min(b, l.x[row[at+1]]-apart[l.of[v]][at+1])
					}
					if a > b {
						break
					}
					low, high = a, b
					sum += l.x[v]
				}
				if to == from {
					from++
					continue
				}
				x := min(max(sum/float64(to-from), low), high)
				for ; from < to; from++ {
					l.x[c[from]] = x
				}
			}
		}
	}
}

// down finds the height of each level.
func (l *levelled) down() {
	l.top, l.tall = make([]float64, len(l.row)), make([]float64, len(l.row))
	at := 0.0
	for i, row := range l.row {
		for _, v := range row {
			l.tall[i] = max(l.tall[i], l.size[v].H)
		}
		l.top[i] = at
		at += l.tall[i] + l.space.Level
	}
}

// route gives the places that a line passes between its two ends: it leaves a
// level and comes to one at a right angle to it as far as boxes reach, and runs
// aslant only between levels, where there are none.
func (l *levelled) route(c chain) []Point {
	var way []Point
	for i := 1; i < len(c); i++ {
		u, v := c[i-1], c[i]
		y0, y1 := l.top[l.of[u]]+l.tall[l.of[u]], l.top[l.of[v]]
		if l.of[u] > l.of[v] {
			y0, y1 = l.top[l.of[u]], l.top[l.of[v]]+l.tall[l.of[v]]
		}
		from, to := l.port(u, v), l.port(v, u)
		// Boxes lower than their level are left, and met, at a right angle.
		if i == 1 && !l.dummy[u] {
			way = append(way, Point{X: from, Y: l.border(u, v)})
		}
		way = append(way, Point{X: from, Y: y0}, Point{X: to, Y: y1})
		if i+1 == len(c) && !l.dummy[v] {
			way = append(way, Point{X: to, Y: l.border(v, u)})
		}
	}
	return trim(way)
}

// border gives the edge of a vertex that faces another one's level.
func (l *levelled) border(v, other int) float64 {
	if l.of[other] > l.of[v] {
		return l.middle(v) + l.size[v].H/2
	}
	return l.middle(v) - l.size[v].H/2
}

// port gives where along its border a vertex is met by the line to another: as
// far towards it as its width lets it, one beside the other in order.
func (l *levelled) port(v, other int) float64 {
	if l.dummy[v] {
		return l.x[v]
	}
	side := 0
	if l.of[other] > l.of[v] {
		side = 1
	}
	near := slices.Clone(l.near[side][v])
	slices.SortFunc(near, func(a, b half) int { return l.at[a.v] - l.at[b.v] })
	half := max(0, l.size[v].W/2-10)
	wish, weight, apart := make([]float64, len(near)), make([]float64, len(near)), make([]float64, len(near))
	own := 0
	for i, h := range near {
		wish[i], weight[i], apart[i] = min(max(l.x[h.v], l.x[v]-half), l.x[v]+half), 1, min(8, 2*half/float64(len(near)))
		if h.v == other {
			own = i
		}
	}
	return min(max(spread(wish, weight, apart)[own], l.x[v]-half), l.x[v]+half)
}

// trim leaves out places at which a line does not turn.
func trim(way []Point) []Point {
	kept := way[:0]
	for i, p := range way {
		if i > 0 && i+1 < len(way) {
			a, b := kept[len(kept)-1], way[i+1]
			if math.Abs((p.X-a.X)*(b.Y-a.Y)-(p.Y-a.Y)*(b.X-a.X)) < 0.5*distance(a, b) && (p.Y-a.Y)*(b.Y-p.Y) >= 0 {
				continue
			}
		}
		kept = append(kept, p)
	}
	return kept
}

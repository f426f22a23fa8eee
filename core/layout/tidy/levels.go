package tidy

import (
	"math"
	"slices"

	"mevrin/core/layout/route"
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
		onLevels, aside := g.aside(p)
		l := newLevelled(&g, onLevels, s, keep)
		l.draw(&out)
		if len(aside) > 0 {
			led := map[int]*route.Line{}
			for _, w := range onLevels.wires {
				line := route.Line(out.Wires[w])
				led[w] = &line
			}
			lead(&g, &out, p, placed{led: led})
		}
		pieces = append(pieces, pieceOf(&g, &out, p))
	}
	pieces = append(pieces, rows(&g, &out, loose, s)...)
	pack(&g, &out, pieces, s.Part)
	if len(g.Wires) <= manyWires {
		pull(&g, &out)
	}
	loops(&g, &out)
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
	// wish is where vertices are wished to stand, of a drawing that is resumed.
	wish []float64
	x    []float64
	top  []float64 // of each layer
	tall []float64
	// column holds the storeys of boxes that tower, by their vertices, and storey which vertices
	// are storeys.
	column map[int][]int
	storey map[int]bool
	// y is where the middle of each vertex is, and aslant between which heights a line from one
	// to another on the next layer runs aslant, where boxes tower; nil where none does.
	y      []float64
	aslant map[[2]int][2]float64
}

// chain is the way of one line: the vertices from the box to the phrase, or to
// the other box of a wire without one.
type chain []int

// mayLeadBack is how much larger the share of wires that lead upwards may become
// for the sake of fewer crossings.
const mayLeadBack = 0.1

// layered does so for one order of boxes and one way to choose levels.
func layered(g *Graph, p part, s Spacing, wires []Wire, at map[int]int, r ranking, keep bool) *levelled {
	l := vertices(g, p, s, wires, r)
	l.raise(l.storeysByHeight)
	var rank []int
	if r == byHierarchy {
		rank = l.hierarchy(wires)
	} else {
		rank = ranks(l.stop, len(l.size), l.arcs(wires, at, r), 4000)
	}
	if g.Fold {
		rank = l.fold(wires, rank, at)
	}
	l.chain(wires, rank)
	l.begin(at, keep)
	return l
}

// vertices makes the vertices of a part: boxes, then phrases.
func vertices(g *Graph, p part, s Spacing, wires []Wire, r ranking) *levelled {
	l := &levelled{g: g, part: p, space: s, vertex: map[int]int{}}
	l.stop = g.Stop
	for i, b := range p.boxes {
		l.vertex[b] = i
		l.size = append(l.size, g.Boxes[b].Size)
	}
	for _, w := range wires {
		l.phrase = append(l.phrase, -1)
		if self(w) || w.Phrase.W == 0 && len(w.ends()) == 2 && r != byHierarchy {
			continue
		}
		l.phrase[len(l.phrase)-1] = len(l.size)
		l.size = append(l.size, w.Phrase)
	}
	l.dummy = make([]bool, len(l.size))
	return l
}

// upright is the weight by which storeys stand right below each other.
const upright = 1000

// arcs gives what asks for ranks: each wire leads from its earlier boxes to its later ones.
func (l *levelled) arcs(wires []Wire, at map[int]int, r ranking) (arcs []arc) {
	add := func(a, b, weight int, down bool) {
		if !down {
			a, b = b, a
		}
		a = l.foot(a)
		if r == shortWires {
			weight = 1
		}
		arcs = append(arcs, arc{a, b, weight})
	}
	l.stack(func(head, v, _ int) { arcs = append(arcs, arc{head, v, upright}) })
	for i, w := range wires {
		switch phrase := l.phrase[i]; {
		case self(w):
		case phrase < 0:
			add(l.vertex[w.From[0]], l.vertex[w.To[0]], 1, at[w.From[0]] < at[w.To[0]])
		default:
			cut := between(w, at)
			for _, b := range w.From {
				add(l.vertex[b], phrase, len(w.To), at[b] < cut)
			}
			for _, b := range w.To {
				add(l.vertex[b], phrase, len(w.From), at[b] < cut)
			}
		}
	}
	return arcs
}

// hierarchy gives the levels of a part whose boxes hang from each other: each box
// on the level below what it hangs from, whatever else leads there, with a level
// for phrases after each.
func (l *levelled) hierarchy(wires []Wire) []int {
	rank := make([]int, len(l.size))
	for _, b := range l.part.boxes {
		depth, further := 0, 0
		for at := l.g.Above[b]; at >= 0 && depth <= len(l.part.boxes); at = l.g.Above[at] {
			depth++
			if up, here := l.vertex[at]; here {
				further += (len(l.column[up]) + 1) / 2
			}
		}
		rank[l.vertex[b]] = 2 * (depth + further)
		for i, v := range l.column[l.vertex[b]] {
			rank[v] = rank[l.vertex[b]] + 1 + i
		}
	}
	for i, w := range wires {
		if l.phrase[i] < 0 {
			continue
		}
		low, high := math.MaxInt, 0
		for _, b := range w.ends() {
			v := l.vertex[b]
			low, high = min(low, rank[l.foot(v)]), max(high, rank[v])
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
		if rank[a] < rank[b] {
			a = l.above(a, b, rank)
		} else {
			b = l.above(b, a, rank)
		}
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
	l.stack(func(a, b, weight int) { lead(a, b, weight) })
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
	l.slim = make([]bool, n)
	for v := range l.slim {
		l.slim[v] = l.dummy[v] || v >= len(l.part.boxes) || len(l.column[v]) > 0
	}
	l.at, l.group, l.turn = make([]int, n), make([]int, n), make([]int, n)
	for v := range l.group {
		l.group[v] = -1
	}
	if l.g.Above != nil {
		for _, b := range l.part.boxes {
			if up := l.g.Above[b]; up >= 0 && (keep || l.g.keeps(up)) {
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
			out.Wires[w] = loop(l.g.Boxes[wire.From[0]].Size, out.Boxes[wire.From[0]], wire, 1, -1, 0)
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

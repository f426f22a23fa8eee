package tidy

import (
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// Web draws a graph freely: boxes that are joined come near each other, and the
// others are kept as far apart as the way between them is long. It minimises
// stress (Kamada and Kawai, 1989) by stochastic gradient descent (Zheng, Pawar
// and Goodman, Graph drawing by stochastic gradient descent, IEEE TVCG 25(9),
// 2019), always in the same order, then parts what overlaps.
func Web(g Graph, s Spacing, _ bool) Drawing {
	return inParts(g, s, func(p part) placed { return newWoven(&g, p, s).places() })
}

// inParts places the parts of a graph one by one, leads their lines, and packs
// them with the loose boxes.
func inParts(g Graph, s Spacing, place func(part) placed) Drawing {
	out := Drawing{Boxes: make([]Point, len(g.Boxes)), Wires: make([]Line, len(g.Wires))}
	var pieces []*piece
	parts, loose := partsOf(g)
	for _, p := range parts {
		at := place(p)
		for b, to := range at.boxes {
			out.Boxes[b] = to
		}
		lead(&g, &out, p, at)
		pieces = append(pieces, pieceOf(&g, &out, p))
	}
	pieces = append(pieces, rows(&g, &out, loose, s)...)
	pack(&g, &out, pieces, s.Part)
	return out
}

// placed is where the boxes of a part stand; with places wished for phrases, by
// their wires, and with wires that are led already.
type placed struct {
	boxes, wish map[int]Point
	led         map[int]*route.Line
}

// hub is the name of the vertex of a wire.
func hub(wire int) int { return -1 - wire }

// lead leads the wires of a part around its boxes.
func lead(g *Graph, out *Drawing, p part, at placed) {
	index := map[int]int{}
	boxes := make([]route.Rect, len(p.boxes))
	for i, b := range p.boxes {
		index[b], boxes[i] = i, geometry.At(out.Boxes[b], g.Boxes[b].Size)
	}
	wires := make([]route.Wire, len(p.wires))
	for i, w := range p.wires {
		wires[i].Phrase = g.Wires[w].Phrase
		for _, b := range g.Wires[w].ends() {
			wires[i].Ends = append(wires[i].Ends, index[b])
		}
		if wish, ok := at.wish[w]; ok {
			wires[i].Wish = &wish
		}
		wires[i].Led = at.led[w]
	}
	all := route.Lead
	if g.Quick {
		all = route.LeadQuickly
	}
	for i, line := range all(g.Stop, boxes, wires) {
		out.Wires[p.wires[i]] = Line(line)
	}
}

// woven is a part being drawn as a web. Its vertices are boxes, and phrases that
// have more than two ends.
type woven struct {
	g     *Graph
	part  part
	space Spacing
	names []int // of the vertices: a box, or the hub of a wire
	size  []Size
	near  [][]reach
	at    []Point
}

// reach is a neighbour and how far it should be.
type reach struct {
	to   int
	long float64
}

func newWoven(g *Graph, p part, s Spacing) *woven {
	w := &woven{g: g, part: p, space: s}
	index := map[int]int{}
	add := func(name int, size Size) int {
		index[name] = len(w.names)
		w.names, w.size, w.near = append(w.names, name), append(w.size, size), append(w.near, nil)
		return index[name]
	}
	for _, b := range p.boxes {
		add(b, g.Boxes[b].Size)
	}
	for _, i := range p.wires {
		wire := g.Wires[i]
		ends := wire.ends()
		switch {
		case self(wire):
		case len(ends) == 2:
			a, b := index[ends[0]], index[ends[1]]
			w.join(a, b, 1.3*(reaches(w.size[a])+reaches(w.size[b])+reaches(wire.Phrase)*1.3+s.Line))
		default:
			h := add(hub(i), wire.Phrase)
			for _, e := range ends {
				w.join(index[e], h, reaches(w.size[index[e]])+reaches(wire.Phrase)+s.Line)
			}
		}
	}
	return w
}

// reaches gives about how far a box reaches from its middle.
func reaches(s Size) float64 { return (s.W + s.H) / 4 }

func (w *woven) join(a, b int, long float64) {
	if a != b {
		w.near[a], w.near[b] = append(w.near[a], reach{b, long}), append(w.near[b], reach{a, long})
	}
}

// places gives where everything stands.
func (w *woven) places() placed {
	terms := w.terms()
	if w.g.Was != nil && !w.g.Loosely {
		w.hold(terms)
	}
	var best []Point
	least := math.MaxInt
	for try := range w.tries() {
		w.begin()
		gently := try%2 == 1
		if gently {
			w.radial()
		}
		w.relax(terms, shuffle(try+1), gently)
		w.stretch()
		w.growTo()
		w.clear()
		if w.tries() == 1 { // there is nothing to choose from
			best = w.at
			break
		}
		if n := w.clutter(); n < least {
			best, least = slices.Clone(w.at), n
		}
	}
	w.at = best
	at := placed{boxes: map[int]Point{}, wish: map[int]Point{}}
	for i, name := range w.names {
		if name >= 0 {
			at.boxes[name] = w.at[i]
		} else {
			at.wish[hub(name)] = w.at[i]
		}
	}
	return at
}

// term is a pair of vertices with the distance that they should have, and how much each of the
// two is drawn or pushed there.
type term struct {
	a, b           int32
	long           float32
	weighA, weighB float32
}

// relax lowers the stress.
func (w *woven) relax(terms []term, mix shuffle, gently bool) {
	if len(terms) == 0 {
		return
	}
	least, most := math.Inf(1), 0.0
	for _, t := range terms {
		weight := 1 / (float64(t.long) * float64(t.long))
		least, most = min(least, weight), max(most, weight)
	}
	rounds := 30
	if len(terms) > maxTerms/2 {
		rounds = 15
	}
	first, last := 1/least, 0.05/most
	if w.g.Was != nil || gently { // what stands well already is moved but a little
		first = 0.2 / most
	}
	cool := math.Log(first/last) / float64(rounds-1)
	for round := range rounds {
		step := first * math.Exp(-cool*float64(round))
		mix.terms(terms)
		w.g.Stop.TickBy(len(terms) / 8)
		for _, t := range terms {
			a, b := w.at[t.a], w.at[t.b]
			dx, dy := a.X-b.X, a.Y-b.Y
			d := math.Sqrt(dx*dx + dy*dy)
			if d < 1e-9 {
				dx, dy, d = 1e-3*float64(t.a+1), 1e-3, 1e-3
			}
			off := (d - float64(t.long)) / (2 * d)
			by, to := min(1, float64(t.weighA)*step)*off, min(1, float64(t.weighB)*step)*off
			w.at[t.a] = Point{X: a.X - by*dx, Y: a.Y - by*dy}
			w.at[t.b] = Point{X: b.X + to*dx, Y: b.Y + to*dy}
		}
	}
}

func (s *shuffle) terms(all []term) {
	for i := len(all) - 1; i > 0; i-- {
		j := s.below(i + 1)
		all[i], all[j] = all[j], all[i]
	}
}

// maxTerms bounds the pairs that are looked at: of large graphs, those with one of some pivots.
const maxTerms = 500_000

// How a web is stretched sideways, and pressed together in height.
const wider, flatter = 2.2, 0.8

// stretch makes the drawing wider than high, as slips and screens are: boxes that
// are wider than high would else be parted upwards and downwards for the most.
func (w *woven) stretch() {
	for i, p := range w.at {
		w.at[i] = Point{X: p.X * wider, Y: p.Y * flatter}
	}
}

// ways gives how long the shortest way is from a vertex to each (Dijkstra, with
// a heap).
func (w *woven) ways(from int) []float64 {
	w.g.Stop.TickBy(len(w.names) / 4)
	d := make([]float64, len(w.names))
	for i := range d {
		d[i] = math.Inf(1)
	}
	d[from] = 0
	open := []reach{{from, 0}}
	for len(open) > 0 {
		top := open[0]
		last := len(open) - 1
		open[0] = open[last]
		open = open[:last]
		for i := 0; ; {
			c := 2*i + 1
			if c >= len(open) {
				break
			}
			if c+1 < len(open) && open[c+1].long < open[c].long {
				c++
			}
			if open[i].long <= open[c].long {
				break
			}
			open[i], open[c] = open[c], open[i]
			i = c
		}
		if top.long > d[top.to] {
			continue
		}
		for _, r := range w.near[top.to] {
			if long := top.long + r.long; long < d[r.to] {
				d[r.to] = long
				open = append(open, reach{r.to, long})
				for i := len(open) - 1; i > 0 && open[(i-1)/2].long > open[i].long; i = (i - 1) / 2 {
					open[i], open[(i-1)/2] = open[(i-1)/2], open[i]
				}
			}
		}
	}
	return d
}

// clear parts what overlaps, phrases between two boxes among it.
func (w *woven) clear() {
	at, size := slices.Clone(w.at), slices.Clone(w.size)
	index := map[int]int{}
	for i, name := range w.names {
		index[name] = i
	}
	var weight []float64
	for range at {
		weight = append(weight, 1)
	}
	for _, i := range w.part.wires {
		wire := w.g.Wires[i]
		if ends := wire.ends(); len(ends) == 2 && !self(wire) && wire.Phrase.W > 0 {
			a, b := w.at[index[ends[0]]], w.at[index[ends[1]]]
			at, size, weight = append(at, Point{X: (a.X + b.X) / 2, Y: (a.Y + b.Y) / 2}), append(size, wire.Phrase), append(weight, 0.2)
		}
	}
	copy(w.at, route.Apart(w.g.Stop, at, size, weight, 26))
}

// growTo makes the drawing so large that what stands in it has room, before what overlaps is
// parted: then that changes little of how things lie to each other.
func (w *woven) growTo() {
	const roomy = 2.4
	low, high := Point{X: math.Inf(1), Y: math.Inf(1)}, Point{X: math.Inf(-1), Y: math.Inf(-1)}
	content := 0.0
	for i, p := range w.at {
		low, high = Point{X: min(low.X, p.X), Y: min(low.Y, p.Y)}, Point{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
		content += (w.size[i].W + 26) * (w.size[i].H + 26)
	}
	for _, i := range w.part.wires {
		if wire := w.g.Wires[i]; len(wire.ends()) == 2 {
			content += (wire.Phrase.W + 26) * (wire.Phrase.H + 26)
		}
	}
	by := math.Sqrt(roomy * content / max(1, (high.X-low.X)*(high.Y-low.Y)))
	if by <= 1 || w.g.Was != nil {
		return
	}
	for i, p := range w.at {
		w.at[i] = Point{X: p.X * by, Y: p.Y * by}
	}
}

// tries says from how many beginnings the stress is lowered: the drawing with
// the least clutter stands.
func (w *woven) tries() int {
	if w.g.Was != nil {
		return 1
	}
	switch n := len(w.names) + len(w.part.wires); {
	case n < 150:
		return 16
	case n < 400:
		return 8
	case n < 900:
		return 4
	}
	return 2
}

// clutter counts where straight lines would cross each other, or run through
// boxes.
func (w *woven) clutter() int {
	type stroke struct{ a, b int }
	var strokes []stroke
	for a, near := range w.near {
		for _, r := range near {
			if a < r.to {
				strokes = append(strokes, stroke{a, r.to})
			}
		}
	}
	lines, boxes := route.NewIndex(nil).Under(w.g.Stop), route.NewIndex(nil).Under(w.g.Stop)
	for i, p := range w.at {
		boxes.Add(geometry.At(p, w.size[i]))
	}
	n := 0
	for _, s := range strokes {
		a, b := w.at[s.a], w.at[s.b]
		boxes.Along(a, b, 4, func(id int, _ route.Rect) bool {
			if id != s.a && id != s.b {
				n += 2
			}
			return true
		})
		lines.Along(a, b, 1, func(id int, _ route.Rect) bool {
			if o := strokes[id]; o.a != s.a && o.a != s.b && o.b != s.a && o.b != s.b && route.Cross(a, b, w.at[o.a], w.at[o.b]) {
				n++
			}
			return true
		})
		lines.AddLine(a, b)
	}
	return n
}

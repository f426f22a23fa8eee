package tidy

import (
	"maps"
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/work"
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
	wish  map[int]Point // for phrases, by their wires
	// How a drawing that is taken up was stretched: sideways, and as a whole.
	wider, larger float64
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

// drawn gives where all stands now.
func (w *woven) drawn() placed {
	at := placed{boxes: map[int]Point{}, wish: map[int]Point{}}
	maps.Copy(at.wish, w.wish)
	for i, name := range w.names {
		if name >= 0 {
			at.boxes[name] = w.at[i]
		} else {
			at.wish[hub(name)] = w.at[i]
		}
	}
	return at
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

// clear parts what overlaps, phrases between two boxes among it; gently little by little.
func (w *woven) clear(gently bool) {
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
	if gently {
		c := &crowd{at: at, size: make([]Size, len(size)), tick: w.g.Stop.TickBy}
		for i, s := range size {
			c.size[i] = Size{W: s.W + w.gap(), H: s.H + w.gap()}
		}
		c.grow()
	}
	copy(w.at, route.Apart(w.g.Stop, at, size, weight, w.gap()))
}

// gap is what stays free between boxes, in pixels: more in a large web, in which lines have to
// pass.
func (w *woven) gap() float64 {
	if len(w.names) > manyToForce {
		return 26
	}
	return 18
}

// growTo makes the drawing so large that what stands in it has room, before what overlaps is
// parted: then that changes little of how things lie to each other. Both lets it shrink, too.
func (w *woven) growTo(roomy float64, both bool) {
	low, high := w.corners()
	content := 0.0
	for i := range w.at {
		content += (w.size[i].W + w.gap()) * (w.size[i].H + w.gap())
	}
	for _, i := range w.part.wires {
		if wire := w.g.Wires[i]; len(wire.ends()) == 2 {
			content += (wire.Phrase.W + w.gap()) * (wire.Phrase.H + w.gap())
		}
	}
	by := math.Sqrt(roomy * content / max(1, (high.X-low.X)*(high.Y-low.Y)))
	if by <= 1 && !both {
		return
	}
	for i, p := range w.at {
		w.at[i] = Point{X: p.X * by, Y: p.Y * by}
	}
}

// corners gives the corners of the room in which the middles stand.
func (w *woven) corners() (low, high Point) {
	low, high = Point{X: math.Inf(1), Y: math.Inf(1)}, Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range w.at {
		low, high = Point{X: min(low.X, p.X), Y: min(low.Y, p.Y)}, Point{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
	}
	return low, high
}

// clutter counts where straight lines would cross each other, or run through boxes.
func (w *woven) clutter() int {
	var lines [][2]int
	for a, near := range w.near {
		for _, r := range near {
			if a < r.to {
				lines = append(lines, [2]int{a, r.to})
			}
		}
	}
	return clutter(w.g.Stop, w.at, w.size, lines)
}

// clutter counts where straight lines between boxes cross each other, and twice where they run
// through boxes.
func clutter(stop *work.Limit, at []Point, size []Size, between [][2]int) int {
	lines, boxes := route.NewIndex(nil).Under(stop), route.NewIndex(nil).Under(stop)
	for i, p := range at {
		boxes.Add(geometry.At(p, size[i]))
	}
	n := 0
	for _, s := range between {
		a, b := at[s[0]], at[s[1]]
		boxes.Along(a, b, 4, func(id int, _ route.Rect) bool {
			if id != s[0] && id != s[1] {
				n += 2
			}
			return true
		})
		lines.Along(a, b, 1, func(id int, _ route.Rect) bool {
			if o := between[id]; o[0] != s[0] && o[0] != s[1] && o[1] != s[0] && o[1] != s[1] && route.Cross(a, b, at[o[0]], at[o[1]]) {
				n++
			}
			return true
		})
		lines.AddLine(a, b)
	}
	return n
}

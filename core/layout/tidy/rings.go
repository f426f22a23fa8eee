package tidy

import (
	"math"
	"slices"

	"mevrin/core/layout/route"
)

// Rings draws a graph around its root: what hangs from it on a ring, what hangs
// from that on the next, each branch in a sector as wide as it needs (radial
// trees: Eades, Drawing free trees, 1992). Clockwise from the top stands the
// order of siblings. Rings are wider than high, as slips and screens are.
func Rings(g Graph, s Spacing, keep bool) Drawing {
	return inParts(g, s, func(p part) placed {
		t := treeOf(&g, p)
		t.gather()
		r := ringed{tree: t, space: s, need: map[int]float64{}}
		r.radii()
		t.sift(p, keep, 1+len(p.boxes)/200, t.clockwise, r.around)
		at := r.place()
		if slices.ContainsFunc(r.rows, func(rows int) bool { return rows > crowdedRing }) {
			return r.clearer(at, r.balloon(keep), p)
		}
		return at
	})
}

// crowdedRing is how many may stand behind each other on a ring, before another drawing is
// thought of.
const crowdedRing = 2

// balloon draws each branch around its own top, where one ring around the root would have to
// hold too much.
func (r *ringed) balloon(keep bool) placed {
	b := &ballooned{kids: make([][]int, len(r.g.Boxes)), order: r.order, phrase: map[int]stemmed{}, ordered: func(v int) bool { return keep || r.g.keeps(v) }}
	for i, box := range r.g.Boxes {
		b.size, b.kids[i] = append(b.size, box.Size), slices.Clone(r.kids[i])
	}
	for _, v := range r.order[1:] {
		if w := r.wire[v]; w >= 0 && len(r.g.Wires[w].ends()) == 2 {
			b.phrase[v] = stemmed{w, r.g.Wires[w].Phrase}
		}
	}
	b.draw()
	at := placed{boxes: map[int]Point{}, wish: b.wish}
	for _, v := range r.order {
		at.boxes[v] = b.at[v]
	}
	return at
}

// clearer gives that of two drawings in which fewer straight lines cross or run through boxes;
// or that which is nearer to the drawing that is taken up.
func (r *ringed) clearer(a, b placed, p part) placed {
	if r.g.old(r.root) {
		far := func(d placed) float64 {
			sum := 0.0
			for _, v := range r.order {
				if r.g.old(v) {
					was, root, at := r.g.Was[v], r.g.Was[r.root], d.boxes[v]
					sum += math.Hypot(at.X-d.boxes[r.root].X-was.X+root.X, at.Y-d.boxes[r.root].Y-was.Y+root.Y)
				}
			}
			return sum
		}
		if far(a) <= far(b) {
			return a
		}
		return b
	}
	lines := sifting{tree: r.tree, part: p}
	lines.lines()
	of := func(d placed) int {
		at, size := make([]Point, len(r.g.Boxes)), make([]Size, len(r.g.Boxes))
		for v, to := range d.boxes {
			at[v], size[v] = to, r.g.Boxes[v].Size
		}
		return clutter(r.g.Stop, at, size, lines.ends)
	}
	const larger = 6 // than which it is no clearer to anybody
	if area(b) < larger*area(a) && of(b) < of(a) {
		return b
	}
	return a
}

// area is that of the room in which the middles of boxes stand.
func area(d placed) float64 {
	low, high := Point{X: math.Inf(1), Y: math.Inf(1)}, Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range d.boxes {
		low, high = Point{X: min(low.X, p.X), Y: min(low.Y, p.Y)}, Point{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
	}
	return (high.X - low.X) * (high.Y - low.Y)
}

type ringed struct {
	*tree
	space  Spacing
	radius []float64       // of each ring, and of a crowded one its inner edge
	rows   []int           // how many behind each other stand on a crowded ring
	step   []float64       // between these
	need   map[int]float64 // of each box with all below it, in radians
}

// reach gives how much of its ring a box takes, gaps included.
func (r *ringed) reach(b int) float64 {
	size := r.g.Boxes[b].Size
	return 0.5*size.W + 0.4*size.H + 0.6*r.space.Side
}

// radii makes each ring wide enough for what stands on it, and leaves room for
// phrases between it and the one before.
func (r *ringed) radii() {
	var round, tall, words []float64
	for _, b := range r.order {
		d := r.depth[b]
		for len(round) <= d {
			round, tall, words = append(round, 0), append(tall, 0), append(words, 0)
		}
		size := r.g.Boxes[b].Size
		round[d] += r.reach(b)
		tall[d] = max(tall[d], (size.W+size.H)/4)
		words[d] = max(words[d], (r.phrase(b).W+r.phrase(b).H)/2)
	}
	r.radius, r.rows, r.step = make([]float64, len(round)), make([]int, len(round)), make([]float64, len(round))
	outer := 0.0 // the outer edge of the ring before
	for d := 1; d < len(round); d++ {
		first := outer + tall[d-1] + words[d] + tall[d] + r.space.Line
		r.step[d] = 1.7*tall[d] + r.space.Line
		// As many rows as make the ring reach out least.
		reach := math.Inf(1)
		for rows := 1; rows <= 12; rows++ {
			radius := max(first, round[d]/(2*math.Pi)/float64(rows))
			if out := radius + float64(rows-1)*r.step[d]; out < reach-1 {
				reach, r.radius[d], r.rows[d] = out, radius, rows
			}
		}
		outer = reach
	}
	// What a branch needs is what its children need, or itself if that is more.
	for i := len(r.order) - 1; i > 0; i-- {
		b := r.order[i]
		r.need[b] = max(r.need[b], r.reach(b)/r.radius[r.depth[b]]/float64(r.rows[r.depth[b]]))
		r.need[r.up[b]] += r.need[b]
	}
	if all := r.need[r.root]; all > 2*math.Pi {
		for d := range r.radius {
			r.radius[d] *= math.Min(all/(2*math.Pi), 1.6)
		}
	}
}

// clockwise tells where a box stood around the root: from the top, or from what it hangs from,
// in radians.
func (t *tree) clockwise(b, up int) float64 {
	angle := func(c int) float64 {
		p, root := t.g.Was[c], t.g.Was[t.root]
		return math.Atan2((p.X-root.X)/1.25, (root.Y-p.Y)/0.9)
	}
	a := angle(b)
	if up != t.root && t.g.old(up) {
		return math.Remainder(a-angle(up), 2*math.Pi)
	}
	if a < 0 {
		a += 2 * math.Pi
	}
	return a
}

// wedge gives how far a branch may spread, in radians, so that lines within it cross no ring
// further in (Eades, 1992).
func (r *ringed) wedge(b int) float64 {
	d := r.depth[b]
	if d+1 >= len(r.radius) {
		return 0
	}
	return 2 * math.Acos(r.radius[d]/r.radius[d+1])
}

// place puts everything where it stands.
func (r *ringed) place() placed {
	at := placed{boxes: r.around(), wish: map[int]Point{}}
	points, size, weight := make([]Point, len(r.order)), make([]Size, len(r.order)), make([]float64, len(r.order))
	for i, b := range r.order {
		points[i], size[i], weight[i] = at.boxes[b], r.g.Boxes[b].Size, 1
		if r.g.old(b) && r.g.old(r.root) { // half of the way at a time
			const staying = 0.6
			was, root := r.g.Was[b], r.g.Was[r.root]
			points[i].X += staying * (was.X - root.X - points[i].X)
			points[i].Y += staying * (was.Y - root.Y - points[i].Y)
		}
	}
	weight[0] = route.Fixed
	for i, p := range route.Apart(r.g.Stop, points, size, weight, 18) {
		at.boxes[r.order[i]] = p
	}
	return at
}

// around gives places on the rings, where boxes may still overlap.
func (r *ringed) around() map[int]Point {
	at := map[int]Point{r.root: {}}
	from, to := map[int]float64{r.root: -math.Pi / 2}, map[int]float64{r.root: 1.5 * math.Pi}
	count := make([]int, len(r.radius))
	for _, b := range r.order {
		mid := (from[b] + to[b]) / 2
		if d := r.depth[b]; d > 0 {
			sin, cos := math.Sincos(mid)
			radius := r.radius[d] + float64(count[d]%r.rows[d])*r.step[d]
			count[d]++
			at[b] = Point{X: 1.25 * radius * cos, Y: 0.9 * radius * sin}
		}
		begin := from[b]
		for _, c := range r.kids[b] {
			share := (to[b] - from[b]) * r.need[c] / r.need[b]
			if b != r.root { // a branch does not spread over more than it needs, or than stays clear of others
				share = min(share, max(r.need[c]*1.5, r.wedge(c)))
			}
			from[c], to[c] = begin, begin+share
			begin += share
		}
		if kids := r.kids[b]; len(kids) > 0 {
			for _, c := range kids {
				off := (to[b] - begin) / 2
				from[c], to[c] = from[c]+off, to[c]+off
			}
		}
	}
	return at
}

package tidy

import (
	"math"
	"slices"

	"mevrin/core/geometry"
)

// ballooned is a tree drawn so that what hangs from a vertex stands around it, each branch in a
// wedge of its own (balloon drawings: Carrière and Kazman, 1995; Lin and Yen, On balloon
// drawings of rooted trees, JGAA 11(2), 2007): no lines cross, and nothing overlaps. All is
// reckoned in a plane that is squeezed sideways, in which slips are about as wide as high and
// taken for circles.
type ballooned struct {
	size    []Size           // of the vertices
	kids    [][]int          // of each, what hangs from it
	order   []int            // from the root on, each before what hangs from it
	phrase  map[int]stemmed  // wires by the vertex that hangs by them
	ordered func(v int) bool // what hangs from it keeps its order

	round  []float64 // the radius of each vertex
	stem   []float64 // half of what the phrase on the way to a vertex takes of it
	circle []float64 // the radius of each branch
	middle []float64 // of that circle, how far outwards of its vertex
	spots  [][]spot  // of the branches of each vertex

	at   []Point       // where the vertices stand
	wish map[int]Point // and phrases, by their wires
}

// stemmed is the wire by which a vertex hangs, and the room of its phrase.
type stemmed struct {
	wire int
	room Size
}

// spot is where a branch stands as seen from that from which it hangs.
type spot struct{ angle, far float64 }

const (
	squeezed   = 2.0 // how much narrower the plane is
	ballooning = 6.0 // around each circle
	manyLeaves = 12  // from how many on leaves stand in two rings
)

// draw places the vertices and phrases.
func (b *ballooned) draw() {
	n, root := len(b.size), b.order[0]
	b.round, b.stem, b.circle, b.middle, b.spots = make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n), make([][]spot, n)
	for _, v := range b.order {
		b.round[v] = reach2(b.size[v])
		if p, has := b.phrase[v]; has && p.room.W > 0 {
			b.stem[v] = reach2(p.room)
		}
	}
	for _, v := range slices.Backward(b.order) {
		b.branch(v, v == root)
	}
	// From the root outwards, clockwise from the top, each branch turned so that its axis leads
	// away from its parent.
	turn := make([]float64, n)
	turn[root] = -math.Pi / 2
	b.at, b.wish = make([]Point, n), map[int]Point{}
	for _, v := range b.order {
		for i, c := range b.kids[v] {
			s := b.spots[v][i]
			turn[c] = turn[v] + s.angle
			sin, cos := math.Sincos(turn[c])
			b.at[c] = Point{X: b.at[v].X + s.far*cos, Y: b.at[v].Y + s.far*sin}
			if p, has := b.phrase[c]; has && p.room.W > 0 {
				back := b.circle[c] - b.middle[c] + b.stem[c]
				b.wish[p.wire] = Point{X: (b.at[c].X - back*cos) * squeezed, Y: b.at[c].Y - back*sin}
			}
		}
	}
	for v, p := range b.at {
		b.at[v] = Point{X: p.X * squeezed, Y: p.Y}
	}
}

// balloon places a web that is a tree; false where it is none.
func (w *woven) balloon() bool {
	b, ok := w.hung()
	if !ok {
		return false
	}
	b.draw()
	const paper = 40_000 // pixels to each side
	if slices.ContainsFunc(b.at, func(p Point) bool { return math.Abs(p.X) > paper || math.Abs(p.Y) > paper }) {
		return false
	}
	w.at = b.at
	w.wish = b.wish
	return true
}

// wasBalloon tells that a tree stood as it is drawn so, and draws it anew.
func (w *woven) wasBalloon() bool {
	if !w.balloon() {
		w.wish = nil
		return false
	}
	var dx, dy []float64
	for v, name := range w.names {
		if name >= 0 && w.g.old(name) {
			dx, dy = append(dx, w.at[v].X-w.g.Was[name].X), append(dy, w.at[v].Y-w.g.Was[name].Y)
		}
	}
	if len(dx) == 0 {
		return false
	}
	x, y, near := geometry.Median(dx), geometry.Median(dy), 0
	for i := range dx {
		if math.Hypot(dx[i]-x, dy[i]-y) < 150 {
			near++
		}
	}
	if 3*near > 2*len(dx) {
		return true
	}
	w.wish = nil
	return false
}

// reach2 is how far something reaches in the squeezed plane, with what stays free around it.
func reach2(s Size) float64 { return math.Hypot(s.W/2/squeezed, s.H/2) + ballooning }

// hung hangs a tree from its middle.
func (w *woven) hung() (b *ballooned, ok bool) {
	n, ends := len(w.names), 0
	for _, near := range w.near {
		ends += len(near)
	}
	if ends != 2*(n-1) {
		return nil, false
	}
	far := func(from int) (order []int, up []int) {
		up = make([]int, n)
		for v := range up {
			up[v] = -1
		}
		up[from], order = from, []int{from}
		for i := 0; i < len(order); i++ {
			for _, r := range w.near[order[i]] {
				if up[r.to] < 0 {
					up[r.to] = order[i]
					order = append(order, r.to)
				}
			}
		}
		return order, up
	}
	// The middle of a longest way is the root.
	order, _ := far(0)
	end := order[len(order)-1]
	order, up := far(end)
	if len(order) != n {
		return nil, false
	}
	way := []int{order[n-1]}
	for v := order[n-1]; v != end; {
		v = up[v]
		way = append(way, v)
	}
	b = &ballooned{size: w.size, kids: make([][]int, n), phrase: map[int]stemmed{}, ordered: func(int) bool { return false }}
	b.order, up = far(way[len(way)/2])
	for _, v := range b.order[1:] {
		b.kids[up[v]] = append(b.kids[up[v]], v)
	}
	index := map[int]int{}
	for v, name := range w.names {
		index[name] = v
	}
	for _, i := range w.part.wires {
		wire := w.g.Wires[i]
		ends := wire.ends()
		if len(ends) != 2 || self(wire) {
			continue
		}
		x, y := index[ends[0]], index[ends[1]]
		if up[y] == x {
			b.phrase[y] = stemmed{i, wire.Phrase}
		} else {
			b.phrase[x] = stemmed{i, wire.Phrase}
		}
	}
	return b, true
}

// leaf tells that nothing hangs from a vertex.
func (b *ballooned) leaf(v int) bool { return len(b.kids[v]) == 0 }

// branch places what hangs from a vertex around it, and gives the circle around all that.
func (b *ballooned) branch(v int, root bool) {
	kids := b.kids[v]
	b.circle[v] = b.round[v]
	if len(kids) == 0 {
		return
	}
	if !b.ordered(v) { // leaves after the others, so that they can stand closer among themselves
		slices.SortStableFunc(kids, func(x, y int) int { return boolAsInt(b.leaf(x)) - boolAsInt(b.leaf(y)) })
	}
	room := 2 * math.Pi
	if !root {
		room -= 0.5 // through which the line from the parent comes
	}
	// How far out branches stand for their size: as little as lets all in.
	low, high := 1.0, 1.0
	for b.turn(v, high, nil) > room {
		high *= 2
	}
	for range 30 {
		if t := (low + high) / 2; b.turn(v, t, nil) > room {
			low = t
		} else {
			high = t
		}
	}
	spots := make([]spot, len(kids))
	used := b.turn(v, high, spots)
	if root {
		for i := range spots { // what is left is shared out
			spots[i].angle *= room / used
		}
	} else {
		spread := min(room/used, 1.4)
		for i := range spots {
			spots[i].angle = (spots[i].angle - used/2) * spread
		}
	}
	b.spots[v] = spots
	// The least circle with its middle on the axis.
	around := func(x float64) float64 {
		r := math.Abs(x) + b.round[v]
		for i, c := range kids {
			sin, cos := math.Sincos(spots[i].angle)
			far := spots[i].far + b.middle[c]
			r = max(r, math.Hypot(far*cos-x, far*sin)+b.circle[c])
		}
		return r
	}
	if root {
		b.circle[v] = around(0)
		return
	}
	left, right := -around(0), around(0)
	for range 60 {
		x, y := left+(right-left)/3, right-(right-left)/3
		if around(x) < around(y) {
			right = y
		} else {
			left = x
		}
	}
	b.middle[v] = (left + right) / 2
	b.circle[v] = around(b.middle[v])
}

func boolAsInt(is bool) int {
	if is {
		return 1
	}
	return 0
}

// turn goes round what hangs from a vertex, with branches so many times as far out as they are
// large, and gives the angle that all take; spots gets their places.
func (b *ballooned) turn(v int, out float64, spots []spot) float64 {
	angle := 0.0
	kids := b.kids[v]
	first := 0 // of the leaves
	for first < len(kids) && (b.ordered(v) || !b.leaf(kids[first])) {
		first++
	}
	place := func(i int, at, far float64) {
		if spots != nil {
			spots[i] = spot{at, far}
		}
	}
	leaves := kids[first:]
	if len(leaves) < manyLeaves || out < 1.5 { // a wedge for each of them, too
		first, leaves = len(kids), nil
	}
	for i, c := range kids[:first] {
		near := b.circle[c] - b.middle[c] // from its vertex to the edge of its circle
		far := max(b.round[v]+2*b.stem[c]+near, out*b.circle[c]-b.middle[c])
		half := math.Asin(min(1, b.circle[c]/(far+b.middle[c])))
		if b.stem[c] > 0 {
			half = max(half, math.Asin(min(1, b.stem[c]/max(b.stem[c], far-near-b.stem[c]))))
		}
		place(i, angle+half, far)
		angle += 2 * half
	}
	if len(leaves) == 0 {
		return angle
	}
	widest, stem := 0.0, 0.0
	for _, c := range leaves {
		widest, stem = max(widest, b.round[c]), max(stem, b.stem[c])
	}
	// In two rings: lines to the outer run between those that stand on the inner.
	inner := max(b.round[v]+2*stem+widest, out*widest)
	outer := inner + 2*widest + 2*stem
	half := max(math.Asin(min(1, widest/inner)), math.Asin(min(1, (stem+ballooning)/max(stem+ballooning, inner-widest-stem))))
	for i := range leaves {
		far := inner
		if i%2 == 1 {
			far = outer
		}
		angle += half
		place(first+i, angle, far)
	}
	return angle + half
}

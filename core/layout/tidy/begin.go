package tidy

import "math"

// hold lets what stood somewhere give way but little, and a little more where all is put in
// order again.
func (w *woven) hold(terms []term) {
	little := float32(0.03)
	if w.g.Loosely {
		little = 0.1
	}
	old := func(v int32) bool { name := w.names[v]; return name >= 0 && w.g.old(name) }
	for i := range terms {
		t := &terms[i]
		if old(t.a) {
			t.weighA *= little
		}
		if old(t.b) {
			t.weighB *= little
		}
	}
}

// begin puts the vertices on a spiral (of sunflower seeds: Vogel, A better way to
// construct the sunflower head, 1979), in the order in which they are met.
func (w *woven) begin() {
	n := len(w.names)
	w.at = make([]Point, n)
	if w.g.Was != nil {
		w.resume()
		return
	}
	seen := make([]bool, n)
	var order []int
	for v := range n {
		if seen[v] {
			continue
		}
		seen[v] = true
		order = append(order, v)
		for i := len(order) - 1; i < len(order); i++ {
			for _, r := range w.near[order[i]] {
				if !seen[r.to] {
					seen[r.to] = true
					order = append(order, r.to)
				}
			}
		}
	}
	for i, v := range order {
		sin, cos := math.Sincos(float64(i) * math.Pi * (3 - math.Sqrt(5)))
		r := 60 * math.Sqrt(float64(i))
		w.at[v] = Point{X: r * cos, Y: r * sin}
	}
}

// resume puts the vertices where they were, the middle of a phrase with several ends between
// them, and what is new beside what it is joined to.
func (w *woven) resume() {
	w.measure()
	known := make([]bool, len(w.names))
	for i, name := range w.names {
		if name >= 0 && w.g.old(name) {
			w.at[i], known[i] = Point{X: w.g.Was[name].X / (w.larger * w.wider), Y: w.g.Was[name].Y * w.wider / w.larger}, true
		}
	}
	for range 4 { // one after the other, as they hang from each other
		for i := range w.names {
			if known[i] {
				continue
			}
			sum, n, long := Point{}, 0.0, 0.0
			for _, r := range w.near[i] {
				if known[r.to] {
					sum, n, long = Point{X: sum.X + w.at[r.to].X, Y: sum.Y + w.at[r.to].Y}, n+1, r.long
				}
			}
			if n == 0 {
				continue
			}
			known[i] = true
			w.at[i] = Point{X: sum.X / n, Y: sum.Y / n}
			if n == 1 { // to the side where least is
				w.at[i] = w.emptiest(w.at[i], long, known)
			}
		}
	}
}

// measure tells how the drawing that is taken up was stretched: so that without it lines run as
// far sideways as up and down, and are as long as they should be.
func (w *woven) measure() {
	dx, dy, long, wanted := 0.0, 0.0, 0.0, 0.0
	each := func(do func(x, y float64, r reach)) {
		for v, near := range w.near {
			for _, r := range near {
				if a, b := w.names[v], w.names[r.to]; a >= 0 && b >= 0 && w.g.old(a) && w.g.old(b) {
					do(math.Abs(w.g.Was[a].X-w.g.Was[b].X), math.Abs(w.g.Was[a].Y-w.g.Was[b].Y), r)
				}
			}
		}
	}
	each(func(x, y float64, r reach) { dx, dy, wanted = dx+x, dy+y, wanted+r.long })
	w.wider, w.larger = 1, 1
	if dx == 0 || dy == 0 {
		return
	}
	w.wider = math.Sqrt(min(mostStretched, max(1/mostStretched, dx/dy)))
	each(func(x, y float64, _ reach) { long += math.Hypot(x/w.wider, y*w.wider) })
	w.larger = min(4, max(0.25, long/wanted))
}

// mostStretched is how much a web is stretched at most: boxes that are wider than high would else be
// parted upwards and downwards for the most.
const mostStretched = 2.75

// restore stretches as was the drawing that is taken up.
func (w *woven) restore() {
	for i, p := range w.at {
		w.at[i] = Point{X: p.X * w.larger * w.wider, Y: p.Y * w.larger / w.wider}
	}
}

// emptiest gives the place so far from another around which most is free.
func (w *woven) emptiest(from Point, far float64, known []bool) Point {
	best, most := from, -1.0
	for k := range 12 {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / 12)
		p := Point{X: from.X + far*cos, Y: from.Y + far*sin}
		nearest := math.Inf(1)
		for i, q := range w.at {
			if known[i] && q != from {
				nearest = min(nearest, distance(p, q))
			}
		}
		if nearest > most {
			best, most = p, nearest
		}
	}
	return best
}

// spread lays the drawing on its long side, and stretches it sideways as far as it is not
// wide already.
func (w *woven) spread() {
	var middle Point
	for _, p := range w.at {
		middle = Point{X: middle.X + p.X/float64(len(w.at)), Y: middle.Y + p.Y/float64(len(w.at))}
	}
	xx, yy, xy := 0.0, 0.0, 0.0
	for _, p := range w.at {
		dx, dy := p.X-middle.X, p.Y-middle.Y
		xx, yy, xy = xx+dx*dx, yy+dy*dy, xy+dx*dy
	}
	sin, cos := math.Sincos(-math.Atan2(2*xy, xx-yy) / 2)
	for i, p := range w.at {
		dx, dy := p.X-middle.X, p.Y-middle.Y
		w.at[i] = Point{X: dx*cos - dy*sin, Y: dx*sin + dy*cos}
	}
	const wanted = 1.8 // as wide as high
	low, high := w.corners()
	by := math.Sqrt(min(mostStretched, max(1, wanted*(high.Y-low.Y)/max(1, high.X-low.X))))
	for i, p := range w.at {
		w.at[i] = Point{X: p.X * by, Y: p.Y / by}
	}
}

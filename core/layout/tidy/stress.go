package tidy

import (
	"math"
	"slices"
)

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

// terms lists pairs with the length of the shortest way between them: all, or of a large graph
// those that are joined and those with one of some pivots, each of which stands for what lies
// around it (Ortmann, Klimenta and Brandes, A sparse stress model, JGAA 21(5), 2017).
func (w *woven) terms() []term {
	n := len(w.names)
	if n*n/2 <= maxTerms {
		var all []term
		for v := range n {
			for u, d := range w.ways(v) {
				if u > v && !math.IsInf(d, 1) {
					weight := float32(1 / (d * d))
					all = append(all, term{int32(v), int32(u), float32(d), weight, weight})
				}
			}
		}
		return all
	}
	var all []term
	for v, near := range w.near {
		for _, r := range near {
			if r.to > v {
				weight := float32(1 / (r.long * r.long))
				all = append(all, term{int32(v), int32(r.to), float32(r.long), weight, weight})
			}
		}
	}
	return append(all, w.pivotTerms(min(maxTerms/n, maxPivots))...)
}

// maxPivots bounds the pivots: more add little.
const maxPivots = 160

// pivotTerms gives the terms with some pivots. A vertex is drawn to, or pushed from, a pivot as
// much as by all around that pivot that are nearer to it than half way to the vertex.
func (w *woven) pivotTerms(count int) []term {
	n := len(w.names)
	nearest, region := make([]float64, n), make([]int, n)
	for v := range nearest {
		nearest[v] = math.Inf(1)
	}
	// Each pivot as far from those before it as may be.
	pivots, far, next := []int{}, [][]float64{}, 0
	for len(pivots) < count {
		d := w.ways(next)
		for v := range d {
			if d[v] < nearest[v] {
				nearest[v], region[v] = d[v], len(pivots)
			}
		}
		pivots, far = append(pivots, next), append(far, d)
		next = 0
		for v := range nearest {
			if !math.IsInf(nearest[v], 1) && nearest[v] > nearest[next] {
				next = v
			}
		}
		if nearest[next] == 0 {
			break
		}
	}
	around := make([][]float64, len(pivots)) // of each, the distances of those in its region
	for v, r := range region {
		if !math.IsInf(nearest[v], 1) {
			around[r] = append(around[r], nearest[v])
		}
	}
	place := make([]int, n)
	for v := range place {
		place[v] = -1
	}
	for i, p := range pivots {
		slices.Sort(around[i])
		place[p] = i
	}
	stands := func(pivot int, d float64) float32 {
		many, _ := slices.BinarySearch(around[pivot], d/2+1e-9)
		return float32(float64(max(1, many)) / (d * d))
	}
	var all []term
	for i, p := range pivots {
		joined := map[int]bool{p: true}
		for _, r := range w.near[p] {
			joined[r.to] = true
		}
		for v, d := range far[i] {
			if joined[v] || math.IsInf(d, 1) || place[v] >= 0 && place[v] < i {
				continue
			}
			t := term{int32(v), int32(p), float32(d), stands(i, d), 0}
			if place[v] >= 0 {
				t.weighB = stands(place[v], d)
			}
			all = append(all, t)
		}
	}
	return all
}

// radial puts the vertices as a tree around its middle, in which no lines cross but those that
// are no part of the tree: a beginning for what is nearly one.
func (w *woven) radial() {
	n := len(w.names)
	// The vertex from which the farthest is nearest, about: half way along a long way.
	last := func(from int) (int, []float64) {
		d := w.ways(from)
		best := from
		for v := range d {
			if !math.IsInf(d[v], 1) && d[v] > d[best] {
				best = v
			}
		}
		return best, d
	}
	end, _ := last(0)
	other, fromEnd := last(end)
	_, fromOther := last(other)
	root, least := 0, math.Inf(1)
	for v := range n {
		if m := max(fromEnd[v], fromOther[v]); m < least {
			root, least = v, m
		}
	}
	up, kids, order := make([]int, n), make([][]int, n), []int{root}
	for v := range up {
		up[v] = -1
	}
	up[root] = root
	for i := 0; i < len(order); i++ {
		for _, r := range w.near[order[i]] {
			if up[r.to] < 0 {
				up[r.to] = order[i]
				kids[order[i]] = append(kids[order[i]], r.to)
				order = append(order, r.to)
			}
		}
	}
	need := make([]float64, n)
	for _, v := range slices.Backward(order) {
		need[v] = max(need[v], 1)
		if up[v] != v {
			need[up[v]] += need[v]
		}
	}
	far := w.ways(root)
	from, to := make([]float64, n), make([]float64, n)
	to[root] = 2 * math.Pi
	for _, v := range order {
		sin, cos := math.Sincos((from[v] + to[v]) / 2)
		w.at[v] = Point{X: far[v] * cos, Y: far[v] * sin}
		sum := 0.0
		for _, c := range kids[v] {
			sum += need[c]
		}
		begin := from[v]
		for _, c := range kids[v] {
			from[c] = begin
			begin += (to[v] - from[v]) * need[c] / sum
			to[c] = begin
		}
	}
}

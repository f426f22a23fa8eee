package tidy

import (
	"math"
	"slices"
)

// middle gives how far down the middle of a vertex is.
func (l *levelled) middle(v int) float64 {
	if l.y != nil {
		return l.y[v]
	}
	return l.top[l.of[v]] + l.tall[l.of[v]]/2
}

// apart gives the least distance of the middles of two vertices beside each
// other.
func (l *levelled) apart(u, v int) float64 {
	gap := l.space.Side
	if l.dummy[u] || l.dummy[v] {
		gap = l.space.Line
	}
	return l.size[u].W/2 + gap + l.size[v].W/2
}

// staying is the force with which what stood somewhere before stays there, against that by
// which a neighbour draws it.
const staying = 15

// atRest is by how much a vertex moves in a round when nothing is to be gained any more, in pixels.
const atRest = 0.02

// forces gives with how much force each vertex is drawn by each of its neighbours.
func (l *levelled) forces() (all [2][][]float64) {
	force := func(u, v int) float64 {
		switch {
		case l.storey[u] && (l.storey[v] || len(l.column[v]) > 0) || l.storey[v] && len(l.column[u]) > 0:
			return 60 // of one box, or nearly so
		case l.dummy[u] && l.dummy[v]:
			return 8
		case l.dummy[u] || l.dummy[v]:
			return 2
		}
		return 1
	}
	for side := range all {
		all[side] = make([][]float64, len(l.near[side]))
		for v, near := range l.near[side] {
			for _, h := range near {
				all[side][v] = append(all[side][v], force(v, h.v))
			}
		}
	}
	return all
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
	if l.wish != nil {
		copy(l.x, l.wish)
	}
	forces := l.forces()
	var s spreader
	var wish, weight []float64
	moved := 0.0
	settle := func(i int, sides ...int) {
		wish, weight = wish[:0], weight[:0]
		for _, v := range l.row[i] {
			sum, all := 0.0, 0.0
			for _, side := range sides {
				near, force := l.near[side][v], forces[side][v]
				for k := range near {
					sum += force[k] * l.x[near[k].v]
					all += force[k]
				}
			}
			if l.held != nil && l.held[v] {
				sum, all = sum+staying*l.wish[v], all+staying
			}
			if all == 0 {
				sum, all = l.x[v]*0.01, 0.01
			}
			wish, weight = append(wish, sum/all), append(weight, all)
		}
		for j, x := range s.spread(wish, weight, apart[i]) {
			moved = max(moved, math.Abs(x-l.x[l.row[i][j]]))
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
		moved = 0
		for i := range l.row {
			settle(i, 0, 1)
		}
		for i := len(l.row) - 1; i >= 0; i-- {
			settle(i, 0, 1)
		}
		if moved < atRest {
			break
		}
	}
	if l.wish == nil {
		l.squeeze(apart)
	}
	l.plumb(apart)
}

// squeeze brings everything nearer to the middle where no level needs all of the width, so
// that less of the sheet is empty: all by one factor, as far as distances allow.
func (l *levelled) squeeze(apart [][]float64) {
	const loose, least = 1.2, 0.85
	low, high, need := math.Inf(1), math.Inf(-1), 0.0
	for i, row := range l.row {
		sum := 0.0
		for j, v := range row {
			low, high = min(low, l.x[v]-l.size[v].W/2), max(high, l.x[v]+l.size[v].W/2)
			sum += apart[i][j]
		}
		need = max(need, sum)
	}
	wide := max(1, high-low)
	by := max(least, loose*need/wide)
	if _, tall := l.extent(); l.g.Fold && wide*by > widest*tall { // as a ribbon it can be less well
		by = max(loose*need/wide, widest*tall/wide)
	}
	if by >= 1 {
		return
	}
	middle := (low + high) / 2
	for i, row := range l.row {
		wish, weight := make([]float64, len(row)), make([]float64, len(row))
		for j, v := range row {
			wish[j], weight[j] = middle+(l.x[v]-middle)*by, 1
		}
		for j, x := range spread(wish, weight, apart[i]) {
			l.x[row[j]] = x
		}
	}
}

// plumb lets each line that passes several levels hang straight where the
// others on those levels leave room.
func (l *levelled) plumb(apart [][]float64) {
	columns := make([]chain, 0, len(l.column))
	for v, storeys := range l.column {
		columns = append(columns, slices.Concat(chain{-1, v}, storeys, chain{-1}))
	}
	slices.SortFunc(columns, func(a, b chain) int { return a[1] - b[1] })
	for _, chains := range append([][]chain{columns}, l.chains...) {
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
	if l.downBeside() {
		return
	}
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
		y0, y1 := l.slope(u, v)
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

// slope gives where a line to a vertex on the next level begins and ceases to run aslant.
func (l *levelled) slope(u, v int) (y0, y1 float64) {
	switch {
	case l.of[u] > l.of[v]:
		y1, y0 = l.slope(v, u)
		return y0, y1
	case l.y != nil:
		s := l.aslant[[2]int{u, v}]
		return s[0], s[1]
	}
	return l.top[l.of[u]] + l.tall[l.of[u]], l.top[l.of[v]]
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
	if l.dummy[v] || v >= len(l.part.boxes) { // lines meet in the middle of a phrase
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

package tidy

import (
	"cmp"
	"math"
	"slices"
)

// skyline finds how high each vertex stands where boxes are as high as several levels (regions,
// and branches drawn by themselves): what stands beside such a box goes on beside it, and only
// what stands below it in truth waits for its end. Level by level each vertex comes as high as
// what was placed above it and the lines that lead to it let it; those of one level that one
// vertex leads to stay side by side.
type skyline struct {
	*levelled
	usual  []float64 // how high other vertices of a level are at most
	floors []floor
	done   []int // vertices that are placed
}

// floor is from where on, between two places across, the vertices of lower levels may stand.
type floor struct{ left, right, y float64 }

// downBeside finds the height of each vertex by a skyline, where any box towers; false where
// none does, or where there are too many vertices to look at.
func (l *levelled) downBeside() bool {
	const many = 3000
	if len(l.size) > many || !slices.ContainsFunc(l.part.boxes, func(b int) bool { return l.g.towers(b) }) {
		return false
	}
	s := skyline{levelled: l, usual: make([]float64, len(l.row))}
	l.y, l.aslant = make([]float64, len(l.size)), map[[2]int][2]float64{}
	for i, row := range l.row {
		for _, v := range row {
			if !l.towering(v) {
				s.usual[i] = max(s.usual[i], l.size[v].H)
			}
		}
	}
	for i := range l.row {
		s.place(i)
	}
	for i, row := range l.row { // from the top to the middle
		for _, v := range row {
			l.y[v] += s.high(v, i) / 2
		}
	}
	return true
}

// high is how much room a vertex takes on its level.
func (s *skyline) high(v, layer int) float64 {
	switch {
	case s.light(v):
		return 0
	case s.towering(v):
		return s.size[v].H
	}
	return s.usual[layer]
}

// light tells that a vertex takes no room of its own.
func (s *skyline) light(v int) bool { return s.dummy[v] || s.storey[v] }

// place finds the tops of the vertices of a layer.
func (s *skyline) place(layer int) {
	row := s.row[layer]
	for _, v := range row {
		for _, h := range s.near[0][v] {
			from, to := s.port(h.v, v), s.port(v, h.v)
			left, right := min(from, to), max(from, to)
			y := s.lowest(left-s.space.Line, right+s.space.Line, s.y[h.v]+s.high(h.v, layer-1))
			from, to = y, y
			if right-left > 1 || !s.light(v) {
				to += s.space.Level
			}
			s.aslant[[2]int{h.v, v}] = [2]float64{from, to}
			s.floors = append(s.floors, floor{left, right, to})
		}
	}
	head := make(map[int]int, len(row)) // the first of those that stand side by side
	first := math.Inf(1)
	for _, v := range row {
		half := s.size[v].W/2 + s.space.Line
		s.y[v] = 0
		if len(s.done) > 0 {
			if y := s.lowest(s.x[v]-half, s.x[v]+half, math.Inf(-1)); !math.IsInf(y, -1) && !s.light(v) {
				s.y[v] = y + s.space.Level
			}
		}
		for _, f := range s.floors {
			if f.left < s.x[v]+half && f.right > s.x[v]-half {
				s.y[v] = max(s.y[v], f.y)
			}
		}
		if head[v] = v; s.light(v) {
			continue
		}
		if len(s.near[0][v]) > 0 {
			first = min(first, s.y[v])
		}
		for _, u := range row {
			if u == v {
				break
			}
			if !s.light(u) && s.akin(u, v) {
				head[v] = head[u]
			}
		}
	}
	if math.IsInf(first, 1) {
		first = 0
	}
	for range 2 { // kin, and those that are nearly as high, stand on one line
		low := map[int]float64{}
		for _, v := range row {
			if len(s.near[0][v]) == 0 && !s.light(v) {
				s.y[v] = max(s.y[v], first)
			}
			low[head[v]] = max(low[head[v]], s.y[v])
		}
		for _, v := range row {
			s.y[v] = low[head[v]]
		}
		const near = 24
		byHeight := slices.DeleteFunc(slices.Clone(row), func(v int) bool { return s.light(v) })
		slices.SortStableFunc(byHeight, func(a, b int) int { return cmp.Compare(s.y[b], s.y[a]) })
		for i := 1; i < len(byHeight); i++ {
			if v, u := byHeight[i], byHeight[i-1]; s.y[u]-s.y[v] < near {
				s.y[v] = s.y[u]
			}
		}
	}
	s.done = append(s.done, row...)
}

// akin tells that one vertex leads down to both.
func (s *skyline) akin(u, v int) bool {
	for _, a := range s.near[0][u] {
		if !s.light(a.v) && slices.ContainsFunc(s.near[0][v], func(b half) bool { return b.v == a.v }) {
			return true
		}
	}
	return false
}

// lowest gives how far down what is placed reaches between two places across, and no less than
// that.
func (s *skyline) lowest(left, right, least float64) float64 {
	s.stop.TickBy(1 + len(s.done)/16)
	for _, v := range s.done {
		if half := s.size[v].W / 2; !s.light(v) && s.x[v]-half < right && s.x[v]+half > left {
			least = max(least, s.y[v]+s.high(v, s.of[v]))
		}
	}
	return least
}

package tidy

import (
	"slices"

	"mevrin/core/work"
)

// layers are the vertices of a layered drawing in their order on each layer.
type layers struct {
	row   [][]int
	at    []int // the place of each vertex on its layer
	of    []int // the layer of each vertex
	near  [2][][]half
	group []int  // vertices of one group keep their order, -1 for none
	turn  []int  // the order within the group
	held  []bool // vertices that keep the order in which they stand; nil for none
	stop  *work.Limit
	// compared counts how many neighbours were compared.
	compared int
	// slim tells of vertices that belong to a line, or to the storeys of a box: nil for none.
	slim  []bool
	spans []span // of each vertex
}

// half is one end of a segment: the vertex at the other, and how many lines
// the segment stands for.
type half struct{ v, weight int }

func (l *layers) place(layer int) {
	for i, v := range l.row[layer] {
		l.at[v] = i
	}
}

// join adds a segment from a vertex to one on the next layer.
func (l *layers) join(upper, lower, weight int) {
	l.near[0][lower] = append(l.near[0][lower], half{upper, weight})
	l.near[1][upper] = append(l.near[1][upper], half{lower, weight})
}

// crossings counts the crossings of all segments, each with its weight, by a
// tree of sums (Barth, Jünger and Mutzel, Simple and efficient bilayer cross
// counting, 2002).
func (l *layers) crossings() int {
	l.stop.TickBy(len(l.of))
	sum := 0
	var tree []int
	for layer := 0; layer+1 < len(l.row); layer++ {
		n := len(l.row[layer+1])
		if cap(tree) < n+1 {
			tree = make([]int, n+1)
		}
		tree = tree[:n+1]
		clear(tree)
		total := 0
		for _, v := range l.row[layer] {
			for _, h := range l.near[1][v] {
				below := 0
				for i := l.at[h.v] + 1; i > 0; i -= i & -i {
					below += tree[i]
				}
				sum += (total - below) * h.weight
			}
			for _, h := range l.near[1][v] {
				total += h.weight
				for i := l.at[h.v] + 1; i <= n; i += i & -i {
					tree[i] += h.weight
				}
			}
		}
	}
	return sum
}

// span tells where the segments of a vertex end on the two layers beside its own: the first
// and the last place, and for how many lines they stand. While vertices of one layer change
// places, it stays.
type span struct {
	first, last, lines [2]int32
	// cost is what comparing the vertex with another counts as.
	cost int32
}

// reach sorts the neighbours of the vertices of a layer by their places, and gives the span
// of each.
func (l *layers) reach(layer int) {
	if len(l.spans) < len(l.at) {
		l.spans = make([]span, len(l.at))
	}
	for _, v := range l.row[layer] {
		s := &l.spans[v]
		for side := range 2 {
			near := l.near[side][v]
			if s.lines[side] = 0; len(near) == 0 {
				continue
			}
			if len(near) > 1 {
				slices.SortFunc(near, func(a, b half) int { return l.at[a.v] - l.at[b.v] })
			}
			for _, h := range near {
				s.lines[side] += int32(h.weight)
			}
			s.first[side], s.last[side] = int32(l.at[near[0].v]), int32(l.at[near[len(near)-1].v])
		}
		s.cost = int32(len(l.near[0][v]) + len(l.near[1][v]))
	}
}

// pair gives the crossings of the segments at two vertices of a layer, if the
// first stands before the second and if it stands behind. Their spans must be known.
func (l *layers) pair(u, v int) (before, behind int) {
	l.stop.Tick()
	a, b := &l.spans[u], &l.spans[v]
	l.compared += 1 + max(0, int(a.cost+b.cost)-8)/3
	for side := range 2 {
		// Most reach to one side of each other.
		switch all := int(a.lines[side] * b.lines[side]); {
		case all == 0:
		case a.last[side] < b.first[side]:
			behind += all
		case a.first[side] > b.last[side]:
			before += all
		default:
			fewer, more := l.merge(side, u, v)
			before, behind = before+fewer, behind+more
		}
	}
	return before, behind
}

// merge does so for the segments on one side.
func (l *layers) merge(side, u, v int) (before, behind int) {
	a := l.near[side][u]
	i, passed, same, all := 0, 0, 0, int(l.spans[u].lines[side])
	for _, h := range l.near[side][v] {
		p := l.at[h.v]
		for i < len(a) && l.at[a[i].v] < p {
			passed += a[i].weight
			i++
		}
		same = 0
		for j := i; j < len(a) && l.at[a[j].v] == p; j++ {
			same += a[j].weight
		}
		before += (all - passed - same) * h.weight
		behind += passed * h.weight
	}
	return before, behind
}

// bound tells whether two vertices must keep their order.
func (l *layers) bound(u, v int) bool {
	return l.group[u] >= 0 && l.group[u] == l.group[v] || l.held != nil && l.held[u] && l.held[v]
}

// sift moves each vertex of a layer to where it crosses least, as far as a
// window reaches (Matuszewski, Schönfeld and Molitor, Using sifting for k-layer
// straightline crossing minimization, 1999). It gives what was won.
func (l *layers) sift(layer, window int) int {
	row := l.row[layer]
	if len(row) < 2 {
		return 0
	}
	l.reach(layer)
	won := 0
	for _, v := range slices.Clone(row) {
		l.stop.TickBy(1 + len(l.near[0][v]) + len(l.near[1][v]))
		here := l.at[v]
		best, to := 0, here
		for way := -1; way <= 1; way += 2 {
			delta := 0
			for i := here + way; i >= 0 && i < len(row) && (i-here)*way <= window; i += way {
				u := row[i]
				if l.bound(u, v) {
					break
				}
				before, behind := l.pair(u, v)
				if way < 0 { // u comes to stand behind v
					delta += behind - before
				} else {
					delta += before - behind
				}
				if delta < best {
					best, to = delta, i
				}
			}
		}
		if best < 0 {
			row = slices.Delete(row, here, here+1)
			row = slices.Insert(row, to, v)
			l.row[layer] = row
			l.place(layer)
			won -= best
		}
	}
	return won
}

// sweep orders each layer by the weighted mean place of its neighbours on one
// side (the barycentre method of Sugiyama, Tagawa and Toda, 1981).
func (l *layers) sweep(down bool, turned bool) {
	key := make([]float64, len(l.at))
	for i := range l.row {
		layer, side := i, 0
		if !down {
			layer, side = len(l.row)-1-i, 1
		}
		row := l.row[layer]
		for _, v := range row {
			sum, weight := 0.0, 0.0
			for _, h := range l.near[side][v] {
				sum += float64(l.at[h.v] * h.weight)
				weight += float64(h.weight)
			}
			if key[v] = -1; weight > 0 {
				key[v] = sum / weight
			}
		}
		// What has no neighbour there keeps its place.
		var moving []int
		var slots []int
		for at, v := range row {
			if key[v] >= 0 {
				moving = append(moving, v)
				slots = append(slots, at)
			}
		}
		if turned {
			slices.Reverse(moving) // equal ones change places
		}
		slices.SortStableFunc(moving, func(a, b int) int {
			switch {
			case key[a] < key[b]:
				return -1
			case key[a] > key[b]:
				return 1
			}
			return 0
		})
		for i, v := range moving {
			row[slots[i]] = v
		}
		l.regroup(layer)
		l.place(layer)
	}
}

// regroup puts the members of each group in their order, in the places that
// they have together.
func (l *layers) regroup(layer int) {
	slots := map[int][]int{}
	members := map[int][]int{}
	row := l.row[layer]
	for i, v := range row {
		if g := l.group[v]; g >= 0 {
			slots[g] = append(slots[g], i)
			members[g] = append(members[g], v)
		}
	}
	for g, all := range members {
		slices.SortStableFunc(all, func(a, b int) int { return l.turn[a] - l.turn[b] })
		for i, at := range slots[g] {
			row[at] = all[i]
		}
	}
}

func (l *layers) keep() [][]int {
	rows := make([][]int, len(l.row))
	for i, row := range l.row {
		rows[i] = slices.Clone(row)
	}
	return rows
}

func (l *layers) restore(rows [][]int) {
	for i, row := range rows {
		copy(l.row[i], row)
		l.place(i)
	}
}

// untangle finds an order with few crossings: sweeps with sifting from several
// beginnings, for as long as the work takes, in comparisons of two neighbours. The order
// given is the first beginning.
func (l *layers) untangle(work int, mix shuffle) {
	size := len(l.at)
	for i := range l.row {
		l.regroup(i)
		l.place(i)
	}
	rounds, window := 14, 1<<30
	if size > 500 {
		rounds, window = 12, 80
	}
	if size > 1500 {
		rounds, window = 8, 24
	}
	best, least := l.keep(), l.crossings()
	first := l.keep()
	until := l.compared + work
	idle := 0 // beginnings since the last that led to fewer
	for try := 0; (try == 0 || l.compared < until) && idle < mostIdle && least > 0; try++ {
		idle++
		if try > 0 {
			l.restore(first)
		}
		if try > 1 {
			for i, row := range l.row {
				mix.row(row)
				l.regroup(i)
				l.place(i)
			}
		}
		stale := 0
		for round := 0; round < rounds && stale < 3; round++ {
			l.sweep((round+try)%2 == 0, round%4 > 1)
			for i := range l.row {
				l.sift(i, window)
			}
			if now := l.crossings(); now < least {
				best, least, stale, idle = l.keep(), now, 0, 0
			} else {
				stale++
			}
		}
	}
	l.restore(best)
	if work > quickLook && size <= mostForBlocks && least > 0 {
		l.polish(best, least)
	}
	// What is best so far is improved until nothing moves.
	for range 12 {
		won := 0
		for i := range l.row {
			won += l.sift(i, window)
		}
		for i := len(l.row) - 1; i >= 0; i-- {
			won += l.sift(i, window)
		}
		if won == 0 {
			break
		}
	}
}

// polish moves whole blocks, as long as that leaves fewer crossings.
func (l *layers) polish(best [][]int, least int) {
	for range 4 {
		l.siftBlocks(2)
		for range 2 {
			for i := range l.row {
				l.sift(i, 1<<30)
			}
		}
		now := l.crossings()
		if now >= least {
			break
		}
		best, least = l.keep(), now
	}
	l.restore(best)
}

// mostForBlocks is up to how many vertices whole blocks are moved: in larger drawings that won
// next to nothing, and took long.
const mostForBlocks = 1000

// mostIdle is after how many beginnings that gave nothing better the search ends.
const mostIdle = 100

// shuffle mixes orders, always in the same way: xorshift of Marsaglia, Xorshift
// RNGs, 2003.
type shuffle uint64

func (s *shuffle) row(row []int) {
	for i := len(row) - 1; i > 0; i-- {
		j := s.below(i + 1)
		row[i], row[j] = row[j], row[i]
	}
}

// below gives the next number of a sequence, less than n.
func (s *shuffle) below(n int) int {
	*s ^= *s << 13
	*s ^= *s >> 7
	*s ^= *s << 17
	return int(uint64(*s) % uint64(n))
}

// spreadSeeds makes seeds that begin unlike each other out of 1, 2, 3 …: 2⁶⁴ divided by the
// golden section (Steele, Lea and Flood, Fast splittable pseudorandom number generators, 2014).
const spreadSeeds = 0x9E3779B97F4A7C15

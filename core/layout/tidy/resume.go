package tidy

import (
	"cmp"
	"math"
	"slices"

	"mevrin/core/geometry"
)

// resume takes up the levels and the order of the drawing before, so that little moves:
// what is new finds its place among what stands, and only lines and phrases change places
// besides. It gives nil where the boxes do not stand on levels.
func resume(g *Graph, p part, s Spacing, wires []Wire, keep bool) *levelled {
	l := vertices(g, p, s, wires, byHierarchy) // each line bends in its middle, for two boxes on one level
	rank := l.levelsBefore(wires)
	if rank == nil {
		return nil
	}
	l.chain(wires, rank)
	l.begin(g.downwards(p.boxes, false), keep)
	l.orderBefore()
	for range 6 {
		won := 0
		for i := range l.row {
			won += l.sift(i, 1<<30)
		}
		if won == 0 {
			break
		}
	}
	return l
}

// old tells that a box stood somewhere before.
func (g *Graph) old(b int) bool { return g.Was != nil && !g.Fresh[b] }

// besideLevel is how far off its level a box may stand, in pixels: places are rounded.
const besideLevel = 3.0

// levelsBefore finds the levels on which boxes stand, and those of the new ones among them.
func (l *levelled) levelsBefore(wires []Wire) []int {
	levels := l.levelsStood()
	if len(levels) == 0 || len(levels) > 8 && len(levels)*2 > len(l.part.boxes) {
		return nil
	}
	level := map[int]int{}
	for _, b := range l.part.boxes {
		switch {
		case !l.g.old(b):
		case l.towering(l.vertex[b]):
			level[b] = l.levelOfTop(b, levels)
		default:
			level[b] = nearest(levels, l.g.Was[b].Y)
		}
	}
	l.levelsOfNew(wires, level)
	least := 0
	for _, at := range level {
		least = min(least, at)
	}
	reach := l.storeysBefore(level, levels)
	l.raise(func(b int) int { return reach[b] })
	rank := make([]int, len(l.size))
	for _, b := range l.part.boxes {
		v := l.vertex[b]
		rank[v] = 2 * (level[b] - least)
		for i, storey := range l.column[v] {
			rank[storey] = rank[v] + 1 + i
		}
	}
	for i, w := range wires {
		if l.phrase[i] < 0 {
			continue
		}
		// Beside the one end, where there are several at the other.
		low, high := math.MaxInt, 0
		for _, b := range w.ends() {
			v := l.vertex[b]
			low, high = min(low, rank[l.foot(v)]), max(high, rank[v])
		}
		rank[l.phrase[i]] = low + 1
		if len(w.To) == 1 && len(w.From) == 1 || len(w.From) > 1 {
			rank[l.phrase[i]] = max(low+1, high-1)
		}
	}
	return rank
}

// levelsStood gives the heights of the levels on which the boxes stand. Some may have been pushed
// off theirs by what a hand placed: where several stand is a level, and one that stands alone
// belongs to the nearest, unless it is as far off as levels are.
func (l *levelled) levelsStood() (levels []float64) {
	var ys []float64
	lowest := math.Inf(1) // of the boxes
	for _, b := range l.part.boxes {
		if l.g.old(b) && !l.towering(l.vertex[b]) {
			ys, lowest = append(ys, l.g.Was[b].Y), min(lowest, l.g.Boxes[b].H)
		}
	}
	slices.Sort(ys)
	beside := besideLevel
	if slices.ContainsFunc(l.part.boxes, func(b int) bool { return l.towering(l.vertex[b]) }) {
		beside = l.g.usualHeight() // what stands beside a box that towers is on no common level
	}
	type row struct {
		y float64
		n int
	}
	var rows []row
	for _, y := range ys {
		if n := len(rows); n > 0 && y <= rows[n-1].y+beside {
			rows[n-1].n++
		} else {
			rows = append(rows, row{y, 1})
		}
	}
	slices.SortStableFunc(rows, func(a, b row) int { return cmp.Compare(b.n, a.n) })
	apart, common := max(beside, 0.75*(lowest+l.space.Level)), 0
	for _, r := range rows {
		if r.n > 1 {
			common++
		} else if common > 1 {
			apart, common = max(apart, 0.55*pitch(levels)), 0
		}
		if at := nearest(levels, r.y); at < 0 || math.Abs(levels[at]-r.y) > apart {
			levels = append(levels, r.y)
		}
	}
	slices.Sort(levels)
	return levels
}

// pitch gives the median distance from one level to the next; 0 of fewer than two.
func pitch(levels []float64) float64 {
	if len(levels) < 2 {
		return 0
	}
	sorted, gaps := slices.Sorted(slices.Values(levels)), make([]float64, 0, len(levels)-1)
	for i, y := range sorted[1:] {
		gaps = append(gaps, y-sorted[i])
	}
	return geometry.Median(gaps)
}

// nearest gives which height lies nearest to one; -1 where there are none.
func nearest(heights []float64, y float64) int {
	best := -1
	for i, h := range heights {
		if best < 0 || math.Abs(h-y) < math.Abs(heights[best]-y) {
			best = i
		}
	}
	return best
}

// levelOfTop gives the level on which a box begins that may be as high as several.
func (l *levelled) levelOfTop(b int, levels []float64) int {
	top := l.g.Was[b].Y - l.g.Boxes[b].H/2
	at, _ := slices.BinarySearch(levels, top)
	return min(at, len(levels)-1)
}

// storeysBefore gives for boxes that tower how many further levels, those of phrases among them,
// lie between their top and their bottom; no more than leave room for what hangs below.
func (l *levelled) storeysBefore(level map[int]int, levels []float64) map[int]int {
	storeys := map[int]int{}
	for _, b := range l.part.boxes {
		if !l.towering(l.vertex[b]) {
			continue
		}
		if !l.g.old(b) {
			storeys[b] = l.storeysByHeight(b)
			continue
		}
		bottom, n := l.g.Was[b].Y+l.g.Boxes[b].H/2, 0
		for _, y := range levels[max(0, level[b]):] {
			if y < bottom {
				n++
			}
		}
		for _, o := range l.part.boxes {
			if l.g.Above[o] == b && level[o] > level[b] {
				n = min(n, level[o]-level[b])
			}
		}
		storeys[b] = max(0, 2*(n-1))
	}
	return storeys
}

// levelsOfNew puts boxes that are new on the level of their siblings, or below what they hang
// from, or beside what they are joined to.
func (l *levelled) levelsOfNew(wires []Wire, level map[int]int) {
	at := l.g.downwards(l.part.boxes, true)
	boxes := slices.SortedFunc(slices.Values(l.part.boxes), func(a, b int) int { return at[a] - at[b] })
	near := map[int][]int{}
	for _, w := range wires {
		for _, b := range w.ends() {
			near[b] = append(near[b], w.ends()...)
		}
	}
	for range 3 {
		for _, b := range boxes {
			if _, known := level[b]; known {
				continue
			}
			up := l.g.Above[b]
			top, placed := level[up]
			if up >= 0 && placed {
				level[b] = top + 1
				highest := math.MaxInt
				for _, o := range l.part.boxes {
					if here, known := level[o]; known && l.g.Above[o] == up && here > top {
						highest = min(highest, here)
					}
				}
				if highest < math.MaxInt {
					level[b] = highest
				}
				continue
			}
			if up >= 0 && slices.Contains(l.part.boxes, up) {
				continue // once that has its level
			}
			for _, o := range near[b] {
				if here, known := level[o]; known && o != b {
					level[b] = here - 1 // most often it leads there
					break
				}
			}
		}
	}
}

// exchange lets what hangs from boxes that have changed places with their siblings go along: x
// holds where their vertices stood.
func (l *levelled) exchange(downwards []int, x []float64) {
	shift := map[int]float64{}
	below := map[[2]int][]int{} // by what they hang from, and level
	for _, b := range downwards {
		v, up := l.vertex[b], l.g.Above[b]
		if l.group[v] >= 0 && !math.IsNaN(x[v]) {
			key := [2]int{up, l.of[v]}
			below[key] = append(below[key], b)
		}
	}
	moved := func(b int, by float64) {
		shift[b] = by
		if by != 0 {
			x[l.vertex[b]] += by
			l.held[l.vertex[b]] = false
		}
	}
	for _, b := range downwards {
		v, up := l.vertex[b], l.g.Above[b]
		if _, done := shift[b]; done || math.IsNaN(x[v]) {
			continue
		}
		along := shift[max(up, 0)]
		if up < 0 {
			along = 0
		}
		siblings := below[[2]int{up, l.of[v]}]
		if l.group[v] < 0 || len(siblings) < 2 {
			moved(b, along)
			continue
		}
		places := make([]float64, len(siblings))
		for i, c := range siblings {
			places[i] = x[l.vertex[c]]
		}
		slices.Sort(places)
		for i, c := range siblings { // they come in their order
			moved(c, along+places[i]-x[l.vertex[c]])
		}
	}
}

// orderBefore puts the vertices of each level in the order in which they stood; lines and
// phrases between their ends.
func (l *levelled) orderBefore() {
	x := make([]float64, len(l.size))
	for v := range x {
		x[v] = math.NaN()
	}
	last := map[int]float64{} // the place of the last sibling below each box
	l.held = make([]bool, len(l.size))
	for _, b := range l.part.boxes {
		if l.g.old(b) {
			v, up := l.vertex[b], l.g.Above[b]
			x[v], l.held[v] = l.g.Was[b].X, true
			if at, known := last[up]; !known || x[v] > at {
				last[up] = x[v]
			}
		}
	}
	at := l.g.downwards(l.part.boxes, true)
	downwards := slices.SortedFunc(slices.Values(l.part.boxes), func(a, b int) int { return at[a] - at[b] })
	l.exchange(downwards, x)
	for _, b := range downwards {
		v, up := l.vertex[b], l.g.Above[b]
		if !math.IsNaN(x[v]) {
			continue
		}
		x[v] = 0
		if beside, known := last[up]; known && up >= 0 {
			x[v] = beside + 1
		} else if u, here := l.vertex[up]; here && up >= 0 && !math.IsNaN(x[u]) {
			x[v] = x[u]
		}
		last[up] = x[v]
	}
	for v, storeys := range l.column {
		for _, s := range storeys {
			x[s], l.held[s] = x[v], l.held[v]
		}
	}
	for i, w := range l.part.wires {
		p := l.phrase[i]
		if p >= 0 {
			sum := 0.0
			ends := l.g.Wires[w].ends()
			for _, b := range ends {
				sum += x[l.vertex[b]] / float64(len(ends))
			}
			x[p] = sum
		}
		for _, c := range l.chains[i] {
			from, to := x[c[0]], x[c[len(c)-1]]
			for j := 1; j < len(c)-1; j++ {
				x[c[j]] = from + (to-from)*float64(j)/float64(len(c)-1)
			}
		}
	}
	for i, row := range l.row {
		slices.SortStableFunc(row, func(a, b int) int { return cmp.Compare(x[a], x[b]) })
		l.regroup(i)
		l.place(i)
		// Those that have changed places with their siblings stand where these stood.
		members := map[int][]int{}
		for _, v := range row {
			if g := l.group[v]; g >= 0 {
				members[g] = append(members[g], v)
			}
		}
		for _, all := range members {
			places := make([]float64, len(all))
			for j, v := range all {
				places[j] = x[v]
			}
			slices.Sort(places)
			for j, v := range all {
				x[v] = places[j]
			}
		}
	}
	l.wish = x
}

package tidy

import "slices"

// foldFrom is the proportion, width to height, from which on crowded levels are set in
// several rows; less than what a sheet may have, since lines need room of their own.
const foldFrom = 1.7

// widest is the proportion from which on a drawing is a ribbon.
const widest = 2.8

// maxRows bounds the rows of one level.
const maxRows = 12

// fold sets boxes of crowded levels in several rows, one below the other, so that the part
// becomes no ribbon. What hangs from one box stays in one row, unless that alone is too wide;
// a phrase that leads to one box alone goes with it.
func (l *levelled) fold(wires []Wire, rank []int, at map[int]int) []int {
	levels := slices.Max(rank) + 1
	wide, tall, boxes := make([]float64, levels), make([]float64, levels), make([][]int, levels)
	for v, r := range rank {
		wide[r] += l.size[v].W + l.space.Side
		tall[r] = max(tall[r], l.height(v))
	}
	for _, b := range l.part.boxes {
		r := rank[l.vertex[b]]
		boxes[r] = append(boxes[r], b)
	}
	rows := make([]int, levels)
	for r := range rows {
		rows[r] = 1
	}
	// across is how wide a level is in its rows, phrases included: where it has n of them a
	// line to each box further down passes by.
	across := func(r int) float64 {
		n := float64(rows[r])
		need := wide[r]
		if r > 0 {
			need = max(need, wide[r-1])
		}
		return need/n + float64(len(boxes[r]))*(n-1)/n*l.space.Line
	}
	for range levels * maxRows {
		widest, most, high := -1, 0.0, 0.0
		for r := range rows {
			step := tall[r] + l.space.Level
			if len(boxes[r]) == 0 {
				high += step
				continue
			}
			if r > 0 {
				step += float64(rows[r]-1) / float64(rows[r]) * (tall[r-1] + l.space.Level)
			}
			high += step * float64(rows[r])
			if w := across(r); w > most {
				widest, most = r, w
			}
		}
		if most <= foldFrom*high || widest < 0 || rows[widest] == maxRows || rows[widest]*2 > len(boxes[widest]) {
			break
		}
		rows[widest]++
	}
	// down is by how many levels everything on a level moves for the rows above it.
	down, all := make([]int, levels), 0
	for r := range down {
		down[r] = all
		all += 2 * (rows[r] - 1)
	}
	if all == 0 {
		return rank
	}
	next := make([]int, len(rank))
	for v, r := range rank {
		next[v] = r + down[r]
	}
	for r, here := range boxes {
		slices.SortFunc(here, func(a, b int) int { return at[a] - at[b] })
		for b, row := range l.rowsOf(here, rows[r]) {
			next[l.vertex[b]] += 2 * row
		}
	}
	for i, w := range wires {
		p := l.phrase[i]
		if p < 0 || len(w.ends()) != 2 {
			continue
		}
		// With the lower of its two boxes.
		low := w.From[0]
		if rank[l.vertex[w.To[0]]] > rank[l.vertex[low]] {
			low = w.To[0]
		}
		if rank[l.vertex[low]] == rank[p]+1 {
			next[p] = next[l.vertex[low]] - 1
		}
	}
	return next
}

// rowsOf divides boxes among rows of about the same width.
func (l *levelled) rowsOf(boxes []int, rows int) map[int]int {
	wide := func(some []int) (sum float64) {
		for _, b := range some {
			sum += l.g.Boxes[b].W + l.space.Side
		}
		return sum
	}
	var families [][]int
	known := map[int]int{}
	for _, b := range boxes {
		up := -1
		if l.g.Above != nil {
			up = l.g.Above[b]
		}
		if i, there := known[up]; there && up >= 0 {
			families[i] = append(families[i], b)
			continue
		}
		known[up] = len(families)
		families = append(families, []int{b})
	}
	const much = 1.2 // of a row
	most := much * wide(boxes) / float64(rows)
	row, taken := map[int]int{}, make([]float64, rows)
	for _, family := range families {
		if wide(family) <= most {
			to := emptiest(taken)
			for _, b := range family {
				row[b] = to
			}
			taken[to] += wide(family)
			continue
		}
		for _, b := range family {
			to := emptiest(taken)
			row[b] = to
			taken[to] += wide([]int{b})
		}
	}
	return row
}

// emptiest gives the first of the rows in which least is.
func emptiest(taken []float64) int {
	best := 0
	for i, w := range taken {
		if w < taken[best] {
			best = i
		}
	}
	return best
}

package tidy

import "slices"

// sequence puts boxes in an order in which most wires lead onwards: depth first
// from the root, then from what nothing leads to, then from whatever is left;
// wires in their order. Wires that lead back in it are drawn upwards.
func sequence(boxes []int, wires []Wire, root int) map[int]int {
	next := map[int][]int{}
	led := map[int]bool{}
	for _, w := range wires {
		for _, f := range w.From {
			for _, t := range w.To {
				if f != t {
					next[f] = append(next[f], t)
					led[t] = true
				}
			}
		}
	}
	var starts []int
	if slices.Contains(boxes, root) {
		starts = append(starts, root)
	}
	for _, b := range boxes {
		if !led[b] {
			starts = append(starts, b)
		}
	}
	starts = append(starts, boxes...)
	var done []int // in postorder
	seen := map[int]bool{}
	type step struct{ box, at int }
	for _, start := range starts {
		if seen[start] {
			continue
		}
		seen[start] = true
		open := []step{{start, 0}}
		for len(open) > 0 {
			top := &open[len(open)-1]
			if top.at == len(next[top.box]) {
				done = append(done, top.box)
				open = open[:len(open)-1]
				continue
			}
			to := next[top.box][top.at]
			top.at++
			if !seen[to] {
				seen[to] = true
				open = append(open, step{to, 0})
			}
		}
	}
	// What was begun later stands before: its wires to what was met already lead
	// onwards, too.
	at := make(map[int]int, len(done))
	for i, b := range done {
		at[b] = len(done) - 1 - i
	}
	if len(done) > 0 && slices.Contains(boxes, root) && at[root] != 0 {
		// Nothing stands before the root.
		for b := range at {
			if at[b] < at[root] {
				at[b]++
			}
		}
		at[root] = 0
	}
	return at
}

// between gives the place of a wire's phrase among boxes in a sequence: before
// the box of that place. Most of its ends then lead onwards, and those of a
// wire that leads back as a whole lead back through it.
func between(w Wire, at map[int]int) int {
	if back := least(w.From, at); back > most(w.To, at) {
		return back
	}
	best, kept := 0, -1
	for _, cut := range append(slices.Clone(w.To), w.From...) {
		for _, k := range []int{at[cut], at[cut] + 1} {
			n := 0
			for _, b := range w.From {
				if at[b] < k {
					n++
				}
			}
			for _, b := range w.To {
				if at[b] >= k {
					n++
				}
			}
			if n > kept {
				best, kept = k, n
			}
		}
	}
	return best
}

func least(boxes []int, at map[int]int) int {
	v := at[boxes[0]]
	for _, b := range boxes[1:] {
		v = min(v, at[b])
	}
	return v
}

func most(boxes []int, at map[int]int) int {
	v := at[boxes[0]]
	for _, b := range boxes[1:] {
		v = max(v, at[b])
	}
	return v
}

// fewBack puts boxes in an order in which few wires lead back, the root first:
// what nothing leads to any more comes next, what leads nowhere any more last,
// and otherwise what leads on most (Eades, Lin and Smyth, A fast and effective
// heuristic for the feedback arc set problem, 1993).
func fewBack(boxes []int, wires []Wire, root int) map[int]int {
	out, in := map[int][]int{}, map[int][]int{}
	for _, w := range wires {
		for _, f := range w.From {
			for _, t := range w.To {
				if f != t {
					out[f] = append(out[f], t)
					in[t] = append(in[t], f)
				}
			}
		}
	}
	leads, led := map[int]int{}, map[int]int{}
	for _, b := range boxes {
		leads[b], led[b] = len(out[b]), len(in[b])
	}
	left := slices.Clone(boxes)
	var first, last []int
	take := func(b int) {
		i := slices.Index(left, b)
		left = slices.Delete(left, i, i+1)
		for _, t := range out[b] {
			led[t]--
		}
		for _, f := range in[b] {
			leads[f]--
		}
	}
	if slices.Contains(left, root) {
		take(root)
		first = append(first, root)
	}
	for len(left) > 0 {
		best := left[0]
		end := false
		for _, b := range left {
			if leads[b] == 0 {
				best, end = b, true
				break
			}
			if led[b] == 0 && led[best] != 0 {
				best = b
			} else if led[best] != 0 && leads[b]-led[b] > leads[best]-led[best] {
				best = b
			}
		}
		take(best)
		if end {
			last = append(last, best)
		} else {
			first = append(first, best)
		}
	}
	slices.Reverse(last)
	at := map[int]int{}
	for i, b := range append(first, last...) {
		at[b] = i
	}
	return at
}

// byDistance puts boxes in the order of their distance from the root, whichever
// way wires lead; a wire between two at one distance leads on as they came up.
func byDistance(boxes []int, wires []Wire, root int) map[int]int {
	near := map[int][]int{}
	for _, w := range wires {
		for _, f := range w.From {
			for _, t := range w.To {
				near[f] = append(near[f], t)
				near[t] = append(near[t], f)
			}
		}
	}
	at := make(map[int]int, len(boxes))
	queue := []int{root}
	if !slices.Contains(boxes, root) {
		queue[0] = boxes[0]
	}
	at[queue[0]] = 0
	for i := 0; i < len(queue); i++ {
		for _, to := range near[queue[i]] {
			if _, met := at[to]; !met {
				at[to] = len(queue)
				queue = append(queue, to)
			}
		}
	}
	return at
}

// back gives the share of ends that wires lead to against an order.
func back(wires []Wire, at map[int]int) float64 {
	all, against := 0, 0
	for _, w := range wires {
		for _, f := range w.From {
			for _, t := range w.To {
				all++
				if at[f] > at[t] {
					against++
				}
			}
		}
	}
	return float64(against) / float64(max(1, all))
}

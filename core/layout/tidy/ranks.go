package tidy

import (
	"slices"

	"mevrin/core/work"
)

// arc asks that one vertex stands at least one rank below another, and as few
// more as may be, by its weight.
type arc struct{ from, to, weight int }

// ranks gives each vertex of an acyclic graph a rank so that the weighted sum
// of the arcs' lengths is least, by the network simplex of Gansner, Koutsofios,
// North and Vo, A technique for drawing directed graphs, IEEE TSE 19(3), 1993.
// Ranks begin at 0 in every part of the graph. Most bounds the exchanges, for
// graphs so large that good ranks must do.
func ranks(stop *work.Limit, n int, arcs []arc, most int) []int {
	s := &simplex{n: n, arcs: arcs, rank: make([]int, n), out: make([][]int, n), in: make([][]int, n)}
	for i, a := range arcs {
		s.out[a.from] = append(s.out[a.from], i)
		s.in[a.to] = append(s.in[a.to], i)
	}
	s.longestPaths()
	s.span()
	for range most {
		stop.TickBy(1 + n/8)
		leaving := s.leaving()
		if leaving < 0 {
			break
		}
		s.exchange(leaving, s.entering(leaving))
	}
	s.balance()
	return s.rank
}

type simplex struct {
	n         int
	arcs      []arc
	out, in   [][]int
	rank      []int
	tree      [][]int // arcs of the spanning forest at each vertex
	inTree    []bool
	cut       []int
	net       []int
	low, lim  []int // of the postorder
	up        []int // the tree arc to the parent, or -1
	part      []int // the tree of the forest
	searchAt  int
	postorder []int
}

func (s *simplex) slack(i int) int {
	a := s.arcs[i]
	return s.rank[a.to] - s.rank[a.from] - 1
}

func (s *simplex) longestPaths() {
	waits := make([]int, s.n)
	var ready []int
	for v := range s.n {
		if waits[v] = len(s.in[v]); waits[v] == 0 {
			ready = append(ready, v)
		}
	}
	for len(ready) > 0 {
		v := ready[0]
		ready = ready[1:]
		for _, i := range s.out[v] {
			w := s.arcs[i].to
			s.rank[w] = max(s.rank[w], s.rank[v]+1)
			if waits[w]--; waits[w] == 0 {
				ready = append(ready, w)
			}
		}
	}
}

// span builds a spanning forest of tight arcs: each part grows by the arc of
// least slack at its border, which is made tight by moving the part.
func (s *simplex) span() {
	s.tree, s.inTree, s.part = make([][]int, s.n), make([]bool, len(s.arcs)), make([]int, s.n)
	for v := range s.part {
		s.part[v] = -1
	}
	for start := range s.n {
		if s.part[start] < 0 {
			s.grow(start)
		}
	}
	s.number()
	s.cutAll()
}

func (s *simplex) grow(start int) {
	members := []int{start}
	s.part[start] = start
	border := slices.Concat(s.out[start], s.in[start])
	for at := 0; ; {
		// Everything that is tight already.
		for at < len(border) {
			i := border[at]
			at++
			s.join(i, start, &members, &border, 0)
		}
		best, slack := -1, 0
		kept := border[:0]
		for _, i := range border {
			if s.part[s.arcs[i].from] == s.part[s.arcs[i].to] {
				continue
			}
			kept = append(kept, i)
			if best < 0 || s.slack(i) < slack {
				best, slack = i, s.slack(i)
			}
		}
		border = kept
		if best < 0 {
			return
		}
		if s.part[s.arcs[best].from] != start {
			slack = -slack
		}
		for _, v := range members {
			s.rank[v] += slack
		}
		at = 0
	}
}

// join takes a tight arc at the border into the tree.
func (s *simplex) join(i, start int, members, border *[]int, slack int) {
	a := s.arcs[i]
	if s.part[a.from] == s.part[a.to] || s.slack(i) != slack {
		return
	}
	v := a.to
	if s.part[a.from] != start {
		v = a.from
	}
	s.part[v] = start
	s.inTree[i] = true
	s.tree[a.from] = append(s.tree[a.from], i)
	s.tree[a.to] = append(s.tree[a.to], i)
	*members = append(*members, v)
	for _, j := range s.out[v] {
		if j != i {
			*border = append(*border, j)
		}
	}
	for _, j := range s.in[v] {
		if j != i {
			*border = append(*border, j)
		}
	}
}

// number walks the forest in postorder, so that whether a vertex lies below
// another can be told from numbers.
func (s *simplex) number() {
	s.low, s.lim, s.up = make([]int, s.n), make([]int, s.n), make([]int, s.n)
	s.postorder = s.postorder[:0]
	seen := make([]bool, s.n)
	next := 0
	type step struct{ v, arc, at, low int }
	for root := range s.n {
		if seen[root] {
			continue
		}
		seen[root] = true
		open := []step{{root, -1, 0, next}}
		for len(open) > 0 {
			top := &open[len(open)-1]
			if top.at < len(s.tree[top.v]) {
				i := s.tree[top.v][top.at]
				top.at++
				w := s.arcs[i].from + s.arcs[i].to - top.v
				if i != top.arc && !seen[w] {
					seen[w] = true
					open = append(open, step{w, i, 0, next})
				}
				continue
			}
			s.low[top.v], s.lim[top.v], s.up[top.v] = top.low, next, top.arc
			next++
			s.postorder = append(s.postorder, top.v)
			open = open[:len(open)-1]
		}
	}
}

// cutAll sets the cut value of every tree arc: the weight of the arcs that go
// the same way between the two sides that it joins, less that of those that go
// the other way. Arcs within a side cancel out, so it is what the vertices of a
// side take in less what they give out.
func (s *simplex) cutAll() {
	if s.cut == nil {
		s.cut, s.net = make([]int, len(s.arcs)), make([]int, s.n)
	}
	clear(s.net)
	for _, a := range s.arcs {
		s.net[a.from] -= a.weight
		s.net[a.to] += a.weight
	}
	for _, v := range s.postorder {
		i := s.up[v]
		if i < 0 {
			continue
		}
		s.cut[i] = s.net[v]
		if s.arcs[i].to != v {
			s.cut[i] = -s.net[v]
		}
		s.net[s.arcs[i].from+s.arcs[i].to-v] += s.net[v]
	}
}

func (s *simplex) below(v, root int) bool {
	return s.low[root] <= s.lim[v] && s.lim[v] <= s.lim[root]
}

// leaving finds a tree arc of negative cut value, going round so that all get
// their turn.
func (s *simplex) leaving() int {
	for range s.arcs {
		i := s.searchAt
		s.searchAt = (s.searchAt + 1) % len(s.arcs)
		if s.inTree[i] && s.cut[i] < 0 {
			return i
		}
	}
	return -1
}

// entering finds the arc of least slack that joins the two sides again, in the
// other direction.
func (s *simplex) entering(leaving int) int {
	a := s.arcs[leaving]
	child := a.to
	if s.up[a.from] == leaving {
		child = a.from
	}
	// The side of the child is the tail's if the arc leads up from it.
	best := -1
	for _, v := range s.postorder[s.low[child] : s.lim[child]+1] {
		list := s.in[v]
		if child == a.to {
			list = s.out[v]
		}
		for _, i := range list {
			other := s.arcs[i].from + s.arcs[i].to - v
			if !s.below(other, child) && (best < 0 || s.slack(i) < s.slack(best)) {
				best = i
			}
		}
	}
	return best
}

func (s *simplex) exchange(leaving, entering int) {
	a, e := s.arcs[leaving], s.arcs[entering]
	child := a.to
	if s.up[a.from] == leaving {
		child = a.from
	}
	by := s.slack(entering)
	if s.below(e.to, child) {
		by = -by
	}
	for _, v := range s.postorder[s.low[child] : s.lim[child]+1] {
		s.rank[v] += by
	}
	drop := func(v int) {
		at := slices.Index(s.tree[v], leaving)
		s.tree[v] = slices.Delete(s.tree[v], at, at+1)
	}
	drop(a.from)
	drop(a.to)
	s.inTree[leaving], s.inTree[entering] = false, true
	s.tree[e.from] = append(s.tree[e.from], entering)
	s.tree[e.to] = append(s.tree[e.to], entering)
	s.number()
	s.cutAll()
}

// balance lets each part begin at rank 0, and moves what may stand on several
// ranks at the same cost to the least crowded.
func (s *simplex) balance() {
	least := map[int]int{}
	for v, r := range s.rank {
		if l, ok := least[s.part[v]]; !ok || r < l {
			least[s.part[v]] = r
		}
	}
	crowd := map[int]int{}
	for v := range s.rank {
		s.rank[v] -= least[s.part[v]]
		crowd[s.rank[v]]++
	}
	for v := range s.rank {
		balance, low, high := 0, 0, s.n
		for _, i := range s.in[v] {
			balance += s.arcs[i].weight
			low = max(low, s.rank[s.arcs[i].from]+1)
		}
		for _, i := range s.out[v] {
			balance -= s.arcs[i].weight
			high = min(high, s.rank[s.arcs[i].to]-1)
		}
		if balance != 0 || high == s.n || len(s.in[v]) == 0 {
			continue
		}
		best := s.rank[v]
		for r := low; r <= high; r++ {
			if crowd[r] < crowd[best] {
				best = r
			}
		}
		crowd[s.rank[v]]--
		crowd[best]++
		s.rank[v] = best
	}
}

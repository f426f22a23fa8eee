package tidy

import (
	"cmp"
	"slices"
)

// tree is a part seen as what hangs from its root.
type tree struct {
	g     *Graph
	root  int
	kids  map[int][]int // in order
	up    map[int]int   // what each box hangs from; the root hangs from itself
	wire  map[int]int   // by which wire
	depth map[int]int
	order []int // each box before its children
}

// treeOf hangs the boxes of a part from its root: where the graph says from what
// a box hangs, as it says; the rest by the shortest way.
func treeOf(g *Graph, p part) *tree {
	t := &tree{g: g, kids: map[int][]int{}, up: map[int]int{}, wire: map[int]int{}, depth: map[int]int{}}
	member := map[int]bool{}
	for _, b := range p.boxes {
		member[b] = true
	}
	near := map[int][][2]int{} // neighbour and wire
	for _, i := range p.wires {
		w := g.Wires[i]
		for _, side := range [2][2][]int{{w.From, w.To}, {w.To, w.From}} {
			for _, a := range side[0] {
				for _, b := range side[1] {
					if a != b {
						near[a] = append(near[a], [2]int{b, i})
					}
				}
			}
		}
	}
	t.root = t.top(p, member, near)
	t.up[t.root] = t.root
	above := func(b int) int {
		if g.Above == nil || b == t.root || !member[g.Above[b]] || g.Above[b] == b {
			return -1
		}
		return g.Above[b]
	}
	below := map[int][]int{}
	for _, b := range p.boxes {
		if a := above(b); a >= 0 {
			below[a] = append(below[a], b)
		}
	}
	// Breadth first: those that hang from a box by choice come first, then the
	// neighbours that hang from nothing.
	open := []int{t.root}
	for i := 0; i < len(open); i++ {
		b := open[i]
		slices.SortStableFunc(below[b], func(x, y int) int { return cmp.Compare(g.Rank[x], g.Rank[y]) })
		hang := func(c, wire int) {
			t.up[c], t.wire[c], t.depth[c] = b, wire, t.depth[b]+1
			t.kids[b] = append(t.kids[b], c)
			open = append(open, c)
		}
		for _, c := range below[b] {
			if _, known := t.up[c]; !known {
				wire := -1
				for _, n := range near[b] {
					if n[0] == c && wire < 0 {
						wire = n[1]
					}
				}
				hang(c, wire)
			}
		}
		for _, n := range near[b] {
			if _, known := t.up[n[0]]; !known && above(n[0]) < 0 {
				hang(n[0], n[1])
			}
		}
		if i == len(open)-1 { // what hangs in a circle, or below what was not met
			for _, c := range p.boxes {
				if _, known := t.up[c]; known {
					continue
				}
				if at := slices.IndexFunc(near[c], func(n [2]int) bool { _, known := t.up[n[0]]; return known }); at >= 0 {
					b = near[c][at][0]
					hang(c, near[c][at][1])
					break
				}
			}
		}
	}
	t.order = open
	return t
}

// top gives the root: that of the graph, or what most hangs from, or has most
// neighbours.
func (t *tree) top(p part, member map[int]bool, near map[int][][2]int) int {
	if member[t.g.Root] {
		return t.g.Root
	}
	best, most := p.boxes[0], -1
	for _, b := range p.boxes {
		n := len(near[b])
		if t.g.Above != nil && t.g.Above[b] < 0 {
			n += len(p.boxes)
		}
		if n > most {
			best, most = b, n
		}
	}
	return best
}

// phrase gives the room of the phrase by which a box hangs.
func (t *tree) phrase(b int) Size {
	if w, ok := t.wire[b]; ok && w >= 0 {
		return t.g.Wires[w].Phrase
	}
	return Size{}
}

// fan tells that a box hangs by the same wire as the sibling before it, so that
// its phrase stands there already.
func (t *tree) fan(b int) bool {
	kids := t.kids[t.up[b]]
	i := slices.Index(kids, b)
	return i > 0 && t.wire[kids[i-1]] == t.wire[b] && t.wire[b] >= 0
}

// gather puts those children of each box beside each other that hang by one
// wire; the first of them keeps its place.
func (t *tree) gather() {
	for b, kids := range t.kids {
		var next []int
		for i, c := range kids {
			if slices.Contains(next, c) {
				continue
			}
			next = append(next, c)
			for _, o := range kids[i+1:] {
				if t.wire[o] == t.wire[c] && t.wire[c] >= 0 {
					next = append(next, o)
				}
			}
		}
		t.kids[b] = next
	}
}

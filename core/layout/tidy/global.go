package tidy

import (
	"cmp"
	"slices"
)

// block is a set of vertices that stand right below each other, one on each of several layers: a
// line with its phrase, or a box with its storeys. As a whole it changes places with others.
type block struct {
	first    int   // layer
	vertices []int // from the first layer down
	place    float64
}

func (b *block) last() int { return b.first + len(b.vertices) - 1 }

// global moves whole blocks to where they cross least among all others (Bachmaier, Brandenburg,
// Brunner and Hübner, Global k-level crossing reduction, JGAA 15(5), 2011): a line that passes
// many layers comes to its other side in one step, where layer by layer each step would cost.
type global struct {
	*layers
	order []*block
	at    []int // the place of each vertex's block among all
	of    []*block
}

// siftBlocks does so for some rounds, beginning with the rows as they are.
func (l *layers) siftBlocks(rounds int) {
	g := &global{layers: l, at: make([]int, len(l.at)), of: make([]*block, len(l.at))}
	for layer, row := range l.row {
		for _, v := range row {
			if up := l.upper(v); up >= 0 && g.of[up] != nil {
				g.of[v] = g.of[up]
				g.of[v].vertices = append(g.of[v].vertices, v)
			} else {
				g.of[v] = &block{first: layer, vertices: []int{v}}
				g.order = append(g.order, g.of[v])
			}
			g.of[v].place += (float64(l.at[v]) + 0.5) / float64(len(row))
		}
	}
	for _, b := range g.order {
		b.place /= float64(len(b.vertices))
	}
	slices.SortStableFunc(g.order, func(a, b *block) int { return cmp.Compare(a.place, b.place) })
	g.inTurn()
	g.number()
	for range rounds {
		moved := false
		for _, b := range slices.Clone(g.order) {
			moved = g.move(b) || moved
		}
		if !moved {
			break
		}
	}
	for layer, row := range l.row {
		slices.SortFunc(row, func(a, b int) int { return g.at[a] - g.at[b] })
		l.place(layer)
	}
}

// upper gives the vertex right below which a vertex belongs, or -1: where a line passes a layer or
// carries its phrase.
func (l *layers) upper(v int) int {
	if len(l.near[0][v]) != 1 {
		return -1
	}
	if u := l.near[0][v][0].v; len(l.near[1][u]) == 1 && l.slim[u] && l.slim[v] {
		return u
	}
	return -1
}

// inTurn puts those that keep their order in it, in the places that they have together.
func (g *global) inTurn() {
	places, members := map[[2]int][]int{}, map[[2]int][]*block{}
	for i, b := range g.order {
		for j, v := range b.vertices {
			if g.group[v] >= 0 {
				key := [2]int{g.group[v], b.first + j}
				places[key], members[key] = append(places[key], i), append(members[key], b)
			}
		}
	}
	for key, all := range members {
		turn := func(b *block) int { return g.turn[b.vertices[key[1]-b.first]] }
		slices.SortStableFunc(all, func(a, b *block) int { return turn(a) - turn(b) })
		for i, at := range places[key] {
			g.order[at] = all[i]
		}
	}
}

func (g *global) number() {
	for i, b := range g.order {
		for _, v := range b.vertices {
			g.at[v] = i
		}
	}
}

// move puts a block where it crosses least, and tells whether that is elsewhere.
func (g *global) move(b *block) bool {
	here := g.at[b.vertices[0]]
	best, to := 0, here
	for way := -1; way <= 1; way += 2 {
		delta := 0
		for i := here + way; i >= 0 && i < len(g.order); i += way {
			o := g.order[i]
			top, bottom := max(b.first, o.first), min(b.last(), o.last())
			if top > bottom {
				continue // they never meet
			}
			if g.bound(b.vertices[top-b.first], o.vertices[top-o.first]) {
				break
			}
			g.stop.Tick()
			g.compared += 2
			for side, layer := range [2]int{top, bottom} {
				u, v := o.vertices[layer-o.first], b.vertices[layer-b.first]
				before, behind := g.facing(u, v, side)
				if way < 0 { // o comes to stand behind b
					delta += behind - before
				} else {
					delta += before - behind
				}
			}
			if delta < best {
				best, to = delta, i
			}
		}
	}
	if best == 0 {
		return false
	}
	g.order = slices.Insert(slices.Delete(g.order, here, here+1), to, b)
	g.number()
	return true
}

// facing gives the crossings of the segments at two vertices on one side, if the first stands
// before the second and if it stands behind.
func (g *global) facing(u, v, side int) (before, behind int) {
	for _, a := range g.near[side][u] {
		for _, b := range g.near[side][v] {
			switch p, q := g.at[a.v], g.at[b.v]; {
			case q < p:
				before += a.weight * b.weight
			case q > p:
				behind += a.weight * b.weight
			}
		}
	}
	return before, behind
}

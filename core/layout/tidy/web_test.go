package tidy

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/layout/route"
)

// bushes is a tree in which few boxes have many that hang from them.
func bushes(seed uint64, n, most int) Graph {
	chance := rand.New(rand.NewPCG(seed, 3))
	g := Graph{Root: 0}
	up, left := 0, most
	for i := range n {
		g.Boxes = append(g.Boxes, Box{Size: Size{W: 40 + float64(chance.IntN(140)), H: 32 + 18*float64(chance.IntN(2))}})
		if i == 0 {
			continue
		}
		if left == 0 {
			up, left = up+1+chance.IntN(2), 1+chance.IntN(most)
		}
		left--
		g.Wires = append(g.Wires, Wire{From: []int{min(up, i-1)}, To: []int{i}, Phrase: Size{W: 20 + float64(chance.IntN(70)), H: 18}})
	}
	return g
}

// pieces gives the straight pieces of all lines, each with its wire.
func pieces(g Graph, d Drawing) (all [][2]Point, of []int) {
	for w, line := range d.Wires {
		for e, b := range g.Wires[w].ends() {
			way := append(append([]Point{d.Boxes[b]}, line.Legs[e]...), line.Phrase)
			for i := 1; i < len(way); i++ {
				all, of = append(all, [2]Point{way[i-1], way[i]}), append(of, w)
			}
		}
	}
	return all, of
}

// noneMeet tells that no box lies on another.
func noneMeet(t *testing.T, g Graph, d Drawing) {
	for i, at := range d.Boxes {
		for j := range i {
			require.False(t, meet(at, g.Boxes[i].Size, d.Boxes[j], g.Boxes[j].Size, -1), "boxes %d and %d", i, j)
		}
	}
}

// noneCross tells that no lines of a tree do, and no boxes meet.
func noneCross(t *testing.T, g Graph, d Drawing) {
	noneMeet(t, g, d)
	all, wires := pieces(g, d)
	for i, a := range all {
		for j, b := range all[:i] {
			x, y := g.Wires[wires[i]], g.Wires[wires[j]]
			if x.From[0] == y.From[0] || x.From[0] == y.To[0] || x.To[0] == y.From[0] || wires[i] == wires[j] {
				continue // they meet in a box
			}
			require.False(t, route.Cross(a[0], a[1], b[0], b[1]), "%d boxes: %v crosses %v", len(g.Boxes), x, y)
		}
	}
}

// A tree has no crossings as a web, however bushy it is, nor when it is put in order again,
// which moves nothing.
func TestTreesCrossNothingAsWebs(t *testing.T) {
	for _, of := range []struct{ n, most int }{{30, 3}, {111, 10}, {60, 59}, {210, 14}} {
		g := bushes(uint64(of.n), of.n, of.most)
		d := Web(g, Usual, false)
		noneCross(t, g, d)
		if of.most == 10 { // too bushy for one ring around the root
			noneCross(t, g, Rings(g, Usual, false))
		}
		if least := 200; of.n < least {
			continue
		}
		g.Was, g.Loosely, g.Fresh = d.Boxes, true, make([]bool, of.n)
		for i, at := range Web(g, Usual, false).Boxes {
			require.InDelta(t, d.Boxes[i].X, at.X, 0.1)
			require.InDelta(t, d.Boxes[i].Y, at.Y, 0.1)
		}
	}
}

// A large web has few crossings for what it is, and nothing lies on anything.
func TestLargeWebsAreClear(t *testing.T) {
	g := bushes(5, 320, 7)
	chance := rand.New(rand.NewPCG(9, 9))
	const links = 32
	for range links {
		g.Wires = append(g.Wires, Wire{From: []int{chance.IntN(320)}, To: []int{chance.IntN(320)}, Phrase: Size{W: 50, H: 18}})
	}
	d := Web(g, Usual, false)
	noneMeet(t, g, d)
	all, wires := pieces(g, d)
	crossings := 0
	for i, a := range all {
		for j, b := range all[:i] {
			if wires[i] != wires[j] && route.Cross(a[0], a[1], b[0], b[1]) {
				crossings++
			}
		}
	}
	assert.Less(t, crossings, 5*links, "crossings")
}

package tidy

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/core/conceptmap/maptest"
)

var _ = maptest.Cases(20)

// anyGraph draws a measured graph: several parts, loose boxes, phrases with
// several ends, links both ways, links from a box to itself.
func anyGraph(t *rapid.T) Graph {
	g := Graph{Root: -1, Effort: 0.01, Fold: rapid.Bool().Draw(t, "fold")}
	n := rapid.IntRange(0, 18).Draw(t, "boxes")
	for range n {
		g.Boxes = append(g.Boxes, Box{Size: Size{W: float64(rapid.IntRange(30, 220).Draw(t, "w")), H: float64(rapid.IntRange(20, 90).Draw(t, "h"))}})
	}
	if n == 0 {
		return g
	}
	g.Root = rapid.IntRange(-1, n-1).Draw(t, "root")
	ends := func(most int) []int {
		var all []int
		for range rapid.IntRange(1, most).Draw(t, "ends") {
			b := rapid.IntRange(0, n-1).Draw(t, "end")
			twice := false
			for _, o := range all {
				twice = twice || o == b
			}
			if !twice {
				all = append(all, b)
			}
		}
		return all
	}
	for range rapid.IntRange(0, 24).Draw(t, "wires") {
		w := Wire{From: ends(2), To: ends(4), Phrase: Size{W: float64(rapid.IntRange(20, 120).Draw(t, "pw")), H: 18}}
		if len(w.From)+len(w.To) == 2 && rapid.IntRange(0, 3).Draw(t, "bare") == 0 {
			w.Phrase = Size{}
		}
		g.Wires = append(g.Wires, w)
	}
	if rapid.Bool().Draw(t, "hangs") {
		for i := range n {
			g.Above, g.Rank = append(g.Above, -1), append(g.Rank, i)
			if i > 0 && rapid.IntRange(0, 4).Draw(t, "below") > 0 {
				g.Above[i] = rapid.IntRange(0, i-1).Draw(t, "above")
				g.Wires = append(g.Wires, Wire{From: []int{g.Above[i]}, To: []int{i}, Phrase: Size{W: 40, H: 18}})
			}
		}
	}
	return g
}

func meet(a Point, s Size, b Point, z Size, gap float64) bool {
	return math.Abs(a.X-b.X) < (s.W+z.W)/2+gap && math.Abs(a.Y-b.Y) < (s.H+z.H)/2+gap
}

// enters tells whether a straight line comes into a box, more than a pixel deep
// (the slab method, as for rays and boxes).
func enters(a, b, at Point, s Size) bool {
	low, high := 0.0, 1.0
	for _, side := range [2][4]float64{{a.X, b.X, at.X - s.W/2 + 1, at.X + s.W/2 - 1}, {a.Y, b.Y, at.Y - s.H/2 + 1, at.Y + s.H/2 - 1}} {
		if side[2] >= side[3] {
			return false
		}
		d := side[1] - side[0]
		if d == 0 {
			if side[0] <= side[2] || side[0] >= side[3] {
				return false
			}
			continue
		}
		t0, t1 := (side[2]-side[0])/d, (side[3]-side[0])/d
		low, high = max(low, min(t0, t1)), min(high, max(t0, t1))
	}
	return low < high
}

// Whatever the graph and the way it is drawn: no box covers another or a
// phrase, no phrase another, and the same input gives the same drawing; on levels
// no line runs through a box that is not its own.
func TestPatternsKeepClear(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pattern := rapid.SampledFrom(patterns).Draw(t, "pattern")
		g := anyGraph(t)
		keep := rapid.Bool().Draw(t, "keep")
		d := pattern.draw(g, Usual, keep)
		require.Equal(t, d, pattern.draw(g, Usual, keep))
		if g.Above != nil && rapid.Bool().Draw(t, "again") { // with boxes that have come since
			g.Was = slices.Clone(d.Boxes)
			for range g.Boxes {
				g.Fresh = append(g.Fresh, rapid.IntRange(0, 3).Draw(t, "fresh") == 0)
			}
			d = pattern.draw(g, Usual, keep)
			require.Equal(t, d, pattern.draw(g, Usual, keep))
		}
		for i, a := range d.Boxes {
			require.False(t, math.IsNaN(a.X+a.Y) || math.IsInf(a.X+a.Y, 0))
			for j, b := range d.Boxes[:i] {
				require.False(t, meet(a, g.Boxes[i].Size, b, g.Boxes[j].Size, -0.01), "boxes %d and %d", i, j)
			}
		}
		for w, line := range d.Wires {
			wire := g.Wires[w]
			require.Len(t, line.Legs, len(wire.ends()))
			if self(wire) {
				continue // its loop stands beside its box, wherever that is
			}
			for b, at := range d.Boxes {
				require.False(t, wire.Phrase.W > 0 && meet(line.Phrase, wire.Phrase, at, g.Boxes[b].Size, -0.01), "phrase %d on box %d", w, b)
			}
			for v, other := range d.Wires[:w] {
				require.False(t, wire.Phrase.W > 0 && g.Wires[v].Phrase.W > 0 && !self(g.Wires[v]) && meet(line.Phrase, wire.Phrase, other.Phrase, g.Wires[v].Phrase, -0.01), "phrases %d and %d", w, v)
			}
			for e, end := range wire.ends() {
				way := append(append([]Point{d.Boxes[end]}, line.Legs[e]...), line.Phrase)
				for b, at := range d.Boxes {
					for i := 1; i < len(way); i++ {
						// Without words to meet at, the two legs meet anywhere on the line.
						own := b == end || wire.Phrase.W == 0 && (b == wire.From[0] || b == wire.To[0])
						require.False(t, strings.HasPrefix(pattern.name, "levels") && !own && enters(way[i-1], way[i], at, g.Boxes[b].Size), "line %d/%d runs through box %d: %v, box %v %v, wire %v", w, e, b, way, at, g.Boxes[b], wire)
					}
				}
			}
		}
	})
}

// What hangs from a box stands below it but for a few where that saves crossings, and on one
// level in its order.
func TestLevelsLeadDownAndKeepOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 16).Draw(t, "boxes")
		g := Graph{Root: 0}
		for i := range n {
			g.Boxes = append(g.Boxes, Box{Size: Size{W: 80, H: 36}})
			g.Above, g.Rank = append(g.Above, -1), append(g.Rank, i)
			if i > 0 {
				g.Above[i] = rapid.IntRange(0, i-1).Draw(t, "above")
				g.Wires = append(g.Wires, Wire{From: []int{g.Above[i]}, To: []int{i}, Phrase: Size{W: 40, H: 16}})
			}
		}
		for range rapid.IntRange(0, 6).Draw(t, "further") {
			if a, b := rapid.IntRange(0, n-1).Draw(t, "a"), rapid.IntRange(0, n-1).Draw(t, "b"); a < b {
				g.Wires = append(g.Wires, Wire{From: []int{a}, To: []int{b}, Phrase: Size{W: 40, H: 16}})
			}
		}
		d := Levels(g, Usual, true)
		up := 0
		for i := range n {
			if g.Above[i] >= 0 && d.Boxes[g.Above[i]].Y >= d.Boxes[i].Y {
				up++
			}
			for j := range i {
				if g.Above[i] == g.Above[j] && g.Above[i] >= 0 {
					if len(g.Wires) == n-1 {
						require.Equal(t, d.Boxes[j].Y, d.Boxes[i].Y)
					} else if d.Boxes[j].Y != d.Boxes[i].Y {
						continue
					}
					require.Less(t, d.Boxes[j].X, d.Boxes[i].X, "%d stands before %d", j, i)
				}
			}
		}
		require.LessOrEqual(t, up, (len(g.Wires)-n+1)/2, "each costs less than it saves")
	})
}

// Trees and rings are drawn without a crossing; three boxes each linked to three
// others below with the nine that two levels must have.
func TestCrossingsAreFew(t *testing.T) {
	count := func(edges [][2]int, n int) int {
		g := Graph{Root: 0}
		for range n {
			g.Boxes = append(g.Boxes, Box{Size: Size{W: 60, H: 30}})
		}
		for _, e := range edges {
			g.Wires = append(g.Wires, Wire{From: []int{e[0]}, To: []int{e[1]}})
		}
		parts, _ := partsOf(g)
		return newLevelled(&g, parts[0], Usual, false).crossings()
	}
	var tree [][2]int
	for i := 1; i < 40; i++ {
		tree = append(tree, [2]int{(i - 1) / 3, i})
	}
	require.Zero(t, count(tree, 40))
	require.Zero(t, count([][2]int{{0, 1}, {1, 2}, {2, 3}, {3, 4}, {0, 4}}, 5), "a ring")
	require.Equal(t, 9, count([][2]int{{0, 3}, {0, 4}, {0, 5}, {1, 3}, {1, 4}, {1, 5}, {2, 3}, {2, 4}, {2, 5}}, 6))
}

// What hangs from a box that changes places with its sibling goes along.
func TestWhatHangsFromABoxGoesAlong(t *testing.T) {
	g := Graph{Root: 0, Ordered: []bool{true}}
	for i, up := range []int{-1, 0, 0, 0, 1, 1, 1, 2, 2, 3} {
		g.Boxes = append(g.Boxes, Box{Size: Size{W: 80, H: 32}})
		g.Above, g.Rank = append(g.Above, up), append(g.Rank, i)
		if up >= 0 {
			g.Wires = append(g.Wires, Wire{From: []int{up}, To: []int{i}, Phrase: Size{W: 40, H: 18}})
		}
	}
	was := Levels(g, Usual, false)
	for _, b := range []int{4, 5, 6} {
		require.Less(t, was.Boxes[b].X, was.Boxes[7].X)
	}
	g.Was, g.Fresh = was.Boxes, make([]bool, len(g.Boxes))
	g.Rank[1], g.Rank[2] = 2, 1
	now := Levels(g, Usual, false)
	require.Less(t, now.Boxes[2].X, now.Boxes[1].X)
	for _, b := range []int{4, 5, 6} {
		require.Greater(t, now.Boxes[b].X, now.Boxes[8].X)
		require.Less(t, now.Boxes[b].X, now.Boxes[9].X)
	}
}

// What was pushed off its level by something that a hand placed goes back onto it: it makes no
// level of its own, by which all that hangs below would be lowered.
func TestWhatWasPushedOffItsLevelMakesNone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		g := Graph{Root: 0, Ordered: []bool{true}}
		for b := range 28 {
			g.Boxes = append(g.Boxes, Box{Size: Size{W: float64(rapid.IntRange(60, 140).Draw(t, "w")), H: 37}})
			above := (b+2)/3 - 1
			g.Above, g.Rank = append(g.Above, above), append(g.Rank, b)
			if b > 0 {
				g.Wires = append(g.Wires, Wire{From: []int{above}, To: []int{b}, Phrase: Size{W: 50, H: 19}})
			}
		}
		fresh := Levels(g, Usual, true)
		g.Was, g.Fresh = slices.Clone(fresh.Boxes), make([]bool, len(g.Boxes))
		for range rapid.IntRange(1, 8).Draw(t, "pushed") {
			b := rapid.IntRange(1, len(g.Boxes)-1).Draw(t, "which")
			g.Was[b].Y = fresh.Boxes[b].Y + float64(rapid.IntRange(-45, 45).Draw(t, "by"))
		}
		again := Levels(g, Usual, true)
		for b, p := range again.Boxes {
			require.InDelta(t, fresh.Boxes[b].Y-fresh.Boxes[0].Y, p.Y-again.Boxes[0].Y, 1, "box %d", b)
		}
	})
}

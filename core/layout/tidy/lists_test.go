package tidy

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// anOutline is a tree of boxes of many sizes in which each hangs from one of those before it.
func anOutline(seed uint64, n int) Graph {
	chance := rand.New(rand.NewPCG(seed, 7))
	g := Graph{Root: 0, Effort: 0.1}
	for i := range n {
		g.Boxes = append(g.Boxes, Box{Size: Size{W: 40 + float64(chance.IntN(140)), H: 32 + 18*float64(chance.IntN(3))}})
		g.Above, g.Rank = append(g.Above, -1), append(g.Rank, i)
		if i > 0 {
			g.Above[i] = max(0, i-1-chance.IntN(12))
			g.Wires = append(g.Wires, Wire{From: []int{g.Above[i]}, To: []int{i}, Phrase: Size{W: 20 + float64(chance.IntN(90)), H: 18}})
		}
	}
	return g
}

// Lists take the shapes that make the whole fit a window, and keep them when a leaf is added:
// most boxes stay beside each other as they were.
func TestListsFitAWindowAndStayAsTheyWereWritten(t *testing.T) {
	for name, draw := range map[string]func(Graph, Spacing, bool) Drawing{"rows": Columns, "spine": Spine} {
		for seed := range uint64(12) {
			g := anOutline(seed, 20+int(seed)*6)
			was := draw(g, Usual, seed%2 == 0)
			x0, x1, y0, y1, content := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1), 0.0
			for i, at := range was.Boxes {
				b := g.Boxes[i]
				x0, x1 = min(x0, at.X-b.W/2), max(x1, at.X+b.W/2)
				y0, y1 = min(y0, at.Y-b.H/2), max(y1, at.Y+b.H/2)
				content += b.W * b.H
			}
			aspect := (x1 - x0) / (y1 - y0)
			assert.True(t, aspect > 0.6 && aspect < 4.2, "%s %d is %.0f × %.0f", name, seed, x1-x0, y1-y0)
			assert.Less(t, (x1-x0)*(y1-y0), 30*content, "%s %d leaves the sheet empty", name, seed)

			more := anOutline(seed, len(g.Boxes)) // and a leaf
			leaf, up := len(g.Boxes), len(g.Boxes)/2
			more.Boxes, more.Above, more.Rank = append(more.Boxes, Box{Size: Size{W: 90, H: 32}}), append(more.Above, up), append(more.Rank, leaf)
			more.Wires = append(more.Wires, Wire{From: []int{up}, To: []int{leaf}, Phrase: Size{W: 50, H: 18}})
			more.Was, more.Fresh = append(slices.Clone(was.Boxes), Point{}), make([]bool, leaf+1)
			more.Fresh[leaf] = true
			drawn := was.Boxes
			next := draw(more, Usual, seed%2 == 0)
			along := 0 // with what they hang from
			for i, up := range g.Above[1:] {
				was, now := was.Boxes[i+1], next.Boxes[i+1]
				if math.Hypot(now.X-next.Boxes[up].X-was.X+drawn[up].X, now.Y-next.Boxes[up].Y-was.Y+drawn[up].Y) < 80 {
					along++
				}
			}
			assert.Greater(t, along, len(g.Boxes)*3/4, "%s %d: of %d boxes %d stayed", name, seed, len(g.Boxes), along)
		}
	}
}

// However a graph is drawn, what hangs from a box whose order is kept is read in that order,
// while the rest may change places for fewer crossings.
func TestSiblingsWhoseOrderIsKept(t *testing.T) {
	angle := func(root, at Point) float64 { // clockwise from the top
		return math.Mod(math.Atan2(at.X-root.X, root.Y-at.Y)+2*math.Pi, 2*math.Pi)
	}
	read := map[string]func(root, at Point) float64{
		"levels":       func(_, at Point) float64 { return at.X },
		"levels-right": func(_, at Point) float64 { return at.Y },
		"sides":        angle,
		"rings":        angle,
		"rows":         func(_, at Point) float64 { return 1e4*math.Round(at.Y/60) + at.X },
		"spine":        func(_, at Point) float64 { return at.X },
	}
	const kids = 5
	for name, order := range read {
		for seed := range uint64(4) {
			chance := rand.New(rand.NewPCG(seed, 11))
			g := Graph{Root: 0, Ordered: []bool{true}, Effort: 0.2}
			for i := range 6 * kids {
				g.Boxes = append(g.Boxes, Box{Size: Size{W: 60, H: 32}})
				up := -1
				switch {
				case i > kids:
					up = 1 + (i-1)%kids
				case i > 0:
					up = 0
				}
				g.Above, g.Rank = append(g.Above, up), append(g.Rank, i)
				if up >= 0 {
					g.Wires = append(g.Wires, Wire{From: []int{up}, To: []int{i}, Phrase: Size{W: 40, H: 18}})
				}
			}
			for range 12 { // which other orders would serve better
				g.Wires = append(g.Wires, Wire{From: []int{1 + kids + chance.IntN(5*kids-1)}, To: []int{1 + kids + chance.IntN(5*kids-1)}, Phrase: Size{W: 40, H: 18}})
			}
			draw, err := Pattern(name)
			require.NoError(t, err)
			d := draw(g, Usual, false)
			turns := 0
			for i := 1; i < kids; i++ {
				a, b := d.Boxes[i], d.Boxes[i+1]
				if name == "levels" && a.Y != b.Y || name == "levels-right" && a.X != b.X {
					continue // it is that of those on one level
				}
				if order(d.Boxes[0], a) > order(d.Boxes[0], b) {
					turns++
				}
			}
			most := 0
			if name == "sides" || name == "rings" {
				most = 1 // they come round
			}
			require.LessOrEqual(t, turns, most, "%s %d: %v", name, seed, d.Boxes[:kids+1])
		}
	}
}

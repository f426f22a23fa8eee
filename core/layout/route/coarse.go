package route

import (
	"math"
	"slices"

	"mevrin/core/geometry"
)

// coarse finds a way from a to b over the cells of a grid, so wide in pixels, where too many
// corners lie between them to look at all, and draws it taut. It is nil where there is none,
// or none among so many cells as may be looked at.
func coarse(a, b Point, x *Index, skip func(id int) bool, side float64, most int) []Point {
	g := newGrid(a, b, x, skip, side)
	end := g.search(most)
	if end < 0 {
		return nil
	}
	way := []Point{b}
	for c := end; c >= 0; c = g.from[c] {
		way = append(way, g.at(c))
	}
	slices.Reverse(way)
	way[0] = a
	// Taut: from each place to the farthest that can be seen from it.
	var turns []Point
	for i := 0; i < len(way)-1; {
		j := len(way) - 1
		for j > i+1 && x.blocked(way[i], way[j], skip, nil) {
			j--
		}
		if j < len(way)-1 {
			turns = append(turns, way[j])
		}
		i = j
	}
	return turns
}

// grid is the room in which a way is looked for, cut into cells.
type grid struct {
	x       *Index
	skip    func(id int) bool
	a, b    Point
	side    float64
	low     Point // the middle of the first cell
	columns int32
	rows    int32
	taken   []uint8 // known or not
	cost    []float64
	from    []int32
	open    []reached // a heap
}

// What is known of a cell.
const (
	free  = 1
	taken = 2
	done  = 4
)

// reached is a cell with how long the way over it is at least.
type reached struct {
	cell int32
	long float64
}

// newGrid lays cells over all that stands there, so that one of them has its middle at a.
func newGrid(a, b Point, x *Index, skip func(id int) bool, side float64) *grid {
	room := Rect{X0: min(a.X, b.X), Y0: min(a.Y, b.Y), X1: max(a.X, b.X), Y1: max(a.Y, b.Y)}
	for _, r := range x.boxes { // beyond all boxes there is nothing to be gone around
		room = Rect{X0: min(room.X0, r.X0), Y0: min(room.Y0, r.Y0), X1: max(room.X1, r.X1), Y1: max(room.Y1, r.Y1)}
	}
	room = room.Grown(3 * side)
	left, up := math.Ceil((a.X-room.X0)/side), math.Ceil((a.Y-room.Y0)/side)
	g := &grid{x: x, skip: skip, a: a, b: b, side: side, low: Point{X: a.X - left*side, Y: a.Y - up*side}}
	g.columns, g.rows = int32(left+math.Ceil((room.X1-a.X)/side))+1, int32(up+math.Ceil((room.Y1-a.Y)/side))+1
	const largest = 1 << 22 // cells
	if float64(g.columns)*float64(g.rows) > largest {
		return g
	}
	n := int(g.columns) * int(g.rows)
	g.taken, g.cost, g.from = make([]uint8, n), make([]float64, n), make([]int32, n)
	start := int32(up)*g.columns + int32(left)
	g.from[start], g.taken[start] = -1, free
	g.push(reached{start, geometry.Distance(a, b)})
	return g
}

func (g *grid) at(c int32) Point {
	return Point{X: g.low.X + g.side*float64(c%g.columns), Y: g.low.Y + g.side*float64(c/g.columns)}
}

// isFree tells that a line may turn in a cell.
func (g *grid) isFree(c int32) bool {
	if g.taken[c] == 0 {
		g.taken[c] = free
		if g.x.covered(g.at(c), g.skip) {
			g.taken[c] = taken
		}
	}
	return g.taken[c]&taken == 0
}

// search gives the cell from which b is reached by the shortest way (A*), or -1.
func (g *grid) search(most int) int32 {
	looked := 0
	for len(g.open) > 0 && looked < most {
		c := g.pop().cell
		if g.taken[c]&done != 0 {
			continue
		}
		g.taken[c] |= done
		looked++
		g.x.stop.TickBy(4)
		p := g.at(c)
		if geometry.Distance(p, g.b) < 1.5*g.side && !g.x.blocked(p, g.b, g.skip, nil) {
			return c
		}
		for dy := int32(-1); dy <= 1; dy++ {
			for dx := int32(-1); dx <= 1; dx++ {
				column, row := c%g.columns+dx, c/g.columns+dy
				if column < 0 || row < 0 || column >= g.columns || row >= g.rows {
					continue
				}
				next := row*g.columns + column
				if next == c || g.taken[next]&done != 0 || !g.isFree(next) {
					continue
				}
				far := g.cost[c] + g.side*math.Sqrt(float64(dx*dx+dy*dy))
				if was := g.cost[next]; was > 0 && was <= far {
					continue
				}
				to := g.at(next)
				// A level or upright step that begins and ends clear of boxes passes through none
				// that is not thinner than a cell.
				if dx != 0 && dy != 0 && g.x.blocked(p, to, g.skip, nil) {
					continue
				}
				g.cost[next], g.from[next] = far, c
				g.push(reached{next, far + geometry.Distance(to, g.b)})
			}
		}
	}
	return -1
}

func (g *grid) push(r reached) {
	g.open = append(g.open, r)
	for i := len(g.open) - 1; i > 0 && g.open[i].long < g.open[(i-1)/2].long; i = (i - 1) / 2 {
		g.open[i], g.open[(i-1)/2] = g.open[(i-1)/2], g.open[i]
	}
}

func (g *grid) pop() reached {
	top, last := g.open[0], len(g.open)-1
	g.open[0] = g.open[last]
	g.open = g.open[:last]
	for i := 0; ; {
		c := 2*i + 1
		if c >= last {
			return top
		}
		if c+1 < last && g.open[c+1].long < g.open[c].long {
			c++
		}
		if g.open[i].long <= g.open[c].long {
			return top
		}
		g.open[i], g.open[c] = g.open[c], g.open[i]
		i = c
	}
}

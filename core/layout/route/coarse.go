package route

import (
	"container/heap"
	"math"
	"slices"

	"mevrin/core/geometry"
)

// coarse finds a way from a to b over the cells of a grid, so wide in pixels, where too many corners lie between
// them to look at all, and draws it taut. It is nil where there is none, or none among so many
// cells as may be looked at.
func coarse(a, b Point, x *Index, skip func(id int) bool, side float64, most int) []Point {
	type cellAt [2]int32
	at := func(c cellAt) Point { return Point{X: a.X + side*float64(c[0]), Y: a.Y + side*float64(c[1])} }
	taken := map[cellAt]bool{}
	free := func(c cellAt) bool {
		is, known := taken[c]
		if !known {
			p := at(c)
			x.Near(Rect{X0: p.X - Clear, Y0: p.Y - Clear, X1: p.X + Clear, Y1: p.Y + Clear}, func(id int, box Rect) bool {
				is = !skip(id) && box.Grown(Clear-1).Holds(p)
				return !is
			})
			taken[c] = is
		}
		return !is
	}
	left := func(c cellAt) float64 { return geometry.Distance(at(c), b) }
	start := cellAt{}
	cost, from, done := map[cellAt]float64{start: 0}, map[cellAt]cellAt{}, map[cellAt]bool{}
	open := &nearest{{start, left(start)}}
	var end cellAt
	found := false
	for open.Len() > 0 && len(done) < most {
		c := heap.Pop(open).(reached).cell
		if done[c] {
			continue
		}
		done[c] = true
		x.stop.TickBy(4)
		if left(c) < 1.5*side && !x.blocked(at(c), b, skip, nil) {
			end, found = c, true
			break
		}
		for dx := int32(-1); dx <= 1; dx++ {
			for dy := int32(-1); dy <= 1; dy++ {
				next := cellAt{c[0] + dx, c[1] + dy}
				if next == c || done[next] || !free(next) {
					continue
				}
				far := cost[c] + side*math.Hypot(float64(dx), float64(dy))
				if was, known := cost[next]; known && was <= far {
					continue
				}
				if x.blocked(at(c), at(next), skip, nil) {
					continue
				}
				cost[next], from[next] = far, c
				heap.Push(open, reached{next, far + left(next)})
			}
		}
	}
	if !found {
		return nil
	}
	way := []Point{b}
	for c := end; ; c = from[c] {
		way = append(way, at(c))
		if c == start {
			break
		}
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

// reached is a cell with how long the way over it is at least.
type reached struct {
	cell [2]int32
	long float64
}

type nearest []reached

func (n nearest) Len() int           { return len(n) }
func (n nearest) Less(i, j int) bool { return n[i].long < n[j].long }
func (n nearest) Swap(i, j int)      { n[i], n[j] = n[j], n[i] }
func (n *nearest) Push(v any)        { *n = append(*n, v.(reached)) }
func (n *nearest) Pop() any {
	all := *n
	last := all[len(all)-1]
	*n = all[:len(all)-1]
	return last
}

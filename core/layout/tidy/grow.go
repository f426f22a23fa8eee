package tidy

import (
	"math"
	"slices"

	"mevrin/core/layout/route"
)

// crowd is boxes that may overlap, and how they lie to each other.
type crowd struct {
	at   []Point
	size []Size // with what has to stay free around them
	tick func(work int)
}

// How overlaps are parted (Gansner and Hu, 2010).
const (
	growsAtOnce  = 1.5 // how much a pair may be drawn apart in a round
	growingTimes = 24  // rounds
	sweepsEach   = 8
	slight       = 1.1 // what is left is parted at once
)

// grow parts what overlaps little by little, so that neighbours stay neighbours: those near
// each other keep their distance, or get that at which they do not overlap, under least stress
// (Gansner and Hu, Efficient, proximity-preserving node overlap removal, JGAA 14(1), 2010;
// neighbours are those of a Yao graph, 1982).
func (c *crowd) grow() {
	for range growingTimes {
		pairs, worst := c.pairs()
		if worst <= slight {
			return
		}
		c.tick(len(pairs) * sweepsEach)
		near := make([][]reach, len(c.at))
		for _, p := range pairs {
			near[p.a] = append(near[p.a], reach{int(p.b), float64(p.long)})
			near[p.b] = append(near[p.b], reach{int(p.a), float64(p.long)})
		}
		for range sweepsEach {
			for v, all := range near {
				var sum Point
				weights := 0.0
				for _, r := range all {
					dx, dy := c.at[v].X-c.at[r.to].X, c.at[v].Y-c.at[r.to].Y
					d := max(math.Hypot(dx, dy), 1e-6)
					weight := 1 / (r.long * r.long)
					sum.X += weight * (c.at[r.to].X + r.long*dx/d)
					sum.Y += weight * (c.at[r.to].Y + r.long*dy/d)
					weights += weight
				}
				if weights > 0 {
					c.at[v] = Point{X: sum.X / weights, Y: sum.Y / weights}
				}
			}
		}
	}
}

// cones is how many sides each has to which its nearest is its neighbour.
const cones = 8

// octant tells to which of eight sides something lies.
func octant(dx, dy float64) int {
	k := 0
	if dx < 0 {
		k, dx = 1, -dx
	}
	if dy < 0 {
		k, dy = k+2, -dy
	}
	if dy > dx {
		k += 4
	}
	return k
}

// pairs lists neighbours, with how far they should be from each other, and by which factor
// the pair that overlaps most would have to be drawn apart.
func (c *crowd) pairs() (all []term, worst float64) {
	rooms := make([]route.Rect, len(c.at))
	side := 0.0
	for i, s := range c.size {
		rooms[i] = route.Rect{X0: c.at[i].X - s.W/2, Y0: c.at[i].Y - s.H/2, X1: c.at[i].X + s.W/2, Y1: c.at[i].Y + s.H/2}
		side += (s.W + s.H) / 2
	}
	side /= float64(max(1, len(c.at)))
	index := route.NewIndex(rooms)
	var met []int64 // of each pair, both its numbers in one
	add := func(i, j int) {
		if i != j {
			met = append(met, int64(min(i, j))<<32|int64(max(i, j)))
		}
	}
	for i, p := range c.at {
		index.Near(rooms[i], func(j int, r route.Rect) bool {
			if o := rooms[i]; o.X0 < r.X1 && r.X0 < o.X1 && o.Y0 < r.Y1 && r.Y0 < o.Y1 {
				add(i, j)
			}
			return true
		})
		// The nearest to each side, no further than a few boxes.
		var nearest [cones]int
		var far [cones]float64
		for k := range nearest {
			nearest[k] = -1
		}
		for reach := 1.5 * side; reach < 8*side; reach *= 2 {
			found := 0
			index.Near(route.Rect{X0: p.X - reach, Y0: p.Y - reach, X1: p.X + reach, Y1: p.Y + reach}, func(j int, _ route.Rect) bool {
				if j == i {
					return true
				}
				dx, dy := c.at[j].X-p.X, c.at[j].Y-p.Y
				k := octant(dx, dy)
				if d := dx*dx + dy*dy; nearest[k] < 0 || d < far[k] {
					nearest[k], far[k] = j, d
				}
				return true
			})
			for _, j := range nearest {
				if j >= 0 {
					found++
				}
			}
			if found >= cones-2 {
				break
			}
		}
		for _, j := range nearest {
			if j >= 0 {
				add(i, j)
			}
		}
	}
	slices.Sort(met)
	met = slices.Compact(met)
	all = make([]term, 0, len(met))
	for _, both := range met {
		i, j := int(both>>32), int(both&math.MaxUint32)
		dx, dy := c.at[i].X-c.at[j].X, c.at[i].Y-c.at[j].Y
		if math.Abs(dx)+math.Abs(dy) < 1 { // at one place: aside, each pair its own way
			c.at[j] = Point{X: c.at[j].X + float64(1+j%7), Y: c.at[j].Y + float64(1+j%5)}
			dx, dy = c.at[i].X-c.at[j].X, c.at[i].Y-c.at[j].Y
		}
		apart := min((c.size[i].W+c.size[j].W)/2/max(math.Abs(dx), 1e-6), (c.size[i].H+c.size[j].H)/2/max(math.Abs(dy), 1e-6))
		worst = max(worst, apart)
		all = append(all, term{a: int32(i), b: int32(j), long: float32(math.Hypot(dx, dy) * min(growsAtOnce, max(1, apart)))})
	}
	return all, worst
}

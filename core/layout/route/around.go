package route

import (
	"math"
	"mevrin/core/geometry"
)

// What a way around boxes keeps to, in pixels.
const (
	Clear    = 8   // from boxes
	turnCost = 18  // what a further turn may save in length
	maxTurn  = 100 // corners looked at for one way
)

// Around gives the places at which a line from a to b turns so as to keep clear
// of the boxes of an index, but for those that skip names: the shortest way
// over corners of boxes, as in a visibility graph (Lozano-Pérez and Wesley, An
// algorithm for planning collision-free paths among polyhedral obstacles,
// 1979). Only the boxes that turn out to be in the way are looked at. Ok is
// false where no way was found; the line may then run straight.
func Around(a, b Point, x *Index, skip func(id int) bool) (turns []Point, ok bool) {
	return around(a, b, x, skip, maxTurn)
}

// AroundQuickly does as Around, but looks at no more than a quarter of the corners.
func AroundQuickly(a, b Point, x *Index, skip func(id int) bool) (turns []Point, ok bool) {
	return around(a, b, x, skip, maxTurn/4)
}

// AroundFew does as Around, but gives up where more boxes than few stand on the
// straight line, or more than so many corners would have to be looked at. Looked
// is the room within which the answer depends on boxes.
func AroundFew(a, b Point, x *Index, skip func(id int) bool, few, corners int) (turns []Point, looked Rect) {
	met := 0
	x.Along(a, b, Clear-1, func(id int, _ Rect) bool {
		if !skip(id) {
			met++
		}
		return met <= few
	})
	looked = Rect{X0: min(a.X, b.X), Y0: min(a.Y, b.Y), X1: max(a.X, b.X), Y1: max(a.Y, b.Y)}
	if met > few {
		return nil, looked
	}
	w := newWay(a, b, x, skip)
	turns, _ = w.find(corners)
	for id := range w.in { // with the corners at which something stands: they are free once that is gone
		r := x.boxes[id].Grown(Clear)
		looked = Rect{X0: min(looked.X0, r.X0), Y0: min(looked.Y0, r.Y0), X1: max(looked.X1, r.X1), Y1: max(looked.Y1, r.Y1)}
	}
	return turns, looked
}

// around looks at no more than so many corners.
func around(a, b Point, x *Index, skip func(id int) bool, most int) (turns []Point, ok bool) {
	if !x.blocked(a, b, skip, nil) {
		return nil, true
	}
	turns, ok = newWay(a, b, x, skip).find(most)
	if !ok && most == maxTurn {
		turns = coarse(a, b, x, skip, 20, 50_000)
		ok = turns != nil
	}
	return turns, ok
}

func newWay(a, b Point, x *Index, skip func(id int) bool) *way {
	w := &way{x: x, skip: skip, in: map[int]bool{}}
	w.add(a)
	w.add(b)
	return w
}

// find looks for the shortest way, at no more than so many corners.
func (w *way) find(most int) (turns []Point, ok bool) {
	for range most {
		path := w.shortest()
		if path == nil {
			return nil, false
		}
		free := true
		for i := 1; i < len(path); i++ {
			u, v := path[i-1], path[i]
			if w.pair[u][v] == open {
				continue
			}
			var met []int
			if w.x.blocked(w.at[u], w.at[v], w.skip, &met) {
				w.pair[u][v], w.pair[v][u] = shut, shut
				for _, id := range met {
					w.corners(id)
				}
				free = false
				continue
			}
			w.pair[u][v], w.pair[v][u] = open, open
		}
		if free {
			for _, v := range path[1 : len(path)-1] {
				turns = append(turns, w.at[v])
			}
			return turns, true
		}
		if len(w.at) > most {
			return nil, false
		}
	}
	return nil, false
}

// blocked tells whether a straight line meets a box; met takes the numbers of
// those that it meets.
func (x *Index) blocked(a, b Point, skip func(int) bool, met *[]int) bool {
	hit := false
	x.Along(a, b, Clear-1, func(id int, _ Rect) bool {
		if skip(id) {
			return true
		}
		hit = true
		if met == nil {
			return false
		}
		*met = append(*met, id)
		return true
	})
	return hit
}

// What is known of a pair of corners.
const (
	unknown = iota
	open
	shut
)

// way is a visibility graph in the making: every pair of corners counts as
// joined until it is found not to be.
type way struct {
	x    *Index
	skip func(int) bool
	at   []Point
	left []float64 // from each place to the end, as the crow flies
	in   map[int]bool
	pair [maxTurn + 64][maxTurn + 64]uint8
	// What one search needs.
	cost [maxTurn + 64]float64 // of the shortest way to each that is known
	long [maxTurn + 64]float64 // and on from there as the crow flies; endless for what is done
	from [maxTurn + 64]int
	done [maxTurn + 64]bool
}

func (w *way) add(p Point) {
	if len(w.at) == len(w.pair) {
		return
	}
	w.at = append(w.at, p)
	if len(w.at) > 1 {
		w.left = append(w.left, geometry.Distance(p, w.at[1]))
	} else {
		w.left = append(w.left, 0)
	}
}

func (w *way) corners(id int) {
	if w.in[id] {
		return
	}
	w.in[id] = true
	r := w.x.boxes[id].Grown(Clear)
	for _, p := range [4]Point{{X: r.X0, Y: r.Y0}, {X: r.X1, Y: r.Y0}, {X: r.X0, Y: r.Y1}, {X: r.X1, Y: r.Y1}} {
		inside := false
		w.x.Near(Rect{X0: p.X - Clear, Y0: p.Y - Clear, X1: p.X + Clear, Y1: p.Y + Clear}, func(other int, box Rect) bool {
			inside = other != id && !w.skip(other) && box.Grown(Clear-1).Holds(p)
			return !inside
		})
		if !inside {
			w.add(p)
		}
	}
}

// shortest gives the shortest way from the first place to the second, by the
// numbers of its places (A*: Hart, Nilsson and Raphael, 1968).
func (w *way) shortest() []int {
	w.x.stop.TickBy(1 + len(w.at)*len(w.at)/64)
	n := len(w.at)
	cost, from, long, done := w.cost[:n], w.from[:n], w.long[:n], w.done[:n]
	for i := range cost {
		cost[i], from[i], long[i], done[i] = math.Inf(1), -1, math.Inf(1), false
	}
	cost[0], long[0] = 0, w.left[0]
	for {
		u, least := -1, math.Inf(1)
		for i, l := range long {
			if l < least {
				u, least = i, l
			}
		}
		if u < 0 {
			return nil
		}
		if u == 1 {
			break
		}
		done[u], long[u] = true, math.Inf(1)
		at, here, shuts := w.at[u], cost[u]+turnCost, w.pair[u][:n]
		for v := 1; v < n; v++ {
			// No way over v may be longer than one that is known to the end.
			if here >= cost[v] || here+w.left[v] > cost[1] || done[v] || shuts[v] == shut {
				continue
			}
			if c := here + geometry.Distance(at, w.at[v]); c < cost[v] {
				cost[v], long[v], from[v] = c, c+w.left[v], u
			}
		}
	}
	var path []int
	for v := 1; v >= 0; v = from[v] {
		path = append(path, v)
	}
	for i, j := 0, len(path)-1; i < j; i, j = i+1, j-1 {
		path[i], path[j] = path[j], path[i]
	}
	return path
}

package route

import (
	"math"
	"slices"

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
	if x.covered(a, skip) || x.covered(b, skip) {
		return nil, false // no way ends there
	}
	turns, ok = newWay(a, b, x, skip).find(most)
	if !ok && most == maxTurn {
		turns = coarse(a, b, x, skip, 20, 50_000)
		ok = turns != nil
	}
	return turns, ok
}

func newWay(a, b Point, x *Index, skip func(id int) bool) *way {
	w := x.way
	if w == nil {
		w = &way{x: x, in: map[int]bool{}}
		x.way = w
	}
	w.begin(skip)
	w.add(a)
	w.add(b)
	return w
}

// find looks for the shortest way, over no more than so many corners, by A* (Hart, Nilsson and
// Raphael, 1968) with edges that count as open until they are about to be used (Cohen, Phillips
// and Likhachev, Planning single-arm manipulations with n-arm robots, 2014): what blocks one
// brings in its corners then.
func (w *way) find(most int) (turns []Point, ok bool) {
	w.cost[0] = 0
	w.finish(0)
	for range 4 * most {
		w.x.stop.TickBy(1 + len(w.at)/16)
		u := w.next()
		if u < 0 {
			return nil, false
		}
		if from := w.from[u]; w.pair[from][u] != open {
			if w.met = w.met[:0]; w.x.blocked(w.at[from], w.at[u], w.skip, &w.met) {
				w.pair[from][u], w.pair[u][from] = shut, shut
				for _, id := range w.met {
					w.corners(id)
				}
				if len(w.at) > most {
					return nil, false
				}
				w.hang(u)
				continue
			}
			w.pair[from][u], w.pair[u][from] = open, open
		}
		if u == 1 {
			for v := w.from[1]; v > 0; v = w.from[v] {
				turns = append(turns, w.at[v])
			}
			slices.Reverse(turns)
			return turns, true
		}
		w.finish(u)
	}
	return nil, false
}

// next gives the place over which the shortest way may lead, or -1.
func (w *way) next() int {
	u, least := -1, math.Inf(1)
	for i, l := range w.long[:len(w.at)] {
		if l < least {
			u, least = i, l
		}
	}
	return u
}

// finish takes a place to which the shortest way is known, and looks on from there.
func (w *way) finish(u int) {
	w.done[u], w.long[u] = true, math.Inf(1)
	w.closed = append(w.closed, u)
	for v := 1; v < len(w.at); v++ {
		if !w.done[v] && w.pair[u][v] != shut {
			w.reach(u, v)
		}
	}
}

// reach notes how far it is to v by way of u.
func (w *way) reach(u, v int) {
	far := w.cost[u] + turnCost
	if far >= w.cost[v] {
		return
	}
	if far += geometry.Distance(w.at[u], w.at[v]); far < w.cost[v] {
		w.cost[v], w.long[v], w.from[v] = far, far+w.left[v], u
	}
}

// hang looks for the shortest way to a place anew, among those that are known.
func (w *way) hang(v int) {
	w.cost[v], w.long[v], w.from[v] = math.Inf(1), math.Inf(1), -1
	for _, u := range w.closed {
		if w.pair[u][v] != shut {
			w.reach(u, v)
		}
	}
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

// covered tells whether a place lies in a box, or so near that no line comes there clear of it.
func (x *Index) covered(p Point, skip func(int) bool) (is bool) {
	x.Near(Rect{X0: p.X - Clear, Y0: p.Y - Clear, X1: p.X + Clear, Y1: p.Y + Clear}, func(id int, box Rect) bool {
		is = !skip(id) && box.Grown(Clear-1).Holds(p)
		return !is
	})
	return is
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
	cost [maxTurn + 64]float64 // of the shortest way to each place that is known
	long [maxTurn + 64]float64 // and on from there as the crow flies; endless for what is done
	from [maxTurn + 64]int
	done [maxTurn + 64]bool
	// closed are the places to which the shortest way is known.
	closed []int
	met    []int
}

// begin forgets what was looked for before: a way takes much room, so that each index keeps one.
func (w *way) begin(skip func(int) bool) {
	n := len(w.at)
	for i := range n {
		clear(w.pair[i][:n])
		w.done[i] = false
	}
	clear(w.in)
	w.skip, w.at, w.left, w.closed, w.met = skip, w.at[:0], w.left[:0], w.closed[:0], w.met[:0]
}

// add puts in a place, and how it is reached from those that are known.
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
	w.hang(len(w.at) - 1)
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

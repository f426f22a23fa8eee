package tidy

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"mevrin/core/work"
)

// newLevelled puts the vertices of a part on layers and in order. What leads
// back, how much a phrase is drawn to its one end rather than to its many, and
// whether each box stands on the level of its hierarchy, can be chosen in several
// ways; that of least cost stands.
func newLevelled(g *Graph, p part, s Spacing, keep bool) *levelled {
	wires := make([]Wire, len(p.wires))
	for i, w := range p.wires {
		wires[i] = g.Wires[w]
	}
	long := longLook
	if g.Quick {
		long /= 3
	}
	if g.Effort > 0 {
		long = int(float64(long) * g.Effort)
	}
	if g.Was != nil {
		if l := resume(g, p, s, wires, keep); l != nil && !l.ribbon() {
			return l
		}
		long /= 20 // somebody waits for an edit
	}
	orders := g.orders(p, wires)
	const hurried = 0.3
	if g.Was != nil || g.Effort > 0 && g.Effort < hurried {
		orders = orders[:min(2, len(orders))]
	}
	if len(p.boxes) > several {
		long /= 3
	}
	if len(p.boxes) > manyBoxes {
		orders, long = orders[:min(3, len(orders))], long/2
	}
	// Each is looked at for a little while, the most promising ones for longer.
	type candidate struct {
		*levelled
		cost float64
	}
	var tries []func(*work.Limit) *levelled
	try := func(order map[int]int, r ranking) {
		tries = append(tries, func(stop *work.Limit) *levelled {
			own := *g
			own.Stop = stop
			return layered(&own, p, s, wires, order, r, keep)
		})
	}
	if g.Above != nil {
		try(orders[0], byHierarchy)
	}
	for i, order := range orders {
		if !slices.ContainsFunc(orders[:i], func(at map[int]int) bool { return maps.Equal(at, order) }) {
			try(order, shortFans)
			try(order, shortWires)
		}
	}
	all := make([]candidate, len(tries))
	g.Stop.Each(len(all), func(i int, stop *work.Limit) {
		l := tries[i](stop)
		l.untangle(quickLook, 1)
		all[i] = candidate{l, l.cost()}
	})
	cheaper := func(a, b candidate) int { return cmp.Compare(a.cost, b.cost) }
	slices.SortStableFunc(all, cheaper)
	all = all[:min(len(all), promising)]
	if all[0].cost > 0 {
		g.Stop.Each(len(all), func(i int, stop *work.Limit) {
			all[i].stop = stop
			all[i].untangle(long/len(all), 2)
			all[i].cost = all[i].levelled.cost()
		})
	}
	best := slices.MinFunc(all, cheaper).levelled
	best.g, best.stop = g, g.Stop
	return best
}

// orders gives sequences of boxes in which wires lead onwards, as far as may be. Where boxes
// hang from each other, each comes behind what it hangs from in the first of them.
func (g *Graph) orders(p part, wires []Wire) []map[int]int {
	all := []map[int]int{sequence(p.boxes, wires, g.Root), fewBack(p.boxes, wires, g.Root)}
	fewest := min(back(wires, all[0]), back(wires, all[1]))
	if near := byDistance(p.boxes, wires, g.Root); back(wires, near) <= fewest+mayLeadBack {
		all = append(all, near)
	}
	if g.Above != nil {
		all = append([]map[int]int{g.downwards(p.boxes, false), g.downwards(p.boxes, true)}, all...)
	}
	return all
}

// extent gives about how wide and how high a drawing becomes.
func (l *levelled) extent() (wide, high float64) {
	for _, row := range l.row {
		across, tall := 0.0, 0.0
		for _, v := range row {
			gap := l.space.Side
			if l.dummy[v] {
				gap = l.space.Line
			}
			across, tall = across+l.size[v].W+gap, max(tall, l.height(v))
		}
		wide, high = max(wide, across), high+tall+l.space.Level
	}
	return wide, high
}

// ribbon tells that a drawing has become so wide that its levels are to be set in rows.
func (l *levelled) ribbon() bool {
	wide, high := l.extent()
	return l.g.Fold && wide > widest*high && wide > 1200
}

// cost gives the crossings of a drawing, and more for what stands above that from which it
// hangs, and where the drawing becomes a pillar.
func (l *levelled) cost() float64 {
	const slim, each, above, scattered, lower = 0.6, 6, 0.8, 0.5, 1.5
	wide, high := l.extent()
	cost := float64(l.crossings()) + each*max(0, math.Log2(slim*high/wide))
	if l.g.Above != nil {
		for _, b := range l.part.boxes {
			if up, here := l.vertex[l.g.Above[b]]; here && l.g.Above[b] >= 0 && l.of[l.vertex[b]] <= l.of[up] {
				cost += above
			} else if here && l.towering(l.vertex[b]) { // what is large makes all longer the lower it hangs
				cost += lower * float64(l.of[l.vertex[b]]-l.of[up]-2)
			}
		}
	}
	// What one phrase leads to belongs on one level.
	for i, w := range l.part.wires {
		if l.phrase[i] < 0 {
			continue
		}
		to := l.g.Wires[w].To
		for _, b := range to[1:] {
			if l.of[l.vertex[b]] != l.of[l.vertex[to[0]]] {
				cost += scattered
			}
		}
	}
	return cost
}

// manyBoxes is from how many on fewer ways are looked at, since each takes long, and several
// from how many on for less long.
const manyBoxes, several = 150, 200

// promising is how many ways to put boxes on levels are looked at for longer; quickLook and
// longLook say for how long, in comparisons of two neighbours on a level: the long look of one takes
// some 70 ms.
const (
	promising = 3
	quickLook = 60_000
	longLook  = 3_600_000
)

// ranking is a way to choose levels.
type ranking int

const (
	byHierarchy ranking = iota // each box below what it hangs from, whatever else leads there
	shortFans                  // lines as short as may be, those that stand for several above all
	shortWires                 // lines as short as may be
)

// downwards puts boxes in the order in which they hang from each other, each before what
// hangs from it: branch by branch, or level by level.
func (g *Graph) downwards(boxes []int, byLevels bool) map[int]int {
	below := map[int][]int{}
	member := make(map[int]bool, len(boxes))
	for _, b := range boxes {
		member[b] = true
	}
	var open []int
	for _, b := range boxes {
		if up := g.Above[b]; up >= 0 && up != b && member[up] {
			below[up] = append(below[up], b)
		} else {
			open = append(open, b)
		}
	}
	at := make(map[int]int, len(boxes))
	for len(open) > 0 {
		b := open[0]
		open = open[1:]
		at[b] = len(at)
		slices.SortStableFunc(below[b], func(x, y int) int { return g.Rank[x] - g.Rank[y] })
		if byLevels {
			open = append(open, below[b]...)
		} else {
			open = append(below[b], open...)
		}
	}
	for _, b := range boxes { // what hangs in a circle
		if _, met := at[b]; !met {
			at[b] = len(at)
		}
	}
	return at
}

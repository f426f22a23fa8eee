package tidy

import (
	"cmp"
	"math"
	"slices"
)

// Along draws a graph along time: what has a time stands with its left edge
// where it begins, from left to right, in lanes below each other, and keeps its
// lane free until it ends; several at one moment are stacked. What has none stands below, under the middle of what it is
// joined to. The scale is even, as Scale tells.
func Along(g Graph, s Spacing, _ bool) Drawing {
	out := Drawing{Boxes: make([]Point, len(g.Boxes)), Wires: make([]Line, len(g.Wires))}
	all := part{}
	var dated, rest []int
	for b, box := range g.Boxes {
		all.boxes = append(all.boxes, b)
		if box.Time != nil {
			dated = append(dated, b)
		} else {
			rest = append(rest, b)
		}
	}
	for w := range g.Wires {
		all.wires = append(all.wires, w)
	}
	slices.SortStableFunc(dated, func(a, b int) int {
		x, y := g.Boxes[a].Time, g.Boxes[b].Time
		return cmp.Or(cmp.Compare(x.From, y.From), cmp.Compare(x.To, y.To))
	})
	words := 0.0
	for _, w := range g.Wires {
		words = max(words, w.Phrase.H)
	}
	lanes := laned{g: &g, space: s, out: &out, between: words + 2*s.Line}
	begin, scale := lanes.scale(dated)
	for _, b := range dated {
		time := g.Boxes[b].Time
		lanes.put(b, (time.From-begin)*scale, (time.To-time.From)*scale)
	}
	lanes.below(rest)
	lead(&g, &out, all, placed{})
	return out
}

// laned puts boxes into lanes.
type laned struct {
	g       *Graph
	space   Spacing
	out     *Drawing
	between float64
	lanes   []lane
}

// lane is a row: how high it is, and which stretches of it are taken.
type lane struct {
	top, tall float64
	taken     [][2]float64
}

// scale finds how many pixels a unit of time takes: so that the drawing becomes
// about twice as wide as high, if all were spread evenly.
func (l *laned) scale(dated []int) (begin, scale float64) {
	if len(dated) == 0 {
		return 0, 1
	}
	begin = l.g.Boxes[dated[0]].Time.From
	end, area := begin, 0.0
	for _, b := range dated {
		box := l.g.Boxes[b]
		end = max(end, box.Time.To)
		area += (box.W + l.space.Part) * (box.H + l.between)
	}
	if end == begin {
		return begin, 1
	}
	return begin, max(640, math.Sqrt(area*2.4)) / (end - begin)
}

// put places a box with its left edge at x in the first lane that has room for it
// and for as far as it lasts.
func (l *laned) put(b int, x, lasts float64) {
	size := l.g.Boxes[b].Size
	wide := max(size.W, lasts)
	from, to := x-l.space.Side, x+wide+l.space.Side
	at := slices.IndexFunc(l.lanes, func(n lane) bool {
		return !slices.ContainsFunc(n.taken, func(t [2]float64) bool { return from < t[1] && t[0] < to })
	})
	if at < 0 {
		at = len(l.lanes)
		l.lanes = append(l.lanes, lane{})
	}
	l.lanes[at].taken = append(l.lanes[at].taken, [2]float64{x, x + wide})
	if size.H > l.lanes[at].tall {
		l.lanes[at].tall = size.H
	}
	l.out.Boxes[b] = Point{X: x + size.W/2, Y: float64(at)} // its height is known at the end
	l.level()
}

// level puts all lanes below each other, and what stands in them.
func (l *laned) level() {
	top := 0.0
	for i := range l.lanes {
		l.lanes[i].top = top
		top += l.lanes[i].tall + l.between
	}
}

// below places what has no time, and gives everything its height.
func (l *laned) below(rest []int) {
	lane := map[int]int{}
	for b := range l.out.Boxes {
		if l.g.Boxes[b].Time != nil {
			lane[b] = int(l.out.Boxes[b].Y)
		}
	}
	dated := len(l.lanes)
	upper := l.lanes
	known := map[int]bool{}
	for b := range lane {
		known[b] = true
	}
	wishes := map[int]float64{}
	for range 4 { // what is joined to nothing dated goes by what is
		for _, b := range rest {
			sum, n := 0.0, 0.0
			for _, w := range l.g.Wires {
				if ends := w.ends(); slices.Contains(ends, b) {
					for _, e := range ends {
						if e != b && known[e] {
							sum, n = sum+l.out.Boxes[e].X, n+1
						}
					}
				}
			}
			if n > 0 {
				wishes[b] = sum / n
				l.out.Boxes[b].X, known[b] = sum/n, true
			}
		}
	}
	l.lanes = nil
	for _, b := range rest {
		x := wishes[b] - l.g.Boxes[b].W/2
		l.put(b, x, 0)
		lane[b] = dated + int(l.out.Boxes[b].Y)
	}
	l.lanes = append(upper, l.lanes...)
	l.level()
	for b, i := range lane {
		at := l.lanes[i]
		if i >= dated && dated > 0 {
			at.top += l.space.Part
		}
		l.out.Boxes[b].Y = at.top + at.tall/2
	}
}

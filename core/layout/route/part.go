package route

import (
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/work"
)

// Two lines run on each other where they are less than nearby apart; over more than MaxCommon
// one cannot tell which is which. In pixels.
const (
	nearby    = 3.5
	MaxCommon = 30
	maxParts  = 5 // places tried for one turn, on either side
)

// Part moves turns of lines that are all led already, where two run on each other for long;
// own says which of the wires may be changed.
func Part(stop *work.Limit, boxes []Rect, wires []Wire, own func(wire int) bool) []Line {
	l := newLeader(stop, boxes, wires)
	for i := range wires {
		l.take(i)
		for k, leg := range l.lines[i].Legs { // a turn is moved: not that of the one who asks
			l.lines[i].Legs[k] = slices.Clone(leg)
		}
	}
	l.part(own)
	return l.lines
}

// part moves turns of lines that run on lines of other wires for long, outwards or inwards,
// until they run beside them.
func (l *leader) part(own func(wire int) bool) {
	d := l.drawn()
	for i := range l.wires {
		if !own(i) || l.alone(i) {
			continue
		}
		for k := range l.lines[i].Legs {
			for t := range l.lines[i].Legs[k] {
				l.partAt(d, i, k, t)
			}
		}
	}
}

func (l *leader) partAt(d *drawnLines, i, k, t int) {
	b := l.bendAt(i, k, t)
	before, after := l.around(i, k, t)
	own := l.boxes[l.wires[i].Ends[k]]
	common := func(at Point) float64 { return d.common(i, own, before, at) + d.common(i, own, at, after) }
	p := l.lines[i].Legs[k][t]
	least := common(p)
	if least <= MaxCommon {
		return
	}
	out := b.out
	if long := math.Hypot(out.X, out.Y); long > 0.05 {
		out = Point{X: out.X / long, Y: out.Y / long}
	} else if long = geometry.Distance(before, after); long > 1e-6 { // hardly a turn: aside
		out = Point{X: (before.Y - after.Y) / long, Y: (after.X - before.X) / long}
	}
	best := p
	crossed := d.crossed(i, before, p) + d.crossed(i, p, after)
	for n := 1; n <= maxParts && least > MaxCommon; n++ {
		for _, off := range [2]float64{between, -between} {
			at := Point{X: p.X + out.X*off*float64(n), Y: p.Y + out.Y*off*float64(n)}
			if c := common(at); c < least-1 && l.clear(b, at) && d.crossed(i, before, at)+d.crossed(i, at, after) <= crossed {
				best, least = at, c
			}
		}
	}
	if best != p {
		l.lines[i].Legs[k][t] = best
		d.turned(i, p, best)
	}
}

// turned makes known that a wire turns elsewhere.
func (d *drawnLines) turned(wire int, from, to Point) {
	for _, id := range d.pieces[wire] {
		if d.wire[id] == gone {
			continue
		}
		ends := d.ends[id]
		for e := range ends {
			if ends[e] == from {
				ends[e] = to
			}
		}
		if ends != d.ends[id] {
			d.wire[id] = gone
			d.add(wire, ends[0], ends[1])
		}
	}
}

// gone is the wire of a piece that is no more.
const gone = -1

// common gives over what length a piece runs on lines of other wires, but inside its own box.
func (d *drawnLines) common(wire int, own Rect, a, b Point) float64 {
	if _, out := own.Through(a, b); out > 0 && out < 1 && own.Holds(a) {
		a = mix(a, b, out)
	}
	long := geometry.Distance(a, b)
	if long < 1e-6 {
		return 0
	}
	sum := 0.0
	d.index.Near(geometry.Span(a, b).Grown(nearby), func(id int, _ Rect) bool {
		if w := d.wire[id]; w != wire && w != gone {
			sum += long * Shared(a, b, d.ends[id][0], d.ends[id][1])
		}
		return true
	})
	return sum
}

// Shared gives the part of the straight line from a to b that runs on that from c to d, so near
// to it that one cannot tell which is which.
func Shared(a, b, c, d Point) float64 {
	long := geometry.Distance(c, d)
	if long < 1e-6 {
		return 0
	}
	u := Point{X: (d.X - c.X) / long, Y: (d.Y - c.Y) / long}
	along := func(p Point) float64 { return (p.X-c.X)*u.X + (p.Y-c.Y)*u.Y }
	aside := func(p Point) float64 { return (p.Y-c.Y)*u.X - (p.X-c.X)*u.Y }
	low, high := 0.0, 1.0
	clip := func(from, to, least, most float64) { // where from + t·(to-from) lies between
		if by := to - from; math.Abs(by) > 1e-9 {
			t0, t1 := (least-from)/by, (most-from)/by
			low, high = max(low, min(t0, t1)), min(high, max(t0, t1))
		} else if from < least || from > most {
			low, high = 1, 0
		}
	}
	clip(aside(a), aside(b), -nearby, nearby)
	clip(along(a), along(b), 0, long)
	return max(0, high-low)
}

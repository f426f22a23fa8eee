package route

import (
	"cmp"
	"math"
	"mevrin/core/geometry"
	"slices"
)

// between is the room between lines that turn at the same corner, in pixels.
const between = 5

// bend is a turn of a line: of which leg, which of its turns, and how sharp it
// is, in radians.
type bend struct {
	wire, leg, turn int
	sharp           float64
	out             Point // away from what the line goes around
}

// fan lets lines that turn at the same corner turn beside each other: the one
// that turns most stays nearest to the corner, so that none crosses another.
func (l *leader) fan() {
	drawn := l.drawn()
	at := map[Point][]bend{}
	var order []Point
	for i := range l.wires {
		if l.wires[i].Led != nil || l.alone(i) {
			continue
		}
		for k, leg := range l.lines[i].Legs {
			for t, p := range leg {
				b := l.bendAt(i, k, t)
				if len(at[p]) == 0 {
					order = append(order, p)
				}
				at[p] = append(at[p], b)
			}
		}
	}
	for _, p := range order {
		all := at[p]
		if len(all) < 2 {
			continue
		}
		slices.SortStableFunc(all, func(a, b bend) int { return cmp.Compare(b.sharp, a.sharp) })
		var out Point
		for _, b := range all {
			out.X, out.Y = out.X+b.out.X, out.Y+b.out.Y
		}
		long := math.Hypot(out.X, out.Y)
		if long < 1e-6 {
			continue
		}
		for n, b := range all[1:] {
			off := between * float64(min(n+1, 5)) / long
			l.shift(drawn, b, Point{X: p.X + out.X*off, Y: p.Y + out.Y*off})
		}
	}
}

// around gives the places before and after a turn.
func (l *leader) around(i, k, t int) (before, after Point) {
	leg := l.lines[i].Legs[k]
	before, after = l.boxes[l.wires[i].Ends[k]].Middle(), l.lines[i].Phrase
	if t > 0 {
		before = leg[t-1]
	}
	if t+1 < len(leg) {
		after = leg[t+1]
	}
	return before, after
}

func (l *leader) bendAt(i, k, t int) bend {
	p := l.lines[i].Legs[k][t]
	before, after := l.around(i, k, t)
	unit := func(to Point) Point {
		d := max(geometry.Distance(p, to), 1e-9)
		return Point{X: (to.X - p.X) / d, Y: (to.Y - p.Y) / d}
	}
	a, b := unit(before), unit(after)
	straight := math.Acos(max(-1, min(1, a.X*b.X+a.Y*b.Y)))
	return bend{i, k, t, math.Pi - straight, Point{X: -(a.X + b.X), Y: -(a.Y + b.Y)}}
}

// drawnLines are the pieces of all lines, as they were before any was moved.
type drawnLines struct {
	index *Index
	ends  [][2]Point
	wire  []int
	// pieces are those of each wire.
	pieces map[int][]int
}

func (l *leader) drawn() *drawnLines {
	d := &drawnLines{index: NewIndexWithin(geometry.Around(l.boxes)).Under(l.stop), pieces: make(map[int][]int, len(l.wires))}
	for i, w := range l.wires {
		for k, leg := range l.lines[i].Legs {
			at := l.boxes[w.Ends[k]].Middle()
			for _, to := range append(slices.Clone(leg), l.lines[i].Phrase) {
				d.add(i, at, to)
				at = to
			}
		}
	}
	return d
}

func (d *drawnLines) add(wire int, a, b Point) {
	d.pieces[wire] = append(d.pieces[wire], d.index.Add(geometry.Span(a, b)))
	d.ends, d.wire = append(d.ends, [2]Point{a, b}), append(d.wire, wire)
}

// crossed counts the lines of other wires that a piece crosses.
func (d *drawnLines) crossed(wire int, a, b Point) int {
	n := 0
	d.index.Near(geometry.Span(a, b), func(id int, _ Rect) bool {
		if w := d.wire[id]; w != wire && w != gone && Cross(a, b, d.ends[id][0], d.ends[id][1]) {
			n++
		}
		return true
	})
	return n
}

// shift puts a turn elsewhere, if the line stays clear of boxes and crosses no
// more lines.
func (l *leader) shift(drawn *drawnLines, b bend, to Point) {
	p := l.lines[b.wire].Legs[b.leg][b.turn]
	before, after := l.around(b.wire, b.leg, b.turn)
	if !l.clear(b, to) {
		return
	}
	if drawn.crossed(b.wire, before, to)+drawn.crossed(b.wire, to, after) > drawn.crossed(b.wire, before, p)+drawn.crossed(b.wire, p, after) {
		return
	}
	l.lines[b.wire].Legs[b.leg][b.turn] = to
}

// clear tells whether a line keeps clear of boxes and phrases with a turn elsewhere.
func (l *leader) clear(b bend, to Point) bool {
	before, after := l.around(b.wire, b.leg, b.turn)
	own := l.wires[b.wire].Ends[b.leg]
	free := true
	for _, from := range [2]Point{before, after} {
		l.things.Along(from, to, 1, func(id int, _ Rect) bool {
			free = id == own || id >= len(l.boxes) && l.owner[id] == b.wire
			return free
		})
		if !free {
			return false
		}
	}
	return true
}

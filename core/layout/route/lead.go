package route

import (
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/work"
)

// Wire is a link to be led: the boxes at which it ends and the room of its
// phrase. With Wish the phrase stands there, or near; with Led it is led already,
// and the others keep clear of its phrase. Careful means that its phrase rather stands
// where straight lines lead to it.
type Wire struct {
	Ends   []int
	Phrase Size
	Wish   *Point
	Led    *Line
	// Careful costs more time.
	Careful bool
}

// Line is how a wire is led: the centre of its phrase, and for each end the
// places at which the line turns on its way from the box to the phrase.
type Line struct {
	Phrase Point
	Legs   [][]Point
}

// Lead finds room for the phrases of all wires, on their lines where that can
// be, and leads the lines around boxes and phrases. Where a line can only run
// through something, it runs straight.
func Lead(stop *work.Limit, boxes []Rect, wires []Wire) []Line {
	return lead(stop, boxes, wires, len(wires) > manyWires)
}

// LeadQuickly does as Lead, but looks at less for each wire.
func LeadQuickly(stop *work.Limit, boxes []Rect, wires []Wire) []Line {
	return lead(stop, boxes, wires, true)
}

func lead(stop *work.Limit, boxes []Rect, wires []Wire, quickly bool) []Line {
	l := newLeader(stop, boxes, wires)
	if quickly {
		l.most = maxTurn / 4
	}
	// Short ones come first: their phrases can stand in few places.
	order := make([]int, len(wires))
	reach := make([]float64, len(wires))
	for i, w := range wires {
		order[i] = i
		for _, e := range w.Ends[1:] {
			reach[i] = max(reach[i], geometry.Distance(boxes[w.Ends[0]].Middle(), boxes[e].Middle()))
		}
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case reach[a] < reach[b]:
			return -1
		case reach[a] > reach[b]:
			return 1
		}
		return 0
	})
	for i, w := range wires {
		if w.Led != nil {
			l.take(i)
		}
	}
	for _, i := range order {
		if wires[i].Led == nil {
			l.phrase(i)
		}
	}
	for _, i := range order {
		if wires[i].Led == nil {
			l.legs(i)
		}
	}
	l.fan()
	l.part(func(i int) bool { return wires[i].Led == nil })
	return l.lines
}

func newLeader(stop *work.Limit, boxes []Rect, wires []Wire) *leader {
	return &leader{boxes: boxes, wires: wires, stop: stop, things: NewIndex(boxes).Under(stop), strokes: NewIndexWithin(geometry.Around(boxes)).Under(stop), owner: map[int]int{}, most: maxTurn, lines: make([]Line, len(wires))}
}

type leader struct {
	stop    *work.Limit
	boxes   []Rect
	wires   []Wire
	things  *Index      // boxes, then phrases
	owner   map[int]int // of a phrase among the things: its wire
	strokes *Index      // pieces of lines, roughly as they will run
	ends    [][2]Point  // of each stroke
	lines   []Line
	most    int // corners looked at for one way
}

// manyWires is from how many on less is looked at for each; up to fewWires it is looked at
// what the lines of a phrase would cross.
const (
	manyWires = 1300
	fewWires  = 150
)

// take puts in a wire that is led already.
func (l *leader) take(i int) {
	w := l.wires[i]
	l.lines[i] = *w.Led
	if w.Phrase.W > 0 {
		l.owner[l.things.Add(geometry.At(w.Led.Phrase, w.Phrase))] = i
	}
	for k, leg := range w.Led.Legs {
		at := l.boxes[w.Ends[k]].Middle()
		for _, to := range leg {
			l.stroke(at, to)
			at = to
		}
		l.stroke(at, w.Led.Phrase)
	}
}

// phrase finds where the phrase of a wire stands.
func (l *leader) phrase(i int) {
	w := l.wires[i]
	at, single := l.wish(i)
	var way []Point
	if single && w.Wish == nil {
		a, b := w.Ends[0], w.Ends[1]
		var turns []Point
		if l.most == maxTurn { // of many, the phrases stand on the straight way
			turns, _ = around(l.boxes[a].Middle(), l.boxes[b].Middle(), l.things, func(id int) bool { return id == a || id == b }, l.most)
		}
		way = append(append([]Point{l.boxes[a].Middle()}, turns...), l.boxes[b].Middle())
		way = seen(way, l.boxes[a], l.boxes[b])
	}
	if w.Phrase.W > 0 || !single {
		at = l.place(i, at, way)
		l.owner[l.things.Add(geometry.At(at, w.Phrase))] = i
	} else if way != nil {
		at = along(way, 0.5)
	}
	l.lines[i].Phrase = at
	if way == nil || w.Phrase.W > 0 && !onWay(way, at) {
		for _, e := range w.Ends {
			l.stroke(l.boxes[e].Middle(), at)
		}
		return
	}
	for j := 1; j < len(way); j++ {
		l.stroke(way[j-1], way[j])
	}
}

func (l *leader) stroke(a, b Point) {
	l.strokes.AddLine(a, b)
	l.ends = append(l.ends, [2]Point{a, b})
}

// wish gives where a phrase would stand best, and whether its wire joins just
// two boxes.
func (l *leader) wish(i int) (at Point, single bool) {
	w := l.wires[i]
	single = len(w.Ends) == 2 && w.Ends[0] != w.Ends[1]
	switch {
	case w.Wish != nil:
		return *w.Wish, single
	case l.alone(i):
		return l.loop(l.boxes[w.Ends[0]], w.Ends[0], w.Phrase), false
	}
	for _, e := range w.Ends {
		m := l.boxes[e].Middle()
		at.X += m.X / float64(len(w.Ends))
		at.Y += m.Y / float64(len(w.Ends))
	}
	return at, single
}

// besideLoop is how far from its phrase a loop turns that stands above its box or below.
const besideLoop = 9

// loop gives where the phrase of a wire stands that leads from a box to itself: beyond the
// corner of the box at which the wire meets least, the upper right one if it can.
func (l *leader) loop(r Rect, own int, phrase Size) Point {
	best, least := Point{}, math.MaxInt
	for _, out := range [...]float64{0, 40, 90} {
		for _, corner := range [6][2]float64{{1, -1}, {-1, -1}, {1, 1}, {-1, 1}, {0, -1}, {0, 1}} {
			m, half := r.Middle(), Size{W: (r.X1 - r.X0) / 2, H: (r.Y1 - r.Y0) / 2}
			at := Point{X: m.X + corner[0]*(half.W+14+out+phrase.W/2), Y: m.Y + corner[1]*(half.H+8+out/3+phrase.H/2)}
			hits := 0
			all := geometry.Span(m, at)
			text := geometry.At(at, phrase)
			if corner[0] == 0 {
				text = text.Grown(besideLoop)
			}
			all = Rect{X0: min(all.X0, text.X0), Y0: min(all.Y0, text.Y0), X1: max(all.X1, text.X1), Y1: max(all.Y1, text.Y1)}
			l.things.Near(all.Grown(3), func(id int, _ Rect) bool {
				if id != own {
					hits += 4
				}
				return true
			})
			if hits += l.crossed(text); hits < least {
				best, least = at, hits
			}
		}
	}
	return best
}

// alone tells that a wire leads from a box to itself.
func (l *leader) alone(i int) bool {
	for _, e := range l.wires[i].Ends {
		if e != l.wires[i].Ends[0] {
			return false
		}
	}
	return true
}

// place finds room for a phrase: on its way, in the middle if that can be; else
// as near to the wished place as there is room.
func (l *leader) place(i int, wish Point, way []Point) Point {
	size := l.wires[i].Phrase
	best, least := wish, math.Inf(1)
	try := func(at Point, cost float64) {
		if cost >= least || !l.free(geometry.At(at, size)) {
			return
		}
		if n := float64(l.crossed(geometry.At(at, size))); !l.wires[i].Careful {
			cost += 26 * n
		} else if cost += 200 * n; cost < least {
			cost += 200 * float64(l.blocked(i, at))
		}
		if cost < least {
			best, least = at, cost
		}
	}
	if way != nil {
		for _, t := range [...]float64{0.5, 0.43, 0.57, 0.36, 0.64, 0.29, 0.71, 0.22, 0.78, 0.16, 0.84} {
			try(along(way, t), math.Abs(t-0.5)*60)
		}
		if !math.IsInf(least, 1) {
			return best
		}
		wish = along(way, 0.5)
	} else {
		try(wish, 0)
	}
	farthest := 4000.0
	if l.wires[i].Careful && !math.IsInf(least, 1) {
		farthest = 400
	}
	for r := 12.0; r < farthest && least > r; r += 12 + r/12 {
		n := max(8, int(r/8))
		for k := range min(n, 48) {
			sin, cos := math.Sincos(2 * math.Pi * float64(k) / float64(min(n, 48)))
			at := Point{X: wish.X + r*cos, Y: wish.Y + r*sin*0.8}
			if r >= least || !l.free(geometry.At(at, size)) {
				continue
			}
			cost := r
			if l.most == maxTurn && len(l.wires) <= fewWires { // of many it would take too long
				cost += crossingCost * float64(l.legsCross(i, at))
			}
			try(at, cost)
		}
	}
	return best
}

// crossingCost is how much farther off a phrase rather stands than that its lines cross
// another, in pixels.
const crossingCost = 30

// legsCross counts the lines that those from the ends of a wire to a place would cross.
func (l *leader) legsCross(i int, at Point) (n int) {
	for _, e := range l.wires[i].Ends {
		from := l.boxes[e].Middle()
		l.strokes.Along(from, at, 0, func(id int, _ Rect) bool {
			if Cross(from, at, l.ends[id][0], l.ends[id][1]) {
				n++
			}
			return true
		})
	}
	return n
}

// blocked counts what stands on the straight lines from the ends of a wire to its phrase.
func (l *leader) blocked(i int, at Point) (n int) {
	for _, e := range l.wires[i].Ends {
		l.things.Along(l.boxes[e].Middle(), at, 3, func(id int, _ Rect) bool {
			if id != e {
				n++
			}
			return true
		})
	}
	return n
}

// free tells whether a phrase has room.
func (l *leader) free(r Rect) bool {
	ok := true
	l.things.Near(r.Grown(4), func(int, Rect) bool { ok = false; return false })
	return ok
}

// crossed counts the lines that run through a place.
func (l *leader) crossed(r Rect) int {
	n := 0
	l.strokes.Near(r, func(id int, _ Rect) bool {
		if r.Cut(l.ends[id][0], l.ends[id][1]) {
			n++
		}
		return true
	})
	return n
}

// legs leads the lines of a wire to its phrase.
func (l *leader) legs(i int) {
	w, line := l.wires[i], &l.lines[i]
	if l.alone(i) {
		r := l.boxes[w.Ends[0]]
		for k := range w.Ends {
			turn := Point{X: line.Phrase.X, Y: r.Middle().Y}
			if beside := w.Phrase.W/2 + besideLoop; line.Phrase.X > r.X0 && line.Phrase.X < r.X1 { // above or below
				turn = Point{X: line.Phrase.X - beside, Y: line.Phrase.Y}
				if k > 0 {
					turn.X = line.Phrase.X + beside
				}
			} else if k > 0 {
				turn = Point{X: r.X0 + (r.X1-r.X0)*0.75, Y: line.Phrase.Y}
				if line.Phrase.X < r.X0 {
					turn.X = r.X0 + (r.X1-r.X0)*0.25
				}
			}
			line.Legs = append(line.Legs, []Point{turn})
		}
		return
	}
	for _, e := range w.Ends {
		own := func(id int) bool {
			if id < len(l.boxes) {
				return id == e
			}
			return l.owner[id] == i
		}
		turns, ok := around(l.boxes[e].Middle(), line.Phrase, l.things, own, l.most)
		if !ok && l.most == maxTurn { // rather over words than through a box
			turns, _ = around(l.boxes[e].Middle(), line.Phrase, l.things, func(id int) bool { return id >= len(l.boxes) || id == e }, l.most)
		}
		line.Legs = append(line.Legs, turns)
	}
}

// seen gives the part of a way between two boxes, that in which it begins and
// that in which it ends.
func seen(way []Point, a, b Rect) []Point {
	way = slices.Clone(way)
	_, out := a.Through(way[0], way[1])
	n := len(way)
	in, _ := b.Through(way[n-2], way[n-1])
	if n == 2 && out >= in { // the boxes overlap
		m := mix(way[0], way[1], 0.5)
		return []Point{m, m}
	}
	first, last := mix(way[0], way[1], out), mix(way[n-2], way[n-1], in)
	way[0], way[n-1] = first, last
	return way
}

func mix(a, b Point, t float64) Point { return Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t} }

// along gives the place at a part of the length of a way.
func along(way []Point, part float64) Point {
	length := 0.0
	for i := 1; i < len(way); i++ {
		length += geometry.Distance(way[i-1], way[i])
	}
	left := part * length
	for i := 1; i < len(way); i++ {
		d := geometry.Distance(way[i-1], way[i])
		if left <= d && d > 0 {
			return mix(way[i-1], way[i], left/d)
		}
		left -= d
	}
	return way[len(way)-1]
}

// Along gives the place at a part of the length of what is seen of a way that begins and
// ends in the middles of two boxes.
func Along(way []Point, a, b Rect, part float64) Point { return along(seen(way, a, b), part) }

// onWay tells whether a place lies on a way.
func onWay(way []Point, p Point) bool {
	for i := 1; i < len(way); i++ {
		if geometry.Distance(way[i-1], p)+geometry.Distance(p, way[i]) < geometry.Distance(way[i-1], way[i])+0.01 {
			return true
		}
	}
	return false
}

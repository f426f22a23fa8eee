package layout

import (
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/structure"
	"mevrin/core/work"
)

// Settle finds room for what an entry made or let grow on a map that is not kept in
// order: new concepts stand near what they hang from, in the row of their siblings; what
// grew pushes others aside; lines that are new, or in whose way something came, are led
// around it, and their phrases find room. Was is the map before; fresh are the concepts
// that may be put elsewhere. What was placed by hand, and what nothing concerns, stays.
func (r Placer) Settle(was, m *cm.Map, fresh []cm.ID) edit.Arrangement {
	s := settling{Placer: r, was: was, m: m, box: make(map[cm.ID]geometry.Rect, len(m.Concepts)), moved: map[cm.ID]bool{}, ways: make(map[cm.ID]way, len(m.Links))}
	for id, c := range m.Concepts {
		// What was not touched is the same value.
		if old := was.Concepts[id]; old == nil || old != c && slipRect(old.At, r.Measurer.Slip(was, old), 0) != slipRect(c.At, r.Measurer.Slip(m, c), 0) {
			s.moved[id] = true
		}
	}
	anew := map[cm.ID]bool{}
	for id, l := range m.Links {
		old := was.Links[id]
		if old == nil || old != l && (!sameEnds(old, l) || l.LedByItself() && r.Measurer.Phrase(was, old) != r.Measurer.Phrase(m, l)) || l.LedByItself() && s.ends(l) {
			anew[id] = true
		}
	}
	if len(s.moved) == 0 && (len(anew) == 0 || !s.orderly()) {
		return edit.Arrangement{}
	}
	room := s.concerned(anew)
	for id, c := range m.Concepts {
		if room.Holds(c.At) {
			s.box[id] = slipRect(c.At, r.Measurer.Slip(m, c), 0)
		}
	}
	if len(fresh) > 0 || s.orderly() {
		for id, l := range m.Links {
			if !anew[id] && s.passes(l, room) {
				s.ways[id] = s.wayOf(l)
			}
		}
	}
	var out edit.Arrangement
	work.Done(func() {
		s.place(fresh)
		s.pushAside(fresh)
		out = s.lead()
	})
	return out
}

// concerned gives the part of the paper on which something may come to be otherwise.
func (s *settling) concerned(links map[cm.ID]bool) geometry.Rect {
	const few, around = 200, 1700
	if len(s.m.Concepts) <= few {
		return geometry.Everywhere
	}
	room := geometry.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	hold := func(id cm.ID) {
		at := s.m.Concepts[id].At
		room = union(room, geometry.Rect{X0: at.X, Y0: at.Y, X1: at.X, Y1: at.Y})
	}
	for id := range s.moved {
		hold(id)
	}
	for _, l := range s.m.Links {
		if links[l.ID] || s.ends(l) {
			for _, e := range l.Ends() {
				hold(e.Concept)
			}
		}
	}
	return room.Grown(around)
}

// passes tells whether a link may come through the part that is looked at.
func (s *settling) passes(l *cm.Link, room geometry.Rect) bool {
	reach := geometry.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	for _, e := range l.Ends() {
		at := s.m.Concepts[e.Concept].At
		reach = union(reach, geometry.Rect{X0: at.X, Y0: at.Y, X1: at.X, Y1: at.Y})
	}
	return reach.Grown(1).Meets(room)
}

// boxOf gives the box of a slip, also where it stands outside of the part that is
// looked at.
func (s *settling) boxOf(id cm.ID) geometry.Rect {
	if b, known := s.box[id]; known {
		return b
	}
	if _, known := s.beyond[id]; !known {
		if s.beyond == nil {
			s.beyond = map[cm.ID]geometry.Rect{}
		}
		c := s.m.Concepts[id]
		s.beyond[id] = slipRect(c.At, s.Measurer.Slip(s.m, c), 0)
	}
	return s.beyond[id]
}

type settling struct {
	Placer
	was, m *cm.Map
	box    map[cm.ID]geometry.Rect
	beyond map[cm.ID]geometry.Rect // further boxes, at which lines end
	moved  map[cm.ID]bool          // new, larger or elsewhere
	ways   map[cm.ID]way           // of the links that are led
	came   map[cm.ID]bool          // slips that may stand in the way of what is led as before
}

// way is how a link is led, as far as can be told without drawing it.
type way struct {
	phrase geometry.Rect
	legs   map[cm.ID][]geometry.Point
}

func sameEnds(a, b *cm.Link) bool {
	return slices.Equal(a.From, b.From) && slices.Equal(a.To, b.To)
}

// wayOf gives how a link is led now.
func (s *settling) wayOf(l *cm.Link) way {
	ends := l.Ends()
	w := way{legs: map[cm.ID][]geometry.Point{}}
	var at geometry.Point
	for _, e := range ends {
		mid := s.boxOf(e.Concept).Middle()
		at.X, at.Y = at.X+mid.X/float64(len(ends)), at.Y+mid.Y/float64(len(ends))
		w.legs[e.ID] = slices.Clone(l.Bends[e.ID])
	}
	switch {
	case l.Hub != nil:
		at = *l.Hub
	case len(ends) == 2 && ends[0].Concept != ends[1].Concept:
		back := slices.Clone(l.Bends[ends[1].ID])
		slices.Reverse(back)
		through := slices.Concat([]geometry.Point{s.boxOf(ends[0].Concept).Middle()}, l.Bends[ends[0].ID], back, []geometry.Point{s.boxOf(ends[1].Concept).Middle()})
		part := l.Along
		if part == 0 {
			part = 0.5
		}
		at = route.Along(through, s.boxOf(ends[0].Concept), s.boxOf(ends[1].Concept), part)
	}
	w.phrase = geometry.At(at, s.Measurer.Phrase(s.m, l))
	return w
}

// standing gives what a concept has to keep clear of.
func (s *settling) standing(but func(cm.ID) bool) (all Standing) {
	for id, b := range s.box {
		if !but(id) {
			all.Slips = append(all.Slips, b)
		}
	}
	for _, w := range s.ways {
		all.Phrases = append(all.Phrases, w.phrase)
	}
	return all
}

// place puts new concepts near what they hang from, those that are hung from first.
func (s *settling) place(fresh []cm.ID) {
	if len(fresh) == 0 {
		return
	}
	waits := map[cm.ID]bool{}
	for _, id := range fresh {
		waits[id] = true
	}
	places := structure.Of(s.m).Places
	for len(waits) > 0 {
		for _, id := range fresh {
			parent := places[id].Parent
			if !waits[id] || parent != "" && waits[parent] && parent != id {
				continue
			}
			delete(waits, id)
			var siblings []cm.ID
			if above := places[parent]; above != nil {
				siblings = above.Children
			}
			s.placeOne(id, parent, siblings, waits)
		}
	}
}

func (s *settling) placeOne(id, parent cm.ID, siblings []cm.ID, waits map[cm.ID]bool) {
	c := s.m.Concepts[id]
	size := s.Measurer.Slip(s.m, c)
	standing := s.standing(func(other cm.ID) bool { return other == id || other == parent || waits[other] })
	var at cm.Point
	switch from, ok := s.box[parent]; {
	case parent == "" || !ok:
		at = s.open(standing, c.At, size)
	case s.suits(standing, from, c.At, size):
		return // where it was wished there is room
	default:
		var children []geometry.Rect
		for _, sibling := range siblings {
			if sibling != id && !waits[sibling] {
				children = append(children, s.box[sibling])
			}
		}
		at = Near(standing, from, children, AsChild, size)
	}
	s.box[id] = slipRect(cm.RoundPoint(at), size, 0)
}

// suits tells whether a slip can stand where it is wished, joined by a straight line.
func (s *settling) suits(standing Standing, from geometry.Rect, at cm.Point, size Size) bool {
	box := slipRect(at, size, 0)
	near := standing.within(geometry.Span(from.Middle(), box.Middle()).Grown(size.W + 60))
	return !box.Grown(Gap).Meets(from) && !meetsAny(near.Slips, box.Grown(Gap)) && !meetsAny(near.Phrases, box.Grown(Gap/3)) && !near.cut(from.Middle(), box.Middle())
}

// open gives the nearest place for a slip that nothing is joined with, clear of slips,
// phrases and, where there is such a place, of lines.
func (s *settling) open(standing Standing, wish cm.Point, size Size) cm.Point {
	const step, farthest = 20.0, 1400.0
	lines := s.strokes()
	best, least := wish, math.Inf(1)
	try := func(dx, dy float64) {
		cost := math.Abs(dx) + 1.5*math.Abs(dy)
		at := cm.Point{X: wish.X + dx, Y: wish.Y + dy}
		box := slipRect(at, size, 0)
		if cost >= least || meetsAny(standing.Slips, box.Grown(Gap)) || meetsAny(standing.Phrases, box.Grown(Gap/2)) {
			return
		}
		for _, l := range lines {
			if box.Grown(8).Cut(l[0], l[1]) {
				if cost += 500; cost >= least {
					return
				}
				break
			}
		}
		best, least = at, cost
	}
	try(0, 0)
	for d := step; d <= farthest && d < least; d += step {
		for o := -d; o <= d; o += step {
			try(d, o)
			try(-d, o)
			try(o, d)
			try(o, -d)
		}
	}
	if math.IsInf(least, 1) { // below everything
		lowest := wish.Y
		for _, c := range s.m.Concepts {
			lowest = max(lowest, c.At.Y)
		}
		return cm.Point{X: wish.X, Y: lowest + 200}
	}
	return best
}

// strokes gives the straight pieces of all lines that are led.
func (s *settling) strokes() (all [][2]geometry.Point) {
	for id, w := range s.ways {
		for _, e := range s.m.Links[id].Ends() {
			s.eachPiece(e, w, func(a, b geometry.Point) { all = append(all, [2]geometry.Point{a, b}) })
		}
	}
	return all
}

func (s *settling) eachPiece(e cm.End, w way, do func(a, b geometry.Point)) {
	at := s.boxOf(e.Concept).Middle()
	for _, next := range w.legs[e.ID] {
		do(at, next)
		at = next
	}
	do(at, w.phrase.Middle())
}

// pushAside moves slips on which others came to lie, as little as it can, and none that
// stands further off.
func (s *settling) pushAside(fresh []cm.ID) {
	const around = 500
	var grown []cm.ID
	room := geometry.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	for id := range s.moved {
		c, was := s.m.Concepts[id], s.was.Concepts[id]
		if slices.Contains(fresh, id) || c.Hold == cm.HoldHand && was != nil && was.At != c.At {
			continue // what a hand puts on others it may
		}
		for other, b := range s.box {
			if other != id && s.box[id].Grown(Gap/3).Meets(b) {
				grown = append(grown, id)
				room = union(room, s.box[id])
				break
			}
		}
	}
	if len(grown) == 0 {
		return
	}
	room = room.Grown(around)
	var ids []cm.ID
	var at []geometry.Point
	var size []Size
	var weight []float64
	for _, id := range cm.SortedIDs(s.box) {
		b := s.box[id]
		if !b.Meets(room) {
			continue
		}
		ids, at, size, weight = append(ids, id), append(at, b.Middle()), append(size, Size{W: b.X1 - b.X0, H: b.Y1 - b.Y0}), append(weight, 1)
		if slices.Contains(grown, id) || s.m.Concepts[id].Hold == cm.HoldPin || !room.Grown(-Gap).Meets(b) {
			weight[len(weight)-1] = route.Fixed
		}
	}
	for i, p := range route.Apart(s.Stop, at, size, weight, Gap/2) {
		if !near(p, at[i]) {
			p = cm.RoundPoint(p)
			s.box[ids[i]], s.moved[ids[i]] = geometry.At(p, size[i]), true
		}
	}
}

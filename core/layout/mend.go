package layout

import (
	"maps"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/work"
)

// lead leads the links that are not led, or in whose way something came.
func (s *settling) lead() edit.Arrangement {
	out := edit.Arrangement{Places: map[cm.ID]cm.Point{}, Lines: map[cm.ID]edit.Led{}}
	for id := range s.moved {
		b, c := s.box[id], s.m.Concepts[id]
		if at := (cm.Point{X: (b.X0 + b.X1) / 2, Y: b.Y0}); !near(at, c.At) {
			out.Places[id] = at
		}
	}
	for id, w := range s.ways {
		l := s.m.Links[id]
		if l.Tidied && s.inWay(l, w) || l.LedByItself() && s.ends(l) {
			delete(s.ways, id)
		}
	}
	var rest []cm.ID
	for id, l := range s.m.Links {
		if _, led := s.ways[id]; !led && l.LedByItself() {
			rest = append(rest, id)
		}
	}
	slices.Sort(rest)
	if len(rest) == 0 || !s.orderly() {
		return out // then lines run by themselves
	}
	before := maps.Clone(s.ways)
	maps.Copy(s.ways, s.ledAmong(rest, nil, false))
	s.mendWithin(rest, mendingSteps)
	s.part(func(id cm.ID) bool {
		was, led := before[id]
		return s.m.Links[id].LedByItself() && (!led || !s.ways[id].equal(was))
	})
	for id, w := range s.ways {
		if was, led := before[id]; s.m.Links[id].LedByItself() && (!led || !w.equal(was)) {
			out.Lines[id] = ledAs(w.phrase.Middle(), w.legs)
		}
	}
	return out
}

// ledAs writes down how a line is led.
func ledAs(hub geometry.Point, legs map[cm.ID][]geometry.Point) edit.Led {
	led := edit.Led{Hub: &hub}
	for end, leg := range legs {
		if len(leg) == 0 {
			continue
		}
		if led.Bends == nil {
			led.Bends = map[cm.ID][]cm.Point{}
		}
		led.Bends[end] = slices.Clone(leg[:min(len(leg), cm.MaxBends)])
	}
	return led
}

// orderly tells whether lines can be led past each other: on a large map that was never in
// order there is little to be had for much work.
func (s *settling) orderly() bool {
	const many = 120
	led := 0
	for _, l := range s.m.Links {
		if l.Tidied {
			led++
		}
	}
	return len(s.m.Links) <= many || 2*led >= len(s.m.Links)
}

// manySlips is from how many on less is looked at for each line; mendingSteps bounds the
// work, in steps of a work.Limit, that an edit takes on for lines that are in each other's
// way.
const (
	manySlips    = 150
	mendingSteps = 40_000
)

// mendWithin mends as far as the work takes no longer than an edit may.
func (s *settling) mendWithin(concerned []cm.ID, steps int) {
	stop := s.Stop
	s.Stop = stop.Within(steps)
	ways := s.ways // what is broken off leaves the last lines that are whole
	if !work.Done(func() { s.mend(concerned, func() { ways = maps.Clone(s.ways) }) }) {
		s.ways = ways
	}
	s.Stop = stop
}

// maxMended bounds the lines that are led anew at once: where more run through others the
// map needs to be put in order, which is another operation.
const maxMended = 16

// mend leads lines anew that run through a slip or the phrase of another, first those of
// which the phrase can stay; concerned are links that were led just now: nothing else is
// looked at but what runs through them. Whole is called before each pass.
func (s *settling) mend(links []cm.ID, whole func()) {
	concerned := map[cm.ID]bool{}
	for _, id := range links {
		concerned[id] = true
	}
	for pass := range 5 {
		whole()
		var bad []cm.ID
		wish := map[cm.ID]way{}
		t := s.things()
		for _, id := range cm.SortedIDs(s.ways) {
			l := s.m.Links[id]
			if !l.Tidied && !concerned[id] || len(bad) >= maxMended {
				continue
			}
			faulty, over := t.inWayOf(s, l, concerned)
			if !faulty {
				continue
			}
			bad = append(bad, id)
			if pass == 0 && !l.Loop() {
				wish[id] = s.ways[id]
			}
			if pass > 0 && over != "" && s.m.Links[over].Tidied { // may its phrase give way
				bad = append(bad, over)
			}
		}
		if len(bad) == 0 {
			return
		}
		slices.Sort(bad)
		bad = slices.Compact(bad)
		clear(concerned)
		for _, id := range bad {
			concerned[id] = true
			delete(s.ways, id)
		}
		maps.Copy(s.ways, s.ledAmong(bad, wish, pass > 0))
	}
}

// things are the slips and phrases of a map by where they stand.
type things struct {
	index *route.Index
	ids   []cm.ID
	slips int // how many of them are slips
}

func (s *settling) things() *things {
	t := &things{ids: cm.SortedIDs(s.box), slips: len(s.box)}
	boxes := make([]geometry.Rect, len(t.ids))
	for i, id := range t.ids {
		boxes[i] = s.box[id]
	}
	t.index = route.NewIndex(boxes).Under(s.Stop)
	for _, id := range cm.SortedIDs(s.ways) {
		t.ids = append(t.ids, id)
		t.index.Add(s.ways[id].phrase)
	}
	return t
}

// inWayOf tells whether the line of a link runs through a slip, or through the phrase of
// another, and then of which, where one of the two is concerned.
func (t *things) inWayOf(s *settling, l *cm.Link, concerned map[cm.ID]bool) (faulty bool, over cm.ID) {
	w, ends, own := s.ways[l.ID], l.Ends(), concerned[l.ID]
	if own {
		t.index.Near(w.phrase, func(at int, _ geometry.Rect) bool { faulty = at < t.slips; return !faulty })
	}
	for _, e := range ends {
		s.eachPiece(e, w, func(a, b geometry.Point) {
			if faulty {
				return
			}
			t.index.Along(a, b, 0, func(at int, _ geometry.Rect) bool {
				id := t.ids[at]
				switch {
				case at < t.slips:
					faulty = (own || s.came[id]) && !cm.HasConcept(ends, id)
				case id != l.ID && (own || concerned[id]):
					faulty, over = true, id
				}
				return !faulty
			})
		})
	}
	return faulty, over
}

func (w way) equal(o way) bool {
	return near(w.phrase.Middle(), o.phrase.Middle()) && maps.EqualFunc(w.legs, o.legs, func(a, b []geometry.Point) bool { return slices.EqualFunc(a, b, near) })
}

// ledAmong leads links among the others, with their phrases where they stood before.
func (s *settling) ledAmong(links []cm.ID, before map[cm.ID]way, careful bool) map[cm.ID]way {
	room := geometry.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	for _, id := range links {
		for _, e := range s.m.Links[id].Ends() {
			room = union(room, s.boxOf(e.Concept))
		}
	}
	const around = 400 // how far from what is to be led others are looked at
	room = room.Grown(around)
	boxes, index := []geometry.Rect{}, map[cm.ID]int{}
	at := func(id cm.ID) int {
		if _, known := index[id]; !known {
			index[id] = len(boxes)
			boxes = append(boxes, s.boxOf(id))
		}
		return index[id]
	}
	for _, id := range cm.SortedIDs(s.box) {
		if s.box[id].Meets(room) {
			at(id)
		}
	}
	var wires []route.Wire
	for _, id := range links {
		wire := route.Wire{Phrase: s.Measurer.Phrase(s.m, s.m.Links[id]), Careful: careful}
		if w, known := before[id]; known {
			wish := w.phrase.Middle()
			wire.Wish = &wish
		}
		for _, e := range s.m.Links[id].Ends() {
			wire.Ends = append(wire.Ends, at(e.Concept))
		}
		wires = append(wires, wire)
	}
	for _, id := range cm.SortedIDs(s.m.Links) {
		w, led := s.ways[id]
		if !led || slices.Contains(links, id) {
			continue
		}
		reach := w.phrase
		ends := s.m.Links[id].Ends()
		for _, e := range ends {
			s.eachPiece(e, w, func(a, b geometry.Point) { reach = union(reach, geometry.Span(a, b)) })
		}
		if !reach.Meets(room) {
			continue
		}
		wires = append(wires, s.led(id, at))
	}
	lead := route.Lead
	if len(s.box) > manySlips {
		lead = route.LeadQuickly
	}
	lines := lead(s.Stop, boxes, wires)
	ways := make(map[cm.ID]way, len(links))
	for i, id := range links {
		ways[id] = s.asLed(id, lines[i], wires[i].Phrase)
	}
	return ways
}

func (s *settling) asLed(link cm.ID, line route.Line, phrase route.Size) way {
	w := way{phrase: geometry.At(line.Phrase, phrase), legs: map[cm.ID][]geometry.Point{}}
	for k, e := range s.m.Links[link].Ends() {
		w.legs[e.ID] = line.Legs[k]
	}
	return w
}

// led gives a link as a wire that is led already; at numbers the boxes at its ends.
func (s *settling) led(link cm.ID, at func(cm.ID) int) route.Wire {
	w := s.ways[link]
	wire := route.Wire{Phrase: s.Measurer.Phrase(s.m, s.m.Links[link]), Led: &route.Line{Phrase: w.phrase.Middle()}}
	for _, e := range s.m.Links[link].Ends() {
		wire.Ends, wire.Led.Legs = append(wire.Ends, at(e.Concept)), append(wire.Led.Legs, w.legs[e.ID])
	}
	return wire
}

// part moves those lines that run on others beside them; where there are so many that no place
// is left beside them, none.
func (s *settling) part(own func(link cm.ID) bool) {
	ends := 0
	for _, w := range s.ways {
		ends += len(w.legs)
	}
	if ends > crowded*len(s.box) {
		return
	}
	var boxes []geometry.Rect
	index := map[cm.ID]int{}
	at := func(id cm.ID) int {
		if _, known := index[id]; !known {
			index[id] = len(boxes)
			boxes = append(boxes, s.boxOf(id))
		}
		return index[id]
	}
	for _, id := range cm.SortedIDs(s.box) {
		at(id)
	}
	links := cm.SortedIDs(s.ways)
	wires := make([]route.Wire, len(links))
	for i, id := range links {
		wires[i] = s.led(id, at)
	}
	for i, line := range route.Part(s.Stop, boxes, wires, func(wire int) bool { return own(links[wire]) }) {
		s.ways[links[i]] = s.asLed(links[i], line, wires[i].Phrase)
	}
}

func union(a, b geometry.Rect) geometry.Rect {
	return geometry.Rect{X0: min(a.X0, b.X0), Y0: min(a.Y0, b.Y0), X1: max(a.X1, b.X1), Y1: max(a.Y1, b.Y1)}
}

// runsThrough tells whether a line runs through something.
func (s *settling) runsThrough(l *cm.Link, w way, r geometry.Rect) (hit bool) {
	for _, e := range l.Ends() {
		s.eachPiece(e, w, func(a, b geometry.Point) { hit = hit || r.Cut(a, b) })
	}
	return hit
}

// ends tells whether a link ends at something that is new, larger or elsewhere.
func (s *settling) ends(l *cm.Link) bool {
	for _, side := range [2][]cm.End{l.From, l.To} { // asked of every link: nothing is put together for it
		for _, e := range side {
			if s.moved[e.Concept] {
				return true
			}
		}
	}
	return false
}

// inWay tells whether something that is new, larger or elsewhere stands on a line or on
// its phrase.
func (s *settling) inWay(l *cm.Link, w way) bool {
	for id := range s.moved {
		b := s.box[id].Grown(4)
		if b.Meets(w.phrase) || s.runsThrough(l, w, b) {
			return true
		}
	}
	return false
}

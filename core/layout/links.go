package layout

import (
	"maps"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
)

// anchor gives by how much a drawing is moved onto the paper: so that what stays
// comes near its place; else so that one concept, or half of all, stand still.
func (a *arranging) anchor(d *drawn) tidy.Point {
	var xs, ys []float64
	off := func(id cm.ID) {
		c, p := a.m.Concepts[id], d.at[id]
		xs, ys = append(xs, c.At.X-p.X), append(ys, c.At.Y+a.size(id).H/2-p.Y)
	}
	for _, id := range cm.SortedIDs(d.at) {
		if a.stays[id] {
			off(id)
		}
	}
	_, still := d.at[a.scope.Still]
	_, focus := d.at[a.m.Focus]
	switch {
	case len(xs) > 0:
	case a.scope.Branch != "":
		off(a.scope.Branch)
	case still:
		off(a.scope.Still)
	case focus && !a.m.KeepTidy:
		off(a.m.Focus)
	default:
		for _, id := range cm.SortedIDs(d.at) {
			if a.scope.New == nil || !a.scope.New(id) {
				off(id)
			}
		}
	}
	if len(xs) == 0 {
		return tidy.Point{}
	}
	return tidy.Point{X: math.Round(geometry.Median(xs)), Y: math.Round(geometry.Median(ys))}
}

// settle brings a drawing among what stays, leads the lines that are not led yet or have
// to be led otherwise for that, and writes it down.
func (a *arranging) settle(d *drawn) edit.Arrangement {
	out := edit.Arrangement{Places: map[cm.ID]cm.Point{}, Lines: map[cm.ID]edit.Led{}}
	moved := a.makeRoom(d)
	a.leadRest(d, moved)
	for id, p := range moved {
		if a.stays[id] {
			continue
		}
		at, was := cm.Point{X: math.Round(p.X), Y: math.Round(p.Y - a.size(id).H/2)}, a.m.Concepts[id].At
		if math.Abs(at.X-was.X) <= 1 && math.Abs(at.Y-was.Y) <= 1 {
			at = was // rounding alone moves nothing
		}
		out.Places[id] = at
	}
	for id, l := range d.lines {
		out.Lines[id] = ledAs(l.phrase, l.legs)
	}
	return out
}

// leadRest leads the links of what was put in order that are not led yet, or of which
// an end was moved since, among all that stands on the map; and anew what runs through a
// slip or the phrase of another.
func (a *arranging) leadRest(d *drawn, moved map[cm.ID]tidy.Point) {
	s := settling{Placer: a.Placer, m: a.m, box: map[cm.ID]geometry.Rect{}, ways: map[cm.ID]way{}}
	for id := range a.m.Concepts {
		at, ok := moved[id]
		if !ok {
			at = a.middle(id)
		}
		s.box[id] = geometry.At(at, a.size(id))
	}
	var rest []cm.ID
	as := map[cm.ID]bool{} // links that are led as before, at the same place
	keep := func(id cm.ID, was way) {
		s.ways[id], as[id] = was, near(was.phrase.Middle(), *a.scope.Before.Links[id].Hub)
	}
	for _, id := range cm.SortedIDs(a.m.Links) {
		ends := a.m.Links[id].Ends()
		l, led := d.lines[id]
		still := led && !slices.ContainsFunc(ends, func(e cm.End) bool {
			at, placed := d.at[e.Concept]
			return placed && !near(moved[e.Concept], at)
		})
		touched := slices.ContainsFunc(ends, func(e cm.End) bool { _, placed := moved[e.Concept]; return placed })
		was, kept := way{}, false
		if !still && touched {
			was, kept = s.ledBefore(a.scope.Before, a.m.Links[id])
		}
		switch {
		case kept:
			keep(id, was)
		case !still && touched:
			rest = append(rest, id)
		case led:
			s.ways[id] = way{phrase: geometry.At(l.phrase, a.Measurer.Phrase(a.m, a.m.Links[id])), legs: l.legs}
		}
	}
	if len(rest) > 0 {
		maps.Copy(s.ways, s.ledAmong(rest, nil, false))
	}
	// What was mended before can stay so; and what stands as before in the way of what is led as
	// before was found to stay there.
	s.came = s.cameSince(a.scope.Before)
	all := s.concernedBut(as)
	if things := s.things(); a.scope.Before != nil {
		for _, id := range cm.SortedIDs(all) {
			l := a.m.Links[id]
			if faulty, _ := things.inWayOf(&s, l, all); faulty {
				if was, kept := s.ledBefore(a.scope.Before, l); kept {
					keep(id, was)
				}
			}
		}
	}
	s.mendWithin(cm.SortedIDs(s.concernedBut(as)), 3*mendingSteps)
	s.part(func(cm.ID) bool { return true })
	for id, w := range s.ways {
		d.lines[id] = line{phrase: w.phrase.Middle(), legs: w.legs}
	}
}

// ledBefore gives how a link was led on the map before, if it still can be: all of its ends stand
// as they did, or all were moved alike, and nothing has another size. Whether something came in
// its way is not asked.
func (s *settling) ledBefore(before *cm.Map, l *cm.Link) (way, bool) {
	if before == nil {
		return way{}, false
	}
	old := before.Links[l.ID]
	if old == nil || !old.Tidied || !l.Tidied || old.Hub == nil || l.Loop() || !sameEnds(old, l) {
		return way{}, false
	}
	size := s.Measurer.Phrase(s.m, l)
	if was := s.Measurer.Phrase(before, old); math.Abs(size.W-was.W) > alike || math.Abs(size.H-was.H) > alike {
		return way{}, false
	}
	var by geometry.Point
	for i, e := range l.Ends() {
		c := before.Concepts[e.Concept]
		if c == nil {
			return way{}, false
		}
		was, is := slipRect(c.At, s.Measurer.Slip(before, c), 0), s.box[e.Concept]
		if i == 0 {
			by = geometry.Point{X: is.X0 - was.X0, Y: is.Y0 - was.Y0}
		}
		moved := geometry.Rect{X0: was.X0 + by.X, Y0: was.Y0 + by.Y, X1: was.X1 + by.X, Y1: was.Y1 + by.Y}
		if math.Abs(moved.X0-is.X0) > alike || math.Abs(moved.Y0-is.Y0) > alike || math.Abs(moved.X1-is.X1) > alike || math.Abs(moved.Y1-is.Y1) > alike {
			return way{}, false
		}
	}
	if math.Hypot(by.X, by.Y) <= alike {
		by = geometry.Point{}
	}
	w := way{phrase: geometry.At(geometry.Point{X: old.Hub.X + by.X, Y: old.Hub.Y + by.Y}, size), legs: map[cm.ID][]geometry.Point{}}
	for _, e := range l.Ends() {
		for _, p := range old.Bends[e.ID] {
			w.legs[e.ID] = append(w.legs[e.ID], geometry.Point{X: p.X + by.X, Y: p.Y + by.Y})
		}
	}
	return w, true
}

// concernedBut gives the links that are led, but for some.
func (s *settling) concernedBut(as map[cm.ID]bool) map[cm.ID]bool {
	concerned := map[cm.ID]bool{}
	for id := range s.ways {
		if !as[id] {
			concerned[id] = true
		}
	}
	return concerned
}

// cameSince gives the concepts whose slips stood elsewhere on the map before, or were smaller.
func (s *settling) cameSince(before *cm.Map) map[cm.ID]bool {
	came := map[cm.ID]bool{}
	for id, is := range s.box {
		if before == nil || before.Concepts[id] == nil {
			came[id] = true
			continue
		}
		c := before.Concepts[id]
		came[id] = !slipRect(c.At, s.Measurer.Slip(before, c), 0).Grown(alike).Contains(is)
	}
	return came
}

// alike is how much two places or sizes may differ and still count as the same, in pixels: what
// rounding does.
const alike = 1.5

// besideHeld is how much more a branch that stands by itself resists than the rest does.
const besideHeld = 60

func near(a, b tidy.Point) bool { return geometry.Distance(a, b) < 2 }

// makeRoom puts what stays where it is, and moves the rest so that nothing
// overlaps, phrases included; of a map of which one branch is put in order, the rest of the map.
func (a *arranging) makeRoom(d *drawn) map[cm.ID]tidy.Point {
	fixed := len(a.held) > 0
	for id := range d.at {
		fixed = fixed || a.stays[id]
	}
	along := map[cm.ID]bool{} // what stands with a branch that stays
	for _, g := range a.held {
		for _, id := range g.own {
			along[id] = true
		}
	}
	if !fixed && a.scope.Branch == "" {
		return d.at
	}
	if moved, ok := a.around(d); ok && !fixed {
		return moved
	}
	ids := cm.SortedIDs(a.m.Concepts)
	at, size, weight := make([]tidy.Point, len(ids)), make([]tidy.Size, len(ids)), make([]float64, len(ids))
	for i, id := range ids {
		c := a.m.Concepts[id]
		size[i] = a.size(id)
		p, arranged := d.at[id]
		weight[i] = 1
		switch {
		case a.stays[id] || !arranged && c.Hold == cm.HoldPin:
			at[i], weight[i] = tidy.Point{X: c.At.X, Y: c.At.Y + size[i].H/2}, route.Fixed
		case arranged:
			at[i] = p
			if along[id] {
				weight[i] = besideHeld
			}
			if a.scope.Branch != "" { // the others make room for the branch
				weight[i] = 1e5
			}
			if id == a.scope.Branch { // moved only by what is pinned
				weight[i] = route.Fixed / 10
			}
		default:
			at[i] = tidy.Point{X: c.At.X, Y: c.At.Y + size[i].H/2}
		}
	}
	// Phrases need their room as well, though less around it than slips; one that has
	// to give way is led anew.
	const less = 2 * (Gap - 4)
	phrases := cm.SortedIDs(d.lines)
	for _, id := range phrases {
		s := a.Measurer.Phrase(a.m, a.m.Links[id])
		at, size = append(at, d.lines[id].phrase), append(size, tidy.Size{W: max(1, s.W-less), H: max(1, s.H-less)})
		if a.scope.Branch != "" {
			weight = append(weight, 1e5)
		} else if ends := a.m.Links[id].Ends(); !slices.ContainsFunc(ends, func(e cm.End) bool { return !along[e.Concept] }) {
			weight = append(weight, besideHeld)
		} else {
			weight = append(weight, 0.3)
		}
	}
	moved := map[cm.ID]tidy.Point{}
	parted := route.Apart(a.Stop, at, size, weight, Gap)
	for i, id := range phrases {
		if !near(parted[len(ids)+i], at[len(ids)+i]) {
			delete(d.lines, id)
		}
	}
	for i, p := range parted[:len(ids)] {
		_, arranged := d.at[ids[i]]
		if arranged || !near(p, at[i]) {
			moved[ids[i]] = p
		}
	}
	return moved
}

// around moves the rest of the map out of the room of one branch, which stands as
// one box among it. Ok is false where something pinned stands in that room.
func (a *arranging) around(d *drawn) (moved map[cm.ID]tidy.Point, ok bool) {
	if a.scope.Branch == "" {
		return nil, false
	}
	room := a.box(d)
	at, size, weight := []tidy.Point{room.Middle()}, []tidy.Size{{W: room.X1 - room.X0, H: room.Y1 - room.Y0}}, []float64{route.Fixed}
	var others []cm.ID
	for _, id := range cm.SortedIDs(a.m.Concepts) {
		if _, arranged := d.at[id]; arranged {
			continue
		}
		c, s, w := a.m.Concepts[id], a.size(id), 1.0
		p := tidy.Point{X: c.At.X, Y: c.At.Y + s.H/2}
		if a.stays[id] {
			if w = route.Fixed; geometry.At(p, s).Grown(Gap).Meets(room) {
				return nil, false
			}
		}
		others, at, size, weight = append(others, id), append(at, p), append(size, s), append(weight, w)
	}
	moved = map[cm.ID]tidy.Point{}
	for id, p := range d.at {
		moved[id] = p
	}
	for i, p := range route.Apart(a.Stop, at, size, weight, Gap)[1:] {
		if !near(p, at[i+1]) {
			moved[others[i]] = p
		}
	}
	return moved, true
}

// Clear moves what stands on, or too near to, other slips. The concepts named
// stay, and so does what is pinned.
func (r Placer) Clear(m *cm.Map, stay []cm.ID) map[cm.ID]cm.Point {
	ids := cm.SortedIDs(m.Concepts)
	at, size, weight := make([]tidy.Point, len(ids)), make([]tidy.Size, len(ids)), make([]float64, len(ids))
	for i, id := range ids {
		c := m.Concepts[id]
		s := r.Measurer.Slip(m, c)
		at[i], size[i], weight[i] = tidy.Point{X: c.At.X, Y: c.At.Y + s.H/2}, s, 1
		if c.Hold == cm.HoldPin || slices.Contains(stay, id) {
			weight[i] = route.Fixed
		}
	}
	moved := map[cm.ID]cm.Point{}
	for i, p := range route.Apart(r.Stop, at, size, weight, 2*Gap) {
		if !near(p, at[i]) {
			moved[ids[i]] = cm.Point{X: math.Round(p.X), Y: math.Round(p.Y - size[i].H/2)}
		}
	}
	return moved
}

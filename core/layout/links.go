package layout

import (
	"cmp"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
	"mevrin/core/structure"
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
			off(id)
		}
	}
	return tidy.Point{X: math.Round(median(xs)), Y: math.Round(median(ys))}
}

func median(all []float64) float64 {
	slices.Sort(all)
	return all[len(all)/2]
}

// settle brings a drawing onto the paper among what stays, and writes it down.
func (a *arranging) settle(d *drawn, by tidy.Point) edit.Arrangement {
	d.shift(by)
	out := edit.Arrangement{Places: map[cm.ID]cm.Point{}, Lines: map[cm.ID]edit.Led{}}
	moved := a.makeRoom(d)
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
		ends := a.m.Links[id].Ends()
		if slices.ContainsFunc(ends, func(e cm.End) bool { return !near(moved[e.Concept], d.at[e.Concept]) }) {
			continue // it runs by itself
		}
		hub := l.phrase
		led := edit.Led{Hub: &hub, Bends: map[cm.ID][]cm.Point{}}
		for end, leg := range l.legs {
			if len(leg) > 0 {
				led.Bends[end] = slices.Clone(leg[:min(len(leg), cm.MaxBends)])
			}
		}
		if len(led.Bends) == 0 {
			led.Bends = nil
		}
		out.Lines[id] = led
	}
	return out
}

func near(a, b tidy.Point) bool { return geometry.Distance(a, b) < 2 }

// makeRoom puts what stays where it is, and moves the rest so that nothing
// overlaps, phrases included; of a map of which one branch is put in order, the rest of the map.
func (a *arranging) makeRoom(d *drawn) map[cm.ID]tidy.Point {
	fixed := false
	for id := range d.at {
		fixed = fixed || a.stays[id]
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

// Siblings gives the children of a concept's parent in the order in which they
// stand on the paper: around it, below or beside each other, as the pattern is.
func (r Placer) Siblings(m *cm.Map, id cm.ID) []cm.ID {
	a := arranging{Placer: r, m: m, s: structure.Of(m)}
	parent := a.s.Places[id].Parent
	order := slices.Clone(a.s.Places[parent].Children)
	pattern := a.patternOf(parent)
	if pattern == cm.PatternSides && parent != m.Focus {
		pattern = cm.PatternRight // what is below a branch is read from the top
	}
	switch pattern {
	case cm.PatternRings, cm.PatternSides:
		if sorted, err := Sorted(m, r.Measurer, parent, order, Around); err == nil {
			return sorted
		}
	case cm.PatternRight, cm.PatternLeft, cm.PatternRows:
		slices.SortStableFunc(order, func(a, b cm.ID) int { return cmp.Compare(middle(m, r.Measurer, a).Y, middle(m, r.Measurer, b).Y) })
	default:
		slices.SortStableFunc(order, func(a, b cm.ID) int { return cmp.Compare(middle(m, r.Measurer, a).X, middle(m, r.Measurer, b).X) })
	}
	return order
}

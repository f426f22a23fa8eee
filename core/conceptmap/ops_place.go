package conceptmap

import "slices"

// Move puts concepts at other places.
type Move struct {
	Places map[ID]Point `json:"places"`
}

func (op *Move) apply(d *editing) error { return d.move(op.Places, true) }

// move puts concepts at other places, by hand or because others made them.
func (d *editing) move(places map[ID]Point, hand bool) error {
	by := map[ID]Point{}
	for _, id := range SortedIDs(places) {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		was := c.At
		if c.At, err = place(places[id]); err != nil {
			return err
		}
		by[id] = Point{c.At.X - was.X, c.At.Y - was.Y}
		if hand && c.Hold == HoldNone && !d.m.KeepTidy {
			c.Hold = HoldHand
		}
		d.putConcept(c)
	}
	return d.carryLines(by)
}

// Shift moves concepts by a distance, wherever they stand.
type Shift struct {
	Concepts []ID  `json:"concepts"`
	By       Point `json:"by"`
}

func (op *Shift) apply(d *editing) error {
	places := map[ID]Point{}
	for _, id := range op.Concepts {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		places[id] = Point{c.At.X + op.By.X, c.At.Y + op.By.Y}
	}
	return d.move(places, true)
}

// carryLines takes what was led by hand along where all the concepts of a link
// moved by the same distance. Otherwise bends and hubs stay where they were put,
// unless putting the map in order put them there: then the line runs by itself
// from what moved.
func (d *editing) carryLines(by map[ID]Point) error {
	for _, id := range SortedIDs(d.m.Links) {
		l := d.m.Links[id]
		if len(l.Bends) == 0 && l.Hub == nil {
			continue
		}
		ends := l.Ends()
		step := by[ends[0].Concept]
		if step == (Point{}) || slices.ContainsFunc(ends, func(e End) bool { return by[e.Concept] != step }) {
			if l.Tidied {
				d.loosen(l, by)
			}
			continue
		}
		next := *l
		for end, bends := range l.Bends {
			moved := slices.Clone(bends)
			for i := range moved {
				moved[i] = clampPoint(Point{moved[i].X + step.X, moved[i].Y + step.Y})
			}
			next.Bends = next.withBends(end, moved)
		}
		if l.Hub != nil {
			hub := clampPoint(Point{l.Hub.X + step.X, l.Hub.Y + step.Y})
			next.Hub = &hub
		}
		d.putLink(&next)
	}
	return nil
}

// loosen lets a line that was led by putting the map in order run by itself from
// those of its concepts that moved.
func (d *editing) loosen(l *Link, by map[ID]Point) {
	next := *l
	moved := func(e End) bool { return by[e.Concept] != Point{} }
	ends := l.Ends()
	switch {
	case !slices.ContainsFunc(ends, moved):
		return
	case len(ends) == 2:
		next.Bends, next.Hub, next.Tidied = nil, nil, false
	default:
		for _, e := range ends {
			if moved(e) {
				next.Bends = next.withBends(e.ID, nil)
			}
		}
	}
	d.putLink(&next)
}

// clampPoint keeps what follows a concept on the paper.
func clampPoint(p Point) Point {
	return roundPoint(Point{max(-FarthestPlace, min(FarthestPlace, p.X)), max(-FarthestPlace, min(FarthestPlace, p.Y))})
}

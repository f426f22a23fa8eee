package edit

import (
	cm "mevrin/core/conceptmap"
	"slices"
)

// SetLine says how the lines of links run.
type SetLine struct {
	Links []cm.ID `json:"links"`
	Line  cm.Line `json:"line"`
}

func (op *SetLine) apply(d *editing) error {
	if !op.Line.Valid() {
		return cm.Refusef("A line runs straight, curved or stepped.")
	}
	for _, id := range op.Links {
		l, err := d.Link(id)
		if err != nil {
			return err
		}
		l.Line = op.Line
		d.Put(l)
	}
	return nil
}

// Bend leads the line between one end of a link and its phrase through places,
// in the order from that end; none lets it run as it does by itself.
type Bend struct {
	Link  cm.ID      `json:"link"`
	End   cm.ID      `json:"end"`
	Bends []cm.Point `json:"bends"`
}

func (op *Bend) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	if cm.FindEnd(l.From, op.End) < 0 && cm.FindEnd(l.To, op.End) < 0 {
		return cm.Refusef("That end of the link is gone already.")
	}
	l.TakeInHand()
	l.Bends = l.WithBends(op.End, op.Bends)
	if err := l.LedSoundly(); err != nil {
		return err
	}
	d.Put(l)
	return nil
}

// PlacePhrase puts a phrase at another place: along the line between two
// concepts, as a part of its length, or where several ends should meet.
// Neither lets it stand where it does by itself.
type PlacePhrase struct {
	Link  cm.ID     `json:"link"`
	Along float64   `json:"along,omitempty"`
	Hub   *cm.Point `json:"hub,omitempty"`
}

func (op *PlacePhrase) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	l.TakeInHand()
	l.Along, l.Hub = op.Along, op.Hub
	if err := l.LedSoundly(); err != nil {
		return err
	}
	d.Put(l)
	return nil
}

// FreeLines lets lines run by themselves again: no bends, the phrase where it
// comes to stand.
type FreeLines struct {
	Links []cm.ID `json:"links"`
}

func (op *FreeLines) apply(d *editing) error {
	for _, id := range op.Links {
		l, err := d.Link(id)
		if err != nil {
			return err
		}
		l.Line, l.Bends, l.Along, l.Hub = cm.LineAuto, nil, 0, nil
		l.Tidied = false
		d.Put(l)
	}
	return nil
}

// Move puts concepts at other places.
type Move struct {
	Places map[cm.ID]cm.Point `json:"places"`
}

func (op *Move) apply(d *editing) error { return d.move(op.Places, true) }

// move puts concepts at other places, by hand or because others made them.
func (d *editing) move(places map[cm.ID]cm.Point, hand bool) error {
	by := map[cm.ID]cm.Point{}
	for _, id := range cm.SortedIDs(places) {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		was := c.At
		if c.At, err = cm.CleanPoint(places[id]); err != nil {
			return err
		}
		by[id] = cm.Point{X: c.At.X - was.X, Y: c.At.Y - was.Y}
		if hand && c.Hold == cm.HoldNone {
			c.Hold = cm.HoldHand
		}
		d.Put(c)
	}
	return d.carryLines(by)
}

// Shift moves concepts by a distance, wherever they stand.
type Shift struct {
	Concepts []cm.ID  `json:"concepts"`
	By       cm.Point `json:"by"`
}

func (op *Shift) apply(d *editing) error {
	places := map[cm.ID]cm.Point{}
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		places[id] = cm.Point{X: c.At.X + op.By.X, Y: c.At.Y + op.By.Y}
	}
	return d.move(places, true)
}

// carryLines takes what was led by hand along where all the concepts of a link
// moved by the same distance. Otherwise bends and hubs stay where they were put,
// unless putting the map in order put them there: then the line runs by itself
// from what moved.
func (d *editing) carryLines(by map[cm.ID]cm.Point) error {
	for _, id := range cm.SortedIDs(d.Map.Links) {
		l := d.Map.Links[id]
		if len(l.Bends) == 0 && l.Hub == nil {
			continue
		}
		ends := l.Ends()
		step := by[ends[0].Concept]
		if step == (cm.Point{}) || slices.ContainsFunc(ends, func(e cm.End) bool { return by[e.Concept] != step }) {
			if l.Tidied {
				d.loosen(l, by)
			}
			continue
		}
		next := *l
		for end, bends := range l.Bends {
			moved := slices.Clone(bends)
			for i := range moved {
				moved[i] = cm.ClampPoint(cm.Point{X: moved[i].X + step.X, Y: moved[i].Y + step.Y})
			}
			next.Bends = next.WithBends(end, moved)
		}
		if l.Hub != nil {
			hub := cm.ClampPoint(cm.Point{X: l.Hub.X + step.X, Y: l.Hub.Y + step.Y})
			next.Hub = &hub
		}
		d.Put(&next)
	}
	return nil
}

// loosen lets a line that was led by putting the map in order run by itself from
// those of its concepts that moved.
func (d *editing) loosen(l *cm.Link, by map[cm.ID]cm.Point) {
	next := *l
	moved := func(e cm.End) bool { return by[e.Concept] != cm.Point{} }
	ends := l.Ends()
	switch {
	case !slices.ContainsFunc(ends, moved):
		return
	case len(ends) == 2:
		next.Bends, next.Hub, next.Tidied = nil, nil, false
	default:
		for _, e := range ends {
			if moved(e) {
				next.Bends = next.WithBends(e.ID, nil)
			}
		}
	}
	d.Put(&next)
}

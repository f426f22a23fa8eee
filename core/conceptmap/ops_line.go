package conceptmap

import "maps"

// Line says how a line runs between its ends, its bends and its phrase.
type Line string

// The ways in which a line can run.
const (
	LineAuto     Line = ""         // as suits the drawing
	LineStraight Line = "straight" // from point to point
	LineCurved   Line = "curved"   // in one smooth sweep through its points
	LineStepped  Line = "stepped"  // level and upright pieces only
)

func (l Line) Valid() bool {
	return l == LineAuto || l == LineStraight || l == LineCurved || l == LineStepped
}

// MaxBends bounds the bends between one end of a link and its phrase.
const MaxBends = 40

// withBends gives the bends of a link with those of one end replaced.
func (l *Link) withBends(end ID, bends []Point) map[ID][]Point {
	next := maps.Clone(l.Bends)
	if len(bends) == 0 {
		delete(next, end)
	} else {
		if next == nil {
			next = map[ID][]Point{}
		}
		next[end] = bends
	}
	if len(next) == 0 {
		return nil
	}
	return next
}

// ledSoundly checks how a line is led, and rounds its places.
func (l *Link) ledSoundly() error {
	if !l.Line.Valid() {
		return Refusef("A line runs straight, curved or stepped.")
	}
	if !(l.Along >= 0 && l.Along < 1) {
		return Refusef("A phrase stands between the ends of its line.")
	}
	led := map[ID][]Point{}
	for end, bends := range l.Bends {
		if len(bends) > MaxBends {
			return Refusef("A line can be bent in at most %d places.", MaxBends)
		}
		if len(bends) == 0 || !end.Valid() {
			return Refusef("A bend belongs to an end of the link.")
		}
		for _, bend := range bends {
			at, err := place(bend)
			if err != nil {
				return err
			}
			led[end] = append(led[end], at)
		}
	}
	if len(led) > 0 {
		l.Bends = led
	}
	if l.Hub != nil {
		at, err := place(*l.Hub)
		if err != nil {
			return err
		}
		l.Hub = &at
	}
	return nil
}

// SetLine says how the lines of links run.
type SetLine struct {
	Links []ID `json:"links"`
	Line  Line `json:"line"`
}

func (op *SetLine) apply(d *editing) error {
	if !op.Line.Valid() {
		return Refusef("A line runs straight, curved or stepped.")
	}
	for _, id := range op.Links {
		l, err := d.link(id)
		if err != nil {
			return err
		}
		l.Line = op.Line
		d.putLink(l)
	}
	return nil
}

// Bend leads the line between one end of a link and its phrase through places,
// in the order from that end; none lets it run as it does by itself.
type Bend struct {
	Link  ID      `json:"link"`
	End   ID      `json:"end"`
	Bends []Point `json:"bends"`
}

func (op *Bend) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	if findEnd(l.From, op.End) < 0 && findEnd(l.To, op.End) < 0 {
		return Refusef("That end of the link is gone already.")
	}
	l.takenInHand()
	l.Bends = l.withBends(op.End, op.Bends)
	if err := l.ledSoundly(); err != nil {
		return err
	}
	d.putLink(l)
	return nil
}

// PlacePhrase puts a phrase at another place: along the line between two
// concepts, as a part of its length, or where several ends should meet.
// Neither lets it stand where it does by itself.
type PlacePhrase struct {
	Link  ID      `json:"link"`
	Along float64 `json:"along,omitempty"`
	Hub   *Point  `json:"hub,omitempty"`
}

func (op *PlacePhrase) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	l.takenInHand()
	l.Along, l.Hub = op.Along, op.Hub
	if err := l.ledSoundly(); err != nil {
		return err
	}
	d.putLink(l)
	return nil
}

// takenInHand gives up how putting the map in order led the line, for the hand to
// lead it; several ends go on meeting where they do.
func (l *Link) takenInHand() {
	if l.Tidied && len(l.From)+len(l.To) == 2 {
		l.Bends, l.Hub = nil, nil
	}
	l.Tidied = false
}

// FreeLines lets lines run by themselves again: no bends, the phrase where it
// comes to stand.
type FreeLines struct {
	Links []ID `json:"links"`
}

func (op *FreeLines) apply(d *editing) error {
	for _, id := range op.Links {
		l, err := d.link(id)
		if err != nil {
			return err
		}
		l.Line, l.Bends, l.Along, l.Hub = LineAuto, nil, 0, nil
		l.Tidied = false
		d.putLink(l)
	}
	return nil
}

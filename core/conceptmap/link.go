package conceptmap

import (
	"maps"
	"mevrin/core/likeness"
	"slices"
	"strings"
)

// Heads says at which side of a link its arrowheads stand.
type Heads string

// The three ways in which a link can be read.
const (
	HeadsOne  Heads = "one"  // from → to: one proposition for each strand
	HeadsBoth Heads = "both" // from ↔ to: two propositions for each strand
	HeadsNone Heads = "none" // from – to: one proposition, read from left to right
)

// AllHeads lists them in the order in which a key goes through them.
var AllHeads = []Heads{HeadsOne, HeadsBoth, HeadsNone}

// Link joins concepts by a linking phrase. It has at least one end on each
// side; several ends on a side share the phrase. One concept stands at most
// once on a side, and may stand on both (a self-link).
type Link struct {
	ID     ID   `json:"id"`
	Phrase Text `json:"phrase,omitempty" mevrin:"limit=phrase"`
	Note   Text `json:"note,omitempty" mevrin:"limit=note"`
	// NoteCard is how its note lies open on the paper; nil for the ordinary way.
	NoteCard *NoteCard `json:"noteCard,omitempty"`
	// Kind names what sort of link it is, or is empty.
	Kind  ID    `json:"kind,omitempty"`
	Heads Heads `json:"heads"`
	From  []End `json:"from"` // in the order of their ids
	To    []End `json:"to"`   // in the order of their ids

	// How the line is led; all absent: by itself. Bends are places that it
	// passes between an end and the phrase, by the id of the end, in the order
	// from there; one that names no end means nothing. Along says where on a
	// line between two concepts the phrase stands, as a part of its length
	// (0 stands for the middle). Hub is where several ends meet at their phrase.
	Line  Line           `json:"line,omitempty"`
	Bends map[ID][]Point `json:"bends,omitempty"`
	Along float64        `json:"along,omitempty"`
	Hub   *Point         `json:"hub,omitempty"`
	// Tidied says that the line was led by putting the map in order, not by
	// hand: when one of its concepts moves it runs by itself again.
	Tidied bool `json:"tidied,omitempty"`

	// Sources are attached to the link, by their ids.
	Sources map[ID]Source `json:"sources,omitempty" mevrin:"limit=sources"`
}

// End is where a link meets a concept. Its id is unique within the link.
type End struct {
	ID      ID `json:"id"`
	Concept ID `json:"concept"`
}

// Strand is one way through a link: from one of its from-ends to one of its
// to-ends. What is said of a single proposition (main, judged, bent) belongs
// to a strand.
type Strand struct {
	Link ID `json:"link"`
	From ID `json:"from"` // the id of an end
	To   ID `json:"to"`   // the id of an end
}

// Ends gives all ends of the link, those of the from-side first.
func (l *Link) Ends() []End { return slices.Concat(l.From, l.To) }

// Strands gives every way through the link, in the order of from-ends and,
// for each, of to-ends.
func (l *Link) Strands() []Strand {
	all := make([]Strand, 0, len(l.From)*len(l.To))
	for _, f := range l.From {
		for _, t := range l.To {
			all = append(all, Strand{l.ID, f.ID, t.ID})
		}
	}
	return all
}

// Between gives the concepts that a strand joins; ok is false where the
// strand does not exist in m.
func (m *Map) Between(s Strand) (from, to ID, ok bool) {
	l := m.Links[s.Link]
	if l == nil {
		return "", "", false
	}
	f, t := FindEnd(l.From, s.From), FindEnd(l.To, s.To)
	if f < 0 || t < 0 {
		return "", "", false
	}
	return l.From[f].Concept, l.To[t].Concept, true
}

// FindEnd gives the place of an end among others, -1 where it is not there.
func FindEnd(ends []End, id ID) int {
	return slices.IndexFunc(ends, func(e End) bool { return e.ID == id })
}

// HasConcept tells whether one of the ends is at a concept.
func HasConcept(ends []End, c ID) bool {
	return slices.ContainsFunc(ends, func(e End) bool { return e.Concept == c })
}

// SortEnds gives ends in the order of their ids.
func SortEnds(ends []End) []End {
	ends = slices.Clone(ends)
	slices.SortFunc(ends, func(a, b End) int { return strings.Compare(string(a.ID), string(b.ID)) })
	return ends
}

// SameConcepts tells whether ends are at the same concepts.
func SameConcepts(a, b []End) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(e End) bool { return !HasConcept(b, e.Concept) })
}

// WhyApart refuses two links that cannot become one.
func (m *Map) WhyApart(a, b *Link) error {
	words, others := likeness.Fold(m.Words(a.Phrase)), likeness.Fold(m.Words(b.Phrase))
	switch {
	case words != others && words != "" && others != "":
		return Refusef("The two links say different things. Give them the same words first.")
	case a.Heads != b.Heads:
		return Refusef("The arrows of the two links differ. Set them alike first.")
	case !SameConcepts(a.From, b.From) && !SameConcepts(a.To, b.To):
		return Refusef("The two links share neither where they begin nor where they lead.")
	}
	return nil
}

// Alike gives the links that MergeLinks can join with one, in the order of
// ids: those with the same words as it, or none.
func (m *Map) Alike(link ID) []ID {
	l := m.Links[link]
	if l == nil || l.Phrase.Empty() {
		return nil
	}
	var all []ID
	for _, id := range SortedIDs(m.Links) {
		if o := m.Links[id]; id != link && likeness.Fold(m.Words(o.Phrase)) == likeness.Fold(m.Words(l.Phrase)) && m.WhyApart(l, o) == nil {
			all = append(all, id)
		}
	}
	return all
}

// Line says how a line runs between its ends, its bends and its phrase.
type Line string

// The ways in which a line can run.
const (
	LineAuto     Line = ""         // as suits the drawing
	LineStraight Line = "straight" // from point to point
	LineCurved   Line = "curved"   // in one smooth sweep through its points
	LineStepped  Line = "stepped"  // level and upright pieces only
)

// Valid tells whether a line can run so.
func (l Line) Valid() bool {
	return l == LineAuto || l == LineStraight || l == LineCurved || l == LineStepped
}

// MaxBends bounds the bends between one end of a link and its phrase.
const MaxBends = 40

// WithBends gives the bends of a link with those of one end replaced.
func (l *Link) WithBends(end ID, bends []Point) map[ID][]Point {
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

// LedSoundly checks how a line is led, and rounds its places.
func (l *Link) LedSoundly() error {
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
			at, err := CleanPoint(bend)
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
		at, err := CleanPoint(*l.Hub)
		if err != nil {
			return err
		}
		l.Hub = &at
	}
	return nil
}

// TakeInHand gives up how putting the map in order led the line, for the hand to
// lead it; several ends go on meeting where they do.
func (l *Link) TakeInHand() {
	if l.Tidied && len(l.From)+len(l.To) == 2 {
		l.Bends, l.Hub = nil, nil
	}
	l.Tidied = false
}

// LedByItself tells whether no hand led the line: nobody did, or putting in order.
func (l *Link) LedByItself() bool {
	return l.Tidied || len(l.Bends) == 0 && l.Hub == nil && l.Along == 0
}

// Loop tells whether all ends are at one concept.
func (l *Link) Loop() bool {
	ends := l.Ends()
	return !slices.ContainsFunc(ends, func(e End) bool { return e.Concept != ends[0].Concept })
}

// MaxEnds bounds the ends of a link on each side.
const MaxEnds = 200

// Sound tells what is wrong with a link by itself, whatever stands on the map.
func (l *Link) Sound() error {
	if !l.Heads.Valid() {
		return Refusef("An arrow points one way, both ways or none.")
	}
	if len(l.From) == 0 || len(l.To) == 0 {
		return Refusef("A link needs a concept at both of its ends.")
	}
	ids := map[ID]bool{}
	for _, side := range [][]End{l.From, l.To} {
		if len(side) > MaxEnds {
			return Refusef("At most %d concepts can share one end of a phrase.", MaxEnds)
		}
		met := map[ID]bool{}
		for _, e := range side {
			if !e.ID.Valid() || ids[e.ID] {
				return Refusef("An end of the link came without a proper name of its own. Please reload the page.")
			}
			if met[e.Concept] {
				return Refusef("That concept is at this end of the phrase already.")
			}
			ids[e.ID], met[e.Concept] = true, true
		}
	}
	return l.LedSoundly()
}

// Valid tells whether a link can be read so.
func (h Heads) Valid() bool { return slices.Contains(AllHeads, h) }

// Side names the two sides of a link.
type Side string

// The two sides of a link.
const (
	SideFrom Side = "from"
	SideTo   Side = "to"
)

// EndsAt gives the ends of one side, to be altered.
func (l *Link) EndsAt(s Side) (*[]End, error) {
	switch s {
	case SideFrom:
		return &l.From, nil
	case SideTo:
		return &l.To, nil
	}
	return nil, Refusef("A link has two sides: from and to.")
}

// Turned gives a link whose bends have moved as its ends did: with two ends
// turned and stretched, with more carried by the mean of their ways.
func (l *Link) Turned(was map[ID]Point, now map[ID]*Concept) *Link {
	next := *l
	ends := l.Ends()
	to := func(p Point) Point {
		var by Point
		for _, e := range ends {
			by.X += (now[e.Concept].At.X - was[e.Concept].X) / float64(len(ends))
			by.Y += (now[e.Concept].At.Y - was[e.Concept].Y) / float64(len(ends))
		}
		return Point{X: p.X + by.X, Y: p.Y + by.Y}
	}
	if a, b := ends[0].Concept, ends[len(ends)-1].Concept; len(ends) == 2 && a != b && was[a] != was[b] {
		// As complex numbers: p ↦ a' + (p − a)(b' − a')/(b − a).
		z := func(p Point) complex128 { return complex(p.X, p.Y) }
		by := (z(now[b].At) - z(now[a].At)) / (z(was[b]) - z(was[a]))
		to = func(p Point) Point {
			w := z(now[a].At) + (z(p)-z(was[a]))*by
			return Point{X: real(w), Y: imag(w)}
		}
	}
	next.Bends = map[ID][]Point{}
	for end, bends := range l.Bends {
		for _, p := range bends {
			next.Bends[end] = append(next.Bends[end], to(p))
		}
	}
	if len(next.Bends) == 0 {
		next.Bends = nil
	}
	if l.Hub != nil {
		hub := to(*l.Hub)
		next.Hub = &hub
	}
	return &next
}

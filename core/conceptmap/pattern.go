package conceptmap

import (
	"slices"
	"strings"
)

// Pattern names a way to put a map, or a branch of it, in order.
type Pattern string

// The patterns. The empty one is, of a branch, that of what it hangs from.
const (
	PatternNone   Pattern = ""
	PatternLevels Pattern = "levels"       // level below level
	PatternUp     Pattern = "levels-up"    // level above level
	PatternRight  Pattern = "levels-right" // level beside level
	PatternLeft   Pattern = "levels-left"
	PatternSides  Pattern = "sides" // to both sides of a centre
	PatternRings  Pattern = "rings" // around a centre
	PatternWeb    Pattern = "web"   // by forces
	PatternSpine  Pattern = "spine" // ribs along a spine
	PatternTime   Pattern = "time"  // along an axis of time
	PatternRows   Pattern = "rows"  // rows and columns
)

// Patterns lists all patterns, in the order in which they are offered.
var Patterns = []Pattern{PatternLevels, PatternUp, PatternRight, PatternLeft, PatternSides, PatternRings, PatternWeb, PatternSpine, PatternTime, PatternRows}

func (p Pattern) Valid() bool { return p == PatternNone || slices.Contains(Patterns, p) }

// Hold says how firmly a concept stands where it is.
type Hold string

// The three ways in which a concept stands.
const (
	HoldNone Hold = ""
	HoldHand Hold = "hand" // placed by hand since the map was last put in order
	HoldPin  Hold = "pin"  // pinned: it is never moved by putting the map in order
)

func (h Hold) Valid() bool { return h == HoldNone || h == HoldHand || h == HoldPin }

// Scope says what is to be put in order.
type Scope struct {
	Branch ID   // this concept and all below it, or the whole map
	Hand   bool // what was placed by hand stays as well as what is pinned
	Again  bool // the map was in order before the last edit: little should move
	Still  ID   // this concept stays where it is, if nothing else decides that
}

// Arrangement is a map, or a part of it, put in order: new places, and how the
// lines run. A link that is not named runs by itself.
type Arrangement struct {
	Places map[ID]Point
	Lines  map[ID]Led
}

// Led is how a line is led: where its phrase stands and what its ends pass.
type Led struct {
	Hub   *Point
	Bends map[ID][]Point
}

// Tidy puts the map, or one branch, in order by a pattern. Siblings keep their
// order, or take the one with the fewest crossings that is found. A branch
// without a pattern takes that of what it hangs from.
type Tidy struct {
	Pattern Pattern `json:"pattern,omitempty"`
	Branch  ID      `json:"branch,omitempty"`
	Freely  bool    `json:"freely,omitempty"` // siblings may be exchanged
	Hand    bool    `json:"hand,omitempty"`   // what was placed by hand stays
}

func (op *Tidy) apply(d *editing) error {
	if !op.Pattern.Valid() || op.Pattern == PatternNone && op.Branch == "" {
		return Refusef("There is no such pattern.")
	}
	if op.Branch == "" {
		d.m.Pattern, d.m.Freely = op.Pattern, op.Freely
		d.putHeader()
	} else {
		c, err := d.concept(op.Branch)
		if err != nil {
			return err
		}
		c.Pattern = op.Pattern
		d.putConcept(c)
	}
	return d.arrange(Scope{Branch: op.Branch, Hand: op.Hand})
}

// KeepTidy says whether the map is put in order again after each edit.
type KeepTidy struct {
	On bool `json:"on"`
}

func (op *KeepTidy) apply(d *editing) error {
	d.m.KeepTidy = op.On
	if op.On && d.m.Pattern == PatternNone {
		d.m.Pattern = PatternLevels
	}
	d.putHeader()
	return nil
}

// Pin pins concepts to where they stand, or lets them go.
type Pin struct {
	Concepts []ID `json:"concepts"`
	On       bool `json:"on"`
}

func (op *Pin) apply(d *editing) error {
	for _, id := range op.Concepts {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		c.Hold = HoldNone
		if op.On {
			c.Hold = HoldPin
		}
		d.putConcept(c)
	}
	return nil
}

// arrange puts a part of the map in order, as the room sees fit.
func (d *editing) arrange(s Scope) error {
	if d.placer == nil {
		return nil
	}
	a, err := d.placer.Arrange(d.m, s)
	if err != nil {
		return err
	}
	was := d.m.Concepts
	places := map[ID]Point{}
	for id, c := range was {
		places[id] = c.At
	}
	for _, id := range SortedIDs(a.Places) {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		if c.At, err = place(a.Places[id]); err != nil {
			return err
		}
		if c.Hold == HoldHand && !s.Hand {
			c.Hold = HoldNone
		}
		d.putConcept(c)
	}
	for _, id := range SortedIDs(d.m.Links) {
		d.ledAnew(id, places, a)
	}
	return nil
}

// ledAnew leads a link as an arrangement has it. What was led by hand keeps its
// shape, turned and stretched with its two ends.
func (d *editing) ledAnew(id ID, was map[ID]Point, a Arrangement) {
	l, err := d.link(id)
	if err != nil {
		return
	}
	ends := l.Ends()
	arranged := slices.ContainsFunc(ends, func(e End) bool { _, moved := a.Places[e.Concept]; return moved })
	if !arranged {
		return
	}
	if (len(l.Bends) > 0 || l.Hub != nil || l.Along != 0) && !l.Tidied {
		if next := l.turned(was, d.m.Concepts); next.ledSoundly() == nil {
			d.putLink(next)
		}
		return
	}
	led, ok := a.Lines[id]
	l.Bends, l.Hub, l.Tidied = led.Bends, led.Hub, ok
	if l.ledSoundly() != nil { // too far out: it runs by itself
		l.Bends, l.Hub, l.Tidied = nil, nil, false
	}
	d.putLink(l)
}

// turned gives a link whose bends have moved as its ends did: with two ends
// turned and stretched, with more carried by the mean of their ways.
func (l *Link) turned(was map[ID]Point, now map[ID]*Concept) *Link {
	next := *l
	ends := l.Ends()
	to := func(p Point) Point {
		var by Point
		for _, e := range ends {
			by.X += (now[e.Concept].At.X - was[e.Concept].X) / float64(len(ends))
			by.Y += (now[e.Concept].At.Y - was[e.Concept].Y) / float64(len(ends))
		}
		return Point{p.X + by.X, p.Y + by.Y}
	}
	if a, b := ends[0].Concept, ends[len(ends)-1].Concept; len(ends) == 2 && a != b && was[a] != was[b] {
		// As complex numbers: p ↦ a' + (p − a)(b' − a')/(b − a).
		z := func(p Point) complex128 { return complex(p.X, p.Y) }
		by := (z(now[b].At) - z(now[a].At)) / (z(was[b]) - z(was[a]))
		to = func(p Point) Point {
			w := z(now[a].At) + (z(p)-z(was[a]))*by
			return Point{real(w), imag(w)}
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

// keepTidy puts the map in order again after the operations of an entry, where
// its author wants that.
func (d *editing) keepTidy(ops []Operation) error {
	if !d.m.KeepTidy || d.placer == nil || !d.displaced() {
		return nil
	}
	still := ID("")
	for _, op := range ops {
		switch op := op.(type) {
		case *Tidy:
			return nil // it has just been put in order
		case *NameConcept:
			still = op.Concept
		case *SetType:
			if len(op.Concepts) > 0 {
				still = op.Concepts[0]
			}
		case *Move:
			if !d.m.Freely {
				d.takeRanks(SortedIDs(op.Places))
			}
		}
	}
	return d.arrange(Scope{Still: still, Again: true})
}

// displaced tells whether anything was touched that has a place on the paper, but
// for what has no part in where things stand: votes, and how notes lie.
func (d *editing) displaced() bool {
	for key := range d.touched {
		switch {
		case key.Kind == EntityMap && d.base.KeepTidy != d.m.KeepTidy:
			return true
		case key.Kind == EntityConcept || key.Kind == EntityLink:
			change := Difference(d.base, d.m, key)
			if slices.ContainsFunc(change.FieldNames(), func(name string) bool { return name != "noteCard" && !strings.HasPrefix(name, "votes/") }) {
				return true
			}
		}
	}
	return false
}

// takeRanks lets moved concepts stand among their siblings where they were put.
func (d *editing) takeRanks(moved []ID) {
	for _, id := range moved {
		c := d.m.Concepts[id]
		if c == nil || d.m.Parent(c) == "" || c.Hold == HoldPin {
			continue
		}
		order := d.placer.Siblings(d.m, id)
		at := slices.Index(order, id)
		if at < 0 {
			continue
		}
		after := ID("")
		if at > 0 {
			after = order[at-1]
		}
		rank := RankConcept{Concept: id, After: after}
		_ = rank.apply(d) // where it cannot be ranked it keeps its rank
	}
}

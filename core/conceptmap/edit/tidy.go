package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"slices"
	"strings"
)

// Scope says what is to be put in order.
type Scope struct {
	Branch cm.ID // this concept and all below it, or the whole map
	Hand   bool  // what was placed by hand stays as well as what is pinned
	Again  bool  // the map was in order before the last edit: little should move
	Still  cm.ID // this concept stays where it is, if nothing else decides that
	// Before is the map as its pattern had it, if it did, which is taken up again; or nil.
	Before *cm.Map
	// New tells of a concept that it has just been made, or hangs elsewhere: where it stands
	// means nothing.
	New func(cm.ID) bool
}

// Arrangement is a map, or a part of it, put in order: new places, and how the
// lines run. A link that is not named runs by itself.
type Arrangement struct {
	Places map[cm.ID]cm.Point
	Lines  map[cm.ID]Led
}

// Led is how a line is led: where its phrase stands and what its ends pass.
type Led struct {
	Hub   *cm.Point
	Bends map[cm.ID][]cm.Point
}

// Tidy puts the map, or one branch, in order by a pattern. Siblings keep their
// order, or take the one with the fewest crossings that is found. A branch
// without a pattern takes that of what it hangs from.
type Tidy struct {
	Pattern cm.Pattern `json:"pattern,omitempty"`
	Branch  cm.ID      `json:"branch,omitempty"`
	Freely  bool       `json:"freely,omitempty"` // siblings may be exchanged
	Hand    bool       `json:"hand,omitempty"`   // what was placed by hand stays
}

func (op *Tidy) apply(d *editing) error {
	if !op.Pattern.Valid() || op.Pattern == cm.PatternNone && op.Branch == "" {
		return cm.Refusef("There is no such pattern.")
	}
	scope := Scope{Branch: op.Branch, Hand: op.Hand}
	if op.Branch == "" {
		if op.Pattern == cm.PatternWeb && d.Map.Pattern == cm.PatternWeb {
			scope.Before = d.Base // it begins from what is there
		}
		d.Map.Pattern, d.Map.Freely = op.Pattern, op.Freely
		d.TouchHeader()
	} else {
		c, err := d.Concept(op.Branch)
		if err != nil {
			return err
		}
		c.Pattern = op.Pattern
		d.Put(c)
	}
	return d.arrange(scope)
}

// KeepTidy says whether the map is put in order again after each edit, and by which
// pattern; where none is named by the one that it has, or by levels.
type KeepTidy struct {
	On      bool       `json:"on"`
	Pattern cm.Pattern `json:"pattern,omitempty"`
	// Freely says whether siblings may change places; nil leaves that as it is.
	Freely *bool `json:"freely,omitempty"`
}

func (op *KeepTidy) apply(d *editing) error {
	if !op.Pattern.Valid() {
		return cm.Refusef("There is no such pattern.")
	}
	d.Map.KeepTidy = op.On
	if op.Freely != nil {
		d.Map.Freely = *op.Freely
	}
	if op.Pattern != cm.PatternNone {
		d.Map.Pattern = op.Pattern
	}
	if op.On && d.Map.Pattern == cm.PatternNone {
		d.Map.Pattern = cm.PatternLevels
	}
	d.TouchHeader()
	return nil
}

// Pin pins concepts to where they stand, or lets them go.
type Pin struct {
	Concepts []cm.ID `json:"concepts"`
	On       bool    `json:"on"`
}

func (op *Pin) apply(d *editing) error {
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		c.Hold = cm.HoldNone
		if op.On {
			c.Hold = cm.HoldPin
		}
		d.Put(c)
	}
	return nil
}

// arrange puts a part of the map in order, as the room sees fit.
func (d *editing) arrange(s Scope) error {
	if d.placer == nil {
		return nil
	}
	a, err := d.placer.Arrange(d.Map, s)
	if err != nil {
		return err
	}
	was := d.Map.Concepts
	places := map[cm.ID]cm.Point{}
	for id, c := range was {
		places[id] = c.At
	}
	for _, id := range cm.SortedIDs(a.Places) {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if c.At, err = cm.CleanPoint(a.Places[id]); err != nil {
			return err
		}
		if c.Hold == cm.HoldHand && !s.Hand {
			c.Hold = cm.HoldNone
		}
		d.Put(c)
	}
	for _, id := range cm.SortedIDs(d.Map.Links) {
		d.ledAnew(id, places, a)
	}
	return nil
}

// ledAnew leads a link as an arrangement has it. What was led by hand keeps its
// shape, turned and stretched with its two ends.
func (d *editing) ledAnew(id cm.ID, was map[cm.ID]cm.Point, a Arrangement) {
	l, err := d.Link(id)
	if err != nil {
		return
	}
	ends := l.Ends()
	arranged := slices.ContainsFunc(ends, func(e cm.End) bool { _, moved := a.Places[e.Concept]; return moved })
	if !arranged {
		return
	}
	if (len(l.Bends) > 0 || l.Hub != nil || l.Along != 0) && !l.Tidied {
		if next := l.Turned(was, d.Map.Concepts); next.LedSoundly() == nil {
			d.Put(next)
		}
		return
	}
	led, ok := a.Lines[id]
	d.leadBy(l, led, ok)
}

// keepTidy puts the map in order again after the operations of an entry, where
// its author wants that. What a hand placed stays; where it was put among its
// siblings it takes that rank instead.
func (d *editing) keepTidy(ops []Operation) error {
	if !d.Map.KeepTidy || d.placer == nil || !d.displaced() {
		return nil
	}
	scope := Scope{Again: true, Hand: d.Base.KeepTidy, New: d.elsewhere()}
	if d.Base.KeepTidy && d.Base.Pattern == d.Map.Pattern {
		scope.Before = d.Base
	}
	for _, op := range ops {
		switch op := op.(type) {
		case *Tidy:
			return nil // it has just been put in order
		case *NameConcept:
			scope.Still = op.Concept
		case *SetType:
			if len(op.Concepts) > 0 {
				scope.Still = op.Concepts[0]
			}
		case *Move:
			d.takeRanks(cm.SortedIDs(op.Places))
		case *Shift:
			d.takeRanks(op.Concepts)
		}
	}
	return d.arrange(scope)
}

// elsewhere tells of concepts that were not on the map before, or hung from another one, or
// stood where a hand had put them; and of whatever hangs from such.
func (d *editing) elsewhere() func(cm.ID) bool {
	known := map[cm.ID]bool{}
	var is func(id cm.ID) bool
	is = func(id cm.ID) bool {
		if v, there := known[id]; there {
			return v
		}
		known[id] = false // where the hierarchy runs in a circle
		c, was := d.Map.Concepts[id], d.Base.Concepts[id]
		if c == nil || was == nil {
			known[id] = true
			return true
		}
		parent := d.Map.Parent(c)
		known[id] = parent != d.Base.Parent(was) || c.Hold != was.Hold || parent != "" && is(parent)
		return known[id]
	}
	return is
}

// settle finds room for what was made or has grown, on a map that is not kept in order.
func (d *editing) settle(ops []Operation) error {
	if d.Map.KeepTidy || d.placer == nil || !d.displaced() || slices.ContainsFunc(ops, func(op Operation) bool { _, is := op.(*Tidy); return is }) {
		return nil
	}
	fresh := slices.DeleteFunc(slices.Clone(d.fresh), func(id cm.ID) bool { return d.Map.Concepts[id] == nil })
	a := d.placer.Settle(d.Base, d.Map, fresh)
	for _, id := range cm.SortedIDs(a.Places) {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if c.At, err = cm.CleanPoint(a.Places[id]); err != nil {
			return err
		}
		d.Put(c)
	}
	for _, id := range cm.SortedIDs(a.Lines) {
		l, err := d.Link(id)
		if err != nil {
			return err
		}
		l.Along = 0
		d.leadBy(l, a.Lines[id], true)
	}
	return nil
}

// leadBy leads a line as the map has it, or lets it run by itself.
func (d *editing) leadBy(l *cm.Link, led Led, ok bool) {
	l.Bends, l.Hub, l.Tidied = led.Bends, led.Hub, ok
	if l.LedSoundly() != nil { // too far out: it runs by itself
		l.Bends, l.Hub, l.Tidied = nil, nil, false
	}
	d.Put(l)
}

// displaced tells whether anything was touched that has a place on the paper, but
// for what has no part in where things stand: votes, and how notes lie.
func (d *editing) displaced() bool {
	for key := range d.Touched {
		switch {
		case key.Kind == cm.EntityMap && d.Base.KeepTidy != d.Map.KeepTidy:
			return true
		case key.Kind == cm.EntityConcept || key.Kind == cm.EntityLink:
			change := history.Difference(d.Base, d.Map, key)
			if slices.ContainsFunc(change.FieldNames(), func(name string) bool { return name != "noteCard" && !strings.HasPrefix(name, "votes/") }) {
				return true
			}
		}
	}
	return false
}

// takeRanks lets concepts that were moved past one of their siblings, within their
// row, stand there in order; any other stays where the hand put it, and what hangs from
// one that was moved with it goes along.
func (d *editing) takeRanks(moved []cm.ID) {
	for _, id := range moved {
		c := d.Map.Concepts[id]
		if c == nil || c.Hold != cm.HoldHand {
			continue
		}
		parent := d.Map.Parent(c)
		along := parent != "" && slices.Contains(moved, parent)
		if !along && (parent == "" || !d.ranked(id)) {
			continue
		}
		if was := d.Base.Concepts[id]; was == nil || was.Hold == cm.HoldNone {
			next, _ := d.Concept(id)
			next.Hold = cm.HoldNone
			d.Put(next)
		}
	}
}

// ranked gives a concept the rank at which it stands among its siblings; false where
// that is the one that it has, or it stands elsewhere.
func (d *editing) ranked(id cm.ID) bool {
	order, among := d.placer.Row(d.Map, id)
	at := slices.Index(order, id)
	if !among || at < 0 {
		return false
	}
	was, _ := d.placer.Row(d.Base, id)
	if slices.Equal(was, order) {
		return false
	}
	after := cm.ID("")
	if at > 0 {
		after = order[at-1]
	}
	return (&RankConcept{Concept: id, After: after}).apply(d) == nil
}

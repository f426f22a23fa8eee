package conceptmap

import (
	"cmp"
	"math"
	"reflect"
	"slices"
)

func sameType(a, b Operation) bool { return reflect.TypeOf(a) == reflect.TypeOf(b) }

// AddConcept puts a new idea on the paper, with or without words.
type AddConcept struct {
	ID    ID     `json:"id"`
	Lang  Lang   `json:"lang,omitempty"` // the map's own where empty
	Label string `json:"label,omitempty"`
	At    Point  `json:"at"`
	// MakeRoom lets the concept stand beside At where At is taken.
	MakeRoom bool `json:"makeRoom,omitempty"`
	// Reuse makes nothing where a concept with this label is on the map already:
	// what follows in the same entry means that one, and the outcome's Moved
	// tells so.
	Reuse bool `json:"reuse,omitempty"`
}

func (op *AddConcept) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	label, err := cleanLabel(op.Label)
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	at, err := place(op.At)
	if err != nil {
		return err
	}
	if op.Reuse {
		if c := d.m.Find(label); c != nil {
			d.meant[op.ID] = c.ID
			d.recordMove(Moved{Kind: EntityConcept, Old: op.ID, New: c.ID})
			return nil
		}
	}
	c := &Concept{ID: op.ID, Label: Text(nil).With(lang, label), At: at}
	if op.MakeRoom && d.placer != nil {
		c.At = roundPoint(d.placer.Free(d.m, c))
	}
	d.putConcept(c)
	return nil
}

// NameConcept gives a concept its words in one language.
type NameConcept struct {
	Concept ID     `json:"concept"`
	Lang    Lang   `json:"lang,omitempty"`
	Label   string `json:"label"`
}

func (op *NameConcept) apply(d *editing) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	label, err := cleanLabel(op.Label)
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	next := c.Label.With(lang, label)
	if next.Empty() {
		return Refusef("A concept needs at least one word. To take it off the map, delete it.")
	}
	first := c.Label.Empty()
	c.Label = next
	if first && d.placer != nil {
		// Its slip grows with its first words and must not cover a neighbour.
		c.At = roundPoint(d.placer.Free(d.m, c))
	}
	d.putConcept(c)
	return nil
}

// Remove takes concepts and links off the map. With a concept go its ends of
// links, and each link that has no end left on one side. Stops stay.
type Remove struct {
	Concepts []ID `json:"concepts,omitempty"`
	Links    []ID `json:"links,omitempty"`
}

func (op *Remove) apply(d *editing) error {
	for _, id := range op.Links {
		if _, err := d.link(id); err != nil {
			return err
		}
		d.dropLink(id)
	}
	gone := map[ID]bool{}
	for _, id := range op.Concepts {
		if d.m.Concepts[id] == nil {
			return Refusef("That concept is no longer on the map.")
		}
		gone[id] = true
	}
	isGone := func(e End) bool { return gone[e.Concept] }
	for _, id := range SortedIDs(d.m.Links) {
		l := d.m.Links[id]
		if !slices.ContainsFunc(l.From, isGone) && !slices.ContainsFunc(l.To, isGone) {
			continue
		}
		next := *l
		next.From = slices.DeleteFunc(slices.Clone(l.From), isGone)
		next.To = slices.DeleteFunc(slices.Clone(l.To), isGone)
		if len(next.From) == 0 || len(next.To) == 0 {
			d.dropLink(id)
		} else {
			d.putLink(&next)
		}
	}
	for _, id := range SortedIDs(gone) {
		d.dropConcept(id)
	}
	return nil
}

// MergeConcepts makes one concept of two that mean the same. Links, notes and
// stops of the one that goes pass to the one that stays; a link that would
// then say what another says already, or join the concept to itself, is
// dropped with a notice.
type MergeConcepts struct {
	Keep ID `json:"keep"`
	Gone ID `json:"gone"`
}

func (op *MergeConcepts) apply(d *editing) error {
	keep, err := d.concept(op.Keep)
	if err != nil {
		return err
	}
	gone, err := d.concept(op.Gone)
	if err != nil {
		return err
	}
	if op.Keep == op.Gone {
		return Refusef("A concept cannot be merged with itself.")
	}
	if d.m.KindOf(keep) == nil {
		keep.Kind = gone.Kind
	}
	for _, id := range SortedIDs(gone.Tags) {
		keep.Tags = with(keep.Tags, id, true)
	}
	for _, icon := range gone.Icons {
		if !slices.Contains(keep.Icons, icon) && len(keep.Icons) < MaxIcons {
			keep.Icons = append(slices.Clone(keep.Icons), icon)
		}
	}
	keep.Amount, keep.Lasts, keep.When = cmp.Or(keep.Amount, gone.Amount), cmp.Or(keep.Lasts, gone.Lasts), cmp.Or(keep.When, gone.When)
	if keep.Task != nil && gone.Task != nil {
		d.notice("Both had a task; the one that is left is that of “" + d.m.Words(keep.Label) + "”.")
	}
	keep.NoteCard, keep.Task = cmp.Or(keep.NoteCard, gone.NoteCard), cmp.Or(keep.Task, gone.Task)
	if err := d.joinNotes(&keep.Note, gone.Note); err != nil {
		return err
	}
	if err := d.joinRemarks(keep, gone.Remark); err != nil {
		return err
	}
	keep.Votes = joinVotes(keep.Votes, gone.Votes)
	for _, id := range SortedIDs(gone.Sources) {
		own := id
		for n := 2; hasSource(keep.Sources, own); n++ {
			own = numbered(id, n)
		}
		if err := attach(keep, own, gone.Sources[id]); err != nil {
			return err
		}
	}
	if keep.Table == nil {
		keep.Table = gone.Table
	}
	if keep.Main == nil && op.Keep != d.m.Focus && op.Gone != d.m.Focus {
		keep.Main = gone.Main
	}
	d.putConcept(keep)
	d.recordMove(Moved{Kind: EntityConcept, Old: op.Gone, New: op.Keep})
	for _, id := range SortedIDs(d.m.Links) {
		d.redirect(id, op.Gone, op.Keep)
	}
	d.redirectRefs(Key{EntityConcept, op.Gone}, op.Keep)
	d.redirectRegions(op.Gone, op.Keep)
	if d.m.Focus == op.Gone {
		d.m.Focus = op.Keep
		d.putHeader()
	}
	d.dropConcept(op.Gone)
	return nil
}

// RankConcept puts a concept behind one of its siblings, or before all of them.
type RankConcept struct {
	Concept ID `json:"concept"`
	After   ID `json:"after,omitempty"` // empty: to the front
}

func (op *RankConcept) apply(d *editing) error {
	if _, was := d.meant[op.Concept]; was {
		return nil // it was there already, and stays where it is
	}
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.m.Parent(c)
	if parent == "" {
		return Refusef("Only a concept below another has a place among siblings.")
	}
	others := slices.DeleteFunc(d.m.siblings(parent), func(s *Concept) bool { return s.ID == c.ID })
	at := 0
	if op.After != "" {
		i := slices.IndexFunc(others, func(s *Concept) bool { return s.ID == op.After })
		if i < 0 {
			return Refusef("Those two concepts no longer stand below the same one.")
		}
		at = i + 1
	}
	low, high := "", ""
	if at > 0 {
		low = others[at-1].Rank()
	}
	if at < len(others) {
		high = others[at].Rank()
	}
	if high != "" && low >= high {
		// Two authors can leave equal ranks behind; give all of them anew.
		return d.rankAll(slices.Insert(others, at, c))
	}
	c.Main = &Main{c.Main.Strand, KeyBetween(low, high)}
	d.putConcept(c)
	return nil
}

// StepRank moves a concept some places later among its siblings, or earlier
// where the number is negative.
type StepRank struct {
	Concept ID  `json:"concept"`
	Step    int `json:"step"`
}

func (op *StepRank) apply(d *editing) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.m.Parent(c)
	if parent == "" {
		return Refusef("Only a concept below another has a place among siblings.")
	}
	all := d.m.siblings(parent)
	i := slices.IndexFunc(all, func(s *Concept) bool { return s.ID == c.ID })
	to := max(0, min(len(all)-1, i+max(-len(all), min(len(all), op.Step))))
	switch {
	case to == i && op.Step < 0:
		return Refusef("It is the first of its siblings already.")
	case to == i:
		return Refusef("It is the last of its siblings already.")
	}
	rank := RankConcept{Concept: c.ID}
	if others := slices.Delete(slices.Clone(all), i, i+1); to > 0 {
		rank.After = others[to-1].ID
	}
	return rank.apply(d)
}

func (d *editing) rankAll(order []*Concept) error {
	rank := ""
	for _, c := range order {
		next := *c
		rank = KeyBetween(rank, "")
		next.Main = &Main{c.Main.Strand, rank}
		d.putConcept(&next)
	}
	return nil
}

// SetFocus chooses the concept from which levels are counted. The tree that it
// stands in then hangs from it: the main strands on its way up turn round.
type SetFocus struct {
	Concept ID `json:"concept"`
}

func (op *SetFocus) apply(d *editing) error {
	if _, err := d.concept(op.Concept); err != nil {
		return err
	}
	d.m.Focus = op.Concept
	d.putHeader()
	d.turnTowards(op.Concept)
	return nil
}

// SetMain chooses another main strand for a concept.
type SetMain struct {
	Concept ID     `json:"concept"`
	Strand  Strand `json:"strand"`
}

func (op *SetMain) apply(d *editing) error {
	if _, err := d.concept(op.Concept); err != nil {
		return err
	}
	from, to, ok := d.m.Between(op.Strand)
	parent := from
	if from == op.Concept {
		parent = to
	} else if to != op.Concept {
		ok = false
	}
	switch {
	case !ok || parent == op.Concept:
		return Refusef("That link does not join this concept to another one any more.")
	case op.Concept == d.m.Focus:
		return Refusef("The focus concept stands at the top; nothing is above it.")
	case d.under(parent, op.Concept):
		return Refusef("That would put the concept below itself.")
	}
	d.setMain(op.Concept, parent, op.Strand)
	return nil
}

// lang gives the language meant: the map's own where none is named.
func (d *editing) lang(l Lang) (Lang, error) {
	if l == "" {
		return d.m.Language, nil
	}
	if !l.Valid() {
		return "", Refusef("That is not the name of a language.")
	}
	return l, nil
}

func place(p Point) (Point, error) {
	if !(math.Abs(p.X) <= FarthestPlace && math.Abs(p.Y) <= FarthestPlace) {
		return p, Refusef("That place is too far off the paper.")
	}
	return roundPoint(p), nil
}

// roundPoint keeps places to a quarter of a pixel: finer is not seen, and
// documents stay readable.
func roundPoint(p Point) Point {
	return Point{math.Round(p.X*4)/4 + 0, math.Round(p.Y*4)/4 + 0}
}

func compareLangs(a, b Lang) int {
	if a < b {
		return -1
	} else if a > b {
		return 1
	}
	return 0
}

package edit

import (
	"cmp"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"slices"
)

// AddConcept puts a new idea on the paper, with or without words.
type AddConcept struct {
	ID    cm.ID    `json:"id"`
	Lang  cm.Lang  `json:"lang,omitempty"` // the map's own where empty
	Label string   `json:"label,omitempty"`
	At    cm.Point `json:"at"`
	// MakeRoom lets the concept stand beside At where At is taken.
	MakeRoom bool `json:"makeRoom,omitempty"`
	// Hand says that the place was chosen by hand: kept in order, the rest flows
	// around it.
	Hand bool `json:"hand,omitempty"`
	// Reuse makes nothing where a concept with this label is on the map already:
	// what follows in the same entry means that one, and the outcome's Moved
	// tells so.
	Reuse bool `json:"reuse,omitempty"`
	// Shorten keeps of words that are too long those that there is room for, and adds
	// all of them to the note.
	Shorten bool `json:"shorten,omitempty"`
}

func (op *AddConcept) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	kept, whole := fitted(op.Label, cm.MaxLabel, op.Shorten)
	label, err := cm.CleanLabel(kept)
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	at, err := cm.CleanPoint(op.At)
	if err != nil {
		return err
	}
	if op.Reuse {
		if c := d.Map.Find(label); c != nil {
			d.meant[op.ID] = c.ID
			d.RecordMove(draft.Moved{Kind: cm.EntityConcept, Old: op.ID, New: c.ID})
			return nil
		}
	}
	c := &cm.Concept{ID: op.ID, Label: cm.Text(nil).With(lang, label), At: at}
	if op.MakeRoom && d.placer != nil {
		c.At = cm.RoundPoint(d.placer.Free(d.Map, c))
	}
	if op.Hand {
		c.Hold = cm.HoldHand
	} else if op.MakeRoom {
		d.fresh = append(d.fresh, op.ID)
	}
	d.Put(c)
	return d.keepWhole(cm.Key{Kind: cm.EntityConcept, ID: op.ID}, lang, whole)
}

// NameConcept gives a concept its words in one language.
type NameConcept struct {
	Concept cm.ID   `json:"concept"`
	Lang    cm.Lang `json:"lang,omitempty"`
	Label   string  `json:"label"`
	// Shorten is as for AddConcept.
	Shorten bool `json:"shorten,omitempty"`
}

func (op *NameConcept) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	kept, whole := fitted(op.Label, cm.MaxLabel, op.Shorten)
	label, err := cm.CleanLabel(kept)
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	next := c.Label.With(lang, label)
	if next.Empty() {
		return cm.Refusef("A concept needs at least one word. To take it off the map, delete it.")
	}
	first := c.Label.Empty()
	c.Label = next
	if first && d.placer != nil {
		// Its slip grows with its first words and must not cover a neighbour.
		c.At = cm.RoundPoint(d.placer.Free(d.Map, c))
	}
	d.Put(c)
	return d.keepWhole(cm.Key{Kind: cm.EntityConcept, ID: op.Concept}, lang, whole)
}

// Remove takes concepts and links off the map. With a concept go its ends of
// links, and each link that has no end left on one side. Stops stay.
type Remove struct {
	Concepts []cm.ID `json:"concepts,omitempty"`
	Links    []cm.ID `json:"links,omitempty"`
}

func (op *Remove) apply(d *editing) error {
	for _, id := range op.Links {
		if _, err := d.Link(id); err != nil {
			return err
		}
		d.DropLink(id)
	}
	gone := map[cm.ID]bool{}
	for _, id := range op.Concepts {
		if d.Map.Concepts[id] == nil {
			return cm.Refusef("That concept is no longer on the map.")
		}
		gone[id] = true
	}
	isGone := func(e cm.End) bool { return gone[e.Concept] }
	for _, id := range cm.SortedIDs(d.Map.Links) {
		l := d.Map.Links[id]
		if !slices.ContainsFunc(l.From, isGone) && !slices.ContainsFunc(l.To, isGone) {
			continue
		}
		next := *l
		next.From = slices.DeleteFunc(slices.Clone(l.From), isGone)
		next.To = slices.DeleteFunc(slices.Clone(l.To), isGone)
		if len(next.From) == 0 || len(next.To) == 0 {
			d.DropLink(id)
		} else {
			d.Put(&next)
		}
	}
	for _, id := range cm.SortedIDs(gone) {
		d.DropConcept(id)
	}
	return nil
}

// MergeConcepts makes one concept of two that mean the same. Links, notes and
// stops of the one that goes pass to the one that stays; a link that would
// then say what another says already, or join the concept to itself, is
// dropped with a notice.
type MergeConcepts struct {
	Keep cm.ID `json:"keep"`
	Gone cm.ID `json:"gone"`
}

func (op *MergeConcepts) apply(d *editing) error {
	keep, err := d.Concept(op.Keep)
	if err != nil {
		return err
	}
	gone, err := d.Concept(op.Gone)
	if err != nil {
		return err
	}
	if op.Keep == op.Gone {
		return cm.Refusef("A concept cannot be merged with itself.")
	}
	if d.Map.KindOf(keep) == nil {
		keep.Kind = gone.Kind
	}
	for _, id := range cm.SortedIDs(gone.Tags) {
		keep.Tags = cm.WithMember(keep.Tags, id, true)
	}
	for _, icon := range gone.Icons {
		if !slices.Contains(keep.Icons, icon) && len(keep.Icons) < cm.MaxIcons {
			keep.Icons = append(slices.Clone(keep.Icons), icon)
		}
	}
	keep.Amount, keep.Lasts, keep.When = cmp.Or(keep.Amount, gone.Amount), cmp.Or(keep.Lasts, gone.Lasts), cmp.Or(keep.When, gone.When)
	if keep.Task != nil && gone.Task != nil {
		d.Notice("Both had a task; the one that is left is that of “%s”.", d.Map.Words(keep.Label))
	}
	keep.NoteCard, keep.Task = cmp.Or(keep.NoteCard, gone.NoteCard), cmp.Or(keep.Task, gone.Task)
	if err := d.joinNotes(&keep.Note, gone.Note); err != nil {
		return err
	}
	if err := d.joinRemarks(keep, gone.Remark); err != nil {
		return err
	}
	keep.Votes = joinVotes(keep.Votes, gone.Votes)
	for _, id := range cm.SortedIDs(gone.Sources) {
		own := id
		for n := 2; cm.HasSource(keep.Sources, own); n++ {
			own = cm.Numbered(id, n)
		}
		if err := attach(keep, own, gone.Sources[id]); err != nil {
			return err
		}
	}
	if keep.Table == nil {
		keep.Table = gone.Table
	}
	if keep.Main == nil && op.Keep != d.Map.Focus && op.Gone != d.Map.Focus {
		keep.Main = gone.Main
	}
	d.Put(keep)
	d.RecordMove(draft.Moved{Kind: cm.EntityConcept, Old: op.Gone, New: op.Keep})
	for _, id := range cm.SortedIDs(d.Map.Links) {
		d.redirect(id, op.Gone, op.Keep)
	}
	d.redirectRefs(cm.Key{Kind: cm.EntityConcept, ID: op.Gone}, op.Keep)
	d.redirectRegions(op.Gone, op.Keep)
	if d.Map.Focus == op.Gone {
		d.Map.Focus = op.Keep
		d.TouchHeader()
	}
	d.DropConcept(op.Gone)
	return nil
}

// RankConcept puts a concept behind one of its siblings, or before all of them.
type RankConcept struct {
	Concept cm.ID `json:"concept"`
	After   cm.ID `json:"after,omitempty"` // empty: to the front
}

func (op *RankConcept) apply(d *editing) error {
	if err := op.rank(d); err != nil {
		return err
	}
	return d.ordered(op.Concept)
}

// ordered notes that the siblings of a concept were put in order.
func (d *editing) ordered(id cm.ID) error {
	c := d.Map.Concepts[id]
	if c == nil || d.Map.Parent(c) == "" {
		return nil
	}
	return (&KeepOrder{Concepts: []cm.ID{d.Map.Parent(c)}, On: true}).apply(d)
}

// KeepOrder says of concepts that what hangs from them keeps its order, or may change places
// where the map lets siblings do so.
type KeepOrder struct {
	Concepts []cm.ID `json:"concepts"`
	On       bool    `json:"on"`
}

func (op *KeepOrder) apply(d *editing) error {
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if c.Ordered != op.On {
			c.Ordered = op.On
			d.Put(c)
		}
	}
	return nil
}

// rank gives a concept its place among its siblings.
func (op *RankConcept) rank(d *editing) error {
	if _, was := d.meant[op.Concept]; was {
		return nil // it was there already, and stays where it is
	}
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.Map.Parent(c)
	if parent == "" {
		return cm.Refusef("Only a concept below another has a place among siblings.")
	}
	others := slices.DeleteFunc(d.Map.Siblings(parent), func(s *cm.Concept) bool { return s.ID == c.ID })
	at := 0
	if op.After != "" {
		i := slices.IndexFunc(others, func(s *cm.Concept) bool { return s.ID == op.After })
		if i < 0 {
			return cm.Refusef("Those two concepts no longer stand below the same one.")
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
	c.Main = &cm.Main{Strand: c.Main.Strand, Rank: cm.KeyBetween(low, high)}
	d.Put(c)
	return nil
}

// StepRank moves a concept some places later among its siblings, or earlier
// where the number is negative.
type StepRank struct {
	Concept cm.ID `json:"concept"`
	Step    int   `json:"step"`
}

func (op *StepRank) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	parent := d.Map.Parent(c)
	if parent == "" {
		return cm.Refusef("Only a concept below another has a place among siblings.")
	}
	all := d.Map.Siblings(parent)
	i := slices.IndexFunc(all, func(s *cm.Concept) bool { return s.ID == c.ID })
	to := max(0, min(len(all)-1, i+max(-len(all), min(len(all), op.Step))))
	switch {
	case to == i && op.Step < 0:
		return cm.Refusef("It is the first of its siblings already.")
	case to == i:
		return cm.Refusef("It is the last of its siblings already.")
	}
	rank := RankConcept{Concept: c.ID}
	if others := slices.Delete(slices.Clone(all), i, i+1); to > 0 {
		rank.After = others[to-1].ID
	}
	return rank.apply(d)
}

func (d *editing) rankAll(order []*cm.Concept) error {
	rank := ""
	for _, c := range order {
		next := *c
		rank = cm.KeyBetween(rank, "")
		next.Main = &cm.Main{Strand: c.Main.Strand, Rank: rank}
		d.Put(&next)
	}
	return nil
}

// SetFocus chooses the concept from which levels are counted. The tree that it
// stands in then hangs from it: the main strands on its way up turn round.
type SetFocus struct {
	Concept cm.ID `json:"concept"`
}

func (op *SetFocus) apply(d *editing) error {
	if _, err := d.Concept(op.Concept); err != nil {
		return err
	}
	d.Map.Focus = op.Concept
	d.TouchHeader()
	d.TurnTowards(op.Concept)
	return nil
}

// SetMain chooses another main strand for a concept.
type SetMain struct {
	Concept cm.ID     `json:"concept"`
	Strand  cm.Strand `json:"strand"`
}

func (op *SetMain) apply(d *editing) error {
	if _, err := d.Concept(op.Concept); err != nil {
		return err
	}
	from, to, ok := d.Map.Between(op.Strand)
	parent := from
	if from == op.Concept {
		parent = to
	} else if to != op.Concept {
		ok = false
	}
	switch {
	case !ok || parent == op.Concept:
		return cm.Refusef("That link does not join this concept to another one any more.")
	case op.Concept == d.Map.Focus:
		return cm.Refusef("The focus concept stands at the top; nothing is above it.")
	case d.Under(parent, op.Concept):
		return cm.Refusef("That would put the concept below itself.")
	}
	d.SetMain(op.Concept, parent, op.Strand)
	return nil
}

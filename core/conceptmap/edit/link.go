package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"slices"
)

// AddLink joins concepts by a new link, with or without a phrase.
type AddLink struct {
	ID     cm.ID    `json:"id"`
	From   []cm.End `json:"from"`
	To     []cm.End `json:"to"`
	Heads  cm.Heads `json:"heads,omitempty"` // HeadsOne where empty
	Lang   cm.Lang  `json:"lang,omitempty"`
	Phrase string   `json:"phrase,omitempty"`
	// Shorten is as for AddConcept.
	Shorten bool `json:"shorten,omitempty"`
}

func (op *AddLink) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	kept, whole := fitted(op.Phrase, cm.MaxPhrase, op.Shorten)
	phrase, err := cm.Clean(kept, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	l := &cm.Link{
		ID: op.ID, Phrase: cm.Text(nil).With(lang, phrase), Heads: op.Heads,
		From: cm.SortEnds(d.asMeant(op.From)), To: cm.SortEnds(d.asMeant(op.To)),
	}
	if l.Heads == "" {
		l.Heads = cm.HeadsOne
	}
	if err := d.CheckLink(l); err != nil {
		return err
	}
	d.Put(l)
	for _, s := range l.Strands() {
		d.Join(s)
	}
	return d.keepWhole(cm.Key{Kind: cm.EntityLink, ID: op.ID}, lang, whole)
}

// asMeant leads ends at new concepts to those that stand for them.
func (d *editing) asMeant(ends []cm.End) []cm.End {
	ends = slices.Clone(ends)
	for i, e := range ends {
		if c, ok := d.meant[e.Concept]; ok {
			ends[i].Concept = c
		}
	}
	return ends
}

// NameLink gives a link its phrase in one language; empty words leave the
// link open, waiting for some.
type NameLink struct {
	Link   cm.ID   `json:"link"`
	Lang   cm.Lang `json:"lang,omitempty"`
	Phrase string  `json:"phrase"`
	// Shorten is as for AddConcept.
	Shorten bool `json:"shorten,omitempty"`
}

func (op *NameLink) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	kept, whole := fitted(op.Phrase, cm.MaxPhrase, op.Shorten)
	phrase, err := cm.Clean(kept, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	l.Phrase = l.Phrase.With(lang, phrase)
	d.Put(l)
	return d.keepWhole(cm.Key{Kind: cm.EntityLink, ID: op.Link}, lang, whole)
}

// SetHeads says at which ends of a link its arrowheads stand.
type SetHeads struct {
	Link  cm.ID    `json:"link"`
	Heads cm.Heads `json:"heads"`
}

func (op *SetHeads) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	if !op.Heads.Valid() {
		return cm.Refusef("An arrow points one way, both ways or none.")
	}
	l.Heads = op.Heads
	d.Put(l)
	return nil
}

// ReverseLink turns a link round. Its ends keep their ids, so that what is
// said of a strand stays with it; main strands run the other way with it.
type ReverseLink struct {
	Link cm.ID `json:"link"`
}

func (op *ReverseLink) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	l.From, l.To = l.To, l.From
	if l.Along != 0 {
		l.Along = 1 - l.Along
	}
	d.Put(l)
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		if c := d.Map.Concepts[id]; c.Main != nil && c.Main.Link == op.Link {
			next := *c
			next.Main = &cm.Main{Strand: cm.Strand{Link: op.Link, From: c.Main.To, To: c.Main.From}, Rank: c.Main.Rank}
			d.Put(&next)
		}
	}
	return nil
}

// AddEnd lets one more concept share a phrase, on one side of its link.
type AddEnd struct {
	Link cm.ID   `json:"link"`
	Side cm.Side `json:"side"`
	End  cm.End  `json:"end"`
}

func (op *AddEnd) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	ends, err := l.EndsAt(op.Side)
	if err != nil {
		return err
	}
	*ends = cm.SortEnds(append(*ends, d.asMeant([]cm.End{op.End})...))
	if err := d.CheckLink(l); err != nil {
		return err
	}
	d.Put(l)
	d.joinEnd(l, op.End.ID)
	return nil
}

func (d *editing) joinEnd(l *cm.Link, end cm.ID) {
	for _, s := range l.Strands() {
		if s.From == end || s.To == end {
			d.Join(s)
		}
	}
}

// RemoveEnd takes one concept off a phrase. The last end of a side stays:
// without it there would be no link.
type RemoveEnd struct {
	Link cm.ID `json:"link"`
	End  cm.ID `json:"end"`
}

func (op *RemoveEnd) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	is := func(e cm.End) bool { return e.ID == op.End }
	from, to := len(l.From), len(l.To)
	l.From = slices.DeleteFunc(l.From, is)
	l.To = slices.DeleteFunc(l.To, is)
	if len(l.From) == from && len(l.To) == to {
		return cm.Refusef("That end of the link is gone already.")
	}
	if len(l.From) == 0 || len(l.To) == 0 {
		return cm.Refusef("A link needs a concept at both of its ends. Delete the link instead.")
	}
	d.Put(l)
	d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: l.ID, Old: op.End})
	return nil
}

// MoveEnd leads one end of a link to another concept. It gets a new id, since
// the propositions that it makes are others; the mapping is recorded.
type MoveEnd struct {
	Link cm.ID  `json:"link"`
	Old  cm.ID  `json:"old"`
	End  cm.End `json:"end"`
}

func (op *MoveEnd) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	ends := &l.From
	i := cm.FindEnd(l.From, op.Old)
	if i < 0 {
		ends = &l.To
		if i = cm.FindEnd(l.To, op.Old); i < 0 {
			return cm.Refusef("That end of the link is gone already.")
		}
	}
	(*ends)[i] = d.asMeant([]cm.End{op.End})[0]
	*ends = cm.SortEnds(*ends)
	if err := d.CheckLink(l); err != nil {
		return err
	}
	d.Put(l)
	d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: l.ID, Old: op.Old, NewLink: l.ID, New: op.End.ID})
	d.MendHierarchy()
	d.joinEnd(l, op.End.ID)
	return nil
}

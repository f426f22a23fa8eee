package conceptmap

import "slices"

// MaxEnds bounds the ends of a link on each side.
const MaxEnds = 60

// AddLink joins concepts by a new link, with or without a phrase.
type AddLink struct {
	ID     ID     `json:"id"`
	From   []End  `json:"from"`
	To     []End  `json:"to"`
	Heads  Heads  `json:"heads,omitempty"` // HeadsOne where empty
	Lang   Lang   `json:"lang,omitempty"`
	Phrase string `json:"phrase,omitempty"`
}

func (op *AddLink) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	phrase, err := Clean(op.Phrase, MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	l := &Link{
		ID: op.ID, Phrase: Text(nil).With(lang, phrase), Heads: op.Heads,
		From: sortEnds(d.asMeant(op.From)), To: sortEnds(d.asMeant(op.To)),
	}
	if l.Heads == "" {
		l.Heads = HeadsOne
	}
	if err := d.sound(l); err != nil {
		return err
	}
	d.putLink(l)
	for _, s := range l.Strands() {
		d.join(s)
	}
	return nil
}

// asMeant leads ends at new concepts to those that stand for them.
func (d *editing) asMeant(ends []End) []End {
	ends = slices.Clone(ends)
	for i, e := range ends {
		if c, ok := d.meant[e.Concept]; ok {
			ends[i].Concept = c
		}
	}
	return ends
}

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
	return l.ledSoundly()
}

func (h Heads) Valid() bool { return h == HeadsOne || h == HeadsBoth || h == HeadsNone }

// NameLink gives a link its phrase in one language; empty words leave the
// link open, waiting for some.
type NameLink struct {
	Link   ID     `json:"link"`
	Lang   Lang   `json:"lang,omitempty"`
	Phrase string `json:"phrase"`
}

func (op *NameLink) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	phrase, err := Clean(op.Phrase, MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	l.Phrase = l.Phrase.With(lang, phrase)
	d.putLink(l)
	return nil
}

// SetHeads says at which ends of a link its arrowheads stand.
type SetHeads struct {
	Link  ID    `json:"link"`
	Heads Heads `json:"heads"`
}

func (op *SetHeads) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	if !op.Heads.Valid() {
		return Refusef("An arrow points one way, both ways or none.")
	}
	l.Heads = op.Heads
	d.putLink(l)
	return nil
}

// ReverseLink turns a link round. Its ends keep their ids, so that what is
// said of a strand stays with it; main strands run the other way with it.
type ReverseLink struct {
	Link ID `json:"link"`
}

func (op *ReverseLink) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	l.From, l.To = l.To, l.From
	if l.Along != 0 {
		l.Along = 1 - l.Along
	}
	d.putLink(l)
	for _, id := range SortedIDs(d.m.Concepts) {
		if c := d.m.Concepts[id]; c.Main != nil && c.Main.Link == op.Link {
			next := *c
			next.Main = &Main{Strand{Link: op.Link, From: c.Main.To, To: c.Main.From}, c.Main.Rank}
			d.putConcept(&next)
		}
	}
	return nil
}

// Side names the two sides of a link.
type Side string

// The two sides of a link.
const (
	SideFrom Side = "from"
	SideTo   Side = "to"
)

func (l *Link) side(s Side) (*[]End, error) {
	switch s {
	case SideFrom:
		return &l.From, nil
	case SideTo:
		return &l.To, nil
	}
	return nil, Refusef("A link has two sides: from and to.")
}

// AddEnd lets one more concept share a phrase, on one side of its link.
type AddEnd struct {
	Link ID   `json:"link"`
	Side Side `json:"side"`
	End  End  `json:"end"`
}

func (op *AddEnd) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	ends, err := l.side(op.Side)
	if err != nil {
		return err
	}
	*ends = sortEnds(append(*ends, d.asMeant([]End{op.End})...))
	if err := d.sound(l); err != nil {
		return err
	}
	d.putLink(l)
	d.joinEnd(l, op.End.ID)
	return nil
}

func (d *editing) joinEnd(l *Link, end ID) {
	for _, s := range l.Strands() {
		if s.From == end || s.To == end {
			d.join(s)
		}
	}
}

// RemoveEnd takes one concept off a phrase. The last end of a side stays:
// without it there would be no link.
type RemoveEnd struct {
	Link ID `json:"link"`
	End  ID `json:"end"`
}

func (op *RemoveEnd) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	is := func(e End) bool { return e.ID == op.End }
	from, to := len(l.From), len(l.To)
	l.From = slices.DeleteFunc(l.From, is)
	l.To = slices.DeleteFunc(l.To, is)
	if len(l.From) == from && len(l.To) == to {
		return Refusef("That end of the link is gone already.")
	}
	if len(l.From) == 0 || len(l.To) == 0 {
		return Refusef("A link needs a concept at both of its ends. Delete the link instead.")
	}
	d.putLink(l)
	d.recordMove(Moved{Kind: EntityLink, OldLink: l.ID, Old: op.End})
	return nil
}

// MoveEnd leads one end of a link to another concept. It gets a new id, since
// the propositions that it makes are others; the mapping is recorded.
type MoveEnd struct {
	Link ID  `json:"link"`
	Old  ID  `json:"old"`
	End  End `json:"end"`
}

func (op *MoveEnd) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	ends := &l.From
	i := findEnd(l.From, op.Old)
	if i < 0 {
		ends = &l.To
		if i = findEnd(l.To, op.Old); i < 0 {
			return Refusef("That end of the link is gone already.")
		}
	}
	(*ends)[i] = d.asMeant([]End{op.End})[0]
	*ends = sortEnds(*ends)
	if err := d.sound(l); err != nil {
		return err
	}
	d.putLink(l)
	d.recordMove(Moved{Kind: EntityLink, OldLink: l.ID, Old: op.Old, NewLink: l.ID, New: op.End.ID})
	d.settle()
	d.joinEnd(l, op.End.ID)
	return nil
}

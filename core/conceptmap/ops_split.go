package conceptmap

import (
	"maps"
	"slices"
)

// SplitEnd gives one end of a phrase a link of its own, with the same words in
// all languages, heads and note. The map says the same as before: what hangs by
// that end follows it.
type SplitEnd struct {
	Link ID `json:"link"`
	End  ID `json:"end"`
	New  ID `json:"new"` // names the new link
}

func (op *SplitEnd) apply(d *editing) error {
	if err := d.free(op.New); err != nil {
		return err
	}
	rest, err := d.link(op.Link)
	if err != nil {
		return err
	}
	own := *rest
	own.ID, own.From, own.To = op.New, slices.Clone(rest.From), slices.Clone(rest.To)
	own.Hub, own.Along = nil, 0
	kept, taken := &rest.To, &own.To
	at := findEnd(rest.To, op.End)
	if at < 0 {
		kept, taken = &rest.From, &own.From
		if at = findEnd(rest.From, op.End); at < 0 {
			return Refusef("That end of the link is gone already.")
		}
	}
	if len(*kept) == 1 {
		return Refusef("It is the only one on its side: the link is its own already.")
	}
	// Ends are named within their link, so both links may use the same names.
	*taken = []End{(*kept)[at]}
	*kept = slices.Delete(*kept, at, at+1)
	d.putLink(rest)
	d.putLink(&own)
	d.recordMove(Moved{Kind: EntityLink, OldLink: op.Link, Old: op.End, NewLink: op.New, New: op.End})
	for _, id := range SortedIDs(d.m.Concepts) {
		c := d.m.Concepts[id]
		if c.Main == nil || c.Main.Link != op.Link || (c.Main.From != op.End && c.Main.To != op.End) {
			continue
		}
		next := *c
		next.Main = &Main{Strand{op.New, c.Main.From, c.Main.To}, c.Main.Rank}
		d.putConcept(&next)
	}
	return nil
}

// EndAt names an end of a link.
type EndAt struct {
	Link ID `json:"link"`
	End  ID `json:"end"`
}

// SplitConcept makes two concepts of one that turned out to mean two things:
// the ends that are named now end at the new one. They keep their ids. What
// hung from the concept by them hangs from the new one, which takes over the
// place in the hierarchy where the concept's own main strand went with them.
type SplitConcept struct {
	Concept ID      `json:"concept"`
	New     ID      `json:"new"`
	Lang    Lang    `json:"lang,omitempty"`
	Label   string  `json:"label"`
	At      Point   `json:"at"`
	Ends    []EndAt `json:"ends,omitempty"`
}

func (op *SplitConcept) apply(d *editing) error {
	if _, err := d.concept(op.Concept); err != nil {
		return err
	}
	add := AddConcept{ID: op.New, Lang: op.Lang, Label: op.Label, At: op.At, MakeRoom: true}
	if err := add.apply(d); err != nil {
		return err
	}
	if d.m.Concepts[op.New].Label.Empty() {
		return Refusef("The second concept needs words of its own.")
	}
	for _, at := range op.Ends {
		l, err := d.link(at.Link)
		if err != nil {
			return err
		}
		ends := l.From
		i := findEnd(ends, at.End)
		if i < 0 {
			ends = l.To
			i = findEnd(ends, at.End)
		}
		if i < 0 || ends[i].Concept != op.Concept {
			return Refusef("That end of the link is gone already.")
		}
		ends[i].Concept = op.New
		if err := d.sound(l); err != nil {
			return err
		}
		d.putLink(l)
	}
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	if c.Main != nil && d.m.Focus != op.Concept {
		// Its own end of its main strand went to the other one.
		if from, to, ok := d.m.Between(c.Main.Strand); ok && from != c.ID && to != c.ID && (from == op.New || to == op.New) {
			heir := *d.m.Concepts[op.New]
			heir.Main = c.Main
			d.putConcept(&heir)
			c.Main = nil
			d.putConcept(c)
		}
	}
	d.settle()
	for _, at := range op.Ends {
		d.joinEnd(d.m.Links[at.Link], at.End)
	}
	for _, id := range SortedIDs(d.m.Links) {
		l := d.m.Links[id]
		if d.m.Concepts[op.Concept].Main == nil && (hasConcept(l.From, op.Concept) || hasConcept(l.To, op.Concept)) {
			for _, s := range l.Strands() {
				d.join(s)
			}
		}
	}
	return nil
}

// SecondLink makes two links of one. A link that is read both ways becomes one
// each way, with the same words, so that they can come to differ. Beside any
// other a second one is put, without words as yet, between the same concepts.
type SecondLink struct {
	Link ID `json:"link"`
	New  ID `json:"new"`
}

func (op *SecondLink) apply(d *editing) error {
	if err := d.free(op.New); err != nil {
		return err
	}
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	second := &Link{ID: op.New, Heads: HeadsOne, From: slices.Clone(l.From), To: slices.Clone(l.To)}
	if l.Heads == HeadsBoth {
		l.Heads = HeadsOne
		d.putLink(l)
		second.Phrase, second.From, second.To = maps.Clone(l.Phrase), second.To, second.From
	}
	d.putLink(second)
	return nil
}

// InsertConcept puts a concept into the middle of a link: the phrase leads to
// it, and a new link from there to where the named end of the to-side led. What
// hung from the one side by that way goes on hanging there, below the new one.
type InsertConcept struct {
	Link    ID     `json:"link"`
	End     ID     `json:"end"` // of the to-side
	Concept ID     `json:"concept"`
	Lang    Lang   `json:"lang,omitempty"`
	Label   string `json:"label"`
	At      Point  `json:"at"`
	// Into names the end that leads to the new concept, New the link that leads
	// on, NewFrom and NewTo its ends.
	Into    ID     `json:"into"`
	New     ID     `json:"new"`
	NewFrom ID     `json:"newFrom"`
	NewTo   ID     `json:"newTo"`
	Phrase  string `json:"phrase,omitempty"` // of the new link
}

func (op *InsertConcept) apply(d *editing) error {
	l, err := d.link(op.Link)
	if err != nil {
		return err
	}
	at := findEnd(l.To, op.End)
	if at < 0 {
		return Refusef("That end of the link is gone already.")
	}
	beyond := l.To[at].Concept
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: op.Label, At: op.At, MakeRoom: true, Reuse: true}
	if err := add.apply(d); err != nil {
		return err
	}
	between := d.asMeant([]End{{op.Into, op.Concept}})[0]
	if between.Concept == beyond {
		return Refusef("That concept is at this end of the phrase already.")
	}
	link := AddLink{ID: op.New, From: []End{{op.NewFrom, between.Concept}}, To: []End{{op.NewTo, beyond}}, Lang: op.Lang, Phrase: op.Phrase, Heads: l.Heads}
	if err := link.apply(d); err != nil {
		return err
	}
	l.To = sortEnds(slices.Replace(l.To, at, at+1, between))
	l.Along = 0
	if err := d.sound(l); err != nil {
		return err
	}
	d.putLink(l)
	d.recordMove(Moved{Kind: EntityLink, OldLink: l.ID, Old: op.End, NewLink: l.ID, New: op.Into})
	d.hangBetween(op, beyond, between)
	d.settle()
	d.joinEnd(l, op.Into)
	for _, s := range d.m.Links[op.New].Strands() {
		d.join(s)
	}
	return nil
}

// hangBetween leads the main strands that ran through the end to the new
// concept: the one beyond hangs from it now, and what hung from the one beyond,
// against the arrow, hangs from it instead.
func (d *editing) hangBetween(op *InsertConcept, beyond ID, between End) {
	for _, id := range SortedIDs(d.m.Concepts) {
		c := d.m.Concepts[id]
		if c.Main == nil || c.Main.Link != op.Link || c.Main.To != op.End {
			continue
		}
		next := *c
		if id == beyond {
			next.Main = &Main{Strand{op.New, op.NewFrom, op.NewTo}, c.Main.Rank}
		} else {
			next.Main = &Main{Strand{op.Link, c.Main.From, between.ID}, c.Main.Rank}
		}
		d.putConcept(&next)
	}
}

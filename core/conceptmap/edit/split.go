package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"slices"
)

// SplitEnd gives one end of a phrase a link of its own, with the same words in
// all languages, heads and note. The map says the same as before: what hangs by
// that end follows it.
type SplitEnd struct {
	Link cm.ID `json:"link"`
	End  cm.ID `json:"end"`
	New  cm.ID `json:"new"` // names the new link
}

func (op *SplitEnd) apply(d *editing) error {
	if err := d.Free(op.New); err != nil {
		return err
	}
	rest, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	own := *rest
	own.ID, own.From, own.To = op.New, slices.Clone(rest.From), slices.Clone(rest.To)
	own.Hub, own.Along = nil, 0
	kept, taken := &rest.To, &own.To
	at := cm.FindEnd(rest.To, op.End)
	if at < 0 {
		kept, taken = &rest.From, &own.From
		if at = cm.FindEnd(rest.From, op.End); at < 0 {
			return cm.Refusef("That end of the link is gone already.")
		}
	}
	if len(*kept) == 1 {
		return cm.Refusef("It is the only one on its side: the link is its own already.")
	}
	// Ends are named within their link, so both links may use the same names.
	*taken = []cm.End{(*kept)[at]}
	*kept = slices.Delete(*kept, at, at+1)
	d.Put(rest)
	d.Put(&own)
	d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: op.Link, Old: op.End, NewLink: op.New, New: op.End})
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		c := d.Map.Concepts[id]
		if c.Main == nil || c.Main.Link != op.Link || (c.Main.From != op.End && c.Main.To != op.End) {
			continue
		}
		next := *c
		next.Main = &cm.Main{Strand: cm.Strand{Link: op.New, From: c.Main.From, To: c.Main.To}, Rank: c.Main.Rank}
		d.Put(&next)
	}
	return nil
}

// EndAt names an end of a link.
type EndAt struct {
	Link cm.ID `json:"link"`
	End  cm.ID `json:"end"`
}

// SplitConcept makes two concepts of one that turned out to mean two things:
// the ends that are named now end at the new one. They keep their ids. What
// hung from the concept by them hangs from the new one, which takes over the
// place in the hierarchy where the concept's own main strand went with them.
type SplitConcept struct {
	Concept cm.ID    `json:"concept"`
	New     cm.ID    `json:"new"`
	Lang    cm.Lang  `json:"lang,omitempty"`
	Label   string   `json:"label"`
	At      cm.Point `json:"at"`
	Ends    []EndAt  `json:"ends,omitempty"`
}

func (op *SplitConcept) apply(d *editing) error {
	if _, err := d.Concept(op.Concept); err != nil {
		return err
	}
	add := AddConcept{ID: op.New, Lang: op.Lang, Label: op.Label, At: op.At, MakeRoom: true}
	if err := add.apply(d); err != nil {
		return err
	}
	if d.Map.Concepts[op.New].Label.Empty() {
		return cm.Refusef("The second concept needs words of its own.")
	}
	for _, at := range op.Ends {
		l, err := d.Link(at.Link)
		if err != nil {
			return err
		}
		ends := l.From
		i := cm.FindEnd(ends, at.End)
		if i < 0 {
			ends = l.To
			i = cm.FindEnd(ends, at.End)
		}
		if i < 0 || ends[i].Concept != op.Concept {
			return cm.Refusef("That end of the link is gone already.")
		}
		ends[i].Concept = op.New
		if err := d.CheckLink(l); err != nil {
			return err
		}
		d.Put(l)
	}
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if c.Main != nil && d.Map.Focus != op.Concept {
		// Its own end of its main strand went to the other one.
		if from, to, ok := d.Map.Between(c.Main.Strand); ok && from != c.ID && to != c.ID && (from == op.New || to == op.New) {
			heir := *d.Map.Concepts[op.New]
			heir.Main = c.Main
			d.Put(&heir)
			c.Main = nil
			d.Put(c)
		}
	}
	d.MendHierarchy()
	for _, at := range op.Ends {
		d.joinEnd(d.Map.Links[at.Link], at.End)
	}
	for _, id := range cm.SortedIDs(d.Map.Links) {
		l := d.Map.Links[id]
		if d.Map.Concepts[op.Concept].Main == nil && (cm.HasConcept(l.From, op.Concept) || cm.HasConcept(l.To, op.Concept)) {
			for _, s := range l.Strands() {
				d.Join(s)
			}
		}
	}
	return nil
}

// SecondLink makes two links of one. A link that is read both ways becomes one
// each way, with the same words, so that they can come to differ. Beside any
// other a second one is put, without words as yet, between the same concepts.
type SecondLink struct {
	Link cm.ID `json:"link"`
	New  cm.ID `json:"new"`
}

func (op *SecondLink) apply(d *editing) error {
	if err := d.Free(op.New); err != nil {
		return err
	}
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	second := &cm.Link{ID: op.New, Heads: cm.HeadsOne, From: slices.Clone(l.From), To: slices.Clone(l.To)}
	if l.Heads == cm.HeadsBoth {
		l.Heads = cm.HeadsOne
		d.Put(l)
		second.Phrase, second.From, second.To = maps.Clone(l.Phrase), second.To, second.From
	}
	d.Put(second)
	return nil
}

// InsertConcept puts a concept into the middle of a link: the phrase leads to
// it, and a new link from there to where the named end of the to-side led. What
// hung from the one side by that way goes on hanging there, below the new one.
type InsertConcept struct {
	Link    cm.ID    `json:"link"`
	End     cm.ID    `json:"end"` // of the to-side
	Concept cm.ID    `json:"concept"`
	Lang    cm.Lang  `json:"lang,omitempty"`
	Label   string   `json:"label"`
	At      cm.Point `json:"at"`
	// Into names the end that leads to the new concept, New the link that leads
	// on, NewFrom and NewTo its ends.
	Into    cm.ID  `json:"into"`
	New     cm.ID  `json:"new"`
	NewFrom cm.ID  `json:"newFrom"`
	NewTo   cm.ID  `json:"newTo"`
	Phrase  string `json:"phrase,omitempty"` // of the new link
}

func (op *InsertConcept) apply(d *editing) error {
	l, err := d.Link(op.Link)
	if err != nil {
		return err
	}
	at := cm.FindEnd(l.To, op.End)
	if at < 0 {
		return cm.Refusef("That end of the link is gone already.")
	}
	beyond := l.To[at].Concept
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: op.Label, At: op.At, MakeRoom: true, Reuse: true}
	if err := add.apply(d); err != nil {
		return err
	}
	between := d.asMeant([]cm.End{{ID: op.Into, Concept: op.Concept}})[0]
	if between.Concept == beyond {
		return cm.Refusef("That concept is at this end of the phrase already.")
	}
	link := AddLink{ID: op.New, From: []cm.End{{ID: op.NewFrom, Concept: between.Concept}}, To: []cm.End{{ID: op.NewTo, Concept: beyond}}, Lang: op.Lang, Phrase: op.Phrase, Heads: l.Heads}
	if err := link.apply(d); err != nil {
		return err
	}
	l.To = cm.SortEnds(slices.Replace(l.To, at, at+1, between))
	l.Along = 0
	if err := d.CheckLink(l); err != nil {
		return err
	}
	d.Put(l)
	d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: l.ID, Old: op.End, NewLink: l.ID, New: op.Into})
	d.hangBetween(op, beyond, between)
	d.MendHierarchy()
	d.joinEnd(l, op.Into)
	for _, s := range d.Map.Links[op.New].Strands() {
		d.Join(s)
	}
	return nil
}

// hangBetween leads the main strands that ran through the end to the new
// concept: the one beyond hangs from it now, and what hung from the one beyond,
// against the arrow, hangs from it instead.
func (d *editing) hangBetween(op *InsertConcept, beyond cm.ID, between cm.End) {
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		c := d.Map.Concepts[id]
		if c.Main == nil || c.Main.Link != op.Link || c.Main.To != op.End {
			continue
		}
		next := *c
		if id == beyond {
			next.Main = &cm.Main{Strand: cm.Strand{Link: op.New, From: op.NewFrom, To: op.NewTo}, Rank: c.Main.Rank}
		} else {
			next.Main = &cm.Main{Strand: cm.Strand{Link: op.Link, From: c.Main.From, To: between.ID}, Rank: c.Main.Rank}
		}
		d.Put(&next)
	}
}

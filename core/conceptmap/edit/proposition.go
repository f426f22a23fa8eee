package edit

import (
	"regexp"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// PhraseBefore is the form of a line that holds a phrase before its concept, in the
// syntax that Go and JavaScript share: the phrase, and the label.
const PhraseBefore = `^\s*([^\s:][\s\S]*?)\s*:\s+(\S[\s\S]*?)\s*$`

var phraseBefore = regexp.MustCompile(PhraseBefore)

// SplitPhrase takes a line apart that may hold a phrase before its concept, set
// off by a colon and a space: "is given by: the clapper".
func SplitPhrase(line string) (phrase, label string) {
	if m := phraseBefore.FindStringSubmatch(line); m != nil {
		return m[1], m[2]
	}
	return "", strings.TrimSpace(line)
}

// AddIdea puts down an idea as it was typed: loose, or linked from the concept that
// is being fed, by the phrase before it if there is one. Ideas without a phrase
// share one open link, which asks for its words once for all of them. An idea
// that the map has already is not doubled.
type AddIdea struct {
	Concept cm.ID    `json:"concept"` // for the idea, if it is new
	Words   string   `json:"words"`
	Lang    cm.Lang  `json:"lang,omitempty"`
	At      cm.Point `json:"at"`
	// Under is the concept that is fed, or empty; Link, Own and Above are names
	// for the link to it, and for its ends at the idea and at that concept.
	Under cm.ID `json:"under,omitempty"`
	Link  cm.ID `json:"link,omitempty"`
	Own   cm.ID `json:"own,omitempty"`
	Above cm.ID `json:"above,omitempty"`
}

func (op *AddIdea) apply(d *editing) error {
	phrase, label := "", op.Words
	if op.Under != "" {
		if _, err := d.Concept(op.Under); err != nil {
			return err
		}
		phrase, label = SplitPhrase(op.Words)
	}
	if strings.TrimSpace(label) == "" {
		return cm.Refusef("An idea needs at least one word.")
	}
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: label, At: op.At, MakeRoom: true, Reuse: true}
	if err := add.apply(d); err != nil {
		return err
	}
	if known, ok := d.meant[op.Concept]; ok {
		if op.Under == "" {
			d.Notice("“%s” is on the map already.", d.Map.Words(d.Map.Concepts[known].Label))
			return nil
		}
		if known == op.Under {
			return cm.Refusef("That is the idea itself that you are adding to.")
		}
	}
	if op.Under == "" {
		return nil
	}
	phrase, err := cm.Clean(phrase, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	from := []cm.End{{ID: op.Above, Concept: op.Under}}
	to := d.asMeant([]cm.End{{ID: op.Own, Concept: op.Concept}})
	return d.lead(op.Link, from, to, op.Lang, phrase)
}

// AddProposition states a proposition in words: a concept that the map has is used, one
// that it lacks is made. Where the first concept leads to others by the same
// phrase already, the new ones share it. What the map says already is refused.
type AddProposition struct {
	Link   cm.ID    `json:"link"`
	From   []Term   `json:"from"`
	Phrase string   `json:"phrase"`
	To     []Term   `json:"to"`
	Lang   cm.Lang  `json:"lang,omitempty"`
	At     cm.Point `json:"at"` // where the first concept goes if there is nothing to stand near
}

// Term is a concept by its words, with ids for what may have to be made.
type Term struct {
	Words   string `json:"words"`
	Concept cm.ID  `json:"concept"`
	End     cm.ID  `json:"end"`
}

// besideBy is how far below, and how far to the right of each other, concepts
// are wished to stand that a sentence makes, in pixels.
const (
	besideBy = 200
	belowBy  = 130
)

func (op *AddProposition) apply(d *editing) error {
	if len(op.From) == 0 || len(op.To) == 0 {
		return cm.Refusef("A sentence needs a concept at both ends.")
	}
	if len(op.From) > cm.MaxEnds || len(op.To) > cm.MaxEnds {
		return cm.Refusef("At most %d concepts can share one end of a phrase.", cm.MaxEnds)
	}
	near := op.At
	if c := op.firstKnown(d.Map, op.From); c != nil {
		near = cm.Point{X: c.At.X, Y: c.At.Y + belowBy}
	} else if c := op.firstKnown(d.Map, op.To); c != nil {
		near = cm.Point{X: c.At.X, Y: c.At.Y - belowBy}
	}
	from, err := op.ends(d, op.From, near)
	if err != nil {
		return err
	}
	if op.firstKnown(d.Base, op.From) == nil {
		near = d.Map.Concepts[from[0].Concept].At
		near.Y += belowBy
	}
	to, err := op.ends(d, op.To, near)
	if err != nil {
		return err
	}
	phrase, err := cm.Clean(op.Phrase, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	if d.Map.Focus == "" && len(d.Base.Concepts) == 0 { // the first sentence of a map
		d.Map.Focus = from[0].Concept
		d.TouchHeader()
		d.Notice("“%s” is the focus concept now: levels are counted from it. Another can be made it at any time.", d.Map.Words(d.Map.Concepts[from[0].Concept].Label))
	}
	// A sentence without words is one of its own: it need not mean what another
	// open one will.
	if phrase != "" {
		return d.lead(op.Link, from, to, op.Lang, phrase)
	}
	add := AddLink{ID: op.Link, From: from, To: to, Lang: op.Lang, Phrase: phrase}
	return add.apply(d)
}

func (op *AddProposition) firstKnown(m *cm.Map, terms []Term) *cm.Concept {
	for _, t := range terms {
		if c := m.Find(t.Words); c != nil {
			return c
		}
	}
	return nil
}

// ends finds or makes the concepts of one side. The same words twice are one
// concept.
func (op *AddProposition) ends(d *editing, terms []Term, near cm.Point) ([]cm.End, error) {
	var ends []cm.End
	for _, t := range terms {
		if strings.TrimSpace(t.Words) == "" {
			return nil, cm.Refusef("A sentence needs a concept at both ends.")
		}
		at := cm.Point{X: near.X + besideBy*float64(len(ends)), Y: near.Y}
		add := AddConcept{ID: t.Concept, Lang: op.Lang, Label: t.Words, At: at, MakeRoom: true, Reuse: true}
		if err := add.apply(d); err != nil {
			return nil, err
		}
		if end := d.asMeant([]cm.End{{ID: t.End, Concept: t.Concept}})[0]; !cm.HasConcept(ends, end.Concept) {
			ends = append(ends, end)
		}
	}
	return ends, nil
}

// lead leads concepts to others by a phrase: one that does so already, or a link of its
// own.
func (d *editing) lead(link cm.ID, from, to []cm.End, lang cm.Lang, phrase string) error {
	if done, err := d.share(from, to, phrase); done || err != nil {
		return err
	}
	return (&AddLink{ID: link, From: from, To: to, Lang: lang, Phrase: phrase}).apply(d)
}

// share adds the concepts at the end to a link that leads from the same ones
// by the same phrase, or by none as yet; done is false where there is none, or
// where it has no room left.
func (d *editing) share(from, to []cm.End, phrase string) (done bool, err error) {
	for _, id := range cm.SortedIDs(d.Map.Links) {
		l := d.Map.Links[id]
		if l.Heads != cm.HeadsOne || likeness.Fold(d.Map.Words(l.Phrase)) != likeness.Fold(phrase) || !cm.SameConcepts(l.From, from) {
			continue
		}
		missing := slices.DeleteFunc(slices.Clone(to), func(e cm.End) bool { return cm.HasConcept(l.To, e.Concept) })
		if len(missing) == 0 {
			return true, cm.Refusef("The map says that already.")
		}
		if len(l.To)+len(missing) > cm.MaxEnds {
			continue
		}
		for _, e := range missing {
			add := AddEnd{Link: id, Side: cm.SideTo, End: e}
			if err := add.apply(d); err != nil {
				return true, err
			}
		}
		return true, nil
	}
	return false, nil
}

// AddSibling puts an idea down beside a concept, below the same parent and right behind
// it. Where the phrase is that by which the concept hangs, the two share it; otherwise
// the idea shares another by which the parent leads to some, or hangs by a link of its own.
// An idea that the map has already is not doubled.
type AddSibling struct {
	Concept cm.ID   `json:"concept"` // for the idea, if it is new
	Lang    cm.Lang `json:"lang,omitempty"`
	Label   string  `json:"label"`
	Phrase  string  `json:"phrase,omitempty"`
	// Share asks for the phrase by which that concept hangs, whatever it says.
	Share  bool  `json:"share,omitempty"`
	Beside cm.ID `json:"beside"`
	// Shorten is as for AddConcept.
	Shorten bool `json:"shorten,omitempty"`
	// Ids for what may have to be made: a link, the idea's own end of it, and the end
	// at the parent.
	Link  cm.ID `json:"link"`
	Own   cm.ID `json:"own"`
	Above cm.ID `json:"above"`
}

// siblingBy is how far right of a concept its sibling is wished to stand, in pixels.
const siblingBy = 190

func (op *AddSibling) apply(d *editing) error {
	beside, err := d.Concept(op.Beside)
	if err != nil {
		return err
	}
	parent := d.Map.Parent(beside)
	if parent == "" {
		return cm.Refusef("Only a concept below another has a place among siblings.")
	}
	phrase, err := cm.Clean(op.Phrase, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	at := cm.Point{X: beside.At.X + siblingBy, Y: beside.At.Y}
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: op.Label, At: at, MakeRoom: true, Reuse: true, Shorten: op.Shorten}
	if err := add.apply(d); err != nil {
		return err
	}
	if d.meant[op.Concept] == parent {
		return cm.Refusef("That is the idea itself that you are adding to.")
	}
	hung := d.Map.Links[beside.Main.Link]
	own := cm.End{ID: op.Own, Concept: op.Concept}
	if op.Share || likeness.Fold(d.Map.Words(hung.Phrase)) == likeness.Fold(phrase) {
		side := cm.SideTo
		if cm.HasConcept(hung.From, op.Beside) {
			side = cm.SideFrom
		}
		err = (&AddEnd{Link: hung.ID, Side: side, End: own}).apply(d)
	} else {
		err = d.lead(op.Link, []cm.End{{ID: op.Above, Concept: parent}}, d.asMeant([]cm.End{own}), op.Lang, phrase)
	}
	if err != nil {
		return err
	}
	return (&RankConcept{Concept: op.Concept, After: op.Beside}).rank(d)
}

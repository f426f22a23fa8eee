package conceptmap

import (
	"slices"
	"strings"
)

// Fold gives a label as it is compared: letter case, and spaces beyond one
// between words, make no difference.
func Fold(label string) string {
	return strings.ToLower(strings.Join(strings.Fields(label), " "))
}

// Find gives the concept that a label names in the map's own words, whatever
// its case or spaces; of several the one with the least id. Nil where there is
// none.
func (m *Map) Find(label string) *Concept {
	want := Fold(label)
	if want == "" {
		return nil
	}
	var found *Concept
	for _, c := range m.Concepts {
		if Fold(m.Words(c.Label)) == want && (found == nil || c.ID < found.ID) {
			found = c
		}
	}
	return found
}

// AddProposition states a proposition in words: a concept that the map has is used, one
// that it lacks is made. Where the first concept leads to others by the same
// phrase already, the new ones share it. What the map says already is refused.
type AddProposition struct {
	Link   ID     `json:"link"`
	From   []Term `json:"from"`
	Phrase string `json:"phrase"`
	To     []Term `json:"to"`
	Lang   Lang   `json:"lang,omitempty"`
	At     Point  `json:"at"` // where the first concept goes if there is nothing to stand near
}

// Term is a concept by its words, with ids for what may have to be made.
type Term struct {
	Words   string `json:"words"`
	Concept ID     `json:"concept"`
	End     ID     `json:"end"`
}

// besideBy is how far below, and how far to the right of each other, concepts
// are wished to stand that a sentence makes, in pixels.
const (
	besideBy = 200
	belowBy  = 130
)

func (op *AddProposition) apply(d *editing) error {
	if len(op.From) == 0 || len(op.To) == 0 {
		return Refusef("A sentence needs a concept at both ends.")
	}
	if len(op.From) > MaxEnds || len(op.To) > MaxEnds {
		return Refusef("At most %d concepts can share one end of a phrase.", MaxEnds)
	}
	near := op.At
	if c := op.firstKnown(d.m, op.From); c != nil {
		near = Point{c.At.X, c.At.Y + belowBy}
	} else if c := op.firstKnown(d.m, op.To); c != nil {
		near = Point{c.At.X, c.At.Y - belowBy}
	}
	from, err := op.ends(d, op.From, near)
	if err != nil {
		return err
	}
	if op.firstKnown(d.base, op.From) == nil {
		near = d.m.Concepts[from[0].Concept].At
		near.Y += belowBy
	}
	to, err := op.ends(d, op.To, near)
	if err != nil {
		return err
	}
	phrase, err := Clean(op.Phrase, MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	// A sentence without words is one of its own: it need not mean what another
	// open one will.
	if phrase != "" {
		if done, err := d.share(from, to, phrase); done || err != nil {
			return err
		}
	}
	add := AddLink{ID: op.Link, From: from, To: to, Lang: op.Lang, Phrase: phrase}
	return add.apply(d)
}

func (op *AddProposition) firstKnown(m *Map, terms []Term) *Concept {
	for _, t := range terms {
		if c := m.Find(t.Words); c != nil {
			return c
		}
	}
	return nil
}

// ends finds or makes the concepts of one side. The same words twice are one
// concept.
func (op *AddProposition) ends(d *editing, terms []Term, near Point) ([]End, error) {
	var ends []End
	for _, t := range terms {
		if strings.TrimSpace(t.Words) == "" {
			return nil, Refusef("A sentence needs a concept at both ends.")
		}
		at := Point{near.X + besideBy*float64(len(ends)), near.Y}
		add := AddConcept{ID: t.Concept, Lang: op.Lang, Label: t.Words, At: at, MakeRoom: true, Reuse: true}
		if err := add.apply(d); err != nil {
			return nil, err
		}
		if end := d.asMeant([]End{{t.End, t.Concept}})[0]; !hasConcept(ends, end.Concept) {
			ends = append(ends, end)
		}
	}
	return ends, nil
}

// share adds the concepts at the end to a link that leads from the same ones
// by the same phrase, or by none as yet; done is false where there is none, or
// where it has no room left.
func (d *editing) share(from, to []End, phrase string) (done bool, err error) {
	for _, id := range SortedIDs(d.m.Links) {
		l := d.m.Links[id]
		if l.Heads != HeadsOne || Fold(d.m.Words(l.Phrase)) != Fold(phrase) || !sameConcepts(l.From, from) {
			continue
		}
		missing := slices.DeleteFunc(slices.Clone(to), func(e End) bool { return hasConcept(l.To, e.Concept) })
		if len(missing) == 0 {
			return true, Refusef("The map says that already.")
		}
		if len(l.To)+len(missing) > MaxEnds {
			continue
		}
		for _, e := range missing {
			add := AddEnd{Link: id, Side: SideTo, End: e}
			if err := add.apply(d); err != nil {
				return true, err
			}
		}
		return true, nil
	}
	return false, nil
}

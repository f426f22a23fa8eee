package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

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
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: op.Label, At: at, MakeRoom: true, Reuse: true}
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
	return (&RankConcept{Concept: op.Concept, After: op.Beside}).apply(d)
}

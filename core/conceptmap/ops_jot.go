package conceptmap

import "strings"

// SplitPhrase takes a line apart that may hold a phrase before its concept, set
// off by a colon and a space: "is given by: the clapper".
func SplitPhrase(line string) (phrase, label string) {
	line = strings.TrimSpace(line)
	if before, after, found := strings.Cut(line, ": "); found {
		before, after = strings.TrimSpace(before), strings.TrimSpace(after)
		if before != "" && after != "" {
			return before, after
		}
	}
	return "", line
}

// AddIdea puts down an idea as it was typed: loose, or linked from the concept that
// is being fed, by the phrase before it if there is one. Ideas without a phrase
// share one open link, which asks for its words once for all of them. An idea
// that the map has already is not doubled.
type AddIdea struct {
	Concept ID     `json:"concept"` // for the idea, if it is new
	Words   string `json:"words"`
	Lang    Lang   `json:"lang,omitempty"`
	At      Point  `json:"at"`
	// Under is the concept that is fed, or empty; Link, Own and Above are names
	// for the link to it, and for its ends at the idea and at that concept.
	Under ID `json:"under,omitempty"`
	Link  ID `json:"link,omitempty"`
	Own   ID `json:"own,omitempty"`
	Above ID `json:"above,omitempty"`
}

func (op *AddIdea) apply(d *editing) error {
	phrase, label := "", op.Words
	if op.Under != "" {
		if _, err := d.concept(op.Under); err != nil {
			return err
		}
		phrase, label = SplitPhrase(op.Words)
	}
	if strings.TrimSpace(label) == "" {
		return Refusef("An idea needs at least one word.")
	}
	add := AddConcept{ID: op.Concept, Lang: op.Lang, Label: label, At: op.At, MakeRoom: true, Reuse: true}
	if err := add.apply(d); err != nil {
		return err
	}
	if known, ok := d.meant[op.Concept]; ok {
		if op.Under == "" {
			d.notice("“" + d.m.Words(d.m.Concepts[known].Label) + "” is on the map already.")
			return nil
		}
		if known == op.Under {
			return Refusef("That is the idea itself that you are adding to.")
		}
	}
	if op.Under == "" {
		return nil
	}
	phrase, err := Clean(phrase, MaxPhrase, "A linking phrase")
	if err != nil {
		return err
	}
	from := []End{{op.Above, op.Under}}
	to := d.asMeant([]End{{op.Own, op.Concept}})
	if done, err := d.share(from, to, phrase); done || err != nil {
		return err
	}
	link := AddLink{ID: op.Link, From: from, To: to, Lang: op.Lang, Phrase: phrase}
	return link.apply(d)
}

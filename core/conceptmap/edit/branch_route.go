package edit

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// LeadOn says where one goes on from a stop: to the stop named by then, or, where it is empty, to the
// next on the list.
type LeadOn struct {
	Stop cm.ID `json:"stop"`
	Then cm.ID `json:"then,omitempty"`
}

func (op *LeadOn) apply(d *editing) error {
	s, err := d.ownStop(op.Stop, op.Then)
	if err != nil {
		return err
	}
	next := *s
	next.Then = op.Then
	d.Put(&next)
	return nil
}

// OfferChoice gives whoever walks a choice at a stop, or alters one: its words, and where it leads.
// Without a target it is taken away.
type OfferChoice struct {
	Stop  cm.ID   `json:"stop"`
	ID    cm.ID   `json:"id"`
	Lang  cm.Lang `json:"lang,omitempty"`
	Words *string `json:"words,omitempty"`
	To    *cm.ID  `json:"to,omitempty"`
}

func (op *OfferChoice) apply(d *editing) error {
	to := cm.ID("")
	if op.To != nil {
		to = *op.To
	}
	s, err := d.ownStop(op.Stop, to)
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	next := *s
	next.Choices = slices.Clone(s.Choices)
	at := slices.IndexFunc(next.Choices, func(c cm.Choice) bool { return c.ID == op.ID })
	switch {
	case at < 0 && to == "":
		return cm.Refusef("This choice is gone already.")
	case at < 0:
		at = len(next.Choices)
		next.Choices = append(next.Choices, cm.Choice{ID: op.ID})
	case op.To != nil && to == "":
		next.Choices = slices.Delete(next.Choices, at, at+1)
		d.Put(&next)
		return nil
	}
	if to != "" {
		next.Choices[at].To = to
	}
	if op.Words != nil {
		words, err := cm.Clean(*op.Words, cm.MaxTitle, "A choice")
		if err != nil {
			return err
		}
		next.Choices[at].Words = next.Choices[at].Words.With(lang, words)
	}
	if err := next.Sound(); err != nil {
		return err
	}
	d.Put(&next)
	return nil
}

// ownStop gives a stop, and refuses another one named beside it that is not on the same route.
func (d *editing) ownStop(id, other cm.ID) (*cm.Stop, error) {
	s, err := d.stop(id)
	if err != nil {
		return nil, err
	}
	if o := d.Map.Stops[other]; other != "" && (o == nil || o.Route != s.Route || other == id) {
		return nil, cm.Refusef("One can go on to another stop of the same route only.")
	}
	return s, nil
}

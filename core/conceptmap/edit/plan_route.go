package edit

import (
	cm "mevrin/core/conceptmap"
)

// PlanRoute says what a route is for, for whom, how long it is to take, in which language it is
// written and walked, and how it is walked alone; what is nil stays.
type PlanRoute struct {
	Route    cm.ID    `json:"route"`
	Lang     cm.Lang  `json:"lang,omitempty"` // of the purpose
	Purpose  *string  `json:"purpose,omitempty"`
	Audience *string  `json:"audience,omitempty"`
	Minutes  *int     `json:"minutes,omitempty"`
	Language *cm.Lang `json:"language,omitempty"`
	Together *bool    `json:"together,omitempty"`
	Around   *bool    `json:"around,omitempty"`
}

func (op *PlanRoute) apply(d *editing) error {
	r, err := d.route(op.Route)
	if err != nil {
		return err
	}
	lang, err := d.toldIn(r.ID, op.Lang)
	if err != nil {
		return err
	}
	next := *r
	if op.Purpose != nil {
		words, err := cm.CleanNote(*op.Purpose, "The purpose of a route")
		if err != nil {
			return err
		}
		next.Purpose = r.Purpose.With(lang, words)
	}
	if op.Audience != nil {
		if next.Audience, err = cm.Clean(*op.Audience, cm.MaxTitle, "For whom a route is"); err != nil {
			return err
		}
	}
	set(&next.Minutes, op.Minutes)
	set(&next.Language, op.Language)
	set(&next.Together, op.Together)
	set(&next.Around, op.Around)
	if err := next.Sound(); err != nil {
		return err
	}
	d.Put(&next)
	return nil
}

// PlanStop says how many minutes a stop is planned to take, 0 for nobody said; how its card is laid
// out, and whether that follows the map, which takes away what is written on it; how close the view
// goes, and whether all else fades; whether what it brings comes one thing after the other; whether
// branches belong to what it shows; and whether it is left out for now. What is nil stays.
type PlanStop struct {
	Stop     cm.ID        `json:"stop"`
	Minutes  *int         `json:"minutes,omitempty"`
	Layout   *cm.Layout   `json:"layout,omitempty"`
	FromMap  *bool        `json:"fromMap,omitempty"`
	Distance *cm.Distance `json:"distance,omitempty"`
	Fades    *bool        `json:"fades,omitempty"`
	OneByOne *bool        `json:"oneByOne,omitempty"`
	Branches *bool        `json:"branches,omitempty"`
	Skipped  *bool        `json:"skipped,omitempty"`
}

func (op *PlanStop) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	next := *s
	set(&next.Minutes, op.Minutes)
	set(&next.Layout, op.Layout)
	set(&next.Distance, op.Distance)
	set(&next.Fades, op.Fades)
	set(&next.OneByOne, op.OneByOne)
	set(&next.Branches, op.Branches)
	set(&next.Skipped, op.Skipped)
	if set(&next.FromMap, op.FromMap); next.FromMap && op.FromMap != nil {
		next.Card = nil
	}
	if err := next.Sound(); err != nil {
		return err
	}
	d.Put(&next)
	return nil
}

// WriteStop writes one text of a stop in one language: its title, the card
// that the learner reads, the question on it and its answer, or the guide notes.
type WriteStop struct {
	Stop  cm.ID   `json:"stop"`
	Part  string  `json:"part"` // title, card, question, answer, guideNotes, or opens for the title of the part that begins there
	Lang  cm.Lang `json:"lang,omitempty"`
	Words string  `json:"words"`
}

func (op *WriteStop) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	lang, err := d.toldIn(s.Route, op.Lang)
	if err != nil {
		return err
	}
	next := *s
	part, words := &next.Title, ""
	switch op.Part {
	case "title":
		words, err = cm.Clean(op.Words, cm.MaxTitle, "The title of a stop")
	case "card":
		part = &next.Card
		words, err = cm.CleanNote(op.Words, "The card of a stop")
		next.FromMap = next.FromMap && words == ""
	case "question":
		part = &next.Question
		words, err = cm.Clean(op.Words, cm.MaxQuestion, "The question of a stop")
	case "answer":
		part = &next.Answer
		words, err = cm.CleanNote(op.Words, "The answer at a stop")
	case "guideNotes":
		part = &next.GuideNotes
		words, err = cm.CleanNote(op.Words, "The guide notes of a stop")
	case "opens":
		part = &next.Opens
		words, err = cm.Clean(op.Words, cm.MaxTitle, "The title of a part")
	default:
		err = cm.Refusef("A stop has a title, a card, a question with its answer, and guide notes.")
	}
	if err != nil {
		return err
	}
	*part = part.With(lang, words)
	d.Put(&next)
	return nil
}

// route gives a route, and refuses one that is gone.
func (d *editing) route(id cm.ID) (*cm.Route, error) {
	if r := d.Map.Routes[id]; r != nil {
		return r, nil
	}
	return nil, cm.Refusef("That route is gone already.")
}

// stop gives a stop, and refuses one that is gone.
func (d *editing) stop(id cm.ID) (*cm.Stop, error) {
	if s := d.Map.Stops[id]; s != nil {
		return s, nil
	}
	return nil, cm.Refusef("That stop is gone already.")
}

// toldIn gives the language of a text of a route: the one named, else that of the route, else that
// of the map.
func (d *editing) toldIn(route cm.ID, named cm.Lang) (cm.Lang, error) {
	if r := d.Map.Routes[route]; r != nil && named == "" {
		named = r.Language
	}
	return d.lang(named)
}

// Package suggestion turns what somebody would alter on a map, and may not alter themselves, into operations that
// its author can take or leave.
package suggestion

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/differences"
)

// What somebody would alter.
const (
	WhatSay    = "say"       // add a sentence
	WhatReword = "reword"    // give a concept or a link other words
	WhatRemove = "leave-out" // take a concept or a link off
)

// The bounds of suggestions: the characters of a reason and of an answer, how many wait on one map, how many
// answers one has, and how many operations.
const (
	MaxSteps   = 300
	MaxReason  = cm.MaxCommentWords
	MaxWaiting = 500
	MaxAnswers = 200
)

// Wish is what somebody would alter, as they fill it in.
type Wish struct {
	What             string
	From, Phrase, To string // of WhatSay
	Thing            cm.Key // of the others: a concept or a link
	Words            string // of WhatReword
}

// Operations give what a wish does to a map; NewID gives the ids of what is new. It refuses a wish that says nothing,
// or speaks of what is not on the map.
func (w Wish) Operations(m *cm.Map, newID func(sort string) cm.ID) ([]edit.Operation, error) {
	concept, link := m.Concepts[w.Thing.ID], m.Links[w.Thing.ID]
	gone := cm.Refusef("Choose what is meant: it is no longer on the map.")
	switch w.What {
	case WhatSay:
		if strings.TrimSpace(w.From) == "" || strings.TrimSpace(w.To) == "" {
			return nil, cm.Refusef("A sentence needs a concept at either end.")
		}
		term := func(words string) []edit.Term {
			return []edit.Term{{Words: words, Concept: newID("c"), End: newID("e")}}
		}
		return []edit.Operation{&edit.AddProposition{Link: newID("l"), From: term(w.From), Phrase: w.Phrase, To: term(w.To)}}, nil
	case WhatReword:
		switch {
		case strings.TrimSpace(w.Words) == "":
			return nil, cm.Refusef("Say in which other words.")
		case w.Thing.Kind == cm.EntityConcept && concept != nil:
			return []edit.Operation{&edit.NameConcept{Concept: w.Thing.ID, Label: w.Words}}, nil
		case w.Thing.Kind == cm.EntityLink && link != nil:
			return []edit.Operation{&edit.NameLink{Link: w.Thing.ID, Phrase: w.Words}}, nil
		}
		return nil, gone
	case WhatRemove:
		switch {
		case w.Thing.Kind == cm.EntityConcept && concept != nil:
			return []edit.Operation{&edit.Remove{Concepts: []cm.ID{w.Thing.ID}}}, nil
		case w.Thing.Kind == cm.EntityLink && link != nil:
			return []edit.Operation{&edit.Remove{Links: []cm.ID{w.Thing.ID}}}, nil
		}
		return nil, gone
	}
	return nil, cm.Refusef("Say what you would alter.")
}

// Seen is a suggestion as it would be on the map now.
type Seen struct {
	Before, After *cm.Map
	Differs       differences.Differences
	// Fits tells that it can be taken; otherwise the map has moved on, and Why says how.
	Fits bool
	Why  error
}

// See tells what a suggestion would do to a map, from what came of trying it out.
func See(m, after *cm.Map, err error) Seen {
	if err != nil {
		return Seen{Before: m, After: m, Why: err}
	}
	d := differences.Between(m, after)
	s := Seen{Before: m, After: after, Differs: d, Fits: len(d.Added)+len(d.Gone)+len(d.Reworded)+len(d.Other) > 0}
	if !s.Fits {
		s.Why = cm.Refusef("The map says so already.")
	}
	return s
}

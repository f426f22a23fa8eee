// Package starters holds maps to begin with, by what they are for, and questions whose answers make one. They are
// data: starters.json and questions.json.
package starters

import (
	_ "embed"
	"encoding/json"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
)

//go:embed starters.json
var starters []byte

//go:embed questions.json
var questions []byte

// Starter is a map to begin with: its concepts say what is to be written in their place.
type Starter struct {
	ID        string            `json:"id"`
	Title     string            `json:"title"`    // what it is for
	Note      string            `json:"note"`     // how it is used
	Question  string            `json:"question"` // with a gap to be filled
	Set       string            `json:"set"`      // its key, one of package kinds
	Order     cm.Pattern        `json:"order"`
	Concepts  []string          `json:"concepts"`  // the first is the focus concept
	Sentences [][3]string       `json:"sentences"` // concept, phrase, concept
	Parts     map[string]string `json:"parts"`     // the kind of a concept: a part of the set
}

// Question is asked of somebody who does not know how to begin; the answers follow the phrase. The first answer is
// what the map is about.
type Question struct {
	Ask    string `json:"ask"`
	Phrase string `json:"phrase"`
}

// Shipped are the maps to begin with, and Questions those that are asked.
var (
	Shipped   = read[Starter](starters)
	Questions = read[Question](questions)
)

func read[T any](raw []byte) (all []T) {
	if err := json.Unmarshal(raw, &all); err != nil {
		panic("starters: the shipped ones can be read: " + err.Error())
	}
	return all
}

// MaxAnswers bounds the answers to one question.
const MaxAnswers = 20

// IDs gives the id of something new, of a sort that a letter names.
type IDs func(sort string) cm.ID

// writing makes sentences one after another.
type writing struct {
	id       IDs
	concepts map[string]cm.ID
	ops      []edit.Operation
}

func (w *writing) term(words string) edit.Term {
	t := edit.Term{Words: words, Concept: w.id("c"), End: w.id("e")} // one that is there is found by its words
	if w.concepts[words] == "" {
		w.concepts[words] = t.Concept
	}
	return t
}

func (w *writing) say(from, phrase string, to ...string) {
	op := &edit.AddProposition{Link: w.id("l"), From: []edit.Term{w.term(from)}, Phrase: phrase}
	for _, one := range to {
		op.To = append(op.To, w.term(one))
	}
	w.ops = append(w.ops, op)
}

// focus puts the concept down from which all begins.
func (w *writing) focus(words string) {
	w.concepts[words] = w.id("c")
	w.ops = append(w.ops, &edit.AddConcept{ID: w.concepts[words], Label: words}, &edit.SetFocus{Concept: w.concepts[words]})
}

// Operations give what makes the starter of an id on an empty map; its question where none is given. It refuses an id
// that none has.
func Operations(id, question string, newID IDs) ([]edit.Operation, error) {
	i := slices.IndexFunc(Shipped, func(s Starter) bool { return s.ID == id })
	if i < 0 {
		return nil, cm.Refusef("There is no such map to begin with.")
	}
	s := Shipped[i]
	if strings.TrimSpace(question) == "" {
		question = s.Question
	}
	freely := true
	w := writing{id: newID, concepts: map[string]cm.ID{}}
	w.ops = append(w.ops, &edit.KeepTidy{On: true, Pattern: s.Order, Freely: &freely}, &edit.Ask{Question: question})
	kind := map[string]cm.ID{}
	if j := slices.IndexFunc(kinds.Shipped, func(set kinds.Set) bool { return set.ID == s.Set }); j >= 0 {
		for _, op := range kinds.Shipped[j].Operations("en", func() cm.ID { return newID("k") }) {
			w.ops = append(w.ops, op)
			if add, is := op.(*edit.AddKind); is {
				kind[strings.TrimPrefix(string(add.Role), s.Set+".")] = add.ID
			}
		}
	}
	w.focus(s.Concepts[0])
	for _, one := range s.Sentences {
		w.say(one[0], one[1], one[2])
	}
	for _, words := range s.Concepts {
		if part := s.Parts[words]; part != "" {
			w.ops = append(w.ops, &edit.AssignKind{Concepts: []cm.ID{w.concepts[words]}, Kind: kind[part]})
		}
	}
	return w.ops, nil
}

// Answered gives what the answers to Questions make of an empty map: each may hold several, a line each. It refuses
// where it is not said what the map is about.
func Answered(answers []string, newID IDs) ([]edit.Operation, error) {
	lines := func(i int) (all []string) {
		if i >= len(answers) {
			return nil
		}
		for line := range strings.SplitSeq(answers[i], "\n") {
			if line = strings.Join(strings.Fields(line), " "); line != "" && !slices.Contains(all, line) {
				all = append(all, line)
			}
		}
		return all
	}
	about := lines(0)
	if len(about) == 0 {
		return nil, cm.Refusef("Say at least what the map is about.")
	}
	w := writing{id: newID, concepts: map[string]cm.ID{}}
	w.focus(about[0])
	for _, also := range about[1:] {
		w.ops = append(w.ops, &edit.AddConcept{ID: newID("c"), Label: also})
	}
	for i, q := range Questions[1:] {
		said := slices.DeleteFunc(lines(i+1), func(line string) bool { return line == about[0] })
		if len(said) > MaxAnswers {
			return nil, cm.Refusef("“%s” has more than %d answers. Take an outline for so many.", q.Ask, MaxAnswers)
		}
		if len(said) > 0 {
			w.say(about[0], q.Phrase, said...)
		}
	}
	return w.ops, nil
}

// Texts gives what is read of all this by whoever chooses, apart from what stands on the maps.
func Texts() (all []string) {
	for _, s := range Shipped {
		all = append(all, s.Title, s.Note)
	}
	for _, q := range Questions {
		all = append(all, q.Ask)
	}
	return all
}

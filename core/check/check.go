// Package check notices what a map still lacks, and offers to mend it. Each
// rule is a value with a name and the reason behind it, so that a teacher can
// see why it is there and switch it off for a map.
package check

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
)

// Rule is one thing to look for.
type Rule struct {
	ID    string // stable, for settings and exports
	Title string // what is wrong, in plain words
	Why   string // why it matters
	Looks string // what exactly is counted, for whoever wants to know
	find  func(*cm.Map, *structure.Structure) []Place
}

// Finding is what one rule noticed, at one place or several, in reading order.
type Finding struct {
	Rule   *Rule
	Places []Place
}

// Place is where something was noticed: the things concerned, the one to look
// at first before the others. It is without things where the finding is about
// the map as a whole.
type Place struct {
	Keys     []cm.Key
	Remedies []Remedy
}

// Remedy is a way to mend a finding in one step.
type Remedy struct {
	Title string
	// Operations mend it when performed; where there are none, Ask says what
	// the person has to give.
	Operations []edit.Operation
	Ask        Ask
	// From and To are the concepts between which AskSentence wants a phrase;
	// one may be empty, for the person to choose.
	From, To cm.ID
}

// Ask is what a remedy needs from the person.
type Ask string

// What a remedy may ask for.
const (
	AskQuestion Ask = "question" // the focus question
	AskWords    Ask = "words"    // words for the first thing of the place
	AskSentence Ask = "sentence" // a sentence between From and To
	AskSays     Ask = "says"     // a description of what is attached to the first thing
)

// What a map must have before what is missing on it is counted where nobody asked.
const (
	enoughConcepts = 8
	enoughPhrases  = 5
)

// Early tells that a map is only being begun: whoever puts down the first ideas knows
// that they are not linked yet.
func Early(m *cm.Map) bool {
	said := 0
	for _, l := range m.Links {
		if m.Words(l.Phrase) != "" {
			said++
		}
	}
	return len(m.Concepts) < enoughConcepts || said < enoughPhrases
}

// Find applies the rules that the map has not switched off. Those that notice
// nothing are left out.
func Find(m *cm.Map, s *structure.Structure) []Finding {
	var all []Finding
	for _, rule := range Rules {
		if m.RulesOff[rule.ID] {
			continue
		}
		if places := rule.find(m, s); len(places) > 0 {
			all = append(all, Finding{rule, places})
		}
	}
	return all
}

func concept(id cm.ID) cm.Key { return cm.Key{Kind: cm.EntityConcept, ID: id} }
func link(id cm.ID) cm.Key    { return cm.Key{Kind: cm.EntityLink, ID: id} }

// Package phrases holds the phrase bank: linking phrases on offer, grouped by
// what they mean. Each group says what it is for and, where the literature has
// one, its source. The groups are data (bank.json); what an author adds and
// takes out is laid over them.
package phrases

import (
	_ "embed"
	"encoding/json"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

//go:embed bank.json
var bank []byte

// Group is a set of phrases with one meaning.
type Group struct {
	ID     string               `json:"id"` // stable: authors' own phrases refer to it
	Title  string               `json:"title"`
	Why    string               `json:"why"`
	Source string               `json:"source,omitempty"`
	Words  map[cm.Lang][]string `json:"phrases"`
	Asks   map[cm.Lang]Ask      `json:"ask"`
}

// Ask is a question that helps to break a concept down, with … for its words,
// and the phrase that leads from the concept to an answer.
type Ask struct {
	Question string `json:"question"`
	Phrase   string `json:"phrase"`
}

// Questions gives a question for each group about a concept, in a language or
// else in English.
func Questions(lang cm.Lang, concept string) []Ask {
	primary, _, _ := strings.Cut(string(lang), "-")
	var all []Ask
	for _, g := range Shipped {
		ask, ok := g.Asks[cm.Lang(primary)]
		if !ok {
			ask = g.Asks["en"]
		}
		ask.Question = strings.Replace(ask.Question, "…", concept, 1)
		all = append(all, ask)
	}
	return all
}

// Own is what an author changed about a group: a phrase of their own, or one of
// the bank's taken out.
type Own struct {
	Group, Words string
	Removed      bool
}

// MaxOwn bounds the changes of one author.
const MaxOwn = 1000

// Shipped gives the groups in the order in which they are shown.
var Shipped = func() []Group {
	var all []Group
	if err := json.Unmarshal(bank, &all); err != nil {
		panic("phrases: " + err.Error()) // part of the program
	}
	return all
}()

// Offer is a group as one author sees it.
type Offer struct {
	Group
	Phrases []string
	Changed bool // it is not as shipped
}

// For gives the groups in a language, with an author's changes. Where a group
// has no phrases in that language, those in English stand in.
func For(lang cm.Lang, own []Own) []Offer {
	primary, _, _ := strings.Cut(string(lang), "-")
	offers := make([]Offer, len(Shipped))
	for i, g := range Shipped {
		words := g.Words[lang]
		if words == nil {
			words = g.Words[cm.Lang(primary)]
		}
		if words == nil {
			words = g.Words["en"]
		}
		o := Offer{Group: g, Phrases: slices.Clone(words)}
		for _, change := range own {
			if change.Group != g.ID {
				continue
			}
			same := func(p string) bool { return likeness.Fold(p) == likeness.Fold(change.Words) }
			at := slices.IndexFunc(o.Phrases, same)
			switch {
			case change.Removed && at >= 0:
				o.Phrases = slices.Delete(o.Phrases, at, at+1)
				o.Changed = true
			case !change.Removed && at < 0:
				o.Phrases = append(o.Phrases, change.Words)
				o.Changed = true
			}
		}
		offers[i] = o
	}
	return offers
}

// CheckOwn cleans a change before it is kept.
func CheckOwn(change Own) (Own, error) {
	if !slices.ContainsFunc(Shipped, func(g Group) bool { return g.ID == change.Group }) {
		return change, cm.Refusef("The phrase bank has no such group.")
	}
	words, err := cm.Clean(change.Words, cm.MaxPhrase, "A linking phrase")
	if err != nil {
		return change, err
	}
	if change.Words = strings.Join(strings.Fields(words), " "); change.Words == "" {
		return change, cm.Refusef("A phrase needs at least one word.")
	}
	return change, nil
}

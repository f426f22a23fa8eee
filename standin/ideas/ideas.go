// Package ideas is a small local stand-in for an idea helper elsewhere: a net of
// some everyday statements of our own. It stands behind the interface that a real
// service would have (Helper), and says what it is.
package ideas

import (
	_ "embed"
	"encoding/json"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// Idea is a statement that could be added to a concept.
type Idea struct{ Phrase, Noun string }

// Helper offers ideas for a concept by its words, in a language.
type Helper interface {
	Offer(words string, lang cm.Lang) []Idea
}

//go:embed net.json
var file []byte

var net = func() map[cm.Lang][][3]string {
	var all map[cm.Lang][][3]string
	if err := json.Unmarshal(file, &all); err != nil {
		panic("ideas: " + err.Error()) // part of the program
	}
	return all
}()

// articles stand before nouns and say nothing of what they are.
var articles = []string{"a ", "an ", "the ", "der ", "die ", "das ", "ein ", "eine "}

// Plain gives a label as it is looked up: folded, without an article, in the
// singular where that is told by an s.
func Plain(label string) string {
	words := likeness.Fold(label)
	for _, article := range articles {
		words = strings.TrimPrefix(words, article)
	}
	if rest, plural := strings.CutSuffix(words, "s"); plural && len(rest) > 3 && !strings.HasSuffix(rest, "s") {
		return rest
	}
	return words
}

// Local is the net that is shipped.
type Local struct{}

// Offer gives what the net says of a concept whose words are, or end with, one of
// its own.
func (Local) Offer(words string, lang cm.Lang) []Idea {
	primary, _, _ := strings.Cut(string(lang), "-")
	sought := Plain(words)
	var all []Idea
	for _, s := range net[cm.Lang(primary)] {
		own := Plain(s[0])
		if sought == own || strings.HasSuffix(sought, " "+own) {
			if idea := (Idea{s[1], s[2]}); !slices.Contains(all, idea) {
				all = append(all, idea)
			}
		}
	}
	return all
}

package language

import (
	"slices"

	"mevrin/core/likeness"
)

// ForExamples tells that a kind of this name is one for examples, in whichever language.
func ForExamples(name string) bool {
	return slices.Contains([]string{"example", "examples", "beispiel", "beispiele", "exemple", "exemples", "ejemplo", "ejemplos"}, likeness.Fold(name))
}

// Word is a word of a text that says something by itself.
type Word struct {
	Written string // in lower case
	Stem    string
}

// Telling gives the words of a text that say something, each once: those that only hold sentences
// together are left out, and so are single letters and numbers.
func (t *Tongue) Telling(text string) []Word {
	var all []Word
	for _, w := range t.Split(text) {
		if t.function(w) || t.weak[w] || t.relations[w] || len([]rune(w)) < 3 || isNumber(w) {
			continue
		}
		one := Word{w, t.Stem(w)}
		if !slices.ContainsFunc(all, func(o Word) bool { return o.Stem == one.Stem }) {
			all = append(all, one)
		}
	}
	return all
}

// Package language holds what must be known of a language to look at linking phrases and labels:
// which words say nothing, which are nouns, adjectives or verbs, what means the contrary, what
// belongs together by its meaning. The lists are data (en.json, de.json, fr.json, es.json);
// inflection is left to the stemmers of the Snowball project (Porter, An algorithm for suffix
// stripping, 1980, and its successors).
package language

import (
	"embed"
	"encoding/json"
	"slices"
	"strings"
	"unicode"

	"github.com/blevesearch/snowballstem"
	"github.com/blevesearch/snowballstem/english"
	"github.com/blevesearch/snowballstem/french"
	"github.com/blevesearch/snowballstem/german"
	"github.com/blevesearch/snowballstem/spanish"
)

//go:embed *.json
var lists embed.FS

// Tongue is one language.
type Tongue struct {
	Name string // its tag
	stem func(*snowballstem.Env) bool

	articles, copulas, having, auxiliaries, negations words
	prepositions, weak, conjunctions, joins, pairing  words
	adverbs, by, relations, relationNouns, numbers    words
	nouns, adjectives                                 words
	verbs                                             words // in the form that stands in the list
	nounEndings, adjectiveEndings                     []string
	empty                                             words // whole phrases
	contrary                                          map[[2]string]bool
	opposed                                           words              // stems that have a contrary
	meanings                                          map[string]Meaning // by whole phrases
	spelling                                          [][2]string
	unlike                                            map[[2]string]bool
	synonyms                                          map[string][]int // sets in which a name is
}

type words map[string]bool

// Meaning is what a phrase says of the order of its two ends.
type Meaning struct {
	// Of is kind, part, cause, need or time.
	Of string
	// Up tells that the phrase leads from the special to the general, from the part to the whole,
	// from the effect to its cause, from what is needed to what needs it, from the later to the
	// earlier.
	Up bool
}

// file is how a language is written down.
type file struct {
	Articles, Copulas, Having, Auxiliaries, Negations, Prepositions, Weak, Conjunctions, Joins, Pairing string
	Adverbs, By, Relations, RelationNouns, Nouns, Adjectives, NounEndings, AdjectiveEndings             string
	Verbs, Irregular, Numbers                                                                           string
	Empty, Unlike, Synonyms                                                                             []string
	Contraries, Spelling                                                                                [][2]string
	Meanings                                                                                            map[string]struct{ Down, Up []string }
}

var tongues = map[string]*Tongue{
	"en": read("en", english.Stem), "de": read("de", german.Stem), "fr": read("fr", french.Stem), "es": read("es", spanish.Stem),
}

// Of gives what is known of a language by its tag (BCP 47), nil where nothing is.
func Of(tag string) *Tongue {
	primary, _, _ := strings.Cut(strings.ToLower(tag), "-")
	return tongues[primary]
}

// Names lists the languages of which something is known, by their tags.
func Names() []string { return []string{"en", "de", "fr", "es"} }

func read(name string, stem func(*snowballstem.Env) bool) *Tongue {
	raw, err := lists.ReadFile(name + ".json")
	var f file
	if err == nil {
		err = json.Unmarshal(raw, &f)
	}
	if err != nil {
		panic("language: " + err.Error()) // part of the program
	}
	t := &Tongue{Name: name, stem: stem, contrary: map[[2]string]bool{}, opposed: words{}, unlike: map[[2]string]bool{}, meanings: map[string]Meaning{}, synonyms: map[string][]int{}}
	for to, from := range map[*words]string{
		&t.articles: f.Articles, &t.copulas: f.Copulas, &t.having: f.Having, &t.auxiliaries: f.Auxiliaries, &t.negations: f.Negations,
		&t.prepositions: f.Prepositions, &t.weak: f.Weak, &t.conjunctions: f.Conjunctions, &t.joins: f.Joins, &t.pairing: f.Pairing,
		&t.adverbs: f.Adverbs, &t.by: f.By, &t.relations: f.Relations, &t.relationNouns: f.RelationNouns,
		&t.nouns: f.Nouns, &t.adjectives: f.Adjectives, &t.numbers: f.Numbers,
	} {
		*to = words{}
		for _, w := range strings.Fields(from) {
			(*to)[w] = true
		}
	}
	t.nounEndings, t.adjectiveEndings, t.spelling = strings.Fields(f.NounEndings), strings.Fields(f.AdjectiveEndings), f.Spelling
	t.verbs = words{}
	for _, v := range append(strings.Fields(f.Verbs), strings.Fields(f.Irregular)...) {
		t.verbs[v] = true
	}
	t.empty = words{}
	for _, p := range f.Empty {
		t.empty[p] = true
	}
	for _, pair := range f.Contraries {
		a, b := t.Stem(pair[0]), t.Stem(pair[1])
		t.contrary[[2]string{a, b}], t.contrary[[2]string{b, a}] = true, true
		t.opposed[a], t.opposed[b] = true, true
	}
	for of, m := range f.Meanings {
		for up, phrases := range map[bool][]string{false: m.Down, true: m.Up} {
			for _, p := range phrases {
				t.meanings[p] = Meaning{of, up}
			}
		}
	}
	for _, pair := range f.Unlike {
		w := strings.Fields(pair)
		for _, form := range []func(string) string{t.bare, strings.ToLower} {
			a, b := form(w[0]), form(w[1])
			t.unlike[[2]string{a, b}], t.unlike[[2]string{b, a}] = true, true
		}
	}
	for i, set := range f.Synonyms {
		names := strings.Fields(set)
		if strings.Contains(set, "|") {
			names = strings.Split(set, "|")
		}
		for _, n := range names {
			key := t.key(n)
			t.synonyms[key] = append(t.synonyms[key], i)
		}
	}
	return t
}

// Stem gives a word in lower case without its inflection.
func (t *Tongue) Stem(word string) string {
	env := snowballstem.NewEnv(word)
	t.stem(env)
	return env.Current()
}

var plainSigns = strings.NewReplacer("’", "'", "\u00a0", " ")

// parts tells that a sign stands between words.
func parts(r rune) bool {
	if r >= 'a' && r <= 'z' {
		return false
	}
	return unicode.IsSpace(r) || strings.ContainsRune(",;:!?()[]\"«»„“”…", r)
}

// Split gives the words of a text in lower case, without punctuation but for the signs that join
// names and the point of a number; what an apostrophe parts are two words, unless it is a
// negation.
func (t *Tongue) Split(text string) []string {
	if text = strings.ToLower(text); strings.ContainsAny(text, "’\u00a0") {
		text = plainSigns.Replace(text)
	}
	all := make([]string, 0, 4)
	for _, w := range strings.FieldsFunc(text, parts) {
		if w != "." {
			w = strings.TrimRight(w, ".")
		}
		if left, right, two := strings.Cut(w, "'"); two && !strings.HasSuffix(w, "n't") {
			if all = append(all, left); right != "s" {
				all = append(all, right)
			}
			continue
		}
		all = append(all, w)
	}
	return slices.DeleteFunc(all, func(w string) bool { return w == "" })
}

// function tells that a word holds sentences together and says nothing by itself.
func (t *Tongue) function(w string) bool {
	return t.articles[w] || t.copulas[w] || t.having[w] || t.auxiliaries[w] || t.prepositions[w] || t.conjunctions[w] || t.adverbs[w] || t.negations[w]
}

// key is what names of one thing have in common: the stems of the words that say something, in
// their order.
func (t *Tongue) key(name string) string {
	var stems []string
	for _, w := range t.Split(name) {
		if !t.articles[w] {
			stems = append(stems, t.Stem(w))
		}
	}
	return strings.Join(stems, " ")
}

package likeness

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// Stem gives what two labels have in common when they most likely name the
// same concept: words in lower case without accents, punctuation, leading
// articles and plural endings. It errs on the side of noticing: a person
// decides. Lang is a language tag (BCP 47); of a language without rules only letters count.
func Stem(label, lang string) string {
	primary, _, _ := strings.Cut(lang, "-")
	tongue := tongues[primary]
	words := strings.FieldsFunc(plain(label), func(r rune) bool {
		return unicode.IsSpace(r) || unicode.IsPunct(r) && r != '\'' && r != '’'
	})
	for len(words) > 1 && tongue.articles[words[0]] {
		words = words[1:]
	}
	for i, w := range words {
		words[i] = tongue.singular(w)
	}
	if len(words) == 0 {
		return Fold(label) // signs alone: "+" and "–" are not alike
	}
	return strings.Join(words, " ")
}

// plain gives words in lower case and without marks on letters, as in
// compatibility decomposition (Unicode Standard Annex 15).
func plain(words string) string {
	if !strings.ContainsFunc(words, func(r rune) bool { return r >= utf8.RuneSelf }) {
		return strings.ToLower(words) // the usual case, and much quicker
	}
	return strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		return unicode.ToLower(r)
	}, strings.ReplaceAll(norm.NFKD.String(words), "ß", "ss"))
}

// tongue is what must be known of a language to tell one label twice.
type tongue struct {
	articles  map[string]bool
	irregular map[string]string // plural to singular
	// endings are tried in order: the first that fits is replaced, where the
	// word that comes of it has at least three letters.
	endings [][2]string
	// keep lists endings that look like a plural's and are none.
	keep []string
}

func (t tongue) singular(word string) string {
	if one, ok := t.irregular[word]; ok {
		return one
	}
	for _, k := range t.keep {
		if strings.HasSuffix(word, k) {
			return word
		}
	}
	for _, e := range t.endings {
		if stem, ok := strings.CutSuffix(word, e[0]); ok && len([]rune(stem+e[1])) >= 3 {
			return stem + e[1]
		}
	}
	return word
}

func set(words string) map[string]bool {
	all := map[string]bool{}
	for _, w := range strings.Fields(words) {
		all[w] = true
	}
	return all
}

// tongues holds common rules of grammar, without accents as plain leaves them.
var tongues = map[string]tongue{
	"en": {
		articles: set("the a an"),
		irregular: map[string]string{
			"children": "child", "feet": "foot", "teeth": "tooth", "mice": "mouse", "geese": "goose", "men": "man", "women": "woman",
			"people": "person", "leaves": "leaf", "halves": "half", "lives": "life", "wolves": "wolf", "knives": "knife", "shelves": "shelf",
			"axes": "axis", "analyses": "analysis", "hypotheses": "hypothesis", "phenomena": "phenomenon", "criteria": "criterion",
			"bacteria": "bacterium", "nuclei": "nucleus", "data": "datum", "media": "medium", "vertices": "vertex", "indices": "index", "mitochondria": "mitochondrion", "spectra": "spectrum", "strata": "stratum", "larvae": "larva",
			"algae": "alga", "fungi": "fungus", "radii": "radius", "stimuli": "stimulus", "formulae": "formula", "gases": "gas", "viruses": "virus", "buses": "bus", "lenses": "lens",
		},
		keep:    []string{"ss", "us", "is", "ics"},
		endings: [][2]string{{"ies", "y"}, {"sses", "ss"}, {"shes", "sh"}, {"ches", "ch"}, {"xes", "x"}, {"zzes", "zz"}, {"s", ""}},
	},
	"de": {
		articles: set("der die das ein eine"),
		endings:  [][2]string{{"innen", "in"}, {"en", ""}, {"er", ""}, {"e", ""}, {"n", ""}, {"s", ""}},
		keep:     []string{"ss"},
	},
	"fr": {
		articles:  set("le la les un une des"),
		irregular: map[string]string{"yeux": "oeil"},
		endings:   [][2]string{{"eaux", "eau"}, {"aux", "al"}, {"s", ""}, {"x", ""}},
		keep:      []string{"ss"},
	},
	"es": {
		articles: set("el la los las un una unos unas"),
		endings:  [][2]string{{"ces", "z"}, {"es", ""}, {"s", ""}, {"e", ""}},
		keep:     []string{"is"},
	},
}

package language

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"mevrin/core/likeness"
)

// How tells in which way two labels are one.
type How string

// In what labels of one thing may differ.
const (
	Inflected   How = "inflected"   // number, gender or case
	Ordered     How = "ordered"     // the order of words
	Spelled     How = "spelled"     // spelling, hyphens, spaces
	Abbreviated How = "abbreviated" // one is short for the other
	Slipped     How = "slipped"     // a slip in typing
)

// Variant is a pair of labels, by their places, that most likely name one thing.
type Variant struct {
	A, B int
	How  How
}

var unhyphened = strings.NewReplacer("-", " ", "‐", " ", "–", " ")

// form is a label as it is compared.
type form struct {
	words   []string // that say something, without inflection
	whole   []string // the same with it
	prep    bool     // some are joined by a preposition
	solid   string   // the words in their order, spelt one way, without spaces
	written []string
	raw     string
}

func (t *Tongue) form(label string) form {
	f := form{raw: strings.TrimSpace(label), written: strings.Fields(label)}
	for _, w := range t.Split(unhyphened.Replace(label)) {
		switch {
		case t.articles[w]:
		case t.prepositions[w]:
			f.prep = true
		default:
			f.words, f.whole = append(f.words, t.bare(w)), append(f.whole, w)
		}
	}
	if len(f.whole) > 0 {
		f.solid = t.spelt(t.bare(strings.Join(f.whole, "")))
	}
	return f
}

// bare gives a word without its inflection, but with what makes another word of it.
func (t *Tongue) bare(w string) string {
	base := likeness.Stem(w, t.Name)
	switch t.Name {
	case "de":
		return t.Stem(w)
	case "fr":
		if utf8.RuneCountInString(base) > 3 {
			base = strings.TrimSuffix(base, "e")
		}
	case "es":
		if utf8.RuneCountInString(base) > 3 {
			base = strings.TrimRight(base, "oa")
		}
	}
	return base
}

// spelt gives a word in one of the ways in which its language spells it.
func (t *Tongue) spelt(w string) string {
	const least = 4 // letters of a word that may be spelt in two ways
	if utf8.RuneCountInString(w) < least {
		return w
	}
	for _, s := range t.spelling {
		w = strings.ReplaceAll(w, s[0], s[1])
	}
	return w
}

// Variants finds labels of one thing among many.
func (t *Tongue) Variants(labels []string) []Variant {
	forms := make([]form, len(labels))
	for i, l := range labels {
		forms[i] = t.form(l)
	}
	v := &variants{t: t, forms: forms, known: map[[2]int]bool{}}
	v.alike()
	v.short()
	v.slips()
	slices.SortStableFunc(v.all, func(a, b Variant) int {
		if a.A != b.A {
			return a.A - b.A
		}
		return a.B - b.B
	})
	return v.all
}

type variants struct {
	t     *Tongue
	forms []form
	known map[[2]int]bool
	all   []Variant
}

func (v *variants) add(a, b int, how How) {
	if a > b {
		a, b = b, a
	}
	if x, y := v.forms[a].whole, v.forms[b].whole; len(x) == 1 && len(y) == 1 && v.t.unlike[[2]string{x[0], y[0]}] {
		return
	}
	if a != b && !v.known[[2]int{a, b}] {
		v.known[[2]int{a, b}] = true
		v.all = append(v.all, Variant{a, b, how})
	}
}

// alike finds labels with the same words.
func (v *variants) alike() {
	by := map[string][]int{}
	each := func(key string, i int, same func(a, b form) (How, bool)) {
		if key == "" {
			return
		}
		for _, o := range by[key] {
			if how, ok := same(v.forms[o], v.forms[i]); ok {
				v.add(o, i, how)
			}
		}
		by[key] = append(by[key], i)
	}
	for i, f := range v.forms {
		each("= "+strings.Join(f.words, " "), i, func(a, b form) (How, bool) { return Inflected, len(a.words) > 0 && a.prep == b.prep })
	}
	for i, f := range v.forms {
		each("+ "+likeness.Stem(f.raw, v.t.Name), i, func(a, b form) (How, bool) { return Inflected, len(a.words) > 0 })
	}
	for i, f := range v.forms {
		if len(f.words) > 1 && len(f.words) < 7 {
			each("~ "+strings.Join(slices.Sorted(slices.Values(f.words)), " "), i, func(a, b form) (How, bool) { return Ordered, !a.prep || !b.prep })
		}
	}
	for i, f := range v.forms {
		if f.solid != "" {
			each("- "+f.solid, i, func(a, b form) (How, bool) { return Spelled, a.prep == b.prep })
		}
	}
}

// short finds abbreviations.
func (v *variants) short() {
	initials := map[string][]int{}
	for i, f := range v.forms {
		if len(f.words) < 2 {
			continue
		}
		for _, key := range v.t.initials(f.raw) {
			initials[key] = append(initials[key], i)
		}
	}
	for i, f := range v.forms {
		if bare := strings.TrimSuffix(strings.ReplaceAll(f.raw, ".", ""), "s"); acronym(bare) {
			for _, o := range initials[bare] {
				v.add(i, o, Abbreviated)
			}
			for o, long := range v.forms {
				if len([]rune(bare)) == len(long.whole)+1 && len(long.whole) > 1 && withinWords(bare, long.whole) {
					v.add(i, o, Abbreviated)
				}
			}
		}
		if !strings.Contains(f.raw, ".") {
			continue
		}
		for j, o := range v.forms {
			if j != i && cutShort(f.written, o.written) {
				v.add(i, j, Abbreviated)
			}
		}
	}
}

// acronym tells that a label is some capitals.
func acronym(s string) bool {
	capitals := 0
	for _, r := range s {
		switch {
		case unicode.IsUpper(r):
			capitals++
		case !unicode.IsDigit(r):
			return false
		}
	}
	return capitals >= 2 && len(s) <= 7
}

// initials gives what an abbreviation of a label may be: the first letters of its words, those
// that say nothing left out or not, and what stands in brackets behind it.
func (t *Tongue) initials(label string) []string {
	var all, telling strings.Builder
	for _, w := range t.Split(strings.ReplaceAll(withoutBrackets(label), "-", " ")) {
		r, _ := utf8.DecodeRuneInString(w)
		all.WriteRune(unicode.ToUpper(r))
		if !t.function(w) {
			telling.WriteRune(unicode.ToUpper(r))
		}
	}
	keys := []string{all.String()}
	if telling.String() != all.String() {
		keys = append(keys, telling.String())
	}
	if _, behind, ok := strings.Cut(label, "("); ok {
		keys = append(keys, strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(behind), ")")))
	}
	return keys
}

// withinWords tells that an abbreviation takes the first letter of each word, in their order, and
// one more of within a word: BGB for Bürgerliches Gesetzbuch.
func withinWords(short string, words []string) bool {
	letters := []rune(strings.ToLower(short))
	for twice := range words { // the word of which it takes two letters
		at, fits := 0, true
		for i, w := range words {
			inner := []rune(w)
			fits = fits && at < len(letters) && inner[0] == letters[at]
			at++
			if i == twice {
				const least = 3 // letters before a word within a word
				fits = fits && len(inner) > 2*least && at < len(letters) && slices.Contains(inner[least:], letters[at])
				at++
			}
		}
		if fits && at == len(letters) {
			return true
		}
	}
	return false
}

// cutShort tells that one label is the other with words cut short by a point: max. speed.
func cutShort(short, long []string) bool {
	if len(short) != len(long) {
		return false
	}
	cut := false
	for i, w := range short {
		full := strings.ToLower(long[i])
		switch w = strings.ToLower(w); {
		case w == full:
		case strings.HasSuffix(w, ".") && len(w) > 2 && len(full) > len(w) && strings.HasPrefix(full, strings.TrimSuffix(w, ".")):
			cut = true
		default:
			return false
		}
	}
	return cut
}

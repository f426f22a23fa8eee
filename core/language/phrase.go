package language

import (
	"slices"
	"strings"
	"unicode"
)

// Fault is what is wrong with a linking phrase by itself.
type Fault string

// What a phrase may be.
const (
	Sound      Fault = ""
	Empty      Fault = "empty"       // it says nothing, or no more than the name of one of its ends
	NoRelation Fault = "no-relation" // it names a thing or a quality, and no relation
)

// Fault judges a phrase between two labels. It errs on the side of silence: a phrase with a word
// that is not known is sound unless all else tells against it.
func (t *Tongue) Fault(phrase, subject, object string) Fault {
	all := t.Split(phrase)
	if len(all) == 0 {
		return Sound // that is another matter
	}
	whole := strings.Join(all, " ")
	if t.empty[whole] || t.empty[strings.ToLower(strings.TrimSpace(phrase))] || t.idle(all) || t.naming(all, subject) || t.naming(all, object) {
		return Empty
	}
	if one := all[0]; len(all) == 1 && t.Name == "en" && t.nouns[one] && t.verbs[one] && !plural(subject) {
		return NoRelation // as a verb it would end in s
	}
	if t.relates(whole, all) {
		return Sound
	}
	if t.names(phrase, all, plural(subject)) {
		return NoRelation
	}
	return Sound
}

// idle tells that all words of a phrase are weak, unless together they mean something.
func (t *Tongue) idle(all []string) bool {
	if _, means := t.meanings[strings.Join(all, " ")]; means {
		return false
	}
	for _, w := range all {
		if !t.weak[w] && !t.copulas[w] && !t.having[w] && !t.articles[w] {
			return false
		}
	}
	return true
}

// naming tells that a phrase says no more than a label, or a word of it.
func (t *Tongue) naming(all []string, label string) bool {
	of := t.Split(label)
	named := false
	for _, w := range all {
		switch {
		case slices.Contains(of, w) && !t.function(w):
			named = true
		case t.weak[w] || t.copulas[w] || t.having[w] || t.articles[w]:
		default:
			return false
		}
	}
	return named
}

// relates tells that a phrase holds a word that makes a relation: a verb, a preposition, a
// conjunction.
func (t *Tongue) relates(whole string, all []string) bool {
	if _, means := t.meanings[whole]; means || t.relations[whole] {
		return true
	}
	for i, w := range all {
		switch {
		case t.relations[w], t.copulas[w], t.auxiliaries[w], t.conjunctions[w], t.having[w]:
			return true
		case t.prepositions[w]:
			// "colour of" still is no relation; "part of" is.
			if i == len(all)-1 && i > 0 && t.weak[w] && !t.relationNouns[all[i-1]] && t.noun(all[i-1]) && !t.verb(all[i-1]) {
				continue
			}
			return true
		case t.verb(w):
			return true
		}
	}
	return false
}

// verb tells that a word may be a form of a verb that is known.
func (t *Tongue) verb(w string) bool {
	if t.verbs[w] {
		return !t.adjectives[w]
	}
	if t.nouns[w] || t.adjectives[w] {
		return false
	}
	for _, f := range verbForms[t.Name] {
		base, ok := strings.CutSuffix(w, f[0])
		if !ok || len(base) < 2 {
			continue
		}
		if t.verbs[base+f[1]] {
			return true
		}
		if n := len(base); t.Name == "en" && f[0] != "s" && n > 2 && base[n-1] == base[n-2] && t.verbs[base[:n-1]] {
			return true // stopped, running
		}
	}
	if t.Name == "en" {
		for _, prefix := range []string{"re", "un", "over", "out", "dis", "mis", "co", "de", "pre", "counter"} {
			if rest, ok := strings.CutPrefix(w, prefix); ok && len(rest) > 3 && t.verb(rest) {
				return true
			}
		}
	}
	return false
}

// verbForms gives the endings of forms of a verb, each with that of the form in the list.
var verbForms = map[string][][2]string{
	"en": {{"ies", "y"}, {"es", ""}, {"es", "e"}, {"s", ""}, {"ied", "y"}, {"ed", ""}, {"ed", "e"}, {"ing", ""}, {"ing", "e"}},
	"de": {{"en", "t"}, {"te", "t"}, {"ten", "t"}, {"et", "t"}, {"et", "en"}, {"t", "en"}, {"te", "en"}, {"end", "t"}, {"end", "en"}},
	"fr": {{"ent", "e"}, {"a", "e"}, {"èrent", "e"}, {"ait", "e"}, {"aient", "e"}, {"é", "e"}, {"ée", "e"}, {"és", "e"}, {"ées", "e"}, {"er", "e"}, {"era", "e"}, {"eront", "e"}, {"ant", "e"}, {"ssent", "t"}},
	"es": {{"an", "a"}, {"en", "e"}, {"ó", "a"}, {"ió", "e"}, {"aron", "a"}, {"ieron", "e"}, {"aba", "a"}, {"aban", "a"}, {"ía", "e"}, {"ían", "e"}, {"ado", "a"}, {"ada", "a"}, {"ados", "a"}, {"adas", "a"}, {"ido", "e"}, {"ida", "e"}, {"idos", "e"}, {"idas", "e"}, {"ar", "a"}, {"er", "e"}, {"ir", "e"}, {"ará", "a"}, {"erá", "e"}, {"ando", "a"}, {"iendo", "e"}},
}

// plural tells of an English label that a verb that follows it has no s at its end.
func plural(label string) bool {
	fields := strings.Fields(strings.ToLower(label))
	if len(fields) == 0 {
		return false
	}
	last := fields[len(fields)-1]
	if slices.Contains(fields, "and") || slices.Contains([]string{"people", "children", "men", "women", "teeth", "feet", "mice", "bacteria", "data", "they", "we"}, last) {
		return true
	}
	return strings.HasSuffix(last, "s") && !ends(last, []string{"ss", "us", "is"})
}

// noun tells that a word is surely a noun.
func (t *Tongue) noun(w string) bool {
	return t.nouns[w] || t.nouns[singular(w)] || ends(singular(w), t.nounEndings) || ends(w, t.nounEndings)
}

func singular(w string) string {
	if base, ok := strings.CutSuffix(w, "ies"); ok {
		return base + "y"
	}
	return strings.TrimSuffix(w, "s")
}

// adjective tells that a word is surely an adjective.
func (t *Tongue) adjective(w string) bool {
	one := singular(w)
	for _, prefix := range []string{"", "un", "in", "im"} {
		if rest, ok := strings.CutPrefix(one, prefix); ok && (t.adjectives[rest] || t.adjectives[strings.TrimPrefix(w, prefix)]) {
			return true
		}
	}
	return ends(w, t.adjectiveEndings) || ends(one, t.adjectiveEndings)
}

// ends tells that a word has one of some endings, and enough before it to be another word.
func ends(w string, endings []string) bool {
	const least = 3 // letters before the ending
	return slices.ContainsFunc(endings, func(e string) bool {
		return strings.HasSuffix(w, e) && len([]rune(w)) >= len([]rune(e))+least
	})
}

// names tells that a phrase ends in a noun or an adjective, and holds nothing but such words and
// what goes with them. Many is whether its subject is plural.
func (t *Tongue) names(phrase string, all []string, many bool) bool {
	written := strings.Fields(phrase)
	capital := func(i int) bool {
		if t.Name != "de" || len(written) != len(all) {
			return false
		}
		first := []rune(written[i])[0]
		return unicode.IsUpper(first) && (len(all) == 1 || i > 0 || unicode.IsUpper([]rune(written[len(written)-1])[0]))
	}
	sure := false
	for i, w := range all {
		switch {
		case t.articles[w], t.adverbs[w], t.weak[w]:
			continue
		}
		sure = t.noun(w) || t.adjective(w) || capital(i) || !many && t.unlikeAVerb(w)
		if !sure {
			return false
		}
	}
	return sure
}

// unlikeAVerb tells of a word that is not known that it has not the form in which a verb stands in
// a phrase.
func (t *Tongue) unlikeAVerb(w string) bool {
	switch t.Name {
	case "en":
		return !t.numbers[w] && !isNumber(w) && !ends(w, []string{"s", "ed", "ing", "en", "fy", "ize", "ise", "ate"}) && len(w) > 3
	case "es":
		return ends(w, []string{"o", "l", "d", "z"})
	}
	return false
}

// Meaning gives what a phrase says of the order of its ends, if it is known to say any such thing.
func (t *Tongue) Meaning(phrase string) (Meaning, bool) {
	m, ok := t.meanings[strings.Join(t.Split(phrase), " ")]
	return m, ok
}

// Verb gives the stem of the verb of a phrase, and whether the phrase is passive, so that it is
// done by its object: "is caused by". It is empty where the phrase is not of that sort.
func (t *Tongue) Verb(phrase string) (stem string, passive bool) {
	all := t.Split(phrase)
	var rest []string
	for _, w := range all {
		if !t.articles[w] && !t.adverbs[w] {
			rest = append(rest, w)
		}
	}
	n := len(rest)
	helped := n == 3 && t.by[rest[2]] && (t.copulas[rest[0]] || t.auxiliaries[rest[0]] && t.Name == "de")
	behind := n == 3 && t.Name == "de" && t.auxiliaries[rest[0]] && t.by[rest[1]] // wird von … getan
	switch {
	case helped && !t.function(rest[1]):
		return t.root(rest[1], true), true
	case behind:
		return t.root(rest[2], true), true
	case n == 1 && t.verb(rest[0]):
		return t.root(rest[0], false), false
	}
	return "", false
}

// root brings the forms of a verb together: that which does and that which is done.
func (t *Tongue) root(w string, done bool) string {
	if t.Name == "de" && done {
		w = strings.TrimSuffix(strings.TrimPrefix(w, "ge"), "en")
	}
	if t.Name == "es" && done {
		for _, e := range []string{"ado", "ada", "ido", "ida", "ados", "adas", "idos", "idas"} {
			w = strings.TrimSuffix(w, e)
		}
	}
	if t.Name == "fr" && done {
		for _, e := range []string{"ées", "ée", "és", "é"} {
			w = strings.TrimSuffix(w, e)
		}
	}
	return t.Stem(w)
}

// Contrary tells that two phrases between the same two concepts deny each other: one is the other
// with a "not", or they hold words of contrary meaning and are alike otherwise.
func (t *Tongue) Contrary(a, b string) bool {
	one, oneNot := t.content(a)
	two, twoNot := t.content(b)
	if slices.Equal(one, two) {
		return oneNot != twoNot && (len(one) > 0 || t.plain(a) && t.plain(b))
	}
	if oneNot != twoNot || len(one) != len(two) {
		return false
	}
	opposed := 0
	for i := range one {
		switch {
		case one[i] == two[i]:
		case t.contrary[[2]string{one[i], two[i]}]:
			opposed++
		default:
			return false
		}
	}
	return opposed == 1
}

// plain tells that a phrase is a copula or a having, with a negation or without.
func (t *Tongue) plain(phrase string) bool {
	return !slices.ContainsFunc(t.Split(phrase), func(w string) bool {
		return !t.copulas[w] && !t.having[w] && !t.negations[w] && !t.articles[w]
	})
}

// content gives the stems of what a phrase says, and whether it denies it. What is said by a
// preposition counts where it has a contrary.
func (t *Tongue) content(phrase string) (stems []string, not bool) {
	for _, w := range t.Split(phrase) {
		stem := t.Stem(w)
		switch {
		case t.negations[w]:
			not = !not || t.Name == "fr" // ne … pas denies once
		case t.opposed[stem]:
			stems = append(stems, stem)
		case t.articles[w], t.copulas[w], t.having[w], t.auxiliaries[w], t.weak[w]:
		case t.prepositions[w], t.adverbs[w]:
		default:
			stems = append(stems, stem)
		}
	}
	return stems, not
}

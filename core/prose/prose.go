// Package prose reads plain sentences as propositions: what is said of what, by which words. It knows linking
// phrases (those of the phrase bank, common verbs, and how phrases are made around "is" and "are"), and nothing
// of grammar beyond that; what it is not sure of it leaves unread, for its author to say. English and German.
package prose

import (
	"slices"
	"strings"
	"unicode"

	"mevrin/core/likeness"
)

// Sentence is a sentence of a text.
type Sentence struct {
	Words string // as it was written
	// Said is what it says; empty where it was not read. Whole tells that all of it was.
	Said  []Proposition
	Whole bool
}

// Proposition is what is said of what.
type Proposition struct {
	From   []string
	Phrase string
	To     []string
}

// The bounds of what is read.
const (
	MaxSentences = 400
	maxTerm      = 7 // words of a concept
	maxLook      = 4 // words of a phrase behind "is"
	maxSaid      = 8 // propositions of one sentence
)

// Read gives the sentences of a text with what they say, at most MaxSentences. Phrases are linking phrases that
// are known besides the common ones.
func Read(text string, phrases []string) []Sentence {
	r := reader{phrases: phrasesOf(phrases)}
	var all []Sentence
	for _, words := range split(text) {
		if len(all) == MaxSentences {
			break
		}
		s := Sentence{Words: words}
		s.Said, s.Whole = r.read(words)
		all = append(all, s)
	}
	return all
}

// split parts a text into sentences.
func split(text string) (all []string) {
	var one strings.Builder
	end := func() {
		if words := strings.Join(strings.Fields(one.String()), " "); words != "" {
			all = append(all, words)
		}
		one.Reset()
	}
	runes := []rune(strings.ReplaceAll(text, "\r", ""))
	for i, r := range runes {
		one.WriteRune(r)
		last := i+1 == len(runes) || unicode.IsSpace(runes[i+1])
		switch {
		case strings.ContainsRune("!?;", r) && last, r == '\n' && i+1 < len(runes) && runes[i+1] == '\n':
			end()
		case r == '.' && last && !abbreviated(one.String()):
			end()
		}
	}
	end()
	return all
}

// abbreviated tells that a full stop ends a short form, and no sentence.
func abbreviated(so string) bool {
	at := strings.LastIndexFunc(strings.TrimSuffix(so, "."), unicode.IsSpace)
	word := strings.ToLower(so[at+1:])
	return slices.Contains([]string{"e.g.", "i.e.", "etc.", "vs.", "cf.", "approx.", "z.b.", "d.h.", "ca.", "bzw.", "dr.", "mr.", "mrs.", "st.", "no."}, word)
}

type reader struct {
	phrases [][]string
	before  []string // the subject of the sentence before
}

// phrasesOf gives phrases as words in small letters, the longest first.
func phrasesOf(more []string) [][]string {
	var all [][]string
	for _, p := range more {
		if words := strings.Fields(strings.ToLower(p)); len(words) > 0 {
			all = append(all, words)
		}
	}
	slices.SortStableFunc(all, func(a, b []string) int { return len(b) - len(a) })
	return all
}

// read gives what a sentence says, and whether that is all of it.
func (r *reader) read(sentence string) (said []Proposition, whole bool) {
	words, whole := main(tokens(sentence))
	at, n := r.phrase(words, false)
	if at < 0 {
		return nil, false
	}
	subject := words[:at]
	if comma := slices.IndexFunc(subject, func(t token) bool { return t.comma }); comma >= 0 && comma+1 < at && !list(subject) {
		whole = whole && comma == 0 // "Therefore," says nothing; "In the tower," does
		subject = subject[comma+1:]
	}
	subject = opened(subject)
	from := terms(subject)
	if len(subject) == 1 && pronouns[subject[0].low] {
		from = r.before
	}
	if len(from) == 0 {
		return nil, false
	}
	r.before = from
	for {
		rest := words[at+n:]
		end := r.turn(rest)
		to := terms(rest[:end])
		if len(to) == 0 || len(said) == maxSaid || moved(words[at:at+n], rest[:end]) {
			return said, false
		}
		said = append(said, Proposition{From: from, Phrase: joined(words[at : at+n]), To: to})
		if end == len(rest) {
			return said, whole
		}
		// "…, which is …" says something of what stood last, "… and is …" of the same.
		switch {
		case relative[rest[end].low]:
			from = to[len(to)-1:]
		case joins[rest[end].low]:
			from = r.before
		default:
			return said, false
		}
		words = rest[end+1:]
		if at, n = r.phrase(words, true); at != 0 {
			return said, false
		}
	}
}

// main gives a sentence without the one that it begins with, if that only says when, where or why.
func main(words []token) (rest []token, whole bool) {
	if len(words) == 0 || !turns[words[0].low] {
		return words, true
	}
	comma := slices.IndexFunc(words, func(t token) bool { return t.comma })
	return words[comma+1:], false
}

// turn gives the place at which something else begins to be said; the number of words where nothing does.
func (r *reader) turn(words []token) int {
	for i, t := range words {
		next := i+1 < len(words)
		switch {
		case turns[t.low]:
			return i
		case joins[t.low] && next && (copulas[words[i+1].low] || verb(words[i+1].low) && i+2 < len(words)):
			return i
		case next && (t.low == "by" || t.low == "to") && (strings.HasSuffix(words[i+1].low, "ing") || t.low == "to" && verbs[words[i+1].low]):
			return i
		}
	}
	return len(words)
}

// moved tells of "makes the metal vibrate": what is said is more than the words behind the phrase.
func moved(phrase, rest []token) bool {
	makes := strings.TrimSuffix(phrase[0].low, "s")
	return len(rest) > 1 && slices.Contains([]string{"make", "let", "help"}, makes) && verbs[rest[len(rest)-1].low]
}

// phrase finds the first linking phrase: where it begins and how many words it has; -1 where there is none. Goes on
// tells that its subject was named before.
func (r *reader) phrase(words []token, goesOn bool) (at, n int) {
	for i := 0; i < len(words)-1; i++ {
		if i > 0 && binds[words[i-1].low] {
			continue // "the sounds", "of moves"
		}
		for _, p := range r.phrases {
			if begins(words[i:], p) && len(words) > i+len(p) {
				return i, len(p)
			}
		}
		if copulas[words[i].low] {
			return i, around(words[i:])
		}
		if (i > 0 || goesOn) && verb(words[i].low) {
			n := 1
			if particles[words[i+1].low] && i+2 < len(words) {
				n++
			}
			if i+n < len(words)-1 && prepositions[words[i+n].low] {
				n++
			}
			return i, n
		}
	}
	return -1, 0
}

// around gives how many words belong to a phrase that begins with "is": up to the preposition behind it, if one
// comes soon.
func around(words []token) int {
	for j := 1; j <= maxLook && j < len(words)-1; j++ {
		low := words[j].low
		if low == "and" || low == "or" || low == "und" || low == "oder" || turns[low] || words[j-1].comma {
			break
		}
		if prepositions[low] {
			return j + 1
		}
	}
	return 1
}

func begins(words []token, with []string) bool {
	if len(words) < len(with) {
		return false
	}
	for i, w := range with {
		if words[i].low != w {
			return false
		}
	}
	return true
}

// verb tells whether a word is one of the common verbs, in a form that says what something does.
func verb(low string) bool {
	if verbs[low] {
		return true
	}
	for _, ending := range []string{"s", "es", "ed", "d"} {
		if base, is := strings.CutSuffix(low, ending); is && verbs[base] {
			return true
		}
	}
	base, is := strings.CutSuffix(low, "ies")
	return is && verbs[base+"y"]
}

// terms gives the concepts of a list, without their articles: "copper, tin and zinc". None where one of them is too
// long to be a concept.
func terms(words []token) (all []string) {
	var one []token
	end := func() bool {
		for len(one) > 1 && articles[one[0].low] {
			one = one[1:]
		}
		if slices.ContainsFunc(one, func(t token) bool { return meant[t.low] }) {
			return false
		}
		if len(one) > maxTerm {
			return false
		}
		if words := concept(one); words != "" && !slices.ContainsFunc(all, func(w string) bool { return likeness.Fold(w) == likeness.Fold(words) }) {
			all = append(all, words)
		}
		one = nil
		return true
	}
	for i, t := range words {
		if joins[t.low] && i > 0 && i+1 < len(words) {
			if !end() {
				return nil
			}
			continue
		}
		one = append(one, t)
		if t.comma && !end() {
			return nil
		}
	}
	if !end() || len(all) > 8 {
		return nil
	}
	return all
}

// list tells that commas part things of a list, and not what comes before a sentence.
func list(words []token) bool {
	return slices.ContainsFunc(words, func(t token) bool { return joins[t.low] }) && slices.ContainsFunc(words, func(t token) bool { return t.comma })
}

// opened leaves out what only leads over from the sentence before.
func opened(words []token) []token {
	for len(words) > 1 && leads[words[0].low] {
		words = words[1:]
	}
	return words
}

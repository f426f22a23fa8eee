package conceptmap

import (
	"maps"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// CompareLangs orders languages by their tags.
func CompareLangs(a, b Lang) int {
	if a < b {
		return -1
	} else if a > b {
		return 1
	}
	return 0
}

// Lang is a language tag as in BCP 47, for example "en" or "pt-BR".
type Lang string

// LangPattern is the form of a language tag.
var LangPattern = regexp.MustCompile(`^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,4}$`)

// Valid tells whether the tag has the form of a language tag.
func (l Lang) Valid() bool { return LangPattern.MatchString(string(l)) }

// Text is a piece of wording in any number of languages. A language without
// words is absent, never present and empty. A Text is never altered in place.
type Text map[Lang]string

// In gives the words in one language and nothing else.
func (t Text) In(l Lang) string { return t[l] }

// For gives the words to show to a reader of the first language: that
// language's, else those of the next language given, and so on, else those of
// the alphabetically first language that has any.
func (t Text) For(langs ...Lang) string {
	for _, l := range langs {
		if s := t[l]; s != "" {
			return s
		}
	}
	first, words := Lang(""), ""
	for l, s := range t {
		if first == "" || l < first {
			first, words = l, s
		}
	}
	return words
}

// With gives a Text that differs in one language; empty words remove it.
func (t Text) With(l Lang, words string) Text {
	next := maps.Clone(t)
	if words == "" {
		delete(next, l)
		if len(next) == 0 {
			return nil
		}
		return next
	}
	if next == nil {
		next = Text{}
	}
	next[l] = words
	return next
}

// Empty tells whether no language has words.
func (t Text) Empty() bool { return len(t) == 0 }

// What a text may hold, in characters (runes). The limits are generous for
// their use and keep one hostile text from filling a page or the memory.
const (
	MaxLabel    = 400
	MaxPhrase   = 200
	MaxTitle    = 200
	MaxQuestion = 400
	MaxNote     = 20_000
)

// Clean makes wording safe to store: valid UTF-8 in normal form C (Unicode
// Standard Annex 15), line ends as one line feed, no control characters, no
// characters that reorder the text around them (the explicit directional
// marks of Unicode Standard Annex 9), no spaces at either end. It refuses what
// is no text and what is longer than most characters; what names the wording.
func Clean(words string, most int, what string) (string, error) {
	if !utf8.ValidString(words) {
		return "", Refusef("%s holds bytes that are no text. Please type it anew.", what)
	}
	// Counted before any costly work, so that a giant text is cheap to refuse.
	if len(words) > 16*most+64 {
		return "", Refusef("%s is too long: at most %d characters fit.", what, most)
	}
	words = strings.ReplaceAll(words, "\r\n", "\n")
	words = strings.Map(func(r rune) rune {
		switch {
		case r == '\n':
			return r
		case r == '\t' || r == '\r' || r == '\u2028' || r == '\u2029':
			return ' '
		case r >= '\u202a' && r <= '\u202e', r >= '\u2066' && r <= '\u2069', r == '\ufeff':
			return -1
		case unicode.IsControl(r), r >= 0xfff9 && r <= 0xffff, r >= 0xe0000 && r <= 0xe0fff:
			return -1
		}
		return r
	}, words)
	words = strings.TrimSpace(norm.NFC.String(words))
	if n := utf8.RuneCountInString(words); n > most {
		return "", Refusef("%s is too long: it has %d characters, and at most %d fit.", what, n, most)
	}
	return words, nil
}

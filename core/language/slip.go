package language

import (
	"slices"
	"strings"
	"unicode"
)

// What a label must have before a slip in typing is thought of, in letters, and from where on words
// are so long that any one letter may be a slip.
const (
	longEnough = 5
	veryLong   = 9
)

// slips finds labels that differ by a slip in typing: a letter too many, too few, another one, or
// two exchanged (Damerau, A technique for computer detection and correction of spelling errors,
// 1964). Candidates are those that become equal when each loses a letter.
func (v *variants) slips() {
	by := map[string][]int{}
	for i, f := range v.forms {
		text := []rune(strings.Join(f.whole, " "))
		if len(text) < longEnough {
			continue
		}
		tried := map[int]bool{}
		for drop := -1; drop < len(text); drop++ {
			key := string(text)
			if drop >= 0 {
				key = string(text[:drop]) + string(text[drop+1:])
			}
			for _, o := range by[key] {
				if o != i && !tried[o] {
					tried[o] = true
					if v.t.slip(v.forms[o].whole, f.whole) && !slices.Equal(v.forms[o].words, f.words) {
						v.add(o, i, Slipped)
					}
				}
			}
			if l := by[key]; len(l) == 0 || l[len(l)-1] != i {
				by[key] = append(l, i)
			}
		}
	}
}

// slip tells that all words of two labels are equal but for one, which is the other mistyped.
func (t *Tongue) slip(a, b []string) bool {
	if len(a) != len(b) {
		return false
	}
	found := false
	for i := range a {
		if a[i] == b[i] {
			continue
		}
		if found || !t.mistyped(a[i], b[i], len(a) > 1) {
			return false
		}
		found = true
	}
	return found
}

// opposite are beginnings that make another word.
var opposite = [][2]string{{"hypo", "hyper"}, {"inter", "intra"}, {"macro", "micro"}, {"makro", "mikro"}, {"endo", "exo"}, {"ecto", "endo"}, {"anti", "ante"}, {"homo", "hetero"}, {"in", "im"}, {"ab", "ad"}, {"im", "em"}, {"e", "i"}, {"pre", "pro"}, {"ex", "im"}}

// telling are endings of one letter that make another word.
const telling = "ysdrneaot"

// mistyped tells that a word is another with one slip in it. Where two words differ in how they
// begin or end, or are known as words that are easily taken for each other, they are two. Among tells that other words are equal.
func (t *Tongue) mistyped(a, b string, among bool) bool {
	if t.unlike[[2]string{a, b}] || strings.IndexFunc(a+b, unicode.IsDigit) >= 0 {
		return false
	}
	for _, p := range opposite {
		if strings.HasPrefix(a, p[0]) && strings.HasPrefix(b, p[1]) && strings.TrimPrefix(a, p[0]) == strings.TrimPrefix(b, p[1]) ||
			strings.HasPrefix(b, p[0]) && strings.HasPrefix(a, p[1]) && strings.TrimPrefix(b, p[0]) == strings.TrimPrefix(a, p[1]) {
			return false
		}
	}
	x, y := []rune(a), []rune(b)
	if len(x) > len(y) {
		x, y = y, x
	}
	if len(x) < longEnough-1 || len(y) < longEnough || len(y)-len(x) > 1 {
		return false
	}
	at := 0 // where they begin to differ
	for at < len(x) && x[at] == y[at] {
		at++
	}
	if at == 0 {
		return false
	}
	if len(x) < len(y) { // a letter more
		if string(x[at:]) != string(y[at+1:]) {
			return false
		}
		last := at == len(x)
		if last && y[at] == y[at-1] {
			return true // one of a double letter
		}
		return !last && (at > 1 || len(x) > longEnough) || last && !strings.ContainsRune(telling, y[at]) || last && y[at] == 'e' && (len(x) > 8 || among)
	}
	rest := at + 1
	if rest < len(x) && x[at] == y[rest] && x[rest] == y[at] && string(x[rest+1:]) == string(y[rest+1:]) {
		return true // two exchanged
	}
	const least = 6 // of words in which one letter is another
	return string(x[rest:]) == string(y[rest:]) && rest < len(x)-1 && len(x) >= least && !(vowel(x[at]) && vowel(y[at]) && len(x) < veryLong)
}

func vowel(r rune) bool { return strings.ContainsRune("aeiouyäöüéèêáíóú", r) }

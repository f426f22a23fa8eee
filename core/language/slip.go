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
	// Labels by the hash of what they become, each list in one slice.
	type entry struct{ label, next int32 }
	head := make(map[uint64]int32, 16*len(v.forms))
	entries := []entry{{}} // the first stands for none
	last := make([]int, len(v.forms))
	for i := range last {
		last[i] = -1
	}
	for i, f := range v.forms {
		text := []rune(strings.Join(f.whole, " "))
		if len(text) < longEnough {
			continue
		}
		for drop := -1; drop < len(text); drop++ {
			if drop > 0 && text[drop] == text[drop-1] {
				continue // it becomes the same
			}
			key := hashWithout(text, drop)
			for at := head[key]; at != 0; at = entries[at].next {
				o := int(entries[at].label)
				if o != i && last[o] != i {
					last[o] = i // tried
					if v.t.slip(v.forms[o].whole, f.whole) && !slices.Equal(v.forms[o].words, f.words) {
						v.add(o, i, Slipped)
					}
				}
			}
			entries = append(entries, entry{int32(i), head[key]})
			head[key] = int32(len(entries) - 1)
		}
	}
}

// hashWithout hashes a text without one of its letters, all of it with -1 (FNV-1a: Fowler, Noll
// and Vo, 1991).
func hashWithout(text []rune, drop int) uint64 {
	h := uint64(14695981039346656037)
	for i, r := range text {
		if i != drop {
			h = (h ^ uint64(r)) * 1099511628211
		}
	}
	return h
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

package likeness

import (
	"slices"
	"strings"
	"unicode"
)

// Holds tells whether words hold what is sought, whatever the case of letters.
func Holds(words, sought string) bool {
	return len(seek(alike([]rune(words)), alike([]rune(sought)))) > 0
}

// Part is a piece of words: what is sought, or what stands between.
type Part struct {
	Words  string
	Sought bool
}

// Parted takes words apart at what is sought, whatever the case of letters.
// The parts joined are the words.
func Parted(words, sought string) []Part {
	runes, long := []rune(words), len([]rune(sought))
	var parts []Part
	at := 0
	for _, p := range seek(alike(runes), alike([]rune(sought))) {
		if p > at {
			parts = append(parts, Part{string(runes[at:p]), false})
		}
		at = p + long
		parts = append(parts, Part{string(runes[p:at]), true})
	}
	if at < len(runes) {
		parts = append(parts, Part{string(runes[at:]), false})
	}
	return parts
}

// Replaced gives words with every place of what is sought replaced. The case of
// letters makes no difference in the search, and is taken as given from what
// stands there instead. What would become longer than most bytes is left as it is,
// and ok is false.
func Replaced(words, sought, with string, most int) (after string, ok bool) {
	parts := Parted(words, sought)
	long := len(words)
	for _, p := range parts {
		if p.Sought {
			if long += len(with) - len(p.Words); long > most {
				return words, false
			}
		}
	}
	var out strings.Builder
	for _, p := range parts {
		if p.Sought {
			out.WriteString(with)
		} else {
			out.WriteString(p.Words)
		}
	}
	return out.String(), true
}

// alike gives letters of any case as one; rune by rune, so that places in the
// result are places in the original.
func alike(runes []rune) []rune {
	same := make([]rune, len(runes))
	for i, r := range runes {
		same[i] = unicode.ToLower(r)
	}
	return same
}

// seek gives where what is sought begins, none overlapping another.
func seek(in, sought []rune) []int {
	if len(sought) == 0 {
		return nil
	}
	var places []int
	for i := 0; i+len(sought) <= len(in); {
		if slices.Equal(in[i:i+len(sought)], sought) {
			places = append(places, i)
			i += len(sought)
		} else {
			i++
		}
	}
	return places
}

// Begins tells whether each word that is sought begins one of the words; where nothing is
// sought, everything does.
func Begins(words, sought string) bool {
	words = " " + Fold(words)
	for word := range strings.FieldsSeq(Fold(sought)) {
		if !strings.Contains(words, " "+word) {
			return false
		}
	}
	return true
}

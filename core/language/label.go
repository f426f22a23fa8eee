package language

import (
	"slices"
	"strings"
	"unicode"
)

// TwoIdeas tells that a label joins two ideas, each of which could be linked by itself.
func (t *Tongue) TwoIdeas(label string) bool {
	if strings.ContainsAny(label, ";") && len(t.Split(label)) > 1 {
		return true
	}
	if !strings.ContainsAny(label, " /,") {
		return false
	}
	written := strings.Fields(apart.Replace(withoutBrackets(label)))
	for i, w := range written {
		low := strings.ToLower(w)
		if i == 0 || i == len(written)-1 || !t.joins[low] && w != "," {
			continue
		}
		before, after := written[i-1], written[i+1]
		switch {
		case slices.ContainsFunc(written[:i], func(w string) bool { return t.pairing[strings.ToLower(w)] }):
			return false // what lies between the two is one
		case w == "/" && (short(before) || short(after)): // km/h
		case w == ",": // a list has an "and" at its end
		case w == "+" && (short(before) || short(after)):
		case named(before) && named(after) && len(written) == 3 && t.Name != "de":
			return false // Romeo and Juliet
		case t.function(strings.ToLower(after)) && !t.articles[strings.ToLower(after)]: // black and not white
		case isNumber(before) && isNumber(after):
		default:
			return true
		}
	}
	return false
}

// apart sets signs that join words apart from these.
var apart = strings.NewReplacer("/", " / ", ",", " , ")

func short(w string) bool { return len([]rune(w)) <= 2 }

// named tells that a word is written like a name.
func named(w string) bool {
	r := []rune(w)
	return unicode.IsUpper(r[0]) && len(r) > 1 && unicode.IsLower(r[1])
}

// withoutBrackets leaves out what stands in brackets.
func withoutBrackets(label string) string {
	depth := 0
	return strings.Map(func(r rune) rune {
		switch r {
		case '(', '[':
			depth++
		case ')', ']':
			depth = max(0, depth-1)
			return -1
		}
		if depth > 0 {
			return -1
		}
		return r
	}, label)
}

// OnlyNumber tells that a label is a number and nothing else, in figures or in words. T may be
// nil: then figures alone count.
func (t *Tongue) OnlyNumber(label string) bool {
	fields := strings.Fields(label)
	if len(fields) == 0 || !isNumber(fields[0]) && (t == nil || !t.numbers[strings.ToLower(fields[0])]) {
		return false
	}
	for _, w := range fields {
		if w != "%" && w != "‰" && !isNumber(w) && (t == nil || !t.numbers[strings.ToLower(w)]) {
			return false
		}
	}
	return true
}

// isNumber tells that a word is written in figures, with what signs may go with them.
func isNumber(w string) bool {
	digits := false
	for _, r := range w {
		if unicode.IsDigit(r) {
			digits = true
		} else if !strings.ContainsRune(".,%‰+-–−±×·/:°'’()", r) {
			return false
		}
	}
	return digits
}

// Synonyms finds labels that the word list, or one of the sets given besides, knows as names of one
// thing. Pairs are by the places of labels.
func (t *Tongue) Synonyms(labels []string, besides [][]string) [][2]int {
	sets := map[string][]int{}
	for i, names := range besides {
		for _, n := range names {
			key := t.key(n)
			sets[key] = append(sets[key], -1-i)
		}
	}
	in := map[int][]int{} // labels of each set
	var pairs [][2]int
	for i, label := range labels {
		key := t.key(label)
		if key == "" {
			continue
		}
		for _, set := range slices.Concat(t.synonyms[key], sets[key]) {
			for _, other := range in[set] {
				if t.key(labels[other]) != key && !slices.Contains(pairs, [2]int{other, i}) {
					pairs = append(pairs, [2]int{other, i})
				}
			}
			in[set] = append(in[set], i)
		}
	}
	return pairs
}

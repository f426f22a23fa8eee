package brief

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
)

// Written reads a line off the fields of a form: get gives the first value of a field, all gives
// every one of them. What has no effect on what is counted is left out.
func Written(get func(field string) string, all func(field string) []string) (cm.Demand, error) {
	l := cm.Demand{Says: strings.TrimSpace(get("says")), Of: cm.Countable(get("of")), Step: cm.Step(get("step")), Kind: get(ByKind), Tag: get(ByTag), Region: get(ByRegion), Source: get(BySource)}
	var err error
	number := func(field string) int {
		words := strings.TrimSpace(get(field))
		if words == "" {
			return 0
		}
		n, wrong := strconv.Atoi(words)
		if wrong != nil && err == nil {
			err = cm.Refusef("“%s” is no whole number.", cm.Shortened(words, 40))
		}
		return n
	}
	l.Points, l.Level = number("points"), number(ByLevel)
	least, most := number("least"), number("most")
	switch get("amount") {
	case "most":
		l.AtMost = &most
	case "exactly":
		l.AtLeast, l.AtMost = &least, &least
	case "between":
		l.AtLeast, l.AtMost = &least, &most
	default:
		l.AtLeast = &least
	}
	switch {
	case get(ByUnder) != "":
		l.Where = &cm.Where{Under: get(ByUnder)}
	case strings.TrimSpace(get(ByBranch)) != "":
		l.Where = &cm.Where{Branch: strings.TrimSpace(get(ByBranch))}
	}
	if w := (cm.Words{Contains: parted(get("contains")), Begins: parted(get("begins")), List: get("list")}); w.List != "" || len(w.Contains)+len(w.Begins) > 0 {
		l.Words = &w
	}
	concepts, phrases, tos, ors := all("must-concept"), all("must-phrase"), all("must-to"), all("must-or")
	for i, c := range concepts {
		if i >= len(phrases) || i >= len(tos) || i >= len(ors) {
			break
		}
		m := cm.Must{Concept: strings.TrimSpace(c), Phrase: strings.TrimSpace(phrases[i]), To: strings.TrimSpace(tos[i]), Or: parted(ors[i])}
		if m.Concept != "" || m.Phrase != "" || m.To != "" {
			l.Must = append(l.Must, m)
		}
	}
	if l = Narrowed(l); l.Of == cm.CountRequired && get("amount") == "" {
		l.AtLeast, l.AtMost = nil, nil // all of them
	}
	if err == nil {
		err = l.Sound()
	}
	if err == nil && l.Words != nil && l.Words.List != "" && Lists[l.Words.List] == nil {
		err = cm.Refusef("There is no such list of words.")
	}
	return l, err
}

// parted takes words apart at commas.
func parted(words string) (all []string) {
	for one := range strings.SplitSeq(words, ",") {
		if one = strings.TrimSpace(one); one != "" {
			all = append(all, one)
		}
	}
	return all
}

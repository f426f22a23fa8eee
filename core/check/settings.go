package check

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
)

// Settings are how an author wants the rules on all maps; what a map says of its own comes first.
type Settings struct {
	Off   map[string]bool    `json:"off,omitempty"`
	Least map[string]float64 `json:"least,omitempty"`
	// Synonyms are sets of names that mean the same, besides those of the language.
	Synonyms [][]string `json:"synonyms,omitempty"`
}

// The bounds of an author's synonyms: of sets, of names in a set, of a name in characters.
const (
	maxSynonyms = 300
	maxInSet    = 30
	maxSynonym  = 100
)

// Key tells settings apart.
func (s Settings) Key() string {
	raw, _ := json.Marshal(s) // words, numbers and truths can always be written
	return string(raw)
}

// known tells whether there is a rule of that name.
func known(rule string) bool {
	return slices.ContainsFunc(Rules, func(r *Rule) bool { return r.ID == rule })
}

// With gives the settings with a rule switched on or off.
func (s Settings) With(rule string, on bool) (Settings, error) {
	if !known(rule) {
		return s, cm.Refusef("There is no rule of that name.")
	}
	if s.Off = maps.Clone(s.Off); on {
		delete(s.Off, rule)
	} else {
		if s.Off == nil {
			s.Off = map[string]bool{}
		}
		s.Off[rule] = true
	}
	return s, nil
}

// From gives the settings with a rule that speaks from so much on; as it comes where that is nil.
func (s Settings) From(rule string, least *float64) (Settings, error) {
	if !known(rule) {
		return s, cm.Refusef("There is no rule of that name.")
	}
	if s.Least = maps.Clone(s.Least); least == nil {
		delete(s.Least, rule)
		return s, nil
	}
	if !(*least > 0 && *least <= cm.MaxRuleLeast) {
		return s, cm.Refusef("That is a number above 0, and at most %d.", cm.MaxRuleLeast)
	}
	if s.Least == nil {
		s.Least = map[string]float64{}
	}
	s.Least[rule] = *least
	return s, nil
}

// Meaning gives the settings with synonyms as they are written: a set on each line, commas between
// its names.
func (s Settings) Meaning(lines string) (Settings, error) {
	s.Synonyms = nil
	for line := range strings.Lines(lines) {
		var set []string
		for name := range strings.SplitSeq(line, ",") {
			name, err := cm.Clean(name, maxSynonym, "A word that means the same")
			if err != nil {
				return s, err
			}
			if name != "" && utf8.RuneCountInString(name) <= maxSynonym {
				set = append(set, name)
			}
		}
		if len(set) > 1 {
			s.Synonyms = append(s.Synonyms, set[:min(len(set), maxInSet)])
		}
	}
	if len(s.Synonyms) > maxSynonyms {
		return s, cm.Refusef("At most %d sets of words can be kept.", maxSynonyms)
	}
	return s, nil
}

// Lines writes synonyms as Meaning reads them.
func (s Settings) Lines() string {
	var out strings.Builder
	for _, set := range s.Synonyms {
		out.WriteString(strings.Join(set, ", ") + "\n")
	}
	return out.String()
}

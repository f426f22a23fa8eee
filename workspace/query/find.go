package query

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
	"mevrin/workspace"
)

// Found is a place on the map at which words were found.
type Found struct {
	Element string
	Where   string // label, phrase or note
}

// Find seeks words in labels, phrases and notes, in reading order: each thing once,
// where it was found first.
func (s Reading) Find(words string) []Found {
	var all []Found
	if strings.TrimSpace(words) == "" {
		return nil
	}
	seen := map[string]bool{}
	s.eachText(func(key cm.Key, where, text string) {
		if e := workspace.Element(key); !seen[e] && likeness.Holds(text, words) {
			seen[e] = true
			all = append(all, Found{e, where})
		}
	})
	return all
}

// eachText gives every label, phrase and note of the map in its own language:
// concepts in reading order, then links as their sentences are read.
func (s Reading) eachText(give func(key cm.Key, where, words string)) {
	for _, id := range s.Structure.Order {
		c, key := s.Map.Concepts[id], cm.Key{Kind: cm.EntityConcept, ID: id}
		give(key, "label", s.Map.Words(c.Label))
		give(key, "note", s.Map.Words(c.Note))
	}
	done := map[cm.ID]bool{}
	for _, p := range s.Structure.Propositions() {
		id := p.Strand.Link
		if done[id] {
			continue
		}
		done[id] = true
		l, key := s.Map.Links[id], cm.Key{Kind: cm.EntityLink, ID: id}
		give(key, "phrase", s.Map.Words(l.Phrase))
		give(key, "note", s.Map.Words(l.Note))
	}
}

// Replacement shows what replacing words would do, before it is done.
type Replacement struct {
	Fault, Seek, With string
	Changes           []replacedText
	All               int
	More              bool
}

type replacedText struct {
	Where, Voice string
	Parts        []likeness.Part
	Step         string // the operation that does it
}

// Replaced shows what replacing words would do.
func (s Reading) Replaced(seek, with string) Replacement {
	v := Replacement{Seek: seek, With: with}
	s.eachText(func(key cm.Key, where, words string) {
		parts := likeness.Parted(words, seek)
		after, fits := likeness.Replaced(words, seek, with, 4*cm.MaxNote)
		if !fits && v.Fault == "" {
			v.Fault = s.t("In “%s” there would be no room for so many words.", short(words))
			v.Changes = nil
		}
		if after == words || v.Fault != "" {
			return
		}
		if v.All++; len(v.Changes) == workspace.MaxReplaced {
			v.More = true
			return
		}
		var op edit.Operation
		voice := "noun-words"
		switch where {
		case "label":
			op = &edit.NameConcept{Concept: key.ID, Label: after}
		case "phrase":
			op, voice = &edit.NameLink{Link: key.ID, Phrase: after}, "verb-words"
		default:
			op, voice = &edit.SetNote{On: key, Note: after}, ""
		}
		step, err := edit.MarshalOperations([]edit.Operation{op})
		if err == nil {
			// What cannot be done is said here, before anybody counts on it.
			_, err = edit.Apply(s.Map, []edit.Operation{op}, nil)
		}
		if err != nil {
			v.Fault = s.t("In “%s” that cannot be done. %s", short(words), err)
			v.Changes = nil
			return
		}
		v.Changes = append(v.Changes, replacedText{where, voice, nearby(parts), strings.TrimSuffix(strings.TrimPrefix(string(step), "["), "]")})
	})
	return v
}

// nearby shortens what stands far from what is sought.
func nearby(parts []likeness.Part) []likeness.Part {
	const most = 60
	for i, p := range parts {
		if runes := []rune(p.Words); !p.Sought && len(runes) > 2*most {
			head, tail := string(runes[:most]), string(runes[len(runes)-most:])
			if i == 0 {
				head = ""
			}
			if i == len(parts)-1 {
				tail = ""
			}
			parts[i].Words = head + " … " + tail
		}
	}
	return parts
}

// short gives the beginning of a long text, in one line.
func short(words string) string {
	words = strings.Join(strings.Fields(words), " ")
	if runes := []rune(words); len(runes) > 160 {
		return string(runes[:157]) + "…"
	}
	return words
}

// Split asks which links of a concept go to the second one.
type Split struct {
	Words string
	Ends  []splitEnd
}

type splitEnd struct {
	Link, End      cm.ID
	From, Verb, To string
}

// names gives the concepts of one side of a link.
func (s Reading) names(ends []cm.End) string {
	all := make([]string, len(ends))
	for i, e := range ends {
		all[i] = s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: e.Concept})
	}
	return strings.Join(all, ", ")
}

// Split asks which links of a concept go to the second one.
func (s Reading) Split(concept cm.ID) (v Split, err error) {
	c := s.Map.Concepts[concept]
	if c == nil {
		return v, cm.Refusef("That concept is no longer on the map.")
	}
	v.Words = s.Map.Words(c.Label)
	for _, id := range cm.SortedIDs(s.Map.Links) {
		l := s.Map.Links[id]
		for _, e := range l.Ends() {
			if e.Concept == c.ID {
				v.Ends = append(v.Ends, splitEnd{id, e.ID, s.names(l.From), s.Map.Words(l.Phrase), s.names(l.To)})
			}
		}
	}
	return v, nil
}

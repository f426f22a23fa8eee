package check

import (
	"strings"
	"unicode"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
)

var sourceRules = []*Rule{
	{
		ID: "source-missing", About: AboutSources, Title: "A file is not there any more",
		Why:   "What a source should show can be looked up by nobody.",
		Looks: "Sources with a file that the store does not hold.",
		find:  sourcesMissing,
	},
	{
		ID: "untold-note", About: AboutSources, Title: "A note tells what no link says",
		Why:   "What stands in a note alone is no part of what the map says: it is not checked, walked or compared.",
		Looks: "Notes of concepts that name another concept of the map, by a label of five letters or more, to which no link leads, not even over a third.",
		find:  untoldNotes,
	},
}

func sourcesMissing(l *look) []Place {
	if l.about.Missing == nil {
		return nil
	}
	var places []Place
	add := func(key cm.Key, sources map[cm.ID]cm.Source) {
		for _, id := range cm.SortedIDs(sources) {
			if f := sources[id].File; f != nil && l.about.Missing(f.Hash) {
				places = append(places, Place{[]cm.Key{key}, []Remedy{{Title: "Take the source away", Operations: []edit.Operation{&edit.DetachSource{On: key, ID: id}}}}})
			}
		}
	}
	for _, id := range l.s.Order {
		add(concept(id), l.m.Concepts[id].Sources)
	}
	for _, id := range cm.SortedIDs(l.m.Links) {
		add(link(id), l.m.Links[id].Sources)
	}
	for _, id := range cm.SortedIDs(l.m.Stops) {
		add(stopKey(id), l.m.Stops[id].Sources)
	}
	return places
}

// What a label must have before it is looked for in notes, and how long a note that is looked
// through may be, in bytes.
const (
	namedFrom  = 5
	noteLooked = 4000
)

func untoldNotes(l *look) []Place {
	var places []Place
	var near map[cm.ID]map[cm.ID]bool
	var folded []string
	for i, id := range l.s.Order {
		note := likeness.Fold(l.m.Words(l.m.Concepts[id].Note))
		if note == "" {
			continue
		}
		if near == nil {
			near = neighbours(l.s)
			for _, label := range l.names() {
				folded = append(folded, likeness.Fold(label))
			}
		}
		note = note[:min(len(note), noteLooked)]
		for j, name := range folded {
			o := l.s.Order[j]
			if i == j || len([]rune(name)) < namedFrom || strings.Contains(folded[i], name) || !hasWord(note, name) || near[id][o] || l.overOne(near, id, o) {
				continue
			}
			places = append(places, Place{[]cm.Key{concept(id), concept(o)}, []Remedy{linkRemedy(l.m, "Say it by a link", id, o)}})
			break // one for each note is enough
		}
	}
	return places
}

// overOne tells that two concepts are linked to a third.
func (l *look) overOne(near map[cm.ID]map[cm.ID]bool, a, b cm.ID) bool {
	for o := range near[a] {
		if near[b][o] {
			return true
		}
	}
	return false
}

// hasWord tells that a text holds a name as whole words.
func hasWord(text, name string) bool {
	for from := 0; ; {
		i := strings.Index(text[from:], name)
		if i < 0 {
			return false
		}
		at, end := from+i, from+i+len(name)
		if !letterBefore(text[:at]) && !letterBehind(text[end:]) {
			return true
		}
		from = at + 1
	}
}

func letterBefore(s string) bool {
	r, _ := utf8.DecodeLastRuneInString(s)
	return unicode.IsLetter(r)
}

func letterBehind(s string) bool {
	r, _ := utf8.DecodeRuneInString(s)
	return unicode.IsLetter(r)
}

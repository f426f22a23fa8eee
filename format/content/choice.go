package content

import (
	"maps"
	"slices"
	"strings"
)

// Choice says what of a file becomes label, phrase and note, where its own names do not say it or say
// something else.
type Choice struct {
	Lines ReadLines // of an outline
	// The attributes of a graph that are labels, notes and phrases; empty for those that the reader takes.
	Label, Note, Phrase string
	NoNotes             bool
}

// maxAttributes bounds how many attributes of a graph are offered.
const maxAttributes = 30

// Attributes gives the names of what is said of the concepts and of the links of a graph.
func (d *Draft) Attributes() (concepts, links []string) {
	ofConcepts, ofLinks := map[string]bool{}, map[string]bool{}
	for _, c := range d.Concepts {
		for name := range c.Data {
			ofConcepts[name] = true
		}
	}
	for _, l := range d.Links {
		for name := range l.Data {
			ofLinks[name] = true
		}
	}
	sorted := func(all map[string]bool) []string {
		names := slices.Sorted(maps.Keys(all))
		return names[:min(len(names), maxAttributes)]
	}
	return sorted(ofConcepts), sorted(ofLinks)
}

// Chosen gives a draft read as somebody chose. It refuses one in which nothing is left.
func (d *Draft) Chosen(by Choice) (*Draft, error) {
	read := *d
	if len(d.Lines) > 0 && by.Lines != LinesConcepts {
		lines := withNotes(d.Lines)
		if by.Lines == LinesPhrases {
			lines = withPhrases(d.Lines)
		}
		again, err := FromLines(lines)
		if err != nil {
			return nil, err
		}
		read.Concepts, read.Links = again.Concepts, again.Links
	}
	read.Concepts, read.Links = slices.Clone(read.Concepts), slices.Clone(read.Links)
	for i := range read.Concepts {
		c := &read.Concepts[i]
		if label := strings.TrimSpace(c.Data[by.Label]); by.Label != "" && label != "" {
			c.Label = label
		}
		if by.Note != "" {
			c.Note = c.Data[by.Note]
		}
		if by.NoNotes {
			c.Note = ""
		}
	}
	for i := range read.Links {
		if l := &read.Links[i]; by.Phrase != "" {
			l.Phrase = strings.Join(strings.Fields(l.Data[by.Phrase]), " ")
		}
	}
	return &read, nil
}

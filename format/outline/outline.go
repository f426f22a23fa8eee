// Package outline reads a map from indented lines, as people type or paste
// them: each line a concept, below the line that is indented less. A phrase
// may stand before the concept, set off by a colon ("is given by: the
// clapper"); without one the link is left open. Signs that begin list items
// are dropped.
package outline

import (
	"regexp"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
)

// MostLines bounds how many lines are read at once.
const MostLines = 2000

// Line is one line of an outline.
type Line struct {
	Depth  int // 0 for a line below none
	Phrase string
	Label  string
}

var bullet = regexp.MustCompile(`^(?:[-*+•–◦▪]|\d{1,3}[.)])\s+`)

// Parse reads the lines of a text; empty ones are passed over. Tabs count as
// four spaces. However ragged the indentation, each line is below the nearest
// one before it that is indented less.
func Parse(text string) ([]Line, error) {
	var lines []Line
	var indents []int // of the line before and of those above it
	for raw := range strings.SplitSeq(strings.ReplaceAll(text, "\r", "\n"), "\n") {
		words := strings.TrimSpace(raw)
		if words == "" {
			continue
		}
		if len(lines) == MostLines {
			return nil, &cm.Refusal{Words: "That is too much at once: at most 2000 lines can be read."}
		}
		indent := 0
		for _, r := range raw {
			if r == '\t' {
				indent += 4
			} else if r == ' ' || r == '\u00a0' {
				indent++
			} else {
				break
			}
		}
		for len(indents) > 0 && indents[len(indents)-1] >= indent {
			indents = indents[:len(indents)-1]
		}
		line := Line{Depth: len(indents), Label: strings.TrimSpace(bullet.ReplaceAllString(words, ""))}
		indents = append(indents, indent)
		if phrase, label, found := strings.Cut(line.Label, ": "); found && line.Depth > 0 && strings.TrimSpace(label) != "" {
			line.Phrase, line.Label = strings.TrimSpace(phrase), strings.TrimSpace(label)
		}
		if line.Label == "" {
			line.Label = words
		}
		lines = append(lines, line)
	}
	return lines, nil
}

// Operations gives the operations that make the map of an outline: a concept
// for each label, once however often it is named; a link for each line below
// another, shared by those with the same phrase. The first concept is the
// focus concept. NewID makes ids from a letter for their kind.
func Operations(lines []Line, newID func(kind string) cm.ID, measure layout.Measurer) []cm.Operation {
	b := builder{newID: newID, byLabel: map[string]cm.ID{}, parents: map[cm.ID]cm.ID{}, labels: map[cm.ID]string{}, links: map[linkKey]*cm.AddLink{}}
	var above []cm.ID
	for _, line := range lines {
		parent := cm.ID("")
		if line.Depth > 0 {
			parent = above[line.Depth-1]
		}
		id := b.concept(line.Label, parent)
		above = append(above[:line.Depth], id)
		b.join(parent, line.Phrase, id)
	}
	return b.operations(measure)
}

type linkKey struct {
	parent cm.ID
	phrase string
}

type builder struct {
	newID   func(string) cm.ID
	byLabel map[string]cm.ID
	order   []cm.ID
	parents map[cm.ID]cm.ID
	labels  map[cm.ID]string
	links   map[linkKey]*cm.AddLink
	said    []*cm.AddLink
}

func (b *builder) concept(label string, parent cm.ID) cm.ID {
	key := cm.Fold(label)
	if id, known := b.byLabel[key]; known {
		return id
	}
	id := b.newID("c")
	b.byLabel[key], b.labels[id], b.parents[id] = id, label, parent
	b.order = append(b.order, id)
	return id
}

func (b *builder) join(parent cm.ID, phrase string, child cm.ID) {
	if parent == "" || parent == child {
		return
	}
	key := linkKey{parent, cm.Fold(phrase)}
	link := b.links[key]
	if link == nil || phrase == "" || len(link.To) == cm.MostEnds {
		link = &cm.AddLink{ID: b.newID("l"), Phrase: phrase, From: []cm.End{{ID: b.newID("e"), Concept: parent}}}
		b.links[key] = link
		b.said = append(b.said, link)
	}
	for _, e := range link.To {
		if e.Concept == child {
			return
		}
	}
	link.To = append(link.To, cm.End{ID: b.newID("e"), Concept: child})
}

func (b *builder) operations(measure layout.Measurer) []cm.Operation {
	if len(b.order) == 0 {
		return nil
	}
	m := cm.NewMap("measured", "en")
	m.Focus = b.order[0]
	places := layout.Across(b.order, b.parents, func(id cm.ID) layout.Size {
		return measure.Slip(m, &cm.Concept{ID: id, Label: cm.Text{"en": b.labels[id]}})
	})
	var ops []cm.Operation
	for _, id := range b.order {
		ops = append(ops, &cm.AddConcept{ID: id, Label: b.labels[id], At: places[id]})
	}
	ops = append(ops, &cm.SetFocus{Concept: b.order[0]})
	for _, l := range b.said {
		ops = append(ops, l)
	}
	return ops
}

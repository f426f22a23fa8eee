// Package outline reads a map from indented lines, as people type or paste
// them: each line a concept, below the line that is indented less. A phrase
// may stand before the concept, set off by a colon ("is given by: the
// clapper"); without one the link is left open. Signs that begin list items
// are dropped.
package outline

import (
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/core/likeness"
)

// MaxLines bounds how many lines are read at once.
const MaxLines = 2000

// Line is one line of an outline.
type Line struct {
	Depth  int // 0 for a line below none
	Phrase string
	Label  string
	Note   string
}

var bullet = regexp.MustCompile(`^(?:[-*+•–◦▪]|\d{1,3}[.)])\s+`)

// Parse reads the lines of a text; empty ones are passed over. Tabs count as
// four spaces. However ragged the indentation, each line is below the nearest
// one before it that is indented less.
//
// Below tells that the topmost lines will stand below a concept, so that they
// may have phrases as well.
func Parse(text string, below bool) ([]Line, error) {
	var lines []Line
	var indents []int // of the line before and of those above it
	for raw := range strings.SplitSeq(strings.ReplaceAll(text, "\r", "\n"), "\n") {
		words := strings.TrimSpace(raw)
		if words == "" {
			continue
		}
		if len(lines) == MaxLines {
			return nil, cm.Refusef("That is too much at once: at most 2000 lines can be read.")
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
		if line.Depth > 0 || below {
			line.Phrase, line.Label = edit.SplitPhrase(line.Label)
		}
		if line.Label == "" {
			line.Label = words
		}
		lines = append(lines, line)
	}
	return lines, nil
}

// A line counts as long from so many characters and words on.
const (
	longCharacters = 60
	longWords      = 9
	shortWords     = 6
)

// Long tells whether a line is rather a note than the label of a concept.
func (l Line) Long() bool {
	return utf8.RuneCountInString(l.Label) >= longCharacters && len(strings.Fields(l.Label)) >= longWords
}

// Shortened gives the lines with each long one as a note, under a label of its
// first words.
func Shortened(lines []Line) []Line {
	lines = slices.Clone(lines)
	for i, l := range lines {
		if l.Long() {
			lines[i].Note = l.Label
			lines[i].Label = strings.Trim(strings.Join(strings.Fields(l.Label)[:shortWords], " "), ",;:.–- ") + " …"
		}
	}
	return lines
}

// Options says how lines become part of a map.
type Options struct {
	NewID   func(kind string) cm.ID // makes ids, given a letter for their kind
	Measure layout.Measurer
	At      cm.Point // the top left corner of the room for what is new
	Under   cm.ID    // the concept to link the topmost lines from, or empty
	Flat    bool     // loose ideas only: no links, no order
	Focus   bool     // the first concept is to be the focus concept
}

// Operations gives the operations that put lines on a map: a concept for each
// label, once however often it is named, and none where the map has it already;
// a link for each line below another, shared by those with the same phrase, and
// by those with none.
func Operations(lines []Line, o Options) []edit.Operation {
	b := builder{Options: o, byLabel: map[string]cm.ID{}, parents: map[cm.ID]cm.ID{}, labels: map[cm.ID]string{}, notes: map[cm.ID]string{}, links: map[linkKey]*edit.AddLink{}}
	var above []cm.ID
	for _, line := range lines {
		if o.Flat {
			if line.Phrase != "" {
				line.Label = line.Phrase + ": " + line.Label
			}
			b.concept(line, "")
			continue
		}
		parent := cm.ID("")
		if line.Depth > 0 {
			parent = above[line.Depth-1]
		}
		id := b.concept(line, parent)
		above = append(above[:line.Depth], id)
		if parent == "" {
			parent = o.Under
		}
		b.join(parent, line.Phrase, id)
	}
	return b.operations()
}

type linkKey struct {
	parent cm.ID
	phrase string
}

type builder struct {
	Options
	byLabel map[string]cm.ID
	order   []cm.ID
	parents map[cm.ID]cm.ID
	labels  map[cm.ID]string
	notes   map[cm.ID]string
	links   map[linkKey]*edit.AddLink
	said    []*edit.AddLink
}

func (b *builder) concept(line Line, parent cm.ID) cm.ID {
	key := likeness.Fold(line.Label)
	if id, known := b.byLabel[key]; known {
		return id
	}
	id := b.NewID("c")
	b.byLabel[key], b.labels[id], b.notes[id], b.parents[id] = id, line.Label, line.Note, parent
	b.order = append(b.order, id)
	return id
}

func (b *builder) join(parent cm.ID, phrase string, child cm.ID) {
	if parent == "" || parent == child {
		return
	}
	key := linkKey{parent, likeness.Fold(phrase)}
	link := b.links[key]
	if link == nil || len(link.To) == cm.MaxEnds {
		link = &edit.AddLink{ID: b.NewID("l"), Phrase: phrase, From: []cm.End{{ID: b.NewID("e"), Concept: parent}}}
		b.links[key] = link
		b.said = append(b.said, link)
	}
	for _, e := range link.To {
		if e.Concept == child {
			return
		}
	}
	link.To = append(link.To, cm.End{ID: b.NewID("e"), Concept: child})
}

func (b *builder) operations() []edit.Operation {
	if len(b.order) == 0 {
		return nil
	}
	places := b.places()
	var ops []edit.Operation
	for _, id := range b.order {
		ops = append(ops, &edit.AddConcept{ID: id, Label: b.labels[id], At: places[id], Reuse: true})
		if b.notes[id] != "" {
			ops = append(ops, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: id}, Note: b.notes[id]})
		}
	}
	if b.Focus {
		ops = append(ops, &edit.SetFocus{Concept: b.order[0]})
	}
	for _, l := range b.said {
		ops = append(ops, l)
	}
	return ops
}

func (b *builder) places() map[cm.ID]cm.Point {
	m := cm.NewMap("measured", "en")
	if b.Focus {
		m.Focus = b.order[0]
	}
	size := func(id cm.ID) layout.Size {
		return b.Measure.Slip(m, &cm.Concept{ID: id, Label: cm.Text{"en": b.labels[id]}})
	}
	places := map[cm.ID]cm.Point{}
	if b.Flat {
		sizes := make([]layout.Size, len(b.order))
		for i, id := range b.order {
			sizes[i] = size(id)
		}
		for i, at := range layout.Rows(sizes) {
			places[b.order[i]] = at
		}
	} else {
		places = layout.Across(b.order, b.parents, size)
	}
	for id, at := range places {
		places[id] = cm.Point{X: at.X + b.At.X, Y: at.Y + b.At.Y}
	}
	return places
}

package content

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/format/outline"
)

// Draft is what a reader found in a file: concepts and links, in the order in which they stand there.
type Draft struct {
	Title, Question string
	Language        string // as the file names it; empty where it does not
	Concepts        []Concept
	Links           []Link
	// Remarks tell what was not understood.
	Remarks []Remark
	// Lines are those of an outline, of which Concepts and Links were made; nil for other files.
	Lines []outline.Line
	// Map is a whole map, where the file holds one; then there is nothing else in the draft.
	Map *cm.Map
}

// Concept is one that was read. Key tells it from others within the file.
type Concept struct {
	Key, Label, Note, Kind string
	Tags                   []string
	Address                string // of a source
	// At is its place in pixels, where the file tells one.
	At *cm.Point
	// Data is all that the file says of it, by name, where it names what it says.
	Data map[string]string
}

// Link is one that was read, between concepts by their keys. Below tells that it puts its To below its
// From where nothing else does.
type Link struct {
	From, Phrase, To string
	Plain            bool // without an arrowhead
	Both             bool // with two
	Data             map[string]string
}

// Remark says what of a file was not understood, and where; Line is 0 where that cannot be said.
type Remark struct {
	Line int
	Says string
}

// The bounds of what is read from one file.
const (
	MaxConcepts = 5000
	MaxLinks    = 20_000
	MaxRemarks  = 200
)

// Tell adds a remark, as long as there is room for more.
func (d *Draft) Tell(line int, says string) {
	if len(d.Remarks) < MaxRemarks {
		d.Remarks = append(d.Remarks, Remark{line, says})
	}
}

// TooMany refuses a file with more than MaxConcepts.
func TooMany() error {
	return cm.Refusef("That is too much at once: at most %d concepts can be read from one file.", MaxConcepts)
}

// Add adds a concept, and refuses too many.
func (d *Draft) Add(c Concept) error {
	if len(d.Concepts) >= MaxConcepts {
		return TooMany()
	}
	d.Concepts = append(d.Concepts, c)
	return nil
}

// Join adds a link, and refuses too many.
func (d *Draft) Join(l Link) error {
	if len(d.Links) >= MaxLinks {
		return cm.Refusef("That is too much at once: at most %d links can be read from one file.", MaxLinks)
	}
	d.Links = append(d.Links, l)
	return nil
}

// Operations gives what puts a draft on a map: a concept for each, with its note, kind and tags, made
// where the map has none of that name; links of one concept by one phrase to several others as one;
// the first concept is the focus where that is wished. NewID makes ids, given a letter for their kind.
func (d *Draft) Operations(newID func(kind string) cm.ID, focus bool) []edit.Operation {
	ops := d.head()
	ids := map[string]cm.ID{}
	kinds, tags := map[string]cm.ID{}, map[string]cm.ID{}
	for i, c := range d.Concepts {
		if _, twice := ids[c.Key]; twice {
			continue
		}
		id := newID("c")
		ids[c.Key] = id
		add := &edit.AddConcept{ID: id, Label: cm.Shortened(c.Label, cm.MaxLabel), At: cm.Point{X: float64(i%20) * 240, Y: float64(i/20) * 120}}
		if c.At != nil {
			add.At = cm.ClampPoint(*c.At)
		}
		ops = append(ops, add)
		note := c.Note
		if len([]rune(c.Label)) > cm.MaxLabel {
			note = strings.TrimSpace(c.Label + "\n\n" + note)
		}
		if note != "" {
			ops = append(ops, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: id}, Note: cm.Shortened(note, cm.MaxNote)})
		}
		if name := strings.TrimSpace(c.Kind); name != "" && len(kinds) < 60 {
			if kinds[name] == "" {
				kinds[name] = newID("k")
				ops = append(ops, &edit.AddKind{ID: kinds[name], Name: cm.Shortened(name, cm.MaxKindName), Colour: cm.Colours[(len(kinds)-1)%len(cm.Colours)], Reuse: true})
			}
			ops = append(ops, &edit.AssignKind{Concepts: []cm.ID{id}, Kind: kinds[name]})
		}
		for _, name := range c.Tags {
			if name = strings.TrimSpace(name); name == "" || len(tags) >= 60 {
				continue
			}
			if tags[name] == "" {
				tags[name] = newID("t")
				ops = append(ops, &edit.AddTag{ID: tags[name], Name: cm.Shortened(name, cm.MaxKindName), Reuse: true})
			}
			ops = append(ops, &edit.AssignTag{Concepts: []cm.ID{id}, Tag: tags[name], On: true})
		}
		if url, err := cm.CleanAddress(c.Address); err == nil && c.Address != "" {
			ops = append(ops, &edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: id}, ID: newID("s"), Source: cm.Source{URL: url}})
		}
	}
	if focus && len(d.Concepts) > 0 {
		ops = append(ops, &edit.SetFocus{Concept: ids[d.Concepts[0].Key]})
	}
	return append(ops, d.links(ids, newID)...)
}

func (d *Draft) head() (ops []edit.Operation) {
	if lang := cm.Lang(d.Language); lang.Valid() {
		ops = append(ops, &edit.SetLanguage{Language: lang})
	}
	if d.Title != "" {
		ops = append(ops, &edit.NameMap{Title: cm.Shortened(strings.Join(strings.Fields(d.Title), " "), cm.MaxTitle)})
	}
	if d.Question != "" {
		ops = append(ops, &edit.Ask{Question: cm.Shortened(strings.Join(strings.Fields(d.Question), " "), cm.MaxQuestion)})
	}
	return ops
}

// mostEnds is how many concepts one phrase joins on one side.
const mostEnds = 12

// links gives the links: those of one concept with one phrase come together.
func (d *Draft) links(ids map[string]cm.ID, newID func(string) cm.ID) (ops []edit.Operation) {
	type start struct {
		from        cm.ID
		phrase      string
		plain, both bool
	}
	of := map[start]*edit.AddLink{}
	for _, l := range d.Links {
		from, to := ids[l.From], ids[l.To]
		if from == "" || to == "" {
			continue
		}
		key := start{from, l.Phrase, l.Plain, l.Both}
		end := cm.End{ID: newID("e"), Concept: to}
		if had := of[key]; had != nil && l.Phrase != "" && len(had.To) < mostEnds && from != to {
			if !slices.ContainsFunc(had.To, func(e cm.End) bool { return e.Concept == to }) {
				had.To = append(had.To, end)
			}
			continue
		}
		add := &edit.AddLink{ID: newID("l"), Phrase: cm.Shortened(l.Phrase, cm.MaxPhrase), From: []cm.End{{ID: newID("e"), Concept: from}}, To: []cm.End{end}}
		of[key] = add
		ops = append(ops, add)
		if l.Plain || l.Both {
			heads := cm.HeadsNone
			if l.Both {
				heads = cm.HeadsBoth
			}
			ops = append(ops, &edit.SetHeads{Link: add.ID, Heads: heads})
		}
	}
	return ops
}

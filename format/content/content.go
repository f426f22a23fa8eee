// Package content is what a map holds in the form in which the writers of open formats take it, and
// the form in which their readers give what they found. Words are those of one language.
package content

import (
	"bytes"
	"cmp"
	"fmt"
	"image"
	_ "image/gif" // pictures on slips
	_ "image/jpeg"
	_ "image/png"
	"slices"
	"strings"

	_ "golang.org/x/image/webp"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// Export is a map, or a part of one, that leaves.
type Export struct {
	Map       *cm.Map
	Structure *structure.Structure
	Lang      cm.Lang // in which it is read; empty for the map's own
	// Address is where the map is found, empty where nowhere; State says which state this is.
	Address, State string
	Route          cm.ID // a route that is exported; empty for the map as such
	// Picture gives a picture by the hash of its file.
	Picture func(hash string) (mediaType string, raw []byte, ok bool)
	Options Options
}

// Options are what is wished of an export; formats pass over what does not concern them.
type Options struct {
	Notes, Sources, Sentences, Drawing bool
	Numbered                           bool   // the outline is numbered
	List                               bool   // the outline is a list, not headings
	Argument                           bool   // claims, reasons, evidence and objections as a text to be written on
	Transparent                        bool   // a picture without its paper
	Scale                              int    // of a picture, 1 to 4
	Sheet                              string // of paper: A4, A3, A2, Letter, Tabloid
	Held                               string // portrait or landscape; empty for what fits better
	Across                             int    // on how many sheets beside each other
}

// The bounds of options.
const (
	MaxScale  = 4
	MaxAcross = 8
)

// Full gives the options for all that a format can have in it.
func Full() Options {
	return Options{Notes: true, Sources: true, Sentences: true, Drawing: true, Scale: 2, Across: 1}
}

// Bounded gives options of which each is within its bounds.
func (o Options) Bounded() Options {
	o.Scale, o.Across = max(1, min(MaxScale, o.Scale)), max(1, min(MaxAcross, o.Across))
	return o
}

// New gives an export of a map with all that a format can have in it.
func New(m *cm.Map) *Export {
	return &Export{Map: m, Structure: structure.Of(m), Options: Full()}
}

// Words gives a text as it is read.
func (e *Export) Words(t cm.Text) string {
	if e.Lang == "" {
		return e.Map.Words(t)
	}
	return t.For(e.Lang, e.Map.Language)
}

// Line gives a text on one line.
func (e *Export) Line(t cm.Text) string { return strings.Join(strings.Fields(e.Words(t)), " ") }

// Title is what the map is called, Question its focus question.
func (e *Export) Title() string { return cmp.Or(e.Line(e.Map.Title), e.Question(), e.Map.Name()) }

// Question is the focus question of the map; empty where it has none.
func (e *Export) Question() string { return e.Line(e.Map.Question) }

// Language is the one in which the map is read.
func (e *Export) Language() cm.Lang { return cmp.Or(e.Lang, e.Map.Language) }

// Scene draws the map as it is read.
func (e *Export) Scene() *scene.Scene {
	return scene.Build(e.Map, e.Structure, scene.View{Lang: e.Lang}, nil)
}

// Row is a concept as it stands in an outline.
type Row struct {
	Concept *cm.Concept
	Depth   int // 0 for one below none
	Number  string
	// Phrase is that of its main link, Against tells that the sentence begins with the concept itself.
	Phrase  string
	Against bool
	Label   string
	Note    string
	Kids    int
}

// Outline gives the concepts in the order in which they are read, each below what it hangs from.
func (e *Export) Outline() []Row {
	rows := make([]Row, 0, len(e.Structure.Order))
	at := map[cm.ID]int{}
	var numbers []int
	for _, id := range e.Structure.Order {
		c, p := e.Map.Concepts[id], e.Structure.Places[id]
		row := Row{Concept: c, Label: e.Line(c.Label), Note: strings.TrimSpace(e.Words(c.Note)), Kids: len(p.Children)}
		if parent, known := at[p.Parent]; known {
			row.Depth = rows[parent].Depth + 1
			if c.Main != nil {
				if l := e.Map.Links[c.Main.Link]; l != nil {
					row.Phrase = e.Line(l.Phrase)
					from, _, _ := e.Map.Between(c.Main.Strand)
					row.Against = from == id
				}
			}
		}
		numbers = append(numbers[:min(row.Depth, len(numbers))], countAt(numbers, row.Depth)+1)
		row.Number = strings.Trim(strings.Join(strings.Fields(fmt.Sprint(numbers)), "."), "[]")
		at[id] = len(rows)
		rows = append(rows, row)
	}
	return rows
}

func countAt(numbers []int, depth int) int {
	if depth < len(numbers) {
		return numbers[depth]
	}
	return 0
}

// Sentence is a proposition.
type Sentence struct {
	structure.Proposition
	From, Phrase, To string
}

// Sentences gives all propositions, those without a phrase among them.
func (e *Export) Sentences() []Sentence {
	all := e.Structure.Propositions()
	said := make([]Sentence, len(all))
	for i, p := range all {
		said[i] = Sentence{p, e.Line(e.Map.Concepts[p.Subject].Label), e.Line(e.Map.Links[p.Strand.Link].Phrase), e.Line(e.Map.Concepts[p.Object].Label)}
	}
	return said
}

// Source is a source of the map, with what it is attached to.
type Source struct {
	cm.Source
	ID cm.ID
	On string // words of the concept, link or stop
}

// Sources gives all sources, in the order in which what has them is read.
func (e *Export) Sources() (all []Source) {
	add := func(on string, sources map[cm.ID]cm.Source) {
		for _, id := range cm.SourceList(sources) {
			all = append(all, Source{sources[id], id, on})
		}
	}
	for _, id := range e.Structure.Order {
		add(e.Line(e.Map.Concepts[id].Label), e.Map.Concepts[id].Sources)
	}
	for _, id := range cm.SortedIDs(e.Map.Links) {
		add(e.Line(e.Map.Links[id].Phrase), e.Map.Links[id].Sources)
	}
	return all
}

// Kind gives the name of a concept's kind; empty where it has none.
func (e *Export) Kind(c *cm.Concept) string {
	if k := e.Map.KindOf(c); k != nil {
		return e.Line(k.Name)
	}
	return ""
}

// Tags gives the names of a concept's tags, sorted.
func (e *Export) Tags(c *cm.Concept) (all []string) {
	for id := range c.Tags {
		if t := e.Map.Tags[id]; t != nil {
			all = append(all, e.Line(t.Name))
		}
	}
	slices.Sort(all)
	return all
}

// Said tells what the file shows and where the map is, in one line; empty where nothing is known.
func (e *Export) Said() string {
	return strings.Join(slices.DeleteFunc([]string{e.State, e.Address}, func(s string) bool { return s == "" }), " · ")
}

// Decoded gives pictures as their pixels, each decoded once; nil for one that cannot be had.
func Decoded(e *Export) func(hash string) image.Image {
	known := map[string]image.Image{}
	return func(hash string) image.Image {
		img, is := known[hash]
		if !is && e.Picture != nil {
			if _, raw, ok := e.Picture(hash); ok {
				if config, _, err := image.DecodeConfig(bytes.NewReader(raw)); err == nil && config.Width*config.Height <= maxPicture {
					img, _, _ = image.Decode(bytes.NewReader(raw)) // left out where it cannot be
				}
			}
		}
		known[hash] = img
		return img
	}
}

// maxPicture bounds the pixels of a picture that lies on a drawing.
const maxPicture = 36_000_000

// Alternative says in words what the drawing of a map shows, for those who do not see it.
func Alternative(e *Export) string {
	said := e.Question()
	for _, s := range e.Sentences() {
		if !s.Open && len(said) < 4000 {
			said += " " + s.From + " " + s.Phrase + " " + s.To + "."
		}
	}
	return strings.TrimSpace(said)
}

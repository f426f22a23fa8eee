// Package office writes maps as text documents (DOCX: ISO/IEC 29500, ODT: ISO/IEC 26300) and as slides
// (PPTX, ODP), and reads outlines from text documents. The writers are small and our own: what they write
// are real styles, so that a template changes all of a document.
package office

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"strings"
	"time"

	"mevrin/draw/raster"
	"mevrin/format/content"
	"mevrin/markdown"
)

// para is a paragraph of a text document.
type para struct {
	kind    kind
	level   int // of a heading or an item, from 1
	ordered bool
	spans   []span
	rows    [][][]span // of a table
	head    bool       // the first row names the columns
	picture *picture
}

type kind int

const (
	kindBody kind = iota
	kindTitle
	kindSubtitle
	kindHeading
	kindItem
	kindTable
	kindPicture
	kindFoot
)

// span is words that are set alike; verb is the voice of linking phrases.
type span struct {
	words                    string
	strong, emph, verb, code bool
	link                     string
}

type picture struct {
	raw  []byte // PNG
	w, h int    // in pixels of the paper
	alt  string
}

func plain(words string) []span { return []span{{words: words}} }

// paragraphs gives a map as a text document, as it is wished.
func paragraphs(e *content.Export) ([]para, error) {
	all := []para{{kind: kindTitle, spans: plain(e.Title())}}
	if q := e.Question(); q != "" && q != e.Title() {
		all = append(all, para{kind: kindSubtitle, spans: plain(q)})
	}
	if e.Options.Drawing && len(e.Map.Concepts) > 0 {
		p, err := drawing(e)
		if err != nil {
			return nil, err
		}
		all = append(all, para{kind: kindPicture, picture: p})
	}
	for _, r := range e.Outline() {
		all = append(all, row(e, r)...)
		if e.Options.Notes && r.Note != "" {
			all = append(all, fromMarkdown(r.Note)...)
		}
	}
	if e.Options.Sentences {
		rows := [][][]span{{plain("From"), plain("Phrase"), plain("To")}}
		for _, s := range e.Sentences() {
			if !s.Open {
				rows = append(rows, [][]span{plain(s.From), {{words: s.Phrase, verb: true}}, plain(s.To)})
			}
		}
		all = append(all, para{kind: kindHeading, level: 1, spans: plain(e.Says("Sentences"))}, para{kind: kindTable, rows: rows, head: true})
	}
	if sources := e.Sources(); e.Options.Sources && len(sources) > 0 {
		all = append(all, para{kind: kindHeading, level: 1, spans: plain(e.Says("Sources"))})
		for _, s := range sources {
			all = append(all, para{kind: kindItem, level: 1, spans: []span{{words: s.On + ": "}, {words: s.Name(), link: s.URL}}})
		}
	}
	if said := e.Said(); said != "" {
		all = append(all, para{kind: kindFoot, spans: plain(said)})
	}
	return all, nil
}

// mostHeadings is how deep headings go; what lies deeper is a list.
const mostHeadings = 6

// row gives the paragraphs of a concept: a heading, an item, or, where a text is to be written, a
// sentence.
func row(e *content.Export, r content.Row) []para {
	label := r.Label
	if e.Options.Numbered && !e.Options.List {
		label = r.Number + " " + label
	}
	phrase := r.Phrase
	if r.Against && phrase != "" {
		phrase = "← " + phrase
	}
	var spans []span
	if phrase != "" && (e.Options.List || e.Options.Argument || r.Depth >= mostHeadings) {
		spans = append(spans, span{words: phrase + " ", verb: true})
	}
	spans = append(spans, span{words: label})
	switch {
	case e.Options.Argument && r.Depth >= 2:
		parent := e.Map.Concepts[e.Structure.Places[r.Concept.ID].Parent]
		sentence := []span{{words: e.Line(parent.Label) + " "}, {words: r.Phrase + " ", verb: true}, {words: r.Label + "."}}
		if r.Against {
			sentence = []span{{words: r.Label + " "}, {words: r.Phrase + " ", verb: true}, {words: e.Line(parent.Label) + "."}}
		}
		return []para{{kind: kindBody, spans: sentence}}
	case e.Options.List || r.Depth >= mostHeadings:
		return []para{{kind: kindItem, level: min(r.Depth+1, 9), ordered: e.Options.Numbered, spans: spans}}
	}
	all := []para{{kind: kindHeading, level: r.Depth + 1, spans: spans}}
	if phrase != "" && !e.Options.Argument {
		parent := e.Map.Concepts[e.Structure.Places[r.Concept.ID].Parent]
		from, to := e.Line(parent.Label), r.Label
		if r.Against {
			from, to = to, from
		}
		all = append(all, para{kind: kindBody, spans: []span{{words: from + " "}, {words: r.Phrase + " ", verb: true}, {words: to + "."}}})
	}
	return all
}

// fromMarkdown gives the paragraphs of a note.
func fromMarkdown(note string) (all []para) {
	var table *para
	for _, b := range markdown.Blocks(note) {
		if b.Row != nil {
			if table == nil {
				all = append(all, para{kind: kindTable, head: b.Head})
				table = &all[len(all)-1]
			}
			var cells [][]span
			for _, cell := range b.Row {
				cells = append(cells, spansOf(cell))
			}
			table.rows = append(table.rows, cells)
			continue
		}
		table = nil
		p := para{kind: kindBody, spans: spansOf(b.Spans)}
		switch {
		case b.Depth > 0:
			p.kind, p.level, p.ordered = kindItem, b.Depth, b.Ordered
		case b.Level > 0:
			p.spans = []span{{words: words(p.spans), strong: true}}
		}
		all = append(all, p)
	}
	return all
}

func words(all []span) string {
	var b strings.Builder
	for _, s := range all {
		b.WriteString(s.words)
	}
	return b.String()
}

func spansOf(all []markdown.Span) (out []span) {
	for _, s := range all {
		out = append(out, span{words: s.Words, strong: s.Strong, emph: s.Emph, code: s.Code, link: s.Link})
	}
	return out
}

// finest is how many pixels a picture has along its longer side, at most: what is seen of 250 dots for
// an inch on the long side of a sheet A4 (ISO 216).
const finest = 3000

// drawing paints the map for a document, smaller where it would be too large.
func drawing(e *content.Export) (*picture, error) {
	sc := e.Scene()
	box := sc.Bounds().Grown(32, 32)
	scale := min(2, finest/max(box.W, box.H))
	img, err := raster.Document(sc, raster.Options{Scale: scale, Pictures: content.Decoded(e)})
	if err != nil {
		return nil, err
	}
	raw, err := raster.PNG(img)
	return &picture{raw, int(box.W), int(box.H), content.Alternative(e)}, err
}

// archive builds a ZIP file whose parts are always the same for the same map.
type archive struct {
	buf bytes.Buffer
	zip *zip.Writer
	err error
}

func newArchive() *archive {
	a := &archive{}
	a.zip = zip.NewWriter(&a.buf)
	return a
}

// stored adds a part as it is, for what must come first and be found by its bytes.
func (a *archive) stored(name, body string) { a.write(name, []byte(body), zip.Store) }

func (a *archive) add(name, body string) { a.write(name, []byte(body), zip.Deflate) }

func (a *archive) write(name string, body []byte, method uint16) {
	w, err := a.zip.CreateHeader(&zip.FileHeader{Name: name, Method: method, Modified: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)})
	if err == nil {
		_, err = w.Write(body)
	}
	a.err = errors.Join(a.err, err)
}

func (a *archive) done() ([]byte, error) {
	err := errors.Join(a.err, a.zip.Close())
	return a.buf.Bytes(), err
}

// esc writes words where markup is read; what XML cannot hold is left out.
func esc(words string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(words)) // to memory
	return strings.ReplaceAll(b.String(), "\ufffd", "")
}

func put(b *strings.Builder, form string, args ...any) { fmt.Fprintf(b, form, args...) }

package formats

import (
	"bytes"
	"errors"
	"image"
	"image/jpeg"
	"slices"

	"github.com/HugoSmits86/nativewebp"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
	"mevrin/draw/pdf"
	"mevrin/draw/raster"
	"mevrin/draw/svg"
	"mevrin/format/content"
)

var drawnParts = []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartPlaces, PartLooks, PartKinds}

var pictures = []*Format{
	{ID: "pdf", Ending: ".pdf", Type: "application/pdf", Use: UsePrint, Title: "Pages to print (PDF)", Hint: "Sharp at any size; on one sheet, or on several to glue together.", Holds: append(slices.Clone(drawnParts), PartNotes, PartSources), Wants: []string{"judged", "drawing", "sheet", "held", "across", "outline", "sentences", "notes", "sources"}, Write: writePDF},
	{ID: "handout", Ending: ".pdf", Type: "application/pdf", Use: UsePrint, Title: "Hand-out of a route (PDF)", Hint: "Stop by stop: drawing, card, and questions with room to write.", Holds: []Part{PartConcepts, PartPhrases, PartLooks, PartKinds, PartRoutes}, Wants: []string{"drawing", "sheet", "sentences"}, Write: writeHandout, Needs: needsRoute},
	{ID: "png", Ending: ".png", Type: "image/png", Use: UsePrint, Title: "Picture (PNG)", Hint: "For documents, slides and messages.", Holds: drawnParts, Wants: []string{"scale", "transparent", "judged"}, Write: func(e *content.Export) ([]byte, error) {
		img, err := painted(e, e.Options.Transparent)
		if err != nil {
			return nil, err
		}
		return raster.PNG(img)
	}},
	{ID: "jpg", Ending: ".jpg", Type: "image/jpeg", Use: UsePrint, Title: "Picture (JPEG)", Hint: "Smaller, for places that take no other; lines are a little blurred.", Holds: drawnParts, Wants: []string{"scale", "judged"}, Write: func(e *content.Export) ([]byte, error) {
		img, err := painted(e, false)
		if err != nil {
			return nil, err
		}
		var b bytes.Buffer
		err = jpeg.Encode(&b, img, &jpeg.Options{Quality: 90})
		return b.Bytes(), err
	}},
	{ID: "webp", Ending: ".webp", Type: "image/webp", Use: UsePrint, Title: "Picture (WebP)", Hint: "For web pages: small, and nothing is lost.", Holds: drawnParts, Wants: []string{"scale", "transparent", "judged"}, Write: func(e *content.Export) ([]byte, error) {
		img, err := painted(e, e.Options.Transparent)
		if err != nil {
			return nil, err
		}
		var b bytes.Buffer
		err = nativewebp.Encode(&b, img, nil)
		return b.Bytes(), err
	}},
	{ID: "svg", Ending: ".svg", Type: "image/svg+xml", Use: UsePrint, Title: "Drawing (SVG)", Hint: "Sharp at any size, for drawing programs and web pages; its fonts are in it.", Holds: drawnParts, Wants: []string{"judged"}, Write: func(e *content.Export) ([]byte, error) {
		return []byte(svg.Document(e.Scene(), e.Title(), e.Question(), e.Picture)), nil
	}},
}

// painted gives the picture of a map at the scale that is wished.
func painted(e *content.Export, transparent bool) (*image.RGBA, error) {
	img, err := raster.Document(e.Scene(), raster.Options{Scale: float64(max(1, min(4, e.Options.Scale))), Transparent: transparent, Pictures: content.Decoded(e)})
	var large raster.TooLarge
	if errors.As(err, &large) {
		return nil, cm.Refusef("This picture would have %d × %d pixels, which is too large. Take a smaller scale, or a PDF, which is sharp at any size.", large.W, large.H)
	}
	return img, err
}

// Sheets names the paper on offer.
func Sheets() (all []string) {
	for _, s := range pdf.Sizes {
		all = append(all, s.Name)
	}
	return all
}

func writePDF(e *content.Export) ([]byte, error) {
	d := pdf.Document{Title: e.Title(), Lang: string(e.Language()), Alt: e.Question(), Foot: e.Said(), Pictures: content.Decoded(e)}
	d.Page = pdf.Page{Size: sheet(e), Held: pdf.Held(e.Options.Held), Across: e.Options.Across}
	if e.Options.Drawing {
		d.Drawing = e.Scene()
		for _, r := range e.Outline() {
			if slip := d.Drawing.Slips[r.Concept.ID]; slip != nil {
				d.Bookmarks = append(d.Bookmarks, pdf.Bookmark{Title: r.Label, Level: r.Depth + 1, At: slip.Box.Middle()})
			}
		}
		d.Alt = content.Alternative(e)
	}
	if e.Options.List || !e.Options.Drawing {
		d.Blocks = append(d.Blocks, pdf.Block{Kind: "H1", Spans: []pdf.Span{{Voice: face.NounBold, Words: e.Title()}}})
		for _, r := range e.Outline() {
			b := pdf.Block{Kind: "LI", Indent: 22 + float64(min(r.Depth, 12))*16, Lead: "–"}
			if e.Options.Numbered {
				b.Lead = r.Number
			}
			if r.Phrase != "" {
				b.Spans = append(b.Spans, pdf.Span{Voice: face.Verb, Words: phrased(r) + " "})
			}
			d.Blocks = append(d.Blocks, pdf.Block{Kind: b.Kind, Indent: b.Indent, Lead: b.Lead, Spans: append(b.Spans, pdf.Span{Words: r.Label})})
			if e.Options.Notes && r.Note != "" {
				d.Blocks = append(d.Blocks, noteBlocks(r.Note, b.Indent)...)
			}
		}
	} else if e.Options.Notes {
		d.Blocks = append(d.Blocks, notes(e)...)
	}
	if e.Options.Sentences {
		sentences(e, &d)
	}
	if sources := e.Sources(); e.Options.Sources && len(sources) > 0 {
		d.Blocks = append(d.Blocks, pdf.Block{Kind: "H1", Spans: []pdf.Span{{Voice: face.NounBold, Words: e.Says("Sources")}}})
		for _, s := range sources {
			d.Blocks = append(d.Blocks, pdf.Block{Kind: "LI", Indent: 22, Lead: "–", Spans: []pdf.Span{{Words: s.On + ": "}, {Words: s.Name(), Link: s.URL}}})
		}
	}
	return pdf.Write(d), nil
}

// sheet gives the paper that is wished.
func sheet(e *content.Export) pdf.Size {
	i := slices.IndexFunc(pdf.Sizes, func(s pdf.Size) bool { return s.Name == e.Options.Sheet })
	return pdf.Sizes[max(0, i)]
}

// sentences adds a list of all that the map says.
func sentences(e *content.Export, d *pdf.Document) {
	d.Blocks = append(d.Blocks, pdf.Block{Kind: "H1", Spans: []pdf.Span{{Voice: face.NounBold, Words: e.Says("Sentences")}}})
	for _, s := range e.Sentences() {
		if !s.Open {
			d.Blocks = append(d.Blocks, pdf.Block{Kind: "LI", Indent: 22, Lead: "–", Spans: []pdf.Span{{Words: s.From + " "}, {Voice: face.Verb, Words: s.Phrase + " "}, {Words: s.To}}})
		}
	}
}

// phrased is the phrase that leads to a row, with an arrow where the sentence begins below.
func phrased(r content.Row) string {
	if r.Against {
		return "← " + r.Phrase
	}
	return r.Phrase
}

func notes(e *content.Export) (blocks []pdf.Block) {
	for _, r := range e.Outline() {
		if r.Note != "" {
			blocks = append(blocks, pdf.Block{Kind: "H2", Spans: []pdf.Span{{Voice: face.NounBold, Words: r.Label}}})
			blocks = append(blocks, noteBlocks(r.Note, 0)...)
		}
	}
	if len(blocks) > 0 {
		blocks = append([]pdf.Block{{Kind: "H1", Spans: []pdf.Span{{Voice: face.NounBold, Words: e.Says("Notes")}}}}, blocks...)
	}
	return blocks
}

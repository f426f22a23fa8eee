package formats

import (
	"cmp"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/face"
	"mevrin/draw/pdf"
	"mevrin/draw/scene"
	"mevrin/format/content"
)

// The measures of a hand-out, in points.
const (
	figureHigh = 250.0 // of a stop's drawing, at most
	roomLines  = 4     // to write an answer on
)

// writeHandout puts a route on paper: each stop with what it shows of the map, its card, and its question
// with room to write. Answers stay with the guide.
func writeHandout(e *content.Export) ([]byte, error) {
	if err := needsRoute(e); err != nil {
		return nil, err
	}
	route := e.Walked()
	title := cmp.Or(e.Line(route.Title), e.Title())
	d := pdf.Document{Title: title, Lang: string(e.Language()), Foot: e.Said(), Pictures: content.Decoded(e)}
	d.Page = pdf.Page{Size: sheet(e), Held: pdf.HeldPortrait}
	add := func(all ...pdf.Block) { d.Blocks = append(d.Blocks, all...) }
	heading := func(kind, words string) {
		add(pdf.Block{Kind: kind, Spans: []pdf.Span{{Voice: face.NounBold, Words: words}}})
	}
	heading("H1", title)
	if q := e.Question(); q != "" && q != title {
		add(pdf.Block{Kind: "P", Spans: []pdf.Span{{Words: q}}})
	}
	add(noteBlocks(e.Words(route.Purpose), 0)...)
	stops := e.Stops(route.ID)
	for _, s := range stops {
		heading("H2", s.Title)
		if len(s.Part.Concepts) > 0 && e.Options.Drawing {
			add(figure(e, s))
		}
		add(noteBlocks(s.Card, 0)...)
		if s.Question != "" {
			for _, b := range noteBlocks(s.Question, 0) {
				for i := range b.Spans {
					b.Spans[i].Voice = face.NounBold
				}
				add(b)
			}
			for range roomLines {
				add(pdf.Block{Kind: "Rule"})
			}
		}
	}
	if n := len(stops); e.Options.Sentences && n > 0 { // what was said on the way
		met := *e
		met.Map, met.Structure = stops[n-1].Grown, structure.Of(stops[n-1].Grown)
		sentences(&met, &d)
	}
	return pdf.Write(d), nil
}

func needsRoute(e *content.Export) error {
	if e.Walked() == nil {
		return cm.Refusef("There is no route on this map yet. Make one in Guide first.")
	}
	return nil
}

// figure draws what a stop shows, with what lies empty closed up, so that its words can be read.
func figure(e *content.Export, s content.Stop) pdf.Block {
	view := scene.View{Lang: e.Lang}
	part := scene.Together(s.Part, structure.Of(s.Part), view)
	shown := *e
	shown.Map, shown.Structure = part, structure.Of(part)
	return pdf.Block{Kind: "Figure", Drawing: scene.Build(part, shown.Structure, view, nil), High: figureHigh, Alt: cmp.Or(content.Alternative(&shown), s.Title)}
}

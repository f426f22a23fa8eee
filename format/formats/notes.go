package formats

import (
	"mevrin/draw/face"
	"mevrin/draw/pdf"
	"mevrin/markdown"
)

// noteBlocks sets a note.
func noteBlocks(note string, indent float64) (all []pdf.Block) {
	for _, b := range markdown.Blocks(note) {
		block := pdf.Block{Kind: "P", Indent: indent}
		if b.Depth > 0 {
			block.Kind, block.Indent, block.Lead = "LI", indent+18*float64(b.Depth), "•"
		}
		for i, cell := range b.Row {
			if i > 0 {
				block.Spans = append(block.Spans, pdf.Span{Words: " | "})
			}
			block.Spans = append(block.Spans, spans(cell)...)
		}
		block.Spans = append(block.Spans, spans(b.Spans)...)
		all = append(all, block)
	}
	return all
}

func spans(all []markdown.Span) (out []pdf.Span) {
	for _, s := range all {
		out = append(out, pdf.Span{Voice: face.NounAs(s.Strong, s.Emph), Words: s.Words, Link: s.Link})
	}
	return out
}

package pdf

import (
	"strings"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// Block is a paragraph of set text.
type Block struct {
	// Kind is H1, H2, P, LI or Figure, as the standard structure types of PDF, or Rule: a line to write on.
	Kind   string
	Indent float64
	Lead   string // what stands before it in its margin: a number or a dot
	Spans  []Span
	// Drawing is that of a figure, High how high it may be, in points; Alt describes it to those who do not
	// see it.
	Drawing *scene.Scene
	High    float64
	Alt     string
}

// Span is words in one voice; with a link they lead somewhere.
type Span struct {
	Voice face.Voice
	Words string
	Link  string
}

// sizes are those of set text by what it is, in points; leading is by how much lines stand apart.
var sizes = map[string]float64{"H1": 20, "H2": 13.5, "P": 10.5, "LI": 10.5}

const (
	leading   = 1.38
	ink       = "#1d2f52"
	inkSoft   = "#5a6a87"
	inkFaint  = "#aab4c5"
	inkLink   = "#7a4a00"
	leadWidth = 22 // of what stands before a paragraph
)

// flow sets blocks one below the other, on as many pages as they need.
type flow struct {
	w             *writer
	width, height float64
	margin        float64
	y             float64 // where the next line begins; 0 where no page is open
	next          float64 // how high the figure is that follows; 0 for none
}

// word is the smallest piece that is not broken.
type word struct {
	span  Span
	words string
	wide  float64
	space float64 // before it
}

func (f *flow) block(b Block) {
	switch b.Kind {
	case "Figure":
		f.figure(b)
		return
	case "Rule":
		f.rule()
		return
	}
	size := sizes[b.Kind]
	high := size * leading
	left := f.margin + b.Indent
	wide := f.width - f.margin - left
	lines := wrap(b.Spans, size, wide)
	need := high
	if b.Kind[0] == 'H' { // a heading does not stand alone at a foot
		need = 3 * high
	}
	if b.Kind == "H2" { // nor without the drawing below it
		need += f.next
	}
	if f.y == 0 || f.y+need > f.height-f.margin {
		f.page()
	} else if b.Kind == "H1" {
		f.y += size * 0.6
	} else if b.Kind == "H2" {
		f.y += size * 0.5
	}
	f.w.begin(tag{kind: b.Kind})
	if b.Lead != "" {
		f.w.glyphs(face.Glyphs(face.Noun, size, b.Lead), place{left - leadWidth, f.y + size, 1}, size, inkSoft)
	}
	for i, line := range lines {
		if f.y+high > f.height-f.margin && i > 0 {
			f.w.end()
			f.page()
			f.w.begin(tag{kind: b.Kind})
		}
		x := left
		for _, piece := range line {
			x += piece.space
			with := ink
			if piece.span.Link != "" {
				with = inkLink
				f.w.now.links = append(f.w.now.links, link{geometry.Box{X: x, Y: f.y, W: piece.wide, H: high}, piece.span.Link})
			}
			f.w.glyphs(face.Glyphs(piece.span.Voice, size, piece.words), place{x, f.y + size, 1}, size, with)
			x += piece.wide
		}
		f.y += high
	}
	f.w.end()
	f.y += size * 0.28
}

// figure sets a drawing in the middle, as large as its words need to be, where there is room for it.
func (f *flow) figure(b Block) {
	if len(b.Drawing.Slips) == 0 {
		return
	}
	box := b.Drawing.Bounds().Grown(8, 8)
	k := f.figureScale(b)
	if f.y == 0 || f.y+box.H*k > f.height-f.margin {
		f.page()
	}
	f.w.begin(tag{kind: b.Kind, alt: b.Alt})
	items := display.PaintedIn(b.Drawing.Look, display.Still(display.List(b.Drawing)))
	f.w.drawing(items, place{f.margin + (f.width-2*f.margin-box.W*k)/2 - box.X*k, f.y - box.Y*k, k})
	f.w.end()
	f.y += box.H*k + 8
}

func (f *flow) figureScale(b Block) float64 {
	box := b.Drawing.Bounds().Grown(8, 8)
	return min(0.75, (f.width-2*f.margin)/box.W, b.High/box.H)
}

// rule draws a line to write on.
func (f *flow) rule() {
	const high = 24
	if f.y == 0 || f.y+high > f.height-f.margin {
		f.page()
	}
	f.y += high
	f.w.artifact(func() {
		f.w.putf("q %s RG 0.5 w %s %s m %s %s l S Q\n", rgb(inkFaint), number(f.margin), number(f.y), number(f.width-f.margin), number(f.y))
	})
}

func (f *flow) page() {
	f.w.newPage(f.width, f.height)
	f.y = f.margin
}

// wrap breaks spans into lines of at most a width. What is longer than a line is broken anywhere.
func wrap(spans []Span, size, wide float64) (lines [][]word) {
	var line []word
	x, space := 0.0, 0.0
	flush := func() {
		lines = append(lines, line)
		line, x, space = nil, 0, 0
	}
	for _, s := range spans {
		gap := face.Measure(s.Voice, size, " ").Px
		for i, paragraph := range strings.Split(s.Words, "\n") {
			if i > 0 {
				flush()
			}
			for j, piece := range strings.Split(paragraph, " ") {
				if j > 0 {
					space = gap
				}
				if piece == "" {
					continue
				}
				w := face.Measure(s.Voice, size, piece).Px
				if x > 0 && x+space+w > wide {
					flush()
				}
				for w > wide && len([]rune(piece)) > 1 {
					head := []rune(piece)
					n := len(head)
					for n > 1 && face.Measure(s.Voice, size, string(head[:n])).Px > wide {
						n = n * 3 / 4
					}
					line = append(line, word{s, string(head[:n]), face.Measure(s.Voice, size, string(head[:n])).Px, 0})
					flush()
					piece = string(head[n:])
					w = face.Measure(s.Voice, size, piece).Px
				}
				if x == 0 {
					space = 0
				}
				// A space belongs to the words before it, so that whoever copies them has it.
				if space > 0 && len(line) > 0 {
					last := &line[len(line)-1]
					last.words += " "
					last.wide += space
					x += space
					space = 0
				}
				line = append(line, word{s, piece, w, space})
				x += space + w
				space = 0
			}
		}
	}
	flush()
	return lines
}

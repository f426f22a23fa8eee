package svg

import (
	"math"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// writer puts markup together.
type writer struct{ strings.Builder }

func (w *writer) put(parts ...string) {
	for _, p := range parts {
		w.WriteString(p)
	}
}

func (w *writer) class(on bool, name string) {
	if on {
		w.put(" ", name)
	}
}

// number writes a coordinate with at most two decimals.
func (w *writer) number(v float64) {
	w.put(strconv.FormatFloat(math.Round(v*100)/100+0, 'f', -1, 64))
}

func (w *writer) numbers(vs ...float64) {
	for i, v := range vs {
		if i > 0 {
			w.put(" ")
		}
		w.number(v)
	}
}

var escaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "'", "&#39;", "\n", " ")

// text writes words where neither markup nor an attribute may come of them.
func (w *writer) text(words string) { w.put(escaper.Replace(words)) }

// words writes the words as they were typed, where their lines do not tell.
func (w *writer) words(b *scene.Block) {
	if b != nil && len(b.Lines) > 1 {
		w.put(`" data-words="`, strings.ReplaceAll(escaper.Replace(strings.ReplaceAll(b.Words, "\n", "\x00")), "\x00", "&#10;"))
	}
}

func (w *writer) ends(k *scene.Link, from bool) {
	first := true
	for _, leg := range k.Legs {
		if leg.From == from {
			if !first {
				w.put(" ")
			}
			w.put(string(leg.End), ":", string(leg.Concept))
			first = false
		}
	}
}

func (w *writer) path(p scene.Path) {
	w.put("M")
	w.numbers(p[0].A.X, p[0].A.Y)
	for _, c := range p {
		if c.Straight() {
			w.put("L")
		} else {
			w.put("C")
			w.numbers(c.C1.X, c.C1.Y)
			w.put(" ")
			w.numbers(c.C2.X, c.C2.Y)
			w.put(" ")
		}
		w.numbers(c.B.X, c.B.Y)
	}
}

// legs writes the lines of a link, then its knots and darts: one element for
// all of a sort, since a large map has thousands.
func (w *writer) legs(legs []scene.Leg) {
	lines := func(class string, cross bool) {
		begun := false
		for _, leg := range legs {
			if leg.Cross != cross {
				continue
			}
			if !begun {
				w.put(`<path class="`, class, `" d="`)
				begun = true
			}
			w.path(leg.Path)
		}
		if begun {
			w.put(`"/>`)
		}
	}
	lines("line", false)
	lines("line cross", true)
	lines("between", true)
	for _, leg := range legs {
		if leg.Knot != nil {
			w.put(`<circle class="knot" r="3.4" cx="`)
			w.number(leg.Knot.X)
			w.put(`" cy="`)
			w.number(leg.Knot.Y)
			w.put(`"/>`)
		}
	}
	begun := false
	for _, leg := range legs {
		if leg.Dart != nil {
			if !begun {
				w.put(`<path class="dart" d="`)
				begun = true
			}
			w.dart(*leg.Dart)
		}
	}
	if begun {
		w.put(`"/>`)
	}
}

// dart writes a slim arrowhead with a notch.
func (w *writer) dart(d scene.Dart) {
	at := func(back, side float64) {
		w.numbers(d.Tip.X-back*d.Along.X-side*d.Along.Y, d.Tip.Y-back*d.Along.Y+side*d.Along.X)
	}
	w.put("M")
	at(0, 0)
	w.put("L")
	at(13, 4.4)
	w.put("L")
	at(9.5, 0)
	w.put("L")
	at(13, -4.4)
	w.put("Z")
}

// block writes wrapped words, centred in a box: one text for one line, since a
// large map has thousands, or a text with a span for each.
func (w *writer) block(class string, b *scene.Block, in scene.Rect) {
	if len(b.Lines) == 0 {
		return
	}
	w.put(`<text class="`, class)
	w.class(b.Voice == face.NounBold || b.Voice == face.NounBoldItalic, "bold")
	w.class(b.Voice == face.NounItalic || b.Voice == face.NounBoldItalic, "italic")
	w.class(b.Align == cm.AlignLeft, "at-left")
	w.class(b.Align == cm.AlignRight, "at-right")
	w.put(`" font-size="`)
	w.number(b.Size)
	w.put(`"`)
	if b.RightToLeft {
		w.put(` direction="rtl"`)
	}
	x := in.X + in.W/2
	switch b.Align {
	case cm.AlignLeft:
		x = in.X + b.Inset
	case cm.AlignRight:
		x = in.X + in.W - b.Inset
	}
	y := in.Y + (in.H-b.H)/2 + b.LineHeight/2 + b.Size*0.345
	if len(b.Lines) == 1 {
		w.line(b.Lines[0], x, y)
		w.put(`</text>`)
		return
	}
	w.put(`>`)
	for i, line := range b.Lines {
		w.put(`<tspan`)
		w.line(line, x, y+float64(i)*b.LineHeight)
		w.put(`</tspan>`)
	}
	w.put(`</text>`)
}

// line writes the rest of an opening tag and the words. Where a character is
// in no shipped font its width was guessed, and the browser is told to keep to
// it.
func (w *writer) line(l face.Line, x, y float64) {
	w.put(` x="`)
	w.number(x)
	w.put(`" y="`)
	w.number(y)
	w.put(`"`)
	if l.Missing > 0 {
		w.put(` textLength="`)
		w.number(l.Px)
		w.put(`" lengthAdjust="spacingAndGlyphs"`)
	}
	w.put(`>`)
	w.text(l.Words)
}

func lines(b *scene.Block) []string {
	all := make([]string, len(b.Lines))
	for i, l := range b.Lines {
		all[i] = l.Words
	}
	return all
}

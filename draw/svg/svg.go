// Package svg writes a scene as SVG. Each concept and each link is one group
// that can be replaced on its own: the page that a person edits, and whatever
// else shows a map, get them from the same functions.
//
// Colours and type are in one style sheet (Style) that speaks of classes and
// custom properties only, so that a look can be changed without drawing again.
package svg

import (
	_ "embed"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

//go:embed paper.css
var paperCSS string

//go:embed looks.css
var looksCSS string

// Style gives the style sheet of drawings.
func Style() string {
	var colours strings.Builder
	for _, rules := range []string{ofColour, ofPaint} { // what is a slip's own comes last
		for _, c := range cm.Colours {
			colours.WriteString(strings.ReplaceAll(rules, "{c}", string(c)))
		}
	}
	return strings.NewReplacer(
		"{nouns}", face.Stack(face.Noun), "{verbs}", face.Stack(face.Verb), "{colours}", colours.String(),
	).Replace(paperCSS) + looksCSS
}

// ofPaint is what takes one of the colours for itself.
const ofPaint = `.slip.fill-{c} .body { fill: var(--{c}-wash); }
.slip.words-{c} .noun { fill: var(--{c}-deep); }
.slip.border-{c} :is(.body, .strip, .fold) { stroke: var(--{c}-deep); stroke-width: 2; }
`

// ofColour is what takes one of the colours.
const ofColour = `:is(.slip, .sample).colour-{c} .body { fill: var(--{c}-wash); }
:is(.slip, .sample).colour-{c} .strip { fill: var(--{c}); }
.badge.colour-{c} :is(.pennant, .sign) { fill: var(--{c}-wash); stroke: var(--{c}-deep); }
:is(.link:not(.veiled), .sample-line).colour-{c} .line { stroke: var(--{c}-deep); }
:is(.link, .sample-line).colour-{c} :is(.knot, .dart) { fill: var(--{c}-deep); }
.region.colour-{c} :is(.border, .cut) { stroke: var(--{c}-deep); }
.region.colour-{c} .cut { fill: var(--{c}-wash); }
.note-card[data-colour="{c}"] { background: var(--{c}-wash); border-left-color: var(--{c}-deep); }
.region.colour-{c}.filled .border { fill: var(--{c}-wash); fill-opacity: 0.5; }
`

// Slip writes the group of one concept.
func Slip(s *scene.Slip) string {
	w := &writer{}
	w.put(`<g class="slip`)
	w.class(s.Focus, "focus")
	w.class(s.Loose, "loose")
	w.class(len(s.Words.Lines) == 0, "empty")
	w.class(s.Colour != "", "colour-"+string(s.Colour))
	w.class(s.Pinned, "pinned")
	w.class(s.Region, "gathered")
	if p := s.Paint; p != nil {
		w.class(p.Fill != "", "fill-"+string(p.Fill))
		w.class(p.Words != "", "words-"+string(p.Words))
		w.class(p.Border != "", "border-"+string(p.Border))
	}
	w.put(`" id="c-`, string(s.ID), `" data-kind="concept" data-id="`, string(s.ID), `" data-box="`)
	w.numbers(s.Box.X, s.Box.Y, s.Box.W, s.Box.H)
	if s.MainLink != "" {
		w.put(`" data-main="`, string(s.MainLink), ` `, string(s.MainEnd), ` `, s.Rank, ` `, string(s.Parent))
	}
	w.words(s.Words)
	if s.Outline != cm.OutlineSlip {
		w.put(`" data-outline="`, string(s.Outline))
	}
	if s.Size != 0 {
		w.put(`" data-size="`, strconv.Itoa(s.Size))
	}
	if s.Wide {
		w.put(`" data-wide="1`)
	}
	for i, id := range s.Hides {
		if i == 0 {
			w.put(`" data-hides="`)
		} else {
			w.put(` `)
		}
		w.put(string(id))
	}
	if s.Region {
		w.put(`" data-region="1`)
	}
	w.put(`" data-level="`, strconv.Itoa(s.Level), `" transform="translate(`)
	w.numbers(s.Box.X, s.Box.Y)
	w.put(`)" role="img" aria-label="`)
	w.text(strings.Join(lines(s.Words), " "))
	if s.Kind != "" {
		w.put(`, `)
		w.text(s.Kind)
	}
	for _, i := range s.Icons {
		if n, is := i.Step(); is {
			w.put(`, step `, strconv.Itoa(n))
		}
	}
	for _, k := range s.Marks {
		w.put(`, `)
		w.text(k.Says)
	}
	if s.Remark != nil {
		w.put(`, `)
		w.text(strings.Join(lines(s.Remark), " "))
	}
	if s.Pinned {
		w.put(`, pinned`)
	}
	w.text(s.Talk.Says())
	if n := len(s.Hides); n > 0 {
		w.put(`, `, strconv.Itoa(n), ` tucked away`)
	}
	w.put(`">`)
	w.outline(s)
	in := scene.Rect{X: scene.Strip, W: s.Box.W - scene.Strip, H: s.Box.H}
	if len(s.Hides) > 0 {
		in.H -= scene.FoldedHeight
	}
	bottom := in.H
	in = w.stuff(s, in)
	if len(s.Marks) > 0 {
		in.H -= scene.MarksHeight
	}
	w.icons(s, in)
	if wide := s.IconsWidth(); wide > 0 {
		in.X, in.W = in.X+wide, in.W-wide
	}
	w.block("noun", s.Words, in)
	w.marks(s, bottom)
	w.tuck(s)
	w.talk(s.Talk, s.Box.W-16, s.Box.H)
	if s.Pinned {
		w.put(`<circle class="pin" cx="16" cy="0" r="4"/>`)
	}
	w.put(`</g>`)
	return w.String()
}

// tuck writes the folded lower edge of a slip that hides its branch.
func (w *writer) tuck(s *scene.Slip) {
	n := len(s.Hides)
	if n == 0 {
		return
	}
	top := s.Box.H - scene.FoldedHeight
	w.put(`<g class="tuck"><path class="flap" d="M0 `)
	w.number(top)
	w.put(`H`)
	w.number(s.Box.W)
	w.put(`L`)
	w.numbers(s.Box.W-7, s.Box.H)
	w.put(`H7Z"/><text class="aside count" font-size="12.5" x="`)
	w.number(s.Box.W / 2)
	w.put(`" y="`)
	w.number(s.Box.H - 5.5)
	if n == 1 {
		w.put(`">+1 idea</text></g>`)
		return
	}
	w.put(`">+`, strconv.Itoa(n), ` ideas</text></g>`)
}

// Link writes the group of one link.
func Link(k *scene.Link) string {
	w := &writer{}
	w.put(`<g class="link`)
	w.class(k.Open(), "open")
	w.class(k.Veiled(), "veiled")
	w.class(k.Colour != "", "colour-"+string(k.Colour))
	w.class(k.Stroke != "", "stroke-"+string(k.Stroke))
	w.put(`" id="l-`, string(k.ID), `" data-kind="link" data-id="`, string(k.ID), `" data-heads="`, string(k.Heads), `" data-from="`)
	w.ends(k, true)
	w.put(`" data-to="`)
	w.ends(k, false)
	w.put(`" data-gap="`)
	w.numbers(k.Gap.X, k.Gap.Y, k.Gap.W, k.Gap.H)
	w.words(k.Words)
	w.byHand(k)
	w.put(`" role="img" aria-label="`)
	w.text(k.Says)
	if k.Kind != "" {
		w.put(`, `)
		w.text(k.Kind)
	}
	for _, mark := range k.Marks {
		w.put(`, `)
		w.text(mark.Says)
	}
	w.text(k.Talk.Says())
	w.put(`"><path class="reach" d="`)
	for _, leg := range k.Legs {
		w.path(leg.Path)
	}
	w.put(`"/>`)
	w.legs(k.Legs)
	w.put(`<rect class="gap" x="`)
	w.number(k.Gap.X)
	w.put(`" y="`)
	w.number(k.Gap.Y)
	w.put(`" width="`)
	w.number(k.Gap.W)
	w.put(`" height="`)
	w.number(k.Gap.H)
	w.put(`"/>`)
	words := k.Gap
	if len(k.Marks) > 0 {
		words.W -= w.linkMarks(k)
	}
	if k.Open() {
		// A line to write on, as in an exercise book.
		w.put(`<path class="rule" d="M`)
		w.numbers(words.X+4, words.Y+words.H-4)
		w.put(`H`)
		w.number(words.X + words.W - 4)
		w.put(`"/>`)
	} else {
		w.block("verb", k.Words, words)
	}
	w.talk(k.Talk, k.Gap.X+k.Gap.W-4, k.Gap.Y+k.Gap.H)
	w.put(`</g>`)
	return w.String()
}

// byHand writes how the author led a line, for those who go on leading it.
func (w *writer) byHand(k *scene.Link) {
	l := k.ByHand()
	if l.Line != cm.LineAuto {
		w.put(`" data-line="`, string(l.Line))
	}
	if l.Along != 0 {
		w.put(`" data-along="`)
		w.put(strconv.FormatFloat(l.Along, 'f', 4, 64))
	}
	if l.Hub != nil {
		w.put(`" data-hub="`)
		w.numbers(l.Hub.X, l.Hub.Y)
	}
	if l.Tidied {
		w.put(`" data-tidied="1`)
	}
	for i, end := range cm.SortedIDs(l.Bends) {
		if i == 0 {
			w.put(`" data-bends="`)
		} else {
			w.put(`;`)
		}
		w.put(string(end))
		for j, p := range l.Bends[end] {
			w.put([]string{":", ","}[min(j, 1)])
			w.numbers(p.X, p.Y)
		}
	}
}

// Group writes all links or all slips in the order of their ids.
func Group[E any](all map[cm.ID]*E, write func(*E) string) string {
	var out strings.Builder
	for _, id := range cm.SortedIDs(all) {
		out.WriteString(write(all[id]))
		out.WriteByte('\n')
	}
	return out.String()
}

package display

import (
	_ "embed"
	"strings"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
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

var sheets sync.Map // of *Sheet, by cm.Theme

// SheetOf gives the style sheet of a look, with all colours worked out.
func SheetOf(l cm.Look) *Sheet {
	if l.Own != nil {
		return ReadSheet(Resolved(Style()+OwnRules(l), l))
	}
	if known, is := sheets.Load(l.Theme); is {
		return known.(*Sheet)
	}
	s := ReadSheet(Resolved(Style(), l))
	sheets.Store(l.Theme, s)
	return s
}

// PaintedIn gives items as they are painted in a look.
func PaintedIn(l cm.Look, items []Item) []Painted {
	return SheetOf(l).Resolve([]Item{&Group{Class: "look-" + ThemeName(l.Theme), Items: items}})
}

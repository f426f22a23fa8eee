package conceptmap

import (
	"math"
	"mevrin/core/shade"
	"slices"
	"strings"
)

// Look is how a whole map is dressed. The zero look is the plain one.
type Look struct {
	// Theme is a set of colours for the paper and all on it.
	Theme Theme `json:"dress,omitempty"`
	// Own are the author's own colours, where the dress is ThemeOwn.
	Own *OwnColours `json:"own,omitempty"`
	// Paper is what is printed on the paper.
	Paper Paper `json:"paper,omitempty"`
	// Picture is what lies faded under the slips where the paper is PaperPicture.
	Picture *Backdrop `json:"picture,omitempty"`
	// Line is how lines run that nobody has led otherwise.
	Line Line `json:"line,omitempty"`
	// Large sets all words a step larger.
	Large bool `json:"large,omitempty"`
	// By is what colours stand for.
	By ColourBy `json:"by,omitempty"`
	// Levels are the colours of levels, from the first on, where they stand for those; where
	// none is chosen, the one of that place among Colours. Further levels begin anew.
	Levels LevelColours `json:"levels,omitzero"`
}

// LevelColours are as many colours for levels as there are colours.
type LevelColours [MaxLevelColours]Colour

// MaxLevelColours is for how many levels a colour can be chosen.
const MaxLevelColours = 8

// OfLevel gives the colour of a level below the focus concept, from 1 on.
func (l Look) OfLevel(level int) Colour {
	i := (level - 1) % MaxLevelColours
	if l.Levels[i] != "" {
		return l.Levels[i]
	}
	return Colours[i%len(Colours)]
}

// Theme names a set of colours that is shipped.
type Theme string

// The dresses.
const (
	ThemePlain     Theme = ""
	ThemeEvening   Theme = "evening"   // dark, for dim rooms
	ThemeProjector Theme = "projector" // high contrast
	ThemePrinter   Theme = "printer"   // white and quiet
	ThemeYoung     Theme = "young"     // clear and bold
	ThemeBoard     Theme = "board"     // chalk on a board
)

// ThemeOwn is made of colours of the author's own.
const ThemeOwn Theme = "own"

// OwnColours are what a dress of one's own is made of; all its other colours are
// worked out from these. Each is six small hexadecimal digits behind a hash.
type OwnColours struct {
	Paper string `json:"paper"`
	Slip  string `json:"slip"`
	Ink   string `json:"ink"`
}

// ReadableAt is the least contrast of words to what they stand on (WCAG 2.2, success
// criterion 1.4.3).
const ReadableAt = 4.5

// BackdropOpacity is how strongly a picture shows that lies under the slips: any
// picture leaves the words over it readable, in every dress that is shipped.
const BackdropOpacity = 0.22

// Grounds are what words in ink may stand on: paper, slips, and the darkest and
// lightest parts of a picture that lies under them.
func (o OwnColours) Grounds(picture bool) []string {
	all := []string{o.Paper, o.Slip}
	if picture {
		all = append(all, shade.Mix(o.Paper, "#000000", BackdropOpacity), shade.Mix(o.Paper, "#ffffff", BackdropOpacity))
	}
	return all
}

// Valid tells whether each of them is a colour.
func (o OwnColours) Valid() bool {
	return shade.Valid(o.Paper) && shade.Valid(o.Slip) && shade.Valid(o.Ink)
}

// Corrected gives the colours with an ink that can be read on all that it may stand
// on; ok is false where there is none.
func (o OwnColours) Corrected(picture bool) (next OwnColours, ok bool) {
	next = o
	next.Ink, ok = shade.Readable(o.Ink, ReadableAt, o.Grounds(picture)...)
	return next, ok
}

func (l Look) ownSound() bool {
	if l.Own == nil || l.Theme != ThemeOwn {
		return l.Own == nil && l.Theme != ThemeOwn
	}
	if !l.Own.Valid() {
		return false
	}
	next, ok := l.Own.Corrected(l.Paper == PaperPicture)
	return ok && next == *l.Own
}

// Themes are all that are shipped, in the order in which they are offered.
var Themes = []Theme{ThemePlain, ThemeEvening, ThemeProjector, ThemePrinter, ThemeYoung, ThemeBoard}

// Paper is what is printed on the paper.
type Paper string

// PaperPicture is a picture of the author's own instead of a print.
const PaperPicture Paper = "picture"

// Papers are all of them; the ordinary one is blank.
var Papers = []Paper{"", "lines", "squares", "dots", PaperPicture}

// Backdrop is a picture under the slips: it stays where it lies on the paper
// while the map grows beyond it.
type Backdrop struct {
	File File  `json:"file"`
	At   Point `json:"at"` // its upper left corner
	// Wide is its width in pixels, from MinPicture to FarthestPlace.
	Wide float64 `json:"wide"`
}

// Height gives its height in pixels, in the picture's own proportion.
func (b *Backdrop) Height() float64 { return b.Wide * float64(b.File.H) / float64(b.File.W) }

// Valid tells whether the picture can lie there.
func (b *Backdrop) Valid() bool {
	return b.File.Valid() && strings.HasPrefix(b.File.Type, "image/") && b.File.W > 0 && b.File.H > 0 &&
		math.Abs(b.At.X) <= FarthestPlace && math.Abs(b.At.Y) <= FarthestPlace && b.Wide >= MinPicture && b.Wide <= FarthestPlace && b.Height() <= 2*FarthestPlace
}

// ColourBy says what the colours of slips stand for: one thing at a time.
type ColourBy string

// What colours can stand for.
const (
	ByKind   ColourBy = ""
	ByBranch ColourBy = "branch"
	ByLevel  ColourBy = "level"
	ByTag    ColourBy = "tag" // the first that a concept carries
)

// ColouredBy are all of them, in the order in which they are offered.
var ColouredBy = []ColourBy{ByKind, ByBranch, ByLevel, ByTag}

// Valid tells whether there is such a look.
func (l Look) Valid() bool {
	return (l.Paper == PaperPicture) == (l.Picture != nil) && (l.Picture == nil || l.Picture.Valid()) &&
		(slices.Contains(Themes, l.Theme) || l.Theme == ThemeOwn) && l.ownSound() && slices.Contains(Papers, l.Paper) && l.Line.Valid() && slices.Contains(ColouredBy, l.By) &&
		!slices.ContainsFunc(l.Levels[:], func(c Colour) bool { return !c.Valid() })
}

// TriedOn gives the look in other colours of one's own, with an ink that can be read.
func (l Look) TriedOn(own OwnColours) (Look, error) {
	readable := own.Valid()
	if readable {
		own, readable = own.Corrected(l.Paper == PaperPicture)
	}
	if !readable {
		return l, Refusef("No ink can be read on this paper and on these slips alike.")
	}
	l.Theme, l.Own = ThemeOwn, &own
	return l, nil
}

// Portable gives a look as it suits any paper: a picture under the slips belongs
// to the one where it was laid.
func (l Look) Portable() Look {
	if l.Paper == PaperPicture {
		l.Paper, l.Picture = "", nil
	}
	return l
}

// Paint is how one concept looks otherwise than its kind has it: the colours of
// its words, of the slip and of its border, and its outline.
type Paint struct {
	Words   Colour   `json:"words,omitempty"`
	Fill    Colour   `json:"fill,omitempty"`
	Border  Colour   `json:"border,omitempty"`
	Outline *Outline `json:"outline,omitempty"`
}

// Valid tells whether there are such colours, and at least one.
func (p *Paint) Valid() bool {
	return p == nil || p.Words.Valid() && p.Fill.Valid() && p.Border.Valid() && (p.Outline == nil || slices.Contains(Outlines, *p.Outline)) && *p != (Paint{})
}

// OutlineOf gives the outline of a concept's slip: its own, or its kind's.
func (m *Map) OutlineOf(c *Concept) Outline {
	if c.Paint != nil && c.Paint.Outline != nil {
		return *c.Paint.Outline
	}
	if k := m.KindOf(c); k != nil {
		return k.Outline
	}
	return OutlineSlip
}

// Package display holds what is to be painted of a scene: a list of primitives in the
// order of painting, each with its place, its words line by line, and its class. Which
// colours and strokes a class has is said once, in paper.css; a browser reads it there,
// and Resolve works it out for whatever paints otherwise. Whoever writes a list down, as
// SVG, as a picture or on slides, decides nothing about where things stand.
//
// Lengths are pixels at scale 1, x to the right, y down.
package display

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// Item is one primitive: a Group, Path, Rect, Circle, Text or Image.
type Item interface{ class() string }

// Group is several items that belong together, with an origin of their own.
type Group struct {
	Class string // several are parted by spaces
	ID    string // names the thing in a drawing; empty for a part of one
	// Facts are what a page reads of the thing, in their order.
	Facts []Fact
	At    geometry.Point // where its origin lies in what holds it
	Scale float64        // 0 stands for 1
	Label string         // what it is, for those who do not see it; empty for a part
	Hint  string         // what is shown to whoever points at it
	Paint *Paint         // of all in it that has no other and no class
	Items []Item
}

// Fact is something that a page knows of a thing, as "box" or "heads".
type Fact struct{ Name, Value string }

// Path is a line or an outline.
type Path struct {
	Class string
	Path  Outline
	At    geometry.Point // by which it is moved
	Paint *Paint         // where no class says how it is painted
}

// Rect is a box; its corners are rounded by Round.
type Rect struct {
	Class string
	Box   geometry.Box
	Round float64
	Paint *Paint
}

// Circle is a disc.
type Circle struct {
	Class  string
	Centre geometry.Point
	R      float64
}

// Text is words, set line by line.
type Text struct {
	Class string
	Voice face.Voice
	Size  float64
	// RightToLeft says in which direction the words are read.
	RightToLeft bool
	Lines       []Line
}

// Line is one line of words. At is where its baseline begins, is halved or ends, as its
// text's paint has it.
type Line struct {
	Words string
	At    geometry.Point
	// Fit is the width that the line has to take, for words of which a character is in
	// no shipped font; 0 for their own.
	Fit float64
}

// Image is a picture that is kept beside the map.
type Image struct {
	Class   string
	Hash    string // of its file
	Source  cm.ID  // of the concept, that it is; empty for the backdrop
	Box     geometry.Box
	Says    string
	Opacity float64 // 0 stands for 1
}

func (g *Group) class() string  { return g.Class }
func (p *Path) class() string   { return p.Class }
func (r *Rect) class() string   { return r.Class }
func (c *Circle) class() string { return c.Class }
func (t *Text) class() string   { return t.Class }
func (i *Image) class() string  { return i.Class }

func (g *Group) add(items ...Item) { g.Items = append(g.Items, items...) }

func (g *Group) fact(name, value string) { g.Facts = append(g.Facts, Fact{name, value}) }

// classes joins those that are on.
type classes []string

func (c *classes) on(is bool, name string) {
	if is {
		*c = append(*c, name)
	}
}

func (c classes) String() string { return strings.Join(c, " ") }

// Number writes a coordinate with at most two decimals.
func Number(v float64) string {
	n := int64(v*100 + 0.5)
	if v < 0 {
		n = -int64(-v*100 + 0.5)
	}
	if n%100 == 0 {
		return strconv.FormatInt(n/100, 10)
	}
	return strconv.FormatFloat(float64(n)/100, 'f', -1, 64)
}

func numbers(vs ...float64) string {
	all := make([]string, len(vs))
	for i, v := range vs {
		all[i] = Number(v)
	}
	return strings.Join(all, " ")
}

// block sets wrapped words in the middle of a box; nil where there are none.
func block(class string, b *scene.Block, in geometry.Box) []Item {
	if b == nil || len(b.Lines) == 0 {
		return nil
	}
	c := classes{class}
	c.on(b.Voice == face.NounBold || b.Voice == face.NounBoldItalic, "bold")
	c.on(b.Voice == face.NounItalic || b.Voice == face.NounBoldItalic, "italic")
	c.on(b.Align == cm.AlignLeft, "at-left")
	c.on(b.Align == cm.AlignRight, "at-right")
	t := &Text{Class: c.String(), Voice: b.Voice, Size: b.Size, RightToLeft: b.RightToLeft}
	at := geometry.Point{X: in.X + in.W/2, Y: in.Y + (in.H-b.H)/2 + b.LineHeight/2 + b.Size*baseline}
	switch b.Align {
	case cm.AlignLeft:
		at.X = in.X + b.Inset
	case cm.AlignRight:
		at.X = in.X + in.W - b.Inset
	}
	for i, l := range b.Lines {
		line := Line{Words: l.Words, At: geometry.Point{X: at.X, Y: at.Y + float64(i)*b.LineHeight}}
		if l.Missing > 0 {
			line.Fit = l.Px
		}
		t.Lines = append(t.Lines, line)
	}
	return []Item{t}
}

// baseline is how far below the middle of a line its letters stand, in parts of their
// size.
const baseline = 0.345

// words sets a few words in one line.
func words(class string, voice face.Voice, size, x, y float64, said string) *Text {
	return &Text{Class: class, Voice: voice, Size: size, Lines: []Line{{Words: said, At: geometry.Point{X: x, Y: y}}}}
}

func joined(b *scene.Block) string {
	if b == nil {
		return ""
	}
	all := make([]string, len(b.Lines))
	for i, l := range b.Lines {
		all[i] = l.Words
	}
	return strings.Join(all, " ")
}

// SetLine is one line of words as it is painted: the glyphs of its fonts, and where its
// baseline begins.
type SetLine struct {
	From geometry.Point
	Runs []face.Run
}

// Set gives the glyphs of a text in their places, where its paint says whether lines
// begin, are halved or end at the places that are given.
func (t *Text) Set(p Paint) []SetLine {
	all := make([]SetLine, len(t.Lines))
	for i, l := range t.Lines {
		wide := face.Measure(t.Voice, t.Size, l.Words).Px
		from := l.At
		switch anchor := p.Anchor; {
		case anchor == "middle":
			from.X -= wide / 2
		case anchor == "end" != t.RightToLeft: // right to left words begin at the right
			from.X -= wide
		}
		all[i] = SetLine{from, face.Glyphs(t.Voice, t.Size, l.Words)}
	}
	return all
}

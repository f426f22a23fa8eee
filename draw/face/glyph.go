package face

import (
	"sync"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"

	"mevrin/core/geometry"
)

// Stroke is one step of the outline of a glyph: Op is 'M' (begin anew at To), 'L' (a line) or 'C' (a
// curve with the control points C1 and C2). Each part closes by itself.
type Stroke struct {
	Op         byte
	C1, C2, To geometry.Point
}

type glyphKey struct {
	font *font.Font
	id   font.GID
}

var outlines sync.Map // of []Stroke, by glyphKey; bounded by the glyphs of the shipped fonts

// Outline gives the outline of a glyph at a size of one pixel, from its origin on the baseline, y
// down; empty for one that is a blank.
func Outline(f *font.Font, id font.GID) []Stroke {
	key := glyphKey{f, id}
	if known, is := outlines.Load(key); is {
		return known.([]Stroke)
	}
	var all []Stroke
	face := font.NewFace(f)
	scale := 1 / float64(f.Upem())
	at := func(p opentype.SegmentPoint) geometry.Point {
		return geometry.Point{X: float64(p.X) * scale, Y: -float64(p.Y) * scale}
	}
	if data, is := face.GlyphData(id).(font.GlyphOutline); is {
		var from geometry.Point
		for _, s := range data.Segments {
			switch s.Op {
			case opentype.SegmentOpMoveTo:
				from = at(s.Args[0])
				all = append(all, Stroke{Op: 'M', To: from})
			case opentype.SegmentOpLineTo:
				from = at(s.Args[0])
				all = append(all, Stroke{Op: 'L', To: from})
			case opentype.SegmentOpQuadTo: // as a cubic curve
				q, to := at(s.Args[0]), at(s.Args[1])
				all = append(all, Stroke{'C', third(from, q), third(to, q), to})
				from = to
			case opentype.SegmentOpCubeTo:
				from = at(s.Args[2])
				all = append(all, Stroke{'C', at(s.Args[0]), at(s.Args[1]), from})
			}
		}
	}
	outlines.Store(key, all)
	return all
}

// third gives the place two thirds of the way from one to another.
func third(from, to geometry.Point) geometry.Point {
	return geometry.Point{X: from.X + 2*(to.X-from.X)/3, Y: from.Y + 2*(to.Y-from.Y)/3}
}

package raster

import (
	"image"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/scene"
)

// Options say how a drawing becomes a picture.
type Options struct {
	Scale       float64 // pixels for each of the paper's; 0 stands for 1
	Transparent bool    // without the paper
	Pictures    Pictures
}

// frame is the paper around a drawing, in its pixels.
const frame = 32

// Document paints a whole drawing with the paper around it. It fails with TooLarge.
func Document(sc *scene.Scene, o Options) (*image.RGBA, error) {
	if o.Scale == 0 {
		o.Scale = 1
	}
	box := sc.Bounds().Grown(frame, frame)
	return Paint(Items(sc, box, !o.Transparent), box, o.Scale, o.Transparent, o.Pictures)
}

// Items are the primitives of a drawing, with the paper under it where that is wished.
func Items(sc *scene.Scene, box geometry.Box, paper bool) []display.Painted {
	var items []display.Item
	if paper {
		items = display.Paper(box, sc.Look, func(name string) string { return display.Colour(sc.Look, name) })
	}
	return display.PaintedIn(sc.Look, append(items, display.Still(display.List(sc))...))
}

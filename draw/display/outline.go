package display

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/scene"
)

// ovalHandle is how far the handles of a cubic curve reach along a quarter of
// an oval, so that its middle lies on the border that the scene reckons with.
const ovalHandle = 0.64

// outline is a slip's border, its strip, and what its cut corner lays bare.
func outline(s *scene.Slip) []Item {
	body, strip := Outlines(s)
	all := []Item{&Path{Class: "body", Path: body}, &Path{Class: "strip", Path: strip}}
	if s.Outline == cm.OutlineSlip {
		all = append(all, &Path{Class: "fold", Path: polygon(s.Box.W-scene.Cut, 0, s.Box.W-scene.Cut, scene.Cut, s.Box.W, scene.Cut)})
	}
	return all
}

// Outlines gives the border of a slip and the strip of colour along the left
// of it, from its upper left corner.
func Outlines(s *scene.Slip) (body, strip Outline) {
	w, h := s.Box.W, s.Box.H
	const edge = scene.Strip
	switch s.Outline {
	case cm.OutlineCapsule:
		r := scene.Round(h)
		body.move(r, 0)
		body.line(w-r, 0)
		body.arc(r, r, 0, false, true, w, r)
		body.line(w, h-r)
		body.arc(r, r, 0, false, true, w-r, h)
		body.line(r, h)
		body.arc(r, r, 0, false, true, 0, h-r)
		body.line(0, r)
		body.arc(r, r, 0, false, true, r, 0)
		strip.move(r, 0)
		strip.arc(r, r, 0, false, false, 0, r)
		strip.line(0, h-r)
		strip.arc(r, r, 0, false, false, r, h)
		strip.line(r+edge, h)
		strip.arc(r, r, 0, false, true, edge, h-r)
		strip.line(edge, r)
		strip.arc(r, r, 0, false, true, edge+r, 0)
	case cm.OutlineLozenge:
		p := scene.PointDepth(h)
		body = straight(p, 0, w-p, 0, w, h/2, w-p, h, p, h, 0, h/2)
		strip = straight(p, 0, 0, h/2, p, h, p+edge, h, edge, h/2, p+edge, 0)
	case cm.OutlineTicket:
		a, b := h/2-scene.Notch, h/2+scene.Notch
		body = straight(0, 0, w, 0, w, a)
		body.arc(scene.Notch, scene.Notch, 0, false, false, w, b)
		body.line(w, h)
		body.line(0, h)
		body.line(0, b)
		body.arc(scene.Notch, scene.Notch, 0, false, false, 0, a)
		strip = straight(0, 0, 0, a)
		strip.arc(scene.Notch, scene.Notch, 0, false, true, 0, b)
		strip.line(0, h)
		strip.line(edge, h)
		strip.line(edge, b+2)
		strip.arc(scene.Notch+2, scene.Notch+2, 0, false, false, edge, a-2)
		strip.line(edge, 0)
	case cm.OutlineOval:
		x, y := w/2, h/2
		kx, ky := x*(1-ovalHandle), y*(1-ovalHandle)
		body.move(x, 0)
		body.curve(w-kx, 0, w, ky, w, y)
		body.curve(w, h-ky, w-kx, h, x, h)
		body.curve(kx, h, 0, h-ky, 0, y)
		body.curve(0, ky, kx, 0, x, 0)
		strip.move(x, 0)
		strip.curve(kx, 0, 0, ky, 0, y)
		strip.curve(0, h-ky, kx, h, x, h)
		strip.curve(kx+edge, h, edge, h-ky, edge, y)
		strip.curve(edge, ky, kx+edge, 0, x, 0)
	case cm.OutlinePlain:
		body = straight(0, 0, w, 0, w, h, 0, h)
		strip = straight(0, 0, edge, 0, edge, h, 0, h)
	default:
		body = straight(0, 0, w-scene.Cut, 0, w, scene.Cut, w, h, 0, h)
		strip = straight(0, 0, edge, 0, edge, h, 0, h)
	}
	body.close()
	strip.close()
	return body, strip
}

// Sample is a small slip in the look of a kind, its middle at a height.
func Sample(k *cm.Kind, box geometry.Box) *Group {
	c := classes{"sample"}
	c.on(k.Colour != "", "colour-"+string(k.Colour))
	g := &Group{Class: c.String(), At: geometry.Point{X: box.X, Y: box.Y}}
	g.add(outline(&scene.Slip{Box: geometry.Box{W: box.W, H: box.H}, Colour: k.Colour, Outline: k.Outline})...)
	g.add(pictogram(k.Icon, box.W/2-6, 3.5, 14)...)
	return g
}

// SampleLine is a short line in the look of a kind of links.
func SampleLine(k *cm.Kind, x, y float64) *Group {
	c := classes{"sample-line"}
	c.on(k.Colour != "", "colour-"+string(k.Colour))
	c.on(k.Stroke != "", "stroke-"+string(k.Stroke))
	var dart Outline
	dart.dart(scene.Dart{Tip: geometry.Point{X: x + scene.KeySample, Y: y}, Along: geometry.Point{X: 1}})
	return &Group{Class: c.String(), Items: []Item{
		&Path{Class: "line", Path: straight(x, y, x+scene.KeySample-8, y)}, &Path{Class: "dart", Path: dart},
	}}
}

package svg

import (
	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// ovalHandle is how far the handles of a cubic curve reach along a quarter of
// an oval, so that its middle lies on the border that the scene reckons with.
const ovalHandle = 0.64

// outline writes a slip's border, its strip, and what its cut corner lays bare.
func (w *writer) outline(s *scene.Slip) {
	body, strip := outlines(s)
	w.put(`<path class="body" d="`)
	w.trace(body...)
	w.put(`"/><path class="strip" d="`)
	w.trace(strip...)
	if s.Outline == cm.OutlineSlip {
		w.put(`"/><path class="fold" d="`)
		w.trace("M", s.Box.W-scene.Cut, 0, "V", scene.Cut, "H", s.Box.W, "Z")
	}
	w.put(`"/>`)
}

// outlines gives the border of a slip and the strip of colour along the left
// of it, as commands of a path and their numbers.
func outlines(s *scene.Slip) (body, strip []any) {
	width, height := s.Box.W, s.Box.H
	const edge = scene.Strip
	switch s.Outline {
	case cm.OutlineCapsule:
		r := scene.Round(height)
		body = []any{"M", r, 0, "H", width - r, "A", r, r, 0, 0, 1, width, r, "V", height - r, "A", r, r, 0, 0, 1, width - r, height, "H", r,
			"A", r, r, 0, 0, 1, 0, height - r, "V", r, "A", r, r, 0, 0, 1, r, 0, "Z"}
		strip = []any{"M", r, 0, "A", r, r, 0, 0, 0, 0, r, "V", height - r, "A", r, r, 0, 0, 0, r, height, "h", edge,
			"A", r, r, 0, 0, 1, edge, height - r, "V", r, "A", r, r, 0, 0, 1, edge + r, 0, "Z"}
	case cm.OutlineLozenge:
		p := scene.PointDepth(height)
		body = []any{"M", p, 0, "H", width - p, "L", width, height / 2, "L", width - p, height, "H", p, "L", 0, height / 2, "Z"}
		strip = []any{"M", p, 0, "L", 0, height / 2, "L", p, height, "h", edge, "L", edge, height / 2, "L", p + edge, 0, "Z"}
	case cm.OutlineTicket:
		a, b := height/2-scene.Notch, height/2+scene.Notch
		body = []any{"M", 0, 0, "H", width, "V", a, "A", scene.Notch, scene.Notch, 0, 0, 0, width, b, "V", height, "H", 0, "V", b,
			"A", scene.Notch, scene.Notch, 0, 0, 0, 0, a, "Z"}
		strip = []any{"M", 0, 0, "V", a, "A", scene.Notch, scene.Notch, 0, 0, 1, 0, b, "V", height, "h", edge, "V", b + 2,
			"A", scene.Notch + 2, scene.Notch + 2, 0, 0, 0, edge, a - 2, "V", 0, "Z"}
	case cm.OutlineOval:
		x, y := width/2, height/2
		kx, ky := x*(1-ovalHandle), y*(1-ovalHandle)
		body = []any{"M", x, 0, "C", width - kx, 0, width, ky, width, y, "C", width, height - ky, width - kx, height, x, height,
			"C", kx, height, 0, height - ky, 0, y, "C", 0, ky, kx, 0, x, 0, "Z"}
		strip = []any{"M", x, 0, "C", kx, 0, 0, ky, 0, y, "C", 0, height - ky, kx, height, x, height,
			"C", kx + edge, height, edge, height - ky, edge, y, "C", edge, ky, kx + edge, 0, x, 0, "Z"}
	case cm.OutlinePlain:
		body = []any{"M", 0, 0, "H", width, "V", height, "H", 0, "Z"}
		strip = []any{"M", 0, 0, "H", edge, "V", height, "H", 0, "Z"}
	default:
		body = []any{"M", 0, 0, "H", width - scene.Cut, "L", width, scene.Cut, "V", height, "H", 0, "Z"}
		strip = []any{"M", 0, 0, "H", edge, "V", height, "H", 0, "Z"}
	}
	return body, strip
}

// trace writes commands of a path and their numbers.
func (w *writer) trace(parts ...any) {
	number := false
	for _, p := range parts {
		switch p := p.(type) {
		case string:
			w.put(p)
			number = false
			continue
		case int:
			w.gap(number)
			w.number(float64(p))
		case float64:
			w.gap(number)
			w.number(p)
		}
		number = true
	}
}

func (w *writer) gap(wanted bool) {
	if wanted {
		w.put(" ")
	}
}

// Swatch writes a small slip in the look of a kind, as a drawing of its own.
func Swatch(colour cm.Colour, outline cm.Outline) string {
	w := &writer{}
	w.put(`<svg class="swatch" viewBox="-2 -2 48 30" width="48" height="30" aria-hidden="true"><g class="sample`)
	w.class(colour != "", "colour-"+string(colour))
	box := scene.Rect{W: 44, H: 26}
	if outline == cm.OutlineCapsule { // in proportion to a slip's it has level sides
		box.H = 18
	}
	w.put(`" transform="translate(0 `)
	w.number((26 - box.H) / 2)
	w.put(`)">`)
	w.outline(&scene.Slip{Box: box, Colour: colour, Outline: outline})
	w.put(`</g></svg>`)
	return w.String()
}

package svg

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// Regions writes the outlines around concepts.
func Regions(sc *scene.Scene) string {
	w := &writer{}
	w.backdrop(sc.Look.Picture)
	for _, r := range sc.Regions {
		w.region(r)
	}
	return w.String()
}

func (w *writer) region(r *scene.Region) {
	w.put(`<g class="region`)
	w.class(r.Colour != "", "colour-"+string(r.Colour))
	w.class(r.Stroke != "", "stroke-"+string(r.Stroke))
	w.class(r.Filled, "filled")
	w.put(`" id="r-`, string(r.ID), `" data-kind="region" data-id="`, string(r.ID), `" data-inside="`)
	for i, id := range r.Inside {
		if i > 0 {
			w.put(" ")
		}
		w.put(string(id))
	}
	w.put(`" role="img" aria-label="Region `)
	w.text(strings.Join(lines(r.Words), " "))
	for _, k := range r.Marks {
		w.put(`, `)
		w.text(k.Says)
	}
	w.put(`"><path class="border" d="`)
	for _, part := range r.Parts {
		for i, p := range part {
			if i == 0 {
				w.put("M")
			} else {
				w.put("L")
			}
			w.numbers(p.X, p.Y)
		}
		w.put("Z")
	}
	w.put(`"/><g class="tab" transform="translate(`)
	w.numbers(r.Tab.X, r.Tab.Y)
	w.put(`)"><path class="cut" d="`)
	w.trace("M", 0, 0, "H", r.Tab.W, "L", r.Tab.W-10, r.Tab.H, "H", 0, "Z")
	w.put(`"/>`)
	room := r.MarksRoom()
	w.block("aside", r.Words, scene.Rect{W: r.Tab.W - 8 - scene.FoldSign - room, H: r.Tab.H})
	if room > 0 {
		w.row(r.Marks, r.Tab.W-14-scene.FoldSign-room, (r.Tab.H-13)/2)
	}
	x := r.Tab.W - 10 - scene.FoldSign
	w.put(`<rect class="touch fold-touch" x="`)
	w.number(x - 2)
	w.put(`" y="0" width="24" height="24"/><path class="fold-sign" d="`)
	w.trace("M", x+4, 10, "l", 4, 4, "l", 4, -4)
	w.put(`"/></g></g>`)
}

// Key writes the key on the paper; nothing where there is none.
func Key(k *scene.Key) string {
	if k == nil {
		return ""
	}
	w := &writer{}
	w.put(`<g class="paper-key" data-box="`)
	w.numbers(k.Box.X, k.Box.Y, k.Box.W, k.Box.H)
	w.put(`" data-folded="`, strconv.FormatBool(k.Folded), `" transform="translate(`)
	w.numbers(k.Box.X, k.Box.Y)
	w.put(`)"><path class="back" d="`)
	w.trace("M", 0, 0, "H", k.Box.W-scene.Cut, "L", k.Box.W, scene.Cut, "V", k.Box.H, "H", 0, "Z")
	w.put(`"/><g class="key-head"><text class="aside bold key-words" font-size="14" x="`)
	w.number(k.Pad())
	w.put(`" y="20">Key</text><path class="fold-sign" d="`)
	if k.Folded {
		w.trace("M", k.Box.W-34, 12, "l", 5, 5, "l", 5, -5)
	} else {
		w.trace("M", k.Box.W-34, 17, "l", 5, -5, "l", 5, 5)
	}
	w.put(`"/></g>`)
	for _, r := range k.Rows {
		w.keyRow(k, r)
	}
	w.put(`</g>`)
	return w.String()
}

func (w *writer) keyRow(k *scene.Key, r scene.KeyRow) {
	x, y := k.Pad(), r.Y
	w.put(`<g class="key-row"`)
	switch {
	case r.Tag != nil:
		w.put(` data-tag="`, string(r.ID), `"`)
	case r.Kind != nil:
		w.put(` data-kind="`, string(r.ID), `"`)
	case r.ID != "":
		w.put(` data-branch="`, string(r.ID), `"`)
	}
	w.put(`><rect class="touch" x="0" y="`)
	w.number(y - scene.KeyRowH/2)
	w.put(`" width="`)
	w.number(k.Box.W)
	w.put(`" height="`)
	w.number(scene.KeyRowH)
	w.put(`"/>`)
	switch {
	case r.Tag != nil:
		w.put(`<g class="badge`)
		w.class(r.Tag.Colour != "", "colour-"+string(r.Tag.Colour))
		w.put(`" transform="translate(`)
		w.numbers(x+15, y-6.5)
		first := []rune(strings.ToUpper(r.Words) + " ")[0]
		w.put(`)"><path class="pennant" d="M0 0H13V13L6.5 9.8L0 13Z"/><text class="aside initial" font-size="9" x="6.5" y="8">`)
		w.text(string(first))
		w.put(`</text></g>`)
	case r.Kind == nil:
		w.sample(&cm.Kind{Colour: r.Colour, Outline: cm.OutlinePlain}, x, y)
	case r.Kind.Links:
		w.stroke(r.Kind, x, y)
	default:
		kind := *r.Kind
		kind.Colour = r.Colour
		w.sample(&kind, x, y)
	}
	w.put(`<text class="aside key-words" font-size="`)
	w.number(scene.KeyType)
	w.put(`" x="`)
	w.number(x + scene.KeySample + 10)
	w.put(`" y="`)
	w.number(y + scene.KeyType*0.345)
	w.put(`">`)
	w.text(r.Words)
	w.put(`</text><text class="aside key-count" font-size="`)
	w.number(scene.KeyType)
	w.put(`" x="`)
	w.number(k.Box.W - k.Pad())
	w.put(`" y="`)
	w.number(y + scene.KeyType*0.345)
	w.put(`">`, strconv.Itoa(r.Count), `</text></g>`)
}

// sample writes a small slip in the look of a kind, its middle at a height.
func (w *writer) sample(k *cm.Kind, x, y float64) {
	box := scene.Rect{W: scene.KeySample, H: 21}
	w.put(`<g class="sample`)
	w.class(k.Colour != "", "colour-"+string(k.Colour))
	w.put(`" transform="translate(`)
	w.numbers(x, y-box.H/2)
	w.put(`)">`)
	w.outline(&scene.Slip{Box: box, Colour: k.Colour, Outline: k.Outline})
	w.icon(k.Icon, box.W/2-6, 3.5, 14)
	w.put(`</g>`)
}

// stroke writes a short line in the look of a kind of links.
func (w *writer) stroke(k *cm.Kind, x, y float64) {
	w.put(`<g class="sample-line`)
	w.class(k.Colour != "", "colour-"+string(k.Colour))
	w.class(k.Stroke != "", "stroke-"+string(k.Stroke))
	w.put(`"><path class="line" d="M`)
	w.numbers(x, y)
	w.put(`H`)
	w.number(x + scene.KeySample - 8)
	w.put(`"/><path class="dart" d="`)
	w.dart(scene.Dart{Tip: scene.Point{X: x + scene.KeySample, Y: y}, Along: scene.Point{X: 1}})
	w.put(`"/></g>`)
}

// Stroke writes a short line in the look of a kind of links, as a drawing of its
// own.
func Stroke(k *cm.Kind) string {
	w := &writer{}
	w.put(`<svg class="swatch" viewBox="-2 -2 48 30" width="48" height="30" aria-hidden="true">`)
	w.stroke(k, 0, 13)
	w.put(`</svg>`)
	return w.String()
}

// stuff writes the picture above a label and the table below it, and gives the
// room that is left for the label and its marks.
func (w *writer) stuff(s *scene.Slip, in scene.Rect) scene.Rect {
	middle := in.X + in.W/2
	if p := s.Picture; p != nil {
		w.put(`<rect class="mat" x="`)
		w.number(middle - p.W/2 - 3)
		w.put(`" y="6" width="`)
		w.number(p.W + 6)
		w.put(`" height="`)
		w.number(p.H + 6)
		w.put(`"/><image class="picture" href="files/`, p.Hash, `/small" data-source="`, string(p.Source), `" x="`)
		w.number(middle - p.W/2)
		w.put(`" y="9" width="`)
		w.number(p.W)
		w.put(`" height="`)
		w.number(p.H)
		w.put(`" preserveAspectRatio="xMidYMid meet"><title>`)
		w.text(p.Says)
		w.put(`</title></image>`)
		in.Y, in.H = in.Y+p.H+scene.PictureGap, in.H-p.H-scene.PictureGap
	}
	foot := 0.0
	if len(s.Marks) > 0 {
		foot = scene.MarksHeight
	}
	if g := s.Grid; g != nil {
		in.H -= g.H + scene.GridGap
		w.grid(g, middle-g.W/2, in.Y+in.H-foot)
	}
	if r := s.Remark; r != nil {
		in.H -= r.H + scene.RemarkGap
		w.remark(r, scene.Rect{X: in.X, Y: in.Y + in.H - foot - 3, W: in.W, H: r.H + scene.RemarkGap})
	}
	return in
}

// remark writes a remark below a short line.
func (w *writer) remark(r *scene.Block, in scene.Rect) {
	middle := in.X + in.W/2
	w.put(`<path class="remark-line" d="M`)
	w.numbers(middle-14, in.Y+1)
	w.put(`H`)
	w.number(middle + 14)
	w.put(`"/>`)
	w.block("aside remark", r, scene.Rect{X: in.X, Y: in.Y + scene.RemarkGap - 2, W: in.W, H: r.H})
}

// grid writes a table.
func (w *writer) grid(g *scene.Grid, left, top float64) {
	w.put(`<g class="grid" transform="translate(`)
	w.numbers(left, top)
	w.put(`)">`)
	if g.Head {
		w.put(`<rect class="grid-head" width="`)
		w.number(g.W)
		w.put(`" height="`)
		w.number(g.Rows[0])
		w.put(`"/>`)
	}
	w.put(`<rect class="touch" width="`)
	w.number(g.W)
	w.put(`" height="`)
	w.number(g.H)
	w.put(`"/><path class="rules" d="M0 0H`)
	w.number(g.W)
	y := 0.0
	for _, h := range g.Rows {
		y += h
		w.put(`M`)
		w.numbers(0, y)
		w.put(`H`)
		w.number(g.W)
	}
	x := 0.0
	for i := range len(g.Columns) + 1 {
		w.put(`M`)
		w.numbers(x, 0)
		w.put(`V`)
		w.number(g.H)
		if i < len(g.Columns) {
			x += g.Columns[i]
		}
	}
	w.put(`"/>`)
	y = 0
	for i, row := range g.Cells {
		x := 0.0
		for j, cell := range row {
			w.block("aside", cell, scene.Rect{X: x, Y: y, W: g.Columns[j], H: g.Rows[i]})
			x += g.Columns[j]
		}
		y += g.Rows[i]
	}
	w.put(`</g>`)
}

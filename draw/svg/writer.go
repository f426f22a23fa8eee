package svg

import (
	"strconv"
	"strings"

	"mevrin/core/geometry"
	"mevrin/draw/display"
)

// writer writes items of a display list as markup. It decides nothing about them.
type writer struct {
	strings.Builder
	// picture gives the address of a picture by the hash of its file; one that is empty
	// leaves its place free.
	picture func(hash string) string
	// by is how far what is written stands from where its own numbers have it; set while a
	// group is written that stands in the coordinates of the paper.
	by     geometry.Point
	placed bool
}

// Write writes items in their order.
func Write(items ...display.Item) string {
	w := &writer{picture: beside}
	w.items(items)
	return w.String()
}

// beside is where a page finds a picture: beside the map.
func beside(hash string) string { return "files/" + hash + "/small" }

func (w *writer) put(parts ...string) {
	for _, p := range parts {
		w.WriteString(p)
	}
}

var escaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "'", "&#39;", "\n", "&#10;")

// text writes words where neither markup nor an attribute may come of them.
func (w *writer) text(words string) { w.put(escaper.Replace(words)) }

// attribute writes an attribute; nothing where it is empty.
func (w *writer) attribute(name, value string) {
	if value != "" {
		w.put(" ", name, `="`)
		w.text(value)
		w.put(`"`)
	}
}

func (w *writer) number(name string, v float64) { w.put(" ", name, `="`, display.Number(v), `"`) }

func (w *writer) items(items []display.Item) {
	for _, item := range items {
		switch i := item.(type) {
		case *display.Group:
			w.group(i)
		case *display.Path:
			by := w.by
			w.put("<path")
			w.attribute("class", i.Class)
			w.moved(i.At, 0)
			w.paint(i.Paint)
			w.put(` d="`)
			w.outline(i.Path)
			w.put(`"/>`)
			w.by = by
		case *display.Rect:
			w.put("<rect")
			w.attribute("class", i.Class)
			w.box(i.Box)
			if i.Round != 0 {
				w.number("rx", i.Round)
			}
			w.paint(i.Paint)
			w.put("/>")
		case *display.Circle:
			w.put("<circle")
			w.attribute("class", i.Class)
			w.number("r", i.R)
			w.number("cx", w.by.X+i.Centre.X)
			w.number("cy", w.by.Y+i.Centre.Y)
			w.put("/>")
		case *display.Text:
			w.words(i)
		case *display.Image:
			w.image(i)
		}
	}
}

// group writes a group. One with an id, which a map has thousands of, is written where it
// stands on the paper: browsers give every group that has a transform a layer of its own to
// account for in each frame.
func (w *writer) group(g *display.Group) {
	by, placed := w.by, w.placed
	defer func() { w.by, w.placed = by, placed }()
	w.placed = (placed || g.ID != "") && g.Scale == 0
	w.put("<g")
	w.attribute("class", g.Class)
	w.attribute("id", g.ID)
	for _, f := range g.Facts {
		w.put(" data-", f.Name, `="`)
		w.text(f.Value)
		w.put(`"`)
	}
	w.moved(g.At, g.Scale)
	w.paint(g.Paint)
	if g.ID != "" || g.Label != "" {
		w.put(` role="img" aria-label="`)
		w.text(strings.ReplaceAll(g.Label, "\n", " "))
		w.put(`"`)
	}
	w.put(">")
	w.hint(g.Hint)
	w.items(g.Items)
	w.put("</g>")
}

func (w *writer) hint(words string) {
	if words != "" {
		w.put("<title>")
		w.text(words)
		w.put("</title>")
	}
}

// moved writes by how much an element is moved and scaled; what it holds is counted from there.
func (w *writer) moved(by geometry.Point, scale float64) {
	by = geometry.Point{X: w.by.X + by.X, Y: w.by.Y + by.Y}
	if w.placed {
		w.by = by
		return
	}
	w.by = geometry.Point{}
	if by == (geometry.Point{}) && scale == 0 {
		return
	}
	w.put(` transform="translate(`, display.Number(by.X), " ", display.Number(by.Y), ")")
	if scale != 0 {
		w.put(" scale(", strconv.FormatFloat(scale, 'f', 4, 64), ")")
	}
	w.put(`"`)
}

func (w *writer) box(b geometry.Box) {
	w.number("x", w.by.X+b.X)
	w.number("y", w.by.Y+b.Y)
	w.number("width", b.W)
	w.number("height", b.H)
}

// outline writes the data of a path, level and upright lines in their short form.
func (w *writer) outline(o display.Outline) {
	var at geometry.Point
	x, y := func(p geometry.Point) string { return display.Number(w.by.X + p.X) }, func(p geometry.Point) string { return display.Number(w.by.Y + p.Y) }
	for _, s := range o {
		switch {
		case s.Op == 'Z':
			w.put("Z")
			continue
		case s.Op == 'L' && s.To.Y == at.Y:
			w.put("H", x(s.To))
		case s.Op == 'L' && s.To.X == at.X:
			w.put("V", y(s.To))
		case s.Op == 'C':
			w.put("C", x(s.C1), " ", y(s.C1), " ", x(s.C2), " ", y(s.C2), " ", x(s.To), " ", y(s.To))
		default:
			w.put(string(s.Op), x(s.To), " ", y(s.To))
		}
		at = s.To
	}
}

func (w *writer) words(t *display.Text) {
	w.put("<text")
	w.attribute("class", t.Class)
	w.number("font-size", t.Size)
	if t.RightToLeft {
		w.put(` direction="rtl"`)
	}
	if len(t.Lines) == 1 { // a large map has thousands
		w.line(t.Lines[0])
		w.put("</text>")
		return
	}
	w.put(">")
	for _, l := range t.Lines {
		w.put("<tspan")
		w.line(l)
		w.put("</tspan>")
	}
	w.put("</text>")
}

// line writes the rest of an opening tag and the words.
func (w *writer) line(l display.Line) {
	w.number("x", w.by.X+l.At.X)
	w.number("y", w.by.Y+l.At.Y)
	if l.Fit > 0 {
		w.number("textLength", l.Fit)
		w.put(` lengthAdjust="spacingAndGlyphs"`)
	}
	w.put(">")
	w.text(strings.ReplaceAll(l.Words, "\n", " "))
}

func (w *writer) image(i *display.Image) {
	w.put("<image")
	w.attribute("class", i.Class)
	w.attribute("href", w.picture(i.Hash))
	w.attribute("data-source", string(i.Source))
	if i.Opacity != 0 {
		w.number("opacity", i.Opacity)
		w.put(` pointer-events="none"`)
	}
	w.box(i.Box)
	w.put(` preserveAspectRatio="xMidYMid meet">`)
	w.put("<title>")
	w.text(i.Says)
	w.put("</title></image>")
}

// paint writes how a primitive is painted that has no class to say so.
func (w *writer) paint(p *display.Paint) {
	if p == nil {
		return
	}
	colour := func(name, value string) {
		if value == "" {
			value = "none"
		}
		w.attribute(name, value)
	}
	colour("fill", p.Fill)
	colour("stroke", p.Stroke)
	if p.Stroke == "" {
		return
	}
	w.number("stroke-width", p.StrokeWidth)
	if p.StrokeOpacity != 0 {
		w.number("stroke-opacity", p.StrokeOpacity)
	}
	w.attribute("stroke-linecap", p.LineCap)
	w.attribute("stroke-linejoin", p.LineJoin)
	if p.Dash != nil {
		dash := make([]string, len(p.Dash))
		for i, d := range p.Dash {
			dash[i] = display.Number(d)
		}
		w.attribute("stroke-dasharray", strings.Join(dash, " "))
	}
}

package pdf

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"strings"

	"github.com/go-text/typesetting/font"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/face"
)

// page is one page as it is painted. Lengths are points, from the upper left corner, y down; the
// content turns that into the coordinates of PDF.
type page struct {
	w, h    float64
	content bytes.Buffer
	links   []link
	tags    []tag // by their marks on this page
	ref     ref
}

type link struct {
	box geometry.Box
	url string
}

// tag is what a marked part of a page is, for those who have it read.
type tag struct {
	kind string // P, H1, H2, LI, Figure
	alt  string
}

// writer paints pages.
type writer struct {
	file   file
	fonts  fonts
	images map[string]ref // by the hashes of their files
	alphas map[string]ref // by name
	pages  []*page
	now    *page
	// pictures gives the pictures that lie on drawings.
	pictures func(hash string) image.Image
}

func (w *writer) newPage(width, height float64) *page {
	w.now = &page{w: width, h: height, ref: w.file.reserve()}
	w.pages = append(w.pages, w.now)
	w.putf("1 0 0 -1 0 %s cm\n", number(height))
	return w.now
}

func (w *writer) putf(form string, args ...any) { fmt.Fprintf(&w.now.content, form, args...) }

// begin begins a part of the page that is something; end ends it.
func (w *writer) begin(t tag) {
	w.putf("/%s << /MCID %d >> BDC\n", t.kind, len(w.now.tags))
	w.now.tags = append(w.now.tags, t)
}

func (w *writer) end() { w.putf("EMC\n") }

// artifact paints what is no content: marks, numbers of pages.
func (w *writer) artifact(paint func()) {
	w.putf("/Artifact BMC\n")
	paint()
	w.putf("EMC\n")
}

// place says where the coordinates of an item lie on the page.
type place struct{ dx, dy, k float64 }

func (p place) at(q geometry.Point) string {
	return number(p.dx+q.X*p.k) + " " + number(p.dy+q.Y*p.k)
}

// drawing paints items whose coordinates lie at a place of the page.
func (w *writer) drawing(items []display.Painted, on place) {
	for _, p := range items {
		at := place{on.dx + p.DX*on.k, on.dy + p.DY*on.k, p.Scale * on.k}
		switch i := p.Item.(type) {
		case *display.Path:
			at.dx += i.At.X * at.k
			at.dy += i.At.Y * at.k
			w.outline(i.Path, at, p.Paint)
		case *display.Rect:
			w.outline(display.RoundedBox(i.Box, i.Round), at, p.Paint)
		case *display.Circle:
			w.outline(display.RoundedBox(geometry.Box{X: i.Centre.X - i.R, Y: i.Centre.Y - i.R, W: 2 * i.R, H: 2 * i.R}, i.R), at, p.Paint)
		case *display.Text:
			if p.Fill != "" {
				for _, line := range i.Set(p.Paint) {
					w.glyphs(line.Runs, place{at.dx + line.From.X*at.k, at.dy + line.From.Y*at.k, at.k}, i.Size*at.k, p.Fill)
				}
			}
		case *display.Image:
			w.image(i, at)
		}
	}
}

func (w *writer) outline(o display.Outline, at place, p display.Paint) {
	fill, stroke := p.Fill != "", p.Stroke != "" && p.StrokeWidth > 0
	if !fill && !stroke || len(o) == 0 {
		return
	}
	w.putf("q\n")
	w.alpha(p.FillOpacity, p.StrokeOpacity)
	if fill {
		w.putf("%s rg\n", rgb(p.Fill))
	}
	if stroke {
		caps := map[string]int{"round": 1, "square": 2}
		joins := map[string]int{"round": 1, "bevel": 2}
		w.putf("%s RG %s w %d J %d j\n", rgb(p.Stroke), number(p.StrokeWidth*at.k), caps[p.LineCap], joins[p.LineJoin])
		if len(p.Dash) > 0 {
			w.putf("[")
			for _, d := range p.Dash {
				w.putf("%s ", number(d*at.k))
			}
			w.putf("] 0 d\n")
		}
	}
	for _, s := range o {
		switch s.Op {
		case 'M':
			w.putf("%s m\n", at.at(s.To))
		case 'L':
			w.putf("%s l\n", at.at(s.To))
		case 'C':
			w.putf("%s %s %s c\n", at.at(s.C1), at.at(s.C2), at.at(s.To))
		case 'Z':
			w.putf("h\n")
		}
	}
	switch {
	case fill && stroke && p.EvenOdd:
		w.putf("B*\n")
	case fill && stroke:
		w.putf("B\n")
	case fill && p.EvenOdd:
		w.putf("f*\n")
	case fill:
		w.putf("f\n")
	default:
		w.putf("S\n")
	}
	w.putf("Q\n")
}

// alpha makes what is painted next let through what lies below it.
func (w *writer) alpha(fill, stroke float64) {
	if fill == 0 {
		fill = 1
	}
	if stroke == 0 {
		stroke = 1
	}
	if fill == 1 && stroke == 1 {
		return
	}
	name := fmt.Sprintf("A%dx%d", int(fill*100+0.5), int(stroke*100+0.5))
	if w.alphas[name] == 0 {
		w.alphas[name] = w.file.add(fmt.Sprintf("<< /Type /ExtGState /ca %s /CA %s >>", number(fill), number(stroke)))
	}
	w.putf("/%s gs\n", name)
}

// glyphs sets the glyphs of one line, whose baseline begins at a place.
func (w *writer) glyphs(runs []face.Run, at place, size float64, with string) {
	w.putf("BT %s rg\n", rgb(with))
	var fontNow *font.Font
	last := -1
	for _, run := range runs {
		for _, g := range run.Glyphs {
			in, code := w.fonts.of(run.Font, g, size/at.k)
			if in != last || run.Font != fontNow {
				w.putf("/F%d %s Tf\n", in, number(size))
				last, fontNow = in, run.Font
			}
			show := fmt.Sprintf("1 0 0 -1 %s %s Tm <%02X> Tj", number(at.dx+(g.X-g.Aside)*at.k), number(at.dy+g.Y*at.k), code)
			if g.Says == "" { // a further glyph of the same characters: a dot, a mark
				show = "/Span << /ActualText <FEFF> >> BDC " + show + " EMC"
			}
			w.putf("%s\n", show)
		}
	}
	w.putf("ET\n")
}

func (w *writer) image(i *display.Image, at place) {
	if w.pictures == nil {
		return
	}
	src := w.pictures(i.Hash)
	if src == nil {
		return
	}
	b, box := src.Bounds(), i.Box
	k := min(box.W/float64(b.Dx()), box.H/float64(b.Dy()))
	wide, high := float64(b.Dx())*k, float64(b.Dy())*k
	x, y := at.dx+(box.X+(box.W-wide)/2)*at.k, at.dy+(box.Y+(box.H-high)/2)*at.k
	if w.images[i.Hash] == 0 {
		w.images[i.Hash] = w.file.picture(src)
	}
	w.putf("q\n")
	w.alpha(i.Opacity, 0)
	w.putf("%s 0 0 %s %s %s cm /I%s Do Q\n", number(wide*at.k), number(-high*at.k), number(x), number(y+high*at.k), i.Hash[:min(16, len(i.Hash))])
}

// picture writes the pixels of a picture, and how much each lets through.
func (f *file) picture(src image.Image) ref {
	b := src.Bounds()
	pixels, mask := make([]byte, 0, 3*b.Dx()*b.Dy()), make([]byte, 0, b.Dx()*b.Dy())
	through := false
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			c := color.NRGBAModel.Convert(src.At(x, y)).(color.NRGBA)
			pixels, mask = append(pixels, c.R, c.G, c.B), append(mask, c.A)
			through = through || c.A < 255
		}
	}
	size := fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8", b.Dx(), b.Dy())
	soft := ""
	if through {
		soft = " /SMask " + f.stream(size+" /ColorSpace /DeviceGray", mask).String()
	}
	return f.stream(size+" /ColorSpace /DeviceRGB"+soft, pixels)
}

func rgb(hex string) string {
	var r, g, b uint8
	_, _ = fmt.Sscanf(hex, "#%02x%02x%02x", &r, &g, &b) // black where it is none
	return strings.Join([]string{unit(r), unit(g), unit(b)}, " ")
}

func unit(v uint8) string {
	s := strings.TrimRight(fmt.Sprintf("%.3f", float64(v)/255), "0")
	return strings.TrimSuffix(s, ".")
}

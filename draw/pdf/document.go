package pdf

import (
	"fmt"
	"image"
	"math"
	"strings"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// Size is the extent of a sheet, in points of 1/72 inch, held upright.
type Size struct {
	Name string
	W, H float64
}

// Sizes are the sheets on offer.
var Sizes = []Size{{"A4", 595.28, 841.89}, {"A3", 841.89, 1190.55}, {"A2", 1190.55, 1683.78}, {"Letter", 612, 792}, {"Tabloid", 792, 1224}}

// Document is what is written.
type Document struct {
	Title, Lang string
	// Alt describes the drawing to those who do not see it.
	Alt string
	// Foot stands small at the foot of each page: which state is shown, and where the map is.
	Foot string
	// Drawing comes first; nil for none.
	Drawing   *scene.Scene
	Bookmarks []Bookmark
	Blocks    []Block // on further pages
	Pictures  func(hash string) image.Image
	Page      Page
}

// Page says how a drawing lies on its sheets.
type Page struct {
	Size   Size    // of a sheet; A4 where it is empty
	Held   Held    // how it is held
	Margin float64 // in points; 28 where it is 0
	// Across is on how many sheets beside each other the drawing lies; 0 or 1 for one sheet that
	// holds all of it.
	Across int
	Paper  bool // in the colour of its paper
}

// Held is how a sheet is held.
type Held string

// The ways to hold a sheet.
const (
	HeldAuto      Held = "" // as the drawing fits better
	HeldPortrait  Held = "portrait"
	HeldLandscape Held = "landscape"
)

// Bookmark leads to a place of the drawing.
type Bookmark struct {
	Title string
	Level int // from 1
	At    geometry.Point
}

// overlap is by how much sheets that are glued together lie on each other, MaxAcross on how many
// beside each other a drawing can lie.
const (
	overlap   = 20.0
	MaxAcross = 8
)

// frame is the paper around a drawing, in its pixels.
const frame = 24

// Write gives the file.
func Write(d Document) []byte {
	if d.Page.Size.W == 0 {
		d.Page.Size = Sizes[0]
	}
	if d.Page.Margin == 0 {
		d.Page.Margin = 28
	}
	w := &writer{images: map[string]ref{}, alphas: map[string]ref{}, pictures: d.Pictures}
	w.file.begin()
	var marks []mark
	if d.Drawing != nil && len(d.Drawing.Slips) > 0 {
		marks = w.sheets(d)
	}
	f := &flow{w: w, width: d.Page.Size.W, height: d.Page.Size.H, margin: max(d.Page.Margin, 54)}
	for i, b := range d.Blocks {
		f.next = 0
		if i+1 < len(d.Blocks) && d.Blocks[i+1].Drawing != nil && len(d.Blocks[i+1].Drawing.Slips) > 0 {
			f.next = f.figureScale(d.Blocks[i+1]) * d.Blocks[i+1].Drawing.Bounds().Grown(8, 8).H
		}
		f.block(b)
	}
	if len(w.pages) == 0 {
		f.page()
	}
	for i, p := range w.pages {
		w.now = p
		w.artifact(func() { w.foot(d, i) })
	}
	return w.finish(d, marks)
}

func (w *writer) foot(d Document, i int) {
	const size = 7
	y := w.now.h - 14
	w.glyphs(face.Glyphs(face.Noun, size, d.Foot), place{d.Page.Margin, y, 1}, size, inkSoft)
	if n := fmt.Sprintf("%d / %d", i+1, len(w.pages)); len(w.pages) > 1 {
		w.glyphs(face.Glyphs(face.Noun, size, n), place{w.now.w - d.Page.Margin - face.Measure(face.Noun, size, n).Px, y, 1}, size, inkSoft)
	}
}

// mark is where a bookmark leads.
type mark struct {
	Bookmark
	page *page
	x, y float64
}

// sheets lays the drawing on one sheet or several.
func (w *writer) sheets(d Document) (marks []mark) {
	box := d.Drawing.Bounds().Grown(frame, frame)
	wide, high := d.Page.Size.W, d.Page.Size.H
	if d.Page.Held == HeldLandscape || d.Page.Held == HeldAuto && box.W > box.H {
		wide, high = high, wide
	}
	m := d.Page.Margin
	inW, inH := wide-2*m, high-2*m
	across, down := max(1, min(d.Page.Across, MaxAcross)), 1
	k := min(inW/box.W, inH/box.H, 1.5)
	if across > 1 {
		k = (float64(across)*inW - float64(across-1)*overlap) / box.W
		down = max(1, int(math.Ceil((box.H*k-overlap)/(inH-overlap))))
		down = min(down, 4*MaxAcross)
	}
	var paper []display.Item
	if d.Page.Paper {
		paper = display.Paper(box, d.Drawing.Look, func(name string) string { return display.Colour(d.Drawing.Look, name) })
	}
	items := display.PaintedIn(d.Drawing.Look, append(paper, display.Still(display.List(d.Drawing))...))
	var first []*page
	for row := range down {
		for column := range across {
			p := w.newPage(wide, high)
			first = append(first, p)
			dx, dy := m-float64(column)*(inW-overlap), m-float64(row)*(inH-overlap)
			if across == 1 {
				dx, dy = m+(inW-box.W*k)/2, m+(inH-box.H*k)/2
			}
			w.begin(tag{kind: "Figure", alt: d.Alt})
			w.putf("q %s %s %s %s re W n\n", number(m), number(m), number(inW), number(inH))
			w.drawing(items, place{dx - box.X*k, dy - box.Y*k, k})
			w.putf("Q\n")
			w.end()
			if across > 1 {
				w.artifact(func() { w.glue(m, wide, high, row, column, down, across) })
			}
		}
	}
	for _, b := range d.Bookmarks {
		x, y := (b.At.X-box.X)*k, (b.At.Y-box.Y)*k
		column, row := 0, 0
		if across > 1 {
			column, row = min(across-1, int(x/(inW-overlap))), min(down-1, int(y/(inH-overlap)))
			x, y = m+x-float64(column)*(inW-overlap), m+y-float64(row)*(inH-overlap)
		} else {
			x, y = x+m+(inW-box.W*k)/2, y+m+(inH-box.H*k)/2
		}
		marks = append(marks, mark{b, first[row*across+column], max(0, x-60), max(0, y-60)})
	}
	return marks
}

// glue marks how far a sheet lies on its neighbours, and which it is.
func (w *writer) glue(m, wide, high float64, row, column, rows, columns int) {
	w.putf("q %s RG 0.5 w [3 3] 0 d\n", rgb(inkSoft))
	if column > 0 {
		w.putf("%s 0 m %s %s l S\n", number(m+overlap), number(m+overlap), number(high))
	}
	if row > 0 {
		w.putf("0 %s m %s %s l S\n", number(m+overlap), number(wide), number(m+overlap))
	}
	w.putf("Q\n")
	said := fmt.Sprintf("%d.%d / %d.%d", row+1, column+1, rows, columns)
	w.glyphs(face.Glyphs(face.Noun, 7, said), place{m, 14, 1}, 7, inkSoft)
}

// finish writes pages, fonts, bookmarks and structure.
func (w *writer) finish(d Document, marks []mark) []byte {
	f := &w.file
	var xobjects, alphas, kids strings.Builder
	for hash, r := range w.images {
		fmt.Fprintf(&xobjects, "/I%s %s ", hash[:min(16, len(hash))], r)
	}
	for name, r := range w.alphas {
		fmt.Fprintf(&alphas, "/%s %s ", name, r)
	}
	resources := f.add(fmt.Sprintf("<< /Font << %s >> /XObject << %s >> /ExtGState << %s >> >>", w.fonts.write(f), xobjects.String(), alphas.String()))
	tree, root, pages := f.reserve(), f.reserve(), f.reserve()
	var parents strings.Builder
	var parts []string
	for i, p := range w.pages {
		content := f.stream("", p.content.Bytes())
		var annotations strings.Builder
		for _, l := range p.links {
			fmt.Fprintf(&annotations, "%s ", f.add(fmt.Sprintf("<< /Type /Annot /Subtype /Link /Rect [%s %s %s %s] /Border [0 0 0] /A << /S /URI /URI %s >> >>",
				number(l.box.X), number(p.h-l.box.Y-l.box.H), number(l.box.X+l.box.W), number(p.h-l.box.Y), address(l.url))))
		}
		f.put(p.ref, fmt.Sprintf("<< /Type /Page /Parent %s /MediaBox [0 0 %s %s] /Resources %s /Contents %s /Annots [%s] /StructParents %d /Tabs /S >>",
			pages, number(p.w), number(p.h), resources, content, annotations.String(), i))
		fmt.Fprintf(&kids, "%s ", p.ref)
		var own []string
		for id, t := range p.tags {
			alt := ""
			if t.alt != "" {
				alt = " /Alt " + text(t.alt)
			}
			one := f.add(fmt.Sprintf("<< /Type /StructElem /S /%s /P %s /Pg %s /K %d%s >>", t.kind, root, p.ref, id, alt))
			own = append(own, one.String())
		}
		parts = append(parts, own...)
		fmt.Fprintf(&parents, "%d [%s] ", i, strings.Join(own, " "))
	}
	f.put(root, fmt.Sprintf("<< /Type /StructElem /S /Document /P %s /K [%s] >>", tree, strings.Join(parts, " ")))
	f.put(tree, fmt.Sprintf("<< /Type /StructTreeRoot /K %s /ParentTree << /Nums [%s] >> /ParentTreeNextKey %d >>", root, parents.String(), len(w.pages)))
	f.put(pages, fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d >>", kids.String(), len(w.pages)))
	outlines := ""
	if r, ok := f.bookmarks(marks); ok {
		outlines = fmt.Sprintf(" /Outlines %s /PageMode /UseOutlines", r)
	}
	lang := ""
	if d.Lang != "" {
		lang = " /Lang " + text(d.Lang)
	}
	catalog := f.add(fmt.Sprintf("<< /Type /Catalog /Pages %s /MarkInfo << /Marked true >> /StructTreeRoot %s /ViewerPreferences << /DisplayDocTitle true >>%s%s >>", pages, tree, outlines, lang))
	info := f.add(fmt.Sprintf("<< /Title %s /Producer (Mevrin) >>", text(d.Title)))
	f.end(catalog, info)
	return f.Bytes()
}

// bookmarks writes the tree of bookmarks; there is none without any.
func (f *file) bookmarks(marks []mark) (ref, bool) {
	if len(marks) == 0 {
		return 0, false
	}
	root := f.reserve()
	type node struct {
		mark
		ref    ref
		kids   []*node
		parent *node
	}
	top := &node{ref: root}
	at := top
	at.Level = 0
	for _, m := range marks {
		for at != top && at.Level >= m.Level {
			at = at.parent
		}
		n := &node{mark: m, ref: f.reserve(), parent: at}
		at.kids = append(at.kids, n)
		at = n
	}
	var write func(n *node)
	write = func(n *node) {
		for i, k := range n.kids {
			body := fmt.Sprintf("<< /Title %s /Parent %s /Dest [%s /XYZ %s %s 0]", text(k.Title), n.ref, k.page.ref, number(k.x), number(k.page.h-k.y))
			if i > 0 {
				body += " /Prev " + n.kids[i-1].ref.String()
			}
			if i+1 < len(n.kids) {
				body += " /Next " + n.kids[i+1].ref.String()
			}
			if len(k.kids) > 0 {
				body += fmt.Sprintf(" /First %s /Last %s /Count -%d", k.kids[0].ref, k.kids[len(k.kids)-1].ref, len(k.kids))
			}
			f.put(k.ref, body+" >>")
			write(k)
		}
	}
	write(top)
	f.put(root, fmt.Sprintf("<< /Type /Outlines /First %s /Last %s /Count %d >>", top.kids[0].ref, top.kids[len(top.kids)-1].ref, len(top.kids)))
	return root, true
}

package pdf

import (
	"fmt"
	"math"
	"strings"
	"unicode/utf16"

	"github.com/go-text/typesetting/font"

	"mevrin/draw/face"
)

// fonts are the glyphs that a file uses, as fonts of outlines (Type 3) of up to 255 each: so every
// shipped font is embedded with no more than what is used of it, whatever its own form is.
type fonts struct {
	code map[glyphKey]int // the glyph's number: font × perFont + code
	all  []*subset
}

// perFont is how many glyphs a font has at most.
const perFont = 255

type glyphKey struct {
	font *font.Font
	id   font.GID
	says string
	// By how much it moves on what follows, and how far it stands from its place, in thousandths of its size.
	wide, aside int
}

type subset struct{ glyphs []glyphKey }

// of gives in which font a glyph is, and by which code.
func (f *fonts) of(of *font.Font, g face.Glyph, size float64) (in, code int) {
	key := glyphKey{of, g.ID, g.Says, int(math.Round(g.Wide / size * 1000)), int(math.Round(g.Aside / size * 1000))}
	n, known := f.code[key]
	if !known {
		if len(f.all) == 0 || len(f.all[len(f.all)-1].glyphs) == perFont {
			f.all = append(f.all, &subset{})
		}
		last := f.all[len(f.all)-1]
		last.glyphs = append(last.glyphs, key)
		n = (len(f.all)-1)*256 + len(last.glyphs)
		if f.code == nil {
			f.code = map[glyphKey]int{}
		}
		f.code[key] = n
	}
	return n / 256, n % 256
}

// write writes all fonts, and gives the entries by which pages name them.
func (f *fonts) write(to *file) string {
	var names strings.Builder
	for i, s := range f.all {
		fmt.Fprintf(&names, "/F%d %s ", i, s.write(to))
	}
	return names.String()
}

func (s *subset) write(to *file) ref {
	var procs, differences, widths, says strings.Builder
	lines := 0
	for i, g := range s.glyphs {
		code := i + 1
		wide := float64(g.wide)
		fmt.Fprintf(&procs, "/g%d %s ", code, to.stream("", outline(g, wide)))
		fmt.Fprintf(&differences, "/g%d ", code)
		fmt.Fprintf(&widths, "%s ", number(wide))
		if g.says != "" {
			fmt.Fprintf(&says, "<%02X> <", code)
			for _, u := range utf16.Encode([]rune(g.says)) {
				fmt.Fprintf(&says, "%04X", u)
			}
			says.WriteString(">\n")
			lines++
		}
	}
	cmap := "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CMapName /Mevrin def\n/CMapType 2 def\n1 begincodespacerange\n<00> <FF>\nendcodespacerange\n"
	rows := strings.SplitAfter(says.String(), "\n")
	for at := 0; at < lines; at += 100 {
		part := rows[at:min(at+100, lines)]
		cmap += fmt.Sprintf("%d beginbfchar\n%sendbfchar\n", len(part), strings.Join(part, ""))
	}
	cmap += "endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n"
	unicode := to.stream("", []byte(cmap))
	return to.add(fmt.Sprintf("<< /Type /Font /Subtype /Type3 /FontBBox [0 0 0 0] /FontMatrix [0.001 0 0 0.001 0 0] /FirstChar 1 /LastChar %d /Widths [%s] /Encoding << /Type /Encoding /Differences [1 %s] >> /CharProcs << %s >> /Resources << >> /ToUnicode %s >>",
		len(s.glyphs), widths.String(), differences.String(), procs.String(), unicode))
}

// outline draws a glyph at a size of 1000.
func outline(g glyphKey, wide float64) []byte {
	var b strings.Builder
	strokes, by := face.Outline(g.font, g.id), float64(g.aside)
	x0, y0, x1, y1 := 0.0, 0.0, 0.0, 0.0
	for _, s := range strokes {
		for _, p := range []struct{ x, y float64 }{{s.To.X, s.To.Y}, {s.C1.X, s.C1.Y}, {s.C2.X, s.C2.Y}} {
			x0, y0, x1, y1 = min(x0, p.x), min(y0, -p.y), max(x1, p.x), max(y1, -p.y)
		}
	}
	fmt.Fprintf(&b, "%s 0 %s %s %s %s d1\n", number(wide), number(x0*1000+by), number(y0*1000), number(x1*1000+by), number(y1*1000))
	for _, s := range strokes {
		switch s.Op {
		case 'M':
			fmt.Fprintf(&b, "%s %s m\n", number(s.To.X*1000+by), number(-s.To.Y*1000))
		case 'L':
			fmt.Fprintf(&b, "%s %s l\n", number(s.To.X*1000+by), number(-s.To.Y*1000))
		case 'C':
			fmt.Fprintf(&b, "%s %s %s %s %s %s c\n", number(s.C1.X*1000+by), number(-s.C1.Y*1000), number(s.C2.X*1000+by), number(-s.C2.Y*1000), number(s.To.X*1000+by), number(-s.To.Y*1000))
		}
	}
	if len(strokes) > 0 {
		b.WriteString("f\n")
	}
	return []byte(b.String())
}

// number writes a number as short as it can be told.
func number(v float64) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return "0"
	}
	s := fmt.Sprintf("%.2f", v)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "" || s == "-0" {
		return "0"
	}
	return s
}

package e2e_test

import (
	"encoding/base64"
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"image/png"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/geometry"
	"mevrin/core/structure"
	"mevrin/demo"
	"mevrin/draw/display"
	"mevrin/draw/raster"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/e2e/drive"
	"os"
	"path/filepath"
)

// What is worked out for whatever paints without a browser is what a browser paints: the
// colours, strokes and places of all primitives of any map in any dress.
func TestResolvedPaintIsWhatABrowserPaints(t *testing.T) {
	p, compared := browser.Page(t, 800, 600), 0
	maps := rapid.Custom(func(t *rapid.T) *cm.Map { return maptest.Map(t, 80) })
	for n := range 21 {
		m := maps.Example(n)
		m.Look = cm.Look{Theme: cm.Themes[n%len(cm.Themes)], Paper: cm.Papers[n%4]}
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		var want []string
		for _, painted := range display.PaintedIn(m.Look, display.Still(display.List(sc))) {
			if _, picture := painted.Item.(*display.Image); !picture { // which has no paint
				want = append(want, said(painted))
			}
		}
		document := svg.Document(sc, "t", "q", nil)
		p.Goto("data:image/svg+xml;base64," + base64.StdEncoding.EncodeToString([]byte(document)))
		seen := drive.Eval[[]string](p, `(() => { const words = (e) => e.tagName === "text"; return [...document.querySelectorAll("svg > g :is(path, rect, circle, text)")].filter(e => !e.matches(".printed") && getComputedStyle(e).visibility !== "hidden").map(e => {
			const s = getComputedStyle(e), hex = c => c.startsWith("rgb(") ? "#" + c.match(/\d+/g).slice(0, 3).map(n => (+n).toString(16).padStart(2, "0")).join("") : "";
			const shown = (c, o) => +o === 0 ? "" : hex(c), m = e.getCTM(), base = document.documentElement.getCTM();
			const first = e.querySelector("tspan") ?? e, of = (n) => +first.getAttribute(n) || 0, q = e.tagName === "path" ? e.getPointAtLength(0) : words(e) || e.tagName === "rect" ? new DOMPoint(of("x"), of("y")) : new DOMPoint(of("cx"), of("cy"));
			const at = new DOMPoint(q.x, q.y).matrixTransform(m);
			const fill = shown(s.fill, s.fillOpacity), stroke = shown(s.stroke, s.strokeOpacity);
			return [e.tagName, fill, fill && (+s.fillOpacity).toFixed(2), stroke, stroke && parseFloat(s.strokeWidth).toFixed(2), stroke && (s.strokeDasharray === "none" ? "" : s.strokeDasharray.replaceAll("px", "").replaceAll(",", "")),
				words(e) ? s.textAnchor + " " + s.fontWeight + " " + s.fontStyle : "", ...[at.x - base.e, at.y - base.f].map(v => (v / base.a).toFixed(2))].join("|");
		}) })()`)
		// The sheet of paper comes first.
		seen = seen[1:]
		compared += len(seen)
		wanted, wantedAt := divided(t, want)
		painted, paintedAt := divided(t, seen)
		require.Equal(t, wanted, painted)
		require.InDeltaSlice(t, wantedAt, paintedAt, 0.2)
	}
	require.Greater(t, compared, 500)
}

// divided gives what is said of primitives without their places, and these.
func divided(t *testing.T, all []string) (string, []float64) {
	var said []string
	var at []float64
	for _, one := range all {
		fields := strings.Split(one, "|")
		n := len(fields) - 2
		said = append(said, strings.Join(fields[:n], "|"))
		for _, f := range fields[n:] {
			v, err := strconv.ParseFloat(f, 64)
			require.NoError(t, err)
			at = append(at, v)
		}
	}
	return strings.Join(said, "\n"), at
}

func said(p display.Painted) string {
	tag := map[bool]string{true: "path", false: "rect"}[fmt.Sprintf("%T", p.Item) == "*display.Path"]
	var at geometry.Point
	words, fill, stroke := "", "", ""
	switch i := p.Item.(type) {
	case *display.Rect:
		at = geometry.Point{X: i.Box.X, Y: i.Box.Y}
	case *display.Circle:
		tag, at = "circle", i.Centre
	case *display.Path:
		at = geometry.Point{X: i.At.X + i.Path[0].To.X, Y: i.At.Y + i.Path[0].To.Y}
	case *display.Text:
		tag, at = "text", i.Lines[0].At
		anchor := p.Anchor
		if anchor == "" {
			anchor = "start"
		}
		words = anchor + " " + map[bool]string{true: "700", false: "400"}[p.Bold] + " " + map[bool]string{true: "italic", false: "normal"}[p.Italic]
	}
	if p.Fill != "" {
		fill = fmt.Sprintf("%.2f", p.FillOpacity)
	}
	dash := ""
	if p.Stroke != "" {
		stroke = fmt.Sprintf("%.2f", p.StrokeWidth)
		all := make([]string, len(p.Dash))
		for i, d := range p.Dash {
			all[i] = display.Number(d)
		}
		dash = strings.Join(all, " ")
	}
	return strings.Join([]string{tag, p.Fill, fill, p.Stroke, stroke, dash, words, fmt.Sprintf("%.2f", p.DX+p.Scale*at.X), fmt.Sprintf("%.2f", p.DY+p.Scale*at.Y)}, "|")
}

// A picture of pixels shows what a browser shows of the drawing.
func TestAPictureIsWhatABrowserPaints(t *testing.T) {
	m, err := demo.Maps()[2].Build()
	require.NoError(t, err)
	sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
	ours, err := raster.Document(sc, raster.Options{})
	require.NoError(t, err)
	p := browser.Page(t, 1000, 700)
	p.Goto("data:image/svg+xml;base64," + base64.StdEncoding.EncodeToString([]byte(svg.Document(sc, "t", "q", nil))))
	file := filepath.Join(t.TempDir(), "browser.png")
	p.Shot(file)
	in, err := os.Open(file)
	require.NoError(t, err)
	defer in.Close()
	theirs, err := png.Decode(in)
	require.NoError(t, err)
	wide, high := min(ours.Rect.Dx(), theirs.Bounds().Dx()), min(ours.Rect.Dy(), theirs.Bounds().Dy())
	require.Greater(t, wide*high, 300_000)
	off, far := 0, 0
	for y := range high {
		for x := range wide {
			r, g, b, _ := theirs.At(x, y).RGBA()
			c := ours.RGBAAt(x, y)
			d := max(abs(int(r>>8)-int(c.R)), abs(int(g>>8)-int(c.G)), abs(int(b>>8)-int(c.B)))
			off += d
			if d > 96 {
				far++
			}
		}
	}
	require.Less(t, float64(off)/float64(wide*high), 2.0, "the mean difference of a pixel, of 255")
	require.Less(t, float64(far)/float64(wide*high), 0.004, "the share of pixels that are quite otherwise")
}

func abs(v int) int { return max(v, -v) }

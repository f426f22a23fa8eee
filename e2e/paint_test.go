package e2e_test

import (
	"encoding/base64"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/draw/display"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/e2e/drive"
)

// What is worked out for whatever paints without a browser is what a browser paints: the
// colours, strokes and places of all primitives of any map in any dress.
func TestResolvedPaintIsWhatABrowserPaints(t *testing.T) {
	p, compared := browser.Page(t, 800, 600), 0
	maps := rapid.Custom(func(t *rapid.T) *cm.Map { return maptest.Map(t, 80) })
	for n := range 18 {
		m := maps.Example(n)
		m.Look = cm.Look{Theme: cm.Themes[n%len(cm.Themes)], Paper: cm.Papers[n%4]}
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		var want []string
		for _, painted := range display.PaintedIn(m.Look, display.List(sc)) {
			if _, picture := painted.Item.(*display.Image); !picture { // which has no paint
				want = append(want, said(painted))
			}
		}
		document := svg.Document(sc, "t", "q", nil)
		p.Goto("data:image/svg+xml;base64," + base64.StdEncoding.EncodeToString([]byte(document)))
		seen := drive.Eval[[]string](p, `[...document.querySelectorAll("svg > g :is(path, rect, circle, text)")].filter(e => !e.matches(".printed") && getComputedStyle(e).visibility !== "hidden").map(e => {
			const s = getComputedStyle(e), hex = c => c.startsWith("rgb(") ? "#" + c.match(/\d+/g).slice(0, 3).map(n => (+n).toString(16).padStart(2, "0")).join("") : "";
			const shown = (c, o) => +o === 0 ? "" : hex(c), m = e.getCTM(), base = document.documentElement.getCTM();
			const fill = shown(s.fill, s.fillOpacity), stroke = shown(s.stroke, s.strokeOpacity), words = e.tagName === "text";
			return [e.tagName, fill, fill && (+s.fillOpacity).toFixed(2), stroke, stroke && parseFloat(s.strokeWidth).toFixed(2), stroke && (s.strokeDasharray === "none" ? "" : s.strokeDasharray.replaceAll("px", "").replaceAll(",", "")),
				words ? s.textAnchor + " " + s.fontWeight + " " + s.fontStyle : "", ...[m.e - base.e, m.f - base.f].map(v => Math.floor(v / base.a + 0.63))].join("|");
		})`)
		// The sheet of paper comes first.
		seen = seen[1:]
		compared += len(seen)
		require.Equal(t, strings.Join(want, "\n"), strings.Join(seen, "\n"))
	}
	require.Greater(t, compared, 500)
}

func said(p display.Painted) string {
	tag := map[bool]string{true: "path", false: "rect"}[fmt.Sprintf("%T", p.Item) == "*display.Path"]
	dx, dy := p.DX, p.DY
	words, fill, stroke := "", "", ""
	switch i := p.Item.(type) {
	case *display.Circle:
		tag = "circle"
	case *display.Path:
		dx, dy = dx+p.Scale*i.At.X, dy+p.Scale*i.At.Y
	case *display.Text:
		tag = "text"
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
	return strings.Join([]string{tag, p.Fill, fill, p.Stroke, stroke, dash, words, fmt.Sprint(math.Floor(dx + 0.63)), fmt.Sprint(math.Floor(dy + 0.63))}, "|")
}

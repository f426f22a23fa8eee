package svg_test

import (
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
)

func build(m *cm.Map, prev *scene.Scene) *scene.Scene {
	return scene.Build(m, structure.Of(m), scene.View{}, prev)
}

func draw(sc *scene.Scene) string {
	return svg.Regions(sc) + svg.Group(sc.Links, svg.Link) + svg.Group(sc.Slips, svg.Slip) + svg.Key(sc.Key)
}

// elements parses a drawing as strictly as XML is and counts its elements.
func elements(t require.TestingT, drawing string) map[string]int {
	from := xml.NewDecoder(strings.NewReader("<svg>" + drawing + "</svg>"))
	count := map[string]int{}
	for {
		token, err := from.Token()
		if err == io.EOF {
			return count
		}
		require.NoError(t, err)
		if start, ok := token.(xml.StartElement); ok {
			count[start.Name.Local]++
			for _, a := range start.Attr {
				require.False(t, strings.HasPrefix(strings.ToLower(a.Name.Local), "on") || a.Name.Local == "style")
				if a.Name.Local == "href" {
					require.Equal(t, "image", start.Name.Local)
					require.Regexp(t, "^files/[0-9a-f]{64}/small$", a.Value)
				}
				require.NotContains(t, a.Value, "NaN")
				require.NotContains(t, a.Value, "Inf")
			}
		}
	}
}

// Whatever the map, its drawing is well-formed, holds no element that we did
// not write, and a scene built from an earlier one is the same as a fresh one.
func TestAnyMapIsDrawnAndPatchedAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		before := build(m, nil)
		me := &maptest.Author{Name: "y"}
		for range rapid.IntRange(1, 15).Draw(t, "edits") {
			if out, err := edit.Apply(m, []edit.Operation{me.Operation(t, m)}, nil); err == nil {
				m = out.Map
			}
		}
		after, fresh := build(m, before), build(m, nil)
		require.Equal(t, draw(fresh), draw(after))
		count := elements(t, draw(after))
		for name := range count {
			require.Contains(t, []string{"svg", "g", "path", "rect", "circle", "text", "tspan", "title", "line", "ellipse", "polyline", "polygon", "image"}, name)
		}
		// The difference of the two scenes, applied to the first, is the second.
		patched := map[string]string{}
		for id, s := range before.Slips {
			patched["c"+string(id)] = svg.Slip(s)
		}
		for id, l := range before.Links {
			patched["l"+string(id)] = svg.Link(l)
		}
		slips, links, goneSlips, goneLinks := scene.Diff(before, after)
		for _, id := range slips {
			patched["c"+string(id)] = svg.Slip(after.Slips[id])
		}
		for _, id := range links {
			patched["l"+string(id)] = svg.Link(after.Links[id])
		}
		for _, id := range goneSlips {
			delete(patched, "c"+string(id))
		}
		for _, id := range goneLinks {
			delete(patched, "l"+string(id))
		}
		require.Len(t, patched, len(fresh.Slips)+len(fresh.Links))
		for id, s := range fresh.Slips {
			require.Equal(t, svg.Slip(s), patched["c"+string(id)])
		}
		for id, l := range fresh.Links {
			require.Equal(t, svg.Link(l), patched["l"+string(id)])
		}
	})
}

func TestHostileLabelsAreWords(t *testing.T) {
	hostile := `"><script>alert(1)</script><image href=x onerror=alert(1)>&lt;]]>`
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: hostile}, &edit.AddConcept{ID: "b", Label: "b", At: cm.Point{X: 500}},
		&edit.AddLink{ID: "l", Phrase: hostile, From: end("f", "a"), To: end("t", "b")},
		&edit.AddKind{ID: "k", Name: hostile[:58], Icon: "bell"}, &edit.AssignKind{Concepts: []cm.ID{"a"}, Kind: "k"},
		&edit.AddTag{ID: "g", Name: hostile[:58]}, &edit.AssignTag{Concepts: []cm.ID{"a"}, Tag: "g", On: true},
		&edit.AddRegion{ID: "r", Title: hostile, Concepts: []cm.ID{"a"}}, &edit.SetAmount{Concept: "a", Amount: `3 "><script>`},
	}, nil)
	require.NoError(t, err)
	drawing := draw(build(out.Map, nil))
	assert.NotContains(t, drawing, "<script")
	assert.NotContains(t, drawing, "<image")
	elements(t, drawing)
}

func TestHowLinksLook(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	at := func(x, y float64) cm.Point { return cm.Point{X: x, Y: y} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "top", Label: "sound", At: at(0, 0)}, &edit.SetFocus{Concept: "top"},
		&edit.AddConcept{ID: "a", Label: "air", At: at(-300, 200)}, &edit.AddConcept{ID: "b", Label: "bell", At: at(300, 200)},
		&edit.AddLink{ID: "fan", Phrase: "needs", From: end("f", "top"), To: []cm.End{{ID: "t1", Concept: "a"}, {ID: "t2", Concept: "b"}}},
		&edit.AddLink{ID: "cross", Phrase: "moves", Heads: cm.HeadsBoth, From: end("f", "b"), To: end("t", "a")},
		&edit.AddLink{ID: "open", From: end("f", "top"), To: end("t", "b"), Heads: cm.HeadsNone},
		&edit.AddLink{ID: "self", Phrase: "echoes", From: end("f", "a"), To: end("t", "a")},
	}, nil)
	require.NoError(t, err)
	sc := build(out.Map, nil)
	count := func(id cm.ID, what string) int { return strings.Count(svg.Link(sc.Links[id]), what) }
	darts := func(id cm.ID) int {
		_, rest, _ := strings.Cut(svg.Link(sc.Links[id]), `class="dart" d="`)
		d, _, _ := strings.Cut(rest, `"`)
		return strings.Count(d, "Z")
	}
	assert.Equal(t, []int{2, 1, 1, 0}, []int{darts("fan"), count("fan", `class="knot"`), count("fan", "<text"), count("fan", "between")})
	assert.Equal(t, []int{2, 0, 1}, []int{darts("cross"), count("cross", `class="knot"`), count("cross", "line cross")})
	assert.Equal(t, []int{0, 0, 1, 0}, []int{darts("open"), count("open", "<text"), count("open", `class="rule"`), count("open", "cross")})
	assert.Contains(t, svg.Slip(sc.Slips["top"]), `class="slip focus"`)
	assert.Equal(t, "b moves", strings.Replace(sc.Links["cross"].Says, "bell", "b", 1)[:7])
	// A phrase stands in the gap of its line: no leg enters the words.
	for _, leg := range sc.Links["cross"].Legs {
		end := leg.Path.End()
		gap := sc.Links["cross"].Gap
		assert.False(t, end.X > gap.X+1 && end.X < gap.X+gap.W-1 && end.Y > gap.Y+1 && end.Y < gap.Y+gap.H-1)
	}
}

func BenchmarkSceneAfterOneEdit1000(b *testing.B) {
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(1000), nil)
	require.NoError(b, err)
	before := build(out.Map, nil)
	next, err := edit.Apply(out.Map, []edit.Operation{&edit.NameConcept{Concept: "c00500", Label: "renamed"}}, nil)
	require.NoError(b, err)
	for b.Loop() {
		scene.Diff(before, build(next.Map, before))
	}
}

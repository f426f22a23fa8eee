package svg_test

import (
	"encoding/base64"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/draw/svg"
)

var family = regexp.MustCompile(`font-family:"([^"]+)";font-style:\w+;font-weight:\d+;font-display:block;src:url\(data:font/woff;base64,([^)]+)\)`)

func families(drawing string) map[string]int {
	all := map[string]int{}
	for _, m := range family.FindAllStringSubmatch(drawing, -1) {
		all[m[1]]++
	}
	return all
}

func TestADrawingThatLeavesThePageNeedsNothingElse(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "bell & <b>"}, &edit.AddConcept{ID: "b", Label: "λόγος", At: cm.Point{X: 300, Y: -40}},
		&edit.AddLink{ID: "l", Phrase: "hums", From: []cm.End{{ID: "e", Concept: "a"}}, To: []cm.End{{ID: "f", Concept: "b"}}},
	}, nil)
	require.NoError(t, err)
	sc := build(out.Map, nil)
	drawing := svg.Document(sc, `the "sound" <of> a bell`, "How?", nil)
	assert.Equal(t, map[string]int{"Atkinson Hyperlegible": 1, "Noto Sans": 1, "Source Serif 4": 1}, families(drawing), "the slices that the words need")
	for _, m := range family.FindAllStringSubmatch(drawing, -1) {
		raw, err := base64.StdEncoding.DecodeString(m[2])
		require.NoError(t, err)
		assert.Equal(t, "wOFF", string(raw[:4]))
	}
	assert.NotContains(t, drawing, "var(")
	assert.Equal(t, 1, strings.Count(drawing, "http"), "the namespace is the only address")
	assert.Contains(t, drawing, "<title>the &quot;sound&quot; &lt;of&gt; a bell</title>")
	assert.Contains(t, drawing, "stroke: #1d2f52")
	assert.NotContains(t, svg.Small(sc), "bell", "the small drawing has no words")
}

// The paper is as large as what is on it, for any map, and both drawings are
// well-formed.
func TestAnyMapFitsItsPaper(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		sc := build(m, nil)
		_, drawing, _ := strings.Cut(svg.Document(sc, "a", "b", nil), "?>")
		elements(t, drawing)
		require.Equal(t, len(m.Concepts), strings.Count(drawing, `data-kind="concept"`))
		require.Equal(t, len(m.Links), strings.Count(drawing, `data-kind="link"`))
		require.Equal(t, len(m.Concepts)+1, elements(t, svg.Small(sc))["g"])
		box := sc.Bounds()
		for _, s := range sc.Slips {
			require.True(t, s.Box.X >= box.X && s.Box.Y >= box.Y && s.Box.X+s.Box.W <= box.X+box.W+1e-6 && s.Box.Y+s.Box.H <= box.Y+box.H+1e-6)
		}
	})
}

package scene_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// odd tells whether a point lies within outlines, by the even-odd rule.
func odd(parts [][]scene.Point, p scene.Point) bool {
	in := false
	for _, part := range parts {
		for i, a := range part {
			b := part[(i+1)%len(part)]
			if (a.Y > p.Y) != (b.Y > p.Y) && p.X < (b.X-a.X)*(p.Y-a.Y)/(b.Y-a.Y)+a.X {
				in = !in
			}
		}
	}
	return in
}

// Whatever stands where, an outline holds the slips of its region and none of the
// others; its sides are straight; its tab is within.
func TestRegionsHoldTheirOwn(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := cm.NewMap("m", "en")
		var ops []edit.Operation
		var all, inside []cm.ID
		for i := range rapid.IntRange(1, 14).Draw(t, "concepts") {
			id := cm.ID(fmt.Sprint("c", i))
			// On a coarse grid no two slips meet, and none stands in another's margin.
			x, y := 200*float64(i%4), 120*float64(i/4)+40*float64(rapid.IntRange(0, 1).Draw(t, "shift"))
			ops = append(ops, &edit.AddConcept{ID: id, Label: "bell", At: cm.Point{X: x, Y: y}})
			if all = append(all, id); i == 0 || rapid.Bool().Draw(t, "in") {
				inside = append(inside, id)
			}
		}
		out, err := edit.Apply(m, append(ops, &edit.AddRegion{ID: "r", Title: "the tower", Concepts: inside}), nil)
		require.NoError(t, err)
		sc := scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)
		require.Len(t, sc.Regions, 1)
		r := sc.Regions[0]
		for _, id := range all {
			b := sc.Slips[id].Box
			for _, p := range []scene.Point{{X: b.X + 1, Y: b.Y + 1}, {X: b.X + b.W - 1, Y: b.Y + b.H - 1}, b.Middle()} {
				require.Equal(t, out.Map.Regions["r"].Members[id], odd(r.Parts, p), "%s %v in %v", id, p, r.Parts)
			}
		}
		for _, part := range r.Parts {
			for i, a := range part {
				b := part[(i+1)%len(part)]
				require.True(t, (a.X == b.X) != (a.Y == b.Y), "a side is level or upright")
			}
		}
		require.True(t, odd(r.Parts, scene.Point{X: r.Tab.X + 2, Y: r.Tab.Y + 2}))
	})
}

// A region that is tucked away is a box that hides its concepts, and links into it
// end there.
func TestARegionIsTuckedToABox(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "ear"}, &edit.AddConcept{ID: "b", Label: "drum", At: cm.Point{Y: 200}}, &edit.AddConcept{ID: "w", Label: "wave", At: cm.Point{X: 400}},
		&edit.AddLink{ID: "in", Phrase: "has", From: end("f", "a"), To: end("t", "b")},
		&edit.AddLink{ID: "to", Phrase: "pushes", From: end("f", "w"), To: end("t", "b")},
		&edit.AddRegion{ID: "r", Title: "the ear", Concepts: []cm.ID{"a", "b"}},
	}, nil)
	require.NoError(t, err)
	whole := scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)
	assert.Equal(t, []cm.ID{"a", "b"}, whole.Regions[0].Inside)
	sc := scene.Build(out.Map, structure.Of(out.Map), scene.View{Tucked: "r"}, whole)
	require.Len(t, sc.Slips, 2)
	box := sc.Slips["r"]
	assert.True(t, box.Region)
	assert.Equal(t, []cm.ID{"a", "b"}, box.Hides)
	assert.Equal(t, "the ear", box.Words.Words)
	assert.Empty(t, sc.Regions)
	require.Len(t, sc.Links, 1)
	assert.True(t, sc.Links["to"].Veiled())
	assert.Same(t, box, scene.Build(out.Map, structure.Of(out.Map), scene.View{Tucked: "r"}, sc).Slips["r"])
}

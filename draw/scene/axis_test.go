package scene_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/draw/scene"
)

// Along time, slips begin where their times are, without any link too; several at
// one moment are stacked; the axis has round ticks that lie where the slips are.
func TestTheAxisOfTime(t *testing.T) {
	var ops []edit.Operation
	for _, c := range [][2]string{{"a", "1750"}, {"b", "1762"}, {"c", "1762"}, {"d", "1760/1764"}, {"e", "1800-06"}, {"f", ""}, {"g", "-40"}} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c[0]), Label: "a bell of " + c[1]}, &edit.SetWhen{Concept: cm.ID(c[0]), When: c[1]})
	}
	ops = append(ops, &edit.SetWhen{Concept: "g"}, &edit.Tidy{Pattern: cm.PatternTime})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, layout.Placer{Measurer: scene.Measurer{}})
	require.NoError(t, err)
	sc := build(out.Map, scene.View{})
	box := func(id cm.ID) scene.Rect { return sc.Slips[id].Box }
	assert.Less(t, box("a").X, box("d").X)
	assert.Less(t, box("d").X, box("b").X)
	assert.InDelta(t, box("b").X, box("c").X, 1.01)
	assert.NotEqual(t, box("b").Y, box("c").Y)
	assert.Less(t, box("b").X, box("e").X)
	axis := sc.Axis
	require.NotNil(t, axis)
	at := map[string]float64{}
	for _, tick := range axis.Ticks {
		at[tick.Words] = tick.X
	}
	assert.InDelta(t, box("a").X, at["1750"], 2)
	assert.Contains(t, at, "1800")
	assert.GreaterOrEqual(t, len(axis.Ticks), 4)
	assert.LessOrEqual(t, len(axis.Ticks), 14)

	// What lasts has a bar from its slip to its end, and nothing else stands there.
	require.Len(t, axis.Spans, 1, "the years 1760 to 1764; the month of June is too short to be seen")
	long := axis.Spans[0]
	year := (at["1800"] - at["1750"]) / 50
	assert.InDelta(t, box("d").X, long.X0, 0.1)
	assert.InDelta(t, 4*year, long.X1-long.X0, 1)
	for id := range sc.Slips {
		assert.False(t, box(id).Meets(scene.Rect{X: long.X0, Y: long.Y - 1, W: long.X1 - long.X0, H: 2}), "%s", id)
	}

	// Months, where years would be too coarse.
	out, err = edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "mould"}, &edit.SetWhen{Concept: "a", When: "2026-03-01"}, &edit.AddConcept{ID: "b", Label: "pour"}, &edit.SetWhen{Concept: "b", When: "2026-09"},
		&edit.Tidy{Pattern: cm.PatternTime}}, layout.Placer{Measurer: scene.Measurer{}})
	require.NoError(t, err)
	axis = build(out.Map, scene.View{}).Axis
	require.NotNil(t, axis)
	assert.Contains(t, axis.Ticks[0].Words, " 2026")
	assert.Nil(t, build(cm.NewMap("m", "en"), scene.View{}).Axis)
}

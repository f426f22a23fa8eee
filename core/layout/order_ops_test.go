package layout_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/layout"
)

// three slips, of widths 48, 64 and 96 and one height.
func three(t *testing.T) *cm.Map {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "a", At: cm.Point{X: 0, Y: 0}}, &edit.AddConcept{ID: "b", Label: "bbb", At: cm.Point{X: 100, Y: 90}},
		&edit.AddConcept{ID: "c", Label: "ccccccc", At: cm.Point{X: 400, Y: 300}},
		&edit.AddLink{ID: "l", Phrase: "has", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}, {ID: "u", Concept: "c"}}},
	}, nil)
	require.NoError(t, err)
	return out.Map
}

// Hand-computed, edge by edge.
func TestSlipsArePutInLine(t *testing.T) {
	m := three(t)
	for way, want := range map[edit.LineUpWay][3]cm.Point{
		edit.LineUpLeft:   {{X: 0, Y: 0}, {X: 8, Y: 90}, {X: 24, Y: 300}},
		edit.LineUpRight:  {{X: 424, Y: 0}, {X: 416, Y: 90}, {X: 400, Y: 300}},
		edit.LineUpCentre: {{X: 212, Y: 0}, {X: 212, Y: 90}, {X: 212, Y: 300}},
		edit.LineUpTop:    {{X: 0, Y: 0}, {X: 100, Y: 0}, {X: 400, Y: 0}},
		edit.LineUpMiddle: {{X: 0, Y: 150}, {X: 100, Y: 150}, {X: 400, Y: 150}},
		edit.LineUpBottom: {{X: 0, Y: 300}, {X: 100, Y: 300}, {X: 400, Y: 300}},
		// From -24 to 448 the slips leave 264, half of it between each two.
		edit.SpaceAcross: {{X: 0, Y: 0}, {X: 188, Y: 90}, {X: 400, Y: 300}},
		edit.SpaceDown:   {{X: 0, Y: 0}, {X: 100, Y: 150}, {X: 400, Y: 300}},
	} {
		out, err := edit.Apply(m, []edit.Operation{&edit.LineUp{Concepts: []cm.ID{"a", "b", "c"}, Way: way}}, room)
		require.NoError(t, err)
		assert.Equal(t, want, [3]cm.Point{out.Map.Concepts["a"].At, out.Map.Concepts["b"].At, out.Map.Concepts["c"].At}, way)
		assert.Equal(t, m, history.Invert(out.Map, out.Changes).Map)
	}
	for _, op := range []edit.Operation{&edit.LineUp{Concepts: []cm.ID{"a"}, Way: edit.LineUpLeft}, &edit.LineUp{Concepts: []cm.ID{"a", "b"}, Way: "askew"}, &edit.LineUp{Concepts: []cm.ID{"a", "gone"}, Way: edit.LineUpLeft},
		&edit.Stretch{Concept: "a", By: 0}, &edit.Stretch{Concept: "b", By: 2}, &edit.MakeRoom{Concepts: []cm.ID{"gone"}}, &edit.Pin{Concepts: []cm.ID{"gone"}, On: true},
		&edit.Tidy{Pattern: "spiral"}, &edit.Tidy{}, &edit.Tidy{Pattern: cm.PatternRings, Branch: "gone"}} {
		_, err := edit.Apply(m, []edit.Operation{op}, room)
		assert.Error(t, err, "%#v", op)
	}
}

// A branch is brought further apart and closer together from its top; what is
// pinned is not moved, and nothing comes to lie on anything.
func TestABranchIsStretched(t *testing.T) {
	m := three(t)
	out, err := edit.Apply(m, []edit.Operation{&edit.Pin{Concepts: []cm.ID{"c"}, On: true}, &edit.Stretch{Concept: "a", By: 2}}, room)
	require.NoError(t, err)
	assert.Equal(t, cm.Point{X: 200, Y: 180}, out.Map.Concepts["b"].At)
	assert.Equal(t, m.Concepts["c"].At, out.Map.Concepts["c"].At)
	out, err = edit.Apply(m, []edit.Operation{&edit.Stretch{Concept: "a", By: 0.1}}, room)
	require.NoError(t, err)
	assert.Equal(t, m.Concepts["a"].At, out.Map.Concepts["a"].At)
	for _, pair := range [][2]cm.ID{{"a", "b"}, {"a", "c"}, {"b", "c"}} {
		assert.False(t, meet(out.Map, out.Map.Concepts[pair[0]], out.Map.Concepts[pair[1]]))
	}
	// Placer is made around what stays.
	out, err = edit.Apply(m, []edit.Operation{&edit.Move{Places: map[cm.ID]cm.Point{"b": {X: 10, Y: 5}}}, &edit.MakeRoom{Concepts: []cm.ID{"b"}}}, room)
	require.NoError(t, err)
	assert.Equal(t, cm.Point{X: 10, Y: 5}, out.Map.Concepts["b"].At)
	assert.False(t, meet(out.Map, out.Map.Concepts["a"], out.Map.Concepts["b"]))
}

// Kept tidy, a map is in order after each edit, in the entry of that edit; what
// is moved among its siblings takes its new rank; two authors' steps back stay
// their own.
func TestAMapIsKeptTidy(t *testing.T) {
	out, err := edit.Apply(grown(t, false), []edit.Operation{&edit.Tidy{Pattern: cm.PatternLevels}, &edit.KeepTidy{On: true}}, room)
	require.NoError(t, err)
	m := out.Map
	moved, err := edit.Apply(m, []edit.Operation{&edit.Move{Places: map[cm.ID]cm.Point{"c20": {X: m.Concepts["c22"].At.X + 1, Y: m.Concepts["c22"].At.Y}}}}, room)
	require.NoError(t, err)
	order, among := room.Row(moved.Map, "c20")
	assert.Equal(t, []cm.ID{"c21", "c22", "c20", "c23"}, order)
	assert.True(t, among)
	assert.Equal(t, moved.Map.Concepts["c21"].At.Y, moved.Map.Concepts["c20"].At.Y, "back on its level")
	assert.Equal(t, m, history.Invert(moved.Map, moved.Changes).Map)

	// What has no part in where things stand puts nothing in order again.
	yes, colour, counting := true, cm.Colours[0], &counted{Placer: room}
	vote := &edit.Vote{Concept: "c20", For: &yes}
	edit.Sign([]edit.Operation{vote}, edit.Speaker{ID: "ada"})
	for op, arranged := range map[edit.Operation]int{
		vote: 0, &edit.SetNoteCard{On: cm.Key{Kind: cm.EntityConcept, ID: "c20"}, Colour: &colour}: 0, &edit.SetRemark{Concept: "c20", Remark: "sharp"}: 1,
	} {
		counting.arranged = 0
		_, err := edit.Apply(m, []edit.Operation{op}, counting)
		require.NoError(t, err)
		assert.Equal(t, arranged, counting.arranged, "%T", op)
	}

	// What one author made is moved by another's entry: that is nobody's work.
	first, err := edit.Apply(m, []edit.Operation{&edit.AddConcept{ID: "n1", Label: "one more"}, &edit.AddLink{ID: "ln1", Phrase: "has", From: []cm.End{{ID: "f", Concept: "b0"}}, To: []cm.End{{ID: "t", Concept: "n1"}}}}, room)
	require.NoError(t, err)
	second, err := edit.Apply(first.Map, []edit.Operation{&edit.AddConcept{ID: "n2", Label: "and another"}, &edit.AddLink{ID: "ln2", Phrase: "has", From: []cm.End{{ID: "f", Concept: "b0"}}, To: []cm.End{{ID: "t", Concept: "n2"}}}}, room)
	require.NoError(t, err)
	back := history.Invert(second.Map, first.Changes)
	assert.Nil(t, back.Map.Concepts["n1"], "%v", back.Notices)
	assert.NotNil(t, back.Map.Concepts["n2"])
}

// counted counts how often a map was put in order.
type counted struct {
	layout.Placer
	arranged int
}

func (c *counted) Arrange(m *cm.Map, s edit.Scope) (edit.Arrangement, error) {
	c.arranged++
	return c.Placer.Arrange(m, s)
}

// A line that putting in order led is led anew when one of its concepts is moved, and is the hand's own as soon as that bends it; what was led by hand
// keeps its bends.
func TestLedLinesAndHands(t *testing.T) {
	base := grown(t, true)
	byHand, err := edit.Apply(base, []edit.Operation{&edit.Bend{Link: "lx2", End: "f", Bends: []cm.Point{{X: 40, Y: 50}}}}, room)
	require.NoError(t, err)
	out, err := edit.Apply(byHand.Map, []edit.Operation{&edit.Tidy{Pattern: cm.PatternLevels}}, room)
	require.NoError(t, err)
	m := out.Map
	require.True(t, m.Links["lx1"].Tidied)
	require.NotNil(t, m.Links["lx1"].Hub)
	assert.False(t, m.Links["lx2"].Tidied)
	assert.Len(t, m.Links["lx2"].Bends["f"], 1)
	c := m.Concepts["c00"].At
	out, err = edit.Apply(m, []edit.Operation{&edit.Move{Places: map[cm.ID]cm.Point{"c00": {X: c.X + 30, Y: c.Y}}}}, room)
	require.NoError(t, err)
	assert.True(t, out.Map.Links["lx1"].Tidied)
	assert.NotEqual(t, m.Links["lx1"].Hub, out.Map.Links["lx1"].Hub)
	assert.Equal(t, m.Links["lx3"], out.Map.Links["lx3"], "it did not move")
	assert.Equal(t, cm.HoldHand, out.Map.Concepts["c00"].Hold)

	kept, err := edit.Apply(out.Map, []edit.Operation{&edit.Tidy{Pattern: cm.PatternLevels, Hand: true}}, room)
	require.NoError(t, err)
	assert.Equal(t, out.Map.Concepts["c00"].At, kept.Map.Concepts["c00"].At)
	assert.Equal(t, cm.HoldHand, kept.Map.Concepts["c00"].Hold)
	loose, err := edit.Apply(out.Map, []edit.Operation{&edit.Tidy{Pattern: cm.PatternLevels}}, room)
	require.NoError(t, err)
	assert.Equal(t, cm.HoldNone, loose.Map.Concepts["c00"].Hold)

	bent, err := edit.Apply(m, []edit.Operation{&edit.Bend{Link: "lx1", End: "f", Bends: []cm.Point{{X: 1, Y: 2}}}}, room)
	require.NoError(t, err)
	assert.False(t, bent.Map.Links["lx1"].Tidied)
	assert.Nil(t, bent.Map.Links["lx1"].Hub)
	assert.Equal(t, map[cm.ID][]cm.Point{"f": {{X: 1, Y: 2}}}, bent.Map.Links["lx1"].Bends)
}

// More than can be put in order in good time is refused in words; edits go on.
func TestTooMuchIsNotPutInOrder(t *testing.T) {
	var ops []edit.Operation
	for i := range layout.MaxArranged + 1 {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", i)), Label: "idea", At: cm.Point{X: float64(i % 100), Y: float64(i / 100)}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	_, err = edit.Apply(out.Map, []edit.Operation{&edit.Tidy{Pattern: cm.PatternLevels}}, room)
	require.ErrorContains(t, err, "one after the other")
	kept, err := edit.Apply(out.Map, []edit.Operation{&edit.KeepTidy{On: true}}, room)
	require.NoError(t, err)
	assert.Equal(t, out.Map.Concepts["c7"].At, kept.Map.Concepts["c7"].At)
}

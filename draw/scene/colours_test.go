package scene_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/draw/scene"
)

// chain is a map of so many concepts, each below the one before, the first the focus concept.
func chain(t *testing.T, n int, more ...edit.Operation) *cm.Map {
	ops := []edit.Operation{&edit.AddConcept{ID: "c0", Label: "the bell"}, &edit.SetFocus{Concept: "c0"}}
	for i := 1; i < n; i++ {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", i)), Label: fmt.Sprint("part ", i), At: cm.Point{Y: float64(i) * 100}},
			&edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: "has", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprint("c", i-1))}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprint("c", i))}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), append(ops, more...), nil)
	require.NoError(t, err)
	return out.Map
}

func by(what cm.ColourBy) *edit.SetLook { return &edit.SetLook{By: &what} }

// A level has the colour that was chosen for it; levels that look the same share a row of the key.
func TestLevelsHaveColoursOfTheirOwn(t *testing.T) {
	sc := build(chain(t, 11, by(cm.ByLevel), &edit.ColourLevel{Level: 2, Colour: "plum"}), scene.View{})
	assert.Equal(t, cm.Colour("plum"), sc.Slips["c1"].Colour, "the focus concept is the first level")
	assert.Equal(t, cm.Colours[2], sc.Slips["c2"].Colour)
	words := map[cm.Colour]string{}
	for _, r := range sc.Key.Rows {
		words[r.Colour] = r.Words
	}
	assert.Equal(t, "level 1, 9", words[cm.Colours[0]])
	assert.Equal(t, "level 2, 7, 10", words["plum"])
	_, err := edit.Apply(chain(t, 2), []edit.Operation{&edit.ColourLevel{Level: 9, Colour: "plum"}}, nil)
	assert.Error(t, err)
}

// Lines within a branch have its colour where colours stand for branches, a line across none; a
// line to what has a painted border has that of the border.
func TestLinesHaveTheColourOfTheirBranch(t *testing.T) {
	border := cm.Colour("rose")
	m := chain(t, 3, by(cm.ByBranch),
		&edit.AddConcept{ID: "d", Label: "the tower", At: cm.Point{X: 400}},
		&edit.AddLink{ID: "down", Phrase: "hangs in", From: []cm.End{{ID: "f", Concept: "c0"}}, To: []cm.End{{ID: "t", Concept: "d"}}},
		&edit.AddLink{ID: "across", Phrase: "shakes", From: []cm.End{{ID: "f", Concept: "c2"}}, To: []cm.End{{ID: "t", Concept: "d"}}})
	sc := build(m, scene.View{})
	assert.Equal(t, sc.Slips["c1"].Colour, sc.Links["l1"].Colour)
	assert.Equal(t, sc.Slips["c1"].Colour, sc.Links["l2"].Colour)
	assert.Equal(t, sc.Slips["d"].Colour, sc.Links["down"].Colour)
	assert.NotEqual(t, sc.Links["l1"].Colour, sc.Links["down"].Colour)
	assert.Empty(t, sc.Links["across"].Colour)
	out, err := edit.Apply(m, []edit.Operation{by(cm.ByKind), &edit.SetPaint{Concepts: []cm.ID{"c2"}, Border: &border}}, nil)
	require.NoError(t, err)
	sc = build(out.Map, scene.View{})
	assert.Empty(t, sc.Links["l1"].Colour)
	assert.Equal(t, border, sc.Links["l2"].Colour)
}

// A concept has one priority and one degree of progress, whatever else stands beside its label;
// what is on the map is told in the key.
func TestAConceptHasOneDegreeOfEach(t *testing.T) {
	add := func(i cm.Icon) edit.Operation { return &edit.AddIcon{Concepts: []cm.ID{"c1"}, Icon: i} }
	m := chain(t, 2, add("bell"), add("priority-low"), add("progress-half"), add("priority-high"), add("progress-done"))
	assert.Equal(t, []cm.Icon{"bell", "priority-high", "progress-done"}, m.Concepts["c1"].Icons)
	var rows []string
	for _, r := range build(m, scene.View{}).Key.Rows {
		rows = append(rows, r.Words)
	}
	assert.Equal(t, []string{"high priority", "all done"}, rows)
	out, err := edit.Apply(m, []edit.Operation{&edit.SetIcons{Concepts: []cm.ID{"c1"}, Icons: []cm.Icon{"progress-none", "progress-most", "bell"}}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []cm.Icon{"progress-most", "bell"}, out.Map.Concepts["c1"].Icons)
}

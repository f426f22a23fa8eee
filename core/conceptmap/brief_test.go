package conceptmap_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// Lines of a brief keep the order that they are given; a whole brief takes the place of another.
func TestLinesOfABriefKeepTheirOrder(t *testing.T) {
	m := cm.NewMap("m", "en")
	do := func(ops ...edit.Operation) error {
		out, err := edit.Apply(m, ops, nil)
		if err == nil {
			m = out.Map
		}
		return err
	}
	order := func() (all string) {
		for _, r := range m.RequirementsInOrder() {
			all += string(r.ID) + " "
		}
		return all
	}
	for _, id := range []cm.ID{"a", "b", "c"} {
		require.NoError(t, do(&edit.AddRequirement{ID: id, Demand: cm.Demand{Of: cm.CountConcepts}}))
	}
	require.NoError(t, do(&edit.MoveRequirement{Requirement: "c"}))
	assert.Equal(t, "c a b ", order())
	require.NoError(t, do(&edit.MoveRequirement{Requirement: "c", After: "a"}))
	assert.Equal(t, "a c b ", order())
	require.Error(t, do(&edit.MoveRequirement{Requirement: "c", After: "gone"}))
	require.Error(t, do(&edit.ChangeRequirement{Requirement: "a", Demand: cm.Demand{Of: "birds"}}))
	require.NoError(t, do(&edit.TakeBrief{ID: "n", Title: "Ours", Lines: []cm.Demand{{Of: cm.CountLinks}, {Of: cm.CountNotes}}}))
	assert.Equal(t, "n-1 n-2 ", order())
	require.NoError(t, do(&edit.TakeBrief{ID: "n"}))
	assert.Empty(t, order())
	assert.True(t, m.Brief.Empty())
}

// What a line lacks may stand on the map already, without the kind that the line asks for: then that
// one gets it.
func TestAKindGoesToWhatIsThereAlready(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "bell", Label: "the bell"}, &edit.AddConcept{ID: "walk", Label: "walk away"}, &edit.AddKind{ID: "activity", Name: "activity", Colour: "leaf"}}, nil)
	require.NoError(t, err)
	out, err = edit.Apply(out.Map, []edit.Operation{
		&edit.AddProposition{Link: "l", From: []edit.Term{{Words: "the bell", Concept: "x", End: "f"}}, To: []edit.Term{{Words: "Walk away", Concept: "y", End: "t"}}},
		&edit.AssignKind{Concepts: []cm.ID{"y"}, Kind: "activity"},
	}, nil)
	require.NoError(t, err)
	assert.Len(t, out.Map.Concepts, 2)
	assert.Equal(t, cm.ID("activity"), out.Map.Concepts["walk"].Kind)
}

package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
)

// What an author wants on all maps holds where the map says nothing of its own.
func TestRulesAsAnAuthorWantsThem(t *testing.T) {
	var ops []edit.Operation
	for _, c := range [][2]string{{"a", "the bell"}, {"b", "the clapper"}, {"c", "the tongue"}, {"d", "bronze"}} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c[0]), Label: c[1]})
	}
	for _, to := range []cm.ID{"b", "c", "d"} {
		ops = append(ops, &edit.AddLink{ID: "l" + to, Phrase: "needs for its sound", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: to}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	m := out.Map
	found := func(author check.Settings) map[string]bool {
		all := map[string]bool{}
		for _, f := range check.FindAmong(m, structure.Of(m), check.Surroundings{Author: author}) {
			all[f.Rule.ID] = true
		}
		return all
	}
	assert.False(t, found(check.Settings{})["concept-synonym"])
	mine, err := check.Settings{}.Meaning("clapper, tongue\n\nalone\n, ,\n")
	require.NoError(t, err)
	assert.Equal(t, "clapper, tongue\n", mine.Lines())
	assert.True(t, found(mine)["concept-synonym"])
	off, err := mine.With("concept-synonym", false)
	require.NoError(t, err)
	assert.False(t, found(off)["concept-synonym"])
	assert.True(t, found(mine)["concept-synonym"], "settings are values")
	assert.NotEqual(t, mine.Key(), off.Key())

	assert.False(t, found(check.Settings{})["hub"])
	low := 3.0
	hub, err := check.Settings{}.From("hub", &low)
	require.NoError(t, err)
	assert.True(t, found(hub)["hub"])
	high := 9.0
	out, err = edit.Apply(m, []edit.Operation{&edit.SetRuleLeast{Rule: "hub", Least: &high}}, nil)
	require.NoError(t, err)
	m = out.Map
	assert.False(t, found(hub)["hub"], "the map's own comes first")
	_, err = check.Settings{}.With("nothing", true)
	assert.Error(t, err)
	for _, bad := range []float64{0, -1, 1e9} {
		_, err = check.Settings{}.From("hub", &bad)
		assert.Error(t, err)
	}
}

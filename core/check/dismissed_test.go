package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// What was left as it is comes up no more, until its words change or it is looked for again.
func TestFindingsAreLeftAsTheyAre(t *testing.T) {
	m := said(t, "en", "bell | is related to | tower", "tower | has | clock")
	place := find(m)["phrase-empty"][0]
	leave := &edit.DismissFinding{ID: "d", Rule: "phrase-empty", On: place.Keys, Reason: "a first draft"}
	_, err := edit.Apply(m, []edit.Operation{leave}, nil)
	require.ErrorContains(t, err, "not known who says that")
	edit.Sign([]edit.Operation{leave}, edit.Speaker{ID: "pa", At: "2026-11-27T08:00:00.000Z"})
	quiet := apply(t, m, leave)
	require.Len(t, find(quiet)["phrase-empty"], 1)
	assert.Equal(t, cm.ID("l1"), find(quiet)["phrase-empty"][0].Keys[0].ID)
	changed := apply(t, quiet, &edit.NameLink{Link: "l0", Phrase: "is connected to"})
	assert.Len(t, find(changed)["phrase-empty"], 2)
	assert.Len(t, find(apply(t, quiet, &edit.RecallFinding{Dismissal: "d"}))["phrase-empty"], 2)
}

// From how much on a rule speaks is the map's own, if it says so.
func TestThresholdsAreTheMapsOwn(t *testing.T) {
	m := said(t, "en", star(7)...)
	assert.Empty(t, find(m)["hub"])
	six := 6.0
	m = apply(t, m, &edit.SetRuleLeast{Rule: "hub", Least: &six})
	assert.NotEmpty(t, find(m)["hub"])
	assert.Empty(t, find(apply(t, m, &edit.SetRuleLeast{Rule: "hub"}))["hub"])
	for _, wrong := range []float64{0, -1, 1e9} {
		_, err := edit.Apply(m, []edit.Operation{&edit.SetRuleLeast{Rule: "hub", Least: &wrong}}, nil)
		require.ErrorContains(t, err, "above 0")
	}
}

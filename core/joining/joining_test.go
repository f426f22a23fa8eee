package joining_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/joining"
	"mevrin/core/structure"
)

// Pairs come with their reasons, the likeliest first; what is linked or kept apart does not come.
func TestPairsComeWithReasons(t *testing.T) {
	var ops []edit.Operation
	for _, c := range [][2]string{{"bell", "the church bell"}, {"tower", "the tower"}, {"ringer", "the ringer"}, {"small", "a small bell"}, {"moon", "the moon"}} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c[0]), Label: c[1]})
	}
	link := func(a, b string) {
		ops = append(ops, &edit.AddLink{ID: cm.ID("l" + a + b), Phrase: "meets", From: []cm.End{{ID: "f", Concept: cm.ID(a)}}, To: []cm.End{{ID: "t", Concept: cm.ID(b)}}})
	}
	link("bell", "tower")
	link("tower", "ringer")
	ops = append(ops, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "moon"}, Note: "At night the ringer sees it through the louvres."},
		&edit.AddTag{ID: "far", Name: "far away"}, &edit.AssignTag{Concepts: []cm.ID{"moon", "small"}, Tag: "far", On: true})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	pairs := func(m *cm.Map) (all []string) {
		for _, p := range joining.Pairs(m, structure.Of(m), nil) {
			all = append(all, fmt.Sprint(p.A, " ", p.B, " ", p.Reasons))
		}
		return all
	}
	assert.ElementsMatch(t, []string{"ringer moon [{mention ringer}]", "bell small [{word bell}]", "bell ringer [{neighbour tower}]", "moon small [{tag far}]"}, pairs(out.Map))
	assert.Contains(t, pairs(out.Map)[0], "mention")
	ops = nil
	link("small", "bell")
	out, err = edit.Apply(out.Map, append(ops, &edit.KeepApart{A: "ringer", B: "bell", Apart: true}), nil)
	require.NoError(t, err)
	assert.NotContains(t, pairs(out.Map), "bell small [{word bell}]")
	for _, p := range pairs(out.Map) {
		assert.NotContains(t, p, "bell ringer")
	}
	out, err = edit.Apply(out.Map, []edit.Operation{&edit.KeepApart{A: "bell", B: "ringer"}}, nil)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(pairs(out.Map)), "bell ringer")
}

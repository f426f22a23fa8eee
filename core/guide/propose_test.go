package guide_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/core/structure"
)

// A map whose links say what comes before what is led through in that order; a circle is opened,
// and the link that closes it is named.
func TestProposedRoutes(t *testing.T) {
	ops := []edit.Operation{}
	for _, id := range []string{"bell", "blow", "tone", "ear", "rope", "wave"} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(id), Label: id})
	}
	ops = append(ops, &edit.SetFocus{Concept: "bell"})
	for i, l := range [][3]string{{"bell", "gives", "tone"}, {"bell", "hangs by", "rope"}, {"tone", "is caused by", "blow"}, {"tone", "causes", "wave"}, {"wave", "causes", "ear"}, {"blow", "requires", "rope"}, {"ear", "causes", "blow"}} {
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: l[1], From: []cm.End{{ID: "f", Concept: cm.ID(l[0])}}, To: []cm.End{{ID: "t", Concept: cm.ID(l[2])}}})
	}
	ops = append(ops, &edit.SetWhen{Concept: "rope", When: "1762"}, &edit.SetWhen{Concept: "bell", When: "1750/1751"})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	propose := func(chosen ...cm.ID) map[string]string {
		all := map[string]string{}
		for _, p := range guide.Propose(out.Map, structure.Of(out.Map), chosen) {
			all[p.ID] = fmt.Sprint(p.Stops, p.Closes)
			seen := map[cm.ID]bool{}
			for _, id := range p.Stops {
				require.NotNil(t, out.Map.Concepts[id])
				require.False(t, seen[id], "each once")
				seen[id] = true
			}
		}
		return all
	}
	all := propose()
	assert.Equal(t, "[bell rope] []", all["time"])
	require.Contains(t, all, "causes")
	causes := all["causes"]
	at := func(id string) int { return strings.Index(causes, id) }
	assert.Less(t, at("rope"), at("blow"), "what is needed comes first")
	assert.Less(t, at("tone"), at("wave"))
	assert.Less(t, at("wave"), at("ear"))
	assert.Contains(t, causes, "] [l", "a link closes the circle")
	assert.True(t, strings.HasPrefix(all["broad"], "[bell "))
	assert.NotContains(t, all, "argument")
	assert.NotContains(t, all, "around")
	assert.Equal(t, "[bell tone wave] []", propose("bell", "wave")["way"])
	assert.True(t, strings.HasPrefix(propose("tone")["around"], "[tone "))
	assert.Empty(t, guide.Propose(cm.NewMap("e", "en"), structure.Of(cm.NewMap("e", "en")), nil))
}

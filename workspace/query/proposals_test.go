package query_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/demo"
	"mevrin/draw/scene"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// Every route that a map suggests, for itself and for each of its concepts, can be made of it, and
// then shows what was promised; so can one of each kind, tag, filter and region in each order.
func TestEachProposedRouteIsMadeOnEachDemoMap(t *testing.T) {
	for _, d := range demo.Maps() {
		m, err := d.Build()
		require.NoError(t, err)
		s := structure.Of(m)
		r := query.Reading{State: &workspace.State{Map: m, Structure: s, Scene: scene.Build(m, s, scene.View{}, nil)}}
		made := 0
		check := func(p query.ProposalView) {
			made++
			ops, err := edit.ReadOperations([]byte(p.Steps))
			require.NoError(t, err)
			out, err := edit.Apply(m, ops, nil)
			require.NoError(t, err, "%s: %s", m.ID, p.Title)
			assert.Len(t, out.Map.WalkedStops(p.Route), p.Count)
			assert.NotEmpty(t, out.Map.Words(out.Map.Routes[p.Route].Title))
			shown := map[cm.ID]bool{}
			for _, step := range guide.Growth(out.Map, p.Route) {
				assert.Zero(t, step.Missing)
				for _, id := range step.Concepts {
					shown[id] = true
				}
			}
			assert.Len(t, shown, p.Count, "%s: %s: each concept once", m.ID, p.Title)
		}
		chosen := append([]cm.ID{""}, s.Order...)
		for i, id := range chosen {
			var of []cm.ID
			if id != "" {
				of = []cm.ID{id}
				if i > 1 && i%2 == 0 {
					of = []cm.ID{chosen[i-1], id} // the shortest way between two
				}
			}
			v := r.Proposals(of, "", "")
			for _, p := range v.Proposals {
				check(p)
			}
			if i > 0 {
				continue
			}
			for _, from := range v.From {
				for _, by := range v.Sortings {
					if w := r.Proposals(nil, from.Value, guide.Sorting(by.Value)); w.Made != nil {
						check(*w.Made)
					}
				}
			}
		}
		assert.Greater(t, made, 3, m.ID)
	}
}

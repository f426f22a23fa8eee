package scene_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// A slip is taken over from the scene before only where all that it shows is the same:
// votes, those of visitors apart, and what it hangs from, though the concept itself is
// as it was.
func TestASlipIsNotTakenOverWithWhatIsOld(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	yes := true
	m := cm.NewMap("m", "en")
	var sc *scene.Scene
	apply := func(speaker cm.ID, ops ...edit.Operation) {
		t.Helper()
		edit.Sign(ops, edit.Speaker{ID: speaker, At: "2026-11-27T08:00:00.000Z"})
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
		next := scene.Build(m, structure.Of(m), scene.View{}, sc)
		fresh := scene.Build(m, structure.Of(m), scene.View{}, nil)
		for id, slip := range fresh.Slips {
			assert.Equal(t, slip.Talk, next.Slips[id].Talk, id)
			assert.Equal(t, slip.Parent, next.Slips[id].Parent, id)
		}
		sc = next
	}
	apply("p1", &edit.AddConcept{ID: "a", Label: "a"}, &edit.AddConcept{ID: "b", Label: "b"}, &edit.AddConcept{ID: "c", Label: "c"}, &edit.SetFocus{Concept: "a"},
		&edit.AddLink{ID: "l", Phrase: "has", From: end("f", "a"), To: end("t", "b")}, &edit.AddLink{ID: "k", Phrase: "has", From: end("f", "a"), To: end("t", "c")})
	apply("p1", &edit.Vote{Concept: "b", For: &yes})
	apply("v1", &edit.Vote{Concept: "b", For: &yes})
	assert.Equal(t, scene.Discussion{For: 1, VisitorsFor: 1}, sc.Slips["b"].Talk)
	apply("p1", &edit.Vote{Concept: "b"})
	assert.Equal(t, scene.Discussion{VisitorsFor: 1}, sc.Slips["b"].Talk)
	apply("p1", &edit.AddComment{ID: "said", On: cm.Key{Kind: cm.EntityConcept, ID: "b"}, Words: "Why?"})
	assert.Equal(t, scene.Discussion{Comments: 1, VisitorsFor: 1}, sc.Slips["b"].Talk)
	apply("p1", &edit.AddConcept{ID: "d", Label: "d"}, &edit.MergeConcepts{Keep: "d", Gone: "a"})
	assert.Equal(t, cm.ID("d"), sc.Slips["b"].Parent)
	apply("p1", &edit.MoveEnd{Link: "l", Old: "f", End: cm.End{ID: "f2", Concept: "c"}})
}

package differences_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/differences"
)

func TestWhatDiffersIsSaid(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	apply := func(m *cm.Map, ops ...edit.Operation) *cm.Map {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		return out.Map
	}
	before := apply(cm.NewMap("m", "en"), &edit.AddConcept{ID: "a", Label: "bell"}, &edit.AddConcept{ID: "b", Label: "tower"}, &edit.AddConcept{ID: "c", Label: "tin", At: cm.Point{X: 900}},
		&edit.AddLink{ID: "l", Phrase: "hums in", From: end("f", "a"), To: end("t", "b")})
	after := apply(before, &edit.NameConcept{Concept: "a", Label: "great bell"}, &edit.Remove{Concepts: []cm.ID{"c"}}, &edit.AddConcept{ID: "d", Label: "rope", At: cm.Point{X: 900}},
		&edit.AddLink{ID: "k", Phrase: "swings", From: end("g", "d"), To: end("h", "a")}, &edit.AddRoute{ID: "r", Title: "the way"})
	d := differences.Between(before, after)
	assert.Equal(t, differences.Differences{
		Added:    []differences.Said{{From: "rope", Phrase: "swings", To: "great bell"}},
		Gone:     []differences.Said{{From: "tin"}},
		Reworded: [][2]string{{"bell", "great bell"}},
		Other:    []string{"routes"},
		Fresh:    []cm.Key{{Kind: cm.EntityLink, ID: "k"}, {Kind: cm.EntityConcept, ID: "d"}},
		Altered:  []cm.Key{{Kind: cm.EntityConcept, ID: "a"}}, Lost: []cm.Key{{Kind: cm.EntityConcept, ID: "c"}},
	}, d)
}

// Nothing differs between a map and itself, and what was added one way is gone the other.
func TestDifferencesHaveTwoWays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		before := maptest.Map(t, 15)
		after := before
		me := &maptest.Author{Name: "b"}
		for range rapid.IntRange(0, 8).Draw(t, "operations") {
			if out, err := edit.Apply(after, []edit.Operation{me.Operation(t, after)}, nil); err == nil {
				after = out.Map
			}
		}
		there, back := differences.Between(before, after), differences.Between(after, before)
		assert.Equal(t, there.Added, back.Gone)
		assert.Equal(t, there.Gone, back.Added)
		assert.Equal(t, there.Moved, back.Moved)
		assert.Equal(t, there.Other, back.Other)
		assert.ElementsMatch(t, there.Altered, back.Altered)
		for _, key := range there.Lost {
			assert.Contains(t, back.Fresh, key, "what is lost one way is new the other")
		}
		assert.False(t, differences.Between(after, after).Any())
	})
}

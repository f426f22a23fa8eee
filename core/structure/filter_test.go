package structure_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
)

// A small map, its answers worked out by hand: bell (level 1) has rim and clapper
// (level 2), rim has bronze (level 3); rope is joined to nothing.
func TestFiltersAndDurations(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	m := cm.NewMap("m", "en")
	out, err := edit.Apply(m, []edit.Operation{
		&edit.AddConcept{ID: "bell", Label: "Bell"}, &edit.AddConcept{ID: "rim", Label: "rim"}, &edit.AddConcept{ID: "clapper", Label: "clapper"},
		&edit.AddConcept{ID: "bronze", Label: "bronze"}, &edit.AddConcept{ID: "rope", Label: "rope"}, &edit.SetFocus{Concept: "bell"},
		&edit.AddLink{ID: "a", Phrase: "has", From: end("f", "bell"), To: end("t", "rim")}, &edit.AddLink{ID: "b", Phrase: "has", From: end("f", "bell"), To: end("t", "clapper")},
		&edit.AddLink{ID: "c", Phrase: "is of", From: end("f", "rim"), To: end("t", "bronze")},
		&edit.AddKind{ID: "part", Name: "part"}, &edit.AssignKind{Concepts: []cm.ID{"rim", "clapper"}, Kind: "part"},
		&edit.AddTag{ID: "old", Name: "old"}, &edit.AssignTag{Concepts: []cm.ID{"clapper", "bronze"}, Tag: "old", On: true},
		&edit.AddRegion{ID: "low", Title: "low", Branches: []cm.ID{"rim"}},
		&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "bronze"}, Note: "of COPPER and tin"},
		&edit.SetDuration{Concept: "rim", Lasts: "40 min"}, &edit.SetDuration{Concept: "bronze", Lasts: "1.5 h"}, &edit.SetDuration{Concept: "rope", Lasts: "2 days"},
	}, nil)
	require.NoError(t, err)
	s := structure.Of(out.Map)
	for _, c := range []struct {
		name  string
		match cm.Match
		conds []cm.Condition
		want  []cm.ID
	}{
		{"kind", cm.MatchAll, []cm.Condition{{About: cm.AboutKind, Value: "part"}}, []cm.ID{"clapper", "rim"}},
		{"no kind", cm.MatchAll, []cm.Condition{{About: cm.AboutKind}}, []cm.ID{"bell", "bronze", "rope"}},
		{"tag", cm.MatchAll, []cm.Condition{{About: cm.AboutTag, Value: "old"}}, []cm.ID{"bronze", "clapper"}},
		{"no tag", cm.MatchAll, []cm.Condition{{About: cm.AboutTag}}, []cm.ID{"bell", "rim", "rope"}},
		{"both", cm.MatchAll, []cm.Condition{{About: cm.AboutKind, Value: "part"}, {About: cm.AboutTag, Value: "old"}}, []cm.ID{"clapper"}},
		{"either", cm.MatchAny, []cm.Condition{{About: cm.AboutKind, Value: "part"}, {About: cm.AboutTag, Value: "old"}}, []cm.ID{"bronze", "clapper", "rim"}},
		{"but not", cm.MatchAll, []cm.Condition{{About: cm.AboutKind, Value: "part"}, {About: cm.AboutTag, Value: "old", Not: true}}, []cm.ID{"rim"}},
		{"region", cm.MatchAll, []cm.Condition{{About: cm.AboutRegion, Value: "low"}}, []cm.ID{"bronze", "rim"}},
		{"no region", cm.MatchAll, []cm.Condition{{About: cm.AboutRegion}}, []cm.ID{"bell", "clapper", "rope"}},
		{"branch", cm.MatchAll, []cm.Condition{{About: cm.AboutBranch, Value: "rim"}}, []cm.ID{"bronze", "rim"}},
		{"level", cm.MatchAny, []cm.Condition{{About: cm.AboutLevel, Value: "2"}, {About: cm.AboutLevel, Value: "3"}}, []cm.ID{"bronze", "clapper", "rim"}},
		{"words", cm.MatchAll, []cm.Condition{{About: cm.AboutWords, Value: "copper"}}, []cm.ID{"bronze"}},
		{"has", cm.MatchAny, []cm.Condition{{About: cm.AboutHas, Value: "note"}, {About: cm.AboutHas, Value: "time"}}, []cm.ID{"bronze", "rim", "rope"}},
		{"nothing asked", cm.MatchAll, nil, []cm.ID{"bell", "bronze", "clapper", "rim", "rope"}},
		{"what is gone", cm.MatchAll, []cm.Condition{{About: cm.AboutTag, Value: "gone"}}, nil},
	} {
		found := s.Matches(&cm.Filter{Match: c.match, Conditions: c.conds})
		assert.Equal(t, c.want, cm.SortedIDs(found), c.name)
	}
	sum, parts := s.Lasts("bell")
	assert.Equal(t, "2 h 10 min", sum.Words())
	assert.Equal(t, []cm.ID{"rim", "bronze"}, parts)
}

package guide_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
)

func TestGrowthRevealsLinksOnceBothEndsStand(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	ref := func(kind cm.Kind, id cm.ID) []cm.Key { return []cm.Key{{Kind: kind, ID: id}} }
	out, err := cm.Apply(cm.NewMap("m", "en"), []cm.Operation{
		&cm.AddConcept{ID: "a"}, &cm.AddConcept{ID: "b"}, &cm.AddConcept{ID: "c"}, &cm.AddConcept{ID: "d"},
		&cm.AddLink{ID: "ab", From: end("f", "a"), To: end("t", "b")},
		&cm.AddLink{ID: "bc", From: end("f", "b"), To: end("t", "c")},
		&cm.AddRoute{ID: "r"},
		&cm.AddStop{ID: "s1", Route: "r", Refs: ref(cm.KindConcept, "a")},
		&cm.AddStop{ID: "s2", Route: "r", After: "s1", Refs: ref(cm.KindLink, "bc")},
		&cm.AddStop{ID: "s3", Route: "r", After: "s2", Refs: ref(cm.KindConcept, "d")},
		&cm.Remove{Concepts: []cm.ID{"d"}},
	}, nil)
	require.NoError(t, err)
	require.Equal(t, []guide.Step{
		{Stop: "s1", Concepts: []cm.ID{"a"}},
		{Stop: "s2", Concepts: []cm.ID{"b", "c"}, Links: []cm.ID{"ab", "bc"}},
		{Stop: "s3", Missing: 1},
	}, guide.Growth(out.Map, "r"))
	require.Empty(t, guide.Growth(out.Map, "gone"))
}

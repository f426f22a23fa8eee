package guide_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
)

func TestGrowthRevealsLinksOnceBothEndsStand(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	ref := func(kind cm.Entity, id cm.ID) []cm.Key { return []cm.Key{{Kind: kind, ID: id}} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "the\nbell"}, &edit.AddConcept{ID: "b"}, &edit.AddConcept{ID: "c"}, &edit.AddConcept{ID: "d", Label: "was tin"},
		&edit.AddLink{ID: "ab", From: end("f", "a"), To: end("t", "b")},
		&edit.AddLink{ID: "bc", Phrase: "hums", From: end("f", "b"), To: end("t", "c")},
		&edit.AddRoute{ID: "r"},
		&edit.AddStop{ID: "s1", Route: "r", Refs: ref(cm.EntityConcept, "a")},
		&edit.AddStop{ID: "s2", Route: "r", After: "s1", Refs: ref(cm.EntityLink, "bc")},
		&edit.AddStop{ID: "s3", Route: "r", After: "s2", Refs: ref(cm.EntityConcept, "d")},
		&edit.AddStop{ID: "s4", Route: "r", After: "s3", Refs: ref(cm.EntityConcept, "a")},
		&edit.WriteStop{Stop: "s4", Part: "title", Words: "Again"}, &edit.Remove{Concepts: []cm.ID{"d"}},
		&edit.AddConcept{ID: "unseen"}, &edit.SetFocus{Concept: "unseen"}, &edit.Ask{Question: "How?"},
		&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "a"}, Note: "for the author"},
		&edit.WriteStop{Stop: "s1", Part: "guideNotes", Words: "for the guide"},
	}, nil)
	require.NoError(t, err)
	steps := guide.Growth(out.Map, "r")
	require.Equal(t, []guide.Step{
		{Stop: "s1", Shows: ref(cm.EntityConcept, "a"), Concepts: []cm.ID{"a"}},
		{Stop: "s2", Shows: ref(cm.EntityLink, "bc"), Concepts: []cm.ID{"b", "c"}, Links: []cm.ID{"ab", "bc"}},
		{Stop: "s3", Missing: 1},
		{Stop: "s4", Shows: ref(cm.EntityConcept, "a")},
	}, steps)
	require.Empty(t, guide.Growth(out.Map, "gone"))

	name := func(stop cm.ID) string { return guide.Name(out.Map, out.Map.Stops[stop]) }
	require.Equal(t, []string{"the bell", "hums", "was tin", "Again"}, []string{name("s1"), name("s2"), name("s3"), name("s4")})

	part := guide.Part(out.Map, steps)
	require.Equal(t, []cm.ID{"a", "b", "c"}, cm.SortedIDs(part.Concepts))
	require.Equal(t, []cm.ID{"ab", "bc"}, cm.SortedIDs(part.Links))
	require.Equal(t, "How?", part.Words(part.Question))
	require.Empty(t, part.Focus, "a focus concept that the walk does not show stays unknown")
	raw, err := document.Write(part)
	require.NoError(t, err)
	require.NotContains(t, string(raw), "for the")
	require.NotContains(t, string(raw), "unseen")
}

// A walk shows what its stops speak of, and nothing of what is the author's own: notes,
// tasks, votes and comments stay away.
func TestAPartOfAMapHoldsNothingPrivate(t *testing.T) {
	on := cm.Key{Kind: cm.EntityConcept, ID: "a"}
	what, who := "ring Ada first", "Ada Hollin"
	ops := []edit.Operation{&edit.AddConcept{ID: "a", Label: "the bell"}, &edit.SetNote{On: on, Note: "private note"}, &edit.SetTask{Concept: "a", What: &what, Who: &who},
		&edit.Vote{Concept: "a", For: new(bool)}, &edit.AddComment{ID: "k", On: on, Name: "Ada", Words: "private words"},
		&edit.AddRoute{ID: "r"}, &edit.AddStop{ID: "s", Route: "r", Refs: []cm.Key{on}}, &edit.WriteStop{Stop: "s", Part: "guideNotes", Words: "private guide"}}
	edit.Sign(ops, edit.Speaker{ID: "p1", At: "2026-11-27T08:00:00.000Z"})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	raw, err := document.Write(guide.Part(out.Map, guide.Growth(out.Map, "r")))
	require.NoError(t, err)
	require.Contains(t, string(raw), "the bell")
	for _, own := range []string{"private", "Ada", "task", "votes"} {
		require.NotContains(t, string(raw), own)
	}
}

package store_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/phrases"
)

func TestAnAuthorsPhraseBank(t *testing.T) {
	ctx, s := context.Background(), open(t, t.TempDir())
	set := func(author, words string, removed bool) {
		require.NoError(t, s.All().SetPhrase(ctx, author, phrases.Own{Group: "part", Words: words, Removed: removed}))
	}
	own := func(author string) []phrases.Own {
		all, err := s.All().OwnPhrases(ctx, author)
		require.NoError(t, err)
		return all
	}
	set("ada", "is cast into", false)
	set("ada", "Has", true)
	set("ada", "HAS", false)
	set("ben", "rings", false)
	assert.ElementsMatch(t, []phrases.Own{{Group: "part", Words: "is cast into"}, {Group: "part", Words: "HAS"}}, own("ada"))
	require.NoError(t, s.All().ResetPhrases(ctx, "ada", "part"))
	assert.Empty(t, own("ada"))
	assert.Len(t, own("ben"), 1)
}

func TestPhrasesOfOtherMapsTheMostUsedFirst(t *testing.T) {
	ctx, s := context.Background(), open(t, t.TempDir())
	for id, said := range map[cm.ID][]string{"here": {"is here"}, "a": {"hums", "rings", ""}, "b": {"rings"}, "binned": {"is gone"}} {
		ops := []edit.Operation{&edit.AddConcept{ID: "x"}, &edit.AddConcept{ID: "y"}}
		for i, phrase := range said {
			ops = append(ops, &edit.AddLink{ID: cm.ID("l" + string(rune('a'+i))), Phrase: phrase, From: []cm.End{{ID: "e", Concept: "x"}}, To: []cm.End{{ID: "f", Concept: "y"}}})
		}
		out, err := edit.Apply(cm.NewMap(id, "en"), ops, nil)
		require.NoError(t, err)
		require.NoError(t, s.All().Put(ctx, out.Map, "ada", nil))
	}
	require.NoError(t, s.All().Discard(ctx, "binned"))
	all, err := s.All().PhrasesElsewhere(ctx, "here")
	require.NoError(t, err)
	assert.Equal(t, []string{"rings", "hums"}, all)
}

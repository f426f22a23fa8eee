package phrases_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
	"mevrin/core/phrases"
)

func TestTheBankIsWhole(t *testing.T) {
	require.Len(t, phrases.Shipped, 10)
	for _, g := range phrases.Shipped {
		assert.True(t, cm.ID(g.ID).Valid() && g.Title != "" && g.Why != "", g.ID)
		for lang, all := range g.Words {
			assert.True(t, lang.Valid())
			seen := map[string]bool{}
			for _, p := range all {
				clean, err := phrases.CheckOwn(phrases.Own{Group: g.ID, Words: p})
				require.NoError(t, err)
				assert.Equal(t, p, clean.Words)
				assert.False(t, seen[likeness.Fold(p)], p)
				seen[likeness.Fold(p)] = true
			}
		}
		assert.GreaterOrEqual(t, len(g.Words["en"]), 4, g.ID)
	}
}

func TestAnAuthorsOwnPhrases(t *testing.T) {
	own := []phrases.Own{{Group: "part", Words: "is cast into"}, {Group: "part", Words: "HAS", Removed: true}, {Group: "part", Words: "contains"}, {Group: "gone", Words: "x"}}
	part := phrases.For("en-GB", own)[0]
	assert.Equal(t, []string{"is part of", "consists of", "contains", "is made of", "belongs to", "is cast into"}, part.Phrases)
	assert.True(t, part.Changed)
	assert.Contains(t, phrases.For("de", nil)[0].Phrases, "besteht aus")
	assert.Contains(t, phrases.For("fi", nil)[0].Phrases, "consists of")
	assert.Contains(t, phrases.For("en", nil)[0].Phrases, "contains", "what is shipped stays as it is")
	_, err := phrases.CheckOwn(phrases.Own{Group: "gone", Words: "x"})
	require.ErrorContains(t, err, "no such group")
	_, err = phrases.CheckOwn(phrases.Own{Group: "part", Words: " \n"})
	require.ErrorContains(t, err, "at least one word")
}

// Every question asks about the concept, and its answer is a phrase of its group.
func TestQuestionsLeadToPhrasesOfTheirGroup(t *testing.T) {
	for _, g := range phrases.Shipped {
		for lang, ask := range g.Asks {
			assert.Contains(t, ask.Question, "…", g.ID)
			assert.Contains(t, g.Words[lang], ask.Phrase, g.ID)
		}
		assert.Len(t, g.Asks, len(g.Words), g.ID)
	}
	assert.Equal(t, phrases.Ask{Question: "Woraus besteht die Glocke?", Phrase: "besteht aus"}, phrases.Questions("de-AT", "die Glocke")[0])
	assert.Equal(t, "What is bells … made of?", phrases.Questions("fr", "bells …")[0].Question, "only the place for the words is filled")
}

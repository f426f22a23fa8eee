package ideas_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/standin/ideas"
)

func TestIdeasAreFoundByWhatAConceptIsCalled(t *testing.T) {
	var h ideas.Helper = ideas.Local{}
	assert.Contains(t, h.Offer("A Sound Wave", "en"), ideas.Idea{Phrase: "carries", Noun: "energy"})
	assert.Contains(t, h.Offer("the bells", "en-GB"), ideas.Idea{Phrase: "has", Noun: "clapper"})
	assert.Contains(t, h.Offer("die Welle", "de"), ideas.Idea{Phrase: "trägt", Noun: "Energie"})
	assert.Empty(t, h.Offer("a barbell", "en"), "a part of a word is no word")
	assert.Empty(t, h.Offer("", "en"))
}

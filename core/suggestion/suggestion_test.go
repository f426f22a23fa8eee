package suggestion_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/differences"
	"mevrin/core/suggestion"
)

func TestAWishIsSeenBeforeItIsTaken(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "a", Label: "bell"}, &edit.AddConcept{ID: "b", Label: "tower"},
		&edit.AddLink{ID: "l", Phrase: "hangs in", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}}}, nil)
	require.NoError(t, err)
	m, n := out.Map, 0
	id := func(sort string) cm.ID { n++; return cm.ID(fmt.Sprint(sort, "new", n)) }
	see := func(w suggestion.Wish) (suggestion.Seen, error) {
		ops, err := w.Operations(m, id)
		if err != nil {
			return suggestion.Seen{}, err
		}
		out, err := edit.Apply(m, ops, nil)
		return suggestion.See(m, out.Map, err), nil
	}
	seen, err := see(suggestion.Wish{What: suggestion.WhatSay, From: "Bell", Phrase: "is pulled by", To: "rope"})
	require.NoError(t, err)
	assert.True(t, seen.Fits)
	assert.Equal(t, []differences.Said{{From: "bell", Phrase: "is pulled by", To: "rope"}}, seen.Differs.Added, "the bell that is there is meant")
	assert.Len(t, seen.After.Concepts, 3)
	seen, err = see(suggestion.Wish{What: suggestion.WhatReword, Thing: cm.Key{Kind: cm.EntityLink, ID: "l"}, Words: "swings in"})
	require.NoError(t, err)
	assert.Equal(t, [][2]string{{"hangs in", "swings in"}}, seen.Differs.Reworded)
	seen, err = see(suggestion.Wish{What: suggestion.WhatReword, Thing: cm.Key{Kind: cm.EntityConcept, ID: "a"}, Words: "bell"})
	require.NoError(t, err)
	assert.False(t, seen.Fits, "nothing would differ")
	seen, err = see(suggestion.Wish{What: suggestion.WhatRemove, Thing: cm.Key{Kind: cm.EntityConcept, ID: "b"}})
	require.NoError(t, err)
	assert.Equal(t, []differences.Said{{From: "bell", Phrase: "hangs in", To: "tower"}}, seen.Differs.Gone[:1])
	for _, w := range []suggestion.Wish{{}, {What: "all"}, {What: suggestion.WhatSay, From: "bell", To: " "}, {What: suggestion.WhatReword, Thing: cm.Key{Kind: cm.EntityConcept, ID: "x"}, Words: "y"},
		{What: suggestion.WhatReword, Thing: cm.Key{Kind: cm.EntityConcept, ID: "a"}}, {What: suggestion.WhatRemove, Thing: cm.Key{Kind: cm.EntityRoute, ID: "a"}}, {What: suggestion.WhatRemove}} {
		_, err := see(w)
		assert.Error(t, err, "%+v", w)
	}
}

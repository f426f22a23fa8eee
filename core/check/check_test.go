package check_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

func TestFindings(t *testing.T) {
	find := func(ops ...cm.Operation) map[string][]cm.Key {
		out, err := cm.Apply(cm.NewMap("m", "en"), ops, nil)
		require.NoError(t, err)
		all := map[string][]cm.Key{}
		for _, f := range check.Find(out.Map, structure.Of(out.Map)) {
			require.NotEmpty(t, f.Rule.Why)
			all[f.Rule.ID] = f.Where
		}
		return all
	}
	link := &cm.AddLink{ID: "l", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}}
	require.Equal(t, map[string][]cm.Key{"no-question": {}}, find(&cm.AddConcept{ID: "a"}))
	require.Equal(t, map[string][]cm.Key{
		"open-link":  {{Kind: cm.KindLink, ID: "l"}},
		"loose-idea": {{Kind: cm.KindConcept, ID: "c"}},
	}, find(&cm.Ask{Question: "How?"}, &cm.AddConcept{ID: "a"}, &cm.AddConcept{ID: "b"}, &cm.AddConcept{ID: "c"}, link))
	require.Empty(t, find(&cm.Ask{Question: "How?"}, &cm.AddConcept{ID: "a"}, &cm.AddConcept{ID: "b"}, link, &cm.NameLink{Link: "l", Phrase: "strikes"}))
}

package starters_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/starters"
	"mevrin/core/structure"
)

func ids() starters.IDs {
	n := 0
	return func(sort string) cm.ID { n++; return cm.ID(fmt.Sprint(sort, n)) }
}

// Every map to begin with is one that a teacher would be content with: all hangs together below its focus concept,
// each sentence reads, and each kind is of its key.
func TestEveryStarterIsAWholeMap(t *testing.T) {
	for _, s := range starters.Shipped {
		ops, err := starters.Operations(s.ID, "", ids())
		require.NoError(t, err, s.ID)
		out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
		require.NoError(t, err, s.ID)
		m := out.Map
		assert.Len(t, m.Concepts, len(s.Concepts), s.ID)
		assert.Equal(t, s.Question, m.Words(m.Question))
		assert.Equal(t, s.Concepts[0], m.Words(m.Concepts[m.Focus].Label))
		of, kinds := structure.Of(m), 0
		assert.Len(t, of.Propositions(), len(s.Sentences), s.ID)
		for id, c := range m.Concepts {
			assert.False(t, of.Places[id].Loose, "%s: %s", s.ID, m.Words(c.Label))
			assert.Positive(t, of.Places[id].Level, "%s: %s", s.ID, m.Words(c.Label))
			if c.Kind != "" {
				kinds++
				assert.NotNil(t, m.Kinds[c.Kind], s.ID)
			}
		}
		assert.Equal(t, len(s.Parts), kinds, s.ID)
		for _, p := range of.Propositions() {
			assert.NotEmpty(t, m.Words(m.Links[p.Strand.Link].Phrase))
		}
	}
	_, err := starters.Operations("none", "", ids())
	assert.Error(t, err)
	ops, err := starters.Operations("how", "How does a bell work?", ids())
	require.NoError(t, err)
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	assert.Equal(t, "How does a bell work?", out.Map.Words(out.Map.Question))
}

func TestAnswersMakeAMap(t *testing.T) {
	ops, err := starters.Answered([]string{" the bell \n", "an instrument", "a clapper\na rim\n\na clapper\nthe bell", "", "a sound"}, ids())
	require.NoError(t, err)
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	m := out.Map
	var said []string
	for _, p := range structure.Of(m).Propositions() {
		from, to := p.Subject, p.Object
		said = append(said, m.Words(m.Concepts[from].Label)+" "+m.Words(m.Links[p.Strand.Link].Phrase)+" "+m.Words(m.Concepts[to].Label))
	}
	assert.ElementsMatch(t, []string{"the bell is a kind of an instrument", "the bell has a clapper", "the bell has a rim", "the bell brings about a sound"}, said)
	for _, none := range [][]string{nil, {"", "a kind"}, {" \n "}} {
		_, err := starters.Answered(none, ids())
		assert.Error(t, err)
	}
	var many string
	for i := range starters.MaxAnswers + 1 {
		many += fmt.Sprintln("part", i)
	}
	_, err = starters.Answered([]string{"bell", "", many}, ids())
	assert.Error(t, err)
}

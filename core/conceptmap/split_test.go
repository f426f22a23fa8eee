package conceptmap_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
)

func TestAnEndWithALinkOfItsOwnSaysTheSame(t *testing.T) {
	out, err := cm.Apply(tower(t), []cm.Operation{
		&cm.NameLink{Link: "b-has", Lang: "de", Phrase: "hat"}, &cm.SetNote{On: cm.Key{Kind: cm.KindLink, ID: "b-has"}, Note: "parts"},
		&cm.SplitEnd{Link: "b-has", End: "t2", New: "own"},
	}, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	m := out.Map
	assert.Equal(t, "bell has rim", m.Says(m.Links["b-has"]))
	assert.Equal(t, "bell has crown", m.Says(m.Links["own"]))
	assert.Equal(t, []string{"hat", "parts"}, []string{m.Links["own"].Phrase["de"], m.Links["own"].Note["en"]})
	before := tower(t).Concepts["crown"].Main
	assert.Equal(t, &cm.Main{Strand: cm.Strand{Link: "own", From: before.From, To: "t2"}, Rank: before.Rank}, m.Concepts["crown"].Main, "its place among its siblings stays")
	assert.Equal(t, tower(t).Concepts["rim"].Main, m.Concepts["rim"].Main)
	assert.Equal(t, []cm.Moved{{Kind: cm.KindLink, OldLink: "b-has", Old: "t2", NewLink: "own", New: "t2"}}, out.Moved)
	for end, words := range map[cm.ID]string{"t1": "only one on its side", "gone": "gone already"} {
		_, err := cm.Apply(m, []cm.Operation{&cm.SplitEnd{Link: "b-has", End: end, New: "x"}}, nil)
		assert.ErrorContains(t, err, words)
	}
}

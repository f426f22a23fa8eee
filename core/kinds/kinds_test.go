package kinds_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
)

// Every set makes a sound key, in which no two kinds look alike: each has a
// colour and an outline that no other of its set has.
func TestTheSetsAreSound(t *testing.T) {
	require.NotEmpty(t, kinds.Shipped)
	for _, set := range kinds.Shipped {
		require.NotEmpty(t, set.Why, set.ID)
		for _, lang := range []cm.Lang{"en", "de"} {
			m := cm.NewMap("m", lang)
			colours, outlines := map[cm.Colour]bool{}, map[cm.Outline]bool{}
			for i, k := range set.Kinds {
				out, err := cm.Apply(m, []cm.Operation{&cm.AddKind{ID: cm.ID("k" + string(rune('a'+i))), Name: k.Name(lang), Colour: k.Colour, Outline: k.Outline}}, nil)
				require.NoError(t, err, set.ID)
				m = out.Map
				assert.NotEmpty(t, k.Colour)
				assert.False(t, colours[k.Colour] || outlines[k.Outline], "%s: %s looks like another", set.ID, k.Name("en"))
				colours[k.Colour], outlines[k.Outline] = true, true
			}
			assert.Len(t, m.Key(), len(set.Kinds))
		}
	}
}

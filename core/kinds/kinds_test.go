package kinds_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/draw/icon"
)

// Every set makes a sound key, in which no two kinds look alike: each has a
// colour and an outline that no other of its set has.
func TestTheSetsAreSound(t *testing.T) {
	require.NotEmpty(t, kinds.Shipped)
	for _, set := range kinds.Shipped {
		require.NotEmpty(t, set.Why, set.ID)
		for _, lang := range []cm.Lang{"en", "de"} {
			n := 0
			ops := set.Operations(lang, func() cm.ID { n++; return cm.ID("k" + string(rune('a'+n))) })
			out, err := edit.Apply(cm.NewMap("m", lang), ops, nil)
			require.NoError(t, err, set.ID)
			assert.Len(t, out.Map.Key(), len(set.Kinds)+len(set.Links), "%s: no two have one name", set.ID)
			colours, outlines := map[cm.Colour]bool{}, map[cm.Outline]bool{}
			for _, k := range set.Kinds {
				assert.NotEmpty(t, k.Colour)
				assert.False(t, colours[k.Colour] || outlines[k.Outline], "%s: %s looks like another", set.ID, k.Name("en"))
				colours[k.Colour], outlines[k.Outline] = true, true
				_, there := icon.Named(k.Icon)
				assert.True(t, there || k.Icon == "", "%s: no icon %s", set.ID, k.Icon)
			}
			looks := map[string]bool{}
			for _, k := range set.Links {
				look := string(k.Colour) + " " + string(k.Stroke)
				assert.False(t, looks[look], "%s: %s looks like another", set.ID, k.Name("en"))
				looks[look] = true
			}
			again, err := edit.Apply(out.Map, set.Operations(lang, func() cm.ID { n++; return cm.ID("k" + string(rune('a'+n))) }), nil)
			require.NoError(t, err)
			assert.Len(t, again.Map.Kinds, len(out.Map.Kinds), "a set begun twice is there once")
		}
	}
}

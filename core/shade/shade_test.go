package shade_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/core/shade"
)

func TestContrast(t *testing.T) {
	assert.InDelta(t, 21, shade.Contrast("#000000", "#ffffff"), 1e-9)
	assert.InDelta(t, 4.48, shade.Contrast("#777777", "#ffffff"), 0.005) // the grey that just fails on white
	assert.InDelta(t, 0.2126, shade.Luminance("#ff0000"), 1e-9)
	assert.Equal(t, []string{"#ff0000", "#800080", "#0000ff"}, []string{shade.Mix("#ff0000", "#0000ff", 0), shade.Mix("#ff0000", "#0000ff", 0.5), shade.Mix("#ff0000", "#0000ff", 1)})
	for c, valid := range map[string]bool{"#1d2f52": true, "#1D2F52": false, "#123": false, "red": false, "#12345g": false, "": false, "#1234567": false} {
		assert.Equal(t, valid, shade.Valid(c), c)
	}
}

// Any colour can be made readable on one ground; what can be read is left alone,
// and what is moved is moved no further than it must be.
func TestReadable(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) string { return fmt.Sprintf("#%06x", rapid.IntRange(0, 0xffffff).Draw(t, name)) }
		c, ground, other := draw("colour"), draw("ground"), draw("other")
		one, ok := shade.Readable(c, 4.5, ground)
		require.True(t, ok, "black or white can be read on anything")
		require.GreaterOrEqual(t, shade.Contrast(one, ground), 4.5)
		if shade.Contrast(c, ground) >= 4.5 {
			require.Equal(t, c, one)
		} else {
			require.Less(t, shade.Contrast(one, ground), 5.3, "%s was moved too far from %s, on %s", one, c, ground)
		}
		both, ok := shade.Readable(c, 4.5, ground, other)
		black := min(shade.Contrast("#000000", ground), shade.Contrast("#000000", other))
		white := min(shade.Contrast("#ffffff", ground), shade.Contrast("#ffffff", other))
		require.Equal(t, ok, max(black, white) >= 4.5 || min(shade.Contrast(c, ground), shade.Contrast(c, other)) >= 4.5)
		if ok {
			require.GreaterOrEqual(t, min(shade.Contrast(both, ground), shade.Contrast(both, other)), 4.5)
		} else {
			require.Equal(t, c, both)
		}
	})
}

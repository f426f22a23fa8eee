package svg_test

import (
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/svg"
)

// contrast is the contrast ratio of two colours (WCAG 2.2, relative luminance).
func contrast(t *testing.T, a, b string) float64 {
	light := func(c string) float64 {
		sum := 0.0
		for i, weight := range []float64{0.2126, 0.7152, 0.0722} {
			n, err := strconv.ParseUint(c[1+2*i:3+2*i], 16, 8)
			require.NoError(t, err)
			v := float64(n) / 255
			if v <= 0.04045 {
				v /= 12.92
			} else {
				v = math.Pow((v+0.055)/1.055, 2.4)
			}
			sum += weight * v
		}
		return sum
	}
	x, y := light(a), light(b)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05)
}

// In every dress words can be read on whatever they may stand on, in ink and in
// every colour that they may have; lines can be told from the paper.
func TestEveryDressCanBeRead(t *testing.T) {
	assert.InDelta(t, 21, contrast(t, "#000000", "#ffffff"), 1e-9)
	for _, d := range cm.Dresses {
		grounds := []string{"paper", "slip"}
		for _, c := range cm.Colours {
			grounds = append(grounds, string(c)+"-wash")
		}
		for _, ground := range grounds {
			on := svg.Colour(d, ground)
			assert.GreaterOrEqual(t, contrast(t, svg.Colour(d, "ink"), on), 4.5, "%s: ink on %s", d, ground)
			for _, c := range cm.Colours {
				assert.GreaterOrEqual(t, contrast(t, svg.Colour(d, string(c)+"-deep"), on), 4.5, "%s: %s words on %s", d, c, ground)
			}
		}
		for _, name := range []string{"ink-soft", "madder", "moss"} {
			assert.GreaterOrEqual(t, contrast(t, svg.Colour(d, name), svg.Colour(d, "paper")), 4.5, "%s: %s on paper", d, name)
		}
		for i, a := range cm.Colours {
			for _, b := range cm.Colours[:i] {
				assert.NotEqual(t, svg.Colour(d, string(a)), svg.Colour(d, string(b)))
			}
		}
	}
}

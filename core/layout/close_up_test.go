package layout_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"mevrin/core/geometry"
	"mevrin/core/layout"
)

// Closing up keeps sizes and orders, lets nothing meet that did not, and leaves no row or column
// empty for longer than the gap.
func TestClosingUpKeepsOrder(t *testing.T) {
	const gap = 40
	rapid.Check(t, func(t *rapid.T) {
		number := rapid.Float64Range(-5000, 5000)
		boxes := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) geometry.Box {
			return geometry.Box{X: number.Draw(t, "x"), Y: number.Draw(t, "y"), W: rapid.Float64Range(1, 400).Draw(t, "w"), H: rapid.Float64Range(1, 200).Draw(t, "h")}
		}), 1, 12).Draw(t, "boxes")
		c := layout.CloseUp(boxes, gap)
		after := make([]geometry.Box, len(boxes))
		for i, b := range boxes {
			at, end := c.At(geometry.Point{X: b.X, Y: b.Y}), c.At(geometry.Point{X: b.X + b.W, Y: b.Y + b.H})
			assert.InDelta(t, b.W, end.X-at.X, 1e-6)
			assert.InDelta(t, b.H, end.Y-at.Y, 1e-6)
			after[i] = geometry.Box{X: at.X, Y: at.Y, W: b.W, H: b.H}
		}
		for i, a := range boxes {
			nearest := 1e9
			for j, b := range boxes {
				assert.LessOrEqual(t, (after[j].X-after[i].X)*sign(b.X-a.X)-1e-6, (b.X-a.X)*sign(b.X-a.X), "nothing moves apart")
				if a.X+a.W < b.X {
					assert.LessOrEqual(t, min(gap, b.X-a.X-a.W)-1e-6, after[j].X-after[i].X-a.W, "what lay apart lies apart")
				}
				if b.X+b.W > a.X+a.W {
					nearest = min(nearest, max(0, after[j].X-after[i].X-a.W))
				}
			}
			if nearest < 1e9 {
				assert.LessOrEqual(t, nearest, gap+1e-6)
			}
		}
	})
}

func sign(of float64) float64 {
	if of < 0 {
		return -1
	}
	return 1
}

package layout_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/core/geometry"
	"mevrin/core/layout"
)

// However crowded the paper, what is added beside a concept covers no slip, and stands on
// the side that was asked for.
func TestNearKeepsClearAndToItsSide(t *testing.T) {
	size := layout.Size{W: 120, H: 37}
	slipAt := func(p geometry.Point) geometry.Rect {
		return geometry.Rect{X0: p.X - size.W/2, Y0: p.Y, X1: p.X + size.W/2, Y1: p.Y + size.H}
	}
	from := slipAt(geometry.Point{})
	rapid.Check(t, func(t *rapid.T) {
		var s layout.Standing
		for range rapid.IntRange(0, 25).Draw(t, "slips") {
			box := slipAt(geometry.Point{X: float64(rapid.IntRange(-500, 500).Draw(t, "x")), Y: float64(rapid.IntRange(-300, 300).Draw(t, "y"))})
			if !box.Meets(from) {
				s.Slips = append(s.Slips, box)
			}
		}
		children := s.Slips[:rapid.IntRange(0, len(s.Slips)).Draw(t, "children")]
		for _, side := range layout.Sides {
			at := layout.Near(s, from, children, side, size)
			box := slipAt(at)
			for _, other := range append(s.Slips, from) {
				require.False(t, box.Meets(other), "%s: %v covers %v", side, box, other)
			}
			switch side {
			case layout.ToRight:
				require.Greater(t, box.X0, from.X1)
			case layout.ToLeft:
				require.Less(t, box.X1, from.X0)
			case layout.Below:
				require.Greater(t, box.Y0, from.Y1)
			case layout.Above:
				require.Less(t, box.Y1, from.Y0)
			}
		}
	})
}

// The next child stands in the row of its siblings, behind the last; where a line to it
// would run through something, or onto a phrase, another place is found.
func TestNearIsInTheRowOfSiblings(t *testing.T) {
	size := layout.Size{W: 100, H: 40}
	from, child := geometry.Rect{X0: 0, Y0: 0, X1: 100, Y1: 40}, geometry.Rect{X0: 0, Y0: 200, X1: 100, Y1: 240}
	s := layout.Standing{Slips: []geometry.Rect{child}}
	at := layout.Near(s, from, []geometry.Rect{child}, layout.AsChild, size)
	assert.Equal(t, 200.0, at.Y)
	assert.Greater(t, at.X-size.W/2, child.X1)
	s.Phrases = []geometry.Rect{{X0: at.X - 20, Y0: 205, X1: at.X + 20, Y1: 225}}
	other := layout.Near(s, from, []geometry.Rect{child}, layout.AsChild, size)
	assert.NotEqual(t, at, other)
	wall := geometry.Rect{X0: -30, Y0: 70, X1: 130, Y1: 90}
	blocked := layout.Near(layout.Standing{Slips: []geometry.Rect{wall}}, from, nil, layout.Below, size)
	mid := geometry.Point{X: 50, Y: 20}
	assert.False(t, wall.Cut(mid, geometry.Point{X: blocked.X, Y: blocked.Y + 20}))
	assert.False(t, math.IsNaN(blocked.X))
}

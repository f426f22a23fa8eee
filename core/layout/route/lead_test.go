package route_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// Two lines around the same box turn beside each other, not on each other, and do
// not cross; their phrases stand on them and apart.
func TestLinesAroundOneCornerKeepApart(t *testing.T) {
	at := func(x, y, w, h float64) route.Rect {
		return geometry.At(route.Point{X: x, Y: y}, route.Size{W: w, H: h})
	}
	boxes := []route.Rect{at(0, -20, 60, 30), at(0, -70, 60, 30), at(400, -20, 60, 30), at(400, -70, 60, 30), at(200, 100, 60, 420)}
	words := route.Size{W: 30, H: 16}
	lines := route.Lead(nil, boxes, []route.Wire{{Ends: []int{0, 2}, Phrase: words}, {Ends: []int{1, 3}, Phrase: words}})
	ways := make([][]route.Point, 2)
	seen := map[route.Point]bool{}
	for i, l := range lines {
		ways[i] = append(ways[i], boxes[i].Middle())
		ways[i] = append(append(ways[i], l.Legs[0]...), l.Phrase)
		for k := len(l.Legs[1]) - 1; k >= 0; k-- {
			ways[i] = append(ways[i], l.Legs[1][k])
		}
		ways[i] = append(ways[i], boxes[i+2].Middle())
		require.Greater(t, len(ways[i]), 3, "it goes around")
		for _, leg := range l.Legs {
			for _, p := range leg {
				assert.False(t, seen[p], "two lines turn at %v", p)
				seen[p] = true
			}
		}
		for k := 1; k < len(ways[i]); k++ {
			assert.False(t, boxes[4].Cut(ways[i][k-1], ways[i][k]))
		}
	}
	for k := 1; k < len(ways[0]); k++ {
		for n := 1; n < len(ways[1]); n++ {
			assert.False(t, route.Cross(ways[0][k-1], ways[0][k], ways[1][n-1], ways[1][n]))
		}
	}
	assert.False(t, geometry.At(lines[0].Phrase, words).Meets(geometry.At(lines[1].Phrase, words)))
}

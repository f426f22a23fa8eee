package route_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	_ "mevrin/core/conceptmap/maptest" // draws the same cases each time
	"mevrin/core/layout/route"
)

// Whatever stands on top of each other is parted; what is fixed stays; what is
// far from the rest is not moved.
func TestApart(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 40).Draw(t, "boxes")
		at, size, weight := make([]route.Point, n), make([]route.Size, n), make([]float64, n)
		for i := range n {
			at[i] = route.Point{X: float64(rapid.IntRange(0, 500).Draw(t, "x")), Y: float64(rapid.IntRange(0, 300).Draw(t, "y"))}
			size[i] = route.Size{W: float64(rapid.IntRange(10, 160).Draw(t, "w")), H: float64(rapid.IntRange(10, 60).Draw(t, "h"))}
			weight[i] = 1
		}
		weight[0] = route.Fixed
		at[1], weight[1] = route.Point{X: 4000, Y: 4000}, route.Fixed
		next := route.Apart(nil, at, size, weight, 10)
		assert.Equal(t, at[:2], next[:2])
		for i := range n {
			for j := range i {
				dx := math.Abs(next[i].X-next[j].X) - (size[i].W+size[j].W)/2
				dy := math.Abs(next[i].Y-next[j].Y) - (size[i].H+size[j].H)/2
				if dx < 10-0.01 && dy < 10-0.01 {
					t.Fatalf("boxes %d and %d lie %g, %g apart", i, j, dx, dy)
				}
			}
		}
	})
	at := []route.Point{{}, {X: 200}, {Y: 100}}
	size := []route.Size{{W: 80, H: 30}, {W: 80, H: 30}, {W: 80, H: 30}}
	assert.Equal(t, at, route.Apart(nil, at, size, nil, 10))
}

// Two boxes that overlap are each moved half the way, in the direction that
// asks for less.
func TestApartIsTheNearest(t *testing.T) {
	at := []route.Point{{X: 0, Y: 0}, {X: 10, Y: 20}}
	size := []route.Size{{W: 80, H: 30}, {W: 80, H: 30}}
	next := route.Apart(nil, at, size, nil, 0)
	assert.InDelta(t, -5, next[0].Y, 1e-3)
	assert.InDelta(t, 25, next[1].Y, 1e-3)
	assert.InDelta(t, 0, next[0].X, 1e-3)
}

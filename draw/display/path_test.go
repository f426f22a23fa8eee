package display

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/draw/icon"
)

// row writes an outline's end points and controls as one row of numbers.
func row(o Outline) (all []float64) {
	for _, s := range o {
		switch s.Op {
		case 'C':
			all = append(all, s.C1.X, s.C1.Y, s.C2.X, s.C2.Y, s.To.X, s.To.Y)
		case 'M', 'L':
			all = append(all, s.To.X, s.To.Y)
		}
	}
	return all
}

// Commands that go on from the one before mirror its control point, and only of a curve
// of their own sort (SVG 1.1, 8.3.6 and 8.3.7).
func TestPathsAreReadAsSVGHasThem(t *testing.T) {
	for d, want := range map[string][]float64{
		"M1 2l3 4":                 {1, 2, 4, 6},
		"m1 2 3 4-1-1z":            {1, 2, 4, 6, 3, 5},
		"M1 1L2 2ZL5 1":            {1, 1, 2, 2, 5, 1},
		"M0 0h4v3H1V.5.5":          {0, 0, 4, 0, 4, 3, 1, 3, 1, .5, 1, .5},
		"M0 0C1 1 2 1 3 0s2-1 3 0": {0, 0, 1, 1, 2, 1, 3, 0, 4, -1, 5, -1, 6, 0},
		"M2 3S4 5 6 3":             {2, 3, 2, 3, 4, 5, 6, 3},
		"M0 0Q3 3 6 0T12 0":        {0, 0, 2, 2, 4, 2, 6, 0, 8, -2, 10, -2, 12, 0},
		"M0 0C1 1 2 1 3 0T9 0":     {0, 0, 1, 1, 2, 1, 3, 0, 3, 0, 5, 0, 9, 0},
		"M0 0q3 3 6 0 l0 3 t3 0":   {0, 0, 2, 2, 4, 2, 6, 0, 6, 3, 6, 3, 7, 3, 9, 3},
		"M3 0a0 2 0 0 1 3 3":       {3, 0, 6, 3},
		"M0 0q3 3 6 0t6 0t6 0":     {0, 0, 2, 2, 4, 2, 6, 0, 8, -2, 10, -2, 12, 0, 14, 2, 16, 2, 18, 0},
	} {
		assert.InDeltaSlice(t, want, row(Traced(d)), 1e-9, d)
	}
}

// Whatever picture a document names can be drawn.
func TestEveryPictureOfTheSetCanBeDrawn(t *testing.T) {
	for _, i := range icon.All {
		shapes := Pictogram(i.Name)
		assert.NotEmpty(t, shapes, i.Name)
		for _, s := range shapes {
			if p, is := s.(*Path); is {
				for _, v := range row(p.Path) {
					assert.True(t, v >= -4 && v <= icon.Grid+4, "%s lies within its grid: %v", i.Name, v)
				}
			}
		}
	}
}

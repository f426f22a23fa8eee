package main

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/format/measured"
)

// Hand-computed: two crossing lines, one of them through a third box, a phrase on
// a box and one far from its line, two boxes overlapping.
func TestScore(t *testing.T) {
	f := &measured.File{
		Nodes: []measured.Node{{ID: "a", W: 20, H: 20}, {ID: "b", W: 20, H: 20}, {ID: "c", W: 20, H: 20}, {ID: "d", W: 20, H: 20}, {ID: "e", W: 20, H: 20}, {ID: "f", W: 20, H: 20}},
		Edges: []measured.Edge{{From: "a", To: "b", Label: "x", W: 10, H: 10}, {From: "c", To: "d", Label: "y", W: 10, H: 10}},
	}
	p := measured.Positions{
		Nodes: []measured.Position{{ID: "a", X: 0, Y: 0}, {ID: "b", X: 100, Y: 100}, {ID: "c", X: 100, Y: 0}, {ID: "d", X: 0, Y: 100}, {ID: "e", X: 30, Y: 30}, {ID: "f", X: 300, Y: 100}},
		Edges: []measured.Drawn{
			{Index: 0, Points: [][2]float64{{0, 0}, {100, 100}}, Label: &measured.Place{X: 30, Y: 42}},
			{Index: 1, Points: [][2]float64{{100, 0}, {0, 100}}, Label: &measured.Place{X: 200, Y: 50}},
		},
	}
	m := score(f, p)
	assert.Equal(t, metrics{Crossings: 1, Hits: 1, OnBox: 1, Far: 1, Area: 320.0 * 120 / 2600, Aspect: 320.0 / 120}, m)
	assert.Equal(t, 3, m.clutter())
	p.Nodes[5] = measured.Position{ID: "f", X: 44, Y: 35}
	assert.Equal(t, 1, score(f, p).Overlaps)
}

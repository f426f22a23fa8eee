package layout_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// What stands beside a region goes on beside it, instead of waiting for its end; and it stays
// so while the map grows.
func TestARegionOpensNoVoid(t *testing.T) {
	ops := []edit.Operation{&edit.AddConcept{ID: "root", Label: "the bell works"}, &edit.SetFocus{Concept: "root"}}
	add := func(id, up string) {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(id), Label: "the part " + id},
			&edit.AddLink{ID: cm.ID("l" + id), Phrase: "leads to", From: []cm.End{{ID: "f", Concept: cm.ID(up)}}, To: []cm.End{{ID: "t", Concept: cm.ID(id)}}})
	}
	for branch := range 5 {
		for depth := range 5 {
			up := fmt.Sprintf("b%d%d", branch, depth-1)
			if depth == 0 {
				up = "root"
			}
			add(fmt.Sprintf("b%d%d", branch, depth), up)
			if depth > 0 {
				add(fmt.Sprintf("s%d%d", branch, depth), up)
			}
		}
	}
	ops = append(ops, &edit.AddLink{ID: "x", Phrase: "helps", From: []cm.End{{ID: "f", Concept: "b03"}}, To: []cm.End{{ID: "t", Concept: "s22"}}})
	region := &edit.AddRegion{ID: "r", Concepts: []cm.ID{"b20", "b21", "s21", "b22", "s22", "b23", "s23"}}
	for _, pattern := range []cm.Pattern{cm.PatternLevels, cm.PatternUp, cm.PatternRight, cm.PatternLeft} {
		long := func(m *cm.Map) float64 {
			x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
			for _, c := range m.Concepts {
				x0, x1, y0, y1 = min(x0, c.At.X), max(x1, c.At.X), min(y0, c.At.Y), max(y1, c.At.Y)
			}
			if pattern == cm.PatternRight || pattern == cm.PatternLeft {
				return x1 - x0
			}
			return y1 - y0
		}
		kept := &edit.KeepTidy{On: true, Pattern: pattern}
		without, err := edit.Apply(cm.NewMap("m", "en"), append(slices.Clone(ops), kept), room)
		require.NoError(t, err)
		out, err := edit.Apply(cm.NewMap("m", "en"), append(slices.Clone(ops), region, kept), room)
		require.NoError(t, err)
		assert.Less(t, long(out.Map), 1.25*long(without.Map), "%s, with a region", pattern)
		was, begun := out.Map, long(out.Map)
		for i, up := range []string{"s11", "b24", "s21"} {
			out, err = edit.Apply(out.Map, []edit.Operation{&edit.AddConcept{ID: cm.ID(fmt.Sprint("n", i)), Label: "one more"},
				&edit.AddLink{ID: cm.ID(fmt.Sprint("ln", i)), Phrase: "leads to", From: []cm.End{{ID: "f", Concept: cm.ID(up)}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprint("n", i))}}}}, room)
			require.NoError(t, err)
			var moves []float64
			for id, c := range was.Concepts {
				to := out.Map.Concepts[id].At
				moves = append(moves, math.Hypot(to.X-c.At.X, to.Y-c.At.Y))
			}
			slices.Sort(moves)
			assert.LessOrEqual(t, moves[len(moves)/2], 24.0, "%s, below %s", pattern, up)
			was = out.Map
		}
		assert.Less(t, long(out.Map), 1.25*begun, "%s, grown", pattern)
	}
	// With several, it is the same each time.
	two := append(slices.Clone(ops), region, &edit.AddRegion{ID: "q", Concepts: []cm.ID{"b00", "b01", "s01", "b02", "s02"}}, &edit.KeepTidy{On: true, Pattern: cm.PatternLevels})
	first, err := edit.Apply(cm.NewMap("m", "en"), two, room)
	require.NoError(t, err)
	for range 4 {
		again, err := edit.Apply(cm.NewMap("m", "en"), two, room)
		require.NoError(t, err)
		require.Equal(t, first.Map.Concepts, again.Map.Concepts)
		require.Equal(t, first.Map.Links, again.Map.Links)
	}
}

package layout_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/layout"
)

// Whatever is inside a region and by whatever pattern the map is put in order,
// what is inside stays together: no other slip comes within its outline. One
// inside another stays inside.
func TestRegionsStayTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := without(maptest.Map(t, 30), nil)
		if len(m.Concepts) < 4 {
			return
		}
		var ops []edit.Operation
		for _, id := range cm.SortedIDs(m.Regions) {
			ops = append(ops, &edit.RemoveRegion{Region: id})
		}
		ids := rapid.Permutation(cm.SortedIDs(m.Concepts)).Draw(t, "order")
		outer := ids[:rapid.IntRange(2, len(ids)-1).Draw(t, "outer")]
		inner := outer[:rapid.IntRange(1, len(outer)).Draw(t, "inner")]
		ops = append(ops, &edit.AddRegion{ID: "outer", Concepts: outer}, &edit.AddRegion{ID: "inner", Concepts: inner})
		pattern := rapid.SampledFrom(slices.DeleteFunc(slices.Clone(cm.Patterns), func(p cm.Pattern) bool { return p == cm.PatternTime })).Draw(t, "pattern")
		for _, c := range m.Concepts {
			if c.Pattern == cm.PatternTime {
				return // a branch along time stands where its times are
			}
		}
		out, err := edit.Apply(m, append(ops, &edit.Tidy{Pattern: pattern}), room)
		require.NoError(t, err)
		for _, inside := range [][]cm.ID{outer, inner} {
			if len(inside) < 2 {
				continue
			}
			x0, y0, x1, y1 := 1e9, 1e9, -1e9, -1e9
			for _, id := range inside {
				c := out.Map.Concepts[id]
				s := plain{}.Slip(out.Map, c)
				x0, x1 = min(x0, c.At.X-s.W/2), max(x1, c.At.X+s.W/2)
				y0, y1 = min(y0, c.At.Y), max(y1, c.At.Y+s.H)
			}
			x0, x1, y0, y1 = x0-layout.RegionBeside+1, x1+layout.RegionBeside-1, y0-layout.RegionAbove+1, y1+layout.RegionBeside-1
			for _, id := range ids {
				if slices.Contains(inside, id) {
					continue
				}
				c := out.Map.Concepts[id]
				s := plain{}.Slip(out.Map, c)
				require.False(t, c.At.X+s.W/2 > x0 && c.At.X-s.W/2 < x1 && c.At.Y+s.H > y0 && c.At.Y < y1, "%s stands in a region by %s", id, pattern)
			}
		}
	})
}

package scene

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
)

// A route's line runs through no slip but those that it joins, unless there is no way around; its
// numerals stand by what they number, and on no words where there is room.
func TestARouteRunsAroundSlips(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 20)
		sc := Build(m, structure.Of(m), View{}, nil)
		var stops [][]cm.Key
		var numbers []string
		for i, id := range cm.SortedIDs(m.Concepts) {
			stops, numbers = append(stops, []cm.Key{{Kind: cm.EntityConcept, ID: id}}), append(numbers, strconv.Itoa(i+1))
		}
		line := sc.RouteLine(stops, numbers)
		require.Len(t, line.Numbers, len(sc.Slips))
		boxes := sc.taken()
		for _, n := range line.Numbers {
			of := sc.Slips[n.Of.ID].Box
			require.False(t, n.Box.Meets(of), "a numeral on its own slip")
			free := 0
			for _, b := range boxes {
				if n.Box.Meets(b) {
					free++
				}
			}
			if len(sc.Slips) == 1 {
				require.Zero(t, free)
			}
		}
		for _, way := range line.Ways {
			if len(way) == 2 {
				continue // straight: free, or there is no way around
			}
			for i := range way[1:] {
				for id, s := range sc.Slips {
					ends := s.Box.Grown(1, 1)
					if ends.Holds(way[0]) || ends.Holds(way[len(way)-1]) {
						continue
					}
					require.False(t, rectOf(s.Box).Cut(way[i], way[i+1]), "through the slip %s", id)
				}
			}
		}
	})
}

package tidy

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The ranks are the best there are: no assignment within the same height has
// shorter arcs.
func TestRanksAreOptimal(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "vertices")
		var arcs []arc
		for range rapid.IntRange(0, 9).Draw(t, "arcs") {
			if a, b := rapid.IntRange(0, n-1).Draw(t, "a"), rapid.IntRange(0, n-1).Draw(t, "b"); a < b {
				arcs = append(arcs, arc{a, b, rapid.IntRange(1, 4).Draw(t, "weight")})
			}
		}
		cost := func(rank []int) int {
			sum := 0
			for _, a := range arcs {
				if rank[a.to] <= rank[a.from] {
					return 1 << 30
				}
				sum += a.weight * (rank[a.to] - rank[a.from])
			}
			return sum
		}
		best := 1 << 30
		rank := make([]int, n)
		var try func(v int)
		try = func(v int) {
			if v == n {
				best = min(best, cost(rank))
				return
			}
			for rank[v] = 0; rank[v] < n; rank[v]++ {
				try(v + 1)
			}
		}
		try(0)
		require.Equal(t, best, cost(ranks(nil, n, arcs, 1000)))
	})
}

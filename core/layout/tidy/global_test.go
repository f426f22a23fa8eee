package tidy

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Moving whole lines to where they seem to cross least lets them cross less in truth, and
// leaves the order of those that keep it.
func TestMovingLinesLeavesFewerCrossings(t *testing.T) {
	better := 0
	rapid.Check(t, func(t *rapid.T) {
		const rows, across = 4, 5
		l := &layers{row: make([][]int, rows)}
		add := func(layer int, slim bool) int {
			v := len(l.of)
			l.of, l.slim, l.at = append(l.of, layer), append(l.slim, slim), append(l.at, 0)
			l.near[0], l.near[1] = append(l.near[0], nil), append(l.near[1], nil)
			l.group, l.turn = append(l.group, -1), append(l.turn, v)
			l.row[layer] = append(l.row[layer], v)
			return v
		}
		for layer := range rows {
			for i := range across {
				v := add(layer, false)
				if layer == 2 && i < 2 {
					l.group[v] = 7
				}
			}
		}
		for range rapid.IntRange(3, 14).Draw(t, "lines") {
			from, to := rapid.IntRange(0, rows-2).Draw(t, "from"), rapid.IntRange(1, rows-1).Draw(t, "to")
			if from >= to {
				continue
			}
			at := from*across + rapid.IntRange(0, across-1).Draw(t, "box")
			for layer := from + 1; layer < to; layer++ {
				v := add(layer, true)
				l.join(at, v, 1)
				at = v
			}
			l.join(at, to*across+rapid.IntRange(0, across-1).Draw(t, "box"), 1)
		}
		for i := range l.row {
			l.place(i)
		}
		l.siftBlocks(0)
		before := l.crossings()
		l.siftBlocks(1)
		after := l.crossings()
		require.LessOrEqual(t, after, before)
		if after < before {
			better++
		}
		require.Less(t, l.at[2*across], l.at[2*across+1])
	})
	require.Positive(t, better)
}

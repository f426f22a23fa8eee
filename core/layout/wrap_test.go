package layout_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
)

// outline is a map of n concepts that hang from each other like the lines of an outline:
// each from one among those that came last, or in rows of a few children each.
func outline(t *testing.T, n, children int, deep, shared bool) []edit.Operation {
	ops := []edit.Operation{&edit.AddConcept{ID: "c0", Label: "the bell works"}, &edit.SetFocus{Concept: "c0"}}
	chance := rand.New(rand.NewPCG(1, uint64(n)))
	phrase, of, ends := cm.ID(""), -1, 0
	for i := 1; i < n; i++ {
		parent := (i - 1) / children
		if deep {
			parent = max(0, i-1-chance.IntN(2*children))
		}
		id := cm.ID(fmt.Sprintf("c%d", i))
		ops = append(ops, &edit.AddConcept{ID: id, Label: "part " + string(id)})
		to := cm.End{ID: "t" + id, Concept: id}
		if shared && parent == of && ends < cm.MaxEnds {
			ops = append(ops, &edit.AddEnd{Link: phrase, Side: cm.SideTo, End: to})
			ends++
			continue
		}
		phrase, of, ends = "l"+id, parent, 1
		ops = append(ops, &edit.AddLink{ID: phrase, Phrase: "has", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprintf("c%d", parent))}}, To: []cm.End{to}})
	}
	return ops
}

// A large outline, however it branches, becomes a map that is neither far wider than
// high nor far higher than wide, and on which no slip covers a slip or a phrase.
func TestLargeOutlinesAreNoRibbons(t *testing.T) {
	for _, pattern := range []cm.Pattern{cm.PatternLevels, cm.PatternUp, cm.PatternRight, cm.PatternLeft, cm.PatternRows, cm.PatternSpine} {
		for _, children := range []int{3, 20, 500} {
			for _, way := range [][2]bool{{false, false}, {false, true}, {true, false}} {
				deep, shared := way[0], way[1]
				mirrored := pattern == cm.PatternUp || pattern == cm.PatternLeft
				if deep && children > 20 || mirrored && (deep || children != 20) {
					continue // the same, mirrored
				}
				if !maptest.Thorough() && pattern != cm.PatternLevels && (children != 20 || deep || shared) {
					continue
				}
				what := fmt.Sprintf("%s, %d children, deep %t, shared %t", pattern, children, deep, shared)
				n := 90 + children%7*15
				if maptest.Thorough() {
					n += 60
				}
				out, err := edit.Apply(cm.NewMap("m", "en"), append(outline(t, n, children, deep, shared), &edit.KeepTidy{On: true, Pattern: pattern}), room)
				require.NoError(t, err, what)
				m := out.Map
				x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
				ids := cm.SortedIDs(m.Concepts)
				for i, id := range ids {
					c := m.Concepts[id]
					size := plain{}.Slip(m, c)
					x0, x1, y0, y1 = min(x0, c.At.X-size.W/2), max(x1, c.At.X+size.W/2), min(y0, c.At.Y), max(y1, c.At.Y+size.H)
					for _, other := range ids[:i] {
						require.False(t, meet(m, c, m.Concepts[other]), "%s covers %s: %s", id, other, what)
					}
					for _, l := range m.Links {
						on := math.Abs(c.At.X-l.Hub.X) < (size.W+46)/2-2 && math.Abs(c.At.Y+size.H/2-l.Hub.Y) < (size.H+18)/2-2
						require.False(t, on, "%s stands on the phrase of %s: %s", id, l.ID, what)
					}
				}
				aspect := (x1 - x0) / (y1 - y0)
				most := 3.0
				if pattern == cm.PatternSpine {
					most = 4.2 // one is long by nature
				}
				assert.True(t, aspect > 0.5 && aspect < most, "%.0f × %.0f: %s", x1-x0, y1-y0, what)
			}
		}
	}
}

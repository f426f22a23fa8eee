package layout_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/layout"
)

var _ = maptest.Cases(25)

var room = layout.Placer{Measurer: plain{}}

// Whatever the map and the pattern, of the whole map or a branch: no slip covers
// another, what is pinned stays, the same is done twice, and undo leads back.
func TestTidyKeepsApartAndPinned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		if len(m.Concepts) == 0 {
			return
		}
		ids := cm.SortedIDs(m.Concepts)
		one := func(what string) cm.ID { return ids[rapid.IntRange(0, len(ids)-1).Draw(t, what)] }
		pinned := []cm.ID{one("pinned"), one("pinned too")}
		op := &edit.Tidy{Pattern: rapid.SampledFrom(cm.Patterns).Draw(t, "pattern"), Freely: rapid.Bool().Draw(t, "freely")}
		if rapid.Bool().Draw(t, "branch") {
			op.Branch = one("of")
		}
		m = without(m, pinned)
		out, err := edit.Apply(m, []edit.Operation{&edit.Pin{Concepts: pinned, On: true}, op}, room)
		require.NoError(t, err)
		again, err := edit.Apply(m, []edit.Operation{&edit.Pin{Concepts: pinned, On: true}, op}, room)
		require.NoError(t, err)
		require.Equal(t, out.Map, again.Map)
		for _, id := range pinned {
			require.Equal(t, m.Concepts[id].At, out.Map.Concepts[id].At)
		}
		for i, a := range ids {
			for _, b := range ids[:i] {
				both := slices.Contains(pinned, a) && slices.Contains(pinned, b)
				require.False(t, !both && meet(out.Map, out.Map.Concepts[a], out.Map.Concepts[b]), "%s covers %s: %v", a, b, op)
			}
		}
		require.Equal(t, m, history.Invert(out.Map, out.Changes).Map)
		// Where a phrase was put, no slip stands but one that may not move.
		for _, id := range cm.SortedIDs(out.Map.Links) {
			l := out.Map.Links[id]
			if !l.Tidied || l.Hub == nil || self(l) {
				continue
			}
			for _, c := range ids {
				s := plain{}.Slip(m, out.Map.Concepts[c])
				at := out.Map.Concepts[c].At
				on := math.Abs(at.X-l.Hub.X) < (s.W+46)/2-2 && math.Abs(at.Y+s.H/2-l.Hub.Y) < (s.H+18)/2-2
				require.False(t, on && !slices.Contains(pinned, c), "%s stands on the phrase of %s: %v", c, id, op)
			}
		}
	})
}

// self tells that a link leads from a concept to itself and nowhere else.
func self(l *cm.Link) bool {
	return len(l.From) == 1 && len(l.To) == 1 && l.From[0].Concept == l.To[0].Concept
}

// without gives the map with all but some concepts as if never placed by hand.
func without(m *cm.Map, pinned []cm.ID) *cm.Map {
	rest := slices.DeleteFunc(cm.SortedIDs(m.Concepts), func(id cm.ID) bool { return slices.Contains(pinned, id) })
	out, err := edit.Apply(m, []edit.Operation{&edit.Pin{Concepts: rest}, &edit.KeepTidy{}}, nil)
	if err != nil {
		panic(err)
	}
	return out.Map
}

// grown is a map of three levels with some further links.
func grown(t require.TestingT, further bool) *cm.Map {
	ops := []edit.Operation{&edit.AddConcept{ID: "top", Label: "the bell"}, &edit.SetFocus{Concept: "top"}}
	link := func(id, from, to string) {
		ops = append(ops, &edit.AddLink{ID: cm.ID("l" + id), Phrase: "has", From: []cm.End{{ID: "f", Concept: cm.ID(from)}}, To: []cm.End{{ID: "t", Concept: cm.ID(to)}}})
	}
	for i := range 5 {
		b := fmt.Sprintf("b%d", i)
		ops = append(ops, &edit.AddConcept{ID: cm.ID(b), Label: b})
		link(b, "top", b)
		for j := range 4 {
			c := fmt.Sprintf("c%d%d", i, j)
			ops = append(ops, &edit.AddConcept{ID: cm.ID(c), Label: "part " + c})
			link(c, b, c)
		}
	}
	if further {
		link("x1", "c00", "c23")
		link("x2", "c31", "c42")
		link("x3", "b1", "c30")
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	return out.Map
}

// Siblings that stand beside each other do so in their author's order, in each pattern that has one; and
// adding one leaf to a map that is kept tidy moves the others by no more than the
// height of a slip, in the median, and leaves their order.
func TestTidyKeepsOrderAndIsSteady(t *testing.T) {
	for _, pattern := range []cm.Pattern{cm.PatternLevels, cm.PatternUp, cm.PatternRight, cm.PatternLeft, cm.PatternSides, cm.PatternRings, cm.PatternRows, cm.PatternSpine, cm.PatternWeb, cm.PatternTime} {
		t.Run(string(pattern), func(t *testing.T) {
			out, err := edit.Apply(grown(t, true), []edit.Operation{&edit.Tidy{Pattern: pattern}, &edit.KeepTidy{On: true}}, room)
			require.NoError(t, err)
			m := out.Map
			for i := range 5 {
				parent := fmt.Sprintf("b%d", i)
				var want []cm.ID
				for j := range 4 {
					want = append(want, cm.ID(fmt.Sprintf("c%d%d", i, j)))
				}
				got, _ := room.Row(m, want[0])
				if strings.HasPrefix(string(pattern), "levels") { // one may stand elsewhere for fewer crossings
					first := m.Concepts[want[0]].At
					apart := func(id cm.ID) bool {
						a, b := m.Concepts[id].At, first
						if pattern == cm.PatternLevels || pattern == cm.PatternUp {
							return a.Y != b.Y
						}
						return a.X != b.X
					}
					got, want = slices.DeleteFunc(got, apart), slices.DeleteFunc(want, apart)
				}
				if pattern == cm.PatternRings {
					at := slices.Index(got, want[0])
					got = slices.Concat(got[at:], got[:at])
				}
				if pattern == cm.PatternSpine || pattern == cm.PatternWeb || pattern == cm.PatternTime || pattern == cm.PatternLeft && got[0] != want[0] {
					continue // ribs above the spine are read upwards
				}
				assert.Equal(t, want, got, "below %s", parent)
			}
			out, err = edit.Apply(m, []edit.Operation{&edit.AddConcept{ID: "new", Label: "a new part"}, &edit.AddLink{ID: "lnew", Phrase: "has", From: []cm.End{{ID: "f", Concept: "b2"}}, To: []cm.End{{ID: "t", Concept: "new"}}}}, room)
			require.NoError(t, err)
			var moves []float64
			for id, c := range m.Concepts {
				to := out.Map.Concepts[id].At
				moves = append(moves, math.Hypot(to.X-c.At.X, to.Y-c.At.Y))
			}
			slices.Sort(moves)
			assert.LessOrEqual(t, moves[len(moves)/2], 38.0)
		})
	}
}

// large is a map of so many concepts in a tree, with half as many further links.
func large(n int) *cm.Map {
	ops := []edit.Operation{&edit.AddConcept{ID: "c0", Label: "the bell"}, &edit.SetFocus{Concept: "c0"}}
	link := func(id string, a, b int) {
		ops = append(ops, &edit.AddLink{ID: cm.ID(id), Phrase: "leads to", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprint("c", a))}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprint("c", b))}}})
	}
	for i := 1; i < n; i++ {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", i)), Label: fmt.Sprint("concept ", i*7919%n)})
		link(fmt.Sprint("l", i), (i-1)/4, i)
	}
	for i := range n / 2 {
		link(fmt.Sprint("x", i), i*31%n, (i*17+5)%n)
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	if err != nil {
		panic(err)
	}
	return out.Map
}

// Aim: levels of 1,000 concepts and 1,500 links within 500 ms.
func BenchmarkTidy1000(b *testing.B) {
	m := large(1000)
	for _, pattern := range cm.Patterns {
		b.Run(string(pattern), func(b *testing.B) {
			for b.Loop() {
				if _, err := edit.Apply(m, []edit.Operation{&edit.Tidy{Pattern: pattern}}, room); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

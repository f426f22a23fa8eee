package layout_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
)

// plain measures a slip by the length of its label.
type plain struct{}

func (plain) Slip(m *cm.Map, c *cm.Concept) layout.Size {
	return layout.Size{W: 40 + 8*float64(len(m.Words(c.Label))), H: 38}
}

func (plain) Phrase(m *cm.Map, l *cm.Link) layout.Size { return layout.Size{W: 46, H: 18} }

func meet(m *cm.Map, a, b *cm.Concept) bool {
	sa, sb := plain{}.Slip(m, a), plain{}.Slip(m, b)
	return math.Abs(a.At.X-b.At.X) < (sa.W+sb.W)/2 && a.At.Y < b.At.Y+sb.H && b.At.Y < a.At.Y+sa.H
}

// However crowded the paper, a new slip covers no other, and one whose place
// is free gets just that place.
func TestFreeCoversNothing(t *testing.T) {
	room := layout.Placer{Measurer: plain{}}
	rapid.Check(t, func(t *rapid.T) {
		m := cm.NewMap("m", "en")
		for i := range rapid.IntRange(0, 60).Draw(t, "slips") {
			at := cm.Point{X: float64(rapid.IntRange(-200, 200).Draw(t, "x")), Y: float64(rapid.IntRange(-150, 150).Draw(t, "y"))}
			op := &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", i)), Label: rapid.StringMatching(`[a-z]{0,16}`).Draw(t, "label"), At: at, MakeRoom: true}
			before := m
			out, err := edit.Apply(m, []edit.Operation{op}, room)
			require.NoError(t, err)
			m = out.Map
			placed := m.Concepts[op.ID]
			wished := *placed
			wished.At = at
			free := true
			for _, other := range before.Concepts {
				require.False(t, meet(m, placed, other), "%v covers %v", placed.At, other.At)
				near := *other
				near.At.Y -= layout.Gap
				free = free && !meet(m, &wished, other) && !meet(m, &wished, &near)
			}
			if free && len(before.Concepts) == 0 {
				require.Equal(t, at, placed.At)
			}
		}
	})
}

// A slip that grows with its first words moves aside rather than over its
// neighbour; one that has had words stays where it was put.
func TestOnlyFirstWordsMakeRoom(t *testing.T) {
	room := layout.Placer{Measurer: plain{}}
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "aaaa"}, &edit.AddConcept{ID: "b", At: cm.Point{X: 80}}, &edit.AddConcept{ID: "c", Label: "c", At: cm.Point{Y: 200}},
	}, nil)
	require.NoError(t, err)
	out, err = edit.Apply(out.Map, []edit.Operation{
		&edit.NameConcept{Concept: "b", Label: "a much longer label"}, &edit.NameConcept{Concept: "c", Label: "c again"},
	}, room)
	require.NoError(t, err)
	require.False(t, meet(out.Map, out.Map.Concepts["a"], out.Map.Concepts["b"]))
	require.Equal(t, cm.Point{Y: 200}, out.Map.Concepts["c"].At)
}

// Siblings are read off the paper as one reads a page, or a clock; words sort as
// in the map's language, numbers by their size.
func TestSiblingsAreOrdered(t *testing.T) {
	ops := []edit.Operation{&edit.AddConcept{ID: "p", Label: "p", At: cm.Point{X: 0, Y: 0}}, &edit.SetFocus{Concept: "p"}}
	for _, c := range []struct {
		id, label string
		x, y      float64
	}{{"a", "Zug", 200, 4}, {"b", "apfel", -200, -8}, {"c", "Ähre", 100, 300}, {"d", "10", -100, 290}, {"e", "9", 10, -300}} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c.id), Label: c.label, At: cm.Point{X: c.x, Y: c.y}},
			&edit.AddLink{ID: cm.ID("l" + c.id), From: []cm.End{{ID: "f", Concept: "p"}}, To: []cm.End{{ID: "t", Concept: cm.ID(c.id)}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "de"), ops, nil)
	require.NoError(t, err)
	for way, want := range map[layout.Order][]cm.ID{
		layout.ByWords: {"e", "d", "c", "b", "a"}, layout.ByRows: {"e", "b", "a", "d", "c"}, layout.Around: {"e", "a", "c", "d", "b"},
	} {
		order, err := layout.Sorted(out.Map, same{}, "p", []cm.ID{"a", "b", "c", "d", "e"}, way)
		require.NoError(t, err)
		assert.Equal(t, want, order, way)
	}
	_, err = layout.Sorted(out.Map, same{}, "p", nil, "luck")
	assert.Error(t, err)
}

type same struct{}

func (same) Phrase(*cm.Map, *cm.Link) layout.Size { return layout.Size{} }

func (same) Slip(*cm.Map, *cm.Concept) layout.Size { return layout.Size{W: 90, H: 37} }

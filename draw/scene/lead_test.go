package scene_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// near gives how far a path stays from a point.
func near(legs []scene.Leg, to cm.Point) float64 {
	least := math.Inf(1)
	for _, leg := range legs {
		for i := range 400 {
			p := leg.Path.At(float64(i) / 399 * float64(len(leg.Path)))
			least = min(least, math.Hypot(p.X-to.X, p.Y-to.Y))
		}
	}
	return least
}

func pair(t *testing.T, ops ...edit.Operation) *scene.Link {
	t.Helper()
	out, err := edit.Apply(cm.NewMap("m", "en"), append([]edit.Operation{
		&edit.AddConcept{ID: "a", Label: "bell"}, &edit.AddConcept{ID: "b", Label: "ear", At: cm.Point{X: 300, Y: 400}},
		&edit.AddLink{ID: "l", Phrase: "reaches", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}},
	}, ops...), nil)
	require.NoError(t, err)
	return build(out.Map, scene.View{}).Links["l"]
}

// A line led by hand passes every bend, in each of the three manners; stepped
// it is level and upright; the phrase stands on it, where it was put.
func TestALineGoesWhereItIsLed(t *testing.T) {
	bends := []cm.Point{{X: 260, Y: 60}, {X: -80, Y: 300}}
	for _, line := range []cm.Line{cm.LineAuto, cm.LineStraight, cm.LineCurved, cm.LineStepped} {
		l := pair(t, &edit.SetLine{Links: []cm.ID{"l"}, Line: line}, &edit.Bend{Link: "l", End: "f", Bends: bends[:1]}, &edit.Bend{Link: "l", End: "t", Bends: bends[1:]}, &edit.PlacePhrase{Link: "l", Along: 0.85})
		for _, b := range bends {
			assert.Less(t, near(l.Legs, b), 2.0, "%q passes %v", line, b)
		}
		if line == cm.LineStepped {
			for _, leg := range l.Legs {
				for _, c := range leg.Path {
					assert.True(t, math.Abs(c.A.X-c.B.X) < 0.01 || math.Abs(c.A.Y-c.B.Y) < 0.01, "level or upright: %v", c)
				}
			}
		}
		long, short := l.Legs[0].Path, l.Legs[1].Path
		length := func(p scene.Path) (sum float64) {
			for i := range 400 {
				a, b := p.At(float64(i)/400*float64(len(p))), p.At(float64(i+1)/400*float64(len(p)))
				sum += math.Hypot(b.X-a.X, b.Y-a.Y)
			}
			return sum
		}
		assert.Greater(t, length(long), 3*length(short), "the phrase stands near the end: %q", line)
	}
	// One bend of a stepped line moves a whole piece: it is no corner.
	stepped := pair(t, &edit.SetLine{Links: []cm.ID{"l"}, Line: cm.LineStepped}, &edit.Bend{Link: "l", End: "f", Bends: []cm.Point{{X: 150, Y: 120}}})
	turns, level := 0, false
	for i, c := range slices.Concat(stepped.Legs[0].Path, stepped.Legs[1].Path) {
		if is := math.Abs(c.A.Y-c.B.Y) < 0.01; math.Abs(c.A.X-c.B.X)+math.Abs(c.A.Y-c.B.Y) > 0.01 {
			if i > 0 && is != level {
				turns++
			}
			level = is
		}
	}
	assert.LessOrEqual(t, turns, 3, "down, across, down; the phrase may stand in a turn")
	plain := pair(t)
	assert.InDelta(t, 150, plain.Gap.Middle().X, 12)
	curved := pair(t, &edit.SetLine{Links: []cm.ID{"l"}, Line: cm.LineCurved})
	assert.False(t, curved.Legs[0].Path[0].Straight())
	assert.Greater(t, near(curved.Legs, cm.Point{X: 40, Y: 80}), 12.0, "it sweeps aside")
}

func TestSeveralEndsMeetWhereTheyArePut(t *testing.T) {
	hub := cm.Point{X: 500, Y: -90}
	l := pair(t, &edit.AddConcept{ID: "c", Label: "wall", At: cm.Point{X: -300, Y: 400}}, &edit.AddEnd{Link: "l", Side: cm.SideTo, End: cm.End{ID: "u", Concept: "c"}},
		&edit.PlacePhrase{Link: "l", Hub: &hub}, &edit.Bend{Link: "l", End: "u", Bends: []cm.Point{{X: -300, Y: -90}}})
	assert.Equal(t, hub, l.Gap.Middle())
	assert.Less(t, near(l.Legs[2:], cm.Point{X: -300, Y: -90}), 2.0)
}

// Whatever is tucked away of whatever map: nothing hidden is drawn, what is seen
// of a link joins what is seen, only what is tucked makes ends without darts,
// and what a slip hides is counted. A scene made from another one is the same.
func TestAnyBranchCanBeTuckedAway(t *testing.T) {
	folded := 0
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 60)
		s := structure.Of(m)
		var away []cm.ID
		for _, id := range cm.SortedIDs(m.Concepts) {
			if rapid.IntRange(0, 3).Draw(t, "away") == 0 {
				away = append(away, id)
			}
		}
		v := scene.View{Tucked: scene.TuckedOf(append(away, "nobody"))}
		whole := scene.Build(m, s, scene.View{}, nil)
		sc := scene.Build(m, s, v, whole)
		hides := 0
		for id, slip := range sc.Slips {
			for up := s.Places[id].Parent; up != ""; up = s.Places[up].Parent {
				require.NotContains(t, away, up, "%s is hidden", id)
			}
			hides += len(slip.Hides)
			if len(slip.Hides) > 0 {
				folded++
				require.Contains(t, away, id)
				require.Equal(t, whole.Slips[id].Box.H+scene.FoldedHeight, slip.Box.H)
			} else {
				require.Same(t, whole.Slips[id], slip, "what is not touched is not drawn anew")
			}
		}
		require.Equal(t, len(m.Concepts), len(sc.Slips)+hides)
		for id, l := range sc.Links {
			require.NotEmpty(t, l.Legs)
			for _, leg := range l.Legs {
				require.NotNil(t, sc.Slips[leg.Concept])
				ends := m.Links[id].Ends()
				own := ends[slices.IndexFunc(ends, func(e cm.End) bool { return e.ID == leg.End })].Concept
				require.Equal(t, own != leg.Concept, leg.Veiled)
				if leg.Veiled {
					require.Nil(t, leg.Dart)
					require.Nil(t, leg.Knot)
				}
			}
		}
		for id, l := range m.Links {
			all := map[cm.ID]bool{}
			for _, e := range l.Ends() {
				for at := e.Concept; ; at = s.Places[at].Parent {
					if sc.Slips[at] != nil {
						all[at] = true
						break
					}
				}
			}
			if len(all) > 1 && len(l.From) == 1 && len(l.To) == 1 {
				require.NotNil(t, sc.Links[id], "a link between two that are seen is drawn")
			}
		}
		fresh := scene.Build(m, s, v, nil)
		require.Len(t, fresh.Links, len(sc.Links))
		for id, l := range fresh.Links {
			require.Equal(t, l.Legs, sc.Links[id].Legs)
		}
	})
	assert.Positive(t, folded, "some were")
}

// Labels keep their words inside, however they are set.
func TestLabelsFitHoweverTheyAreSet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		size, bold, italic := rapid.IntRange(cm.MinSize, cm.MaxSize).Draw(t, "size"), rapid.Bool().Draw(t, "bold"), rapid.Bool().Draw(t, "italic")
		width := rapid.SampledFrom([]float64{0, 40, 77, 300, 900}).Draw(t, "width")
		out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
			&edit.AddConcept{ID: "a", Label: rapid.SampledFrom([]string{"bell", "Glockengießerhandwerk und mehr", "a bell\nof bronze", "جرس البرج", "钟声钟声钟声钟声"}).Draw(t, "label")},
			&edit.SetType{Concepts: []cm.ID{"a"}, Size: &size, Bold: &bold, Italic: &italic, Width: &width},
		}, nil)
		require.NoError(t, err)
		s := build(out.Map, scene.View{}).Slips["a"]
		require.GreaterOrEqual(t, s.Box.W, s.Words.W+scene.Strip+2*s.Words.Inset)
		require.GreaterOrEqual(t, s.Box.H, s.Words.H)
		if width > 0 {
			require.GreaterOrEqual(t, s.Box.W, width)
			for _, line := range s.Words.Lines {
				require.LessOrEqual(t, line.Px, width)
			}
		}
	})
}

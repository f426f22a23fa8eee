package scene_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/demo"
	"mevrin/draw/scene"
)

var _ = maptest.Cases(60)

func build(m *cm.Map, v scene.View) *scene.Scene {
	return scene.Build(m, structure.Of(m), v, nil)
}

// onBorder tells whether a point lies on the outline of a slip, within a pixel
// and a half.
func onBorder(s *scene.Slip, p scene.Point) bool {
	in, out := false, false
	for i := range 16 {
		sin, cos := math.Sincos(float64(i) * math.Pi / 8)
		if s.Holds(scene.Point{X: p.X + 1.5*cos, Y: p.Y + 1.5*sin}) {
			in = true
		} else {
			out = true
		}
	}
	return in && out
}

// Whatever the map: slips stand by their top centre and hold their words, each
// leg begins or points at its slip's border and ends outside the phrase's
// words, and heads say which legs carry darts.
func TestEveryLegMeetsItsSlipAndItsPhrase(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		sc := build(m, scene.View{})
		require.Len(t, sc.Slips, len(m.Concepts))
		require.Len(t, sc.Links, len(m.Links))
		for id, s := range sc.Slips {
			at := m.Concepts[id].At
			require.InDelta(t, at.X, s.Box.Middle().X, 1e-9)
			require.Equal(t, at.Y, s.Box.Y)
			require.GreaterOrEqual(t, s.Box.W, s.Words.W+scene.Strip)
			require.GreaterOrEqual(t, s.Box.H, s.Words.H)
			require.Equal(t, s.Box.W, 2*math.Round(s.Box.W/2))
			for i, line := range s.Words.Lines { // no word reaches out of its outline
				y := s.Box.Middle().Y - s.Words.H/2 + (float64(i)+0.5)*s.Words.LineHeight
				for _, side := range []float64{-1, 1} {
					require.True(t, s.Holds(scene.Point{X: s.Box.Middle().X + scene.Strip/2 + side*line.Px/2, Y: y}), "%s: %q", s.Outline, line.Words)
				}
			}
		}
		for _, l := range sc.Links {
			for _, leg := range l.Legs {
				slip := sc.Slips[leg.Concept]
				box := slip.Box
				begin := leg.Path.Begin()
				pointed := l.Heads == cm.HeadsBoth || l.Heads == cm.HeadsOne && !leg.From
				require.Equal(t, pointed, leg.Dart != nil)
				require.Equal(t, l.Heads == cm.HeadsOne && leg.From, leg.Knot != nil)
				if leg.Dart != nil {
					begin = leg.Dart.Tip
					require.InDelta(t, 1, math.Hypot(leg.Dart.Along.X, leg.Dart.Along.Y), 1e-6)
				}
				// A line whose slips lie on each other has no border to begin at.
				overlapping := l.Gap.Meets(box)
				for _, other := range l.Legs {
					overlapping = overlapping || other.Concept != leg.Concept && sc.Slips[other.Concept].Box.Grown(2, 2).Meets(box)
				}
				if !overlapping {
					require.True(t, onBorder(slip, begin), "%v %s begins at %v", box, slip.Outline, begin)
					end, words := leg.Path.End(), l.Gap.Grown(-1, -1)
					require.False(t, words.Meets(scene.Rect{X: end.X, Y: end.Y}), "a leg runs into the words of its phrase")
				}
			}
		}
	})
}

// A translated map is drawn with the reader's words where it has them.
func TestAViewShowsItsLanguage(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "bell"}, &edit.NameConcept{Concept: "a", Lang: "de", Label: "eine sehr große Glocke"}, &edit.AddConcept{ID: "b", Label: "ear", At: cm.Point{X: 400}},
		&edit.AddLink{ID: "l", Phrase: "reaches", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}},
	}, nil)
	require.NoError(t, err)
	en, de := build(out.Map, scene.View{}), build(out.Map, scene.View{Lang: "de"})
	assert.Equal(t, "bell reaches ear", en.Links["l"].Says)
	assert.Equal(t, "eine sehr große Glocke reaches ear", de.Links["l"].Says)
	assert.Greater(t, de.Slips["a"].Box.W, en.Slips["a"].Box.W)
	assert.Equal(t, en.Slips["a"].Box.Middle().X, de.Slips["a"].Box.Middle().X, "the slip keeps its top centre")
}

// Several links between the same two concepts bow apart, so that each phrase
// can be read.
func TestParallelLinksBowApart(t *testing.T) {
	ops := []edit.Operation{&edit.AddConcept{ID: "a", Label: "bell"}, &edit.AddConcept{ID: "b", Label: "ear", At: cm.Point{X: 10, Y: 400}}}
	for i, id := range []cm.ID{"l1", "l2", "l3"} {
		from, to := cm.ID("a"), cm.ID("b")
		if i == 1 {
			from, to = to, from
		}
		ops = append(ops, &edit.AddLink{ID: id, Phrase: "phrase", From: []cm.End{{ID: "f", Concept: from}}, To: []cm.End{{ID: "t", Concept: to}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	sc := build(out.Map, scene.View{})
	for _, pair := range [][2]cm.ID{{"l1", "l2"}, {"l2", "l3"}, {"l1", "l3"}} {
		assert.False(t, sc.Links[pair[0]].Gap.Meets(sc.Links[pair[1]].Gap), pair)
	}
}

// The demo map is beautiful at first sight: nothing covers anything, no line
// runs through a slip or through the words of another phrase.
func TestTheDemoIsTidy(t *testing.T) {
	for _, d := range demo.Maps() {
		if d.ID == "first-try" {
			continue // it is to show flaws
		}
		m, err := d.Build()
		require.NoError(t, err)
		assert.Empty(t, strings.Join(untidy(build(m, scene.View{})), "\n"), string(d.ID))
	}
}

// untidy lists what lies on or runs through what.
func untidy(sc *scene.Scene) []string {
	var faults []string
	for _, a := range cm.SortedIDs(sc.Slips) {
		for _, b := range cm.SortedIDs(sc.Slips) {
			if a < b && sc.Slips[a].Box.Grown(8, 8).Meets(sc.Slips[b].Box) {
				faults = append(faults, string(a)+" touches "+string(b))
			}
		}
	}
	for _, id := range cm.SortedIDs(sc.Links) {
		l := sc.Links[id]
		for _, s := range sc.Slips {
			if l.Gap.Meets(s.Box) {
				faults = append(faults, l.Says+" lies on "+string(s.ID))
			}
		}
		for _, leg := range l.Legs {
			for i := range 60 {
				p := leg.Path.At(float64(i) / 59 * float64(len(leg.Path)))
				dot := scene.Rect{X: p.X - 1, Y: p.Y - 1, W: 2, H: 2}
				for _, s := range sc.Slips {
					if s.ID != leg.Concept && dot.Meets(s.Box) {
						faults = append(faults, l.Says+" runs through "+string(s.ID))
					}
				}
				for _, o := range sc.Links {
					if o != l && dot.Meets(o.Gap) {
						faults = append(faults, l.Says+" runs through the words of "+o.Says)
					}
				}
			}
		}
	}
	return faults
}

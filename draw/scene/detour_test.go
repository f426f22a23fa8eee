package scene_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/layout"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// through counts the slips that the lines of a link run through, besides its own.
func through(sc *scene.Scene, l *scene.Link) (ids []cm.ID) {
	own := map[cm.ID]bool{}
	for _, leg := range l.Legs {
		own[leg.Concept] = true
	}
	for id, s := range sc.Slips {
		for _, leg := range l.Legs {
			hit := false
			for i := range 200 {
				hit = hit || s.Box.Grown(-1, -1).Holds(leg.Path.At(float64(i)/199*float64(len(leg.Path))))
			}
			if hit && !own[id] {
				ids = append(ids, id)
			}
		}
	}
	return ids
}

// A line that runs by itself goes around what stands in its way, in each manner,
// and straight again when that has gone; its phrase covers no slip.
func TestLinesGoAroundSlips(t *testing.T) {
	for _, line := range []cm.Line{cm.LineAuto, cm.LineStraight, cm.LineStepped, cm.LineCurved} {
		t.Run(string(line), func(t *testing.T) {
			out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
				&edit.AddConcept{ID: "a", Label: "the clapper", At: cm.Point{X: 0, Y: 0}}, &edit.AddConcept{ID: "b", Label: "in between", At: cm.Point{X: 260, Y: 4}},
				&edit.AddConcept{ID: "c", Label: "the rim", At: cm.Point{X: 520, Y: 0}},
				&edit.AddLink{ID: "l", Phrase: "strikes", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "c"}}}, &edit.SetLine{Links: []cm.ID{"l"}, Line: line},
			}, nil)
			require.NoError(t, err)
			sc := build(out.Map, scene.View{})
			assert.Empty(t, through(sc, sc.Links["l"]))
			assert.False(t, sc.Links["l"].Gap.Meets(sc.Slips["b"].Box))
			assert.Greater(t, len(sc.Links["l"].Legs[0].Path)+len(sc.Links["l"].Legs[1].Path), 2)

			moved, err := edit.Apply(out.Map, []edit.Operation{&edit.Move{Places: map[cm.ID]cm.Point{"b": {X: 260, Y: 300}}}}, nil)
			require.NoError(t, err)
			free := scene.Build(moved.Map, structure.Of(moved.Map), scene.View{}, sc)
			if line == cm.LineAuto {
				assert.Len(t, free.Links["l"].Legs[0].Path, 1)
				assert.True(t, free.Links["l"].Legs[0].Path[0].Straight())
			}
			back := scene.Build(out.Map, structure.Of(out.Map), scene.View{}, free)
			assert.Empty(t, through(back, back.Links["l"]), "the slip is in the way again")
		})
	}
}

// drawn tells how a link is drawn.
func drawn(l *scene.Link) string {
	all := fmt.Sprint(l.Gap)
	for _, leg := range l.Legs {
		all += fmt.Sprint(leg.End, leg.Path, leg.Dart != nil, leg.Cross)
	}
	return all
}

// Whatever is done to whatever map: a scene made from the one before is the same
// as one made from nothing.
func TestASceneMadeFromAnotherIsTheSame(t *testing.T) {
	room := layout.Placer{Measurer: scene.Measurer{}}
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 30)
		author := &maptest.Author{Name: "q"}
		place := func() cm.Point {
			return cm.Point{X: float64(rapid.IntRange(-500, 500).Draw(t, "x")), Y: float64(rapid.IntRange(-250, 250).Draw(t, "y"))}
		}
		// Many lines on little paper, so that they have something to go around.
		var ops []edit.Operation
		for i := range 14 {
			ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("n", i)), Label: "a bell", At: place()})
			if i > 0 {
				ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("m", i)), Phrase: "to", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprint("n", i))}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprint("n", rapid.IntRange(0, i-1).Draw(t, "to")))}}})
			}
		}
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
		sc := build(m, scene.View{})
		for range 5 {
			var op edit.Operation = &edit.Move{Places: map[cm.ID]cm.Point{cm.ID(fmt.Sprint("n", rapid.IntRange(0, 13).Draw(t, "moved"))): place()}}
			if rapid.IntRange(0, 3).Draw(t, "other") == 0 {
				op = author.Operation(t, m)
			}
			out, err := edit.Apply(m, []edit.Operation{op}, room)
			if err != nil {
				continue
			}
			m = out.Map
			sc = scene.Build(m, structure.Of(m), scene.View{}, sc)
			fresh := build(m, scene.View{})
			require.Len(t, sc.Links, len(fresh.Links))
			for id, l := range fresh.Links {
				require.Equal(t, drawn(l), drawn(sc.Links[id]), "link %s", id)
			}
		}
	})
}

// Hand-made: two slips on each other, a line led through a slip, two lines that
// cross.
func TestWhatIsUntidyIsFound(t *testing.T) {
	ops := []edit.Operation{}
	for id, at := range map[cm.ID]cm.Point{"a": {X: 0, Y: 0}, "b": {X: 20, Y: 10}, "c": {X: 600, Y: 0}, "d": {X: 0, Y: 300}, "e": {X: 600, Y: 300}, "f": {X: 300, Y: 600}, "g": {X: 0, Y: 600}, "h": {X: 600, Y: 600}} {
		ops = append(ops, &edit.AddConcept{ID: id, Label: string(id), At: at})
	}
	for id, ends := range map[cm.ID][2]cm.ID{"l1": {"a", "e"}, "l2": {"d", "c"}, "l3": {"g", "h"}} {
		ops = append(ops, &edit.AddLink{ID: id, Phrase: "to", From: []cm.End{{ID: "f", Concept: ends[0]}}, To: []cm.End{{ID: "t", Concept: ends[1]}}})
	}
	ops = append(ops, &edit.PlacePhrase{Link: "l1", Along: 0.2}, &edit.PlacePhrase{Link: "l2", Along: 0.2}, &edit.Bend{Link: "l3", End: "f", Bends: []cm.Point{{X: 200, Y: 615}}})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	u := scene.UntidyOf(build(out.Map, scene.View{}), nil)
	assert.Equal(t, [][2]cm.ID{{"a", "b"}}, u.Slips)
	assert.Equal(t, [][2]cm.ID{{"l1", "l2"}}, u.Crossings)
	assert.Contains(t, u.Through, [2]cm.ID{"l3", "f"})
	assert.Greater(t, u.Used, 0.02)
	assert.Less(t, u.Used, 0.3)
}

// Two lines that cross in their middles, and one that runs along the phrase of an
// older one: the older stay as they were, the newer make way, in any manner.
func TestLinesMakeWayForEachOther(t *testing.T) {
	var ops []edit.Operation
	for id, at := range map[cm.ID]cm.Point{"a": {X: 0, Y: 0}, "b": {X: 600, Y: 400}, "c": {X: 600, Y: 0}, "d": {X: 0, Y: 400}, "e": {X: 330, Y: -200}, "f": {X: 270, Y: 600}} {
		ops = append(ops, &edit.AddConcept{ID: id, Label: "bell " + string(id), At: at})
	}
	older := len(ops) + 1
	for i, ends := range [][2]cm.ID{{"a", "b"}, {"c", "d"}, {"e", "f"}} {
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: "rings together with", From: []cm.End{{ID: "f", Concept: ends[0]}}, To: []cm.End{{ID: "t", Concept: ends[1]}}})
	}
	for _, line := range []cm.Line{cm.LineAuto, cm.LineStraight, cm.LineStepped, cm.LineCurved} {
		out, err := edit.Apply(cm.NewMap("m", "en"), append(ops, &edit.SetLine{Links: []cm.ID{"l0", "l1", "l2"}, Line: line}), nil)
		require.NoError(t, err)
		sc := build(out.Map, scene.View{})
		first, err := edit.Apply(cm.NewMap("m", "en"), append(ops[:older:older], &edit.SetLine{Links: []cm.ID{"l0"}, Line: line}), nil)
		require.NoError(t, err)
		assert.Equal(t, drawn(build(first.Map, scene.View{}).Links["l0"]), drawn(sc.Links["l0"]), "%s: the oldest stays", line)
		for id, l := range sc.Links {
			for other, k := range sc.Links {
				if id == other {
					continue
				}
				assert.False(t, l.Gap.Meets(k.Gap), "%s: phrases of %s and %s", line, id, other)
				for _, leg := range k.Legs {
					for i := range 200 {
						if l.Gap.Holds(leg.Path.At(float64(i) / 199 * float64(len(leg.Path)))) {
							assert.Fail(t, "a line runs through a phrase", "%s: %s through %s", line, other, id)
							break
						}
					}
				}
			}
		}
	}
}

// On a map of many slips links do not make way for each other, and what changed is told by the
// drawing itself: whatever is done, it is what a fresh drawing shows.
func TestALargeSceneMadeFromAnotherIsTheSame(t *testing.T) {
	room := layout.Placer{Measurer: scene.Measurer{}}
	begin, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(160), nil)
	require.NoError(t, err)
	first := structure.Of(begin.Map)
	rapid.Check(t, func(t *rapid.T) {
		m, s := begin.Map, first
		sc := scene.Build(m, s, scene.View{}, nil)
		author := &maptest.Author{Name: "q"}
		for range 6 {
			id := cm.ID(fmt.Sprintf("c%05d", rapid.IntRange(0, 159).Draw(t, "which")))
			var op edit.Operation = &edit.NameConcept{Concept: id, Label: rapid.SampledFrom([]string{"a", "a bell", "a bell that was cast at Hollin"}).Draw(t, "label")}
			switch rapid.IntRange(0, 3).Draw(t, "what") {
			case 0:
				op = author.Operation(t, m)
			case 1:
				op = &edit.Remove{Concepts: []cm.ID{id}}
			}
			out, err := edit.Apply(m, []edit.Operation{op}, room)
			if err != nil {
				continue
			}
			before := sc
			m, s = out.Map, structure.Next(s, out.Map)
			sc = scene.Build(m, s, scene.View{}, before)
			slips, links, goneSlips, goneLinks := scene.Diff(before, sc)
			differs := func(id cm.ID) bool { return before.Slips[id] != sc.Slips[id] && sc.Slips[id] != nil }
			require.Equal(t, len(slips), count(sc.Slips, differs))
			for _, id := range links {
				require.NotSame(t, before.Links[id], sc.Links[id])
			}
			for id, l := range sc.Links {
				require.True(t, before.Links[id] == l || slices.Contains(links, id), "link %s", id)
			}
			for id := range before.Slips {
				require.Equal(t, sc.Slips[id] == nil, slices.Contains(goneSlips, id))
			}
			for id := range before.Links {
				require.Equal(t, sc.Links[id] == nil, slices.Contains(goneLinks, id))
			}
		}
		fresh := build(m, scene.View{})
		require.Len(t, sc.Links, len(fresh.Links))
		for id, l := range fresh.Links {
			require.Equal(t, drawn(l), drawn(sc.Links[id]), "link %s", id)
		}
	})
}

func count[E any](all map[cm.ID]*E, is func(cm.ID) bool) (n int) {
	for id := range all {
		if is(id) {
			n++
		}
	}
	return n
}

package conceptmap_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
)

func apply(t *testing.T, m *cm.Map, ops ...edit.Operation) *cm.Map {
	out, err := edit.Apply(m, ops, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	return out.Map
}

// What belongs to a concept passes to its heir, and what was of a kind to the kind
// that stays.
func TestMeaningPassesOn(t *testing.T) {
	m := apply(t, tower(t),
		&edit.AddTag{ID: "old", Name: "old"}, &edit.AddTag{ID: "again", Name: "Old", Reuse: true},
		&edit.AssignTag{Concepts: []cm.ID{"crown"}, Tag: "again", On: true},
		&edit.AddRegion{ID: "top", Title: "the top", Concepts: []cm.ID{"crown"}, Branches: []cm.ID{"clapper"}},
		&edit.SetDuration{Concept: "crown", Lasts: "1,5 h"}, &edit.SetIcons{Concepts: []cm.ID{"crown"}, Icons: []cm.Icon{"bell", "bell"}},
		&edit.AddKind{ID: "brass", Name: "brass", Meaning: "of copper"}, &edit.AssignKind{Concepts: []cm.ID{"rim"}, Kind: "brass"},
		&edit.AddKind{ID: "cause", Name: "metal", Links: true, Stroke: cm.StrokeHeavy}, &edit.AssignKind{Links: []cm.ID{"c-hits"}, Kind: "cause"},
		&edit.SaveFilter{ID: "f", Name: "metals", Match: cm.MatchAny, Conditions: []cm.Condition{{About: cm.AboutKind, Value: "brass"}}},
	)
	assert.Len(t, m.Tags, 1, "a tag of that name was there")
	assert.Equal(t, map[cm.ID]bool{"crown": true, "clapper": true}, m.Inside(m.Regions["top"]))
	merged := apply(t, m, &edit.MergeConcepts{Keep: "rim", Gone: "crown"}, &edit.MergeKinds{Keep: "metal", Gone: "brass"})
	rim := merged.Concepts["rim"]
	assert.Equal(t, map[cm.ID]bool{"old": true}, rim.Tags)
	assert.Equal(t, []cm.Icon{"bell"}, rim.Icons)
	assert.Equal(t, "1.5 h", rim.Lasts.Words())
	assert.Equal(t, cm.ID("metal"), rim.Kind)
	assert.True(t, merged.Inside(merged.Regions["top"])["rim"])
	assert.Equal(t, "of copper", merged.Words(merged.Kinds["metal"].Meaning))
	assert.Equal(t, "metal", merged.Filters["f"].Conditions[0].Value)

	gone := apply(t, merged, &edit.RemoveTag{Tag: "old"}, &edit.RemoveKind{Kind: "cause"})
	assert.Nil(t, gone.Concepts["rim"].Tags)
	assert.Empty(t, gone.Links["c-hits"].Kind)

	// A branch is inside with what is added to it.
	more := apply(t, m, &edit.AddConcept{ID: "ball", Label: "ball"}, &edit.AddLink{ID: "x", From: end("f", "clapper"), To: end("t", "ball")})
	assert.True(t, more.Inside(more.Regions["top"])["ball"])
	_, err := edit.Apply(more, []edit.Operation{&edit.PutInRegion{Region: "top", Concepts: []cm.ID{"ball"}}}, nil)
	assert.ErrorContains(t, err, "inside with its branch")

	ordered := apply(t, m, &edit.OrderKinds{Order: []cm.ID{"brass"}})
	var names []cm.ID
	for _, k := range ordered.Key() {
		names = append(names, k.ID)
	}
	assert.Equal(t, []cm.ID{"brass", "metal", "cause"}, names, "kinds of links stand last")
}

// Hand-computed: what people write for amounts and durations, and what durations
// come to.
func TestAmounts(t *testing.T) {
	for words, want := range map[string]string{"340 m/s": "340 m/s", "-1,5": "-1.5", "  12kg ": "12 kg", "−40 °C": "-40 °C", "2 beats per": "2 beats per"} {
		a, err := cm.ReadAmount(words)
		require.NoError(t, err, words)
		assert.Equal(t, want, a.Words())
	}
	for words, want := range map[string]string{"20": "20 min", "1.5 hours": "1.5 h", "1 day": "1 day", "2 Wochen": "2 weeks", "0 min": "0 min"} {
		a, err := cm.ReadDuration(words)
		require.NoError(t, err, words)
		assert.Equal(t, want, a.Words())
	}
	for _, words := range []string{"soon", "3 bells", "-5 min", "1e9 min", "20 min 5"} {
		_, err := cm.ReadDuration(words)
		assert.Error(t, err, words)
	}
	var sum cm.Lasting
	for _, words := range []string{"20 min", "1.5 h", "3 days", "1 week"} {
		a, err := cm.ReadDuration(words)
		require.NoError(t, err)
		sum = sum.Add(a)
	}
	assert.Equal(t, "10 days and 1 h 50 min", sum.Words())
	assert.Empty(t, cm.Lasting{}.Words())
}

// Another kind looks like none before it, as long as there are looks left; kinds
// of links and of concepts do not take them from each other.
func TestAnotherKindLooksDifferent(t *testing.T) {
	m := tower(t)
	var colours []cm.Colour
	var outlines []cm.Outline
	for _, k := range m.Kinds {
		colours, outlines = append(colours, k.Colour), append(outlines, k.Outline)
	}
	for i := range cm.MaxKinds / 2 {
		colour, outline, stroke := m.FreeLook(i%2 == 1)
		m = apply(t, m, &edit.AddKind{ID: cm.ID(fmt.Sprintf("k%d", i)), Name: fmt.Sprint("kind ", i), Links: i%2 == 1, Colour: colour, Outline: outline, Stroke: stroke})
		if i%2 == 0 {
			colours, outlines = append(colours, colour), append(outlines, outline)
		}
	}
	assert.ElementsMatch(t, cm.Colours, colours[:len(cm.Colours)])
	assert.ElementsMatch(t, cm.Outlines, outlines[:len(cm.Outlines)])
	first := m.FreeColour()
	m = apply(t, m, &edit.AddTag{ID: "t1", Name: "heard", Colour: first})
	assert.NotEqual(t, first, m.FreeColour())
}

// Steps are numbered in the order in which they are named; other icons stay, and a
// number is never there twice on one concept.
func TestStepsAreNumbered(t *testing.T) {
	m := bells(t)
	apply := func(op edit.Operation) error {
		out, err := edit.Apply(m, []edit.Operation{op}, nil)
		if err == nil {
			m = out.Map
		}
		return err
	}
	require.NoError(t, apply(&edit.SetIcons{Concepts: []cm.ID{"rim"}, Icons: []cm.Icon{"bell", "step-9", "ear"}}))
	require.NoError(t, apply(&edit.NumberSteps{Concepts: []cm.ID{"lip", "rim"}, From: 4}))
	assert.Equal(t, []cm.Icon{"step-4"}, m.Concepts["lip"].Icons)
	assert.Equal(t, []cm.Icon{"step-5", "bell", "ear"}, m.Concepts["rim"].Icons)
	for icon, number := range map[cm.Icon]int{"step-1": 1, "step-99": 99, "step-0": 0, "step-100": 0, "step-07": 0, "steps": 0, "step-a": 0} {
		n, is := icon.Step()
		assert.Equal(t, number > 0, is, icon)
		if is {
			assert.Equal(t, number, n)
		}
	}
	require.NoError(t, apply(&edit.NumberSteps{Concepts: []cm.ID{"lip", "rim"}}))
	assert.Nil(t, m.Concepts["lip"].Icons)
	assert.Equal(t, []cm.Icon{"bell", "ear"}, m.Concepts["rim"].Icons)
	require.NoError(t, apply(&edit.SetIcons{Concepts: []cm.ID{"rim"}, Icons: []cm.Icon{"bell", "ear", "wind", "brain"}}))
	for words, op := range map[string]*edit.NumberSteps{"from 1 to 99": {Concepts: []cm.ID{"lip", "rim"}, From: 99}, "4 icons already": {Concepts: []cm.ID{"rim"}, From: 1}, "no longer": {Concepts: []cm.ID{"gone"}, From: 1}} {
		assert.ErrorContains(t, apply(op), words)
	}
	// One more drives the oldest out; a number stands first, and there is one.
	require.NoError(t, apply(&edit.AddIcon{Concepts: []cm.ID{"rim", "lip"}, Icon: "hand"}))
	assert.Equal(t, []cm.Icon{"ear", "wind", "brain", "hand"}, m.Concepts["rim"].Icons)
	assert.Equal(t, []cm.Icon{"hand"}, m.Concepts["lip"].Icons, "each keeps its own")
	for _, icon := range []cm.Icon{"step-2", "wind", "step-3"} {
		require.NoError(t, apply(&edit.AddIcon{Concepts: []cm.ID{"rim"}, Icon: icon}))
	}
	assert.Equal(t, []cm.Icon{"step-3", "ear", "brain", "wind"}, m.Concepts["rim"].Icons)
}

// What hangs from a concept follows its look, unless it was set apart.
func TestABranchFollowsItsLook(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	oval, lozenge := cm.OutlineOval, cm.OutlineLozenge
	m := bells(t)
	apply := func(ops ...edit.Operation) {
		t.Helper()
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
	}
	outlines := func() (all []string) {
		for _, id := range []cm.ID{"bell", "rim", "lip", "beside"} {
			all = append(all, string(m.OutlineOf(m.Concepts[id])))
		}
		return all
	}
	apply(&edit.SetFocus{Concept: "bell"}, &edit.AddLink{ID: "ends", From: end("f", "rim"), To: end("t", "lip")}, &edit.AddConcept{ID: "beside"})
	apply(&edit.SetPaint{Concepts: []cm.ID{"bell"}, Outline: &oval, Below: true})
	assert.Equal(t, []string{"oval", "oval", "oval", ""}, outlines())
	apply(&edit.SetPaint{Concepts: []cm.ID{"lip"}, Outline: &lozenge}) // set apart
	before := m
	out, err := edit.Apply(m, []edit.Operation{&edit.SetPaint{Concepts: []cm.ID{"bell"}, Clear: true, Below: true}}, nil)
	require.NoError(t, err)
	m = out.Map
	assert.Equal(t, []string{"", "", "lozenge", ""}, outlines())
	assert.Equal(t, doc(t, before), doc(t, history.Invert(m, out.Changes).Map))
}

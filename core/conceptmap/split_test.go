package conceptmap_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/likeness"
)

func TestAnEndWithALinkOfItsOwnSaysTheSame(t *testing.T) {
	out, err := edit.Apply(tower(t), []edit.Operation{
		&edit.NameLink{Link: "b-has", Lang: "de", Phrase: "hat"}, &edit.SetNote{On: cm.Key{Kind: cm.EntityLink, ID: "b-has"}, Note: "parts"},
		&edit.SplitEnd{Link: "b-has", End: "t2", New: "own"},
	}, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	m := out.Map
	assert.Equal(t, "bell has rim", m.Says(m.Links["b-has"]))
	assert.Equal(t, "bell has crown", m.Says(m.Links["own"]))
	assert.Equal(t, []string{"hat", "parts"}, []string{m.Links["own"].Phrase["de"], m.Links["own"].Note["en"]})
	before := tower(t).Concepts["crown"].Main
	assert.Equal(t, &cm.Main{Strand: cm.Strand{Link: "own", From: before.From, To: "t2"}, Rank: before.Rank}, m.Concepts["crown"].Main, "its place among its siblings stays")
	assert.Equal(t, tower(t).Concepts["rim"].Main, m.Concepts["rim"].Main)
	assert.Equal(t, []draft.Moved{{Kind: cm.EntityLink, OldLink: "b-has", Old: "t2", NewLink: "own", New: "t2"}}, out.Moved)
	for end, words := range map[cm.ID]string{"t1": "only one on its side", "gone": "gone already"} {
		_, err := edit.Apply(m, []edit.Operation{&edit.SplitEnd{Link: "b-has", End: end, New: "x"}}, nil)
		assert.ErrorContains(t, err, words)
	}
}

// Two become one and one becomes two; what hung there hangs on, in its place.
func TestJoiningAndParting(t *testing.T) {
	do := func(m *cm.Map, ops ...edit.Operation) history.Outcome {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out
	}
	m := tower(t)
	parent := func(m *cm.Map, id cm.ID) cm.ID { return m.Parent(m.Concepts[id]) }

	// One in between: what stood below the one end stands below the new one.
	n := do(m, &edit.InsertConcept{Link: "a-struck", End: "t", Concept: "rope", Label: "rope", Into: "i", New: "next", NewFrom: "nf", NewTo: "nt", Phrase: "swings"}).Map
	assert.Equal(t, []string{"bell is struck by rope", "rope swings clapper"}, []string{n.Says(n.Links["a-struck"]), n.Says(n.Links["next"])})
	assert.Equal(t, []cm.ID{"bell", "rope"}, []cm.ID{parent(n, "rope"), parent(n, "clapper")})
	assert.Equal(t, m.Concepts["clapper"].Rank(), n.Concepts["clapper"].Rank())
	// Also against the arrow, and into a fan.
	against := do(m, &edit.AddConcept{ID: "far", Label: "far"}, &edit.AddLink{ID: "back", Phrase: "lies by", From: end("f", "far"), To: end("t", "loose")}, &edit.SetFocus{Concept: "loose"}).Map
	n = do(against, &edit.InsertConcept{Link: "back", End: "t", Concept: "x", Label: "x", Into: "i", New: "next", NewFrom: "nf", NewTo: "nt"}).Map
	assert.Equal(t, []cm.ID{"x", "loose"}, []cm.ID{parent(n, "far"), parent(n, "x")})
	n = do(m, &edit.InsertConcept{Link: "b-has", End: "t2", Concept: "x", Label: "x", Into: "i", New: "next", NewFrom: "nf", NewTo: "nt"}).Map
	assert.Equal(t, "bell has x, rim", n.Says(n.Links["b-has"]))
	assert.Equal(t, cm.ID("x"), parent(n, "crown"))

	// An end of its own and joined again, all is as it was; the names of ends may differ.
	parted := do(m, &edit.SplitEnd{Link: "b-has", End: "t2", New: "own"}).Map
	assert.Equal(t, []cm.ID{"own"}, parted.Alike("b-has"))
	again := do(parted, &edit.MergeLinks{Keep: "b-has", Gone: "own"})
	assert.Equal(t, "bell has rim, crown", again.Map.Says(again.Map.Links["b-has"]))
	assert.Equal(t, doc(t, m), doc(t, again.Map))
	assert.Contains(t, again.Moved, draft.Moved{Kind: cm.EntityLink, OldLink: "own", Old: "t2", NewLink: "b-has", New: "t2"})
	seen := do(parted, &edit.AddStop{ID: "s9", Route: "r", Refs: []cm.Key{{Kind: cm.EntityLink, ID: "own"}}}, &edit.MergeLinks{Keep: "b-has", Gone: "own"}).Map
	assert.Equal(t, cm.ID("b-has"), seen.Stops["s9"].Refs[0].ID, "a stop shows the one that stays")
	same := do(m, &edit.AddLink{ID: "twin", Phrase: "HAS", From: end("t1", "bell"), To: end("f", "loose")}).Map
	joined := do(same, &edit.MergeLinks{Keep: "b-has", Gone: "twin"})
	assert.Equal(t, "bell has loose, rim, crown", joined.Map.Says(joined.Map.Links["b-has"]))
	assert.Equal(t, cm.ID("bell"), parent(joined.Map, "loose"), "an end whose name was taken goes on under another")

	// One that means two things: the strands that are named go to the other.
	n = do(m, &edit.SplitConcept{Concept: "rim", New: "edge", Label: "edge", Ends: []edit.EndAt{{Link: "b-has", End: "t1"}}}).Map
	assert.Equal(t, "bell has edge, crown", n.Says(n.Links["b-has"]))
	assert.Equal(t, []cm.ID{"bell", "clapper"}, []cm.ID{parent(n, "edge"), parent(n, "rim")}, "each stands where its strands put it")
	assert.Equal(t, m.Concepts["rim"].Rank(), n.Concepts["edge"].Rank())
	n = do(m, &edit.SplitConcept{Concept: "bell", New: "gong", Label: "gong", Ends: []edit.EndAt{{Link: "b-has", End: "f"}}}).Map
	assert.Equal(t, []cm.ID{"gong", "gong", "bell"}, []cm.ID{parent(n, "rim"), parent(n, "crown"), n.Focus})

	// A link read both ways becomes one each way; any other gets an open one beside it.
	n = do(m, &edit.SetHeads{Link: "c-hits", Heads: cm.HeadsBoth}, &edit.SecondLink{Link: "c-hits", New: "two"}).Map
	assert.Equal(t, []string{"clapper hits rim", "rim hits clapper"}, []string{n.Says(n.Links["c-hits"]), n.Says(n.Links["two"])})
	n = do(m, &edit.SecondLink{Link: "c-hits", New: "two"}).Map
	assert.Equal(t, "clapper (no words yet) rim", n.Says(n.Links["two"]))
}

// What was led by hand goes along with what it belongs to, and with nothing else.
func TestLinesLedByHand(t *testing.T) {
	hub := cm.Point{X: 5, Y: 60}
	out, err := edit.Apply(tower(t), []edit.Operation{
		&edit.Bend{Link: "a-struck", End: "f", Bends: []cm.Point{{X: 10.1, Y: 20}, {X: 30, Y: 40}}}, &edit.PlacePhrase{Link: "a-struck", Along: 0.25},
		&edit.Bend{Link: "b-has", End: "t1", Bends: []cm.Point{{X: 1, Y: 2}}}, &edit.PlacePhrase{Link: "b-has", Hub: &hub},
	}, nil)
	require.NoError(t, err)
	m := out.Map
	do := func(ops ...edit.Operation) *cm.Map {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out.Map
	}
	assert.Equal(t, []cm.Point{{X: 10, Y: 20}, {X: 30, Y: 40}}, m.Links["a-struck"].Bends["f"])
	n := do(&edit.Shift{Concepts: []cm.ID{"bell", "rim", "crown"}, By: cm.Point{X: 100, Y: 4}})
	assert.Equal(t, &cm.Point{X: 105, Y: 64}, n.Links["b-has"].Hub)
	assert.Equal(t, []cm.Point{{X: 101, Y: 6}}, n.Links["b-has"].Bends["t1"])
	assert.Equal(t, m.Links["a-struck"].Bends, n.Links["a-struck"].Bends, "the clapper stayed")
	assert.Equal(t, &hub, m.Links["b-has"].Hub)
	n = do(&edit.ReverseLink{Link: "a-struck"})
	assert.Equal(t, 0.75, n.Links["a-struck"].Along, "it stands where it stood")
	n = do(&edit.RemoveEnd{Link: "b-has", End: "t1"})
	assert.Empty(t, n.Links["b-has"].Bends)
	n = do(&edit.FreeLines{Links: []cm.ID{"a-struck", "b-has"}})
	assert.Equal(t, doc(t, tower(t)), doc(t, n))
}

func TestTheLanguageOfTheAuthorsWords(t *testing.T) {
	out, err := edit.Apply(tower(t), []edit.Operation{&edit.NameConcept{Concept: "rim", Lang: "de", Label: "Rand"}, &edit.SetLanguage{Language: "de"}, &edit.NameConcept{Concept: "bell", Label: "Glocke"}}, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	assert.Equal(t, cm.Text{"de": "Glocke"}, out.Map.Concepts["bell"].Label, "no word stays behind under the other language")
	assert.Equal(t, cm.Text{"de": "Rand", "en": "rim"}, out.Map.Concepts["rim"].Label, "a translation stays one")
	assert.Equal(t, "has", out.Map.Links["b-has"].Phrase["de"])
}

func TestSeekingWords(t *testing.T) {
	replaced := func(words, sought, with string) string {
		after, ok := likeness.Replaced(words, sought, with, 100)
		assert.True(t, ok)
		return after
	}
	_, ok := likeness.Replaced("aaaa", "a", strings.Repeat("b", 30), 100)
	assert.False(t, ok, "longer than it may become")
	assert.Equal(t, "gong gong, bel", replaced("Bell bELL, bel", "bell", "gong"))
	assert.Equal(t, "aXa", replaced("aÄßäßa", "Äßäß", "X"))
	assert.Equal(t, "bb", replaced("aaaa", "aa", "b"))
	assert.Equal(t, "same", replaced("same", "", "x"))
	assert.Equal(t, []likeness.Part{{Words: "ein "}, {Words: "GLOCK", Sought: true}, {Words: "enturm"}}, likeness.Parted("ein GLOCKenturm", "glock"))
	assert.True(t, likeness.Holds("ton d’ÉTÉ", "été"))
	assert.False(t, likeness.Holds("bell", ""))
}

package conceptmap_test

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/message"
)

func pointer[V any](v V) *V { return &v }

func end(id, concept cm.ID) []cm.End { return []cm.End{{ID: id, Concept: concept}} }

// tower is a small map: bell at the top, with clapper, rim and crown below it;
// clapper and rim joined by a further link; a route with two stops.
func tower(t *testing.T) *cm.Map {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "bell", Label: "bell"}, &edit.SetFocus{Concept: "bell"},
		&edit.AddConcept{ID: "clapper", Label: "clapper"}, &edit.AddConcept{ID: "rim", Label: "rim"}, &edit.AddConcept{ID: "crown", Label: "crown"},
		&edit.AddConcept{ID: "loose", Label: "loose"},
		&edit.AddLink{ID: "a-struck", Phrase: "is struck by", From: end("f", "bell"), To: end("t", "clapper")},
		&edit.AddLink{ID: "b-has", Phrase: "has", From: end("f", "bell"), To: []cm.End{{ID: "t1", Concept: "rim"}, {ID: "t2", Concept: "crown"}}},
		&edit.AddLink{ID: "c-hits", Phrase: "hits", From: end("f", "clapper"), To: end("t", "rim")},
		&edit.AddKind{ID: "metal", Name: "metal", Colour: "straw"}, &edit.AssignKind{Concepts: []cm.ID{"bell", "clapper"}, Kind: "metal"},
		&edit.AddRoute{ID: "r", Title: "first"},
		&edit.AddStop{ID: "s1", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}},
		&edit.AddStop{ID: "s2", Route: "r", After: "s1", Refs: []cm.Key{{Kind: cm.EntityLink, ID: "c-hits"}}},
	}, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	return out.Map
}

// What cannot be done is refused in words that a person understands, and the
// map stays as it is.
func TestRefusals(t *testing.T) {
	m := tower(t)
	before := doc(t, m)
	for _, c := range []struct {
		op   edit.Operation
		says string
	}{
		{&edit.AddConcept{ID: "bell"}, "has that name already"},
		{&edit.AddConcept{ID: "r"}, "has that name already"},
		{&edit.AddConcept{ID: "a b"}, "proper name"},
		{&edit.AddConcept{ID: "x", At: cm.Point{X: cm.FarthestPlace + 1}}, "too far off the paper"},
		{&edit.AddConcept{ID: "x", Lang: "english!"}, "name of a language"},
		{&edit.NameConcept{Concept: "bell", Label: " \n "}, "at least one word"},
		{&edit.NameConcept{Concept: "gone", Label: "x"}, "no longer on the map"},
		{&edit.Move{Places: map[cm.ID]cm.Point{"bell": {}, "gone": {}}}, "no longer on the map"},
		{&edit.Remove{Concepts: []cm.ID{"gone"}}, "no longer on the map"},
		{&edit.Remove{Links: []cm.ID{"gone"}}, "no longer on the map"},
		{&edit.MergeConcepts{Keep: "bell", Gone: "bell"}, "with itself"},
		{&edit.RankConcept{Concept: "bell"}, "below another"},
		{&edit.RankConcept{Concept: "rim", After: "loose"}, "no longer stand below the same"},
		{&edit.StepRank{Concept: "clapper", Step: -1}, "first of its siblings"},
		{&edit.StepRank{Concept: "crown", Step: 3}, "last of its siblings"},
		{&edit.ShiftLevel{Concept: "bell", Way: edit.WayUp}, "below another"},
		{&edit.ShiftLevel{Concept: "rim", Way: edit.WayUp}, "as high as it can be"},
		{&edit.ShiftLevel{Concept: "clapper", Way: edit.WayDown}, "no sibling before it"},
		{&edit.ShiftLevel{Concept: "rim", Way: "aside"}, "up or down"},
		{&edit.Reparent{Concept: "bell", Below: "rim", Link: "n", Own: "o", Parent: "p"}, "stands at the top"},
		{&edit.Reparent{Concept: "clapper", Below: "clapper", Link: "n", Own: "o", Parent: "p"}, "below itself"},
		{&edit.Reparent{Concept: "rim", Below: "bell", After: "loose", Link: "n", Own: "o", Parent: "p"}, "no longer stand below the same"},
		{&edit.SetOrder{Parent: "bell", Order: []cm.ID{"rim", "loose"}}, "no longer stand below the same"},
		{&edit.SetMain{Concept: "rim", Strand: cm.Strand{Link: "a-struck", From: "f", To: "t"}}, "does not join this concept"},
		{&edit.SetMain{Concept: "bell", Strand: cm.Strand{Link: "a-struck", From: "f", To: "t"}}, "stands at the top"},
		{&edit.SetNote{On: cm.Key{Kind: cm.EntityRoute, ID: "r"}, Note: "x"}, "Only concepts, links, regions and maps"},
		{&edit.AddLink{ID: "l", From: end("f", "bell")}, "both of its ends"},
		{&edit.AddLink{ID: "l", From: end("f", "bell"), To: end("f", "rim")}, "proper name of its own"},
		{&edit.AddLink{ID: "l", From: end("f", "bell"), To: []cm.End{{ID: "a", Concept: "rim"}, {ID: "b", Concept: "rim"}}}, "at this end of the phrase already"},
		{&edit.AddLink{ID: "l", From: end("f", "bell"), To: end("t", "gone")}, "no longer on the map"},
		{&edit.AddLink{ID: "l", From: end("f", "bell"), To: end("t", "rim"), Heads: "three"}, "one way, both ways or none"},
		{&edit.AddEnd{Link: "b-has", Side: cm.SideTo, End: cm.End{ID: "t3", Concept: "rim"}}, "already"},
		{&edit.AddEnd{Link: "b-has", Side: "middle", End: cm.End{ID: "t3", Concept: "loose"}}, "two sides"},
		{&edit.RemoveEnd{Link: "a-struck", End: "t"}, "both of its ends"},
		{&edit.RemoveEnd{Link: "a-struck", End: "x"}, "gone already"},
		{&edit.MoveEnd{Link: "a-struck", Old: "x", End: cm.End{ID: "y", Concept: "rim"}}, "gone already"},
		{&edit.SetLanguage{Language: "x"}, "name of a language"},
		{&edit.NameRoute{Route: "gone"}, "gone already"},
		{&edit.AddStop{ID: "s3", Route: "gone"}, "gone already"},
		{&edit.AddStop{ID: "s3", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "c-hits"}}}, "no longer on the map"},
		{&edit.AddStop{ID: "s3", Route: "r", After: "gone"}, "gone from this route"},
		{&edit.ShowAtStop{Stop: "gone"}, "gone already"},
		{&edit.ShowAtStop{Stop: "s1", Refs: []cm.Key{{Kind: cm.EntityLink, ID: "bell"}}}, "no longer on the map"},
		{&edit.AddKind{ID: "x", Name: "way", Links: true, Outline: cm.OutlineOval}, "for this kind"},
		{&edit.SetKind{Kind: "metal", Icon: pointer(cm.Icon("<svg>"))}, "for this kind"},
		{&edit.AssignKind{Links: []cm.ID{"c-hits"}, Kind: "metal"}, "kind of concepts"},
		{&edit.MergeKinds{Keep: "metal", Gone: "metal"}, "with itself"},
		{&edit.MergeKinds{Keep: "metal", Gone: "gone"}, "gone from the key"},
		{&edit.OrderKinds{Order: []cm.ID{"gone"}}, "gone from the key"},
		{&edit.AddTag{ID: "x", Name: " "}, "at least one word"},
		{&edit.AssignTag{Concepts: []cm.ID{"bell"}, Tag: "gone", On: true}, "tag is gone"},
		{&edit.AddRegion{ID: "x"}, "something inside"},
		{&edit.AddRegion{ID: "x", Concepts: []cm.ID{"gone"}}, "no longer on the map"},
		{&edit.AddRegion{ID: "x", Concepts: []cm.ID{"bell"}, Stroke: "dotted"}, "colour or border"},
		{&edit.SaveFilter{ID: "x", Name: "f", Match: cm.MatchAny}, "asks for nothing"},
		{&edit.SaveFilter{ID: "x", Name: "f", Match: "some", Conditions: []cm.Condition{{About: cm.AboutTag}}}, "or for any"},
		{&edit.SaveFilter{ID: "x", Name: "f", Match: cm.MatchAny, Conditions: []cm.Condition{{About: cm.AboutLevel, Value: "two"}}}, "cannot be asked"},
		{&edit.SetDuration{Concept: "bell", Lasts: "long"}, "no duration"},
		{&edit.SetIcons{Concepts: []cm.ID{"bell"}, Icons: []cm.Icon{"A B"}}, "no such icon"},
		{&edit.AddIcon{Concepts: []cm.ID{"bell"}, Icon: "A B"}, "no such icon"},
		{&edit.SetRule{Rule: "<no>"}, "no rule of that name"},
		{&edit.WriteStop{Stop: "s1", Part: "colour"}, "a title, a card, a question"},
		{&edit.Shift{Concepts: []cm.ID{"bell"}, By: cm.Point{X: 9e9}}, "too far off the paper"},
		{&edit.MergeLinks{Keep: "a-struck", Gone: "a-struck"}, "with itself"},
		{&edit.MergeLinks{Keep: "a-struck", Gone: "b-has"}, "say different things"},
		{&edit.SplitConcept{Concept: "bell", New: "x", Label: " "}, "words of its own"},
		{&edit.SplitConcept{Concept: "bell", New: "x", Label: "y", Ends: []edit.EndAt{{Link: "a-struck", End: "t"}}}, "gone already"},
		{&edit.InsertConcept{Link: "a-struck", End: "f", Concept: "x", Label: "y", Into: "i", New: "n", NewFrom: "a", NewTo: "b"}, "gone already"},
		{&edit.InsertConcept{Link: "a-struck", End: "t", Concept: "x", Label: "Clapper", Into: "i", New: "n", NewFrom: "a", NewTo: "b"}, "at this end"},
		{&edit.SetLine{Links: []cm.ID{"a-struck"}, Line: "wavy"}, "straight, curved or stepped"},
		{&edit.Bend{Link: "a-struck", End: "x", Bends: []cm.Point{{}}}, "gone already"},
		{&edit.Bend{Link: "a-struck", End: "f", Bends: make([]cm.Point, cm.MaxBends+1)}, "at most 40 places"},
		{&edit.Bend{Link: "a-struck", End: "f", Bends: []cm.Point{{X: 9e9}}}, "too far off the paper"},
		{&edit.PlacePhrase{Link: "a-struck", Along: 1}, "between the ends"},
		{&edit.SetType{Concepts: []cm.ID{"bell"}, Size: new(9)}, "cannot be set that way"},
		{&edit.SetType{Concepts: []cm.ID{"bell"}, Width: new(12.0)}, "cannot be set that way"},
		{&edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s", Source: cm.Source{URL: "javascript:alert(1)"}}, "no web address"},
		{&edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s", Source: cm.Source{URL: "https://a:b@hollin.example"}}, "no web address"},
		{&edit.DetachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s"}, "gone already"},
		{&edit.SetOpening{Tucked: []cm.ID{"gone"}}, "no longer on the map"},
		{&edit.AddKind{ID: "bell", Name: "x"}, "has that name already"},
		{&edit.AddKind{ID: "k", Name: " "}, "at least one word"},
		{&edit.AddKind{ID: "k", Name: " Metal"}, "has a kind “Metal” already"},
		{&edit.AddKind{ID: "k", Name: "x", Colour: "red"}, "no such colour"},
		{&edit.SetKind{Kind: "metal", Outline: new(cm.Outline("cloud"))}, "no such colour, outline"},
		{&edit.SetKind{Kind: "gone"}, "gone from the key"},
		{&edit.RemoveKind{Kind: "gone"}, "gone from the key"},
		{&edit.AssignKind{Concepts: []cm.ID{"bell"}, Kind: "gone"}, "gone from the key"},
		{&edit.AssignKind{Concepts: []cm.ID{"gone"}, Kind: "metal"}, "no longer on the map"},
		{&edit.SetHand{Hand: "left"}, "no such hand"},
	} {
		_, err := edit.Apply(m, []edit.Operation{&edit.NameMap{Title: "before"}, c.op}, nil)
		var words *cm.Refusal
		require.ErrorAs(t, err, &words, "%T", c.op)
		assert.Contains(t, words.Error(), c.says, "%T", c.op)
		assert.Equal(t, before, doc(t, m))
	}
}

func TestTheHierarchyFollowsItsLinks(t *testing.T) {
	m := tower(t)
	apply := func(ops ...edit.Operation) *cm.Map {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out.Map
	}
	parent := func(m *cm.Map, id cm.ID) cm.ID { return m.Parent(m.Concepts[id]) }

	// The main strand vanishes: the rim takes the strand that is left.
	assert.Equal(t, cm.ID("clapper"), parent(apply(&edit.RemoveEnd{Link: "b-has", End: "t1"}), "rim"))
	// With it the whole link: both take what is left, the crown nothing.
	n := apply(&edit.Remove{Links: []cm.ID{"b-has"}})
	assert.Equal(t, []cm.ID{"clapper", ""}, []cm.ID{parent(n, "rim"), parent(n, "crown")})
	// Another main strand by choice, and a link turned round keeps it.
	n = apply(&edit.SetMain{Concept: "rim", Strand: cm.Strand{Link: "c-hits", From: "f", To: "t"}}, &edit.ReverseLink{Link: "c-hits"})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
	assert.Equal(t, cm.ID("rim"), n.Links["c-hits"].From[0].Concept)
	// An end led elsewhere: the clapper loses its strand, the loose idea gains one.
	n = apply(&edit.MoveEnd{Link: "a-struck", Old: "t", End: cm.End{ID: "u", Concept: "loose"}})
	assert.Equal(t, []cm.ID{"bell", "rim"}, []cm.ID{parent(n, "loose"), parent(n, "clapper")})
	// One more concept shares a phrase, and hangs from it.
	n = apply(&edit.AddEnd{Link: "b-has", Side: cm.SideTo, End: cm.End{ID: "t3", Concept: "loose"}})
	assert.Equal(t, cm.ID("bell"), parent(n, "loose"))
	// Levels: alone on its phrase, a concept takes the phrase along; sharing it,
	// it gets one of its own; against the arrow it keeps its side.
	n = apply(&edit.ShiftLevel{Concept: "rim", Way: edit.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
	assert.Equal(t, []string{"has", "has"}, []string{n.Links["b-has"].Phrase["en"], n.Links["n"].Phrase["en"]})
	assert.Len(t, n.Links["b-has"].To, 1)
	n = apply(&edit.ShiftLevel{Concept: "crown", Way: edit.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, []string{"bell has rim", "rim has crown"}, []string{n.Says(n.Links["b-has"]), n.Says(n.Links["n"])}, "below one that shares its phrase")
	n = apply(&edit.ReverseLink{Link: "a-struck"}, &edit.StepRank{Concept: "clapper", Step: 1}, &edit.ShiftLevel{Concept: "clapper", Way: edit.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, cm.ID("rim"), parent(n, "clapper"))
	assert.Equal(t, []cm.End{{ID: "p", Concept: "rim"}}, n.Links["a-struck"].To)
	// Hung elsewhere by hand, it takes its phrase along and stands where it was put;
	// a loose idea gets an open link.
	n = apply(&edit.Reparent{Concept: "crown", Below: "clapper", Link: "n", Own: "o", Parent: "p"}, &edit.Reparent{Concept: "loose", Below: "clapper", After: "crown", Link: "n2", Own: "o2", Parent: "p2"})
	assert.Equal(t, []cm.ID{"clapper", "clapper"}, []cm.ID{parent(n, "crown"), parent(n, "loose")})
	assert.Equal(t, []string{"clapper has crown", "clapper (no words yet) loose"}, []string{n.Says(n.Links["n"]), n.Says(n.Links["n2"])})
	assert.Less(t, n.Concepts["crown"].Rank(), n.Concepts["loose"].Rank())
	n = apply(&edit.SetOrder{Parent: "bell", Order: []cm.ID{"crown", "clapper"}})
	assert.Less(t, n.Concepts["crown"].Rank(), n.Concepts["clapper"].Rank())
	assert.Less(t, n.Concepts["clapper"].Rank(), n.Concepts["rim"].Rank())
	// The concept in the middle goes: what hung from it is free.
	n = apply(&edit.Remove{Concepts: []cm.ID{"bell"}})
	assert.Equal(t, []cm.ID{"", "", "c-hits"}, []cm.ID{n.Focus, parent(n, "clapper"), cm.SortedIDs(n.Links)[0]})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
}

func TestSayUsesWhatIsThere(t *testing.T) {
	m := tower(t)
	n := 0
	terms := func(words ...string) []edit.Term {
		var all []edit.Term
		for _, w := range words {
			n++
			all = append(all, edit.Term{Words: w, Concept: cm.ID("new" + string(rune('a'+n))), End: cm.ID("end" + string(rune('a'+n)))})
		}
		return all
	}
	say := func(link cm.ID, from []edit.Term, phrase string, to []edit.Term) error {
		out, err := edit.Apply(m, []edit.Operation{&edit.AddProposition{Link: link, From: from, Phrase: phrase, To: to}}, nil)
		if err == nil {
			m = out.Map
			sound(t, m)
		}
		return err
	}
	// Known concepts whatever their case and spaces, a new one, one phrase shared.
	require.NoError(t, say("n1", terms("  BELL "), "has", terms("Crown", "the  waist", "The waist")))
	assert.NotContains(t, m.Links, cm.ID("n1"))
	assert.Len(t, m.Links["b-has"].To, 3)
	assert.Len(t, m.Concepts, 6)
	waist := m.Find("THE WAIST")
	assert.Equal(t, cm.ID("bell"), m.Parent(waist))
	assert.Greater(t, waist.At.Y, m.Concepts["bell"].At.Y, "it stands below what it hangs from")
	// Said again, it is refused; with other words it is another link.
	assert.ErrorContains(t, say("n2", terms("bell"), "Has", terms("the waist", "crown")), "says that already")
	require.NoError(t, say("n3", terms("bell"), "narrows at", terms("the waist")))
	assert.Equal(t, "narrows at", m.Links["n3"].Phrase["en"])
	// Several at the start; nothing known at all; an open phrase.
	require.NoError(t, say("n4", terms("copper", "tin"), "make", terms("bell bronze")))
	assert.Len(t, m.Links["n4"].From, 2)
	require.NoError(t, say("n5", terms("tin"), "", terms("bell")))
	assert.True(t, m.Links["n5"].Phrase.Empty())
	before := len(m.Concepts)
	assert.Error(t, say("n6", terms("something new"), "is", terms(" ")))
	assert.Error(t, say("n6", nil, "is", terms("bell")))
	assert.Len(t, m.Concepts, before)
}

func TestSiblingsKeepTheOrderGivenToThem(t *testing.T) {
	m := tower(t)
	order := func(m *cm.Map) []cm.ID {
		var ids []cm.ID
		for _, id := range []cm.ID{"clapper", "rim", "crown"} {
			at := 0
			for at < len(ids) && m.Concepts[ids[at]].Rank() < m.Concepts[id].Rank() {
				at++
			}
			ids = append(ids[:at], append([]cm.ID{id}, ids[at:]...)...)
		}
		return ids
	}
	assert.Equal(t, []cm.ID{"clapper", "rim", "crown"}, order(m))
	for _, c := range []struct {
		op   edit.Operation
		want []cm.ID
	}{
		{&edit.RankConcept{Concept: "crown"}, []cm.ID{"crown", "clapper", "rim"}},
		{&edit.RankConcept{Concept: "clapper", After: "rim"}, []cm.ID{"rim", "clapper", "crown"}},
		{&edit.StepRank{Concept: "clapper", Step: 1}, []cm.ID{"rim", "clapper", "crown"}},
		{&edit.StepRank{Concept: "crown", Step: -9}, []cm.ID{"crown", "clapper", "rim"}},
	} {
		out, err := edit.Apply(m, []edit.Operation{c.op}, nil)
		require.NoError(t, err)
		assert.Equal(t, c.want, order(out.Map), "%#v", c.op)
		assert.Len(t, out.Changes, 2, "one concept moves, the others stay; and their order counts from now on")
		assert.True(t, out.Map.Concepts["bell"].Ordered)
	}
	// Steps that are siblings stand in the order of their numbers, in the places that they had.
	out, err := edit.Apply(m, []edit.Operation{&edit.NumberSteps{Concepts: []cm.ID{"crown", "clapper", "crown"}, From: 1}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []cm.ID{"crown", "rim", "clapper"}, order(out.Map))
	assert.True(t, out.Map.Concepts["bell"].Ordered)
	// Equal ranks, as two authors can leave behind, are told apart again.
	twin := *m.Concepts["rim"]
	twin.Main = &cm.Main{Strand: twin.Main.Strand, Rank: m.Concepts["crown"].Rank()}
	m.Concepts["rim"] = &twin
	out, err = edit.Apply(m, []edit.Operation{&edit.RankConcept{Concept: "clapper", After: "crown"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []cm.ID{"crown", "clapper", "rim"}, order(out.Map))
}

func TestRoutesAndStops(t *testing.T) {
	m := tower(t)
	out, err := edit.Apply(m, []edit.Operation{
		&edit.AddStop{ID: "s3", Route: "r"}, &edit.MoveStop{Stop: "s1", After: "s2"},
		&edit.WriteStop{Stop: "s3", Part: "card", Words: "Look *here*"}, &edit.WriteStop{Stop: "s3", Part: "guideNotes", Lang: "de", Words: "leise"},
		&edit.NameRoute{Route: "r", Title: "the way"},
	}, nil)
	require.NoError(t, err)
	sound(t, out.Map)
	var order []cm.ID
	for _, s := range out.Map.StopsOf("r") {
		order = append(order, s.ID)
	}
	assert.Equal(t, []cm.ID{"s3", "s2", "s1"}, order)
	assert.Equal(t, "leise", out.Map.Stops["s3"].GuideNotes.For("en", "fr"))
	assert.Equal(t, "hits", out.Map.Stops["s2"].Refs[0].Seen["en"])
	out, err = edit.Apply(out.Map, []edit.Operation{&edit.RemoveStop{Stop: "s2"}, &edit.RemoveRoute{Route: "r"}}, nil)
	require.NoError(t, err)
	assert.Empty(t, out.Map.Stops)
	assert.Empty(t, out.Map.Routes)
}

func TestHistoryWalksBackAndForth(t *testing.T) {
	var h history.History
	add := func(id cm.ID, author string, undoes cm.ID) {
		h.Add(history.Step{Entry: id, Author: author, Undoes: undoes})
	}
	state := func(author string) []cm.ID { return []cm.ID{h.Undoable(author), h.Redoable(author)} }
	assert.Equal(t, []cm.ID{"", ""}, state("ada"))
	add("e1", "ada", "")
	add("e2", "ada", "")
	add("b1", "ben", "")
	add("u2", "ada", "e2")
	assert.Equal(t, []cm.ID{"e1", "u2"}, state("ada"))
	add("u1", "ada", "e1")
	assert.Equal(t, []cm.ID{"", "u1"}, state("ada"))
	add("r1", "ada", "u1") // redo of e1
	assert.Equal(t, []cm.ID{"r1", "u2"}, state("ada"))
	h.Add(history.Step{Entry: "idle", Author: "ada", Idle: true})
	assert.Equal(t, []cm.ID{"r1", "u2"}, state("ada"))
	add("e3", "ada", "") // a new edit ends what could be redone
	assert.Equal(t, []cm.ID{"e3", ""}, state("ada"))
	assert.Equal(t, []cm.ID{"b1", ""}, state("ben"), "nobody undoes another's entry")
}

func TestOvertakenNamesWhatWasWrittenOver(t *testing.T) {
	m := tower(t)
	changes := func(m *cm.Map, op edit.Operation) (*cm.Map, []history.Change) {
		out, err := edit.Apply(m, []edit.Operation{op}, nil)
		require.NoError(t, err)
		return out.Map, out.Changes
	}
	m, first := changes(m, &edit.NameConcept{Concept: "bell", Label: "tenor"})
	m, moved := changes(m, &edit.Move{Places: map[cm.ID]cm.Point{"bell": {X: 9}}})
	_, second := changes(m, &edit.NameConcept{Concept: "bell", Label: "treble"})
	assert.Equal(t, []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}, history.Overtaken(second, history.WrittenBy(first)))
	assert.Empty(t, history.Overtaken(moved, history.WrittenBy(first)), "another field of the same concept")
}

func TestJotsLandWhereTheyBelongAndNeverTwice(t *testing.T) {
	m := tower(t)
	n := 0
	jot := func(words string, under cm.ID) (history.Outcome, error) {
		n++
		id := func(kind string) cm.ID { return cm.ID(fmt.Sprintf("%s%d", kind, n)) }
		out, err := edit.Apply(m, []edit.Operation{&edit.AddIdea{Concept: id("jot"), Words: words, Under: under, Link: id("jl"), Own: id("jo"), Above: id("ja")}}, nil)
		if err == nil {
			sound(t, out.Map)
			m = out.Map
		}
		return out, err
	}
	says := func(id cm.ID) string { return m.Says(m.Links[id]) }
	loose, err := jot("has: a rope", "")
	require.NoError(t, err)
	assert.Equal(t, "has: a rope", m.Concepts["jot1"].Label["en"], "a loose idea has no phrase")
	assert.Empty(t, loose.Moved)
	for _, words := range []string{"hum", "is cast by: the founder", "prime", "is cast by: the smith", "HUM tone"} {
		_, err := jot(words, "bell")
		require.NoError(t, err)
	}
	assert.Equal(t, "bell (no words yet) hum, prime, HUM tone", says("jl2"), "what has no phrase shares one open link")
	assert.Equal(t, "bell is cast by the founder, the smith", says("jl3"))

	again, err := jot(" Has:  A ROPE", "")
	require.NoError(t, err)
	assert.Equal(t, []draft.Moved{{Kind: cm.EntityConcept, Old: "jot7", New: "jot1"}}, again.Moved)
	assert.Equal(t, []message.Message{message.Of("“%s” is on the map already.", "has: a rope")}, again.Notices)
	assert.Empty(t, again.Changes)
	there, err := jot("rim", "jot1")
	require.NoError(t, err)
	assert.Equal(t, "has: a rope (no words yet) rim", says("jl8"), "what is there is linked")
	assert.NotContains(t, fmt.Sprint(there.Changes), "jot8", "and nothing is made")
	for words, want := range map[string]string{"rim": "says that already", "HAS:  a rope": "", " ": "at least one word"} {
		_, err := jot(words, "jot1")
		if want == "" {
			require.NoError(t, err, "with a colon it has a phrase below another concept")
			continue
		}
		require.ErrorContains(t, err, want)
	}
	_, err = jot("bell", "bell")
	require.ErrorContains(t, err, "the idea itself")
	_, err = jot("x", "gone")
	require.ErrorContains(t, err, "no longer on the map")
}

func TestAKindIsOfAllItsConcepts(t *testing.T) {
	m := tower(t)
	apply := func(m *cm.Map, op edit.Operation) history.Outcome {
		out, err := edit.Apply(m, []edit.Operation{op}, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out
	}
	restyled := apply(m, &edit.SetKind{Kind: "metal", Colour: new(cm.Colour("iron")), Meaning: new("rings when struck")})
	assert.Len(t, restyled.Changes, 1, "a kind is changed in one place")
	assert.Equal(t, cm.Colour("iron"), restyled.Map.KindOf(restyled.Map.Concepts["clapper"]).Colour)
	two := apply(m, &edit.AddKind{ID: "part", Name: "part"}).Map
	again, err := edit.Apply(m, []edit.Operation{&edit.AddKind{ID: "other", Name: " METAL", Reuse: true}, &edit.AssignKind{Concepts: []cm.ID{"rim"}, Kind: "other"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []any{cm.ID("metal"), 1}, []any{again.Map.Concepts["rim"].Kind, len(again.Map.Kinds)})
	assert.Equal(t, []cm.ID{"metal", "part"}, []cm.ID{two.Key()[0].ID, two.Key()[1].ID})

	// Taken out of the key, its concepts have none; undone, they have it again.
	gone := apply(m, &edit.RemoveKind{Kind: "metal"})
	assert.Empty(t, gone.Map.Concepts["bell"].Kind)
	assert.Equal(t, doc(t, m), doc(t, history.Invert(gone.Map, gone.Changes).Map))
	// One concept of two kinds, merged, keeps its own; without one it takes the other's.
	assert.Equal(t, cm.ID("metal"), apply(m, &edit.MergeConcepts{Keep: "rim", Gone: "clapper"}).Map.Concepts["rim"].Kind)
}

// What the plain hand may do takes nothing off the map, whatever the map is.
func TestGentleOperationsLoseNothing(t *testing.T) {
	gentle := 0
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 25)
		a := &maptest.Author{Name: "g", AdditiveOnly: true}
		op := a.Operation(t, m)
		if edit.AdditiveOnly(m, []edit.Operation{op}, func(cm.Key) (bool, error) { return false, nil }) != nil {
			return
		}
		out, err := edit.Apply(m, []edit.Operation{op}, nil)
		if err != nil {
			return
		}
		gentle++
		for _, c := range out.Changes {
			require.False(t, c.Gone(), "%T takes away %s", op, c.Kind)
		}
	})
	assert.Greater(t, gentle, 10)
}

// Words that are too long for a name are shortened where that is asked for, to whole words, and
// the note keeps all of them below what it said; else they are refused.
func TestLongNamesAreShortened(t *testing.T) {
	long := strings.Repeat("an übermäßig long word ", 40)
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "a", Label: "bell"}, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "a"}, Note: "Cast in 1762."}, &edit.AddConcept{ID: "b", Label: long, Shorten: true},
		&edit.NameConcept{Concept: "a", Label: long, Shorten: true},
		&edit.AddLink{ID: "l", Phrase: long, Shorten: true, From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}},
	}, nil)
	require.NoError(t, err)
	a, b, l := out.Map.Concepts["a"], out.Map.Concepts["b"], out.Map.Links["l"]
	for words, limit := range map[string]int{a.Label["en"]: cm.MaxLabel, l.Phrase["en"]: cm.MaxPhrase} {
		n := utf8.RuneCountInString(words)
		assert.True(t, n <= limit && n > limit/2 && strings.HasSuffix(words, "…"), "%d of %d: %s", n, limit, words)
		assert.True(t, strings.HasPrefix(long, strings.TrimSuffix(words, "…")+" "), words)
	}
	whole := strings.TrimSpace(long)
	assert.Equal(t, "Cast in 1762.\n\n"+whole, a.Note["en"])
	assert.Equal(t, whole, b.Note["en"])
	assert.Equal(t, whole, l.Note["en"])
	_, err = edit.Apply(out.Map, []edit.Operation{&edit.NameConcept{Concept: "a", Label: long}}, nil)
	assert.Error(t, err)
}

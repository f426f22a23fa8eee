package conceptmap_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/maptest"
)

func pointer[V any](v V) *V { return &v }

func end(id, concept cm.ID) []cm.End { return []cm.End{{ID: id, Concept: concept}} }

// tower is a small map: bell at the top, with clapper, rim and crown below it;
// clapper and rim joined by a further link; a route with two stops.
func tower(t *testing.T) *cm.Map {
	out, err := cm.Apply(cm.NewMap("m", "en"), []cm.Operation{
		&cm.AddConcept{ID: "bell", Label: "bell"}, &cm.SetFocus{Concept: "bell"},
		&cm.AddConcept{ID: "clapper", Label: "clapper"}, &cm.AddConcept{ID: "rim", Label: "rim"}, &cm.AddConcept{ID: "crown", Label: "crown"},
		&cm.AddConcept{ID: "loose", Label: "loose"},
		&cm.AddLink{ID: "a-struck", Phrase: "is struck by", From: end("f", "bell"), To: end("t", "clapper")},
		&cm.AddLink{ID: "b-has", Phrase: "has", From: end("f", "bell"), To: []cm.End{{ID: "t1", Concept: "rim"}, {ID: "t2", Concept: "crown"}}},
		&cm.AddLink{ID: "c-hits", Phrase: "hits", From: end("f", "clapper"), To: end("t", "rim")},
		&cm.AddKind{ID: "metal", Name: "metal", Colour: "straw"}, &cm.AssignKind{Concepts: []cm.ID{"bell", "clapper"}, Kind: "metal"},
		&cm.AddRoute{ID: "r", Title: "first"},
		&cm.AddStop{ID: "s1", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}},
		&cm.AddStop{ID: "s2", Route: "r", After: "s1", Refs: []cm.Key{{Kind: cm.EntityLink, ID: "c-hits"}}},
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
		op   cm.Operation
		says string
	}{
		{&cm.AddConcept{ID: "bell"}, "has that name already"},
		{&cm.AddConcept{ID: "r"}, "has that name already"},
		{&cm.AddConcept{ID: "a b"}, "proper name"},
		{&cm.AddConcept{ID: "x", At: cm.Point{X: cm.FarthestPlace + 1}}, "too far off the paper"},
		{&cm.AddConcept{ID: "x", Lang: "english!"}, "name of a language"},
		{&cm.NameConcept{Concept: "bell", Label: " \n "}, "at least one word"},
		{&cm.NameConcept{Concept: "gone", Label: "x"}, "no longer on the map"},
		{&cm.Move{Places: map[cm.ID]cm.Point{"bell": {}, "gone": {}}}, "no longer on the map"},
		{&cm.Remove{Concepts: []cm.ID{"gone"}}, "no longer on the map"},
		{&cm.Remove{Links: []cm.ID{"gone"}}, "no longer on the map"},
		{&cm.MergeConcepts{Keep: "bell", Gone: "bell"}, "with itself"},
		{&cm.RankConcept{Concept: "bell"}, "below another"},
		{&cm.RankConcept{Concept: "rim", After: "loose"}, "no longer stand below the same"},
		{&cm.StepRank{Concept: "clapper", Step: -1}, "first of its siblings"},
		{&cm.StepRank{Concept: "crown", Step: 3}, "last of its siblings"},
		{&cm.ShiftLevel{Concept: "bell", Way: cm.WayUp}, "below another"},
		{&cm.ShiftLevel{Concept: "rim", Way: cm.WayUp}, "as high as it can be"},
		{&cm.ShiftLevel{Concept: "clapper", Way: cm.WayDown}, "no sibling before it"},
		{&cm.ShiftLevel{Concept: "rim", Way: "aside"}, "up or down"},
		{&cm.Reparent{Concept: "bell", Below: "rim", Link: "n", Own: "o", Parent: "p"}, "stands at the top"},
		{&cm.Reparent{Concept: "clapper", Below: "clapper", Link: "n", Own: "o", Parent: "p"}, "below itself"},
		{&cm.Reparent{Concept: "rim", Below: "bell", After: "loose", Link: "n", Own: "o", Parent: "p"}, "no longer stand below the same"},
		{&cm.SetOrder{Parent: "bell", Order: []cm.ID{"rim", "loose"}}, "no longer stand below the same"},
		{&cm.SetMain{Concept: "rim", Strand: cm.Strand{Link: "a-struck", From: "f", To: "t"}}, "does not join this concept"},
		{&cm.SetMain{Concept: "bell", Strand: cm.Strand{Link: "a-struck", From: "f", To: "t"}}, "stands at the top"},
		{&cm.SetNote{On: cm.Key{Kind: cm.EntityRoute, ID: "r"}, Note: "x"}, "Only concepts, links, regions and maps"},
		{&cm.AddLink{ID: "l", From: end("f", "bell")}, "both of its ends"},
		{&cm.AddLink{ID: "l", From: end("f", "bell"), To: end("f", "rim")}, "proper name of its own"},
		{&cm.AddLink{ID: "l", From: end("f", "bell"), To: []cm.End{{ID: "a", Concept: "rim"}, {ID: "b", Concept: "rim"}}}, "at this end of the phrase already"},
		{&cm.AddLink{ID: "l", From: end("f", "bell"), To: end("t", "gone")}, "no longer on the map"},
		{&cm.AddLink{ID: "l", From: end("f", "bell"), To: end("t", "rim"), Heads: "three"}, "one way, both ways or none"},
		{&cm.AddEnd{Link: "b-has", Side: cm.SideTo, End: cm.End{ID: "t3", Concept: "rim"}}, "already"},
		{&cm.AddEnd{Link: "b-has", Side: "middle", End: cm.End{ID: "t3", Concept: "loose"}}, "two sides"},
		{&cm.RemoveEnd{Link: "a-struck", End: "t"}, "both of its ends"},
		{&cm.RemoveEnd{Link: "a-struck", End: "x"}, "gone already"},
		{&cm.MoveEnd{Link: "a-struck", Old: "x", End: cm.End{ID: "y", Concept: "rim"}}, "gone already"},
		{&cm.SetLanguage{Language: "x"}, "name of a language"},
		{&cm.NameRoute{Route: "gone"}, "gone already"},
		{&cm.AddStop{ID: "s3", Route: "gone"}, "gone already"},
		{&cm.AddStop{ID: "s3", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "c-hits"}}}, "no longer on the map"},
		{&cm.AddStop{ID: "s3", Route: "r", After: "gone"}, "gone from this route"},
		{&cm.ShowAtStop{Stop: "gone"}, "gone already"},
		{&cm.ShowAtStop{Stop: "s1", Refs: []cm.Key{{Kind: cm.EntityLink, ID: "bell"}}}, "no longer on the map"},
		{&cm.AddKind{ID: "x", Name: "way", Links: true, Outline: cm.OutlineOval}, "for this kind"},
		{&cm.SetKind{Kind: "metal", Icon: pointer(cm.Icon("<svg>"))}, "for this kind"},
		{&cm.AssignKind{Links: []cm.ID{"c-hits"}, Kind: "metal"}, "kind of concepts"},
		{&cm.MergeKinds{Keep: "metal", Gone: "metal"}, "with itself"},
		{&cm.MergeKinds{Keep: "metal", Gone: "gone"}, "gone from the key"},
		{&cm.OrderKinds{Order: []cm.ID{"gone"}}, "gone from the key"},
		{&cm.AddTag{ID: "x", Name: " "}, "at least one word"},
		{&cm.AssignTag{Concepts: []cm.ID{"bell"}, Tag: "gone", On: true}, "tag is gone"},
		{&cm.AddRegion{ID: "x"}, "something inside"},
		{&cm.AddRegion{ID: "x", Concepts: []cm.ID{"gone"}}, "no longer on the map"},
		{&cm.AddRegion{ID: "x", Concepts: []cm.ID{"bell"}, Stroke: "dotted"}, "colour or border"},
		{&cm.SaveFilter{ID: "x", Name: "f", Match: cm.MatchAny}, "asks for nothing"},
		{&cm.SaveFilter{ID: "x", Name: "f", Match: "some", Conditions: []cm.Condition{{About: cm.AboutTag}}}, "or for any"},
		{&cm.SaveFilter{ID: "x", Name: "f", Match: cm.MatchAny, Conditions: []cm.Condition{{About: cm.AboutLevel, Value: "two"}}}, "cannot be asked"},
		{&cm.SetDuration{Concept: "bell", Lasts: "long"}, "no duration"},
		{&cm.SetIcons{Concepts: []cm.ID{"bell"}, Icons: []cm.Icon{"A B"}}, "no such icon"},
		{&cm.SetRule{Rule: "<no>"}, "no rule of that name"},
		{&cm.WriteStop{Stop: "s1", Part: "colour"}, "a title, a card and guide notes"},
		{&cm.Shift{Concepts: []cm.ID{"bell"}, By: cm.Point{X: 9e9}}, "too far off the paper"},
		{&cm.MergeLinks{Keep: "a-struck", Gone: "a-struck"}, "with itself"},
		{&cm.MergeLinks{Keep: "a-struck", Gone: "b-has"}, "say different things"},
		{&cm.SplitConcept{Concept: "bell", New: "x", Label: " "}, "words of its own"},
		{&cm.SplitConcept{Concept: "bell", New: "x", Label: "y", Ends: []cm.EndAt{{Link: "a-struck", End: "t"}}}, "gone already"},
		{&cm.InsertConcept{Link: "a-struck", End: "f", Concept: "x", Label: "y", Into: "i", New: "n", NewFrom: "a", NewTo: "b"}, "gone already"},
		{&cm.InsertConcept{Link: "a-struck", End: "t", Concept: "x", Label: "Clapper", Into: "i", New: "n", NewFrom: "a", NewTo: "b"}, "at this end"},
		{&cm.SetLine{Links: []cm.ID{"a-struck"}, Line: "wavy"}, "straight, curved or stepped"},
		{&cm.Bend{Link: "a-struck", End: "x", Bends: []cm.Point{{}}}, "gone already"},
		{&cm.Bend{Link: "a-struck", End: "f", Bends: make([]cm.Point, cm.MaxBends+1)}, "at most 40 places"},
		{&cm.Bend{Link: "a-struck", End: "f", Bends: []cm.Point{{X: 9e9}}}, "too far off the paper"},
		{&cm.PlacePhrase{Link: "a-struck", Along: 1}, "between the ends"},
		{&cm.SetType{Concepts: []cm.ID{"bell"}, Size: new(9)}, "cannot be set that way"},
		{&cm.SetType{Concepts: []cm.ID{"bell"}, Width: new(12.0)}, "cannot be set that way"},
		{&cm.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s", Source: cm.Source{URL: "javascript:alert(1)"}}, "no web address"},
		{&cm.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s", Source: cm.Source{URL: "https://a:b@hollin.example"}}, "no web address"},
		{&cm.DetachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "s"}, "gone already"},
		{&cm.SetOpening{Tucked: []cm.ID{"gone"}}, "no longer on the map"},
		{&cm.AddKind{ID: "bell", Name: "x"}, "has that name already"},
		{&cm.AddKind{ID: "k", Name: " "}, "at least one word"},
		{&cm.AddKind{ID: "k", Name: " Metal"}, "has a kind “Metal” already"},
		{&cm.AddKind{ID: "k", Name: "x", Colour: "red"}, "no such colour"},
		{&cm.SetKind{Kind: "metal", Outline: new(cm.Outline("cloud"))}, "no such colour, outline"},
		{&cm.SetKind{Kind: "gone"}, "gone from the key"},
		{&cm.RemoveKind{Kind: "gone"}, "gone from the key"},
		{&cm.AssignKind{Concepts: []cm.ID{"bell"}, Kind: "gone"}, "gone from the key"},
		{&cm.AssignKind{Concepts: []cm.ID{"gone"}, Kind: "metal"}, "no longer on the map"},
		{&cm.SetHand{Hand: "left"}, "no such hand"},
	} {
		_, err := cm.Apply(m, []cm.Operation{&cm.NameMap{Title: "before"}, c.op}, nil)
		var words *cm.Refusal
		require.ErrorAs(t, err, &words, "%T", c.op)
		assert.Contains(t, words.Words, c.says, "%T", c.op)
		assert.Equal(t, before, doc(t, m))
	}
}

func TestTheHierarchyFollowsItsLinks(t *testing.T) {
	m := tower(t)
	apply := func(ops ...cm.Operation) *cm.Map {
		out, err := cm.Apply(m, ops, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out.Map
	}
	parent := func(m *cm.Map, id cm.ID) cm.ID { return m.Parent(m.Concepts[id]) }

	// The main strand vanishes: the rim takes the strand that is left.
	assert.Equal(t, cm.ID("clapper"), parent(apply(&cm.RemoveEnd{Link: "b-has", End: "t1"}), "rim"))
	// With it the whole link: both take what is left, the crown nothing.
	n := apply(&cm.Remove{Links: []cm.ID{"b-has"}})
	assert.Equal(t, []cm.ID{"clapper", ""}, []cm.ID{parent(n, "rim"), parent(n, "crown")})
	// Another main strand by choice, and a link turned round keeps it.
	n = apply(&cm.SetMain{Concept: "rim", Strand: cm.Strand{Link: "c-hits", From: "f", To: "t"}}, &cm.ReverseLink{Link: "c-hits"})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
	assert.Equal(t, cm.ID("rim"), n.Links["c-hits"].From[0].Concept)
	// An end led elsewhere: the clapper loses its strand, the loose idea gains one.
	n = apply(&cm.MoveEnd{Link: "a-struck", Old: "t", End: cm.End{ID: "u", Concept: "loose"}})
	assert.Equal(t, []cm.ID{"bell", "rim"}, []cm.ID{parent(n, "loose"), parent(n, "clapper")})
	// One more concept shares a phrase, and hangs from it.
	n = apply(&cm.AddEnd{Link: "b-has", Side: cm.SideTo, End: cm.End{ID: "t3", Concept: "loose"}})
	assert.Equal(t, cm.ID("bell"), parent(n, "loose"))
	// Levels: alone on its phrase, a concept takes the phrase along; sharing it,
	// it gets one of its own; against the arrow it keeps its side.
	n = apply(&cm.ShiftLevel{Concept: "rim", Way: cm.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
	assert.Equal(t, []string{"has", "has"}, []string{n.Links["b-has"].Phrase["en"], n.Links["n"].Phrase["en"]})
	assert.Len(t, n.Links["b-has"].To, 1)
	n = apply(&cm.ShiftLevel{Concept: "crown", Way: cm.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, []string{"bell has rim", "rim has crown"}, []string{n.Says(n.Links["b-has"]), n.Says(n.Links["n"])}, "below one that shares its phrase")
	n = apply(&cm.ReverseLink{Link: "a-struck"}, &cm.StepRank{Concept: "clapper", Step: 1}, &cm.ShiftLevel{Concept: "clapper", Way: cm.WayDown, Link: "n", Own: "o", Parent: "p"})
	assert.Equal(t, cm.ID("rim"), parent(n, "clapper"))
	assert.Equal(t, []cm.End{{ID: "p", Concept: "rim"}}, n.Links["a-struck"].To)
	// Hung elsewhere by hand, it takes its phrase along and stands where it was put;
	// a loose idea gets an open link.
	n = apply(&cm.Reparent{Concept: "crown", Below: "clapper", Link: "n", Own: "o", Parent: "p"}, &cm.Reparent{Concept: "loose", Below: "clapper", After: "crown", Link: "n2", Own: "o2", Parent: "p2"})
	assert.Equal(t, []cm.ID{"clapper", "clapper"}, []cm.ID{parent(n, "crown"), parent(n, "loose")})
	assert.Equal(t, []string{"clapper has crown", "clapper (no words yet) loose"}, []string{n.Says(n.Links["n"]), n.Says(n.Links["n2"])})
	assert.Less(t, n.Concepts["crown"].Rank(), n.Concepts["loose"].Rank())
	n = apply(&cm.SetOrder{Parent: "bell", Order: []cm.ID{"crown", "clapper"}})
	assert.Less(t, n.Concepts["crown"].Rank(), n.Concepts["clapper"].Rank())
	assert.Less(t, n.Concepts["clapper"].Rank(), n.Concepts["rim"].Rank())
	// The concept in the middle goes: what hung from it is free.
	n = apply(&cm.Remove{Concepts: []cm.ID{"bell"}})
	assert.Equal(t, []cm.ID{"", "", "c-hits"}, []cm.ID{n.Focus, parent(n, "clapper"), cm.SortedIDs(n.Links)[0]})
	assert.Equal(t, cm.ID("clapper"), parent(n, "rim"))
}

func TestSayUsesWhatIsThere(t *testing.T) {
	m := tower(t)
	n := 0
	terms := func(words ...string) []cm.Term {
		var all []cm.Term
		for _, w := range words {
			n++
			all = append(all, cm.Term{Words: w, Concept: cm.ID("new" + string(rune('a'+n))), End: cm.ID("end" + string(rune('a'+n)))})
		}
		return all
	}
	say := func(link cm.ID, from []cm.Term, phrase string, to []cm.Term) error {
		out, err := cm.Apply(m, []cm.Operation{&cm.AddProposition{Link: link, From: from, Phrase: phrase, To: to}}, nil)
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
		op   cm.Operation
		want []cm.ID
	}{
		{&cm.RankConcept{Concept: "crown"}, []cm.ID{"crown", "clapper", "rim"}},
		{&cm.RankConcept{Concept: "clapper", After: "rim"}, []cm.ID{"rim", "clapper", "crown"}},
		{&cm.StepRank{Concept: "clapper", Step: 1}, []cm.ID{"rim", "clapper", "crown"}},
		{&cm.StepRank{Concept: "crown", Step: -9}, []cm.ID{"crown", "clapper", "rim"}},
	} {
		out, err := cm.Apply(m, []cm.Operation{c.op}, nil)
		require.NoError(t, err)
		assert.Equal(t, c.want, order(out.Map), "%#v", c.op)
		assert.Len(t, out.Changes, 1, "one concept moves, the others stay")
	}
	// Equal ranks, as two authors can leave behind, are told apart again.
	twin := *m.Concepts["rim"]
	twin.Main = &cm.Main{Strand: twin.Main.Strand, Rank: m.Concepts["crown"].Rank()}
	m.Concepts["rim"] = &twin
	out, err := cm.Apply(m, []cm.Operation{&cm.RankConcept{Concept: "clapper", After: "crown"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []cm.ID{"crown", "clapper", "rim"}, order(out.Map))
}

func TestRoutesAndStops(t *testing.T) {
	m := tower(t)
	out, err := cm.Apply(m, []cm.Operation{
		&cm.AddStop{ID: "s3", Route: "r"}, &cm.MoveStop{Stop: "s1", After: "s2"},
		&cm.WriteStop{Stop: "s3", Part: "card", Words: "Look *here*"}, &cm.WriteStop{Stop: "s3", Part: "guideNotes", Lang: "de", Words: "leise"},
		&cm.NameRoute{Route: "r", Title: "the way"},
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
	out, err = cm.Apply(out.Map, []cm.Operation{&cm.RemoveStop{Stop: "s2"}, &cm.RemoveRoute{Route: "r"}}, nil)
	require.NoError(t, err)
	assert.Empty(t, out.Map.Stops)
	assert.Empty(t, out.Map.Routes)
}

func TestHistoryWalksBackAndForth(t *testing.T) {
	var h cm.History
	add := func(id cm.ID, author string, undoes cm.ID) {
		h.Add(cm.Step{Entry: id, Author: author, Undoes: undoes})
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
	h.Add(cm.Step{Entry: "idle", Author: "ada", Idle: true})
	assert.Equal(t, []cm.ID{"r1", "u2"}, state("ada"))
	add("e3", "ada", "") // a new edit ends what could be redone
	assert.Equal(t, []cm.ID{"e3", ""}, state("ada"))
	assert.Equal(t, []cm.ID{"b1", ""}, state("ben"), "nobody undoes another's entry")
}

func TestOvertakenNamesWhatWasWrittenOver(t *testing.T) {
	m := tower(t)
	changes := func(m *cm.Map, op cm.Operation) (*cm.Map, []cm.Change) {
		out, err := cm.Apply(m, []cm.Operation{op}, nil)
		require.NoError(t, err)
		return out.Map, out.Changes
	}
	m, first := changes(m, &cm.NameConcept{Concept: "bell", Label: "tenor"})
	m, moved := changes(m, &cm.Move{Places: map[cm.ID]cm.Point{"bell": {X: 9}}})
	_, second := changes(m, &cm.NameConcept{Concept: "bell", Label: "treble"})
	assert.Equal(t, []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}, cm.Overtaken(second, first))
	assert.Empty(t, cm.Overtaken(moved, first), "another field of the same concept")
}

func TestJotsLandWhereTheyBelongAndNeverTwice(t *testing.T) {
	m := tower(t)
	n := 0
	jot := func(words string, under cm.ID) (cm.Outcome, error) {
		n++
		id := func(kind string) cm.ID { return cm.ID(fmt.Sprintf("%s%d", kind, n)) }
		out, err := cm.Apply(m, []cm.Operation{&cm.AddIdea{Concept: id("jot"), Words: words, Under: under, Link: id("jl"), Own: id("jo"), Above: id("ja")}}, nil)
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
	assert.Equal(t, []cm.Moved{{Kind: cm.EntityConcept, Old: "jot7", New: "jot1"}}, again.Moved)
	assert.Equal(t, []string{"“has: a rope” is on the map already."}, again.Notices)
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
	apply := func(m *cm.Map, op cm.Operation) cm.Outcome {
		out, err := cm.Apply(m, []cm.Operation{op}, nil)
		require.NoError(t, err)
		sound(t, out.Map)
		return out
	}
	restyled := apply(m, &cm.SetKind{Kind: "metal", Colour: new(cm.Colour("iron")), Meaning: new("rings when struck")})
	assert.Len(t, restyled.Changes, 1, "a kind is changed in one place")
	assert.Equal(t, cm.Colour("iron"), restyled.Map.KindOf(restyled.Map.Concepts["clapper"]).Colour)
	two := apply(m, &cm.AddKind{ID: "part", Name: "part"}).Map
	again, err := cm.Apply(m, []cm.Operation{&cm.AddKind{ID: "other", Name: " METAL", Reuse: true}, &cm.AssignKind{Concepts: []cm.ID{"rim"}, Kind: "other"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []any{cm.ID("metal"), 1}, []any{again.Map.Concepts["rim"].Kind, len(again.Map.Kinds)})
	assert.Equal(t, []cm.ID{"metal", "part"}, []cm.ID{two.Key()[0].ID, two.Key()[1].ID})

	// Taken out of the key, its concepts have none; undone, they have it again.
	gone := apply(m, &cm.RemoveKind{Kind: "metal"})
	assert.Empty(t, gone.Map.Concepts["bell"].Kind)
	assert.Equal(t, doc(t, m), doc(t, cm.Invert(gone.Map, gone.Changes).Map))
	// One concept of two kinds, merged, keeps its own; without one it takes the other's.
	assert.Equal(t, cm.ID("metal"), apply(m, &cm.MergeConcepts{Keep: "rim", Gone: "clapper"}).Map.Concepts["rim"].Kind)
}

// What the plain hand may do takes nothing off the map, whatever the map is.
func TestGentleOperationsLoseNothing(t *testing.T) {
	gentle := 0
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 25)
		a := &maptest.Author{Name: "g", Gentle: true}
		op := a.Operation(t, m)
		if cm.Gentle(m, []cm.Operation{op}, func(cm.Key) (bool, error) { return false, nil }) != nil {
			return
		}
		out, err := cm.Apply(m, []cm.Operation{op}, nil)
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

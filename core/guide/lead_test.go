package guide_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/guide"
	"mevrin/core/structure"
)

// tower is a small map: the bell hangs in a tower and is struck, the blow makes a hum.
func tower(t *testing.T, more ...edit.Operation) *cm.Map {
	t.Helper()
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	yes, two, six := true, 2, 6
	ops := []edit.Operation{&edit.SetFocus{Concept: "bell"}}
	for _, c := range []cm.ID{"bell", "tower", "blow", "hum", "ear"} {
		ops = append([]edit.Operation{&edit.AddConcept{ID: c, Label: string(c)}}, ops...)
	}
	ops = append(ops,
		&edit.AddLink{ID: "hangs", Phrase: "hangs in", From: end("f", "bell"), To: end("t", "tower")},
		&edit.AddLink{ID: "struck", Phrase: "is struck by", From: end("f", "bell"), To: end("t", "blow")},
		&edit.AddLink{ID: "makes", Phrase: "makes", From: end("f", "blow"), To: end("t", "hum")},
		&edit.AddLink{ID: "reaches", Phrase: "reaches", From: end("f", "hum"), To: end("t", "ear")},
		&edit.AddRoute{ID: "r"},
		&edit.AddStop{ID: "s1", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "blow"}, {Kind: cm.EntityConcept, ID: "bell"}, {Kind: cm.EntityConcept, ID: "hum"}}},
		&edit.AddStop{ID: "left", Route: "r", After: "s1"}, &edit.AddStop{ID: "s2", Route: "r", After: "left", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "tower"}}},
		&edit.PlanStop{Stop: "s1", OneByOne: &yes, Minutes: &six}, &edit.PlanStop{Stop: "left", Skipped: &yes}, &edit.PlanStop{Stop: "s2", Minutes: &two})
	out, err := edit.Apply(cm.NewMap("m", "en"), append(ops, more...), nil)
	require.NoError(t, err)
	return out.Map
}

func TestARoomIsLedAlongARouteAndBesideIt(t *testing.T) {
	m := tower(t)
	s := structure.Of(m)
	var lead guide.Lead
	do := func(c guide.Command) []cm.ID {
		t.Helper()
		next, err := lead.Do(m, "r", c)
		require.NoError(t, err)
		lead = next
		return cm.SortedIDs(lead.Frame(m, s, "r").Stands)
	}
	next := guide.Command{Deed: guide.DeedNext}
	assert.Equal(t, []cm.ID{"bell"}, cm.SortedIDs(lead.Frame(m, s, "r").Stands), "it begins with the focus concept alone")
	assert.Equal(t, []cm.ID{"bell", "blow"}, do(next))
	assert.Equal(t, []cm.ID{"bell", "blow", "struck"}, do(next), "one thing after the other")
	assert.Equal(t, []cm.ID{"bell", "blow", "hum", "makes", "struck"}, do(next))
	there := lead
	assert.Equal(t, []cm.ID{"bell", "blow", "ear", "hum", "makes", "reaches", "struck"}, do(guide.Command{Deed: guide.DeedConcept, ID: "hum"}), "a concept and what is linked with it")
	do(guide.Command{Deed: guide.DeedConcept, ID: "ear"})
	assert.Equal(t, cm.ID("hum"), func() cm.ID {
		do(guide.Command{Deed: guide.DeedBack})
		return lead.Frame(m, s, "r").Concept
	}(), "back the way that one came")
	do(guide.Command{Deed: guide.DeedReturn})
	assert.Equal(t, there.Frame(m, s, "r"), lead.Frame(m, s, "r"), "the same stop, as it was")
	do(guide.Command{Deed: guide.DeedDark})
	assert.Equal(t, "s1", string(lead.Stop))
	do(next)
	assert.False(t, lead.Dark, "the first press takes away what lies over the map")
	assert.Contains(t, do(next), cm.ID("tower"), "a stop that is left out is passed over")
	assert.NotContains(t, do(guide.Command{Deed: guide.DeedTuck, ID: "blow"}), cm.ID("hum"))
	assert.Contains(t, do(guide.Command{Deed: guide.DeedTuck, ID: "blow"}), cm.ID("makes"))
	do(guide.Command{Deed: guide.DeedBack})
	assert.Equal(t, 3, lead.Part, "back to all of a stop")
	assert.Equal(t, map[cm.ID]bool{"s1": true, "s2": true}, lead.Visited)
	for _, c := range []guide.Command{{Deed: guide.DeedStop, ID: "left"}, {Deed: guide.DeedConcept, ID: "gong"}, {Deed: guide.DeedSentence, Sentence: cm.Proposed{Strand: cm.Strand{Link: "gone"}}}, {Deed: guide.DeedSource, Source: guide.SourceOf{Of: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, ID: "x"}}, {Deed: guide.DeedOnly, ID: "none"}, {Deed: "dance"}} {
		_, err := lead.Do(m, "r", c)
		assert.Error(t, err, c.Deed)
	}
	from, to, planned := guide.Due(m, "r", "s2")
	assert.True(t, planned)
	assert.Equal(t, []float64{6, 8}, []float64{from, to})
}

// Whatever is done on whatever map: what stands is on the map, no link without its concepts; and
// as often as one goes back as one went on, one is before the first stop.
func TestLeadingHoldsOnAnyMap(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 25)
		s := structure.Of(m)
		m, route := guide.Way(m, s, "")
		if route == "" {
			return
		}
		var lead guide.Lead
		deeds := []guide.Deed{guide.DeedNext, guide.DeedNext, guide.DeedBack, guide.DeedStop, guide.DeedConcept, guide.DeedReturn, guide.DeedCloser, guide.DeedDark, guide.DeedTuck}
		for range rapid.IntRange(1, 15).Draw(t, "deeds") {
			c := guide.Command{Deed: rapid.SampledFrom(deeds).Draw(t, "deed")}
			switch c.Deed {
			case guide.DeedStop:
				c.ID = rapid.SampledFrom(append(cm.SortedIDs(m.Stops), "")).Draw(t, "stop")
			case guide.DeedConcept, guide.DeedTuck:
				c.ID = rapid.SampledFrom(append(cm.SortedIDs(m.Concepts), "none")).Draw(t, "concept")
			}
			if next, err := lead.Do(m, route, c); err == nil {
				lead = next
			}
			f := lead.Frame(m, s, route)
			for id := range f.Stands {
				l := m.Links[id]
				require.True(t, l != nil || m.Concepts[id] != nil)
				if l != nil {
					for _, e := range l.Ends() {
						require.True(t, f.Stands[e.Concept], "a link without its concepts")
					}
				}
			}
			for _, key := range append(f.Means, f.Fresh...) {
				require.True(t, f.Stands[key.ID], "what is spoken of stands")
			}
		}
		for range 400 {
			if lead, _ = lead.Do(m, route, guide.Command{Deed: guide.DeedBack}); lead.Stop == "" && len(lead.Aside) == 0 && !lead.Dark {
				return
			}
		}
		t.Fatal("there is no way back to the start")
	})
}

func TestWaysWithoutARoute(t *testing.T) {
	m := tower(t, &edit.RemoveRoute{Route: "r"})
	s := structure.Of(m)
	for _, by := range []cm.ID{"", guide.AsRead, "broad", "causes"} {
		with, route := guide.Way(m, s, by)
		if by == "causes" {
			assert.Empty(t, route, "nothing here is a cause")
			continue
		}
		assert.NotEmpty(t, with.StopsOf(route), by)
	}
	assert.Empty(t, m.Routes, "the map stays as it is")
}

// A way divides and comes together again: what stands depends on the way that was taken.
func TestWaysDivideAndMeet(t *testing.T) {
	ref := func(id cm.ID) []cm.Key { return []cm.Key{{Kind: cm.EntityConcept, ID: id}} }
	words, left, right := "up the tower", cm.ID("b"), cm.ID("c")
	m := tower(t, &edit.RemoveRoute{Route: "r"}, &edit.AddRoute{ID: "w"},
		&edit.AddStop{ID: "a", Route: "w", Refs: ref("bell")}, &edit.AddStop{ID: "b", Route: "w", After: "a", Refs: ref("tower")},
		&edit.AddStop{ID: "c", Route: "w", After: "b", Refs: ref("blow")}, &edit.AddStop{ID: "d", Route: "w", After: "c", Refs: ref("hum")}, &edit.AddStop{ID: "lost", Route: "w", After: "d"},
		&edit.OfferChoice{Stop: "a", ID: "up", Words: &words, To: &left}, &edit.OfferChoice{Stop: "a", ID: "in", To: &right}, &edit.LeadOn{Stop: "b", Then: "d"})
	s := structure.Of(m)
	assert.Equal(t, map[cm.ID][]cm.ID{"a": {"a"}, "b": {"a", "b"}, "c": {"a", "c"}, "d": {"a", "b", "d"}, "lost": {"a", "b", "d", "lost"}}, guide.WaysTo(m, "w"))
	var lead guide.Lead
	for _, c := range []guide.Command{{Deed: guide.DeedNext}, {Deed: guide.DeedStop, ID: "c"}, {Deed: guide.DeedNext}} {
		lead, _ = lead.Do(m, "w", c)
	}
	assert.Equal(t, []cm.ID{"a", "c", "d"}, lead.Way)
	assert.Equal(t, []cm.ID{"bell", "blow", "hum", "makes", "struck"}, cm.SortedIDs(lead.Frame(m, s, "w").Stands), "nothing of the way that was not taken")
	lead, _ = lead.Do(m, "w", guide.Command{Deed: guide.DeedBack})
	assert.Equal(t, cm.ID("c"), lead.Stop)
	gaps := guide.Gaps(m, s, "w")
	require.Len(t, gaps, 1, "by the shortest way the hum comes without the blow")
	assert.Equal(t, []cm.ID{"blow"}, gaps[0].Over)

	out, err := edit.Apply(m, []edit.Operation{&edit.LeadOn{Stop: "d", Then: "b"}}, nil)
	require.NoError(t, err)
	unreached, endless := guide.Lost(out.Map, "w")
	assert.Equal(t, []cm.ID{"lost"}, unreached)
	assert.Equal(t, []cm.ID{"a", "b", "c", "d"}, endless)
	_, err = edit.Apply(m, []edit.Operation{&edit.LeadOn{Stop: "d", Then: "d"}}, nil)
	assert.Error(t, err)
}

// What changed since a route was walked is told stop by stop: other words, what is gone, what is
// newly linked, and how the stops themselves stand.
func TestWhatChangedAlongARoute(t *testing.T) {
	before := tower(t)
	yes := true
	out, err := edit.Apply(before, []edit.Operation{
		&edit.NameConcept{Concept: "tower", Label: "church tower"}, &edit.Remove{Concepts: []cm.ID{"hum"}}, &edit.AddConcept{ID: "rope", Label: "rope"},
		&edit.AddLink{ID: "pulled", Phrase: "is given by", From: []cm.End{{ID: "f", Concept: "blow"}}, To: []cm.End{{ID: "t", Concept: "rope"}}},
		&edit.WriteStop{Stop: "s2", Part: "card", Words: "High up."}, &edit.AddStop{ID: "s3", Route: "r", After: "s2"}, &edit.MoveStop{Stop: "s2"},
	}, nil)
	require.NoError(t, err)
	var told []string
	for _, c := range guide.Changes(before, out.Map, "r") {
		told = append(told, string(c.Stop)+" "+string(c.Of)+" "+c.Was+" "+c.Now)
	}
	assert.Equal(t, []string{"s2 moved  ", "s2 card  ", "s2 words tower church tower", "s1 moved  ", "s1 gone hum ", "s1 near  rope", "s3 added  "}, told)
	assert.Empty(t, guide.Changes(before, before, "r"))
	skipped, err := edit.Apply(before, []edit.Operation{&edit.PlanStop{Stop: "s2", Skipped: &yes}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []guide.Change{{Of: guide.ChangeRemoved, Stop: "s2", Was: "tower"}}, guide.Changes(before, skipped.Map, "r"))
}

// A card that is left to the map says what the map says, and changes with it; what is written is one's own.
func TestCardsFollowTheMap(t *testing.T) {
	yes := true
	m := tower(t, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "tower"}, Note: "Eighty steps high."}, &edit.WriteStop{Stop: "s1", Part: "card", Words: "Mine."}, &edit.PlanStop{Stop: "s2", FromMap: &yes})
	said := func() string { return guide.Said(m, structure.Of(m), "r", m.Words)["s2"] }
	assert.Equal(t, "Eighty steps high.\n\n- bell *hangs in* tower", said())
	assert.Equal(t, []bool{false, true}, []bool{guide.FollowsMap(m.Stops["s1"]), guide.FollowsMap(m.Stops["s2"])})
	change := func(ops ...edit.Operation) {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
	}
	change(&edit.NameConcept{Concept: "tower", Label: "church tower"})
	assert.Equal(t, "Eighty steps high.\n\n- bell *hangs in* church tower", said())
	change(&edit.WriteStop{Stop: "s2", Part: "card", Words: "High up."})
	assert.False(t, guide.FollowsMap(m.Stops["s2"]))
	change(&edit.PlanStop{Stop: "s1", FromMap: &yes})
	assert.True(t, guide.FollowsMap(m.Stops["s1"]), "what was written goes away for it")
}

// What a stop asks for reaches the room: how close, what fades, when the answer shows; and a route
// that has a language of its own is written and told in it.
func TestAStopIsSeenAsItAsks(t *testing.T) {
	yes, german, far := true, cm.Lang("de"), cm.DistanceAll
	m := tower(t, &edit.PlanRoute{Route: "r", Language: &german}, &edit.PlanStop{Stop: "s2", Fades: &yes, Distance: &far},
		&edit.WriteStop{Stop: "s2", Part: "title", Words: "Oben"}, &edit.WriteStop{Stop: "s2", Part: "answer", Words: "Achtzig"}, &edit.NameConcept{Concept: "blow", Lang: "de", Label: "Schlag"})
	assert.Equal(t, "Oben", m.Stops["s2"].Title["de"])
	assert.Equal(t, "Schlag, bell, hum", guide.Name(m, m.Stops["s1"]), "what has no words in it stands in those of the map")
	s := structure.Of(m)
	lead, err := guide.Lead{}.Do(m, "r", guide.Command{Deed: guide.DeedStop, ID: "s2"})
	require.NoError(t, err)
	f := lead.Frame(m, s, "r")
	faded := func() (all []cm.ID) {
		for _, id := range cm.SortedIDs(f.Faded) {
			if f.Faded[id] {
				all = append(all, id)
			}
		}
		return all
	}
	assert.True(t, f.Whole)
	assert.Equal(t, []cm.ID{"blow", "hum", "makes", "struck"}, faded(), "the tower and the link that it brings stay")
	lead, err = lead.Do(m, "r", guide.Command{Deed: guide.DeedAnswer})
	require.NoError(t, err)
	assert.True(t, lead.Answer)
	lead, _ = lead.Do(m, "r", guide.Command{Deed: guide.DeedBack})
	assert.False(t, lead.Answer)
	_, err = lead.Do(m, "r", guide.Command{Deed: guide.DeedAnswer})
	assert.Error(t, err, "no answer there")
}

// Ways that run past each other have lanes of their own.
func TestTheShapeOfARoute(t *testing.T) {
	stops := []edit.Operation{&edit.AddRoute{ID: "w"}}
	for i, id := range []cm.ID{"a", "b", "c", "d", "e"} {
		add := &edit.AddStop{ID: id, Route: "w"}
		if i > 0 {
			add.After = cm.ID(rune('a' + i - 1))
		}
		stops = append(stops, add)
	}
	b, d := cm.ID("b"), cm.ID("d")
	m := tower(t, append(stops, &edit.OfferChoice{Stop: "a", ID: "1", To: &b}, &edit.OfferChoice{Stop: "a", ID: "2", To: &d}, &edit.LeadOn{Stop: "c", Then: "e"})...)
	assert.Equal(t, []guide.Bend{{"a", "b", 0}, {"a", "d", 2}, {"b", "c", 0}, {"c", "e", 1}, {"d", "e", 0}}, guide.Shape(m, "w"))
	assert.Nil(t, guide.Shape(m, "r"), "one that goes down its list has no shape")
}

package scene_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/draw/scene"
)

// grower makes and renames things in every way in which a person can.
type grower struct{ made int }

func (g *grower) id(kind string) cm.ID { g.made++; return cm.ID(fmt.Sprint(kind, g.made)) }

// noun draws words that the map does not have, one to six of them.
func (g *grower) noun(t *rapid.T) string {
	g.made++
	words := []string{"the sound bow", "bronze", "a hum tone", "the tower of the school", "iron", "what the ear hears of it"}
	return fmt.Sprintf("%s %d", strings.Join(words[:rapid.IntRange(1, 3).Draw(t, "words")], " "), g.made)
}

var verbs = []string{"has", "is made of", "", "is the reason why one hears", "hangs in"}

func (g *grower) step(t *rapid.T, m *cm.Map) []edit.Operation {
	concepts, links := cm.SortedIDs(m.Concepts), cm.SortedIDs(m.Links)
	any := func() cm.ID { return rapid.SampledFrom(concepts).Draw(t, "concept") }
	verb := rapid.SampledFrom(verbs).Draw(t, "verb")
	label := func(id cm.ID) string { return m.Words(m.Concepts[id].Label) }
	end := func(c cm.ID) cm.End { return cm.End{ID: g.id("e"), Concept: c} }
	noun := func() string {
		if rapid.IntRange(0, 3).Draw(t, "known") == 0 {
			return label(any())
		}
		return g.noun(t)
	}
	at := m.Concepts[any()].At
	id := g.id("c")
	switch rapid.IntRange(0, 13).Draw(t, "way") {
	case 0, 1: // the sentence bar
		from := label(any())
		op := &edit.AddProposition{Link: g.id("l"), Phrase: verb, From: []edit.Term{{Words: from, Concept: g.id("c"), End: g.id("e")}}}
		for range rapid.IntRange(1, 3).Draw(t, "to") {
			if to := noun(); to != from {
				op.To = append(op.To, edit.Term{Words: to, Concept: g.id("c"), End: g.id("e")})
			}
		}
		return []edit.Operation{op}
	case 2: // Tab
		from := any()
		return []edit.Operation{&edit.AddConcept{ID: id, Label: noun(), At: cm.Point{X: m.Concepts[from].At.X, Y: m.Concepts[from].At.Y + 130}, MakeRoom: true, Reuse: true},
			&edit.AddLink{ID: g.id("l"), Phrase: verb, From: []cm.End{end(from)}, To: []cm.End{end(id)}}}
	case 3: // Enter
		return []edit.Operation{&edit.AddSibling{Concept: id, Label: g.noun(t), Share: true, Beside: any(), Link: g.id("l"), Own: g.id("e"), Above: g.id("e")}}
	case 4: // a jot
		return []edit.Operation{&edit.AddConcept{ID: id, Label: g.noun(t), At: at, MakeRoom: true}}
	case 5: // longer words, or shorter ones
		return []edit.Operation{&edit.NameConcept{Concept: any(), Label: g.noun(t)}}
	case 6:
		if len(links) > 0 {
			return []edit.Operation{&edit.NameLink{Link: rapid.SampledFrom(links).Draw(t, "link"), Phrase: verb}}
		}
	case 7: // two that are there
		if from, to := any(), any(); from != to {
			return []edit.Operation{&edit.AddLink{ID: g.id("l"), Phrase: verb, From: []cm.End{end(from)}, To: []cm.End{end(to)}}}
		}
	case 8: // one more end, new
		if len(links) > 0 {
			return []edit.Operation{&edit.AddConcept{ID: id, Label: g.noun(t), At: at, MakeRoom: true}, &edit.AddEnd{Link: rapid.SampledFrom(links).Draw(t, "link"), Side: cm.SideTo, End: end(id)}}
		}
	}
	return g.rework(t, m, rapid.IntRange(0, 4).Draw(t, "rework"))
}

// rework makes things out of others, or makes them larger.
func (g *grower) rework(t *rapid.T, m *cm.Map, way int) []edit.Operation {
	concepts, links := cm.SortedIDs(m.Concepts), cm.SortedIDs(m.Links)
	c := rapid.SampledFrom(concepts).Draw(t, "of")
	at, id := m.Concepts[c].At, g.id("c")
	switch way {
	case 0: // copied and put down again
		part, err := edit.Part(m, []cm.ID{c, rapid.SampledFrom(concepts).Draw(t, "and")})
		require.NoError(t, err)
		raw, err := document.Write(part)
		require.NoError(t, err)
		as := map[cm.ID]cm.ID{}
		for _, old := range slices.Concat(cm.SortedIDs(part.Concepts), cm.SortedIDs(part.Links)) {
			as[old] = g.id("p")
		}
		return []edit.Operation{&edit.Paste{Document: raw, As: as, By: cm.Point{X: 24, Y: 24}}}
	case 1: // two of one
		op := &edit.SplitConcept{Concept: c, New: id, Label: g.noun(t), At: cm.Point{X: at.X + 200, Y: at.Y}}
		for _, l := range links {
			for _, e := range slices.Concat(m.Links[l].From, m.Links[l].To) {
				if e.Concept == c && rapid.Bool().Draw(t, "goes") {
					op.Ends = append(op.Ends, edit.EndAt{Link: l, End: e.ID})
				}
			}
		}
		return []edit.Operation{op}
	case 2: // one between two
		if len(links) > 0 {
			l := m.Links[rapid.SampledFrom(links).Draw(t, "into")]
			return []edit.Operation{&edit.InsertConcept{Link: l.ID, End: l.To[0].ID, Concept: id, Label: g.noun(t), At: at, Into: g.id("e"), New: g.id("l"), NewFrom: g.id("e"), NewTo: g.id("e"), Phrase: "of"}}
		}
	case 3: // to itself
		return []edit.Operation{&edit.AddLink{ID: g.id("l"), Phrase: "sounds like", From: []cm.End{{ID: g.id("e"), Concept: c}}, To: []cm.End{{ID: g.id("e"), Concept: c}}}}
	case 4: // a picture on it
		return []edit.Operation{&edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: c}, ID: g.id("s"), Source: cm.Source{Title: "bell.png", Wide: 160, Says: "a bell",
			File: &cm.File{Hash: strings.Repeat("ab", 32), Type: "image/png", Size: 900, W: 320, H: 240}}}}
	}
	return []edit.Operation{&edit.AddConcept{ID: id, Label: g.noun(t), At: at, MakeRoom: true}}
}

// spots lists what cannot be read in a drawing.
func spots(sc *scene.Scene) []string {
	u := scene.UntidyOf(sc, nil)
	var all []string
	for what, pairs := range map[string][][2]cm.ID{"slip on slip": u.Slips, "phrase on slip": u.Words, "phrase on phrase": u.Phrases, "line through slip": u.Through, "line through phrase": u.Across} {
		for _, p := range pairs {
			all = append(all, fmt.Sprint(what, ": ", p[0], " ", p[1]))
		}
	}
	return all
}

// A map can be read while it grows, whatever is made or renamed in whatever way, kept in
// order or not: no slip covers a slip or a phrase, no phrase lies on a phrase, and no line
// runs through a slip or a phrase of another, but where there is hardly a way around: in
// fewer than one of 200 steps, and then just a line.
func TestAMapCanBeReadWhileItGrows(t *testing.T) {
	for _, kept := range []bool{true, false} {
		t.Run(fmt.Sprint("kept ", kept), func(t *testing.T) {
			t.Parallel()
			placer := layout.Placer{Measurer: scene.Measurer{}}
			steps, crossed := 0, map[string]bool{}
			for seed := range 24 {
				rapid.Custom(func(draw *rapid.T) int {
					out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "first", Label: "the bell"}, &edit.SetFocus{Concept: "first"}, &edit.KeepTidy{On: kept}}, placer)
					require.NoError(t, err)
					g, m := &grower{}, out.Map
					for range 20 {
						out, err := edit.Apply(m, g.step(draw, m), placer)
						if err != nil {
							continue
						}
						m = out.Map
						steps++
						for _, spot := range spots(build(m, scene.View{})) {
							require.True(t, strings.HasPrefix(spot, "line"), "map %d: %s", seed, spot)
							crossed[fmt.Sprint(seed, spot)] = true
						}
					}
					return 0
				}).Example(seed)
			}
			assert.Less(t, len(crossed)*200, steps, "%v", crossed)
		})
	}
}

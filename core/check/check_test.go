package check_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
)

func find(m *cm.Map) map[string][]check.Place {
	all := map[string][]check.Place{}
	for _, f := range check.Find(m, structure.Of(m)) {
		all[f.Rule.ID] = f.Places
	}
	return all
}

func apply(t *testing.T, m *cm.Map, ops ...edit.Operation) *cm.Map {
	t.Helper()
	out, err := edit.Apply(m, ops, nil)
	require.NoError(t, err)
	return out.Map
}

// named makes a map with a question and a concept for each label, ids c0, c1 …
func named(t *testing.T, lang cm.Lang, labels ...string) *cm.Map {
	ops := []edit.Operation{&edit.Ask{Question: "How?"}}
	for i, label := range labels {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprintf("c%d", i)), Label: label})
	}
	return apply(t, cm.NewMap("m", lang), ops...)
}

func says(id, from, phrase string, to ...string) *edit.AddLink {
	l := &edit.AddLink{ID: cm.ID(id), Phrase: phrase, From: []cm.End{{ID: "f", Concept: cm.ID(from)}}}
	for i, c := range to {
		l.To = append(l.To, cm.End{ID: cm.ID(fmt.Sprintf("t%d", i)), Concept: cm.ID(c)})
	}
	return l
}

func TestEachRuleNoticesAndItsRemedyMends(t *testing.T) {
	bell := func(ops ...edit.Operation) *cm.Map {
		m := named(t, "en", "the bell", "the clapper", "bronze")
		return apply(t, m, append([]edit.Operation{&edit.SetFocus{Concept: "c0"}, says("l0", "c0", "holds", "c1"), says("l1", "c0", "is cast of", "c2")}, ops...)...)
	}
	require.Empty(t, find(bell()))
	for rule, broken := range map[string]*cm.Map{
		"no-question":    bell(&edit.Ask{}),
		"open-link":      bell(says("l2", "c1", "", "c2")),
		"loose-idea":     bell(&edit.AddConcept{ID: "x", Label: "tin"}),
		"concept-twice":  bell(&edit.AddConcept{ID: "x", Label: "Clappers"}, says("l2", "x", "hit", "c2")),
		"stated-twice":   bell(says("l2", "c0", "Is  cast of", "c1", "c2")),
		"label-sentence": bell(&edit.NameConcept{Concept: "c1", Label: "The clapper strikes the bell."}),
		"several-roots":  bell(&edit.AddConcept{ID: "x", Label: "tower"}, &edit.AddConcept{ID: "y", Label: "louvre"}, says("l2", "x", "lets out sound by", "y")),
	} {
		found := find(broken)
		if rule == "concept-twice" {
			require.Contains(t, found, rule)
		} else {
			require.Len(t, found, 1, rule)
		}
		require.Len(t, found[rule], 1, rule)
		require.Len(t, found[rule][0].Remedies, 1, rule)
		remedy := found[rule][0].Remedies[0]
		mended := broken
		switch first := found[rule][0].Keys; remedy.Ask {
		case "":
			mended = apply(t, broken, remedy.Operations...)
		case check.AskQuestion:
			mended = apply(t, broken, &edit.Ask{Question: "Why?"})
		case check.AskWords:
			if first[0].Kind == cm.EntityLink {
				mended = apply(t, broken, &edit.NameLink{Link: first[0].ID, Phrase: "meets"})
			} else {
				mended = apply(t, broken, &edit.NameConcept{Concept: first[0].ID, Label: "short"})
			}
		case check.AskSentence:
			words := func(id cm.ID) string {
				if id == "" {
					return "the bell"
				}
				return broken.Words(broken.Concepts[id].Label)
			}
			mended = apply(t, broken, &edit.AddProposition{Link: "new", Phrase: "belongs to",
				From: []edit.Term{{Words: words(remedy.From), Concept: "n1", End: "e1"}}, To: []edit.Term{{Words: words(remedy.To), Concept: "n2", End: "e2"}}})
		}
		assert.NotContains(t, find(mended), rule, "the remedy mends it")
		off := apply(t, broken, &edit.SetRule{Rule: rule})
		assert.NotContains(t, find(off), rule, "a rule can be switched off for a map")
		assert.Contains(t, find(apply(t, off, &edit.SetRule{Rule: rule, On: true})), rule)
	}
}

func TestOneConceptUnderTwoSpellings(t *testing.T) {
	for _, c := range []struct {
		lang  cm.Lang
		a, b  string
		alike bool
	}{
		{"en", "the Sound  wave", "sound waves", true}, {"en", "a battery", "batteries", true}, {"en", "glass", "glasses", true},
		{"en", "tooth", "teeth", true}, {"en", "café", "Cafe", true}, {"en", "hair-cell", "hair cells", true}, {"en", "physics", "physic", false},
		{"en", "axis", "axes", true}, {"en", "bus", "bu", false}, {"en", "+", "–", false}, {"en", "tin", "tins", true}, {"en", "a", "an", false},
		{"en", "louvre", "louver", false}, {"de-CH", "die Glocke", "Glocken", true}, {"de", "Ton", "Töne", true}, {"de", "Straße", "strassen", true},
		{"fr", "le métal", "métaux", true}, {"es", "la luz", "luces", true}, {"zh", "钟", "钟声", false}, {"tr", "zil", "Zil", true},
	} {
		found := find(named(t, c.lang, c.a, c.b))["concept-twice"]
		assert.Equal(t, c.alike, len(found) == 1, "%s: %q and %q", c.lang, c.a, c.b)
	}
}

func TestMergingKeepsTheConceptWithMostLinks(t *testing.T) {
	m := apply(t, named(t, "en", "bell", "Bell", "bells", "tower"), says("l", "c2", "hangs in", "c3"))
	places := find(m)["concept-twice"]
	require.Len(t, places, 1)
	assert.Equal(t, []cm.Key{{Kind: cm.EntityConcept, ID: "c2"}, {Kind: cm.EntityConcept, ID: "c0"}, {Kind: cm.EntityConcept, ID: "c1"}}, places[0].Keys)
	assert.Equal(t, "Merge the 3", places[0].Remedies[0].Title)
	assert.Equal(t, []cm.ID{"c2", "c3"}, cm.SortedIDs(apply(t, m, places[0].Remedies[0].Operations...).Concepts))
}

func TestWhatSaysMoreIsNotDroppedAsStatedTwice(t *testing.T) {
	m := apply(t, named(t, "en", "bell", "hum"), says("l0", "c0", "sounds", "c1"),
		&edit.AddLink{ID: "l1", Phrase: "sounds", Heads: cm.HeadsBoth, From: []cm.End{{ID: "f", Concept: "c0"}}, To: []cm.End{{ID: "t", Concept: "c1"}}})
	places := find(m)["stated-twice"]
	require.Len(t, places, 1)
	assert.Empty(t, places[0].Remedies)
	fan := apply(t, named(t, "en", "bell", "hum", "tin"), says("l0", "c0", "has", "c1", "c2"))
	assert.Empty(t, find(fan)["stated-twice"], "one phrase with several ends says several things")
}

// Whatever the map, each remedy that says it mends at once can be performed,
// and leaves fewer places for its rule.
func TestRemediesOfAnyMap(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 50)
		for _, f := range check.Find(m, structure.Of(m)) {
			for _, place := range f.Places {
				for _, r := range place.Remedies {
					if r.Ask != "" {
						continue
					}
					out, err := edit.Apply(m, r.Operations, nil)
					if err != nil {
						t.Fatalf("%s: %v", f.Rule.ID, err)
					}
					if left := len(find(out.Map)[f.Rule.ID]); left >= len(f.Places) {
						t.Fatalf("%s: %d places before, %d after", f.Rule.ID, len(f.Places), left)
					}
				}
			}
		}
	})
}

func BenchmarkFindings1000(b *testing.B) {
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(1000), nil)
	if err != nil {
		b.Fatal(err)
	}
	s := structure.Of(out.Map)
	for b.Loop() {
		check.Find(out.Map, s)
	}
}

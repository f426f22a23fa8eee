package check_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/language"
	"mevrin/core/phrases"
	"mevrin/core/structure"
)

// said makes a map of sentences, "subject | phrase | object" each; the first subject is the focus
// concept. Concepts have the ids c0, c1 … in the order in which they come, links l0, l1 ….
func said(t *testing.T, lang cm.Lang, sentences ...string) *cm.Map {
	t.Helper()
	ops := []edit.Operation{&edit.Ask{Question: "How?"}}
	ids := map[string]cm.ID{}
	concept := func(label string) cm.ID {
		if _, known := ids[label]; !known {
			ids[label] = cm.ID(fmt.Sprintf("c%d", len(ids)))
			ops = append(ops, &edit.AddConcept{ID: ids[label], Label: label})
			if len(ids) == 1 {
				ops = append(ops, &edit.SetFocus{Concept: "c0"})
			}
		}
		return ids[label]
	}
	for i, s := range sentences {
		p := strings.Split(s, " | ")
		from, to := concept(p[0]), concept(p[2])
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprintf("l%d", i)), Phrase: p[1], From: []cm.End{{ID: "f", Concept: from}}, To: []cm.End{{ID: "t", Concept: to}}})
	}
	return apply(t, cm.NewMap("m", lang), ops...)
}

// Each rule notices what it should on the first map, and nothing on the second, which differs in
// that alone.
func TestRulesOfWordsAndShape(t *testing.T) {
	for rule, maps := range map[string][2][]string{
		"phrase-empty":       {{"bell | is related to | tower"}, {"bell | hangs in | tower"}},
		"phrase-no-relation": {{"bell | important | tower"}, {"bell | is important for | tower"}},
		"phrase-backwards":   {{"blow | causes | sound", "blow | is caused by | sound"}, {"blow | causes | sound", "sound | travels from | blow"}},
		"label-two-ideas":    {{"bell | consists of | copper and tin"}, {"bell | consists of | copper", "bell | consists of | tin"}},
		"label-number":       {{"bell | weighs | 440"}, {"bell | weighs | 440 kilograms"}},
		"concept-variant":    {{"sound wave | spreads in | air", "air | carries | wave of sound"}, {"sound wave | spreads in | air", "air | carries | heat"}},
		"concept-synonym":    {{"error | slows | pupil", "student | learns by | error"}, {"error | slows | pupil", "teacher | learns by | error"}},
		"contrary":           {{"distance | weakens | sound", "distance | strengthens | sound"}, {"distance | weakens | sound", "sound | fills | distance"}},
		"circle-of-meaning":  {{"bell | is a kind of | idiophone", "idiophone | is a kind of | bell"}, {"bell | is a kind of | idiophone", "idiophone | sounds like | bell"}},
		"focus-unclear":      {{"clapper | is part of | bell"}, {"bell | contains | clapper"}},
		"chain-only":         {chain(6), append(chain(6), "a | leads on to | x", "a | leads back to | y")},
		"hub":                {star(10), star(9)},
		"level-jump":         {{"a | leads to | b", "b | leads to | c", "a | reaches | c"}, {"a | leads to | b", "b | leads to | c", "c | reaches | d"}},
		"branch-alone":       {append(branches(4), "b00 | helps | b10"), append(branches(4), "b00 | helps | b10", "b21 | helps | b31")},
		"few-cross-links":    {branches(4), append(branches(4), "b00 | helps | b10", "b21 | helps | b31")},
	} {
		faulty, sound := find(said(t, "en", maps[0]...)), find(said(t, "en", maps[1]...))
		if assert.NotEmpty(t, faulty[rule], rule) {
			assert.NotEmpty(t, check.Groups, rule)
		}
		assert.Empty(t, sound[rule], "%s, where there is nothing", rule)
	}
}

// What the rest of the map says tells against a phrase: a way over other concepts, its custom
// between two kinds of concepts, its levels, and the kind of its own link.
func TestPhrasesThatReadAgainstTheRest(t *testing.T) {
	parts := []string{"bell | consists of | crown", "bell | consists of | waist", "bell | consists of | lip"}
	for name, maps := range map[string][2][]string{
		"a way":  {{"blow | causes | hum", "hum | leads to | beat", "blow | is caused by | beat"}, {"blow | causes | hum", "hum | leads to | beat", "beat | is caused by | blow"}},
		"levels": {append(parts, "lip | is part of | rim"), append(parts, "lip | consists of | rim")},
	} {
		places := find(said(t, "en", maps[0]...))["phrase-backwards"]
		require.Len(t, places, 1, name)
		assert.Equal(t, cm.ID(fmt.Sprintf("l%d", len(maps[0])-1)), places[0].Keys[0].ID, name)
		assert.Empty(t, find(said(t, "en", maps[1]...))["phrase-backwards"], "%s, the right way round", name)
		mended, err := edit.Apply(said(t, "en", maps[0]...), places[0].Remedies[0].Operations, nil)
		require.NoError(t, err)
		assert.Empty(t, find(mended.Map)["phrase-backwards"], "%s, mended in one step", name)
	}
	m := said(t, "en", "caster | pours | bronze", "founder | pours | iron", "helper | pours | wax", "lead | pours | smelter")
	kinds := []edit.Operation{&edit.AddKind{ID: "who", Name: "person", Colour: "leaf"}, &edit.AddKind{ID: "what", Name: "matter", Colour: "sky"}}
	for id, c := range m.Concepts {
		kind := cm.ID("what")
		if slices.Contains([]string{"caster", "founder", "helper", "smelter"}, m.Words(c.Label)) {
			kind = "who"
		}
		kinds = append(kinds, &edit.AssignKind{Concepts: []cm.ID{id}, Kind: kind})
	}
	places := find(apply(t, m, kinds...))["phrase-backwards"]
	require.Len(t, places, 1)
	assert.Equal(t, cm.ID("l3"), places[0].Keys[0].ID)
	m = apply(t, said(t, "en", "sound | is caused by | blow"), &edit.AddKind{ID: "makes", Name: "causes", Links: true, Role: "science.cause"}, &edit.AssignKind{Links: []cm.ID{"l0"}, Kind: "makes"})
	assert.Len(t, find(m)["phrase-backwards"], 1, "the kind of the link leads the other way")
}

func chain(n int) (all []string) {
	for i := range n - 1 {
		all = append(all, fmt.Sprintf("%c | leads on to | %c", 'a'+i, 'b'+i))
	}
	return all
}

func star(n int) (all []string) {
	for i := range n {
		all = append(all, fmt.Sprintf("bell | reaches | place %c", 'a'+i))
	}
	return all
}

// branches of three concepts each below a focus concept.
func branches(n int) (all []string) {
	for i := range n {
		top := fmt.Sprintf("b%d0", i)
		all = append(all, "bell | leads to | "+top, top+" | shapes | "+fmt.Sprintf("b%d1", i), top+" | carries | "+fmt.Sprintf("b%d2", i))
	}
	return all
}

func TestWornPhrases(t *testing.T) {
	all := branches(4)
	for i := range 8 {
		all = append(all, fmt.Sprintf("b%d1 | influences | b%d2", i%4, (i+1+i/4)%4))
	}
	found := find(said(t, "en", all...))["phrase-worn"]
	require.Len(t, found, 1)
	assert.Len(t, found[0].Keys, 8)
	assert.Empty(t, find(said(t, "en", branches(4)...))["phrase-worn"])
}

// Remedies mend what they are offered for.
func TestRemediesOfMeaning(t *testing.T) {
	m := said(t, "en", "blow | causes | sound", "blow | is caused by | sound")
	place := find(m)["phrase-backwards"][0]
	assert.Equal(t, cm.ID("l1"), place.Keys[0].ID, "the passive one is turned")
	m = apply(t, m, place.Remedies[0].Operations...)
	// Now both say the same: one of them is enough.
	place = find(m)["phrase-backwards"][0]
	m = apply(t, m, place.Remedies[0].Operations...)
	assert.Empty(t, find(m)["phrase-backwards"])
	m = said(t, "en", "sound wave | spreads in | air", "air | carries | wave of sound")
	m = apply(t, m, find(m)["concept-variant"][0].Remedies[0].Operations...)
	assert.Len(t, m.Concepts, 2)
}

// Rules that need words speak German, French and Spanish, and say where they are silent.
func TestRulesInOtherLanguages(t *testing.T) {
	for lang, sentence := range map[cm.Lang]string{"de": "Glocke | steht in Beziehung zu | Turm", "fr-CA": "cloche | est lié à | tour", "es": "campana | está relacionada con | torre"} {
		assert.NotEmpty(t, find(said(t, lang, sentence))["phrase-empty"], lang)
		assert.Empty(t, silent(said(t, lang, sentence)))
	}
	m := said(t, "fi", "kello | is related to | torni", "kello | on | torni")
	assert.Empty(t, find(m)["phrase-empty"])
	for _, rule := range silent(m) {
		assert.True(t, rule.Words, rule.ID)
	}
	assert.NotEmpty(t, silent(m))
}

func silent(m *cm.Map) []*check.Rule { return check.Silent(m, structure.Of(m)) }

func TestRulesOfRoutesAndSources(t *testing.T) {
	m := said(t, "en", "bell | hangs in | tower", "tower | stands in | village", "moon | lights | field")
	stop := func(id, after string, concepts ...string) *edit.AddStop {
		op := &edit.AddStop{ID: cm.ID(id), Route: "r", After: cm.ID(after)}
		for _, c := range concepts {
			op.Refs = append(op.Refs, cm.Key{Kind: cm.EntityConcept, ID: cm.ID(c)})
		}
		return op
	}
	m = apply(t, m, &edit.AddRoute{ID: "r", Title: "Through the village"}, stop("s1", "", "c0"), stop("s2", "s1", "c3"), stop("s3", "s2", "c1"),
		&edit.WriteStop{Stop: "s1", Part: "card", Words: "The bell."}, &edit.WriteStop{Stop: "s2", Part: "card", Words: "The moon."})
	found := find(m)
	keys := func(rule string) (all []cm.ID) {
		for _, p := range found[rule] {
			all = append(all, p.Keys[0].ID)
		}
		return all
	}
	assert.Equal(t, []cm.ID{"s3"}, keys("route-empty-card"))
	assert.Equal(t, []cm.ID{"s2"}, keys("route-jump"))
	assert.Empty(t, keys("route-stop-gone"))
	assert.Empty(t, keys("route-long"))
	m = apply(t, m, &edit.WriteStop{Stop: "s3", Part: "card", Words: strings.Repeat("we ", 90)}, &edit.WriteStop{Stop: "s2", Part: "card", Words: strings.Repeat("we ", 6100)}, &edit.Remove{Concepts: []cm.ID{"c3"}})
	found = find(m)
	assert.Equal(t, []cm.ID{"s2"}, keys("route-stop-gone"))
	assert.Equal(t, []cm.ID{"r"}, keys("route-long"))
	m = apply(t, m, found["route-stop-gone"][0].Remedies[0].Operations...)
	assert.Empty(t, find(m)["route-stop-gone"])

	m = said(t, "en", "bell | hangs in | tower", "tower | stands in | village", "village | lies by | river", "river | feeds | meadow")
	m = apply(t, m, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "c0"}, Note: "It can be heard as far as the meadow."})
	found = find(m)
	require.Len(t, found["untold-note"], 1)
	assert.Equal(t, cm.ID("c4"), found["untold-note"][0].Keys[1].ID)

	src := cm.Source{File: &cm.File{Hash: strings.Repeat("a", 64), Type: "text/plain", Size: 3}}
	c := *m.Concepts["c0"]
	c.Sources = map[cm.ID]cm.Source{"x": src}
	m.Concepts["c0"] = &c
	lost := check.FindAmong(m, structure.Of(m), check.Surroundings{Missing: func(hash string) bool { return hash == src.File.Hash }})
	assert.Equal(t, 1, countOf(lost, "source-missing"))
	assert.Zero(t, countOf(check.Find(m, structure.Of(m)), "source-missing"))
}

func countOf(all []check.Finding, rule string) int {
	for _, f := range all {
		if f.Rule.ID == rule {
			return len(f.Places)
		}
	}
	return 0
}

// A map with a rule switched off under the name that it had stays as its author wished.
func TestFormerNamesOfRulesCount(t *testing.T) {
	m := said(t, "en", "bell | hangs in | tower")
	m = apply(t, m, &edit.SetRule{Rule: "step-dead"})
	for _, r := range check.Rules {
		assert.Equal(t, r.ID == "process-dead-end", check.Off(m, r), r.ID)
		if name := check.OffAs(m, r); name != "" { // and is switched on again under it
			m = apply(t, m, &edit.SetRule{Rule: name, On: true})
			assert.False(t, check.Off(m, r))
		}
	}
}

func TestWhatWasJudgedNotToHoldIsFound(t *testing.T) {
	m := said(t, "en", "bell | is cast from | tin", "tin | hardens | copper")
	judge := func(who, id string, verdict cm.Verdict, settled bool) {
		ops := []edit.Operation{&edit.Judge{ID: cm.ID(id), Strand: cm.Strand{Link: "l0", From: "f", To: "t"}, Verdict: verdict, Settled: settled}}
		edit.Sign(ops, edit.Speaker{ID: cm.ID(who), At: "2026-11-27T08:00:00.000Z"})
		m = apply(t, m, ops...)
	}
	judge("pa", "j1", cm.HoldsNot, false)
	require.Len(t, find(m)["judged-not"], 1)
	judge("pb", "j2", cm.Holds, false)
	assert.Empty(t, find(m)["judged-not"], "they do not agree")
	judge("pa", "j3", cm.HoldsNot, true)
	found := find(m)["judged-not"]
	require.Len(t, found, 1, "it is settled")
	assert.Empty(t, find(apply(t, m, found[0].Remedies[1].Operations...))["judged-not"], "turned round it says something else")
	assert.Empty(t, find(apply(t, m, &edit.NameLink{Link: "l0", Phrase: "contains"}))["judged-not"])
}

// The phrase bank offers nothing that Check then blames.
func TestTheBankOffersNothingEmpty(t *testing.T) {
	for _, group := range phrases.Shipped {
		for lang, all := range group.Words {
			for _, p := range all {
				assert.Equal(t, language.Sound, language.Of(string(lang)).Fault(p, "bell", "tower"), "%s, %s", group.ID, p)
			}
		}
	}
}

func TestExamplesAndStopsThatAreLeftOut(t *testing.T) {
	m := said(t, "en", append(branches(4), "b00 | helps | b10")...)
	m = apply(t, m, &edit.AddKind{ID: "k", Name: "Example", Colour: "sky"})
	require.Len(t, find(m)["no-examples"], 1)
	m = apply(t, m, &edit.AssignKind{Concepts: []cm.ID{"c3"}, Kind: "k"}, &edit.AddRoute{ID: "r", Title: "All"})
	assert.Empty(t, find(m)["no-examples"])
	// The route shows all of level 2 but one.
	at := structure.Of(m).At(2)
	require.Len(t, at, 4)
	last := cm.ID("")
	show := func(id cm.ID) {
		stop := cm.ID("s-" + id)
		m = apply(t, m, &edit.AddStop{ID: stop, Route: "r", After: last, Refs: []cm.Key{{Kind: cm.EntityConcept, ID: id}}})
		last = stop
	}
	for _, id := range at[:3] {
		show(id)
	}
	assert.Empty(t, find(m)["route-not-visited"], "three of four are not nearly all")
	for i := range 2 {
		id := cm.ID([]string{"x", "y"}[i])
		m = apply(t, m, &edit.AddConcept{ID: id, Label: "further " + string(id)}, says("l"+string(id), "c0", "leads on to", string(id)))
		show(id)
	}
	found := find(m)["route-not-visited"]
	require.Len(t, found, 1)
	assert.Equal(t, at[3], found[0].Keys[0].ID)
}

package conceptmap_test

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/conceptmap/maptest"
)

// What a hand moves stays where it was put, also on a map that is kept in order; so
// does what it put down.
func TestAHandHoldsWhatItPuts(t *testing.T) {
	m := tower(t)
	move := &edit.Move{Places: map[cm.ID]cm.Point{"rim": {X: 900, Y: 900}}}
	for _, kept := range []bool{true, false} {
		m.KeepTidy = kept
		out, err := edit.Apply(m, []edit.Operation{move, &edit.AddConcept{ID: "put", Hand: true}, &edit.AddConcept{ID: "made"}}, nil)
		require.NoError(t, err)
		assert.Equal(t, []cm.Hold{cm.HoldHand, cm.HoldHand, cm.HoldNone}, []cm.Hold{out.Map.Concepts["rim"].Hold, out.Map.Concepts["put"].Hold, out.Map.Concepts["made"].Hold}, kept)
	}
}

// All that one author did among others' work is taken back, in one entry: where nobody
// built on it the map is as if they had not been there, and the entry undone brings
// all of it again.
func TestOneAuthorIsTakenBackWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 12)
		before := m
		a := &maptest.Author{Name: "v"}
		var did [][]history.Change
		for range rapid.IntRange(1, 8).Draw(t, "edits") {
			out, err := edit.Apply(m, []edit.Operation{a.Operation(t, m)}, nil)
			if err != nil {
				continue
			}
			did, m = append(did, out.Changes), out.Map
		}
		out := history.TakeBack(m, did)
		require.Equal(t, doc(t, before), doc(t, out.Map))
		again, err := history.Replay(m, out.Changes)
		require.NoError(t, err)
		require.Equal(t, doc(t, out.Map), doc(t, again), "its changes are what it did")
		back, err := history.Replay(out.Map, history.Reversed(out.Changes))
		require.NoError(t, err)
		require.Equal(t, doc(t, m), doc(t, back))
	})
	// What somebody built on stays, and is named.
	m := tower(t)
	made, err := edit.Apply(m, []edit.Operation{&edit.AddConcept{ID: "rope", Label: "a rope"}}, nil)
	require.NoError(t, err)
	built, err := edit.Apply(made.Map, []edit.Operation{&edit.AddLink{ID: "on", Phrase: "hangs on", From: end("f", "bell"), To: end("t", "rope")}, &edit.NameConcept{Concept: "rim", Label: "the lip"}}, nil)
	require.NoError(t, err)
	out := history.TakeBack(built.Map, [][]history.Change{made.Changes})
	assert.NotNil(t, out.Map.Concepts["rope"])
	assert.Contains(t, fmt.Sprint(out.Notices), "a rope")
}

// When the map's language changes, every text goes along, whatever it belongs to.
func TestEveryTextFollowsTheLanguage(t *testing.T) {
	on := func(kind cm.Entity, id cm.ID) cm.Key { return cm.Key{Kind: kind, ID: id} }
	m := tower(t)
	var ops []edit.Operation
	for _, raw := range []string{
		`{"do":"name-map","title":"T"}`, `{"do":"ask","question":"Q?"}`, `{"do":"set-remark","concept":"bell","remark":"R"}`, `{"do":"add-tag","id":"tag","name":"G"}`,
		`{"do":"set-kind","kind":"metal","meaning":"M"}`, `{"do":"save-filter","id":"filter","name":"F","match":"all","conditions":[{"about":"level","value":"1"}]}`,
		`{"do":"write-stop","stop":"s1","part":"card","words":"C"}`, `{"do":"write-stop","stop":"s1","part":"guideNotes","words":"N"}`, `{"do":"write-stop","stop":"s1","part":"title","words":"S"}`,
	} {
		read, err := edit.ReadOperations(json.RawMessage("[" + raw + "]"))
		require.NoError(t, err, raw)
		ops = append(ops, read...)
	}
	ops = append(ops, &edit.AddRegion{ID: "region", Title: "A", Concepts: []cm.ID{"bell"}}, &edit.SetNote{On: on(cm.EntityRegion, "region"), Note: "rn"}, &edit.SetNote{On: on(cm.EntityMap, "m"), Note: "mn"},
		&edit.SetNote{On: on(cm.EntityConcept, "bell"), Note: "cn"}, &edit.SetNote{On: on(cm.EntityLink, "b-has"), Note: "ln"}, &edit.SetLanguage{Language: "de"})
	out, err := edit.Apply(m, ops, nil)
	require.NoError(t, err)
	left := regexp.MustCompile(`"seen": \{[^}]*\}`).ReplaceAllString(doc(t, out.Map), "") // the words last seen are what they were
	assert.NotContains(t, left, `"en":`)
	assert.GreaterOrEqual(t, strings.Count(left, `"de":`), 20)
	assert.Equal(t, "R", out.Map.Words(out.Map.Concepts["bell"].Remark))
}

// A member that differs from a known one only in the case of its letters would be
// read as that one, or lost: it is refused, whichever it is.
func TestNoMemberIsReadInAnotherCase(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		raw, err := document.Write(maptest.Map(t, 20))
		require.NoError(t, err)
		names := regexp.MustCompile(`"([a-z][A-Za-z]*)": `).FindAllStringSubmatchIndex(string(raw), -1)
		at := names[rapid.IntRange(0, len(names)-1).Draw(t, "member")]
		name := string(raw[at[2]:at[3]])
		if len(name) < 3 && name != "id" && name != "at" {
			return // a language, or an id
		}
		changed := string(raw[:at[2]]) + strings.ToUpper(name[:1]) + name[1:] + string(raw[at[3]:])
		_, err = document.Read([]byte(changed))
		require.Error(t, err, name)
	})
	for _, name := range []string{"remark", "votes"} {
		_, err := document.Read(fmt.Appendf(nil, `{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a","label":{"en":"x"},"at":{"x":0,"y":0},"%s":{"en":%s},"%s":{"en":%s}}],"links":[],"routes":[],"stops":[]}`,
			name, map[string]string{"remark": `"one"`, "votes": "true"}[name], strings.ToUpper(name[:1])+name[1:], map[string]string{"remark": `"two"`, "votes": "true"}[name]))
		require.ErrorContains(t, err, "does not know", name)
	}
}

// Ids are anything that an id may be, also what elsewhere is a member in another case:
// what was written can be read again.
func TestIDsMayLookLikeMembers(t *testing.T) {
	m := tower(t)
	m.Tray = map[cm.ID]cm.Source{"URL": {URL: "https://hollin.example/", Rank: "1"}, "Title": {URL: "https://hollin.example/two", Rank: "2"}}
	m.Concepts["bell"].Sources = map[cm.ID]cm.Source{"File": {URL: "https://hollin.example/", Rank: "1"}}
	m.Concepts["bell"].Votes = map[cm.ID]bool{"Kind": true}
	raw, err := document.Write(m)
	require.NoError(t, err)
	again, err := document.Read(raw)
	require.NoError(t, err)
	require.Equal(t, string(raw), doc(t, again))
}

// What a map may hold is the same by edits and by files; what is too large already
// may change, but not grow.
func TestAMapIsBounded(t *testing.T) {
	full := cm.NewMap("m", "en")
	for i := range cm.MaxConcepts {
		id := cm.ID(fmt.Sprint("c", i))
		full.Concepts[id] = &cm.Concept{ID: id, Label: cm.Text{"en": "x"}}
	}
	raw, err := document.Write(full)
	require.NoError(t, err)
	_, err = document.Read(raw)
	require.NoError(t, err, "what is written can be read")
	_, err = edit.Apply(full, []edit.Operation{&edit.AddConcept{ID: "more", Label: "x"}}, nil)
	require.ErrorContains(t, err, "at most 10,000 concepts")
	full.Concepts["more"] = &cm.Concept{ID: "more", Label: cm.Text{"en": "x"}}
	_, err = edit.Apply(full, []edit.Operation{&edit.NameConcept{Concept: "c1", Label: "y"}}, nil)
	require.NoError(t, err)
	raw, err = document.Write(full)
	require.NoError(t, err)
	_, err = document.Read(raw)
	require.ErrorContains(t, err, "too large")

	ends := func(from int) (all []cm.End) {
		for i := range 60 {
			all = append(all, cm.End{ID: cm.ID(fmt.Sprintf("e%d-%d", from, i)), Concept: cm.ID(fmt.Sprint("c", from+i))})
		}
		return all
	}
	delete(full.Concepts, "more")
	var ops []edit.Operation
	for i := range cm.MaxStrands/(60*60) + 1 {
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: "x", From: ends(i * 200), To: ends(i*200 + 100)})
	}
	_, err = edit.Apply(full, ops[1:], nil)
	require.NoError(t, err)
	_, err = edit.Apply(full, ops, nil)
	require.ErrorContains(t, err, "sentences")

	m := tower(t)
	for note, fits := range map[string]bool{
		"| a | b |\n|---|---|\n| c | d |": true, strings.Repeat("|a", 60) + "|\n" + strings.Repeat("|-", 60) + "|\n" + strings.Repeat("|b\n", 60): false,
		strings.Repeat("either | or, in a line of words\n\n", 400): true,
	} {
		_, err = edit.Apply(m, []edit.Operation{&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, Note: note}}, nil)
		assert.Equal(t, fits, err == nil, "%.30s: %v", note, err)
	}
	_, err = edit.Apply(m, []edit.Operation{&edit.WriteStop{Stop: "s1", Part: "card", Words: strings.Repeat("|a", 60) + "|\n" + strings.Repeat("|-", 60) + "|\n" + strings.Repeat("|b\n", 60)}}, nil)
	require.ErrorContains(t, err, "cells")
	_, err = edit.Apply(m, []edit.Operation{&edit.NameConcept{Concept: "bell", Label: strings.Repeat("x\n", cm.MaxLines) + "x"}}, nil)
	require.ErrorContains(t, err, "lines")
}

package conceptmap_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/conceptmap/maptest"
)

func doc(t require.TestingT, m *cm.Map) string {
	raw, err := document.Write(m)
	require.NoError(t, err)
	return string(raw)
}

// sound holds a map to the rules that every map keeps: a document written and
// read is the same, byte for byte, which includes that its links join what is
// there and that its hierarchy is settled.
func sound(t require.TestingT, m *cm.Map) {
	written := doc(t, m)
	again, err := document.Read([]byte(written))
	require.NoError(t, err, written)
	require.Equal(t, written, doc(t, again))
	for _, c := range m.Concepts {
		if c.Main != nil {
			require.NotEmpty(t, m.Parent(c), "a main strand that does not hold: %s", c.ID)
			require.NotEqual(t, m.Focus, c.ID)
		}
		seen := map[cm.ID]bool{}
		for at := c.ID; at != ""; at = m.Parent(m.Concepts[at]) {
			require.False(t, seen[at], "%s is above itself", at)
			seen[at] = true
		}
	}
}

func TestUndoRestoresTheDocumentByteForByte(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := cm.NewMap("m", "en")
		begun := m
		me := &maptest.Author{Name: "a"}
		var states []string
		var logged [][]history.Change
		for range rapid.IntRange(1, 25).Draw(t, "entries") {
			var ops []edit.Operation
			work := m
			for range rapid.IntRange(1, 3).Draw(t, "operations") {
				op := me.Operation(t, work)
				if out, err := edit.Apply(work, []edit.Operation{op}, nil); err == nil {
					work, ops = out.Map, append(ops, op)
				}
			}
			before := doc(t, m)
			out, err := edit.Apply(m, ops, nil)
			if err != nil {
				continue // settling between the operations can let one more through
			}
			require.Equal(t, before, doc(t, m), "Apply altered the map that it was given")
			sound(t, out.Map)

			raw, err := json.Marshal(out.Changes)
			require.NoError(t, err)
			var read []history.Change
			require.NoError(t, json.Unmarshal(raw, &read))
			replayed, err := history.Replay(m, read)
			require.NoError(t, err)
			require.Equal(t, doc(t, out.Map), doc(t, replayed), "replaying the changes gave another map")

			// Whatever lies between two states, what differs leads from any of them to any other.
			if n := len(states); n > 0 && n%3 == 0 {
				for _, ways := range [][2]*cm.Map{{out.Map, begun}, {begun, out.Map}} {
					gone, err := history.Replay(ways[0], history.Between(ways[0], ways[1]))
					require.NoError(t, err)
					require.Equal(t, doc(t, ways[1]), doc(t, gone))
				}
			}

			written, err := edit.MarshalOperations(ops)
			require.NoError(t, err)
			back, err := edit.ReadOperations(written)
			require.NoError(t, err)
			// Who speaks does not travel with an operation.
			edit.Sign(ops, edit.Speaker{})
			require.Equal(t, ops, append([]edit.Operation(nil), back...))

			states, logged, m = append(states, before), append(logged, read), out.Map
		}
		end := doc(t, m)
		var undone [][]history.Change
		for i, changes := range slices.Backward(logged) {
			out := history.Invert(m, changes)
			require.Empty(t, out.Notices)
			require.Equal(t, states[i], doc(t, out.Map))
			undone, m = append(undone, out.Changes), out.Map
		}
		for _, changes := range slices.Backward(undone) {
			m = history.Invert(m, changes).Map
		}
		require.Equal(t, end, doc(t, m), "redoing everything gave another map")
	})
}

// Two authors work in any order and each takes back their own last entry at
// any time. What an undo may touch is computed here from the log, field by
// field, without the code under test.
func TestUndoWithTwoAuthorsTakesOnlyWhatIsStillOnes(t *testing.T) {
	type logged struct {
		id      cm.ID
		author  int
		changes []history.Change
	}
	rapid.Check(t, func(t *rapid.T) {
		m := cm.NewMap("m", "en")
		authors := []*maptest.Author{{Name: "a"}, {Name: "b"}}
		names := []string{"ada", "ben"}
		var log []logged
		var past history.History
		for i := range rapid.IntRange(5, 40).Draw(t, "steps") {
			who := rapid.IntRange(0, 1).Draw(t, "who")
			id := cm.ID("entry" + string(rune('A'+i%26)) + string(rune('a'+i/26)))
			if target := past.Undoable(names[who]); target != "" && rapid.IntRange(0, 3).Draw(t, "undo") == 0 {
				at := slices.IndexFunc(log, func(l logged) bool { return l.id == target })
				require.Equal(t, who, log[at].author)
				out := history.Invert(m, log[at].changes)
				checkUndo(t, m, out, log[at].changes)
				sound(t, out.Map)
				m = out.Map
				log = append(log, logged{id, who, out.Changes})
				past.Add(history.Step{Entry: id, Author: names[who], Undoes: target})
				continue
			}
			out, err := edit.Apply(m, []edit.Operation{authors[who].Operation(t, m)}, nil)
			if err != nil {
				continue
			}
			m = out.Map
			log = append(log, logged{id, who, out.Changes})
			past.Add(history.Step{Entry: id, Author: names[who]})
		}
	})
}

// parts lists every field of every entity of a map, as its document has them.
func parts(t require.TestingT, m *cm.Map) map[string]string {
	all := map[string]string{}
	empty := cm.NewMap(m.ID, "xx")
	for kind, ids := range map[cm.Entity][]cm.ID{cm.EntityConcept: cm.SortedIDs(m.Concepts), cm.EntityLink: cm.SortedIDs(m.Links), cm.EntityRoute: cm.SortedIDs(m.Routes), cm.EntityStop: cm.SortedIDs(m.Stops), cm.EntityMap: {m.ID},
		cm.EntityKind: cm.SortedIDs(m.Kinds), cm.EntityTag: cm.SortedIDs(m.Tags), cm.EntityRegion: cm.SortedIDs(m.Regions), cm.EntityFilter: cm.SortedIDs(m.Filters), cm.EntityComment: cm.SortedIDs(m.Comments)} {
		for _, id := range ids {
			for name, raw := range history.Difference(empty, m, cm.Key{Kind: kind, ID: id}).After {
				all[string(kind)+" "+string(id)+" "+name] = string(raw)
			}
		}
	}
	return all
}

// follows tells whether a field follows from the rest of the map.
func follows(field string) bool {
	return strings.HasSuffix(field, " main") || strings.HasSuffix(field, " refs") || strings.HasPrefix(field, "comment ") && strings.HasSuffix(field, " on")
}

func checkUndo(t *rapid.T, before *cm.Map, out history.Outcome, entry []history.Change) {
	was, is := parts(t, before), parts(t, out.Map)
	// What the entry left in each field, and what was there before it.
	left, had := map[string]string{}, map[string]string{}
	for _, c := range entry {
		for name, raw := range c.After {
			left[string(c.Kind)+" "+string(c.ID)+" "+name] = string(raw)
		}
		for name, raw := range c.Before {
			had[string(c.Kind)+" "+string(c.ID)+" "+name] = string(raw)
		}
	}
	for field, now := range was {
		if follows(field) {
			continue // follow from the rest
		}
		after, there := is[field]
		if there && after == now {
			continue
		}
		mine, wrote := left[field]
		require.True(t, wrote && mine == now, "undo altered %s from %s, which its entry had not left there", field, now)
		require.Equal(t, had[field], after, "undo put something else into %s", field)
	}
	for field, now := range is {
		if _, there := was[field]; !there && !strings.HasSuffix(field, " main") {
			require.Equal(t, had[field], now, "undo invented %s", field)
		}
	}
	if len(out.Notices) > 0 {
		return
	}
	// Nothing was left alone: then everything the entry left must be undone.
	for field, now := range left {
		if follows(field) {
			continue
		}
		if was[field] == now && now != had[field] {
			require.Equal(t, had[field], is[field], "undo forgot %s", field)
		}
	}
}

func TestUndoRefusesToTakeLaterWorkAway(t *testing.T) {
	apply := func(m *cm.Map, ops ...edit.Operation) history.Outcome {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		return out
	}
	start := apply(cm.NewMap("m", "en"), &edit.AddConcept{ID: "bell", Label: "bell"}).Map
	ada := apply(start, &edit.AddConcept{ID: "clapper", Label: "clapper"})
	ben := apply(ada.Map, &edit.AddLink{ID: "l", Phrase: "strikes", From: []cm.End{{ID: "f", Concept: "clapper"}}, To: []cm.End{{ID: "t", Concept: "bell"}}})

	undone := history.Invert(ben.Map, ada.Changes)
	assert.Empty(t, undone.Changes)
	assert.Equal(t, doc(t, ben.Map), doc(t, undone.Map))
	require.Len(t, undone.Notices, 1)
	assert.Contains(t, undone.Notices[0].String(), "“clapper” has been worked on since")

	named := apply(start, &edit.NameConcept{Concept: "bell", Label: "the bell"}, &edit.Move{Places: map[cm.ID]cm.Point{"bell": {X: 40}}})
	other := apply(named.Map, &edit.NameConcept{Concept: "bell", Label: "tenor bell"})
	undone = history.Invert(other.Map, named.Changes)
	assert.Equal(t, "tenor bell", undone.Map.Concepts["bell"].Label["en"], "Ben's words stay")
	assert.Zero(t, undone.Map.Concepts["bell"].At.X, "the place goes back")
	assert.Contains(t, undone.Notices[0].String(), "“tenor bell”")
}

func TestMergeLeadsEverythingToTheHeir(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "air", Label: "air"}, &edit.AddConcept{ID: "air2", Label: "Air"}, &edit.AddConcept{ID: "ear", Label: "ear"},
		&edit.AddConcept{ID: "wave", Label: "wave"}, &edit.SetFocus{Concept: "ear"},
		&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "air2"}, Note: "78 % nitrogen"},
		&edit.AddLink{ID: "l1", Phrase: "carries", From: end("a", "air"), To: end("b", "wave")},
		&edit.AddLink{ID: "l2", Phrase: "carries", From: end("a", "air2"), To: end("b", "wave")},
		&edit.AddLink{ID: "l3", Phrase: "reaches", From: end("a", "air2"), To: end("b", "ear")},
		&edit.AddLink{ID: "l4", Phrase: "is", From: end("a", "air2"), To: end("b", "air")},
		&edit.AddRoute{ID: "r"}, &edit.AddStop{ID: "s", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "air2"}, {Kind: cm.EntityLink, ID: "l2"}}},
	}, nil)
	require.NoError(t, err)
	out, err = edit.Apply(out.Map, []edit.Operation{&edit.MergeConcepts{Keep: "air", Gone: "air2"}}, nil)
	require.NoError(t, err)
	m := out.Map
	assert.ElementsMatch(t, []cm.ID{"l1", "l3"}, cm.SortedIDs(m.Links), "the twin and the self-link are gone")
	assert.Equal(t, cm.ID("air"), m.Links["l3"].From[0].Concept)
	assert.Equal(t, "78 % nitrogen", m.Concepts["air"].Note["en"])
	assert.Equal(t, []cm.ID{"air", "l1"}, []cm.ID{m.Stops["s"].Refs[0].ID, m.Stops["s"].Refs[1].ID})
	assert.Contains(t, out.Moved, draft.Moved{Kind: cm.EntityConcept, Old: "air2", New: "air"})
	assert.Contains(t, out.Moved, draft.Moved{Kind: cm.EntityLink, OldLink: "l2", Old: "b", NewLink: "l1", New: "b"})
	assert.Len(t, out.Notices, 2)
	sound(t, m)
}

func TestStopsOutliveWhatTheyShow(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "c", Label: "hum tone"}, &edit.AddRoute{ID: "r"},
		&edit.AddStop{ID: "s", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "c"}}},
		&edit.NameConcept{Concept: "c", Label: "the hum"}, &edit.Remove{Concepts: []cm.ID{"c"}},
	}, nil)
	require.NoError(t, err)
	require.Contains(t, out.Map.Stops, cm.ID("s"))
	assert.Equal(t, "the hum", out.Map.Stops["s"].Refs[0].Seen["en"])
	sound(t, out.Map)
}

func TestTheFirstStrandIsTheMainOne(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "top"}, &edit.AddConcept{ID: "a"}, &edit.AddConcept{ID: "b"}, &edit.SetFocus{Concept: "top"},
		&edit.AddLink{ID: "l1", From: end("f", "a"), To: end("t", "top")}, // against its arrow
		&edit.AddLink{ID: "l2", From: end("f", "a"), To: end("t", "b")},
		&edit.AddLink{ID: "l3", From: end("f", "top"), To: end("t", "b")}, // b has a parent already
	}, nil)
	require.NoError(t, err)
	m := out.Map
	assert.Equal(t, cm.ID("top"), m.Parent(m.Concepts["a"]))
	assert.Equal(t, cm.ID("a"), m.Parent(m.Concepts["b"]))
	out, err = edit.Apply(m, []edit.Operation{&edit.Remove{Links: []cm.ID{"l2"}}}, nil)
	require.NoError(t, err)
	assert.Equal(t, cm.ID("top"), out.Map.Parent(out.Map.Concepts["b"]), "the next strand takes over")
	out, err = edit.Apply(m, []edit.Operation{&edit.SetFocus{Concept: "b"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []cm.ID{"", "b", "a"}, []cm.ID{out.Map.Parent(out.Map.Concepts["b"]), out.Map.Parent(out.Map.Concepts["a"]), out.Map.Parent(out.Map.Concepts["top"])})
}

func TestKeyBetweenAlwaysFindsRoom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		keys := []string{}
		for range rapid.IntRange(1, 200).Draw(t, "keys") {
			i := rapid.IntRange(0, len(keys)).Draw(t, "at")
			low, high := "", ""
			if i > 0 {
				low = keys[i-1]
			}
			if i < len(keys) {
				high = keys[i]
			}
			key := cm.KeyBetween(low, high)
			require.True(t, low < key && (high == "" || key < high) && cm.ValidRank(key), "%q %q %q", low, key, high)
			keys = slices.Insert(keys, i, key)
		}
	})
}

func TestHostileWordsAndDocuments(t *testing.T) {
	add := func(label string) (*cm.Map, error) {
		out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "c", Label: label}}, nil)
		return out.Map, err
	}
	m, err := add("\u202eevil\u2066\x00 e\u0301\r\nline ")
	require.NoError(t, err)
	assert.Equal(t, "evil é\nline", m.Concepts["c"].Label["en"])
	for _, bad := range []string{strings.Repeat("a", 100_000), strings.Repeat("é", 401), "\xff\xfe"} {
		_, err := add(bad)
		var words *cm.Refusal
		require.ErrorAs(t, err, &words)
	}
	good := doc(t, m)
	for what, bad := range map[string]string{
		"newer":       strings.Replace(good, `"mevrin": 1`, `"mevrin": 2`, 1),
		"unknown":     strings.Replace(good, `"routes"`, `"weather": 1, "routes"`, 1),
		"double id":   strings.Replace(good, `"concepts": [`, `"concepts": [{"id":"c","at":{"x":0,"y":0}},`, 1),
		"dangling":    strings.Replace(good, `"links": [`, `"links": [{"id":"l","heads":"one","from":[{"id":"a","concept":"c"}],"to":[{"id":"b","concept":"gone"}]}`, 1),
		"null":        strings.Replace(good, `"concepts": [`, `"concepts": [null,`, 1),
		"far away":    strings.Replace(good, `"x": 0`, `"x": 1e300`, 1),
		"cut off":     good[:len(good)/2],
		"more":        good + "{}",
		"no document": `{"name":"x"}`,
		"nested":      strings.Repeat("[", 200_000),
	} {
		require.NotEqual(t, good, bad, what)
		_, err := document.Read([]byte(bad))
		var words *cm.Refusal
		require.ErrorAs(t, err, &words, what)
	}
	for _, bad := range []string{`{}`, `[{"do":"drop-table"}]`, `[{"do":"add-concept","id":"a b"}]`, `[{"do":"move","places":{"c":{"x":"1"}}}]`, `[{"do":"add-concept","extra":1}]`, `[null]`, `[[]]`} {
		ops, err := edit.ReadOperations([]byte(bad))
		if err == nil {
			_, err = edit.Apply(m, ops, nil)
		}
		require.Error(t, err, bad)
	}
}

func FuzzRead(f *testing.F) {
	out, _ := edit.Apply(cm.NewMap("m", "en"), maptest.Large(4), nil)
	raw, _ := document.Write(out.Map)
	f.Add(raw)
	f.Fuzz(func(t *testing.T, raw []byte) {
		m, err := document.Read(raw)
		if err != nil {
			return
		}
		again, err := document.Read([]byte(doc(t, m)))
		require.NoError(t, err)
		require.True(t, bytes.Equal([]byte(doc(t, m)), []byte(doc(t, again))))
	})
}

func TestAMapIsCalledByItsFocusConceptUntilItIsNamed(t *testing.T) {
	m := cm.NewMap("m", "de")
	for _, step := range []struct {
		op   edit.Operation
		name string
	}{
		{&edit.Ask{Question: "Wie klingt sie?"}, "Wie klingt sie?"},
		{&edit.AddConcept{ID: "c", Label: "die\nGlocke"}, "Wie klingt sie?"},
		{&edit.SetFocus{Concept: "c"}, "die Glocke"},
		{&edit.NameConcept{Concept: "c", Label: "eine Glocke"}, "eine Glocke"},
		{&edit.NameMap{Title: "Klang"}, "Klang"},
		{&edit.NameConcept{Concept: "c", Label: "Erz"}, "Klang"},
		{&edit.NameMap{Title: " "}, "Erz"},
	} {
		out, err := edit.Apply(m, []edit.Operation{step.op}, nil)
		require.NoError(t, err)
		m = out.Map
		assert.Equal(t, step.name, m.Name())
	}
}

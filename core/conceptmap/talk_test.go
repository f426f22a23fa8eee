package conceptmap_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
)

// speaking applies operations as somebody speaks them, at a minute of a day.
func speaking(t *testing.T, m *cm.Map, who cm.ID, gentle bool, minute int, ops ...edit.Operation) (history.Outcome, error) {
	t.Helper()
	edit.Sign(ops, edit.Speaker{ID: who, At: fmt.Sprintf("2026-11-27T08:%02d:00.000Z", minute), AdditiveOnly: gentle})
	return edit.Apply(m, ops, nil)
}

func bells(t *testing.T) *cm.Map {
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "bell", Label: "the bell"}, &edit.AddConcept{ID: "rim", Label: "the rim"}, &edit.AddConcept{ID: "lip", Label: "the lip"},
		&edit.AddLink{ID: "has", Phrase: "has", From: []cm.End{{ID: "f", Concept: "bell"}}, To: []cm.End{{ID: "t", Concept: "rim"}}},
		&edit.AddRegion{ID: "edge", Title: "the edge", Concepts: []cm.ID{"rim", "lip"}},
	}, nil)
	require.NoError(t, err)
	return out.Map
}

// A thread: begun, answered, altered, taken back, settled, by those who may.
func TestCommentsBelongToWhoWroteThem(t *testing.T) {
	m := bells(t)
	must := func(who cm.ID, gentle bool, minute int, op edit.Operation) history.Outcome {
		t.Helper()
		out, err := speaking(t, m, who, gentle, minute, op)
		require.NoError(t, err)
		m = out.Map
		return out
	}
	refused := func(words string, who cm.ID, gentle bool, op edit.Operation) {
		t.Helper()
		_, err := speaking(t, m, who, gentle, 0, op)
		require.ErrorContains(t, err, words)
	}
	rim := cm.Key{Kind: cm.EntityConcept, ID: "rim"}
	refused("not known who", "", false, &edit.AddComment{ID: "c1", On: rim, Words: "Which rim?"})
	refused("needs words", "ada", true, &edit.AddComment{ID: "c1", On: rim, Words: " \n"})
	refused("too long", "ada", true, &edit.AddComment{ID: "c1", On: rim, Words: strings.Repeat("a", cm.MaxCommentWords+1)})
	refused("no longer on the map", "ada", true, &edit.AddComment{ID: "c1", On: cm.Key{Kind: cm.EntityLink, ID: "rim"}, Words: "Which?"})
	begun := must("ada", true, 5, &edit.AddComment{ID: "c1", On: rim, Name: "Ada\n of 5b", Words: "Which rim? <b>"})
	must("ben", true, 7, &edit.AddComment{ID: "c2", Answers: "c1", Name: "Ben", Words: "The lower one."})
	must("ada", true, 9, &edit.AddComment{ID: "c3", Answers: "c2", Words: "Thanks."}) // an answer to an answer stands in the thread
	must("author", false, 1, &edit.AddComment{ID: "c4", On: cm.Key{Kind: cm.EntityMap, ID: "m"}, Words: "Done by Friday?"})

	threads := m.Threads()
	require.Len(t, threads, 2)
	require.Equal(t, []cm.ID{"c4", "c1"}, []cm.ID{threads[0].ID, threads[1].ID}, "the oldest first")
	require.Equal(t, []*cm.Comment{m.Comments["c2"], m.Comments["c3"]}, threads[1].Answers)
	require.Equal(t, cm.Comment{ID: "c1", On: cm.Ref{Kind: cm.EntityConcept, ID: "rim", Seen: cm.Text{"en": "the rim"}}, By: "ada", Name: "Ada of 5b", At: "2026-11-27T08:05:00.000Z", Words: "Which rim? <b>"}, *m.Comments["c1"])
	require.Equal(t, map[cm.Key]int{rim: 3, {Kind: cm.EntityMap}: 1}, m.Discussion())

	refused("Only whoever wrote", "ben", true, &edit.ChangeComment{Comment: "c1", Words: "mine"})
	refused("Only whoever wrote", "author", false, &edit.ChangeComment{Comment: "c1", Words: "mine"})
	refused("Only whoever wrote", "ben", true, &edit.ChangeComment{Comment: "c1"})
	refused("Only whoever began", "ben", true, &edit.SettleComment{Comment: "c1", Settled: true})
	refused("by its first comment", "author", false, &edit.SettleComment{Comment: "c2", Settled: true})
	must("author", false, 0, &edit.SettleComment{Comment: "c1", Settled: true})
	require.Zero(t, m.Discussion()[rim], "a thread that is settled counts no more")
	must("ben", true, 12, &edit.AddComment{ID: "c5", Answers: "c1", Words: "Or is it?"})
	require.Equal(t, 4, m.Discussion()[rim], "an answer opens it again")

	// What was answered leaves its place when it is taken back, until the last answer
	// goes, too. Undoing what others have answered is refused.
	out := history.Invert(m, begun.Changes)
	require.Equal(t, "Nothing was undone: a comment has been worked on since by someone else.", out.Notices[0].String())
	must("ada", true, 0, &edit.ChangeComment{Comment: "c1"})
	require.Empty(t, m.Comments["c1"].Words)
	for who, id := range map[cm.ID]cm.ID{"ada": "c3", "ben": "c2", "author": "c5"} {
		must(who, who != "author", 0, &edit.ChangeComment{Comment: id})
	}
	require.Equal(t, []cm.ID{"c4"}, cm.SortedIDs(m.Comments))
}

// Comments and votes follow what they are about, and outlive it.
func TestTalkFollowsWhatItIsAbout(t *testing.T) {
	m := bells(t)
	yes, no := true, false
	for _, step := range []struct {
		who cm.ID
		op  edit.Operation
	}{
		{"ada", &edit.Vote{Concept: "rim", For: &yes}}, {"ben", &edit.Vote{Concept: "rim", For: &yes}}, {"ben", &edit.Vote{Concept: "rim", For: &no}},
		{"ada", &edit.Vote{Concept: "lip", For: &no}}, {"eve", &edit.Vote{Concept: "lip", For: &yes}}, {"dan", &edit.Vote{Concept: "lip", For: &yes}}, {"dan", &edit.Vote{Concept: "lip"}},
		{"ada", &edit.AddComment{ID: "c1", On: cm.Key{Kind: cm.EntityConcept, ID: "lip"}, Words: "Is it the rim?"}},
		{"ada", &edit.AddComment{ID: "c2", On: cm.Key{Kind: cm.EntityRegion, ID: "edge"}, Words: "Of what?"}},
		{"ada", &edit.AddComment{ID: "c3", On: cm.Key{Kind: cm.EntityLink, ID: "has"}, Words: "Has?"}},
	} {
		out, err := speaking(t, m, step.who, true, 0, step.op)
		require.NoError(t, err)
		m = out.Map
	}
	tally := func(m *cm.Map, id cm.ID) [2]int { a, d := m.Concepts[id].Tally(false); return [2]int{a, d} }
	require.Equal(t, [2]int{1, 1}, tally(m, "rim"))
	require.Equal(t, [2]int{1, 1}, tally(m, "lip"))
	_, err := speaking(t, m, "", true, 0, &edit.Vote{Concept: "rim", For: &yes})
	require.ErrorContains(t, err, "not known who")

	// Merged, everyone has one vote: theirs on the one that stays counts.
	merged, err := edit.Apply(m, []edit.Operation{&edit.MergeConcepts{Keep: "rim", Gone: "lip"}}, nil)
	require.NoError(t, err)
	require.Equal(t, map[cm.ID]bool{"ada": true, "ben": false, "eve": true}, merged.Map.Concepts["rim"].Votes)
	require.Equal(t, cm.ID("rim"), merged.Map.Comments["c1"].On.ID)
	require.Equal(t, doc(t, m), doc(t, history.Invert(merged.Map, merged.Changes).Map))

	// Gone, the words that it had last are kept with what was said.
	gone, err := edit.Apply(m, []edit.Operation{&edit.NameConcept{Concept: "lip", Label: "the lower lip"}, &edit.NameLink{Link: "has", Phrase: "ends in"}, &edit.SetRegion{Region: "edge", Title: ptr("the border")},
		&edit.Remove{Concepts: []cm.ID{"lip"}, Links: []cm.ID{"has"}}, &edit.RemoveRegion{Region: "edge"}}, nil)
	require.NoError(t, err)
	seen := func(id cm.ID) string { return gone.Map.Words(gone.Map.Comments[id].On.Seen) }
	assert.Equal(t, []string{"the lower lip", "the border", "ends in"}, []string{seen("c1"), seen("c2"), seen("c3")})

	// Apart from the map: it can be had without, and is otherwise the same.
	raw := doc(t, m.WithoutDiscussion())
	assert.NotContains(t, raw, `"comments"`)
	assert.NotContains(t, raw, `"votes"`)
	assert.Equal(t, doc(t, bells(t)), raw)
	assert.True(t, m.Discussed())
	assert.False(t, m.WithoutDiscussion().Discussed())
}

func ptr[V any](v V) *V { return &v }

// What people said arrives whole from a file, or the file is refused.
func TestCommentsOfAFileAreRead(t *testing.T) {
	with := func(comments string) error {
		_, err := document.Read([]byte(`{"mevrin":1,"id":"m","language":"en","concepts":[],"links":[],"routes":[],"stops":[],"comments":[` + comments + `]}`))
		return err
	}
	const on, rest = `"on":{"kind":"concept","id":"gone","seen":{"en":"the rim"}}`, `"by":"ada","at":"2026-11-27T08:05:00.000Z","words":"Which?"`
	require.NoError(t, with(`{"id":"c1",`+on+`,`+rest+`},{"id":"c2","answers":"c1",`+rest+`}`))
	for name, bad := range map[string]string{
		"answers nothing":             `{"id":"c2","answers":"c1",` + rest + `}`,
		"says what it is about twice": `{"id":"c1",` + on + `,` + rest + `},{"id":"c2",` + on + `,"answers":"c1",` + rest + `}`,
		"is about nothing":            `{"id":"c1",` + rest + `}`,
		"answers an answer":           `{"id":"c1",` + on + `,` + rest + `},{"id":"c2","answers":"c1",` + rest + `},{"id":"c3","answers":"c2",` + rest + `}`,
		"answers itself":              `{"id":"c1","answers":"c1",` + rest + `}`,
		"is about a stop":             `{"id":"c1","on":{"kind":"stop","id":"s"},` + rest + `}`,
		"is of another day":           `{"id":"c1",` + on + `,"by":"ada","at":"2026-02-30T08:05:00.000Z","words":"Which?"}`,
		"is by nobody":                `{"id":"c1",` + on + `,"by":"","at":"2026-11-27T08:05:00.000Z","words":"Which?"}`,
		"turns words round":           `{"id":"c1",` + on + `,"by":"ada","at":"2026-11-27T08:05:00.000Z","words":"a\u202eb"}`,
		"is an answer, yet settled":   `{"id":"c1",` + on + `,` + rest + `},{"id":"c2","answers":"c1","settled":true,` + rest + `}`,
		"has the id of another one":   `{"id":"c1",` + on + `,` + rest + `},{"id":"c1",` + on + `,` + rest + `}`,
		"is nothing, but in the list": `null`,
	} {
		assert.Error(t, with(bad), name)
	}
}

// A task: who, until when, how long; it stands in for what the concept lacks.
func TestTasks(t *testing.T) {
	m := bells(t)
	apply := func(ops ...edit.Operation) {
		t.Helper()
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
	}
	apply(&edit.SetTask{Concept: "bell", Who: ptr("Ada"), What: ptr("find a picture"), When: ptr("2026-12-04 to 2026-12-11"), Lasts: ptr("2 h")},
		&edit.SetTask{Concept: "rim", Who: ptr("Ben"), When: ptr("2026-12-01"), Lasts: ptr("30 min")}, &edit.SetTask{Concept: "lip", Who: ptr("Ada")})
	bell := m.Concepts["bell"]
	assert.Equal(t, cm.Task{What: "find a picture", Who: "Ada", When: "2026-12-04/2026-12-11", Lasts: &cm.Amount{Value: 2, Unit: cm.UnitHours}}, *bell.Task)
	from, to, dated := bell.Span()
	assert.True(t, dated && from > 2026.9 && to < 2027)
	assert.Equal(t, "2 h", bell.EffectiveDuration().Words())
	list := func() (ids []cm.ID) {
		for _, c := range m.TaskList() {
			ids = append(ids, c.ID)
		}
		return ids
	}
	assert.Equal(t, []cm.ID{"rim", "bell", "lip"}, list(), "by time, what has none last")
	apply(&edit.SetTask{Concept: "rim", Done: ptr(true)}, &edit.SetWhen{Concept: "bell", When: "1762"}, &edit.SetDuration{Concept: "bell", Lasts: "3 days"})
	assert.Equal(t, []cm.ID{"bell", "lip", "rim"}, list(), "what is done comes last")
	assert.Equal(t, []string{"1762", "3 days"}, []string{m.Concepts["bell"].EffectiveTime(), m.Concepts["bell"].EffectiveDuration().Words()}, "a concept's own goes first")
	apply(&edit.SetTask{Concept: "lip", Lasts: ptr("1.5 h")})
	assert.Equal(t, []cm.Assignee{{Name: "Ada", Open: 2, Lasts: cm.Lasting{Minutes: 210}}, {Name: "Ben"}}, m.Assignees(), "what is done is not left")
	for words, op := range map[string]*edit.SetTask{"ends before": {Concept: "lip", When: ptr("2026-12-11/2026-12-04")}, "no duration": {Concept: "lip", Lasts: ptr("soon")}, "too long": {Concept: "lip", Who: ptr(strings.Repeat("a", 81))}} {
		_, err := edit.Apply(m, []edit.Operation{op}, nil)
		assert.ErrorContains(t, err, words)
	}
	apply(&edit.SetTask{Concept: "rim", None: true})
	assert.Nil(t, m.Concepts["rim"].Task)
}

// A remark that no longer fits behind another one goes into the note.
func TestRemarksAndNotesAreJoined(t *testing.T) {
	long := strings.Repeat("sharp ", 20)
	out, err := edit.Apply(bells(t), []edit.Operation{
		&edit.SetRemark{Concept: "rim", Remark: "sharp"}, &edit.SetRemark{Concept: "lip", Remark: "thick"}, &edit.SetRemark{Concept: "bell", Remark: long},
		&edit.SetNoteCard{On: cm.Key{Kind: cm.EntityConcept, ID: "lip"}, Colour: ptr(cm.Colours[2]), Off: &cm.Point{X: 100.1, Y: -20}},
		&edit.MergeConcepts{Keep: "rim", Gone: "lip"},
	}, nil)
	require.NoError(t, err)
	rim := out.Map.Concepts["rim"]
	assert.Equal(t, "sharp; thick", out.Map.Words(rim.Remark))
	assert.Equal(t, cm.NoteCard{Colour: cm.Colours[2], Off: &cm.Point{X: 100, Y: -20}}, *rim.NoteCard)
	out, err = edit.Apply(out.Map, []edit.Operation{&edit.SetRemark{Concept: "rim", Remark: long + "!"}, &edit.MergeConcepts{Keep: "bell", Gone: "rim"}}, nil)
	require.NoError(t, err)
	bell := out.Map.Concepts["bell"]
	assert.Equal(t, strings.TrimSpace(long), out.Map.Words(bell.Remark))
	assert.Equal(t, long+"!", out.Map.Words(bell.Note))

	for _, op := range []edit.Operation{
		&edit.SetNoteCard{On: cm.Key{Kind: cm.EntityConcept, ID: "bell"}, Off: &cm.Point{X: cm.FarthestNote + 1}},
		&edit.SetNoteCard{On: cm.Key{Kind: cm.EntityMap, ID: "m"}, Off: &cm.Point{}}, &edit.SetNoteCard{On: cm.Key{Kind: cm.EntityLink, ID: "has"}, Colour: ptr(cm.Colour("mauve"))},
		&edit.SetRemark{Concept: "bell", Remark: strings.Repeat("a", cm.MaxRemark+1)},
	} {
		_, err := edit.Apply(out.Map, []edit.Operation{op}, nil)
		assert.Error(t, err)
	}
}

package web_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// Somebody who may comment does by hand, on a sheet of their own, what they would alter: the map stays as it is,
// nobody else sees the sheet, and what they did and did not undo is one suggestion, which is taken as one.
func TestWhatIsDoneOnASheetIsSuggested(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	who, signed := map[string]*someone{}, signingIn(t, folder, browser)
	for _, id := range []string{"ada", "ben", "cleo"} {
		if id != "ada" {
			require.NoError(t, folder.AddPerson(t.Context(), person(id, id), "none"))
		}
		who[id] = signed(id)
	}
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightComment))
	require.NoError(t, ada.ShareWith(t.Context(), "m", "cleo", people.RightLook))
	status, _, _ := who["cleo"].post("/maps/m/sheet")
	assert.Equal(t, 403, status)
	status, _, to := who["ben"].post("/maps/m/sheet")
	require.Equal(t, 303, status)
	_, _, again := who["ben"].post("/maps/m/sheet")
	assert.Equal(t, to, again, "there is one sheet of a map")
	status, _, _ = who["ada"].ask("GET", to, "")
	assert.Equal(t, 404, status)
	_, page, _ := who["ben"].ask("GET", "/", "")
	assert.NotContains(t, page, to)

	_, page, _ = who["ben"].ask("GET", to+"/suggest", "")
	assert.Contains(t, page, "Nothing was altered on the sheet yet.")
	n := 0
	do := func(what string) {
		t.Helper()
		n++
		status, answer := who["ben"].json(to+"/entries", fmt.Sprintf(`{"id":"e%d","window":"w","seen":1,%s}`, n, what))
		require.Equal(t, 200, status, answer)
	}
	do(`"operations":[{"do":"add-concept","id":"rope","label":"the rope","at":{"x":0,"y":300}},{"do":"add-link","id":"l","phrase":"is rung by","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"rope"}]}]`)
	do(`"operations":[{"do":"name-concept","concept":"bell","label":"nonsense"}]`)
	do(`"back":"undo"`)
	do(`"operations":[{"do":"name-concept","concept":"rope","label":"a rope"}]`)
	do(`"operations":[{"do":"add-comment","id":"c","on":{"kind":"concept","id":"rope"},"words":"for myself"}]`)
	_, page, _ = who["ben"].ask("GET", to, "")
	assert.Contains(t, page, `href="`+to+`/suggest"`)
	status, page, _ = who["ben"].ask("GET", to+"/suggest", "")
	require.Equal(t, 200, status)
	assert.Contains(t, page, "a rope")
	assert.Contains(t, page, `data-fresh="`)
	assert.NotContains(t, page, "nonsense")
	status, _, to = who["ben"].post(to+"/suggest", "reason", "There is one.")
	require.Equal(t, 303, status)
	assert.Contains(t, to, "/maps/m/suggestions?done=suggested")
	_, revision, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 1, revision, "the map stays as it is")
	sheet, err := folder.For(store.Scope{Person: "ben"}).SheetOf(t.Context(), "m")
	require.NoError(t, err)
	assert.Empty(t, sheet)
	all, err := ada.Suggestions(t.Context(), "m")
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "There is one.", all[0].Reason)
	status, _, _ = who["ada"].post("/maps/m/suggestions/" + all[0].ID + "/take")
	require.Equal(t, 303, status)
	m, _, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, cm.Text{"en": "a rope"}, m.Concepts["rope"].Label)
	assert.Equal(t, "secret bell", m.Concepts["bell"].Label["en"])
	assert.Empty(t, m.Comments)

	// Who put what on the map is told to those who work on it, and to nobody else.
	_, answer, _ := who["ada"].ask("GET", "/maps/m/who", "")
	assert.Contains(t, answer, `"rope":"you"`)
	status, _, _ = who["ben"].ask("GET", "/maps/m/who", "")
	assert.Equal(t, 403, status)
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightEdit))
	_, answer, _ = who["ben"].ask("GET", "/maps/m/who", "")
	assert.Contains(t, answer, `"rope":"Ada"`)

	// A state that was brought back is no change that could be told: it is said so, and nothing is sent.
	_, _, other := who["cleo"].post("/maps/m/sheet")
	assert.Empty(t, other, "who looks alone has none")
	_, _, to = who["ben"].post("/maps/m/sheet")
	n = 100
	do(`"operations":[{"do":"name-concept","concept":"rope","label":"a cord"}]`)
	status, _, _ = who["ben"].post(to+"/versions", "at", "1", "what", "restore")
	require.Equal(t, 303, status)
	_, page, _ = who["ben"].ask("GET", to+"/suggest", "")
	assert.Contains(t, page, "A state of before was brought back")
	status, _, _ = who["ben"].post(to+"/suggest", "reason", "")
	assert.Equal(t, 422, status)

	// A sheet is thrown away; and one of a map that is no longer open to them leads nowhere.
	_, _, to = who["ben"].post("/maps/m/sheet")
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightNone))
	status, _, _ = who["ben"].ask("GET", to+"/suggest", "")
	assert.Equal(t, 404, status)
	status, _, _ = who["ben"].post(to+"/suggest", "do", "drop")
	assert.Equal(t, 303, status)
	status, _, _ = who["ben"].ask("GET", to, "")
	assert.Equal(t, 404, status)
}

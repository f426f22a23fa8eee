package web_test

import (
	"encoding/csv"
	"encoding/json"
	"net/url"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/structure"
	"mevrin/workspace/query"
)

// A state of a map gets a name, is seen with what changed since, and comes back as one more entry, which is
// undone like any other; the log tells all of it.
func TestAMapGoesBackToWhatItWas(t *testing.T) {
	s := serve(t, t.TempDir())
	do := func(id, ops string) {
		t.Helper()
		status, body := s.post("/maps/m/entries", entry(id, "w", 1, ops))
		require.Equal(t, 200, status, body)
	}
	do("g2", `[{"do":"name-concept","concept":"c00001","label":"the great bell"}]`)
	status, at, _ := s.form("/maps/m/versions", url.Values{"at": {"2"}, "name": {" Before the lesson "}})
	require.Equal(t, 200, status)
	assert.Equal(t, "/maps/m/versions", at)
	do("g3", `[{"do":"name-concept","concept":"c00001","label":"the small bell"},{"do":"add-concept","id":"tower","label":"the tower","at":{"x":900,"y":0}}]`)
	do("g4", `[{"do":"add-link","id":"hums","phrase":"hums in","from":[{"id":"f","concept":"c00001"}],"to":[{"id":"t","concept":"tower"}]},{"do":"remove","concepts":["c00002"]}]`)
	before := s.load("m")

	_, page := s.get("/maps/m/versions?at=2")
	for _, words := range []string{"Before the lesson", `<span class="noun-words">the small bell</span> <span class="verb-words">hums in</span> <span class="noun-words">the tower</span>`, "the great bell → the small bell", "Make the map this again"} {
		assert.Contains(t, page, words)
	}
	_, page = s.get("/maps/m/versions?at=2&with=2")
	assert.NotContains(t, page, "Since then")
	_, page = s.get("/maps/m/versions/drawing?at=2")
	assert.Contains(t, page, "great")
	was, err := s.store.All().At(t.Context(), "m", 2)
	require.NoError(t, err)
	assert.Contains(t, page, `value="`+query.Counted(structure.Of(was))+`"`)
	_, page = s.get("/maps/m/versions/drawing?at=1")
	assert.NotContains(t, page, "great bell")
	for _, bad := range []url.Values{{"at": {"99"}, "what": {"restore"}}, {"at": {"-1"}, "name": {"x"}}, {"at": {"x"}}, {"at": {"2"}, "name": {strings.Repeat("a", 200)}}} {
		status, _, _ = s.form("/maps/m/versions", bad)
		assert.Equal(t, 422, status, bad)
	}

	status, _, _ = s.form("/maps/m/versions", url.Values{"at": {"2"}, "what": {"restore"}})
	assert.Equal(t, 200, status)
	m := s.load("m")
	assert.Equal(t, "the great bell", m.Words(m.Concepts["c00001"].Label))
	assert.Nil(t, m.Concepts["tower"])
	assert.NotNil(t, m.Concepts["c00002"])
	status, body := s.post("/maps/m/entries", `{"id":"u","window":"w","seen":5,"back":"undo"}`)
	require.Equal(t, 200, status, body)
	after := s.load("m")
	assert.Equal(t, before.Concepts, after.Concepts)
	assert.Equal(t, before.Links, after.Links)

	// How it grew is what each of its states was.
	_, grown := s.get("/maps/m/versions/growth")
	assert.Contains(t, grown, "Before the lesson")
	_, table := s.get("/maps/m/versions/growth.csv")
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 8, "a head, and each state once")
	assert.Equal(t, []string{"Change", "When", "Who", "Name", "Concepts", "Links", "Propositions", "Cross-links", "Levels", "Loose ideas", "Without a phrase"}, rows[0])
	assert.Equal(t, "Before the lesson", rows[3][3])
	for i, row := range rows[1:] {
		was, err := s.store.All().At(t.Context(), "m", i)
		require.NoError(t, err)
		n := structure.Of(was).Counts()
		var figures []string
		for _, f := range []int{n.Concepts, n.Links, n.Propositions, n.CrossLinks, n.Levels, n.Loose, n.Unphrased} {
			figures = append(figures, strconv.Itoa(f))
		}
		assert.Equal(t, strconv.Itoa(i), row[0])
		assert.Equal(t, figures, row[4:])
	}

	_, log := s.get("/maps/m/log")
	lines := strings.Split(strings.TrimSpace(log), "\n")
	assert.Len(t, lines, 6)
	for i, line := range lines {
		var one struct {
			Revision int
			Author   string
			Changes  []map[string]any
		}
		require.NoError(t, json.Unmarshal([]byte(line), &one))
		assert.Equal(t, i+1, one.Revision)
		assert.Equal(t, "author", one.Author)
	}
	status, _, _ = s.form("/maps/m/versions", url.Values{"at": {"2"}, "name": {""}})
	assert.Equal(t, 200, status)
	_, page = s.get("/maps/m/versions")
	assert.NotContains(t, page, "Before the lesson")
}

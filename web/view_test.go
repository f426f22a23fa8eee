package web_test

import (
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/store"
	"mevrin/web"
	"mevrin/workspace"
)

// Each person sees the map with the branches that they tucked away; edits are
// drawn for whoever made them; those who never chose see what the author set.
func TestEachPersonHasAViewOfTheirOwn(t *testing.T) {
	data := t.TempDir()
	s, err := store.Open(data)
	require.NoError(t, err)
	_, err = s.All().Create(t.Context(), "m", "en")
	require.NoError(t, err)
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(30), nil)
	require.NoError(t, err)
	require.NoError(t, s.All().Append(t.Context(), &store.Entry{Revision: 1, ID: "begin", Author: "ada", Changes: out.Changes}, out.Map))
	start := func() *httptest.Server {
		return httptest.NewServer(handler(t, web.Config{Store: s, Access: byHeader{}, Log: slog.New(slog.DiscardHandler)}))
	}
	server := start()
	ask := func(who, method, path, body string) (int, workspace.Answer, string) {
		request, err := http.NewRequest(method, server.URL+path, strings.NewReader(body))
		require.NoError(t, err)
		request.Header.Set("Person", who)
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		var a workspace.Answer
		_ = json.Unmarshal(raw, &a)
		return response.StatusCode, a, string(raw)
	}
	// c1 has four children, c5 to c8, which have some of their own.
	status, a, raw := ask("ada", "POST", "/maps/m/view", `{"window":"w","tuck":["c00001","c00005","gone"]}`)
	require.Equal(t, 200, status, raw)
	assert.Contains(t, a.Gone, "c-c00005")
	assert.Contains(t, a.Slips["c00001"], "ideas")
	assert.Equal(t, 1, a.Revision, "it is no edit")

	rename := func(who, id string, concept string) workspace.Answer {
		status, a, raw := ask(who, "POST", "/maps/m/entries", entry(id, "w"+who, 1, `[{"do":"name-concept","concept":"`+concept+`","label":"renamed by `+who+`"}]`))
		require.Equal(t, 200, status, raw)
		return a
	}
	assert.Empty(t, rename("ada", "e1", "c00005").Slips, "what one does not see is not drawn")
	assert.Contains(t, rename("ben", "e2", "c00005").Slips["c00005"], "renamed by ben")
	_, a, _ = ask("ada", "GET", "/maps/m/changes?since=1", "")
	assert.True(t, a.Whole)
	assert.NotContains(t, cm.SortedIDs(a.Slips), cm.ID("c00005"))
	_, a, _ = ask("ben", "GET", "/maps/m/changes?since=1", "")
	assert.False(t, a.Whole)
	assert.Contains(t, cm.SortedIDs(a.Slips), cm.ID("c00005"))
	_, again, _ := ask("ada", "POST", "/maps/m/entries", entry("e1", "wada", 1, `[{"do":"name-concept","concept":"c00005","label":"renamed by ada"}]`))
	assert.Empty(t, again.Slips)

	// What is tucked away inside a branch stays so when that comes back, and what
	// is to be shown is, whatever hides it.
	_, a, _ = ask("ada", "POST", "/maps/m/view", `{"window":"w","bring":["c00001"]}`)
	assert.Contains(t, a.Slips["c00005"], "ideas")
	assert.NotContains(t, cm.SortedIDs(a.Slips), cm.ID("c00021"))
	_, _, _ = ask("ada", "POST", "/maps/m/view", `{"window":"w","tuck":["c00001","c00002"]}`)
	_, a, _ = ask("ada", "POST", "/maps/m/view", `{"window":"w","show":["l00021"]}`)
	assert.Contains(t, cm.SortedIDs(a.Slips), cm.ID("c00021"))
	assert.NotContains(t, cm.SortedIDs(a.Slips), cm.ID("c00009"), "the other branch stays away")

	// Down to a level; and kept when the program starts again.
	_, a, _ = ask("ada", "POST", "/maps/m/view", `{"window":"w","level":1}`)
	assert.Contains(t, a.Slips["c00000"], "+29 ideas")
	server.Close()
	server = start()
	defer server.Close()
	_, a, _ = ask("ada", "GET", "/maps/m/changes?since=999", "")
	assert.Len(t, cm.SortedIDs(a.Slips), 1)
	_, a, _ = ask("ada", "POST", "/maps/m/view", `{"window":"w","all":true}`)
	assert.Len(t, cm.SortedIDs(a.Slips), 30, "the one that had a fold, and all that it hid")
	status, _, raw = ask("ada", "POST", "/maps/m/entries", entry("e3", "wada", 3, `[{"do":"set-opening","tucked":["c00002"]}]`))
	require.Equal(t, 200, status, raw)
	_, a, _ = ask("cleo", "GET", "/maps/m/changes?since=999", "")
	assert.NotContains(t, cm.SortedIDs(a.Slips), cm.ID("c00009"), "as the author lets it open")
	_, a, _ = ask("ada", "GET", "/maps/m/changes?since=999", "")
	assert.Contains(t, cm.SortedIDs(a.Slips), cm.ID("c00009"), "who chose keeps what they chose")

	for _, body := range []string{`{`, `{"window":"w","level":-1}`, `{"window":"<w>"}`, `{"window":"w","colour":1}`} {
		status, _, raw := ask("ada", "POST", "/maps/m/view", body)
		assert.Equal(t, 422, status, raw)
	}
	status, _, _ = ask("ada", "POST", "/maps/none/view", `{"window":"w"}`)
	assert.Equal(t, 404, status)
}

// What is sought is found in labels, phrases and notes; what would be replaced
// is shown with the operations that do it, and hostile words stay words.
func TestSeekingAndReplacing(t *testing.T) {
	s := serve(t, t.TempDir())
	status, raw := s.post("/maps/m/entries", entry("g1", "w1", 1, `[{"do":"name-concept","concept":"c00001","label":"A <b>Bell</b>"},{"do":"set-note","on":{"kind":"concept","id":"c00002"},"note":"`+strings.Repeat("long ", 60)+`bell`+strings.Repeat(" rings", 60)+`"},{"do":"name-link","link":"l00001","phrase":"BELLs"}]`))
	require.Equal(t, 200, status, raw)
	_, found := s.get("/maps/m/find?q=bell")
	assert.Equal(t, []string{"c-c00000 label", "c-c00001 label", "c-c00002 note", "l-l00001 phrase"}, places(found))
	_, found = s.get("/maps/m/find?q=")
	assert.Empty(t, places(found))
	_, _, page := s.form("/maps/m/replaced", url.Values{"seek": {"bell"}, "with": {"<i>gong"}})
	assert.Contains(t, page, "A &lt;b&gt;<del>Bell</del><ins>&lt;i&gt;gong</ins>&lt;/b&gt;")
	assert.Contains(t, page, "<del>BELL</del><ins>&lt;i&gt;gong</ins>s")
	assert.NotContains(t, page, "<i>gong")
	assert.Contains(t, page, "> … long", "far words are left out")
	_, _, page = s.form("/maps/m/replaced", url.Values{"seek": {"A <b>Bell</b>"}, "with": {""}})
	assert.Contains(t, page, "at least one word")
	assert.NotContains(t, page, "put-replaced")
	status, page = s.get("/maps/m/split?concept=c00001")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "A &lt;b&gt;Bell&lt;/b&gt;")
	status, _ = s.get("/maps/m/split?concept=gone")
	assert.Equal(t, 422, status)
}

func places(raw string) []string {
	var names []string
	for _, f := range regexp.MustCompile(`data-element="([^"]+)" data-where="([^"]+)"`).FindAllStringSubmatch(raw, -1) {
		names = append(names, f[1]+" "+f[2])
	}
	return names
}

// A learner walks in the first language of theirs that the map has; the rest stands in
// the map's own.
func TestAWalkSpeaksTheLearnersLanguage(t *testing.T) {
	s := serve(t, t.TempDir())
	s.mapOf("b", `[{"do":"add-concept","id":"bell","label":"the bell","at":{"x":0,"y":0}},{"do":"name-concept","concept":"bell","lang":"de","label":"die Glocke"},
		{"do":"add-concept","id":"rim","label":"the rim","at":{"x":0,"y":200}},{"do":"add-route","id":"r","title":"Listen"},
		{"do":"add-stop","id":"s1","route":"r","refs":[{"kind":"concept","id":"bell"},{"kind":"concept","id":"rim"}]},{"do":"write-stop","stop":"s1","part":"card","lang":"de","words":"Hör zu."}]`)
	for language, want := range map[string][]string{"fr, de;q=0.8": {"die Glocke", "the rim", "Hör zu.", `lang="de"`}, "en": {"the bell", "the rim"}, "??": {"the bell"}} {
		r, err := http.NewRequest(http.MethodGet, s.URL+"/maps/b/walk/r", nil)
		require.NoError(t, err)
		r.Header.Set("Accept-Language", language)
		answer, err := s.client.Do(r)
		require.NoError(t, err)
		page, err := io.ReadAll(answer.Body)
		require.NoError(t, answer.Body.Close())
		require.NoError(t, err)
		for _, words := range want {
			assert.Contains(t, string(page), words, language)
		}
	}
}

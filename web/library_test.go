package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/workspace"
)

// form sends a form as a page does and gives the page that it leads to.
func (s *served) form(path string, values url.Values) (status int, at, page string) {
	request, err := http.NewRequest("POST", s.URL+path, strings.NewReader(values.Encode()))
	require.NoError(s.t, err)
	request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return s.follow(request)
}

func (s *served) follow(request *http.Request) (status int, at, page string) {
	request.Header.Set("Accept", "text/html")
	response, err := http.DefaultClient.Do(request)
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response.StatusCode, response.Request.URL.Path, string(raw)
}

func (s *served) upload(name string, content []byte) (status int, at, page string) {
	var body bytes.Buffer
	parts := multipart.NewWriter(&body)
	part, err := parts.CreateFormFile("file", name)
	require.NoError(s.t, err)
	_, err = part.Write(content)
	require.NoError(s.t, err)
	require.NoError(s.t, parts.Close())
	request, err := http.NewRequest("POST", s.URL+"/upload", &body)
	require.NoError(s.t, err)
	request.Header.Set("Content-Type", parts.FormDataContentType())
	return s.follow(request)
}

func (s *served) load(id string) *cm.Map {
	m, _, err := s.store.All().Load(s.t.Context(), cm.ID(id))
	require.NoError(s.t, err)
	return m
}

func labels(m *cm.Map) []string {
	var all []string
	for _, id := range cm.SortedIDs(m.Concepts) {
		all = append(all, m.Words(m.Concepts[id].Label))
	}
	return all
}

func TestTheFourWaysToBegin(t *testing.T) {
	s := serve(t, t.TempDir())
	begin := func(way, lines string) *cm.Map {
		status, at, page := s.form("/maps", url.Values{"question": {"Why <i>hum</i>?"}, "begin": {way}, "lines": {lines}})
		require.Equal(t, 200, status, page)
		assert.Contains(t, page, "Why &lt;i&gt;hum&lt;/i&gt;?")
		m := s.load(strings.TrimPrefix(at, "/maps/"))
		assert.Equal(t, "Why <i>hum</i>?", m.Words(m.Question))
		return m
	}
	one := begin("concept", "")
	assert.Equal(t, []string{""}, labels(one))
	assert.NotEmpty(t, one.Focus)
	assert.Empty(t, begin("empty", "not used").Concepts)
	tree := begin("outline", "bell\n  has: clapper\n  has: rim")
	assert.Equal(t, []string{"bell", "clapper", "rim"}, labels(tree))
	assert.Len(t, tree.Links, 1)
	loose := begin("lines", "bell\n\n- clapper\nBell\nhas: rim")
	assert.Equal(t, []string{"bell", "clapper", "has: rim"}, labels(loose))
	assert.Empty(t, loose.Links)

	// What is refused comes back with what was typed, and makes no map.
	before, err := s.store.All().List(t.Context())
	require.NoError(t, err)
	long := strings.Repeat("a", 500)
	status, at, page := s.form("/maps", url.Values{"question": {"Why?"}, "begin": {"outline"}, "lines": {long}})
	assert.Equal(t, []any{422, "/maps"}, []any{status, at})
	assert.Contains(t, page, "too long")
	assert.Contains(t, page, long+"</textarea>")
	assert.Regexp(t, `value="outline" checked`, page)
	for field, words := range map[string]string{"dress": "There is no such look", "key": "There is no such key", "picture": "There is no such picture"} {
		status, _, page = s.form("/maps", url.Values{"question": {"Why <b>?"}, "begin": {"concept"}, field: {`"><script>`}})
		assert.Equal(t, 422, status, field)
		assert.Contains(t, page, words)
		assert.Contains(t, page, `value="Why &lt;b&gt;?"`, "what was typed is kept")
		assert.NotContains(t, page, `"><script>`)
	}
	status, _, page = s.form("/maps", url.Values{"begin": {"lines"}, "lines": {" \n"}})
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "one idea in each")
	after, err := s.store.All().List(t.Context())
	require.NoError(t, err)
	assert.Len(t, after, len(before))
}

var saved = regexp.MustCompile(`href="/maps/m/export"`)

func TestRenameCopyDeleteRestore(t *testing.T) {
	s := serve(t, t.TempDir())
	fileName := func(path string) string {
		response, err := http.Get(s.URL + path)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		_, values, err := mime.ParseMediaType(response.Header.Get("Content-Disposition"))
		require.NoError(t, err)
		return values["filename"]
	}
	assert.Equal(t, "bell 0.json", fileName("/maps/m/document"), "the name follows the focus concept")
	_, _, page := s.form("/maps/m/name", url.Values{"title": {"Glocken: was? <b>"}})
	assert.Contains(t, page, "<b>Glocken: was? &lt;b&gt;</b> now")
	assert.Equal(t, "Glocken was b.json", fileName("/maps/m/document"))
	assert.Equal(t, "Glocken was b.svg", fileName("/maps/m/drawing"))

	_, _, page = s.form("/maps/m/copy", nil)
	assert.Contains(t, page, "<b>Copy of Glocken: was? &lt;b&gt;</b> was made")
	list, err := s.store.All().List(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 2)
	twin := list[0]
	require.NotEqual(t, cm.ID("m"), twin.ID)
	assert.Equal(t, labels(s.load("m")), labels(s.load(string(twin.ID))))

	// In the bin it cannot be reached, and nothing can be written to it, even by
	// a window that has it open.
	_, _, page = s.form("/maps/m/discard", nil)
	assert.Contains(t, page, "is in the bin now")
	assert.NotRegexp(t, saved, page)
	status, words := s.post("/maps/m/entries", entry("late", "w", 2, `[{"do":"ask","question":"Why?"}]`))
	assert.Equal(t, 410, status)
	assert.Contains(t, words, "in the bin")
	for _, path := range []string{"/maps/m", "/maps/m/document", "/maps/m/small.svg", "/maps/m/margin"} {
		status, _ := s.get(path)
		assert.Equal(t, 410, status, path)
	}
	_, page = s.get("/bin")
	assert.Contains(t, page, "Glocken: was?")
	_, _, page = s.form("/maps/m/restore", nil)
	assert.Contains(t, page, "is back")
	assert.Regexp(t, saved, page)

	status, _, _ = s.form("/maps/m/destroy", nil)
	assert.Equal(t, 404, status, "only what is in the bin goes for good")
	s.form("/maps/m/discard", nil)
	_, at, page := s.form("/maps/m/destroy", nil)
	assert.Equal(t, "/bin", at)
	assert.Contains(t, page, "The bin is empty")
	status, _ = s.get("/maps/m")
	assert.Equal(t, 404, status)
}

func TestFileNames(t *testing.T) {
	for name, want := range map[string]string{
		"": "Map", "...": "Map", "a/b\\c": "a b c", "../../etc": "etc", "钟声 – λ": "钟声 – λ", "con": "Map con", "COM1.x": "Map COM1.x",
		"a\u202eb\x00c": "ab c", strings.Repeat("ä", 200): strings.Repeat("ä", 60), " .hidden. ": "hidden", "line\nend": "line end",
	} {
		assert.Equal(t, want, workspace.FileName(name))
	}
}

// A downloaded map uploaded again is the same map, under another id.
func TestDownAndUp(t *testing.T) {
	s := serve(t, t.TempDir())
	s.post("/maps/m/entries", entry("g", "w", 1, `[{"do":"set-rule","rule":"loose-idea","on":false},{"do":"add-route","id":"r","title":"way"},{"do":"add-stop","id":"s","route":"r","refs":[{"kind":"concept","id":"c00001"}]},{"do":"remove","concepts":["c00001"]}]`))
	_, file := s.get("/maps/m/document")
	status, at, page := s.upload("x.json", []byte(file))
	require.Equal(t, 200, status, page)
	id := strings.TrimPrefix(at, "/maps/")
	require.NotEqual(t, "m", id)
	_, again := s.get("/maps/" + id + "/document")
	assert.Equal(t, strings.Replace(file, `"id": "m"`, `"id": "`+id+`"`, 1), again, "a stop whose concept is gone is legal")
	assert.Contains(t, file, `"loose-idea": true`)
	m := s.load(id)
	assert.Equal(t, map[string]bool{"loose-idea": true}, m.RulesOff)
	assert.Equal(t, "Glocke 1", m.Words(m.Stops["s"].Refs[0].Seen))
}

// Whatever is in a file: it is refused in words and nothing changes, or it
// becomes a map whose pages hold nothing of it but text.
func TestHostileFiles(t *testing.T) {
	s := serve(t, t.TempDir())
	doc := func(inner string) string { return `{"mevrin":1,"id":"x","language":"en",` + inner + `}` }
	many := func(n int, each string) string {
		parts := make([]string, n)
		for i := range parts {
			parts[i] = fmt.Sprintf(each, i)
		}
		return strings.Join(parts, ",")
	}
	concept := `"concepts":[{"id":"a","label":{"en":"bell"},"at":{"x":0,"y":0}}],`
	for what, file := range map[string]struct{ content, says string }{
		"nothing":            {"", "empty"},
		"no JSON":            {"<svg onload=alert(1)>", "cannot be read as a map"},
		"other JSON":         {`{"nodes":[]}`, "no map of Mevrin"},
		"newer":              {`{"mevrin":99}`, "newer version"},
		"deep nesting":       {`{"mevrin":1,"x":` + strings.Repeat("[", 200_000), "cannot be read"},
		"deep and whole":     {`{"mevrin":1,"x":` + strings.Repeat("[", 200_000) + strings.Repeat("]", 200_000) + "}", "cannot be read"},
		"giant label":        {doc(`"concepts":[{"id":"a","label":{"en":"` + strings.Repeat("a", 100_000) + `"},"at":{"x":0,"y":0}}],"links":[]`), "too long"},
		"50,000 nodes":       {doc(`"concepts":[` + many(50_000, `{"id":"c%d","at":{"x":0,"y":0}}`) + `],"links":[]`), "at most 10,000 concepts"},
		"twin ids":           {doc(`"concepts":[` + many(2, `{"id":"a","label":{"en":"b%d"},"at":{"x":0,"y":0}}`) + `],"links":[]`), "have the id"},
		"dangling end":       {doc(concept + `"links":[{"id":"l","heads":"one","from":[{"id":"e","concept":"a"}],"to":[{"id":"f","concept":"gone"}]}]`), "not on the map"},
		"foreign id":         {doc(`"concepts":[{"id":"a\"><script>","at":{"x":0,"y":0}}],"links":[]`), "no id"},
		"stop on no route":   {doc(concept + `"links":[],"stops":[{"id":"s","route":"gone","rank":"m"}]`), "not on the map"},
		"far away":           {doc(`"concepts":[{"id":"a","at":{"x":1e308,"y":0}}],"links":[]`), "too far"},
		"unknown member":     {doc(concept + `"links":[],"script":"x"`), "does not know"},
		"bytes":              {"\x00\xff\xfe{", "cannot be read"},
		"a rule of no name":  {doc(concept + `"links":[],"rulesOff":{"<script>":true}`), "can be none"},
		"more after the end": {doc(concept+`"links":[]`) + `{"mevrin":1}`, "cannot be read"},
	} {
		status, at, page := s.upload("a.json", []byte(file.content))
		assert.Equal(t, []any{422, "/upload"}, []any{status, at}, what)
		assert.Contains(t, page, file.says, what)
		assert.NotContains(t, page, "<script>\"", what)
	}
	status, _, page := s.upload("a.json", bytes.Repeat([]byte(" "), 41<<20))
	assert.Equal(t, 413, status)
	assert.Contains(t, page, "too large")
	list, err := s.store.All().List(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 1, "nothing was made of any of them")

	attack := `\"><script>alert(1)</script><img src=x onerror=alert(1)>[x](javascript:alert(1))&lt;script&gt;\u202e}{{.}}`
	text := `{"en":"` + attack + `"}`
	status, at, page := s.upload("a.json", []byte(doc(`"title":`+text+`,"question":`+text+`,"focus":"a",
		"concepts":[{"id":"a","label":`+text+`,"note":`+text+`,"at":{"x":0,"y":0}},{"id":"b","at":{"x":300,"y":0}}],
		"links":[{"id":"l","phrase":`+text+`,"note":`+text+`,"heads":"one","from":[{"id":"e","concept":"a"}],"to":[{"id":"f","concept":"b"}]}],
		"routes":[{"id":"r","title":`+text+`}],
		"stops":[{"id":"s","route":"r","rank":"m","title":`+text+`,"card":`+text+`,"guideNotes":`+text+`,"refs":[{"kind":"concept","id":"a"}]}]`)))
	require.Equal(t, 200, status, page)
	for _, path := range []string{"", "/margin?chosen=c-a&phase=guide&route=r&stop=s", "/margin?chosen=l-l&phase=check", "/column", "/drawing", "/small.svg", "/walk/r", "/changes?since=9"} {
		_, page := s.get(at + path)
		if strings.HasPrefix(path, "/changes") {
			var answer workspace.Answer
			require.NoError(t, json.Unmarshal([]byte(page), &answer))
			page = fmt.Sprint(answer.Slips, answer.Links) // the heading is set as text
		}
		assert.NotContains(t, page, "<script>alert", path)
		assert.NotContains(t, page, "<img src=x", path)
		assert.NotContains(t, page, `href="javascript`, path)
		assert.NotContains(t, page, "\u202e", path)
	}
	_, page = s.get("/")
	assert.NotContains(t, page, "<script>alert")
}

func TestAWalkShowsWhatItsRouteShowsToWhoeverHasItsLink(t *testing.T) {
	s := serve(t, t.TempDir())
	status, body := s.post("/maps/m/entries", entry("g", "w", 1, `[
		{"do":"set-note","on":{"kind":"concept","id":"c00001"},"note":"a private note"},
		{"do":"add-route","id":"r","title":"the way"},{"do":"add-stop","id":"s1","route":"r","refs":[{"kind":"concept","id":"c00000"}]},
		{"do":"add-stop","id":"s2","route":"r","after":"s1","refs":[{"kind":"concept","id":"c00001"}]},
		{"do":"write-stop","stop":"s2","part":"card","words":"It *hums*."},{"do":"write-stop","stop":"s2","part":"guideNotes","words":"wait here"}]`))
	require.Equal(t, 200, status, body)
	_, _, page := s.form("/maps/m/grants", url.Values{"route": {"r"}})
	token := regexp.MustCompile(`data-token="([^"]{22})"`).FindStringSubmatch(page)
	require.NotNil(t, token, page)
	grant := regexp.MustCompile(`data-grant="([^"]+)"`).FindStringSubmatch(page)[1]

	response, err := http.Get(s.URL + "/walk/" + token[1])
	require.NoError(t, err)
	raw, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, "no-referrer", response.Header.Get("Referrer-Policy"))
	assert.Equal(t, "no-store", response.Header.Get("Cache-Control"))
	walk := string(raw)
	assert.Contains(t, walk, "<p>It <em>hums</em>.</p>")
	assert.Contains(t, walk, `data-new="c-c00001 l-l00001 l-l00007"`)
	for _, hidden := range []string{"c00002", "private note", "wait here", "/maps/m"} {
		assert.NotContains(t, walk, hidden, hidden)
	}
	_, own := s.get("/maps/m/walk/r")
	assert.Contains(t, own, `href="/maps/m"`, "an author can go back")

	for _, path := range []string{"/walk/" + strings.Repeat("A", 22), "/walk/" + grant, "/walk/%00", "/maps/m/walk/gone"} {
		status, _ := s.get(path)
		assert.Equal(t, 404, status, path)
	}
	status, _, _ = s.form("/maps/m/grants", url.Values{"route": {"gone"}})
	assert.Equal(t, 422, status)

	opens := func() int { status, _ := s.get("/walk/" + token[1]); return status }
	s.form("/maps/m/discard", nil)
	assert.Equal(t, 404, opens(), "a map in the bin is not walked")
	s.form("/maps/m/restore", nil)
	assert.Equal(t, 200, opens())
	s.store.Now = func() time.Time { return time.Now() }
	_, _, page = s.form("/maps/m/grants/"+grant+"/close", url.Values{"route": {"r"}})
	assert.NotContains(t, page, token[1])
	assert.Equal(t, 404, opens())
}

package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/store"
	"mevrin/store/storetest"
	"mevrin/web"
	"mevrin/workspace"
)

type served struct {
	*httptest.Server
	t     testing.TB
	store *store.Store
	log   *bytes.Buffer
	// client asks; as somebody who was given a cookie, say.
	client *http.Client
}

func serve(t testing.TB, data string) *served {
	s := storetest.OpenIn(t, data)
	log := &bytes.Buffer{}
	server := httptest.NewServer(handler(t, web.Config{Store: s, Access: web.OneAuthor{Store: s}, Log: slog.New(slog.NewTextHandler(log, nil)), Hosts: []string{"127.0.0.1"}}))
	t.Cleanup(server.Close)
	_, err := s.All().Create(t.Context(), "m", "en")
	if err == nil {
		out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(6), nil)
		require.NoError(t, err)
		require.NoError(t, s.All().Append(t.Context(), &store.Entry{Revision: 1, ID: "begin", Author: "author", Changes: out.Changes}, out.Map))
	}
	return &served{server, t, s, log, http.DefaultClient}
}

func handler(t testing.TB, c web.Config) http.Handler {
	app, err := web.New(c)
	require.NoError(t, err)
	return app
}

// jar lets all that follows be asked by whoever was given a cookie.
func (s *served) jar(cookies ...*http.Cookie) {
	at, err := url.Parse(s.URL)
	require.NoError(s.t, err)
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	for _, c := range cookies {
		c.Path = "/"
	}
	jar.SetCookies(at, cookies)
	s.client = &http.Client{Jar: jar}
}

// config is how another server is set up on the same folder.
func (s *served) config(access web.Access) web.Config {
	return web.Config{Store: s.store, Access: access, Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}
}

// smallMemory is a server on the same folder that keeps hardly any map.
func (s *served) smallMemory(t *testing.T) *httptest.Server {
	app, err := web.NewBounded(s.config(web.OneAuthor{Store: s.store}), 400<<10)
	require.NoError(t, err)
	server := httptest.NewServer(app)
	t.Cleanup(server.Close)
	return server
}

// stop ends the server as its process would end.
func (s *served) stop() {
	s.Close()
	require.NoError(s.t, s.store.Close())
}

func (s *served) post(path, body string) (int, string) {
	response, err := s.client.Post(s.URL+path, "application/json", strings.NewReader(body))
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response.StatusCode, string(raw)
}

func (s *served) get(path string) (int, string) {
	response, err := s.client.Get(s.URL + path)
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response.StatusCode, string(raw)
}

func entry(id, window string, seen int, ops string) string {
	return fmt.Sprintf(`{"id":%q,"window":%q,"seen":%d,"operations":%s}`, id, window, seen, ops)
}

func TestAnEntrySentTwiceIsAppliedOnceAndAnsweredAlike(t *testing.T) {
	data := t.TempDir()
	s := serve(t, data)
	body := entry("g1", "w1", 1, `[{"do":"add-concept","id":"new","label":"bell","at":{"x":0,"y":0},"makeRoom":true}]`)
	status, first := s.post("/maps/m/entries", body)
	require.Equal(t, 200, status, first)
	_, second := s.post("/maps/m/entries", body)
	assert.Equal(t, first, second)
	s.stop()

	// And by another process, which finds it in the log.
	again := serve(t, data)
	status, third := again.post("/maps/m/entries", body)
	require.Equal(t, 200, status)
	assert.JSONEq(t, first, third)
	_, revision, err := again.store.All().Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 2, revision)
	// The place that was wished for is taken: the new slip stands beside it.
	m, _, _ := again.store.All().Load(t.Context(), "m")
	assert.NotEqual(t, cm.Point{}, m.Concepts["new"].At)
}

func TestWhatCannotBeDoneIsSaidInWordsAndChangesNothing(t *testing.T) {
	s := serve(t, t.TempDir())
	_, before := s.get("/maps/m/changes?since=0")
	op := func(ops string) string { return entry("g1", "w1", 1, ops) }
	for what, ask := range map[string]struct {
		path, body string
		status     int
	}{
		"no JSON":          {"/maps/m/entries", "<xml/>", 422},
		"unknown member":   {"/maps/m/entries", `{"id":"g","window":"w","seen":1,"operations":[],"admin":true}`, 422},
		"no window":        {"/maps/m/entries", `{"id":"g","seen":1,"operations":[]}`, 422},
		"no entry id":      {"/maps/m/entries", `{"window":"w","seen":1,"operations":[]}`, 422},
		"unknown op":       {"/maps/m/entries", op(`[{"do":"drop"}]`), 422},
		"gone concept":     {"/maps/m/entries", op(`[{"do":"name-concept","concept":"gone","label":"x"}]`), 422},
		"second op fails":  {"/maps/m/entries", op(`[{"do":"add-concept","id":"x1","at":{"x":1,"y":1}},{"do":"set-focus","concept":"gone"}]`), 422},
		"giant label":      {"/maps/m/entries", op(`[{"do":"add-concept","id":"x1","label":"` + strings.Repeat("a", 100_000) + `","at":{"x":1,"y":1}}]`), 422},
		"giant body":       {"/maps/m/entries", op(`["` + strings.Repeat("a", 5<<20) + `"]`), 413},
		"too many ops":     {"/maps/m/entries", op("[" + strings.Repeat(`{"do":"set-focus"},`, 5000) + `{"do":"set-focus"}]`), 422},
		"deep nesting":     {"/maps/m/entries", op(strings.Repeat("[", 100_000) + strings.Repeat("]", 100_000)), 422},
		"no such map":      {"/maps/other/entries", op(`[]`), 404},
		"no id at all":     {"/maps/..%2f..%2fetc/entries", op(`[]`), 404},
		"neither way back": {"/maps/m/entries", `{"id":"g","window":"w","seen":1,"back":"sideways"}`, 422},
	} {
		status, answer := s.post(ask.path, ask.body)
		assert.Equal(t, ask.status, status, what)
		var words struct {
			Error string `json:"error"`
		}
		require.NoError(t, json.Unmarshal([]byte(answer), &words), what)
		assert.Regexp(t, `^[A-Z].*[.]$`, words.Error, what)
		assert.NotRegexp(t, `(?i)json:|sql|panic|goroutine|[.]go:|offset`, words.Error, what)
	}
	_, after := s.get("/maps/m/changes?since=0")
	assert.Equal(t, before, after)
	assert.NotContains(t, s.log.String(), "panic")
}

func TestForeignPagesAndNamesAreRefused(t *testing.T) {
	s := serve(t, t.TempDir())
	ask := func(method, path, host string, headers ...string) *http.Response {
		request, err := http.NewRequest(method, s.URL+path, strings.NewReader(entry("g", "w", 1, `[]`)))
		require.NoError(t, err)
		if host != "" {
			request.Host = host
		}
		for i := 0; i < len(headers); i += 2 {
			request.Header.Set(headers[i], headers[i+1])
		}
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		_ = response.Body.Close()
		return response
	}
	assert.Equal(t, 403, ask("POST", "/maps/m/entries", "", "Origin", "http://evil.example", "Sec-Fetch-Site", "cross-site").StatusCode)
	assert.Equal(t, 403, ask("POST", "/maps", "", "Origin", "http://evil.example").StatusCode)
	assert.Equal(t, 421, ask("GET", "/", "evil.example").StatusCode)
	assert.Equal(t, 200, ask("POST", "/maps/m/entries", "").StatusCode)
	for _, path := range []string{"/", "/maps/m", "/maps/none", "/assets/app.css", "/maps/m/margin?chosen=c-c00000"} {
		policy := ask("GET", path, "").Header.Get("Content-Security-Policy")
		assert.Contains(t, policy, "default-src 'none'")
		assert.NotContains(t, policy, "unsafe")
	}
	_, _, err := websocket.Dial(t.Context(), "ws"+strings.TrimPrefix(s.URL, "http")+"/maps/m/live", &websocket.DialOptions{HTTPHeader: http.Header{"Origin": {"http://evil.example"}}})
	assert.Error(t, err)
}

func TestNothingComesFromElsewhere(t *testing.T) {
	s := serve(t, t.TempDir())
	for _, path := range []string{"/", "/maps/m", "/assets/app.css", "/look/paper.css", "/look/fonts.css"} {
		status, body := s.get(path)
		require.Equal(t, 200, status)
		body = strings.ReplaceAll(strings.ReplaceAll(body, "http://www.w3.org/2000/svg", ""), "https://tailwindcss.com", "")
		assert.NotRegexp(t, `https?://`, body, path)
	}
}

// Other windows hear of each edit, and get what they missed; the one whose
// words were written over is told.
func TestWindowsAreKeptInStep(t *testing.T) {
	s := serve(t, t.TempDir())
	conn, _, err := websocket.Dial(t.Context(), "ws"+strings.TrimPrefix(s.URL, "http")+"/maps/m/live?window=w1", nil)
	require.NoError(t, err)
	defer func() { _ = conn.CloseNow() }()
	next := func() (e workspace.Event) {
		require.NoError(t, wsjson.Read(t.Context(), conn, &e))
		return e
	}
	assert.Equal(t, 1, next().Revision)
	name := func(id, window, words string, seen int) {
		status, answer := s.post("/maps/m/entries", entry(id, window, seen, fmt.Sprintf(`[{"do":"name-concept","concept":"c00001","label":%q}]`, words)))
		require.Equal(t, 200, status, answer)
	}
	name("g1", "w1", "first", 1)
	assert.Equal(t, workspace.Event{Revision: 2, Window: "w1"}, next())
	name("g2", "w2", "second", 1)
	assert.Equal(t, workspace.Event{Revision: 3, Window: "w2", Overtook: []workspace.Overtaken{{What: "“second”", ID: "c00001"}}}, next())
	name("g3", "w1", "third", 3)
	assert.Empty(t, next().Overtook, "it had seen what it wrote over")

	var missed workspace.Answer
	_, body := s.get("/maps/m/changes?since=2")
	require.NoError(t, json.Unmarshal([]byte(body), &missed))
	assert.Equal(t, 4, missed.Revision)
	assert.Len(t, missed.Slips, 1)
	assert.Contains(t, missed.Slips["c00001"], "third")
	assert.False(t, missed.Whole)
	_, body = s.get("/maps/m/changes?since=99")
	require.NoError(t, json.Unmarshal([]byte(body), &missed))
	assert.True(t, missed.Whole)
	assert.Len(t, missed.Slips, 6)
}

// Many hands at once: every answered entry is in the log, once, in a log
// without holes.
func TestManyHandsAtOnce(t *testing.T) {
	s := serve(t, t.TempDir())
	var all sync.WaitGroup
	for hand := range 8 {
		all.Go(func() {
			for i := range 10 {
				id := fmt.Sprintf("h%d-%d", hand, i)
				status, answer := s.post("/maps/m/entries", entry("g"+id, fmt.Sprint("w", hand), 1,
					fmt.Sprintf(`[{"do":"add-concept","id":"c%s","label":"x","at":{"x":0,"y":0},"makeRoom":true}]`, id)))
				assert.Equal(t, 200, status, answer)
			}
		})
	}
	all.Wait()
	m, revision, err := s.store.All().Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 81, revision)
	assert.Len(t, m.Concepts, 86)
	require.NoError(t, s.store.CheckIntegrity(t.Context()))
}

func TestMakingMaps(t *testing.T) {
	s := serve(t, t.TempDir())
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	make := func(form url.Values) (int, string) {
		response, err := client.PostForm(s.URL+"/maps", form)
		require.NoError(t, err)
		_ = response.Body.Close()
		return response.StatusCode, response.Header.Get("Location")
	}
	status, at := make(url.Values{"question": {"Why?"}, "begin": {"concept"}})
	require.Equal(t, 303, status)
	m, _, err := s.store.All().Load(t.Context(), cm.ID(strings.TrimPrefix(at, "/maps/")))
	require.NoError(t, err)
	assert.Equal(t, "Why?", m.Question["en"])
	assert.Len(t, m.Concepts, 1)
	assert.NotEmpty(t, m.Focus)
	_, at = make(url.Values{"begin": {"empty"}})
	m, _, err = s.store.All().Load(t.Context(), cm.ID(strings.TrimPrefix(at, "/maps/")))
	require.NoError(t, err)
	assert.Empty(t, m.Concepts)
	assert.True(t, m.KeepTidy)
	assert.Equal(t, cm.PatternLevels, m.Pattern)
	for order, want := range map[string]bool{"rings": true, "free": false} {
		_, at = make(url.Values{"begin": {"concept"}, "order": {order}})
		m, _, err = s.store.All().Load(t.Context(), cm.ID(strings.TrimPrefix(at, "/maps/")))
		require.NoError(t, err)
		assert.Equal(t, want, m.KeepTidy, order)
	}
	status, at = make(url.Values{"begin": {"text"}, "lines": {"The bell is cast from bronze. Bronze is a mixture of copper and tin. It sounds!\n\nWhy?"}})
	require.Equal(t, 303, status)
	m, _, err = s.store.All().Load(t.Context(), cm.ID(strings.TrimPrefix(at, "/maps/")))
	require.NoError(t, err)
	assert.Len(t, m.Concepts, 4, "the bronze of both sentences is one")
	assert.Len(t, m.Links, 2)
	assert.NotEmpty(t, m.Focus)
	assert.Contains(t, m.Note["en"], "- Why?")
	for _, text := range []string{"", "Why? Because!", strings.Repeat("a ", 300_000)} {
		status, _ = make(url.Values{"begin": {"text"}, "lines": {text}})
		assert.Contains(t, []int{413, 422}, status, "%.20q", text)
	}
	status, _ = make(url.Values{"begin": {"concept"}, "order": {"spiral"}})
	assert.Equal(t, 422, status)
	maps, _ := s.store.All().List(t.Context())
	status, _ = make(url.Values{"question": {strings.Repeat("a", 5000)}})
	assert.Equal(t, 422, status)
	left, _ := s.store.All().List(t.Context())
	assert.Len(t, left, len(maps), "a refused question leaves no map behind")
}

func BenchmarkEntry(b *testing.B) {
	for _, n := range []int{40, 300, 1000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			s := serve(b, b.TempDir())
			_, err := s.store.All().Create(b.Context(), "big", "en")
			require.NoError(b, err)
			out, err := edit.Apply(cm.NewMap("big", "en"), maptest.Large(n), nil)
			require.NoError(b, err)
			require.NoError(b, s.store.All().Append(b.Context(), &store.Entry{Revision: 1, ID: "begin", Changes: out.Changes}, out.Map))
			for i := 0; b.Loop(); i++ {
				status, answer := s.post("/maps/big/entries", entry(fmt.Sprint("g", i), "w", 1, fmt.Sprintf(`[{"do":"name-concept","concept":"c%05d","label":"bell %d"}]`, i*7%n, i)))
				require.Equal(b, 200, status, answer)
			}
		})
	}
}

// byHeader takes the person's name from the request, to be several people.
type byHeader struct{}

func (byHeader) Redeem(*http.Request, string) (store.Grant, error) {
	return store.Grant{}, store.ErrNoGrant
}

func (byHeader) Ask(r *http.Request, _ cm.ID) (workspace.Person, web.Capabilities, error) {
	return workspace.Person{ID: r.Header.Get("Person"), Scope: store.Everything}, web.AuthorCan, nil
}

// An entry's name belongs to its author: another gets no answer to it.
func TestAnotherAuthorsEntryIsNotAnswered(t *testing.T) {
	s := serve(t, t.TempDir())
	app := handler(t, web.Config{Store: s.store, Access: byHeader{}, Log: slog.New(slog.DiscardHandler)})
	ask := func(who string) int {
		request := httptest.NewRequest("POST", "/maps/m/entries", strings.NewReader(entry("g1", "w", 1, `[{"do":"ask","question":"Why?"}]`)))
		request.Header.Set("Person", who)
		answer := httptest.NewRecorder()
		app.ServeHTTP(answer, request)
		return answer.Code
	}
	assert.Equal(t, []int{200, 200, 409, 200}, []int{ask("ada"), ask("ada"), ask("ben"), ask("ada")})
}

// On a map that keeps itself in order, as each new one does, with some slips that a hand placed.
func BenchmarkEntryKept(b *testing.B) {
	for _, n := range []int{40, 100, 300, 1000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			s := serve(b, b.TempDir())
			freely := true
			ops := []edit.Operation{&edit.KeepTidy{On: true, Pattern: cm.PatternLevels, Freely: &freely}}
			for c := range n {
				ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", c)), Label: fmt.Sprint("idea ", c)})
				if c == 0 {
					ops = append(ops, &edit.SetFocus{Concept: "c0"})
					continue
				}
				ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", c)), Phrase: "leads to", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprint("c", (c-1)/3))}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprint("c", c))}}})
			}
			require.NoError(b, s.store.All().Import(b.Context(), "big", "en", [][]edit.Operation{ops}))
			send := func(id, ops string) {
				status, answer := s.post("/maps/big/entries", entry(id, "w", 1, ops))
				require.Equal(b, 200, status, answer)
			}
			for i := range 3 {
				send(fmt.Sprint("s", i), fmt.Sprintf(`[{"do":"shift","concepts":["c%d"],"by":{"x":25,"y":-20}}]`, 5+9*i))
			}
			for i := 0; b.Loop(); i++ {
				send(fmt.Sprint("g", i), fmt.Sprintf(`[{"do":"name-concept","concept":"c%d","label":"bell %d"}]`, 7+i%20, i*i))
			}
		})
	}
}

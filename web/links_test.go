package web_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/store"
)

// handLink makes a link for the plain hand and gives its address and id.
func (s *served) handLink() (path, grant string) {
	_, _, page := s.form("/maps/m/hand-links", nil)
	token := regexp.MustCompile(`data-token="([^"]{22})"`).FindAllStringSubmatch(page, -1)
	grants := regexp.MustCompile(`data-grant="([^"]+)"`).FindAllStringSubmatch(page, -1)
	require.NotEmpty(s.t, token, page)
	return "/hand/" + token[len(token)-1][1], grants[len(grants)-1][1]
}

// bearer is somebody who opened the page of a link.
func (s *served) bearer(hand string) *served {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	who := *s
	who.client = &http.Client{Jar: jar}
	status, page := who.get(hand)
	require.Equal(s.t, 200, status, page)
	return &who
}

func (s *served) listen(path string) *websocket.Conn {
	conn, _, err := websocket.Dial(s.t.Context(), "ws"+strings.TrimPrefix(s.URL, "http")+path, &websocket.DialOptions{HTTPClient: s.client})
	require.NoError(s.t, err)
	s.t.Cleanup(func() { _ = conn.CloseNow() })
	var first map[string]any
	require.NoError(s.t, wsjson.Read(s.t.Context(), conn, &first))
	return conn
}

// What others are sent names nobody as the log knows them, and no window of theirs;
// how somebody sees the map is told to their own windows alone; nobody can act for
// another's window.
func TestNobodyIsToldWhoAnotherIs(t *testing.T) {
	s := serve(t, t.TempDir())
	hand, grant := s.handLink()
	ann, ben := s.bearer(hand), s.bearer(hand)
	at, err := url.Parse(s.URL + hand)
	require.NoError(t, err)
	secret := ann.client.Jar.Cookies(at)[0].Value
	author, other, own := s.listen("/maps/m/live?window=wa"), ben.listen(hand+"/live?window=wb"), ann.listen(hand+"/live?window=mine")
	read := func(c *websocket.Conn) string {
		ctx, cancel := context.WithTimeout(t.Context(), 5*time.Second)
		defer cancel()
		for {
			_, raw, err := c.Read(ctx)
			require.NoError(t, err)
			if !strings.Contains(string(raw), `"here"`) {
				return string(raw)
			}
			for _, key := range append(strings.Split(secret, "."), "hand:", grant, "mine") {
				assert.NotContains(t, string(raw), key)
			}
		}
	}
	status, body := ann.post(hand+"/view", `{"window":"second","tuck":["c00001"]}`)
	require.Equal(t, 200, status, body)
	assert.JSONEq(t, `{"revision":1,"window":"second","view":true}`, read(own))
	status, body = ann.post(hand+"/chosen", `{"window":"wb","chosen":["c-c00001"]}`) // the name of another's window
	require.Equal(t, 204, status, body)
	status, body = ann.post(hand+"/entries", entry("g1", "mine", 1, `[{"do":"add-concept","id":"x","label":"a rope","at":{"x":0,"y":900}}]`))
	require.Equal(t, 200, status, body)
	for _, c := range []*websocket.Conn{author, other} {
		for _, has := range []string{`"chosen"`, `"revision":2`} {
			event := read(c)
			assert.Contains(t, event, has, "and nothing of her view before")
			assert.NotContains(t, event, `"wb"`)
			assert.NotContains(t, event, `"mine"`)
			for _, key := range append(strings.Split(secret, "."), "hand:", grant) {
				assert.NotContains(t, event, key)
			}
		}
	}
	_, page := ben.get(hand)
	_, margin := s.get("/maps/m/margin")
	for _, key := range strings.Split(secret, ".") {
		assert.NotContains(t, page, key)
		assert.NotContains(t, margin, key)
	}
	// A name that this server did not give is nobody's.
	for _, forged := range []string{"x", "ann", strings.Split(secret, ".")[0], strings.Split(secret, ".")[0] + ".AAAAAAAAAAAAAAAAAAAAAA", secret + "x"} {
		s.jar(&http.Cookie{Name: "who", Value: forged})
		status, body = s.post(hand+"/entries", entry("forged", "w", 1, `[]`))
		assert.Equal(t, 403, status, body)
		assert.Contains(t, body, "reload the page")
	}
}

// Whoever has a link gets nothing of other maps.
func TestALinkShowsNothingOfOtherMaps(t *testing.T) {
	s := serve(t, t.TempDir())
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "a", Label: "bell 0"}, &edit.AddConcept{ID: "b", Label: "a private noun"},
		&edit.AddLink{ID: "l", Phrase: "privately says", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}}}, nil)
	require.NoError(t, err)
	m := *out.Map
	m.ID = "other"
	require.NoError(t, s.store.All().Put(t.Context(), &m, "author", nil))
	status, _, _ := s.form("/phrases", url.Values{"group": {"part"}, "words": {"privately banked"}, "do": {"add"}})
	require.Less(t, status, 400)
	_, mine := s.get("/maps/m/offers?in=phrase&typed=privately")
	require.Contains(t, mine, "privately says")
	hand, _ := s.handLink()
	ann := s.bearer(hand)
	for _, path := range []string{"/offers?in=phrase&typed=privately", "/key", "/aloud", "/talk", "/note?on=c-c00001", "/changes?since=0", ""} {
		_, body := ann.get(hand + path)
		assert.NotContains(t, body, "privat", path)
	}
	for _, path := range []string{"/ideas?concept=c00000", "/looks", "/files", "/preview", "/margin", "/lens?what=levels"} {
		status, _ := ann.get(hand + path)
		assert.Equal(t, 404, status, path)
	}
}

// A link that is closed, that ends, or whose map is in the bin, opens nothing any
// more: pages, files, and streams that are open.
func TestAClosedLinkEndsEverything(t *testing.T) {
	s := serve(t, t.TempDir())
	png := "\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x00\x00\x00\x01\x00\x00\x00\x01\x08\x06\x00\x00\x00\x1f\x15\xc4\x89"
	response, err := http.Post(s.URL+"/maps/m/files?name=a.png", "image/png", strings.NewReader(png))
	require.NoError(t, err)
	var kept struct{ File cm.File }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&kept))
	file := "/files/" + kept.File.Hash
	ends := func(conn *websocket.Conn, why string) {
		t.Helper()
		ctx, cancel := context.WithTimeout(t.Context(), time.Second)
		defer cancel()
		for {
			if _, _, err := conn.Read(ctx); err != nil {
				assert.Equal(t, websocket.StatusPolicyViolation, websocket.CloseStatus(err), why)
				return
			}
		}
	}
	hand, grant := s.handLink()
	ann := s.bearer(hand)
	got, err := ann.client.Get(s.URL + hand + file)
	require.NoError(t, err)
	assert.Equal(t, []any{200, "private, no-cache"}, []any{got.StatusCode, got.Header.Get("Cache-Control")}, "a browser asks again each time")
	stream := ann.listen(hand + "/live?window=w")
	staying := s.listen("/maps/m/live?window=author")
	s.form("/maps/m/grants/"+grant+"/close", url.Values{"allows": {"hand"}})
	ends(stream, "closed")
	for _, path := range []string{"", file, "/changes?since=0", "/live"} {
		status, _ := ann.get(hand + path)
		assert.Equal(t, 404, status, path)
	}

	hand, _ = s.handLink()
	stream = s.bearer(hand).listen(hand + "/live?window=w")
	s.form("/maps/m/discard", nil)
	ends(stream, "in the bin")
	ends(staying, "the author's, too")
	for path, want := range map[string]int{hand: 404, hand + file: 404, "/maps/m" + file: 404, "/maps/m": 410} {
		status, _ := ann.get(path)
		assert.Equal(t, want, status, path)
	}
	s.form("/maps/m/restore", nil)

	soon := time.Now().Add(700 * time.Millisecond)
	g, err := s.store.All().AddGrant(t.Context(), store.Grant{ID: "ending", MapID: "m", Allows: store.AllowsHand, Until: soon})
	require.NoError(t, err)
	stream = s.bearer("/hand/" + g.Token).listen("/hand/" + g.Token + "/live?window=w")
	ends2, cancel := context.WithDeadline(t.Context(), soon.Add(time.Second))
	defer cancel()
	for err = nil; err == nil; {
		_, _, err = stream.Read(ends2)
	}
	assert.Equal(t, websocket.StatusPolicyViolation, websocket.CloseStatus(err), "it ends by itself")
}

// Whoever has a link adds; they empty nothing and write over nothing of others. What
// one visitor did is taken back whole, without that of another, and undo brings it
// again.
func TestWhatAVisitorDidIsTakenBack(t *testing.T) {
	s := serve(t, t.TempDir())
	hand, _ := s.handLink()
	ann, ben := s.bearer(hand), s.bearer(hand)
	do := func(who *served, want int, id, ops string) string {
		t.Helper()
		status, body := who.post(hand+"/entries", entry(id, "w", 1, ops))
		require.Equal(t, want, status, body)
		return body
	}
	do(ann, 200, "a1", `[{"do":"add-concept","id":"rope","label":"a rope","at":{"x":0,"y":900}},{"do":"add-link","id":"pulls","from":[{"id":"f","concept":"rope"}],"to":[{"id":"t","concept":"c00001"}],"phrase":"pulls"}]`)
	do(ann, 200, "a2", `[{"do":"name-concept","concept":"rope","label":"a long rope"}]`)
	do(ann, 200, "a3", `[{"do":"name-link","link":"pulls","phrase":"moves"}]`)
	do(ann, 200, "a4", `[{"do":"move","places":{"c00002":{"x":5000,"y":5000},"c00003":{"x":6000,"y":5000}}}]`)
	do(ben, 200, "b1", `[{"do":"add-concept","id":"hand","label":"a hand","at":{"x":0,"y":1200}}]`)
	for ops, words := range map[string]string{
		`[{"do":"name-link","link":"pulls","phrase":""}]`:                                                              "not emptied",
		`[{"do":"name-link","link":"l00002","phrase":" "}]`:                                                            "not emptied",
		`[{"do":"name-concept","concept":"c00001","label":"mine"}]`:                                                    "written by somebody else",
		`[{"do":"name-link","link":"l00002","phrase":"mine"}]`:                                                         "written by somebody else",
		`[{"do":"remove","concepts":["rope"]}]`:                                                                        "simple tools",
		`[{"do":"add-comment","id":"k","on":{"kind":"map","id":"m"},"name":"ADA  Hollin","words":"I am the teacher"}]`: "is what somebody is called",
	} {
		if strings.Contains(ops, "add-comment") {
			status, body := s.post("/maps/m/entries", entry("teacher", "w", 1, `[{"do":"add-comment","id":"k0","on":{"kind":"map","id":"m"},"name":"Ada Hollin","words":"Welcome"}]`))
			require.Equal(t, 200, status, body)
		}
		assert.Contains(t, do(ann, 422, "no", ops), words, ops)
	}
	assert.Contains(t, do(ben, 422, "no2", `[{"do":"name-concept","concept":"rope","label":"my rope"}]`), "written by somebody else")
	do(ann, 200, "a5", `[{"do":"vote","concept":"c00001","for":true},{"do":"add-comment","id":"k1","on":{"kind":"concept","id":"c00001"},"name":"Ann","words":"Look"}]`)
	status, body := s.post("/maps/m/entries", entry("v", "w", 1, `[{"do":"vote","concept":"c00001","for":true}]`))
	require.Equal(t, 200, status, body)
	_, talk := s.get("/maps/m/talk?on=c-c00001")
	assert.Regexp(t, `I agree <b>1 \+ 1</b>`, talk, "counted apart")
	assert.Regexp(t, `<b>Ann</b> <span class="faint">visitor</span>`, talk)
	place := s.load("m").Concepts["c00002"].At

	_, margin := s.get("/maps/m/margin")
	visitors := regexp.MustCompile(`<b>([^<]+)</b> <span class="faint">(\d+) changes?,[^<]*</span></span>\s*<button[^>]*data-visitor="(v[0-9a-f]{16})"`).FindAllStringSubmatch(margin, -1)
	require.Len(t, visitors, 2, margin)
	var whole string
	for _, v := range visitors {
		if v[1] == "Ann" {
			assert.Equal(t, "5", v[2])
			whole = v[3]
		}
	}
	for _, who := range []*served{ann, ben} { // not theirs to do
		status, _ := who.post(hand+"/visitors/"+whole+"/take-back", "")
		assert.Equal(t, 404, status)
	}
	status, body = s.post("/maps/m/visitors/"+whole+"/take-back", "")
	require.Equal(t, 200, status, body)
	m := s.load("m")
	assert.Nil(t, m.Concepts["rope"])
	assert.Nil(t, m.Links["pulls"])
	assert.NotNil(t, m.Concepts["hand"], "that of another stays")
	assert.NotEqual(t, place, m.Concepts["c00002"].At)
	assert.Len(t, m.Concepts["c00001"].Votes, 1)
	assert.Nil(t, m.Comments["k1"])
	status, body = s.post("/maps/m/entries", `{"id":"undo","window":"w","seen":1,"back":"undo"}`)
	require.Equal(t, 200, status, body)
	m = s.load("m")
	require.NotNil(t, m.Concepts["rope"])
	assert.Equal(t, "a long rope", m.Words(m.Concepts["rope"].Label))
	status, body = s.post("/maps/m/visitors/v0000000000000000/take-back", "")
	assert.Equal(t, 422, status, body)
}

// Every answer carries the headers that keep a page from being framed or made to run
// what is foreign, whoever gives it; no folder lists itself; HEAD goes where GET goes.
func TestEveryAnswerIsGuarded(t *testing.T) {
	s := serve(t, t.TempDir())
	response, err := http.Post(s.URL+"/maps/m/files?name=a.svg", "image/svg+xml", strings.NewReader(`<svg xmlns="http://www.w3.org/2000/svg"/>`))
	require.NoError(t, err)
	var kept struct{ File cm.File }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&kept))
	ask := func(method, path string, head http.Header) *http.Response {
		request, err := http.NewRequest(method, s.URL+path, nil)
		require.NoError(t, err)
		request.Header = head
		if host := head.Get("Host"); host != "" {
			request.Host = host
		}
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		_, _ = io.Copy(io.Discard, response.Body)
		_ = response.Body.Close()
		return response
	}
	file := "/maps/m/files/" + kept.File.Hash
	for _, c := range []struct {
		method, path string
		head         http.Header
		want         int
	}{
		{"GET", "/", nil, 200}, {"GET", "/maps/m", nil, 200}, {"GET", "/nowhere", nil, 404}, {"GET", "/maps/none", nil, 404}, {"GET", file, nil, 200}, {"GET", file + "/small", nil, 200},
		{"GET", "/assets/app.css", nil, 200}, {"GET", "/assets/none.css", nil, 404}, {"GET", "/shelf/bell", nil, 200}, {"GET", "/favicon.ico", nil, 200}, {"GET", "/maps/m/drawing", nil, 200},
		{"DELETE", "/maps/m", nil, 405}, {"GET", "/?a=%zz", nil, 400}, {"GET", "/maps/m/live", nil, 426},
		{"POST", "/maps/m/copy", http.Header{"Origin": {"http://evil.example"}}, 403}, {"GET", "/", http.Header{"Host": {"evil.example"}}, 421},
		{"GET", "/", http.Header{"X-Forwarded-Host": {"evil.example"}}, 200}, {"GET", "/", http.Header{"Host": {"evil.example"}, "X-Forwarded-Host": {"127.0.0.1"}}, 421},
		{"GET", "/assets/", nil, 404}, {"GET", "/assets/js/", nil, 404}, {"GET", "/fonts/", nil, 404}, {"GET", "/assets/js", nil, 404},
		{"HEAD", "/", nil, 200}, {"HEAD", "/maps/m", nil, 200}, {"HEAD", file, nil, 200}, {"HEAD", "/assets/app.css", nil, 200}, {"HEAD", "/nowhere", nil, 404}, {"HEAD", "/maps/m/document", nil, 200},
	} {
		r := ask(c.method, c.path, c.head)
		name := c.method + " " + c.path
		assert.Equal(t, c.want, r.StatusCode, name)
		assert.Contains(t, r.Header.Get("Content-Security-Policy"), "frame-ancestors 'none'", name)
		assert.Contains(t, r.Header.Get("Content-Security-Policy"), "default-src 'none'", name)
		assert.Equal(t, "nosniff", r.Header.Get("X-Content-Type-Options"), name)
		assert.NotEmpty(t, r.Header.Get("Referrer-Policy"), name)
	}
}

// What does not arrive as it should is refused with a sentence, and changes nothing.
func TestWhatArrivesBrokenChangesNothing(t *testing.T) {
	s := serve(t, t.TempDir())
	_, _, _ = s.form("/maps/m/name", url.Values{"title": {"Bells of Hollin"}})
	before := s.load("m")
	const formed, jsoned = "application/x-www-form-urlencoded", "application/json"
	for _, c := range []struct {
		what, path, kind, body string
		want                   int
	}{
		{"no form", "/maps/m/name", jsoned, `{"title":"x"}`, 415}, {"bad percent", "/maps/m/name", formed, "title=%zz", 422}, {"no field", "/maps/m/name", formed, "name=x", 422},
		{"a giant", "/maps/m/name", formed, "title=" + strings.Repeat("a", 5<<20), 413}, {"a giant outline", "/maps", formed, "begin=outline&lines=" + strings.Repeat("a%0A", 1_300_000), 413},
		{"a form for an entry", "/maps/m/entries", formed, "id=g", 415}, {"a form for a view", "/maps/m/view", formed, "window=w", 415}, {"two values", "/maps/m/view", jsoned, `{"window":"w"} {"window":"w"}`, 422},
		{"a file of no map", "/maps/none/files?name=x", "text/plain", "x", 404}, {"use, of no map", "/maps/none/files/" + strings.Repeat("0", 64) + "/use", "", "", 404},
		{"use, of no file", "/maps/m/files/" + strings.Repeat("0", 64) + "/use", "", "", 404}, {"shelf, for no map", "/maps/none/shelf/bell", "", "", 404}, {"shelf, no such thing", "/maps/m/shelf/none", "", "", 404},
		{"a copy of no map", "/maps/none/copy", "", "", 404}, {"cut upload", "/upload", "multipart/form-data; boundary=b", "--b\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a\"\r\n\r\n{\"mev", 422},
		{"an upload that is too large", "/upload", "multipart/form-data; boundary=b", "--b\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a\"\r\n\r\n" + strings.Repeat(" ", 41<<20) + "\r\n--b--\r\n", 413},
		{"a file that is too large", "/maps/m/files?name=big", "text/plain", strings.Repeat(" ", 26<<20), 413},
	} {
		response, err := http.Post(s.URL+c.path, c.kind, strings.NewReader(c.body))
		require.NoError(t, err, c.what)
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		_ = response.Body.Close()
		assert.Equal(t, c.want, response.StatusCode, "%s: %s", c.what, raw[:min(300, len(raw))])
		assert.NotRegexp(t, `(?i)sql|panic|goroutine|constraint`, string(raw), c.what)
	}
	after := s.load("m")
	assert.Equal(t, before, after)
	list, err := s.store.All().List(t.Context())
	require.NoError(t, err)
	assert.Len(t, list, 1, "and no empty map is made")

	// A file whose sender goes away in the middle leaves nothing.
	conn, err := net.Dial("tcp", strings.TrimPrefix(s.URL, "http://"))
	require.NoError(t, err)
	_, _ = fmt.Fprintf(conn, "POST /maps/m/files?name=x HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\nhalf of it")
	_ = conn.Close()
}

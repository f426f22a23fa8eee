package web_test

import (
	"context"
	"encoding/json"
	"html"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/people"
	"mevrin/store"
	"mevrin/store/storetest"
	"mevrin/web"
	"mevrin/workspace"
)

// What somebody suggests is taken once, whoever presses at the same time; refused, answered, and taken back by whoever
// it concerns; and said to be out of date once the map has moved on.
func TestSuggestionsAreTakenOnce(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	token, err := folder.SignIn(t.Context(), "ada", "")
	require.NoError(t, err)
	me := browser()
	me.cookie = "mevrin-person=" + token
	g, err := ada.AddGrant(t.Context(), store.Grant{ID: "g", MapID: "m", Allows: store.Allows(people.RightComment)})
	require.NoError(t, err)
	ann, ben := browser(), browser()
	for _, who := range []*someone{ann, ben} {
		status, _ := who.come("/link/" + g.Token)
		require.Equal(t, 303, status)
	}
	suggest := func(who *someone, form string) string {
		t.Helper()
		status, page, to := who.ask("POST", "/maps/m/suggestions", form)
		require.Equal(t, 303, status, page)
		return regexp.MustCompile(`show=([^&]+)`).FindStringSubmatch(to)[1]
	}
	first := suggest(ann, "what=say&from=secret+bell&phrase=hangs+in&to=a+tower&reason=It+does.&name=Ann")
	second := suggest(ann, "what=reword&thing=c-bell&words=great+bell&name=Ann")
	third := suggest(ben, "what=leave-out&thing=c-bell&name=Ben")
	for _, form := range []string{"what=say&from=&to=x", "what=reword&thing=c-bell&words=secret+bell", "what=reword&thing=c-none&words=x", "what=everything"} {
		status, _, _ := ann.ask("POST", "/maps/m/suggestions", form)
		assert.Equal(t, 422, status, form)
	}
	_, page, _ := me.ask("GET", "/maps/m/suggestions?show="+first, "")
	assert.Regexp(t, `data-fresh="[^"]*l-`, page, "it is seen on the paper")
	assert.Contains(t, page, "<b>Ann</b>")
	_, page, _ = me.ask("GET", "/maps/m/suggestions?show="+third, "")
	assert.Contains(t, page, `data-lost="c-bell"`)
	_, page, _ = me.ask("GET", "/maps/m", "")
	assert.Contains(t, page, "3<span class=\"unseen\"> suggestions")
	status, _, _ := ben.ask("POST", "/maps/m/suggestions/"+first+"/take", "")
	assert.Equal(t, 403, status)
	status, _, _ = ben.ask("POST", "/maps/m/suggestions/"+first+"/refuse", "")
	assert.Equal(t, 422, status, "only whoever made it takes it back")
	status, _, _ = ben.ask("POST", "/maps/m/suggestions/"+first+"/answers", "words=Not+ours&name=Ben")
	assert.Equal(t, 303, status)

	statuses := make(chan int)
	for range 6 {
		go func() { status, _, _ := me.ask("POST", "/maps/m/suggestions/"+first+"/take", ""); statuses <- status }()
	}
	count := map[int]int{}
	for range 6 {
		count[<-statuses]++
	}
	assert.Equal(t, map[int]int{303: 1, 404: 5}, count)
	m, revision, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 2, revision)
	assert.Len(t, m.Concepts, 2)
	status, _, _ = ann.ask("POST", "/maps/m/suggestions/"+second+"/refuse", "")
	assert.Equal(t, 303, status, "she takes it back")
	status, _, _ = me.ask("POST", "/maps/m/suggestions/"+third+"/take", "")
	assert.Equal(t, 303, status)
	// Both meant the bell, and it is gone.
	require.NoError(t, ada.AddSuggestion(t.Context(), store.Suggestion{ID: "late", MapID: "m", Operations: []byte(`[{"do":"name-concept","concept":"bell","label":"x"}]`)}))
	_, page, _ = me.ask("GET", "/maps/m/suggestions", "")
	assert.Contains(t, page, "It cannot be taken any more")
	status, _, _ = me.ask("POST", "/maps/m/suggestions/late/take", "")
	assert.Equal(t, 422, status)
	n, err := ada.CountSuggestions(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 1, n, "it waits still")
	assert.NotContains(t, page, "link:", "how the log knows people is told to nobody")
}

// Those who work on a map see each other: by name where they have accounts, as visitors otherwise; by what they
// select, and where their pointers are. Nothing is told of those who only look, nor to them.
func TestThoseWhoAreHereSeeEachOther(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	all := map[string]*someone{}
	for _, p := range []struct{ id, name, right string }{{"ada", "", ""}, {"ben", "Ben Tull", "edit"}, {"cleo", "Cleo Marsh", "comment"}, {"dan", "Dan Fell", "look"}} {
		if p.right != "" {
			require.NoError(t, folder.AddPerson(t.Context(), person(p.id, p.name), "none"))
			require.NoError(t, ada.ShareWith(t.Context(), "m", p.id, rightOf(p.right)))
		}
		token, err := folder.SignIn(t.Context(), p.id, "")
		require.NoError(t, err)
		all[p.id] = browser()
		all[p.id].cookie = "mevrin-person=" + token
	}
	g, err := ada.AddGrant(t.Context(), store.Grant{ID: "g", MapID: "m", Allows: "edit"})
	require.NoError(t, err)
	all["guest"] = browser()
	all["guest"].come("/link/" + g.Token)
	ctx, cancel := context.WithTimeout(t.Context(), 10*time.Second)
	defer cancel()
	join := func(id string) *websocket.Conn {
		conn, _, err := websocket.Dial(ctx, "ws"+strings.TrimPrefix(all[id].base, "http")+"/maps/m/live?window=w-"+id, &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {all[id].cookie}}})
		require.NoError(t, err)
		return conn
	}
	until := func(c *websocket.Conn, holds func(workspace.Event) bool) (e workspace.Event) {
		t.Helper()
		for {
			e = workspace.Event{}
			require.NoError(t, wsjson.Read(ctx, c, &e))
			if holds(e) {
				return e
			}
		}
	}
	names := func(e workspace.Event) (all []string) {
		for _, s := range *e.Here {
			all = append(all, s.Name)
			assert.NotContains(t, s.Window, "w-")
		}
		return all
	}
	conns := map[string]*websocket.Conn{}
	_, refused, err := websocket.Dial(ctx, "ws"+strings.TrimPrefix(all["dan"].base, "http")+"/maps/m/live?window=w", &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {all["dan"].cookie}}})
	require.Error(t, err)
	assert.Equal(t, 403, refused.StatusCode, "who only looks is told nothing of others")
	for _, id := range []string{"ada", "ben", "cleo", "guest"} {
		conns[id] = join(id)
		defer func() { _ = conns[id].CloseNow() }()
	}
	e := until(conns["ada"], func(e workspace.Event) bool { return e.Here != nil && len(*e.Here) == 3 })
	assert.ElementsMatch(t, []string{"Ben Tull", "Cleo Marsh", ""}, names(e))
	hues := map[int]bool{}
	for _, s := range *e.Here {
		hues[s.Hue] = true
	}
	assert.Len(t, hues, 3, "each has a colour")
	for _, said := range []string{`{"spot":[1e99,0]}`, `nothing`, `{"spot":"here"}`, `{}`} {
		require.NoError(t, conns["cleo"].Write(ctx, websocket.MessageText, []byte(said)))
	}
	until(conns["ben"], func(e workspace.Event) bool { return e.Here != nil && len(*e.Here) == 3 })
	require.NoError(t, conns["ben"].Write(ctx, websocket.MessageText, []byte(`{"spot":[12,-30]}`)))
	e = until(conns["ada"], func(e workspace.Event) bool { return e.Spot != nil })
	assert.Equal(t, [2]float64{12, -30}, *e.Spot)
	require.NoError(t, conns["ben"].Close(websocket.StatusNormalClosure, ""))
	e = until(conns["ada"], func(e workspace.Event) bool { return e.Here != nil })
	assert.ElementsMatch(t, []string{"Cleo Marsh", ""}, names(e))
	// Who loses their right loses the stream, and is here no more.
	require.NoError(t, ada.Revoke(t.Context(), "m", "g"))
	status, _, _ := all["ada"].post("/maps/m/sharing", "person", "cleo", "right", "")
	require.Equal(t, 303, status)
	e = until(conns["ada"], func(e workspace.Event) bool { return e.Here != nil && len(*e.Here) == 0 })
	assert.Empty(t, names(e))
}

func person(id, name string) people.Person {
	return people.Person{ID: id, Name: name, Mail: id + "@hollin.example", Role: people.RoleAuthor}
}

func rightOf(name string) people.Right { return people.Right(name) }

// A map stands in a frame on the pages that its author named, on no others, and nothing but reading is to be had there.
func TestAFrameStandsWhereItsAuthorSaid(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	token, err := folder.SignIn(t.Context(), "ada", "")
	require.NoError(t, err)
	me := browser()
	me.cookie = "mevrin-person=" + token
	for _, bad := range []string{"", "*", "http://course.example", "https://*.example"} {
		status, _, _ := me.ask("POST", "/maps/m/frames", url.Values{"origins": {bad}, "size": {"0"}}.Encode())
		assert.Equal(t, 422, status, bad)
	}
	status, _, _ := me.ask("POST", "/maps/m/frames", url.Values{"origins": {"https://course.hollin.example/unit"}, "size": {"2"}, "dress": {"board"}, "route": {"r"}}.Encode())
	require.Equal(t, 303, status)
	grants, err := ada.Grants(t.Context(), "m")
	require.NoError(t, err)
	require.Len(t, grants, 1)
	path := "/frame/" + grants[0].Token
	_, page, _ := me.ask("GET", "/maps/m/sharing", "")
	assert.Contains(t, page, "&lt;iframe src=&#34;"+me.base+path)
	assert.Contains(t, page, "width=&#34;800&#34; height=&#34;520&#34;")
	ask := func(path string) (*http.Response, string) {
		response, err := http.Get(me.base + path)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return response, string(raw)
	}
	r, body := ask(path)
	assert.Equal(t, 200, r.StatusCode)
	assert.Contains(t, r.Header.Get("Content-Security-Policy"), "frame-ancestors https://course.hollin.example")
	assert.Empty(t, r.Header.Get("X-Frame-Options"))
	assert.Contains(t, body, "look-board")
	assert.NotContains(t, body, "/export")
	found := regexp.MustCompile(`application/json\+oembed" href="([^"]+)"`).FindStringSubmatch(body)
	require.NotNil(t, found)
	r, body = ask(strings.TrimPrefix(html.UnescapeString(found[1]), me.base) + "&maxwidth=400")
	assert.Equal(t, 200, r.StatusCode)
	var told struct {
		Type, HTML, Version string
		Width, Height       int
	}
	require.NoError(t, json.Unmarshal([]byte(body), &told))
	assert.Equal(t, []any{"rich", "1.0", 400, 520}, []any{told.Type, told.Version, told.Width, told.Height})
	assert.Contains(t, told.HTML, path)
	for _, other := range []string{"/walk/" + grants[0].Token, "/hand/" + grants[0].Token, "/link/" + grants[0].Token, "/picture/" + grants[0].Token + "/map.svg"} {
		r, body = ask(other)
		assert.Equal(t, 404, r.StatusCode, other)
		assert.NotContains(t, body, "secret")
	}
	walk, err := ada.AddGrant(t.Context(), store.Grant{ID: "w", MapID: "m", Allows: store.AllowsWalk, Route: "r"})
	require.NoError(t, err)
	for _, other := range []string{"/frame/" + walk.Token, "/oembed?url=" + url.QueryEscape(me.base+"/walk/"+walk.Token), "/oembed?url=http://elsewhere.example" + path, "/oembed?url=%3a%3a", "/oembed"} {
		r, _ = ask(other)
		assert.Equal(t, 404, r.StatusCode, other)
		assert.Equal(t, "DENY", r.Header.Get("X-Frame-Options"))
	}
	r, _ = ask("/oembed?format=xml&url=" + url.QueryEscape(me.base+path))
	assert.Equal(t, 501, r.StatusCode)
	require.NoError(t, ada.Revoke(t.Context(), "m", grants[0].ID))
	r, _ = ask(path)
	assert.Equal(t, 404, r.StatusCode)
}

// Whoever has no account tries everything on a map of their own, and keeps it by signing in; nobody makes many.
func TestAMapIsTriedAndKept(t *testing.T) {
	folder := storetest.Open(t)
	linked(t, folder)
	app := httptest.NewServer(handler(t, web.Config{Store: folder, Access: web.ByAccount{Store: folder}, Accounts: workspace.NewAccounts(folder), Tries: true, Metrics: "measure", Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}))
	t.Cleanup(app.Close)
	ann := &someone{t: t, base: app.URL}
	response, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Post(app.URL+"/try", "", nil)
	require.NoError(t, err)
	_ = response.Body.Close()
	require.Equal(t, 303, response.StatusCode)
	ann.cookie = response.Cookies()[0].Name + "=" + response.Cookies()[0].Value
	path := response.Header.Get("Location")
	status, page, _ := ann.ask("GET", path, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "/sign-in?to=")
	status, answer := ann.json(path+"/entries", entry("g", "w", 1, `[{"do":"ask","question":"What is tin?"}]`))
	assert.Equal(t, 200, status, answer)
	status, _, _ = (&someone{t: t, base: app.URL}).ask("GET", path, "")
	assert.Equal(t, 303, status, "it is theirs alone")
	token, err := folder.SignIn(t.Context(), "ada", "")
	require.NoError(t, err)
	both := &someone{t: t, base: app.URL, cookie: ann.cookie + "; mevrin-person=" + token}
	status, _, to := both.ask("GET", path+"/keep", "")
	assert.Equal(t, []any{303, path}, []any{status, to})
	right, err := folder.RightOn(t.Context(), "ada", mapOf(path))
	require.NoError(t, err)
	assert.Equal(t, people.RightOwn, right)
	status, _, _ = ann.ask("GET", path, "")
	assert.Equal(t, 303, status, "whoever is not signed in has it no more")
	signed := &someone{t: t, base: app.URL, cookie: "mevrin-person=" + token}
	_, page, _ = signed.ask("GET", "/", "")
	assert.Contains(t, page, "What is tin?")
	statuses := map[int]int{}
	for range 8 {
		status, _, _ := (&someone{t: t, base: app.URL}).ask("POST", "/try", "")
		statuses[status]++
	}
	assert.Equal(t, map[int]int{303: 4, 429: 4}, statuses)
	require.NoError(t, folder.EndTrials(t.Context(), time.Now().Add(time.Hour)))
	n, err := folder.CountTrials(t.Context())
	require.NoError(t, err)
	assert.Zero(t, n)

	// The figures are for the owner, and for whoever measures.
	status, _, _ = ann.ask("GET", "/metrics", "")
	assert.Equal(t, 303, status)
	for _, head := range []string{"Bearer measure", "Bearer wrong"} {
		request, err := http.NewRequest("GET", app.URL+"/metrics", nil)
		require.NoError(t, err)
		request.Header.Set("Authorization", head)
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		_ = response.Body.Close()
		assert.Equal(t, head == "Bearer measure", strings.Contains(string(raw), `mevrin_requests_total{address="/try",method="POST",status="429"} 4`), head)
		assert.NotContains(t, string(raw), path)
	}
}

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

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/web"
	"mevrin/workspace"
)

// linked makes a map of Ada's, and gives a link to it with a right.
func linked(t *testing.T, folder *store.Store) *store.Reach {
	t.Helper()
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: "ada", Name: "Ada", Mail: "ada@hollin.example", Role: people.RoleOwner}, "none"))
	ada := folder.For(store.Scope{Person: "ada"})
	require.NoError(t, ada.Import(t.Context(), "m", "en", [][]edit.Operation{{&edit.Ask{Question: "What is the secret of the bell?"}, &edit.AddConcept{ID: "bell", Label: "secret bell"},
		&edit.AddRoute{ID: "r", Title: "secret way"}, &edit.AddStop{ID: "s", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}}}}))
	return ada
}

// come opens a link, and keeps what shows that one came by it.
func (s *someone) come(path string) (int, string) {
	s.t.Helper()
	request, err := http.NewRequest("GET", s.base+path, nil)
	require.NoError(s.t, err)
	request.Header.Set("Accept", "text/html")
	if s.cookie != "" {
		request.Header.Set("Cookie", s.cookie)
	}
	response, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Do(request)
	require.NoError(s.t, err)
	_ = response.Body.Close()
	for _, c := range response.Cookies() {
		assert.True(s.t, c.HttpOnly && c.SameSite == http.SameSiteLaxMode, c.Name)
		s.cookie = strings.TrimPrefix(s.cookie+"; "+c.Name+"="+c.Value, "; ")
	}
	return response.StatusCode, response.Header.Get("Location")
}

// Every address of a map answers whoever came by a link as the link's right says, in every state of the link.
func TestALinkGivesItsRightAndNoMore(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	params := regexp.MustCompile(`:[a-z]+`)
	values := map[string]string{":map": "m", ":route": "r", ":file": strings.Repeat("0", 64), ":grant": "none", ":visitor": "v0000000000000000", ":item": "none", ":set": "none", ":form": "bib", ":name": "map.svg", ":part": "all"}
	own := []web.Capability{web.CanBe, web.CanKeep, web.CanCopy}
	walk := func(who *someone, right people.Right, state string) {
		t.Helper()
		for _, a := range web.Addresses() {
			if !strings.HasPrefix(a.Path, "/maps/:map") {
				continue
			}
			allowed := web.RightMay(right, a.Needs)
			for _, c := range own {
				allowed = allowed && a.Needs != c
			}
			if allowed && (a.Method == "POST" || strings.HasSuffix(a.Path, "/live")) {
				continue
			}
			where := state + ": " + a.Method + " " + a.Path
			status, body, to := who.ask(a.Method, params.ReplaceAllStringFunc(a.Path, func(name string) string { return values[name] }), "")
			switch {
			case allowed:
				assert.NotContains(t, []int{401, 403}, status, where)
				assert.Less(t, status, 500, where)
				continue
			case right != people.RightNone:
				assert.Equal(t, http.StatusForbidden, status, where)
			case a.Method == "GET":
				assert.True(t, strings.HasPrefix(to, "/sign-in?to="), where)
			default:
				assert.Equal(t, http.StatusUnauthorized, status, where)
			}
			assert.NotContains(t, body, "secret", where)
		}
	}
	for _, right := range people.ForLinks {
		g, err := ada.AddGrant(t.Context(), store.Grant{ID: "g" + string(right), MapID: "m", Allows: store.Allows(right)})
		require.NoError(t, err)
		ann, ben := browser(), browser()
		walk(ben, people.RightNone, "not opened")
		status, to := ann.come("/link/" + g.Token)
		require.Equal(t, 303, status)
		require.Equal(t, "/maps/m", to)
		walk(ann, right, string(right))
		forged := browser()
		forged.cookie = strings.Replace(ann.cookie, g.Token, strings.Repeat("x", 22), 1)
		walk(forged, people.RightNone, "forged")
		if right == people.RightEdit {
			g.Secret = "another password"
			require.NoError(t, ada.Limit(t.Context(), g))
			walk(ann, people.RightNone, "a password was set")
			status, _ = browser().come("/link/" + g.Token)
			assert.Equal(t, 200, status, "it asks for it")
			g.Secret, g.Until = "", time.Now().Add(-time.Second)
			require.NoError(t, ada.Limit(t.Context(), g))
			walk(ann, people.RightNone, "ended")
			g.Until = time.Time{}
			require.NoError(t, ada.Limit(t.Context(), g))
			walk(ann, people.RightEdit, "renewed")
		}
		require.NoError(t, ada.Revoke(t.Context(), "m", g.ID))
		walk(ann, people.RightNone, "revoked")
		status, _ = ann.come("/link/" + g.Token)
		assert.Equal(t, 404, status)
	}
	// What is open to all may be looked at by anybody, and by nobody once it is closed.
	nobody := browser()
	_, body, _ := nobody.ask("GET", "/open", "")
	assert.NotContains(t, body, "secret")
	require.NoError(t, ada.SetOpen(t.Context(), "m", people.RightLook))
	_, body, _ = nobody.ask("GET", "/open", "")
	assert.Contains(t, body, "secret")
	status, _, to := nobody.ask("GET", "/maps/m", "")
	assert.Equal(t, 303, status)
	status, body, _ = nobody.ask("GET", to, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "secret bell")
	for _, path := range []string{"/maps/m/document", "/maps/m/export", "/maps/m/margin", "/maps/m/sharing", "/maps/m/desk"} {
		status, _, _ = nobody.ask("GET", path, "")
		assert.Equal(t, 403, status, path)
	}
	status, _, _ = nobody.ask("POST", "/maps/m/understood", "concept=bell&mark=clear")
	assert.Equal(t, 403, status, "nothing is kept of those who are not known")
	require.NoError(t, ada.SetOpen(t.Context(), "m", people.RightNone))
	walk(nobody, people.RightNone, "closed")
}

// Whoever may comment says what they think, and alters nothing; they speak by the name of their account.
func TestWhoMayCommentAltersNothing(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: "ben", Name: "Ben Tull", Mail: "ben@hollin.example", Role: people.RoleLearner}, "none"))
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightComment))
	token, err := folder.SignIn(t.Context(), "ben", "")
	require.NoError(t, err)
	ben := browser()
	ben.cookie = "mevrin-person=" + token
	do := func(id, ops string) int {
		status, _ := ben.json("/maps/m/entries", entry(id, "w", 1, ops))
		return status
	}
	assert.Equal(t, 200, do("a", `[{"do":"add-comment","id":"k","on":{"kind":"concept","id":"bell"},"name":"Ada","words":"Which one?"}]`))
	assert.Equal(t, 200, do("b", `[{"do":"vote","concept":"bell","for":true}]`))
	for _, ops := range []string{`[{"do":"name-concept","concept":"bell","label":"mine"}]`, `[{"do":"remove","concepts":["bell"]}]`, `[{"do":"add-concept","id":"x","label":"mine","at":{"x":0,"y":0}}]`,
		`[{"do":"vote","concept":"bell","for":true},{"do":"ask","question":"mine"}]`} {
		assert.Equal(t, 422, do("c", ops), ops)
	}
	// Whom somebody names gets a letter, where they may look at the map; nobody else does.
	require.NoError(t, folder.AddPerson(t.Context(), person("dan", "Dan Fell"), "none"))
	assert.Equal(t, 200, do("d", `[{"do":"add-comment","id":"k2","on":{"kind":"concept","id":"bell"},"words":"@Ada and @Dan Fell and @Ben Tull, please","asks":true}]`))
	letters, err := folder.Letters(t.Context())
	require.NoError(t, err)
	require.Len(t, letters, 1)
	assert.Equal(t, "ada@hollin.example", letters[0].Recipient)
	assert.Contains(t, letters[0].Body, "/maps/m")
	_, page, _ := ben.ask("GET", "/maps/m/mentionable", "")
	assert.Contains(t, page, "@Ada")
	assert.NotContains(t, page, "Dan")
	m, _, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.True(t, m.Comments["k2"].Asks)
	assert.Equal(t, 1, m.Hands()[cm.Key{Kind: cm.EntityConcept, ID: "bell"}])
	assert.Equal(t, "Ben Tull", m.Comments["k"].Name)
	assert.Equal(t, "secret bell", m.Words(m.Concepts["bell"].Label))
	assert.Len(t, m.Concepts, 1)
}

// Maps are filed, shared with their folder, begun by others, and listed a part at a time.
func TestTheLibraryOfAPerson(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: "ben", Name: "Ben Tull", Mail: "ben@hollin.example", Role: people.RoleAuthor}, "none"))
	signed := func(id string) *someone {
		token, err := folder.SignIn(t.Context(), id, "")
		require.NoError(t, err)
		b := browser()
		b.cookie = "mevrin-person=" + token
		return b
	}
	me, ben := signed("ada"), signed("ben")
	status, _, _ := me.post("/folders", "name", "  Year  8 ")
	assert.Equal(t, 303, status)
	all, err := ada.AllFolders(t.Context())
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "Year 8", all[0].Name)
	id := all[0].ID
	status, _, _ = me.post("/folders", "name", " ")
	assert.Equal(t, 422, status)
	status, _, _ = ben.post("/several", "do", "file", "into", "", "map", "m")
	assert.Equal(t, 422, status, "only one's own")
	status, _, _ = ben.post("/several", "do", "bin", "map", "m")
	assert.Equal(t, 404, status)
	status, _, _ = me.post("/several", "do", "file", "into", id, "map", "m")
	assert.Equal(t, 303, status)
	_, page, _ := me.ask("GET", "/", "")
	assert.NotContains(t, page, "secret of the bell", "it is in the folder")
	assert.Contains(t, page, "Year 8")
	_, page, _ = me.ask("GET", "/?folder="+id, "")
	assert.Contains(t, page, "secret of the bell")
	status, _, _ = ben.ask("GET", "/?folder="+id, "")
	assert.Equal(t, 404, status)
	status, _, _ = ben.ask("GET", "/folders/"+id+"/sharing", "")
	assert.Equal(t, 404, status)
	status, _, _ = ben.post("/folders/"+id+"/sharing", "person", "ben", "right", "own")
	assert.Equal(t, 404, status, "nobody shares what is not theirs")
	status, _, _ = me.post("/folders/"+id+"/sharing", "person", "ben", "right", "edit")
	assert.Equal(t, 303, status)
	_, page, _ = ben.ask("GET", "/shared?folder="+id, "")
	assert.Contains(t, page, "secret of the bell")
	status, _, _ = ben.ask("GET", "/maps/m", "")
	assert.Equal(t, 200, status)
	_, page, _ = me.ask("GET", "/maps/m/sharing", "")
	assert.Contains(t, page, "by the folder Year 8")
	status, _, _ = me.post("/folders/"+id, "do", "remove")
	assert.Equal(t, 303, status)
	status, _, _ = ben.ask("GET", "/maps/m", "")
	assert.Equal(t, 404, status)

	status, _, to := me.post("/maps/m/template", "keep", "shape")
	assert.Equal(t, 303, status)
	assert.True(t, strings.HasPrefix(to, "/templates?"))
	_, page, _ = me.ask("GET", "/templates", "")
	twin := regexp.MustCompile(`/maps/([^/"]+)/begin`).FindStringSubmatch(page)
	require.NotNil(t, twin, page)
	_, page, _ = me.ask("GET", "/", "")
	assert.Equal(t, 1, strings.Count(page, `class="map-card`), "it does not lie among the maps")
	status, _, to = me.post("/maps/" + twin[1] + "/begin")
	assert.Equal(t, 303, status)
	m, _, err := ada.Load(t.Context(), cm.ID(strings.TrimPrefix(to, "/maps/")))
	require.NoError(t, err)
	assert.Len(t, m.Concepts, 1)
	assert.Empty(t, m.Words(m.Concepts["bell"].Label))
	assert.Empty(t, m.Routes)
	status, _, to = me.post("/maps", "starter", "compare", "question", "Bell or gong?")
	assert.Equal(t, 303, status)
	m, _, err = ada.Load(t.Context(), cm.ID(strings.TrimPrefix(to, "/maps/")))
	require.NoError(t, err)
	assert.Equal(t, "Bell or gong?", m.Words(m.Question))
	assert.Len(t, m.Concepts, 8)
	status, page, _ = me.ask("POST", "/questions", "answer=&answer=an+instrument")
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "an instrument", "what was answered is kept")

	// The bin empties itself of what lay there long enough.
	require.NoError(t, ada.Discard(t.Context(), "m"))
	n, err := folder.EmptyBin(t.Context(), time.Now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Zero(t, n)
	n, err = folder.EmptyBin(t.Context(), time.Now().Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	bin, err := ada.Bin(t.Context())
	require.NoError(t, err)
	assert.Empty(t, bin)
}

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
// select, and where their pointers are. Nothing is told of those who only look.
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
	for _, id := range []string{"ada", "ben", "cleo", "dan", "guest"} {
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
		require.NoError(t, conns["dan"].Write(ctx, websocket.MessageText, []byte(said)))
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

// json sends JSON, and gives the status and the answer.
func (s *someone) json(path, body string) (int, string) {
	s.t.Helper()
	request, err := http.NewRequest("POST", s.base+path, strings.NewReader(body))
	require.NoError(s.t, err)
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Cookie", s.cookie)
	response, err := http.DefaultClient.Do(request)
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response.StatusCode, string(raw)
}

func mapOf(path string) cm.ID { return cm.ID(strings.TrimPrefix(path, "/maps/")) }

// signInOf gives the id of the sign-in that a browser shows.
func signInOf(t *testing.T, folder *store.Store, who *someone) string {
	_, id, err := folder.SignedIn(t.Context(), strings.TrimPrefix(who.cookie, "mevrin-person="))
	require.NoError(t, err)
	return id
}

// Whoever has no account tries everything on a map of their own, and keeps it by signing in; nobody makes many.
func TestAMapIsTriedAndKept(t *testing.T) {
	folder, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = folder.Close() })
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

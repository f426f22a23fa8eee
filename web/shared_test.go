package web_test

import (
	"io"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/web"
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

// signingIn gives browsers in which people are signed in.
func signingIn(t *testing.T, folder *store.Store, browser func() *someone) func(id string) *someone {
	return func(id string) *someone {
		t.Helper()
		token, err := folder.SignIn(t.Context(), id, "")
		require.NoError(t, err)
		b := browser()
		b.cookie = "mevrin-person=" + token
		return b
	}
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
	// Who could alter the map once goes back in what they say, and in nothing else.
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightEdit))
	assert.Equal(t, 200, do("e", `[{"do":"name-concept","concept":"bell","label":"secret bell of Ben"}]`))
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightComment))
	status, _ := ben.json("/maps/m/entries", `{"id":"back","window":"w","seen":1,"back":"undo"}`)
	assert.Equal(t, 422, status)
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightEdit))
	assert.Equal(t, 200, do("f", `[{"do":"name-concept","concept":"bell","label":"secret bell"}]`))
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightComment))
	for id, ops := range map[string]string{"v": `[{"do":"vote","concept":"bell","for":false}]`, "w": `[{"do":"add-comment","id":"k9","on":{"kind":"concept","id":"bell"},"words":"Never mind."}]`} {
		assert.Equal(t, 200, do(id, ops))
		status, answer := ben.json("/maps/m/entries", `{"id":"back-`+id+`","window":"w","seen":1,"back":"undo"}`)
		assert.Equal(t, 200, status, answer)
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
	signed := signingIn(t, folder, browser)
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

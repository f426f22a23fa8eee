package web_test

import (
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/people"
	"mevrin/standin/identity"
	"mevrin/store/storetest"
	"mevrin/web"
	"mevrin/workspace"
)

// People sign in by their school's identity, and nobody by what was not said to them: another's state, a code used
// twice, an answer to another question, or a mail address that nobody has verified.
func TestPeopleSignInByTheirSchool(t *testing.T) {
	folder := storetest.Open(t)
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: people.FirstOwner, Name: "Ines", Mail: "ines@hollin.example", Role: people.RoleOwner}, "none"))
	school := &identity.Provider{Client: "mevrin", Secret: "shh", People: []identity.Person{
		{Subject: "1", Name: "Ines Hallam", Mail: "ines@hollin.example"}, {Subject: "2", Name: "Wren Abbott", Mail: "Wren@Hollin.example"}, {Subject: "3", Name: "Somebody", Mail: "ines@hollin.example", Unverified: true}, {Subject: "4"}}}
	idp := httptest.NewServer(school.Handler())
	t.Cleanup(idp.Close)
	school.Issuer = idp.URL
	config := &web.School{Name: "Hollin school", Issuer: idp.URL, Client: "mevrin", Secret: "shh", Joins: people.RoleLearner}
	app := httptest.NewServer(handler(t, web.Config{Store: folder, Access: web.ByAccount{Store: folder}, Accounts: workspace.NewAccounts(folder), School: config, Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}))
	t.Cleanup(app.Close)
	browser := func() *http.Client {
		jar, err := cookiejar.New(nil)
		require.NoError(t, err)
		return &http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	}
	get := func(c *http.Client, address string) (int, string) {
		request, err := http.NewRequest("GET", address, nil)
		require.NoError(t, err)
		request.Header.Set("Accept", "text/html")
		r, err := c.Do(request)
		require.NoError(t, err)
		_ = r.Body.Close()
		return r.StatusCode, r.Header.Get("Location")
	}
	// leave goes to the school and chooses somebody there, and gives the address that leads back.
	leave := func(c *http.Client, as string) string {
		status, to := get(c, app.URL+"/identity?to=/maps/m")
		require.Equal(t, 303, status)
		asked, err := url.Parse(to)
		require.NoError(t, err)
		q := asked.Query()
		assert.Equal(t, "S256", q.Get("code_challenge_method"))
		q.Set("as", as)
		r, err := c.PostForm(idp.URL+"/authorize", q)
		require.NoError(t, err)
		_ = r.Body.Close()
		require.Equal(t, 303, r.StatusCode)
		return r.Header.Get("Location")
	}
	who := func(c *http.Client) string {
		base, err := url.Parse(app.URL)
		require.NoError(t, err)
		for _, cookie := range c.Jar.Cookies(base) {
			if cookie.Name == "mevrin-person" {
				p, _, err := folder.SignedIn(t.Context(), cookie.Value)
				require.NoError(t, err)
				return p.Name
			}
		}
		return ""
	}
	ines, wren := browser(), browser()
	status, to := get(ines, leave(ines, "1"))
	assert.Equal(t, []any{303, "/maps/m"}, []any{status, to})
	assert.Equal(t, "Ines", who(ines), "she has an account of that address")
	back := leave(wren, "2")
	status, _ = get(wren, back)
	assert.Equal(t, 303, status)
	assert.Equal(t, "Wren Abbott", who(wren))
	p, secret, err := folder.PersonOf(t.Context(), "wren@hollin.example")
	require.NoError(t, err)
	assert.Equal(t, people.RoleLearner, p.Role)
	assert.False(t, strings.HasPrefix(secret, "$"), "she gets in by no password")
	status, _ = get(wren, back)
	assert.Equal(t, 403, status, "a code is good once")
	school.People[1].Mail = "wren.abbott@hollin.example"
	again := browser()
	status, _ = get(again, leave(again, "2"))
	assert.Equal(t, 303, status)
	assert.Equal(t, "Wren Abbott", who(again), "she is who she was, by another address")

	for as, want := range map[string]int{"3": 422, "4": 422} {
		c := browser()
		status, _ = get(c, leave(c, as))
		assert.Equal(t, want, status, as)
		assert.Empty(t, who(c))
	}
	thief, victim := browser(), browser()
	stolen := leave(thief, "1")
	status, _ = get(victim, stolen)
	assert.Equal(t, 403, status, "nobody is signed in who did not ask for it")
	leave(victim, "1")
	status, _ = get(victim, stolen)
	assert.Equal(t, 403, status, "nor by another's state")
	school.WrongNonce = true
	c := browser()
	status, _ = get(c, leave(c, "1"))
	assert.Equal(t, 403, status)
	assert.Empty(t, who(c))
	school.WrongNonce, config.Joins, school.People = false, "", append(school.People, identity.Person{Subject: "5", Name: "New", Mail: "new@hollin.example"})
	status, _ = get(c, leave(c, "5"))
	assert.Equal(t, 422, status, "who has to be invited is")
	idp.Close()
	config2 := &web.School{Name: "x", Issuer: idp.URL, Client: "mevrin"}
	down := httptest.NewServer(handler(t, web.Config{Store: folder, Access: web.ByAccount{Store: folder}, Accounts: workspace.NewAccounts(folder), School: config2, Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}))
	defer down.Close()
	status, _ = get(c, down.URL+"/identity")
	assert.Equal(t, 502, status)
}

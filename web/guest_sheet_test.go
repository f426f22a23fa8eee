package web_test

import (
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// guest is a browser that keeps cookies as browsers do: each for its addresses.
type guest struct {
	t    *testing.T
	base string
	http.Client
}

func newGuest(t *testing.T, base string) *guest {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return &guest{t, base, http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}
}

func (b *guest) ask(method, path, kind, body string) (status int, page, to string) {
	b.t.Helper()
	request, err := http.NewRequest(method, b.base+path, strings.NewReader(body))
	require.NoError(b.t, err)
	request.Header.Set("Accept", "text/html")
	request.Header.Set("Origin", b.base)
	request.Header.Set("Content-Type", kind)
	response, err := b.Do(request)
	require.NoError(b.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(b.t, err)
	return response.StatusCode, string(raw), response.Header.Get("Location")
}

func (b *guest) get(path string) (status int, page, to string) {
	b.t.Helper()
	return b.ask("GET", path, "", "")
}

func (b *guest) send(path string, fields ...string) (status int, page, to string) {
	b.t.Helper()
	form := url.Values{}
	for i := 0; i < len(fields); i += 2 {
		form.Set(fields[i], fields[i+1])
	}
	return b.ask("POST", path, "application/x-www-form-urlencoded", form.Encode())
}

func (b *guest) edit(path, id, operations string) {
	b.t.Helper()
	status, answer, _ := b.ask("POST", path+"/entries", "application/json", `{"id":"`+id+`","window":"w","seen":1,"operations":[`+operations+`]}`)
	require.Equal(b.t, 200, status, answer)
}

// Who came by a link to comment does by hand, on a sheet, what they would alter, without an account: their browser
// alone has it, and it leads to the map only as long as their link does.
func TestAGuestSuggestsByHand(t *testing.T) {
	folder, _, browser := shared(t)
	ada := linked(t, folder)
	base := browser().base
	link := func(right people.Right) store.Grant {
		g, err := ada.AddGrant(t.Context(), store.Grant{ID: "g" + string(right), MapID: "m", Allows: store.Allows(right)})
		require.NoError(t, err)
		return g
	}
	comment := link(people.RightComment)
	looker := newGuest(t, base)
	looker.get("/link/" + link(people.RightLook).Token)
	status, _, _ := looker.send("/maps/m/sheet")
	assert.Equal(t, 403, status, "who looks alone has none")

	wren := newGuest(t, base)
	status, _, _ = wren.get("/link/" + comment.Token)
	require.Equal(t, 303, status)
	_, page, _ := wren.get("/maps/m/suggestions")
	assert.Contains(t, page, "this browser alone knows your sheet")
	status, _, sheet := wren.send("/maps/m/sheet")
	require.Equal(t, 303, status)
	_, _, again := wren.send("/maps/m/sheet")
	assert.Equal(t, sheet, again, "there is one sheet of a map")
	_, page, _ = wren.get("/maps/m/suggestions")
	assert.Contains(t, page, "Go on with your sheet")

	wren.edit(sheet, "e1", `{"do":"add-concept","id":"rope","label":"the rope","at":{"x":0,"y":300}},{"do":"add-link","id":"l","phrase":"is rung by","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"rope"}]}`)
	_, page, _ = wren.get(sheet)
	assert.Contains(t, page, "Your sheet")
	assert.NotContains(t, page, "/keep", "it is no map to be kept")
	status, page, _ = wren.get(sheet + "/suggest")
	require.Equal(t, 200, status)
	assert.Contains(t, page, "the rope")
	other := newGuest(t, base)
	other.get("/link/" + comment.Token)
	for _, path := range []string{sheet, sheet + "/suggest", sheet + "/document"} {
		status, page, _ = other.get(path)
		assert.Contains(t, []int{303, 401, 403, 404}, status, path)
		assert.NotContains(t, page, "rope", path)
	}
	assert.ErrorIs(t, folder.Claim(t.Context(), cm.ID(strings.TrimPrefix(sheet, "/maps/")), "ada"), store.ErrNoMap, "nobody makes it their map")

	status, _, to := wren.send(sheet+"/suggest", "reason", "There is one.", "name", "Wren")
	require.Equal(t, 303, status)
	status, page, _ = wren.get(to)
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "There is one.")
	all, err := ada.Suggestions(t.Context(), "m")
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "Wren", all[0].Name)
	m, revision, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 1, revision, "the map stays as it is")
	assert.Nil(t, m.Concepts["rope"])
	_, n, err := folder.CountGuestSheets(t.Context(), "m")
	require.NoError(t, err)
	assert.Zero(t, n, "the sheet is gone with the suggestion")

	// Who has an account as well is known by it.
	require.NoError(t, folder.AddPerson(t.Context(), person("ben", "ben"), "none"))
	token, err := folder.SignIn(t.Context(), "ben", "")
	require.NoError(t, err)
	ben := newGuest(t, base)
	at, err := url.Parse(base)
	require.NoError(t, err)
	ben.Jar.SetCookies(at, []*http.Cookie{{Name: "mevrin-person", Value: token, Path: "/"}})
	ben.get("/link/" + comment.Token)
	_, _, bens := ben.send("/maps/m/sheet")
	ben.edit(bens, "e3", `{"do":"name-concept","concept":"bell","label":"the old bell"}`)
	status, page, _ = ben.get(bens + "/suggest")
	assert.Equal(t, 200, status)
	assert.NotContains(t, page, "Your name")
	status, _, _ = ben.send(bens+"/suggest", "reason", "", "name", "somebody else")
	assert.Equal(t, 303, status)
	all, err = ada.Suggestions(t.Context(), "m")
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Contains(t, []string{all[0].Name, all[1].Name}, "ben")

	// It leads to the map as long as their link does; it can be thrown away in any case.
	_, _, sheet = wren.send("/maps/m/sheet")
	here, n, err := folder.CountGuestSheets(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{here, n})
	trials, err := folder.CountTrials(t.Context())
	require.NoError(t, err)
	assert.Zero(t, trials, "a sheet takes the place of nobody who tries things")
	wren.edit(sheet, "e2", `{"do":"name-concept","concept":"bell","label":"the great bell"}`)
	comment.Secret = "a password"
	require.NoError(t, ada.Limit(t.Context(), comment))
	status, page, _ = wren.get(sheet + "/suggest")
	assert.Equal(t, 404, status, "a password was set")
	assert.NotContains(t, page, "great bell")
	comment.Secret = ""
	require.NoError(t, ada.Limit(t.Context(), comment))
	status, _, _ = wren.get(sheet + "/suggest")
	assert.Equal(t, 200, status)
	require.NoError(t, ada.Revoke(t.Context(), "m", comment.ID))
	status, _, _ = wren.send(sheet+"/suggest", "reason", "", "name", "Wren")
	assert.Equal(t, 404, status, "it was revoked")
	status, _, to = wren.send(sheet+"/suggest", "do", "drop")
	assert.Equal(t, 303, status)
	assert.Equal(t, "/", to)
	all, err = ada.Suggestions(t.Context(), "m")
	require.NoError(t, err)
	assert.Len(t, all, 2)
}

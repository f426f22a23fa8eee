package web_test

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
	"mevrin/web"
	"mevrin/workspace"
)

// limited is the access of somebody who may do some things with every map.
type limited struct {
	*store.Store
	may web.Capabilities
}

func (l limited) Ask(*http.Request, cm.ID) (workspace.Person, web.Capabilities, error) {
	return workspace.Person{ID: "somebody", Scope: store.Everything}, l.may, nil
}

func (l limited) Redeem(r *http.Request, token string) (store.Grant, error) {
	return l.Store.Redeem(r.Context(), token)
}

// Every address asks what it needs, of everybody, and tells those who may not nothing
// of the map: the author, people who may do one thing or nothing, bearers of links of
// each kind, of closed ones and of none.
func TestEveryAddressAsksWhoMay(t *testing.T) {
	require.ErrorContains(t, web.RegisterWithout(), "/open-to-all does not say")
	s := serve(t, t.TempDir())
	_, body := s.post("/maps/m/entries", entry("g", "w", 1, `[{"do":"add-route","id":"r","title":"the way"},{"do":"add-stop","id":"s","route":"r","refs":[{"kind":"concept","id":"c00001"}]}]`))
	require.Contains(t, body, `"revision":2`)
	token := func(id string, allows store.Allows, route cm.ID) string {
		g, err := s.store.All().AddGrant(t.Context(), store.Grant{ID: id, MapID: "m", Allows: allows, Route: route})
		require.NoError(t, err)
		return g.Token
	}
	hand, walk, closed := token("h", store.AllowsHand, ""), token("w", store.AllowsWalk, "r"), token("c", store.AllowsHand, "")
	picture := token("p", store.AllowsPicture, "")
	require.NoError(t, s.store.All().Revoke(context.Background(), "m", "c"))

	params := regexp.MustCompile(`:[a-z]+`)
	values := map[string]string{":map": "m", ":route": "r", ":file": strings.Repeat("0", 64), ":grant": "none", ":visitor": "v0000000000000000", ":item": "none", ":set": "none", ":form": "bib", ":name": "map.svg", ":folder": "none", ":starter": "how"}
	ask := func(app *httptest.Server, client *http.Client, a web.Addressed, token string) (int, string) {
		path := params.ReplaceAllStringFunc(a.Path, func(name string) string {
			if name == ":token" {
				return token
			}
			return values[name]
		})
		request, err := http.NewRequest(a.Method, app.URL+path, strings.NewReader(""))
		require.NoError(t, err)
		response, err := client.Do(request)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		raw, err := io.ReadAll(io.LimitReader(response.Body, 1<<20))
		require.NoError(t, err)
		return response.StatusCode, string(raw)
	}
	destroys := map[string]bool{"/maps/:map/discard": true, "/maps/:map/destroy": true, "/maps/:map/copy": true, "/maps": true}
	for name, may := range map[string]web.Capabilities{
		"author": web.AuthorCan, "stranger": {}, "looks": {web.CanLook: true}, "adds": {web.CanAdd: true}, "edits": {web.CanEdit: true}, "shares": {web.CanShare: true}, "keeps": {web.CanKeep: true}, "walks": {web.CanWalk: true}, "guides": {web.CanGuide: true},
	} {
		app := httptest.NewServer(handler(t, s.config(limited{s.store, may})))
		for _, a := range web.Addresses() {
			if strings.Contains(a.Path, ":token") || strings.Contains(a.Path, ":code") || destroys[a.Path] && may[a.Needs] {
				continue
			}
			client := http.DefaultClient
			if strings.HasSuffix(a.Path, "/picture-links") { // what it leads back to asks for more
				client = &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
			}
			status, body := ask(app, client, a, "")
			where := fmt.Sprintf("%s: %s %s", name, a.Method, a.Path)
			if a.Needs == web.CanOpen || may[a.Needs] {
				assert.NotEqual(t, http.StatusForbidden, status, where)
				assert.Less(t, status, 500, where)
			} else {
				assert.Equal(t, http.StatusForbidden, status, where)
				assert.NotRegexp(t, `bell \d|the way`, body, where)
			}
		}
		app.Close()
	}

	app := httptest.NewServer(handler(t, s.config(limited{s.store, web.Capabilities{}})))
	defer app.Close()
	ann := (&served{Server: app, t: t, store: s.store, client: http.DefaultClient}).bearer("/hand/" + hand)
	for _, a := range web.Addresses() {
		of, bearers := "", map[string]string{"hand": hand, "walk": walk, "picture": picture, "closed": closed, "none": strings.Repeat("x", 22)}
		switch {
		case strings.HasPrefix(a.Path, "/hand/"):
			of = "hand"
		case strings.HasPrefix(a.Path, "/walk/"):
			of = "walk"
		case strings.HasPrefix(a.Path, "/picture/"):
			of = "picture"
		default:
			continue
		}
		for name, token := range bearers {
			where := fmt.Sprintf("%s: %s %s", name, a.Method, a.Path)
			status, body := ask(app, ann.client, a, token)
			if name == of {
				if !strings.Contains(a.Path, ":file") && !strings.HasSuffix(a.Path, "/note") {
					assert.NotContains(t, []int{403, 404}, status, where)
				}
				assert.Less(t, status, 500, where)
				continue
			}
			assert.Equal(t, http.StatusNotFound, status, where)
			assert.NotRegexp(t, `bell \d|the way`, body, where)
		}
		// Whoever has the link and never opened its page is nobody, and adds nothing.
		if a.Needs == web.CanAdd && a.Method == "POST" {
			status, _ := ask(app, &http.Client{}, a, hand)
			assert.Equal(t, http.StatusForbidden, status, a.Path)
		}
	}
}

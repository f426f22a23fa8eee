package web_test

import (
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/store/storetest"
	"mevrin/web"
	"mevrin/workspace"
)

// someone has a browser of their own, in which they may be signed in.
type someone struct {
	t      *testing.T
	base   string
	cookie string
}

// ask asks for an address, follows nothing, and gives the status, the body and where it leads on.
func (s *someone) ask(method, path, form string) (int, string, string) {
	s.t.Helper()
	request, err := http.NewRequest(method, s.base+path, strings.NewReader(form))
	require.NoError(s.t, err)
	if method == http.MethodPost && form != "" {
		request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	request.Header.Set("Accept", "text/html")
	if s.cookie != "" {
		request.Header.Set("Cookie", s.cookie)
	}
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	response, err := client.Do(request)
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(io.LimitReader(response.Body, 1<<20))
	require.NoError(s.t, err)
	for _, c := range response.Cookies() {
		if c.Name == "mevrin-person" {
			if s.cookie = ""; c.MaxAge >= 0 {
				s.cookie = c.Name + "=" + c.Value
			}
			assert.True(s.t, c.HttpOnly && c.SameSite == http.SameSiteLaxMode)
		}
	}
	return response.StatusCode, string(raw), response.Header.Get("Location")
}

// shared serves a folder to people with accounts.
func shared(t *testing.T) (*store.Store, *workspace.Accounts, func() *someone) {
	folder := storetest.Open(t)
	accounts := workspace.NewAccounts(folder)
	server := httptest.NewServer(handler(t, web.Config{Store: folder, Access: web.ByAccount{Store: folder}, Accounts: accounts, Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}))
	t.Cleanup(server.Close)
	return folder, accounts, func() *someone { return &someone{t: t, base: server.URL} }
}

// Every address answers everybody as the table of rights says: those who are not signed in are sent to where
// they can, a map on which somebody has no right is not there for them, and nothing of it leaves.
func TestEveryAddressHoldsToTheRights(t *testing.T) {
	folder, _, browser := shared(t)
	ctx := t.Context()
	ids := map[string]people.Role{people.FirstOwner: people.RoleOwner, "mine": people.RoleAuthor, "looks": people.RoleLearner, "copies": people.RoleLearner, "judges": people.RoleAuthor, "comments": people.RoleLearner, "guides": people.RoleAuthor, "edits": people.RoleAuthor, "owns": people.RoleAuthor, "other": people.RoleAuthor}
	everybody := map[string]*someone{"nobody": browser()}
	for id, role := range ids {
		require.NoError(t, folder.AddPerson(ctx, people.Person{ID: id, Name: id, Mail: id + "@hollin.example", Role: role}, "none"))
		token, err := folder.SignIn(ctx, id, "")
		require.NoError(t, err)
		everybody[id] = browser()
		everybody[id].cookie = "mevrin-person=" + token
	}
	mine := folder.For(store.Scope{Person: "mine"})
	require.NoError(t, mine.Import(ctx, "m", "en", [][]edit.Operation{{&edit.Ask{Question: "What is the secret of the bell?"}, &edit.AddConcept{ID: "bell", Label: "secret bell"},
		&edit.AddRoute{ID: "r", Title: "secret way"}, &edit.AddStop{ID: "s", Route: "r", Refs: []cm.Key{{Kind: cm.EntityConcept, ID: "bell"}}}}}))
	rights := map[string]people.Right{"mine": people.RightOwn, "looks": people.RightLook, "copies": people.RightCopy, "judges": people.RightJudge, "comments": people.RightComment, "guides": people.RightGuide, "edits": people.RightEdit, "owns": people.RightOwn}
	for id, right := range rights {
		if id != "mine" {
			require.NoError(t, mine.ShareWith(ctx, "m", id, right))
		}
	}
	params := regexp.MustCompile(`:[a-z]+`)
	values := map[string]string{":map": "m", ":route": "r", ":file": strings.Repeat("0", 64), ":grant": "none", ":visitor": "v0000000000000000", ":item": "none", ":set": "none", ":form": "bib", ":name": "map.svg", ":ticket": "none", ":page": "none", ":part": "all", ":folder": "none", ":starter": "how"}
	for _, a := range web.Addresses() {
		if strings.Contains(a.Path, ":token") || strings.Contains(a.Path, ":code") || a.Needs == web.CanOpen {
			continue
		}
		path := params.ReplaceAllStringFunc(a.Path, func(name string) string { return values[name] })
		ofMap := strings.HasPrefix(a.Path, "/maps/:map")
		for id, who := range everybody {
			allowed := web.RoleMay(ids[id], a.Needs)
			if ofMap {
				allowed = web.RightMay(rights[id], a.Needs)
			}
			if allowed && (a.Method == "POST" || strings.HasSuffix(a.Path, "/live")) {
				continue // what they may do is done in other tests
			}
			where := fmt.Sprintf("%s: %s %s", id, a.Method, a.Path)
			status, body, to := who.ask(a.Method, path, "")
			switch {
			case id == "nobody" && a.Method == "GET":
				assert.Equal(t, http.StatusSeeOther, status, where)
				assert.True(t, strings.HasPrefix(to, "/sign-in?to="), where)
			case id == "nobody":
				assert.Equal(t, http.StatusUnauthorized, status, where)
			case allowed:
				assert.NotContains(t, []int{401, 403}, status, where)
				assert.Less(t, status, 500, where)
				continue
			case ofMap && rights[id] == people.RightNone:
				assert.Equal(t, http.StatusNotFound, status, where)
			default:
				assert.Equal(t, http.StatusForbidden, status, where)
			}
			assert.NotContains(t, body, "secret", where)
		}
	}
	// The list of maps holds those of one's own and those that are shared, and nobody else's.
	for id, who := range everybody {
		if id != "nobody" {
			_, body, _ := who.ask("GET", "/", "")
			assert.Equal(t, id == "mine", strings.Contains(body, "secret of the bell"), id)
			_, body, _ = who.ask("GET", "/shared", "")
			assert.Equal(t, id != "mine" && rights[id] != people.RightNone, strings.Contains(body, "secret of the bell"), id)
		}
	}
}

// docs/rights.md is what the program does; MEVRIN_WRITE=1 writes it.
func TestTheTableOfRights(t *testing.T) {
	const file = "../docs/rights.md"
	want := "# Who may ask for what\n\nMade from the addresses of the program and its table of rights (`MEVRIN_WRITE=1 go test ./web -run TestTheTableOfRights`); `TestEveryAddressHoldsToTheRights` asks each address as each of these people. Where several do not share a Mevrin (`--alone`), its one author may do everything. A map on which somebody has no right is not there for them.\n\n" + web.RightsTable()
	if os.Getenv("MEVRIN_WRITE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(want), 0o644))
	}
	for _, line := range strings.Split(want, "\n") {
		if strings.HasPrefix(line, "| `") {
			assert.Contains(t, line, "●", "an address for which nobody may ask")
		}
	}
	is, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.True(t, want == string(is), "docs/rights.md is not current")
}

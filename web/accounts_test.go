package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/people"
)

const good = "bronze rope lantern"

func (s *someone) post(path string, fields ...string) (int, string, string) {
	s.t.Helper()
	form := url.Values{}
	for i := 0; i < len(fields); i += 2 {
		form.Set(fields[i], fields[i+1])
	}
	return s.ask("POST", path, form.Encode())
}

// A Mevrin without people gets its owner from whoever started it, who invites others; each signs in by a
// password of their own, changes it, and is signed out everywhere.
func TestPeopleComeSignInAndGo(t *testing.T) {
	folder, accounts, browser := shared(t)
	ada := browser()
	status, page, _ := ada.ask("GET", "/sign-in", "")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "Nobody has an account here yet")
	status, _, _ = ada.post("/first/wrong", "name", "Eve", "mail", "eve@hollin.example", "password", good)
	assert.Equal(t, 404, status)
	first := "/first/" + accounts.Code
	status, page, _ = ada.post(first, "name", "Ada", "mail", "ada@hollin.example", "password", "password123")
	assert.Equal(t, 422, status)
	assert.Contains(t, page, `value="ada@hollin.example"`, "what was filled in stays")
	assert.NotContains(t, page, "password123")
	status, _, to := ada.post(first, "name", "Ada", "mail", "Ada@Hollin.example", "password", good)
	require.Equal(t, 303, status)
	assert.Equal(t, "/", to)
	status, _, _ = browser().post(first, "name", "Eve", "mail", "eve@hollin.example", "password", good)
	assert.Equal(t, 404, status, "there is one first owner")

	// An invitation works once, for the address to which it went.
	_, page, _ = ada.post("/people", "what", "invite", "mail", "ben@hollin.example", "role", "author")
	join := regexp.MustCompile(`/join/[A-Z0-9]+`).FindString(page)
	require.NotEmpty(t, join)
	ben := browser()
	status, page, _ = ben.ask("GET", join, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "ben@hollin.example")
	status, _, _ = ben.post(strings.Replace(join, "/join/", "/password/", 1), "password", good)
	assert.Equal(t, 404, status, "an invitation sets no password of anybody")
	status, _, _ = ben.post(join, "name", "Ben", "password", good+" ben")
	require.Equal(t, 303, status)
	status, _, _ = browser().post(join, "name", "Eve", "password", good)
	assert.Equal(t, 404, status)
	status, _, _ = ben.post("/people", "what", "role", "person", people.FirstOwner, "role", "learner")
	assert.Equal(t, 403, status)
	status, page, _ = ada.post("/people", "what", "role", "person", people.FirstOwner, "role", "learner")
	assert.Equal(t, 422, status, "somebody has to be the owner")
	assert.Contains(t, page, "Somebody has to be the owner")

	// Signing in leads to where one wanted to go, on this site alone, and tells nothing of other accounts.
	again := browser()
	_, unknown, _ := again.post("/sign-in", "mail", "eve@hollin.example", "password", good)
	_, wrong, _ := again.post("/sign-in", "mail", "ben@hollin.example", "password", good)
	strip := func(page string) string {
		return strings.NewReplacer("eve@hollin.example", "", "ben@hollin.example", "").Replace(page)
	}
	assert.Equal(t, strip(unknown), strip(wrong))
	assert.Contains(t, wrong, "is not right")
	for to, want := range map[string]string{"/maps/m?x=1": "/maps/m?x=1", "//elsewhere.example": "/", "https://elsewhere.example": "/", `/\elsewhere.example`: "/", "": "/"} {
		status, _, leads := browser().post("/sign-in", "mail", "BEN@hollin.example", "password", good+" ben", "to", to)
		assert.Equal(t, 303, status)
		assert.Equal(t, want, leads, to)
	}
	again.post("/sign-in", "mail", "ben@hollin.example", "password", good+" ben")
	require.NotEmpty(t, again.cookie)

	// Another password signs every other browser out; nothing else knows the old one.
	status, _, _ = ben.post("/account", "what", "password", "now", "wrong", "next", "kettle thunder orchard")
	assert.Equal(t, 422, status)
	status, _, _ = ben.post("/account", "what", "password", "now", good+" ben", "next", "kettle thunder orchard")
	assert.Equal(t, 303, status)
	status, _, _ = ben.ask("GET", "/account", "")
	assert.Equal(t, 200, status)
	status, _, _ = again.ask("GET", "/account", "")
	assert.Equal(t, 303, status)

	// A forgotten one is replaced by a letter that is written for those who have an account, and told to nobody.
	_, known, _ := again.post("/forgot", "mail", "ben@hollin.example")
	_, other, _ := again.post("/forgot", "mail", "eve@hollin.example")
	assert.Equal(t, strip(known), strip(other))
	var link string
	require.Eventually(t, func() bool {
		letters, err := folder.Letters(t.Context())
		require.NoError(t, err)
		for _, l := range letters {
			assert.NotEqual(t, "eve@hollin.example", l.Recipient)
			if found := regexp.MustCompile(`/password/[A-Z0-9]+`).FindString(l.Body); found != "" {
				link = found
			}
		}
		return link != ""
	}, 20*time.Second, 20*time.Millisecond)
	status, _, _ = again.post(link, "password", "ben@hollin.example")
	assert.Equal(t, 422, status)
	status, _, _ = again.post(link, "password", "marble window sparrow")
	assert.Equal(t, 303, status)
	status, _, _ = browser().post(link, "password", "marble window sparrow")
	assert.Equal(t, 404, status)
	status, _, _ = ben.ask("GET", "/account", "")
	assert.Equal(t, 303, status, "every browser was signed out")

	// Whoever leaves loses their sign-ins; their maps stay, with whoever let them go.
	status, _, at := again.post("/maps", "question", "What is bronze?", "begin", "concept")
	require.Equal(t, 303, status)
	all, err := folder.People(t.Context())
	require.NoError(t, err)
	id := all[1].ID
	status, _, _ = ada.ask("GET", at, "")
	assert.Equal(t, 404, status)
	status, _, _ = ada.post("/people", "what", "remove", "person", id)
	assert.Equal(t, 303, status)
	status, _, _ = again.ask("GET", "/", "")
	assert.Equal(t, 303, status)
	status, _, _ = ada.ask("GET", at, "")
	assert.Equal(t, 200, status)
	status, _, _ = ada.post("/sign-out")
	assert.Equal(t, http.StatusSeeOther, status)
	assert.Empty(t, ada.cookie)
}

// Who tries passwords has to wait soon, from wherever they come.
func TestPasswordsCannotBeTriedForLong(t *testing.T) {
	folder, _, browser := shared(t)
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: "a", Name: "Ada", Mail: "ada@hollin.example", Role: people.RoleOwner}, "none"))
	for range 30 {
		if status, _, _ := browser().post("/sign-in", "mail", "ada@hollin.example", "password", "x"); status == http.StatusTooManyRequests {
			return
		}
	}
	t.Fatal("nobody was stopped")
}

// A map is shared, altered by whom it is shared with, and closed to them again, also while they look.
func TestAMapIsSharedWithSomebody(t *testing.T) {
	folder, _, browser := shared(t)
	sign := func(id string, role people.Role) *someone {
		require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: id, Name: strings.ToUpper(id), Mail: id + "@hollin.example", Role: role}, "none"))
		token, err := folder.SignIn(t.Context(), id, "")
		require.NoError(t, err)
		b := browser()
		b.cookie = "mevrin-person=" + token
		return b
	}
	ada, ben := sign(people.FirstOwner, people.RoleOwner), sign("ben", people.RoleAuthor)
	_, _, at := ada.post("/maps", "question", "Why does it hum?", "begin", "concept")
	_, page, _ := ada.ask("GET", at+"/sharing", "")
	assert.Contains(t, page, "Nobody but you.")
	status, _, _ := ada.post(at+"/sharing", "person", "ben", "right", "everything")
	assert.Equal(t, 422, status)
	status, _, _ = ada.post(at+"/sharing", "person", people.FirstOwner, "right", "look")
	assert.Equal(t, 422, status, "it is theirs")
	status, _, _ = ada.post(at+"/sharing", "person", "ben", "right", "look")
	assert.Equal(t, 303, status)
	_, page, _ = ben.ask("GET", "/shared", "")
	assert.Contains(t, page, "shared by AUTHOR")
	assert.NotContains(t, page, at+"/discard")
	status, _, to := ben.ask("GET", at, "")
	assert.Equal(t, 303, status)
	assert.Equal(t, at+"/walk/as-read", to)
	status, page, _ = ben.ask("GET", to, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "Why does it hum?")
	assert.NotContains(t, page, at+"/export", "who may look takes nothing out")
	status, _, _ = ben.post(at + "/copy")
	assert.Equal(t, 403, status)
	status, _, _ = ada.post(at+"/sharing", "person", "ben", "right", "copy")
	assert.Equal(t, 303, status)
	_, page, _ = ben.ask("GET", to, "")
	assert.Contains(t, page, at+"/export?use=teach", "who may copy may take it out")
	status, _, _ = ben.post(at + "/copy")
	assert.Equal(t, 303, status)
	_, page, _ = ben.ask("GET", "/", "")
	assert.Equal(t, 1, strings.Count(page, `class="map-card`), "the copy is Ben's own")
	_, page, _ = ada.ask("GET", "/", "")
	assert.Equal(t, 1, strings.Count(page, `class="map-card`))

	// Learners share what is theirs, and see nobody's mail address.
	wren := sign("wren", people.RoleLearner)
	_, _, own := wren.post("/maps", "question", "What is tin?", "begin", "concept")
	_, page, _ = wren.ask("GET", own+"/sharing", "")
	assert.Contains(t, page, "BEN")
	assert.NotContains(t, page, "@hollin.example")
	_, page, _ = ada.ask("GET", at+"/sharing", "")
	assert.Contains(t, page, "ben@hollin.example")

	status, _, _ = ada.post(at+"/sharing", "person", "ben", "right", "edit")
	assert.Equal(t, 303, status)
	status, _, _ = ben.ask("GET", at, "")
	assert.Equal(t, 200, status)
	status, _, _ = ben.post(at+"/sharing", "person", "ben", "right", "own")
	assert.Equal(t, 403, status, "nobody gives themselves more")
	status, _, _ = ada.post(at+"/sharing", "person", "ben", "right", "")
	assert.Equal(t, 303, status)
	status, _, _ = ben.ask("GET", at, "")
	assert.Equal(t, 404, status)
}

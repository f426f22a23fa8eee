package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A link for the plain hand opens its map and nothing else: what takes anything
// away is refused, a link to a walk is none, and neither is one that was closed
// or whose map is in the bin.
func TestALinkForThePlainHandAllowsWhatIsGentle(t *testing.T) {
	s := serve(t, t.TempDir())
	_, _, page := s.form("/maps/m/hand-links", nil)
	token := regexp.MustCompile(`data-token="([^"]{22})"`).FindStringSubmatch(page)[1]
	grant := regexp.MustCompile(`data-grant="([^"]+)"`).FindStringSubmatch(page)[1]
	hand := "/hand/" + token

	response, err := http.Get(s.URL + hand)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, []string{"no-referrer", "no-store"}, []string{response.Header.Get("Referrer-Policy"), response.Header.Get("Cache-Control")})
	require.Len(t, response.Cookies(), 1)
	cookie := response.Cookies()[0]
	assert.True(t, cookie.HttpOnly && cookie.Path == hand && cookie.SameSite == http.SameSiteLaxMode, "who it is, is told to this link alone")
	s.jar(cookie)

	status, body := s.post(hand+"/entries", entry("g1", "w", 1, `[{"do":"add-concept","id":"new","label":"a rope","at":{"x":0,"y":0}}]`))
	assert.Equal(t, 200, status, body)
	for _, ops := range []string{`[{"do":"remove","concepts":["new"]}]`, `[{"do":"add-concept","id":"x2","label":"y","at":{"x":0,"y":0}},{"do":"merge-concepts","keep":"new","gone":"x2"}]`,
		`[{"do":"set-language","language":"de"}]`, `[{"do":"ask","question":"Who?"}]`, `[{"do":"set-hand","hand":"plain"}]`, `[{"do":"remove-kind","kind":"k"}]`} {
		status, body := s.post(hand+"/entries", entry("refused", "w", 1, ops))
		assert.Equal(t, 422, status, ops)
		assert.Contains(t, body, "simple tools", ops)
	}
	for _, path := range []string{"/margin", "/column", "/document", "/drawing", "/find?q=a"} {
		status, _ := s.get(hand + path)
		assert.Equal(t, 404, status, path)
	}
	status, body = s.get(hand + "/aloud?chosen=c-new")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, `"a rope."`)

	_, body = s.post("/maps/m/entries", entry("g2", "w", 2, `[{"do":"add-route","id":"r","title":"the way"}]`))
	_, _, page = s.form("/maps/m/grants", url.Values{"route": {"r"}})
	walk := regexp.MustCompile(`data-token="([^"]{22})"`).FindStringSubmatch(page)
	require.NotNil(t, walk, body)
	assert.NotContains(t, page, token, "links of the one sort are not listed among the other")
	for _, path := range []string{"/hand/" + walk[1], "/walk/" + token, "/hand/nothing"} {
		status, _ := s.get(path)
		assert.Equal(t, 404, status, path)
	}
	opens := func() int { status, _ := s.get(hand); return status }
	s.form("/maps/m/discard", nil)
	assert.Equal(t, 404, opens())
	s.form("/maps/m/restore", nil)
	assert.Equal(t, 200, opens())
	s.form("/maps/m/grants/"+grant+"/close", url.Values{"allows": {"hand"}})
	assert.Equal(t, 404, opens())
	status, _ = s.post(hand+"/entries", entry("g3", "w", 1, `[]`))
	assert.Equal(t, 404, status)
}

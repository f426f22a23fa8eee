package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Codes cannot be guessed: wrong ones are counted, and a room that is over opens to nobody.
func TestARoomOpensToItsCodeAlone(t *testing.T) {
	s := serve(t, t.TempDir())
	_, _ = s.post("/maps/m/entries", entry("g", "w", 1, `[{"do":"add-route","id":"r","title":"the way"},{"do":"add-stop","id":"s","route":"r","refs":[{"kind":"concept","id":"c00001"}]},{"do":"write-stop","stop":"s","part":"guideNotes","words":"ask Ada first"}]`))
	status, body := s.get("/maps/m/present")
	require.Equal(t, http.StatusOK, status)
	at := strings.Index(body, `data-code="`) + len(`data-code="`)
	code := body[at : at+6]
	enter := func(code string) (int, string) {
		response, err := s.client.PostForm(s.URL+"/room", url.Values{"code": {code}})
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		return response.StatusCode, response.Request.URL.Path
	}
	status, path := enter(strings.ToLower(code[:3] + " " + code[3:]))
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "/room/"+code, path)
	_, body = s.get("/room/" + code)
	assert.NotContains(t, body, "ask Ada")
	for _, deed := range []string{`{"deed":"next"}`, `{"deed":"concept","id":"c00002"}`, `{"deed":"return"}`} {
		status, _ = s.post("/maps/m/desk/deeds", deed)
		assert.Equal(t, http.StatusNoContent, status, deed)
	}
	for _, deed := range []string{`{"deed":"dance"}`, `{"deed":"concept","id":"gong"}`, `{"deed":1}`, `nonsense`, `{"deed":"next","more":1}`} {
		status, body = s.post("/maps/m/desk/deeds", deed)
		assert.Equal(t, http.StatusUnprocessableEntity, status, deed)
		assert.Contains(t, body, `"error"`)
	}
	status, _ = s.post("/maps/m/desk/end", "")
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = s.get("/room/" + code)
	assert.Equal(t, http.StatusNotFound, status, "it is over")
	status, _ = s.post("/maps/m/desk/deeds", `{"deed":"next"}`)
	assert.Equal(t, http.StatusNotFound, status)
	for range 10 {
		status, _ = enter("BCDFGH")
	}
	assert.Equal(t, http.StatusTooManyRequests, status)
}

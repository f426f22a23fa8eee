package web_test

import (
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is asked of talk, notes, cards and colours by an address that means nothing
// gets words, and nothing of what it said.
func TestTalkNotesAndColoursAreAskedFor(t *testing.T) {
	s := serve(t, t.TempDir())
	post := func(id string, ops string) (int, string) { return s.post("/maps/m/entries", entry(id, "w", 1, ops)) }
	status, body := post("g1", `[{"do":"add-concept","id":"rim","label":"the <rim>","at":{"x":0,"y":0}},{"do":"set-note","on":{"kind":"concept","id":"rim"},"note":"thick <script>alert(1)</script> **here**"},
		{"do":"add-comment","id":"c1","on":{"kind":"concept","id":"rim"},"name":"<i>Ada","words":"<b>Which</b> rim?"},{"do":"vote","concept":"rim","for":true},{"do":"add-route","id":"r"}]`)
	require.Equal(t, 200, status, body)

	status, body = s.get("/maps/m/talk?on=c-rim")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "&lt;b&gt;Which&lt;/b&gt; rim?")
	assert.Contains(t, body, "&lt;i&gt;Ada")
	for _, on := range []string{"", "c-gone", "l-rim", "m-other", "r-", `c-"><script>`, "x"} {
		status, body = s.get("/maps/m/talk?on=" + url.QueryEscape(on))
		assert.Equal(t, 200, status, on)
		assert.Contains(t, body, "About the whole map", on)
		assert.NotContains(t, body, "<script>", on)
		assert.NotContains(t, body, "Which", on)
		status, body = s.get("/maps/m/note?on=" + url.QueryEscape(on))
		assert.Equal(t, 404, status, on)
		assert.Contains(t, body, "no note on it any more", on)
	}
	status, body = s.get("/maps/m/note?on=c-rim")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "<strong>here</strong>")
	assert.NotContains(t, body, "<script")
	status, body = s.get("/maps/m/cards?route=r")
	assert.Equal(t, []any{200, ""}, []any{status, body}, "a route without stops has no cards")
	status, body = s.get("/maps/m/cards?route=gone")
	assert.Equal(t, 404, status)
	assert.Contains(t, body, "no longer there")

	// Who speaks is told by the server: the page cannot.
	for _, forged := range []string{`"by":"ada"`, `"at":"2026-01-01T00:00:00.000Z"`, `"speaker":{"ID":"ada"}`} {
		status, body = post("forged", `[{"do":"add-comment","id":"c2","on":{"kind":"concept","id":"rim"},"words":"mine",`+forged+`}]`)
		assert.Equal(t, 422, status, forged)
		assert.Contains(t, body, "did not arrive whole", forged)
	}
	_, document := s.get("/maps/m/document")
	by := regexp.MustCompile(`"by": "(p[0-9a-f]{16})"`).FindStringSubmatch(document)
	require.NotNil(t, by, document)
	assert.Contains(t, document, `"`+by[1]+`": true`, "the vote is that person's")
	assert.NotContains(t, document, `"author"`, "as the log knows them, nobody is named")

	// Colours: six digits each, or words that say why not.
	for query, want := range map[string]int{
		"paper=%23ffe8d0&slip=%23ffffff&ink=%23998877": 200, "paper=%23ffffff&slip=%23000000&ink=%23888888": 422,
		"paper=red&slip=%23ffffff&ink=%23000000": 422, "paper=%23ffffff%7D*%7Bcolor:red&slip=%23ffffff&ink=%23000000": 422, "paper=": 422,
	} {
		status, body = s.get("/maps/m/look.css?" + query)
		assert.Equal(t, want, status, query)
		assert.NotContains(t, body, "red", query)
	}
	status, body = s.get("/maps/m/look.css")
	assert.Equal(t, []any{200, ""}, []any{status, body}, "a map without colours of its own has no sheet")
	for ops, words := range map[string]string{`[{"do":"set-look","own":{"paper":"red","slip":"#ffffff","ink":"#000000"}}]`: "six digits", `[{"do":"set-look","dress":"own"}]`: "no such look"} {
		status, body = post("own", ops)
		assert.Equal(t, 422, status, ops)
		assert.Contains(t, body, words)
	}
}

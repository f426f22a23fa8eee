package web_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// bells makes a small map by entries and gives a function that reads a part of
// its page, spaces evened out.
func bells(t *testing.T) (*served, func(path string) string) {
	s := serve(t, t.TempDir())
	_, err := s.store.All().Create(t.Context(), "b", "en")
	require.NoError(t, err)
	status, answer := s.post("/maps/b/entries", entry("g1", "w", 0, `[
		{"do":"add-concept","id":"bell","label":"the <i>bell</i>","at":{"x":0,"y":0}},{"do":"set-focus","concept":"bell"},
		{"do":"add-concept","id":"rim","label":"the rim","at":{"x":0,"y":200}},{"do":"add-concept","id":"ear","label":"the ear","at":{"x":300,"y":200}},
		{"do":"add-concept","id":"lone","label":"a lone idea","at":{"x":300,"y":0}},
		{"do":"add-link","id":"has","phrase":"has","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"rim"}]},
		{"do":"add-link","id":"open","from":[{"id":"f","concept":"ear"}],"to":[{"id":"t","concept":"bell"}],"heads":"both"}]`))
	require.Equal(t, 200, status, answer)
	return s, func(path string) string {
		status, body := s.get("/maps/b/" + path)
		require.Equal(t, 200, status)
		return strings.Join(strings.Fields(body), " ")
	}
}

func TestTheMarginSpeaksOfWhatIsChosen(t *testing.T) {
	_, read := bells(t)
	nothing := read("margin")
	assert.Contains(t, nothing, "Nothing selected")
	assert.Contains(t, nothing, "<dt>concepts</dt><dd>4</dd>")
	assert.Contains(t, nothing, "<dt>loose ideas</dt><dd>1</dd>")
	for _, finding := range []string{"The map has no focus question", "A link has no words", "An idea is not linked yet"} {
		assert.Contains(t, read("margin?phase=check"), finding)
	}
	check := read("margin?phase=check")
	assert.Contains(t, check, `data-found="4"`)
	assert.Contains(t, check, `data-ask="words" data-element="l-open"`)
	assert.Contains(t, check, `data-ask="sentence" data-element="c-lone" data-steps="" data-from="a lone idea"`)
	assert.Contains(t, read("margin?phase=connect"), "Ideas that wait for a link")
	assert.Contains(t, read("margin?phase=guide&route=gone&stop=gone"), "New route")
	concept := read("margin?chosen=c-bell")
	assert.Contains(t, concept, "The focus concept, level 1")
	assert.Contains(t, concept, "the &lt;i&gt;bell&lt;/i&gt;")
	assert.NotContains(t, concept, "<i>")
	assert.NotContains(t, concept, "Make focus")
	assert.Contains(t, read("margin?chosen=c-rim"), "Level 2")
	assert.Contains(t, read("margin?chosen=c-lone"), "Loose idea")
	link := read("margin?chosen=l-open")
	assert.Contains(t, link, "it has no words yet")
	assert.Contains(t, link, `data-do="heads-both" aria-pressed="true"`)
	assert.Equal(t, 2, strings.Count(link, "<li><button type=\"button\" data-do=\"show\" data-element=\"l-open\">"), "both ways are said")
	several := read("margin?chosen=c-rim,c-ear")
	assert.Contains(t, several, "2 selected")
	assert.Contains(t, several, "Link first to second")
	for _, nonsense := range []string{"margin?chosen=x", "margin?chosen=c-gone,l-gone", "margin?chosen=,,,", "margin?chosen=c-%3Cscript%3E"} {
		assert.Contains(t, read(nonsense), "Nothing selected")
		assert.NotContains(t, read(nonsense), "<script>")
	}
}

func TestTheColumnIsTheMapAsText(t *testing.T) {
	_, read := bells(t)
	text := read("column")
	outline, rest, _ := strings.Cut(text, `id="propositions"`)
	propositions, loose, _ := strings.Cut(rest, `id="loose"`)
	assert.Contains(t, outline, `data-depth="1"><div class="row depth-1"><button type="button" class="twist"`)
	assert.Contains(t, outline, `data-key="c-rim" data-concept="rim" data-parent="bell" data-depth="2"`)
	assert.NotContains(t, outline, "a lone idea")
	assert.Contains(t, outline, "no words yet")
	assert.Equal(t, 3, strings.Count(propositions, "<li "), "one, and one each way")
	assert.Contains(t, propositions, `data-key="open/f/t/back"`)
	assert.Contains(t, loose, "a lone idea")
	assert.NotContains(t, text, "<i>")
}

func TestPagesOfWhatIsNotThere(t *testing.T) {
	s, _ := bells(t)
	for _, path := range []string{"/maps/none", "/maps/none/margin", "/maps/none/column", "/maps/none/changes?since=0", "/nothing", "/assets/none.js"} {
		status, _ := s.get(path)
		assert.Equal(t, 404, status, path)
	}
	status, body := s.get("/maps/b/changes?since=-1")
	assert.Equal(t, 400, status)
	assert.Contains(t, body, "no revision of this map")
}

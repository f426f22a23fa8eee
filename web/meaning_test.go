package web_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
)

// do sends operations and gives the answer.
func (s *served) do(id string, seen int, ops ...any) map[string]any {
	raw, err := json.Marshal(ops)
	require.NoError(s.t, err)
	status, body := s.post("/maps/m/entries", entry(id, "w", seen, string(raw)))
	require.Equal(s.t, http.StatusOK, status, body)
	var answer map[string]any
	require.NoError(s.t, json.Unmarshal([]byte(body), &answer))
	return answer
}

type op = map[string]any

// Whatever people call kinds, tags, regions, filters, sources and cells, it is
// words on the page and in what is sent to it.
func TestNoNameIsMarkup(t *testing.T) {
	s := serve(t, t.TempDir())
	hostile := `"><img src=x onerror=alert(1)>'{{.}}`
	on := op{"kind": "concept", "id": "c00001"}
	answer := s.do("h", 1,
		op{"do": "add-kind", "id": "k1", "name": hostile, "meaning": hostile, "icon": "bell"}, op{"do": "add-kind", "id": "k2", "name": hostile, "links": true},
		op{"do": "assign-kind", "concepts": []string{"c00001"}, "kind": "k1"}, op{"do": "add-tag", "id": "t1", "name": hostile}, op{"do": "assign-tag", "concepts": []string{"c00001"}, "tag": "t1", "on": true},
		op{"do": "add-region", "id": "r1", "title": hostile, "concepts": []string{"c00001"}}, op{"do": "set-note", "on": op{"kind": "region", "id": "r1"}, "note": hostile},
		op{"do": "save-filter", "id": "f1", "name": hostile, "match": "all", "conditions": []op{{"about": "words", "value": hostile}}},
		op{"do": "attach-source", "on": on, "id": "s1", "cite": op{"title": hostile, "author": hostile}, "title": hostile, "licence": hostile, "says": hostile},
		op{"do": "attach-source", "on": op{"kind": "map", "id": "m"}, "id": "s2", "url": "https://hollin.example/?q=%22%3E", "title": hostile},
		op{"do": "set-table", "concept": "c00001", "table": op{"rows": [][]string{{hostile}}}}, op{"do": "set-note", "on": on, "note": hostile + " **b**"}, op{"do": "set-note", "on": op{"kind": "map", "id": "m"}, "note": hostile + " **b**"},
	)
	var drawn strings.Builder
	for _, part := range []any{answer["slips"], answer["head"]} {
		for key, value := range part.(map[string]any) {
			if key != "kinds" {
				fmt.Fprintln(&drawn, value)
			}
		}
	}
	pages := map[string]string{"drawing": drawn.String()}
	for _, path := range []string{"/maps/m", "/maps/m/margin?chosen=c-c00001", "/maps/m/margin?chosen=c-c00001&phase=connect", "/maps/m/margin?chosen=r-r1&phase=check", "/maps/m/column", "/maps/m/drawing", "/maps/m/key"} {
		status, body := s.get(path)
		require.Equal(t, http.StatusOK, status, path)
		pages[path] = body
	}
	for path, body := range pages {
		assert.NotContains(t, body, "<img src=x", path)
		assert.NotContains(t, body, `"><img`, path)
	}
	assert.Contains(t, pages["/maps/m/margin?chosen=c-c00001"], "<strong>b</strong>", "a note is read as it is meant")
	_, lens := s.get("/maps/m/lens?what=filter&filter=f1")
	assert.NotContains(t, lens, "<img", "what is sent as JSON cannot be taken for markup either")
}

// A filter is answered with what stays; one that cannot be asked, in words.
func TestFiltersAreAnswered(t *testing.T) {
	s := serve(t, t.TempDir())
	s.do("k", 1, op{"do": "add-kind", "id": "k1", "name": "part"}, op{"do": "add-kind", "id": "k2", "name": "cause", "links": true},
		op{"do": "assign-kind", "concepts": []string{"c00001", "c00002"}, "kind": "k1"}, op{"do": "assign-kind", "links": []string{"l00001"}, "kind": "k2"})
	ask := func(query string) (keep []string, says string, hide bool) {
		status, body := s.get("/maps/m/lens?what=filter&" + query)
		require.Equal(t, http.StatusOK, status, body)
		var v struct {
			Keep []string
			Says string
			Hide bool
		}
		require.NoError(t, json.Unmarshal([]byte(body), &v))
		for _, e := range v.Keep {
			if strings.HasPrefix(e, "c-") {
				keep = append(keep, e)
			}
		}
		return keep, v.Says, v.Hide
	}
	keep, says, _ := ask("kind=k1")
	assert.Equal(t, []string{"c-c00001", "c-c00002"}, keep)
	assert.Equal(t, "part: 2 concepts", says)
	asked := url.QueryEscape(`{"match":"any","hide":true,"conditions":[{"about":"kind","value":"k1","not":true},{"about":"level","value":"1"}]}`)
	keep, says, hide := ask("asked=" + asked)
	assert.Len(t, keep, 4)
	assert.True(t, hide)
	assert.Equal(t, "not part or on level 1: 4 concepts", says)
	keep, says, _ = ask("kind=k2")
	assert.Equal(t, []string{"c-c00000", "c-c00001"}, keep)
	assert.Equal(t, "1 link", says)
	for _, broken := range []string{"asked={", "asked=" + url.QueryEscape(`{"match":"some"}`), "asked=" + url.QueryEscape(`{"match":"all","conditions":[{"about":"secret"}]}`)} {
		status, body := s.get("/maps/m/lens?what=filter&" + broken)
		assert.Equal(t, http.StatusUnprocessableEntity, status, broken)
		assert.Contains(t, body, "filter")
	}
}

// Sets, ideas, titles, works and looks are there for the page, and what cannot be
// is said in words.
func TestWhatThePageAsksFor(t *testing.T) {
	s := serve(t, t.TempDir())
	for _, set := range kinds.Shipped {
		status, body := s.get("/maps/m/sets/" + set.ID)
		require.Equal(t, http.StatusOK, status)
		// As the page sends them, once it has named the kinds.
		ops, err := edit.ReadOperations([]byte(strings.ReplaceAll(body, `"@k`, `"`+set.ID+`k`)))
		require.NoError(t, err, set.ID)
		_, err = edit.Apply(cm.NewMap("x", "en"), ops, nil)
		require.NoError(t, err, set.ID)
	}
	status, _ := s.get("/maps/m/sets/none")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	_, icons := s.get("/icons")
	assert.Contains(t, icons, `data-icon="bell"`)
	_, sought := s.get("/icons?seek=BEL")
	assert.Contains(t, sought, `data-icon="bell"`)
	assert.Less(t, len(sought), len(icons)/4)
	_, none := s.get("/icons?seek=" + url.QueryEscape("<b>zz"))
	assert.Contains(t, none, "No icon has such a word")
	s.do("i", 1, op{"do": "name-concept", "concept": "c00001", "label": "a bell"})
	_, ideas := s.get("/maps/m/ideas?concept=c00001")
	assert.Contains(t, ideas, "clapper")
	status, _ = s.get("/maps/m/ideas?concept=gone")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	_, page := s.get("/maps/m/preview?url=" + url.QueryEscape("https://hollin.example/how-bells-ring"))
	assert.Contains(t, page, "How bells ring")
	_, shelf := s.get("/maps/m/shelf?seek=hum")
	assert.Contains(t, shelf, "tone-hum")
	assert.NotContains(t, shelf, "tone-prime")
	status, _ = s.get("/shelf/none")
	assert.Equal(t, http.StatusNotFound, status)

	status, _, works := s.form("/maps/m/cited", url.Values{"text": {"@book{a, title={Bells}, year=1902}"}})
	assert.Equal(t, http.StatusOK, status)
	assert.JSONEq(t, `[{"title":"Bells","year":"1902"}]`, works)
	for text, says := range map[string]string{"": "no cited work", "@book{a, title={Bells": "bracket", "[{]": "cannot be read"} {
		status, _, fault := s.form("/maps/m/cited", url.Values{"text": {text}})
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, fault, says)
	}

	s.do("l", 2, op{"do": "set-look", "dress": "board", "large": true})
	status, _, _ = s.form("/maps/m/looks", url.Values{"name": {"Chalk"}})
	assert.Equal(t, http.StatusNoContent, status)
	_, margin := s.get("/maps/m/margin")
	assert.Contains(t, margin, ">Chalk</button>")
	status, _, fault := s.form("/maps/m/looks", url.Values{"name": {" "}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, fault, "name")
	_, _, _ = s.form("/maps/m/looks/drop", url.Values{"name": {"chalk"}})
	_, margin = s.get("/maps/m/margin")
	assert.NotContains(t, margin, ">Chalk</button>")
}

// A region tucked away is a box in the view of whoever tucked it, until something
// in it is to be shown.
func TestARegionIsTuckedForOnePerson(t *testing.T) {
	s := serve(t, t.TempDir())
	s.do("r", 1, op{"do": "add-region", "id": "r1", "title": "some", "concepts": []string{"c00002", "c00003"}})
	view := func(body string) map[string]any {
		status, raw := s.post("/maps/m/view", body)
		require.Equal(t, http.StatusOK, status, raw)
		var a map[string]any
		require.NoError(t, json.Unmarshal([]byte(raw), &a))
		return a
	}
	a := view(`{"window":"w","tuck":["r1"]}`)
	assert.Contains(t, a["slips"], "r1")
	assert.ElementsMatch(t, []any{"c-c00002", "c-c00003"}, a["gone"].([]any)[:2])
	assert.Empty(t, a["head"].(map[string]any)["regions"])
	a = view(`{"window":"w","show":["c00003"]}`)
	assert.Contains(t, a["slips"], "c00003")
	assert.Contains(t, a["gone"], "c-r1")
	assert.Contains(t, a["head"].(map[string]any)["regions"], `id="r-r1"`)
}

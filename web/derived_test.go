package web_test

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// mapOf makes a map of operations, as one entry of its author.
func (s *served) mapOf(id, ops string) {
	read, err := edit.ReadOperations(json.RawMessage(ops))
	require.NoError(s.t, err)
	out, err := edit.Apply(cm.NewMap(cm.ID(id), "en"), read, nil)
	require.NoError(s.t, err)
	require.NoError(s.t, s.store.All().Put(s.t.Context(), out.Map, "author", nil))
}

const belfry = `[{"do":"add-concept","id":"bell","label":"the bell","at":{"x":0,"y":0}},{"do":"set-focus","concept":"bell"},
	{"do":"add-concept","id":"metal","label":"the metal","at":{"x":-300,"y":200}},{"do":"add-concept","id":"tower","label":"the tower","at":{"x":300,"y":200}},
	{"do":"add-concept","id":"tin","label":"tin","at":{"x":-300,"y":400}},{"do":"add-concept","id":"beam","label":"a beam","at":{"x":300,"y":400}},{"do":"add-concept","id":"oak","label":"oak","at":{"x":300,"y":600}},
	{"do":"add-link","id":"l1","phrase":"is of","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"metal"}]},
	{"do":"add-link","id":"l2","phrase":"hangs in","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"tower"}]},
	{"do":"add-link","id":"l3","phrase":"holds","from":[{"id":"f","concept":"metal"}],"to":[{"id":"t","concept":"tin"}]},
	{"do":"add-link","id":"l4","phrase":"has","from":[{"id":"f","concept":"tower"}],"to":[{"id":"t","concept":"beam"}]},
	{"do":"add-link","id":"l5","phrase":"is of","from":[{"id":"f","concept":"beam"}],"to":[{"id":"t","concept":"oak"}]},
	{"do":"add-link","id":"l6","phrase":"wears","from":[{"id":"f","concept":"metal"}],"to":[{"id":"t","concept":"tower"},{"id":"t2","concept":"beam"}]}]`

// Cross-links are counted in one way, wherever they are told of; a concept stands
// below its parent, and in a branch; neighbours come with the links among them.
func TestWhatDerivesIsToldAlike(t *testing.T) {
	s := serve(t, t.TempDir())
	s.mapOf("b", belfry)
	_, margin := s.get("/maps/b/margin?phase=check&figures=1&chosen=c-oak")
	told := regexp.MustCompile(`(\d+)</dd>\s*<dt>cross-links|cross-links</dt>\s*<dd[^>]*>(\d+)`).FindStringSubmatch(margin)
	require.NotNil(t, told, margin)
	assert.Equal(t, "1", told[1]+told[2], "one link, though two of its strands cross")
	_, lens := s.get("/maps/b/lens?what=cross")
	assert.Contains(t, lens, `"1 link between branches"`)
	assert.Regexp(t, `Cross-links</summary>(.|\n)*?<dd>1<`, margin)
	assert.Contains(t, margin, "Level 4, below <b>a beam</b>, in the branch <b>the tower</b>")
	_, margin = s.get("/maps/b/margin?chosen=c-beam")
	assert.Contains(t, margin, "Level 3, below <b>the tower</b></p>")

	_, near := s.get("/maps/b/lens?what=near&steps=1&chosen=c-tower")
	var v struct{ Keep []string }
	require.NoError(t, json.Unmarshal([]byte(near), &v))
	assert.ElementsMatch(t, []string{"c-tower", "c-bell", "c-metal", "c-beam", "l-l1", "l-l2", "l-l4", "l-l6"}, v.Keep, "links between two of them, and no others")

	// The duration of a task stands in the sum of its branch.
	ops := `[{"do":"set-duration","concept":"tower","lasts":"1 h"},{"do":"set-task","concept":"oak","what":"fell it","lasts":"30 min"}]`
	status, body := s.post("/maps/b/entries", entry("g1", "w", 1, ops))
	require.Equal(t, 200, status, body)
	_, margin = s.get("/maps/b/margin?chosen=c-tower")
	assert.Regexp(t, `1\.5 h|1 h 30 min|90 min`, margin)
	assert.Regexp(t, `data-element="c-oak"><span class="noun-words">oak</span> <span class="[^"]*">30 min<`, margin, "in the list of what the sum is made of")
}

// A thread is settled by whoever began it, or by the author: nobody else is offered
// that.
func TestWhoIsOfferedToSettle(t *testing.T) {
	s := serve(t, t.TempDir())
	hand, _ := s.handLink()
	ann, ben := s.bearer(hand), s.bearer(hand)
	status, body := ann.post(hand+"/entries", entry("g1", "w", 1, `[{"do":"add-comment","id":"k","on":{"kind":"concept","id":"c00001"},"words":"Why?"}]`))
	require.Equal(t, 200, status, body)
	for who, offered := range map[*served]bool{ann: true, ben: false} {
		_, talk := who.get(hand + "/talk?on=c-c00001")
		assert.Contains(t, talk, "Why?")
		assert.Equal(t, offered, strings.Contains(talk, "settle-comment"))
	}
	_, talk := s.get("/maps/m/talk?on=c-c00001")
	assert.Contains(t, talk, "settle-comment")
}

// A statement of another map is told the way it is said: both ways where arrows point
// both ways, and from left to right where there are none.
func TestStatementsOfOtherMaps(t *testing.T) {
	s := serve(t, t.TempDir())
	for i, heads := range []string{"one", "both", "none"} {
		s.mapOf(fmt.Sprint("other", i), fmt.Sprintf(`[{"do":"add-concept","id":"a","label":"first %[2]d","at":{"x":0,"y":0}},{"do":"add-concept","id":"b","label":"second %[2]d","at":{"x":0,"y":200}},
			{"do":"add-link","id":"l","phrase":"meets","from":[{"id":"f","concept":"a"}],"to":[{"id":"t","concept":"b"}]},{"do":"set-heads","link":"l","heads":"%[1]s"}]`, heads, i))
	}
	said := func(label string) (all []string) {
		found, err := s.store.All().SaidElsewhere(t.Context(), "m", func(l string) bool { return l == label })
		require.NoError(t, err)
		for _, f := range found {
			all = append(all, f.Phrase+" "+f.Noun)
		}
		return all
	}
	for i, ways := range []int{1, 2, 1} {
		assert.Equal(t, []string{fmt.Sprint("meets second ", i)}, said(fmt.Sprint("first ", i)))
		assert.Len(t, said(fmt.Sprint("second ", i)), ways-1)
	}
}

package web_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"

	cm "mevrin/core/conceptmap"
)

// Who looks after a Mevrin puts maps first that are open to all, whosever they are; everybody sees them there,
// until they are closed.
func TestSomeOfWhatIsOpenStandsFirst(t *testing.T) {
	folder, _, browser := shared(t)
	linked(t, folder)
	require.NoError(t, folder.AddPerson(t.Context(), people.Person{ID: "ben", Name: "Ben Tull", Mail: "ben@hollin.example", Role: people.RoleAuthor}, "none"))
	bens := folder.For(store.Scope{Person: "ben"})
	for _, id := range []cm.ID{"bell", "wheel", "rope"} {
		require.NoError(t, bens.Import(t.Context(), id, "en", [][]edit.Operation{{&edit.Ask{Question: "What is a " + string(id) + "?"}}}))
	}
	for _, id := range []cm.ID{"rope", "bell"} {
		require.NoError(t, bens.SetOpen(t.Context(), id, people.RightCopy))
	}
	signed := signingIn(t, folder, browser)
	ada, ben := signed("ada"), signed("ben")
	order := func(s *someone) (words []string) {
		t.Helper()
		_, page, _ := s.ask("GET", "/open", "")
		for _, part := range []string{"Worth seeing first", "What is a bell?", "All others", "What is a rope?"} {
			if strings.Contains(page, part) {
				words = append(words, part)
			}
		}
		for i := 1; i < len(words); i++ {
			if strings.Index(page, words[i-1]) > strings.Index(page, words[i]) {
				return []string{"in another order"}
			}
		}
		return words
	}
	assert.Equal(t, []string{"in another order"}, order(ada), "the latest changed first")
	status, _, _ := ben.post("/open", "map", "bell", "first", "yes")
	assert.Equal(t, 403, status, "nobody praises their own")
	status, _, _ = ada.post("/open", "map", "wheel", "first", "yes")
	assert.Equal(t, 404, status, "it is not open to all")
	status, _, to := ada.post("/open", "map", "bell", "first", "yes")
	assert.Equal(t, 303, status)
	_, page, _ := ada.ask("GET", to, "")
	assert.Contains(t, page, "stands first now")
	for _, who := range []*someone{ada, ben, browser()} {
		assert.Equal(t, []string{"Worth seeing first", "What is a bell?", "All others", "What is a rope?"}, order(who))
	}
	require.NoError(t, bens.SetOpen(t.Context(), "bell", people.RightNone))
	require.NoError(t, bens.SetOpen(t.Context(), "bell", people.RightLook))
	assert.NotContains(t, order(ben), "Worth seeing first", "who closed it opens it as any other")
}

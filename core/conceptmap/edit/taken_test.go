package edit_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// Text from outside goes where it belongs, by what it is, and it is said where.
func TestTextFromOutsideBelongsToAConcept(t *testing.T) {
	long := "The rim is struck from within, where it is thickest, so that the blow is given to all of the bell alike."
	take := func(words string, quote bool) (m *cm.Map, said string) {
		out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "bell", Label: "the bell"},
			&edit.TakeText{On: "bell", Words: words, Quote: quote, Source: "s", Concept: "c", Link: "l", Own: "o", Above: "a"}}, nil)
		require.NoError(t, err, words)
		for _, n := range out.Notices {
			said += n.String() + " "
		}
		return out.Map, said
	}
	m, said := take("hangs in: the tower", false)
	assert.Equal(t, "the bell hangs in the tower", m.Says(m.Links["l"], ""))
	assert.Contains(t, said, "below “the bell”")
	assert.Empty(t, m.Concepts["bell"].Note)

	m, said = take(long+" https://hollin.example/rim.", false)
	assert.Equal(t, "> "+long+" <https://hollin.example/rim>.", m.Words(m.Concepts["bell"].Note))
	assert.Equal(t, "https://hollin.example/rim", m.Concepts["bell"].Sources["s"].URL)
	assert.Contains(t, said, "in the note of “the bell”")
	assert.Contains(t, said, "source of “the bell”")
	assert.Len(t, m.Concepts, 1)

	m, _ = take("www.hollin.example/a, https://hollin.example/b and https://hollin.example/b", false)
	assert.Len(t, m.Concepts["bell"].Sources, 2, "the same address is attached once")
	m, _ = take("short\nand another", true)
	assert.Equal(t, "> short\n> and another", m.Words(m.Concepts["bell"].Note))
	m, _ = take("  https://hollin.example/only ", false)
	assert.Len(t, m.Concepts, 1)
	assert.Empty(t, m.Links)

	for _, bad := range []string{"", " \n\t", strings.Repeat("x", cm.MaxNote+1)} {
		_, err := edit.Apply(m, []edit.Operation{&edit.TakeText{On: "bell", Words: bad, Source: "t", Concept: "c", Link: "l", Own: "o", Above: "a"}}, nil)
		assert.Error(t, err)
	}
}

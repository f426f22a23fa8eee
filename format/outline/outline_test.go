package outline_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	_ "mevrin/core/conceptmap/maptest" // draws the same cases each time
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/format/outline"
)

func read(t require.TestingT, text string) *cm.Map {
	lines, err := outline.Parse(text, false)
	require.NoError(t, err)
	n := 0
	newID := func(kind string) cm.ID { n++; return cm.ID(fmt.Sprintf("%s%d", kind, n)) }
	out, err := edit.Apply(cm.NewMap("m", "en"), outline.Operations(lines, outline.Options{NewID: newID, Measure: scene.Measurer{}, Focus: true}), nil)
	require.NoError(t, err)
	return out.Map
}

func said(m *cm.Map) []string {
	var all []string
	words := func(id cm.ID) string { return m.Words(m.Concepts[id].Label) }
	for _, p := range structure.Of(m).Propositions() {
		all = append(all, fmt.Sprintf("%s [%s] %s", words(p.Subject), m.Words(m.Links[p.Strand.Link].Phrase), words(p.Object)))
	}
	return all
}

func TestAnOutlineBecomesAMap(t *testing.T) {
	m := read(t, "\n- The bell\n\t* has: the clapper\n\t* has: the rim\r\n      1. is of: bronze\n\n    sounds\n  note: one of two words\nThe tower\n\tholds:  the  BELL\n\t\tthe bell")
	assert.Equal(t, []string{"The bell [has] the clapper", "The bell [has] the rim", "The bell [] sounds", "The bell [note] one of two words",
		"the rim [is of] bronze", "The tower [holds] The bell"}, said(m))
	assert.Equal(t, "The bell", m.Words(m.Concepts[m.Focus].Label))
	assert.Len(t, m.Concepts, 7, "a concept stands once")
	assert.Len(t, m.Links, 5, "a phrase is shared")
	open := read(t, "bell\n  rim\n  crown")
	require.Len(t, open.Links, 1, "so is the place for words that are still wanting")
	lines, err := outline.Parse("the sound bow\nThe rim of a bell is thick, since there the clapper meets it at every blow", false)
	require.NoError(t, err)
	short := outline.Shortened(lines)
	assert.Equal(t, []outline.Line{{Label: "the sound bow"}, {Label: "The rim of a bell is …", Note: lines[1].Label}}, short)
	assert.Equal(t, "half past 8: late", read(t, "half past 8: late").Name(), "what is below nothing has no phrase")
	_, err = outline.Parse(strings.Repeat("x\n", outline.MaxLines+1), false)
	assert.ErrorContains(t, err, "at most 2000 lines")
	assert.Empty(t, read(t, " \n\t\n").Concepts)
}

// Whatever is pasted, it becomes a sound map on which no slip covers another.
func TestAnyOutlineIsSoundAndLeavesRoom(t *testing.T) {
	line := rapid.StringMatching(`[ \t]{0,9}([-*•] )?((has|is): )?[abc: ]{0,9}(bell|钟|λ)?`)
	rapid.Check(t, func(t *rapid.T) {
		text := strings.Join(rapid.SliceOfN(line, 0, 40).Draw(t, "lines"), "\n")
		m := read(t, text)
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		for a, s := range sc.Slips {
			for b, o := range sc.Slips {
				if a < b && s.Box.Meets(o.Box) {
					t.Fatalf("%q covers %q in\n%s", s.Words.Words, o.Words.Words, text)
				}
			}
		}
	})
}

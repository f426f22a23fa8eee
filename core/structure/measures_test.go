package structure_test

import (
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/structure"
)

// joined makes a map of links between concepts named by letters, the first the
// focus.
func joined(t *testing.T, links ...string) *structure.Structure {
	var ops []edit.Operation
	known := map[string]bool{}
	for i, l := range links {
		for _, c := range []string{l[:1], l[1:]} {
			if !known[c] {
				known[c] = true
				ops = append(ops, &edit.AddConcept{ID: cm.ID(c), Label: c})
				if len(known) == 1 {
					ops = append(ops, &edit.SetFocus{Concept: cm.ID(c)})
				}
			}
		}
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprintf("l%02d", i)), Phrase: "to", From: []cm.End{{ID: "f", Concept: cm.ID(l[:1])}}, To: []cm.End{{ID: "t", Concept: cm.ID(l[1:])}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	return structure.Of(out.Map)
}

// Hand-computed: on a path a–b–c–d of the three pairs beside b, it lies between
// two; in a star the centre lies between all; on a ring of four each lies between
// one pair, half the time, of three.
func TestBetweenness(t *testing.T) {
	assert.Equal(t, map[cm.ID]float64{"a": 0, "b": 2.0 / 3, "c": 2.0 / 3, "d": 0}, joined(t, "ab", "bc", "cd").Betweenness(nil))
	assert.Equal(t, map[cm.ID]float64{"a": 1, "b": 0, "c": 0, "d": 0}, joined(t, "ab", "ac", "ad", "da").Betweenness(nil))
	for id, b := range joined(t, "ab", "bc", "cd", "da").Betweenness(nil) {
		assert.InDelta(t, 1.0/6, b, 1e-12, id)
	}
	assert.Equal(t, map[cm.ID]float64{"a": 0, "b": 0}, joined(t, "ab").Betweenness(nil))
}

// Two triangles joined by one link are two groups; their modularity is
// 6/7 − 2·(1/2)² = 5/14.
func TestGroups(t *testing.T) {
	groups, q := joined(t, "ab", "bc", "ca", "cd", "de", "ef", "fd").Groups(nil)
	assert.Equal(t, [][]cm.ID{{"a", "b", "c"}, {"d", "e", "f"}}, groups)
	assert.InDelta(t, 5.0/14, q, 1e-12)
	groups, q = structure.Of(cm.NewMap("m", "en")).Groups(nil)
	assert.Empty(t, groups)
	assert.Zero(t, q)
}

func TestWaysAndNeighbours(t *testing.T) {
	s := joined(t, "ab", "bc", "cd", "da", "ce")
	way := func(from, to cm.ID, against bool) string {
		out := string(from)
		at := from
		for _, p := range s.Way(from, to, against) {
			if at == p.Subject {
				at = p.Object
			} else {
				at = p.Subject
			}
			out += string(at)
		}
		return out
	}
	assert.Equal(t, "abcd", way("a", "d", false))
	assert.Equal(t, "ad", way("a", "d", true), "against an arrow it is nearer")
	assert.Equal(t, "e", way("e", "a", false), "no arrow leads out of e")
	assert.Nil(t, s.Way("a", "a", true))
	assert.Equal(t, map[cm.ID]int{"a": 0, "b": 1, "d": 1}, s.Near("a", 1))
	assert.Len(t, s.Near("a", 3), 5)
	assert.Equal(t, map[cm.ID]int{"a": 2, "b": 2, "c": 3, "d": 2, "e": 1}, s.Degrees())
	tops, size, depth := joined(t, "ab", "bc", "ad", "ae", "ef", "fg").Branches()
	assert.Equal(t, []cm.ID{"b", "d", "e"}, tops)
	assert.Equal(t, map[cm.ID]int{"b": 2, "d": 1, "e": 3}, size)
	assert.Equal(t, map[cm.ID]int{"b": 3, "d": 2, "e": 4}, depth)
}

// The documentation says of each figure what the page says.
func TestFiguresAreDocumented(t *testing.T) {
	doc, err := os.ReadFile("../../docs/figures.md")
	require.NoError(t, err)
	for _, m := range structure.Measures {
		assert.Contains(t, string(doc), "## "+m.Title+"\n")
		assert.Contains(t, string(doc), m.Means)
		assert.Contains(t, string(doc), m.Source)
	}
}

// A chain says each sentence once, from the top down, no further than it was asked for.
func TestChains(t *testing.T) {
	s := joined(t, "ab", "ac", "bd", "de", "ce", "ea")
	said := func(all []structure.Proposition) (words string) {
		for _, p := range all {
			words += string(p.Subject) + string(p.Object) + " "
		}
		return words
	}
	assert.Equal(t, "ab ac ", said(s.Chain("a", 1, structure.AlongArrows)))
	assert.Equal(t, "ab ac bd ce ", said(s.Chain("a", 2, structure.AlongArrows)))
	assert.Equal(t, "ab ac bd de ce ea ", said(s.Chain("a", 9, structure.AlongArrows)))
	assert.Equal(t, "de ea ", said(s.Chain("d", 2, structure.AlongArrows)))
	assert.Empty(t, s.Chain("nobody", 3, structure.AlongMain))
	main := said(s.Chain("a", 9, structure.AlongMain))
	assert.Contains(t, main, "ab ac bd")
	assert.Less(t, len(main), len("ab ac bd de ea ce "), "each concept hangs once")
}

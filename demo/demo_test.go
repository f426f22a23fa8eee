package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/demo"
)

func TestTheBellMap(t *testing.T) {
	m, err := demo.Maps()[0].Build()
	require.NoError(t, err)
	s := structure.Of(m)
	assert.InDelta(t, 40, len(m.Concepts), 4)
	assert.Equal(t, []cm.ID{"bell", "strike", "vibration", "air", "ear"}, s.Places["sound"].Children)
	assert.Empty(t, check.Find(m, s), "the demo shows a map without faults")
	cross := 0
	for _, p := range s.Propositions() {
		if p.Cross {
			cross++
		}
	}
	assert.GreaterOrEqual(t, cross, 8)
	assert.Len(t, s.Roots, 1)
}

// The first try shows flaws of each group of rules.
func TestTheFirstTryIsFlawed(t *testing.T) {
	maps := demo.Maps()
	m, err := maps[len(maps)-1].Build()
	require.NoError(t, err)
	found := map[check.Group]int{}
	for _, f := range check.Find(m, structure.Of(m)) {
		found[f.Rule.About] += len(f.Places)
		t.Log(f.Rule.ID, len(f.Places))
	}
	for _, g := range check.Groups {
		if g.ID != check.AboutLesson {
			assert.Positive(t, found[g.ID], "about %s", g.ID)
		}
	}
}

package judging_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/agree"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/judging"
	"mevrin/core/structure"
)

// What raters said is compared as it counts: other words than stand there do not, settled rows
// come last, and nobody hears of others before all are done.
func TestRatersAreCompared(t *testing.T) {
	ops := []edit.Operation{&edit.AddConcept{ID: "a", Label: "bell"}}
	for i, to := range []string{"bronze", "tower", "ringer"} {
		id := cm.ID(fmt.Sprint("c", i))
		ops = append(ops, &edit.AddConcept{ID: id, Label: to}, &edit.AddLink{ID: "l" + id, Phrase: "needs", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: id}}})
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	m := out.Map
	do := func(by cm.ID, op edit.Operation) {
		ops := []edit.Operation{op}
		edit.Sign(ops, edit.Speaker{ID: by, At: "2026-11-27T08:00:00.000Z"})
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
	}
	n := 0
	judge := func(by cm.ID, link int, v cm.Verdict, settled bool) {
		n++
		do(by, &edit.Judge{ID: cm.ID(fmt.Sprint("j", n)), Strand: cm.Strand{Link: cm.ID(fmt.Sprint("lc", link)), From: "f", To: "t"}, Verdict: v, Name: "I am " + string(by), Settled: settled})
	}
	compare := func() judging.Comparison { return judging.Compare(m, structure.Of(m)) }
	judge("v1", 0, cm.Holds, false)
	assert.False(t, compare().Done(), "one alone is nobody to compare with")
	judge("v2", 0, cm.Holds, false)
	judge("v1", 1, cm.Holds, false)
	judge("v2", 1, cm.HoldsInPart, false)
	judge("v1", 2, cm.Holds, false)
	assert.False(t, compare().Heard(m))
	judge("v2", 2, cm.HoldsNot, false)
	c := compare()
	assert.True(t, c.Heard(m))
	assert.Equal(t, []judging.Rater{{"v1", "I am v1", 3}, {"v2", "I am v2", 3}}, c.Raters)
	apart := func(rows []judging.Row) (all []string) {
		for _, r := range rows {
			all = append(all, fmt.Sprint(r.Object, " ", r.Apart, " ", r.Settled != nil))
		}
		return all
	}
	assert.Equal(t, []string{"c2 1 false", "c1 0.5 false", "c0 0 false"}, apart(c.Disputed()))
	judge("author", 2, cm.HoldsInPart, true)
	assert.Len(t, compare().Raters, 2, "who settles is no rater")
	assert.Equal(t, []string{"c1 0.5 false", "c0 0 false", "c2 1 true"}, apart(compare().Disputed()))
	f := agree.Of(compare().Table(m, false), 0)
	assert.InDelta(t, 100.0/3, *f.Percent.Value, 1e-9)

	do("author", &edit.NameConcept{Concept: "c1", Label: "church tower"})
	c = compare()
	assert.Equal(t, []string{"c0 0 false", "c1 0 false", "c2 1 true"}, apart(c.Disputed()), "other words are asked again")
	assert.False(t, c.Heard(m))
	assert.Equal(t, agree.Missing, c.Table(m, false).Said[1][0])
	do("author", &edit.SetJudging{Open: true})
	assert.True(t, compare().Heard(m))

	do("author", &edit.DropRater{Rater: "v1"})
	c = compare()
	assert.Len(t, c.Raters, 1)
	assert.NotNil(t, c.Rows[2].Settled, "what was settled stays")

	// A link for judging lets nobody do anything else, nor settle.
	for _, op := range []edit.Operation{&edit.NameConcept{Concept: "a", Label: "x"}, &edit.DropRater{Rater: "v2"}, &edit.Judge{Settled: true}} {
		assert.Error(t, edit.JudgesOnly([]edit.Operation{&edit.Judge{}, op}))
	}
	require.NoError(t, edit.JudgesOnly([]edit.Operation{&edit.Judge{}}))
}

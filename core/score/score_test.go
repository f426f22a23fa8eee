package score_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/score"
	"mevrin/core/structure"
)

// By hand: six sentences, two levels below the focus concept, one cross-link, one example are
// 6·1 + 2·5 + 1·10 + 1·1 points.
func TestAMapEarnsByHand(t *testing.T) {
	var ops []edit.Operation
	for _, c := range []string{"bell", "bronze", "tower", "tin", "church", "hum"} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c), Label: c})
	}
	ops = append(ops, &edit.SetFocus{Concept: "bell"}, &edit.AddKind{ID: "ex", Name: "example", Colour: "leaf"}, &edit.AssignKind{Concepts: []cm.ID{"church"}, Kind: "ex"})
	for i, l := range [][2]string{{"bell", "bronze"}, {"bell", "tower"}, {"bronze", "tin"}, {"tower", "church"}, {"tin", "church"}, {"tower", "hum"}} {
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: "has", From: []cm.End{{ID: "f", Concept: cm.ID(l[0])}}, To: []cm.End{{ID: "t", Concept: cm.ID(l[1])}}})
	}
	level := 2
	ops = append(ops, &edit.SetRubric{Rubric: score.Shipped["whole"].Rubric}, &edit.Judge{ID: "j1", Strand: cm.Strand{Link: "l0", From: "f", To: "t"}, Verdict: cm.HoldsNot},
		&edit.Judge{ID: "j2", Strand: cm.Strand{Link: "l1", From: "f", To: "t"}, Verdict: cm.Holds}, &edit.GiveGrade{ID: "g", Criterion: "answer", Level: &level})
	edit.Sign(ops, edit.Speaker{ID: "author", At: "2026-11-27T08:00:00.000Z"})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	m, s := out.Map, structure.Of(out.Map)
	of := func(name string) score.Result { return score.Of(m, s, score.Shipped[name].Rubric) }

	r := of("structural")
	counts := map[cm.Earns]int{}
	for _, p := range r.Parts {
		counts[p.What] = p.Count
		assert.Len(t, p.Earned, p.Count, "each point leads to what earned it")
	}
	assert.Equal(t, map[cm.Earns]int{"proposition": 5, "level": 2, "cross-link": 1, "example": 1}, counts, "what does not hold earns nothing")
	assert.InDelta(t, 5+10+10+1, r.Total, 1e-9)
	r = of("relational")
	assert.InDelta(t, 3, r.Total, 1e-9)
	assert.Equal(t, 4, r.OpenPropositions)
	two := 2
	m.Judgements["j1"].Points = &two
	r = of("relational")
	assert.InDelta(t, 3+2, r.Total, 1e-9, "points that were given count in place of the verdict")
	assert.Equal(t, 4, r.OpenPropositions)
	m.Judgements["j1"].Points = nil
	r = of("whole")
	assert.InDelta(t, 2, r.Total, 1e-9)
	assert.Equal(t, 3, r.OpenCriteria)
}

func TestRubricsThatAreUnsoundSayWhy(t *testing.T) {
	for raw, want := range map[string]string{
		``: "not JSON", `{"rubric":2}`: "must be 1", `{"rubric":1,"weight":{}}`: "no rubric has", `{"rubric":1,"weights":{"beauty":1}}`: "earns no points",
		`{"rubric":1,"weights":{"level":1e9}}`: "numbers up to", `{"rubric":1,"criteria":[{"id":"a","title":"x","levels":[{"points":1,"words":"one"}]}]}`: "from 2 to", `{"rubric":1} {}`: "nothing may stand behind",
	} {
		_, err := score.Read([]byte(raw))
		assert.ErrorContains(t, err, want, raw)
	}
	assert.Len(t, score.Shipped, len(score.Names))
}

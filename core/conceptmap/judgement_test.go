package conceptmap_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// judged performs operations in the name of somebody.
func judged(t *testing.T, m *cm.Map, who, at string, ops ...edit.Operation) *cm.Map {
	t.Helper()
	edit.Sign(ops, edit.Speaker{ID: cm.ID(who), At: "2026-11-27T08:" + at + ":00.000Z"})
	out, err := edit.Apply(m, ops, nil)
	require.NoError(t, err)
	return out.Map
}

func TestJudgementsBelongToTheWordsTheySaw(t *testing.T) {
	strand := cm.Strand{Link: "l", From: "f", To: "t"}
	p := cm.Proposed{Strand: strand}
	m := judged(t, cm.NewMap("m", "en"), "pa", "00",
		&edit.AddConcept{ID: "a", Label: "the bell"}, &edit.AddConcept{ID: "b", Label: "bronze"}, &edit.AddConcept{ID: "c", Label: "bell metal"},
		&edit.AddLink{ID: "l", Phrase: "is cast from", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}}},
		&edit.Judge{ID: "j1", Strand: strand, Verdict: cm.Holds, Reason: "one can see it"})
	m = judged(t, m, "pb", "01", &edit.Judge{ID: "j2", Strand: strand, Verdict: cm.HoldsNot, Source: "the founder’s book"})
	require.Len(t, m.Judged()[p], 2)
	// Each has one word: a later one takes the place of the former.
	m = judged(t, m, "pa", "02", &edit.Judge{ID: "j3", Strand: strand, Verdict: cm.HoldsInPart})
	require.Len(t, m.Judged()[p], 2)
	assert.Equal(t, cm.HoldsInPart, m.Judgements["j1"].Verdict)
	assert.Empty(t, m.Judgements["j1"].Reason)
	// What is settled stands first, and is the map's own people's.
	m = judged(t, m, "pa", "03", &edit.Judge{ID: "j4", Strand: strand, Verdict: cm.Holds, Settled: true})
	assert.Equal(t, cm.ID("j4"), m.Judged()[p][0].ID)
	ops := []edit.Operation{&edit.Judge{ID: "j5", Strand: strand, Verdict: cm.Holds, Settled: true}}
	edit.Sign(ops, edit.Speaker{ID: "vx", At: "2026-11-27T08:00:00.000Z", AdditiveOnly: true})
	_, err := edit.Apply(m, ops, nil)
	require.ErrorContains(t, err, "settled by whom the map belongs to")

	// The words change, and back.
	renamed := judged(t, m, "pa", "04", &edit.NameConcept{Concept: "b", Label: "tin"})
	assert.True(t, renamed.Judgements["j1"].Stale(renamed))
	back := judged(t, renamed, "pa", "05", &edit.NameConcept{Concept: "b", Label: "bronze"})
	assert.False(t, back.Judgements["j1"].Stale(back))
	// Turned round, the same way says something else.
	turned := judged(t, m, "pa", "06", &edit.ReverseLink{Link: "l"})
	require.Len(t, turned.Judged(), 1)
	for _, all := range turned.Judged() {
		assert.True(t, all[0].Stale(turned))
	}
	// Merging concepts keeps the judgement, of other words now.
	merged := judged(t, m, "pa", "07", &edit.MergeConcepts{Keep: "c", Gone: "b"})
	require.Len(t, merged.Judged(), 1)
	assert.True(t, merged.Judgements["j2"].Stale(merged))
	// Taken back, it is gone; with its sentence, it says nothing, and undo brings it back.
	m = judged(t, m, "pb", "08", &edit.Judge{ID: "j6", Strand: strand})
	assert.Len(t, m.Judged()[p], 2)
	assert.Empty(t, judged(t, m, "pa", "09", &edit.Remove{Links: []cm.ID{"l"}}).Judged())
}

// Where two links that say the same become one, or an end is split off, judgements go along;
// of two of one person the later stays.
func TestJudgementsFollowTheirSentence(t *testing.T) {
	m := judged(t, cm.NewMap("m", "en"), "pa", "00",
		&edit.AddConcept{ID: "a", Label: "the bell"}, &edit.AddConcept{ID: "b", Label: "bronze"}, &edit.AddConcept{ID: "b2", Label: "Bronze"}, &edit.AddConcept{ID: "c", Label: "tin"},
		&edit.AddLink{ID: "l1", Phrase: "holds", From: []cm.End{{ID: "f", Concept: "a"}}, To: []cm.End{{ID: "t", Concept: "b"}, {ID: "u", Concept: "c"}}},
		&edit.AddLink{ID: "l2", Phrase: "holds", From: []cm.End{{ID: "g", Concept: "a"}}, To: []cm.End{{ID: "v", Concept: "b2"}}},
		&edit.Judge{ID: "j1", Strand: cm.Strand{Link: "l1", From: "f", To: "t"}, Verdict: cm.Holds},
		&edit.Judge{ID: "j2", Strand: cm.Strand{Link: "l1", From: "f", To: "u"}, Verdict: cm.NotSure})
	m = judged(t, m, "pa", "01", &edit.Judge{ID: "j3", Strand: cm.Strand{Link: "l2", From: "g", To: "v"}, Verdict: cm.HoldsNot})
	split := judged(t, m, "pa", "02", &edit.SplitEnd{Link: "l1", End: "u", New: "l3"})
	all := split.Judged()
	require.Len(t, all, 3)
	for p, of := range all {
		if p.Link == "l3" {
			assert.Equal(t, cm.NotSure, of[0].Verdict)
			assert.False(t, of[0].Stale(split))
		}
	}
	merged := judged(t, m, "pa", "03", &edit.MergeLinks{Keep: "l1", Gone: "l2"}, &edit.MergeConcepts{Keep: "b", Gone: "b2"})
	for p, of := range merged.Judged() {
		assert.Len(t, of, 1, "%v", p)
	}
	assert.NotNil(t, merged.Judgements["j3"], "the later one stays")
}

package brief_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
)

func read(t *testing.T, lines string) *brief.Brief {
	t.Helper()
	b, err := brief.Read([]byte(`{"brief":1,"lines":[` + lines + `]}`))
	require.NoError(t, err)
	return b
}

// lesson is a map of a lesson with two aims, of which one has an activity.
func lesson(t *testing.T) *cm.Map {
	var ops []edit.Operation
	for _, c := range [][2]string{{"root", "loudness"}, {"a1", "explain how loudness falls with distance"}, {"a2", "measure loudness"}, {"act", "walk away from a bell"}, {"far", "the distance"}} {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c[0]), Label: c[1]})
	}
	ops = append(ops, &edit.SetFocus{Concept: "root"})
	for i, l := range [][3]string{{"root", "is learnt by", "a1"}, {"root", "is learnt by", "a2"}, {"a1", "is reached by", "act"}, {"act", "changes", "far"}, {"far", "lowers", "a2"}} {
		ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprint("l", i)), Phrase: l[1], From: []cm.End{{ID: "f", Concept: cm.ID(l[0])}}, To: []cm.End{{ID: "t", Concept: cm.ID(l[2])}}})
	}
	ops = append(ops, &edit.AddKind{ID: "aim", Name: "Aim", Colour: "sky", Role: "lesson.aim"}, &edit.AddKind{ID: "activity", Name: "activity", Colour: "leaf", Role: "lesson.activity"},
		&edit.AssignKind{Concepts: []cm.ID{"a1", "a2"}, Kind: "aim"}, &edit.AssignKind{Concepts: []cm.ID{"act"}, Kind: "activity"}, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "far"}, Note: "in metres"})
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	return out.Map
}

// Each line counts what it says: the count, and whether it is met.
func TestLinesCountWhatTheySay(t *testing.T) {
	m := lesson(t)
	for line, want := range map[string]struct {
		count int
		met   bool
	}{
		`{"id":"x","of":"concepts","atLeast":5}`:                                                                             {5, true},
		`{"id":"x","of":"concepts","atMost":4}`:                                                                              {5, false},
		`{"id":"x","of":"concepts","level":2}`:                                                                               {2, true},
		`{"id":"x","of":"concepts","kind":"aim","words":{"list":"aims-understand"},"atLeast":2}`:                             {1, false},
		`{"id":"x","of":"concepts","kind":"aim","words":{"begins":["explain","measure"]},"atLeast":2}`:                       {2, true},
		`{"id":"x","of":"concepts","kind":"activity","where":{"under":"aim"}}`:                                               {1, false},
		`{"id":"x","of":"concepts","where":{"branch":"Explain how loudness falls with distance"}}`:                           {3, true},
		`{"id":"x","of":"propositions","words":{"contains":["reached"]}}`:                                                    {1, true},
		`{"id":"x","of":"cross-links"}`:                                                                                      {1, true},
		`{"id":"x","of":"levels","atLeast":4,"atMost":4}`:                                                                    {4, true},
		`{"id":"x","of":"branches","level":3}`:                                                                               {1, true},
		`{"id":"x","of":"notes"}`:                                                                                            {1, true},
		`{"id":"x","of":"sources","source":"web","atMost":0}`:                                                                {0, true},
		`{"id":"x","of":"stops","atLeast":1}`:                                                                                {0, false},
		`{"id":"x","of":"judged-to-hold","atLeast":1}`:                                                                       {0, false},
		`{"id":"x","of":"required","must":[{"concept":"Distance"},{"concept":"noise","or":["loudness"]},{"concept":"tin"}]}`: {2, false},
		`{"id":"x","of":"required","must":[{"concept":"walk away from a bell","phrase":"changes","to":"distance"}]}`:         {1, true},
	} {
		r := read(t, line).Check(m, structure.Of(m))[0]
		assert.Equal(t, want.count, r.Count, line)
		assert.Equal(t, want.met, r.Met, line)
		assert.NotEqual(t, r.Met, len(r.Missing) > 0, line)
	}
	r := read(t, `{"id":"x","of":"concepts","kind":"activity","where":{"under":"aim"},"points":3}`).Check(m, structure.Of(m))[0]
	assert.Equal(t, []cm.ID{"a2"}, r.Lacks)
	assert.Equal(t, "“measure loudness”: 1 more", r.Missing[0].String())
	assert.Zero(t, r.Points)
}

func TestBriefsThatAreUnsoundSayWhy(t *testing.T) {
	for raw, want := range map[string]string{
		``:                        "not JSON",
		`{"brief":2,"lines":[]}`:  "newer version",
		`{"brief":1,"lignes":[]}`: "a member that no brief has: \"lignes\"",
		`{"brief":1,"lines":[{"id":"a","of":"birds"}]}`:                            "line 1: “birds” cannot be counted",
		`{"brief":1,"lines":[{"id":"a","of":"concepts"},{"id":"a","of":"links"}]}`: "line 2: its id “a” is taken",
		`{"brief":1,"lines":[{"id":"a","of":"concepts","atLeast":3,"atMost":2}]}`:  "leave no number",
		`{"brief":1,"lines":[{"id":"a","of":"concepts","words":{"list":"none"}}]}`: "no list “none”",
		`{"brief":1,"lines":[{"id":"a","of":"required"}]}`:                         "named in such a line",
		`{"brief":1,"lines":[{"id":"a","of":"concepts","where":{}}]}`:              "a branch or a kind",
		`{"brief":1,"lines":[{"id":"a","of":"concepts","atLeast":"three"}]}`:       "does not hold what belongs there",
		`{"brief":1,"lines":[{"id":"a","of":"concepts","step":"hard"}]}`:           "no step",
	} {
		_, err := brief.Read([]byte(raw))
		assert.ErrorContains(t, err, want, raw)
	}
	assert.GreaterOrEqual(t, len(brief.Starters), 5)
}

func BenchmarkCounts1000(b *testing.B) {
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(1000), nil)
	if err != nil {
		b.Fatal(err)
	}
	s := structure.Of(out.Map)
	all, err := brief.Read([]byte(`{"brief":1,"lines":[{"id":"a","of":"concepts","atLeast":10},{"id":"b","of":"levels"},{"id":"c","of":"propositions","words":{"begins":["is"]}},
		{"id":"d","of":"cross-links"},{"id":"e","of":"branches","level":3},{"id":"f","of":"required","must":[{"concept":"bell 7"},{"concept":"none"},{"concept":"bell 9","phrase":"is","to":"bell 10"}]},
		{"id":"g","of":"notes"},{"id":"h","of":"concepts","where":{"branch":"bell 3"}},{"id":"i","of":"judged-to-hold"},{"id":"j","of":"concepts","words":{"contains":["bell","tone"]}}]}`))
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		all.Check(out.Map, s)
	}
}

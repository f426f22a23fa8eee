package check_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/core/structure"
)

// found gives which rules found something at which concepts.
func found(m *cm.Map) map[string][]cm.ID {
	all := map[string][]cm.ID{}
	for _, f := range check.Find(m, structure.Of(m)) {
		for _, p := range f.Places {
			if len(p.Keys) > 0 {
				all[f.Rule.ID] = append(all[f.Rule.ID], p.Keys[0].ID)
			}
		}
	}
	return all
}

// An argument is gone through by hand: what each part still lacks is found, and no
// longer found when it is there.
func TestRolesSayWhatIsMissing(t *testing.T) {
	m := cm.NewMap("m", "de")
	do := func(ops ...edit.Operation) {
		out, err := edit.Apply(m, ops, nil)
		require.NoError(t, err)
		m = out.Map
	}
	n := 0
	for _, set := range kinds.Shipped {
		do(set.Operations("de", func() cm.ID { n++; return cm.ID("k" + string(rune('A'+n%26)) + string(rune('a'+n/26))) })...)
	}
	of := func(role cm.Role) cm.ID {
		for _, k := range m.Key() {
			if k.Role == role {
				return k.ID
			}
		}
		t.Fatal(role)
		return ""
	}
	add := func(id cm.ID, role cm.Role) {
		do(&edit.AddConcept{ID: id, Label: string(id)}, &edit.AssignKind{Concepts: []cm.ID{id}, Kind: of(role)})
	}
	join := func(from, to cm.ID) {
		do(&edit.AddLink{ID: from + "-" + to, Phrase: "so", From: []cm.End{{ID: "f", Concept: from}}, To: []cm.End{{ID: "t", Concept: to}}})
	}
	for _, c := range []struct {
		id   cm.ID
		role cm.Role
	}{{"claim", "argument.claim"}, {"reason", "argument.reason"}, {"evidence", "argument.evidence"}, {"assumption", "argument.assumption"}, {"counter", "argument.counter"},
		{"choice", "process.choice"}, {"step", "process.step"}, {"aim", "lesson.aim"}, {"activity", "lesson.activity"}, {"test", "lesson.check"}} {
		add(c.id, c.role)
	}
	all := found(m)
	for rule, id := range map[string]cm.ID{"claim-bare": "claim", "evidence-idle": "evidence", "counter-open": "counter", "assumption-bare": "assumption", "process-no-decision": "choice", "process-dead-end": "step", "aim-unchecked": "aim", "activity-aimless": "activity"} {
		assert.Equal(t, []cm.ID{id}, all[rule], rule)
	}
	join("claim", "reason")
	join("counter", "claim")
	assert.Contains(t, found(m), "claim-bare", "a reason is no evidence")
	assert.Contains(t, found(m), "counter-open", "the claim that it attacks is no answer")
	join("reason", "evidence")
	join("reason", "counter")
	join("evidence", "assumption")
	join("choice", "step")
	join("activity", "aim")
	all = found(m)
	assert.Equal(t, []cm.ID{"choice"}, all["process-no-decision"], "one way is none to choose")
	join("choice", "aim")
	join("step", "choice")
	join("activity", "test")
	all = found(m)
	for _, rule := range []string{"claim-bare", "evidence-idle", "counter-open", "assumption-bare", "process-no-decision", "process-dead-end", "aim-unchecked", "activity-aimless"} {
		assert.NotContains(t, all, rule)
	}
	assert.NotEmpty(t, kinds.Phrases(m))
}

// Pictures that nobody described, and colours that say something else than the
// key, are found; mended, they are found no longer.
func TestWhatIsSeenIsSaid(t *testing.T) {
	picture := cm.Source{File: &cm.File{Hash: strings.Repeat("0a", 32), Type: "image/png", W: 9, H: 9}}
	plum := cm.Colour("plum")
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{
		&edit.AddConcept{ID: "bell", Label: "bell"}, &edit.AddConcept{ID: "rim", Label: "rim"},
		&edit.AddKind{ID: "k", Name: "part", Colour: "plum"}, &edit.AssignKind{Concepts: []cm.ID{"bell"}, Kind: "k"},
		&edit.SetPaint{Concepts: []cm.ID{"bell", "rim"}, Fill: &plum},
		&edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "rim"}, ID: "s", Source: picture},
	}, nil)
	require.NoError(t, err)
	all := found(out.Map)
	assert.Equal(t, []cm.ID{"rim"}, all["picture-untold"])
	assert.Equal(t, []cm.ID{"rim"}, all["colour-strays"], "the bell is of that kind")
	says := "the rim"
	mended, err := edit.Apply(out.Map, []edit.Operation{&edit.SetSource{On: cm.Key{Kind: cm.EntityConcept, ID: "rim"}, ID: "s", Says: &says}}, nil)
	require.NoError(t, err)
	for _, f := range check.Find(mended.Map, structure.Of(mended.Map)) {
		if f.Rule.ID == "colour-strays" {
			mended, err = edit.Apply(mended.Map, f.Places[0].Remedies[0].Operations, nil)
			require.NoError(t, err)
		}
	}
	all = found(mended.Map)
	assert.NotContains(t, all, "picture-untold")
	assert.NotContains(t, all, "colour-strays")
}

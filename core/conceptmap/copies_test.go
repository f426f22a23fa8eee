package conceptmap_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/layout"
)

// wide measures all slips alike.
type wide struct{}

func (wide) Slip(*cm.Map, *cm.Concept) layout.Size { return layout.Size{W: 120, H: 38} }
func (wide) Phrase(*cm.Map, *cm.Link) layout.Size  { return layout.Size{W: 40, H: 18} }

// A copy has all that its original has, and hangs as that does; what joined it to others
// and what people said of it are not copied.
func TestCopiesAreWhole(t *testing.T) {
	m := tower(t)
	apply := func(ops ...edit.Operation) history.Outcome {
		out, err := edit.Apply(m, ops, layout.Placer{Measurer: wide{}})
		require.NoError(t, err)
		sound(t, out.Map)
		m = out.Map
		return out
	}
	vote := &edit.Vote{Concept: "rim", For: new(true)}
	edit.Sign([]edit.Operation{vote}, edit.Speaker{ID: "p1", At: "2026-11-27T08:00:00.000Z"})
	apply(&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "rim"}, Note: "Its **edge**."}, &edit.AddTag{ID: "t", Name: "cast"}, &edit.AssignTag{Tag: "t", Concepts: []cm.ID{"rim"}, On: true},
		&edit.SetRemark{Concept: "rim", Remark: "worn"}, &edit.Bend{Link: "c-hits", End: "f", Bends: []cm.Point{{X: 10, Y: 20}}}, vote)
	before := m
	as := map[cm.ID]cm.ID{"clapper": "k1", "rim": "k2", "a-struck": "n1", "b-has": "n2", "c-hits": "n3"}
	out := apply(&edit.Duplicate{Concepts: []cm.ID{"clapper", "rim"}, As: as, By: cm.Point{X: 5, Y: 5}})
	assert.Equal(t, len(before.Concepts)+2, len(m.Concepts))
	assert.Equal(t, len(before.Links)+1, len(m.Links), "the link between the two, and none to others")
	rim, copied := *m.Concepts["rim"], *m.Concepts["k2"]
	assert.Equal(t, m.Says(m.Links["c-hits"]), m.Says(m.Links["n3"]))
	assert.NotEqual(t, m.Links["c-hits"].Bends, m.Links["n3"].Bends, "what was bent goes along")
	assert.Equal(t, cm.ID("k1"), m.Parent(&copied), "the rim hung elsewhere: its copy finds a parent among the copies")
	assert.Empty(t, copied.Votes)
	for _, c := range m.Concepts {
		if c.ID != "k2" && c.ID != "k1" {
			assert.GreaterOrEqual(t, max(math.Abs(c.At.X-copied.At.X)/120, math.Abs(c.At.Y-copied.At.Y)/38), 1.0, "%s is covered", c.ID)
		}
	}
	rim.ID, rim.At, rim.Main, rim.Votes = copied.ID, copied.At, copied.Main, nil
	assert.Equal(t, rim, copied)
	assert.Equal(t, doc(t, before), doc(t, history.Invert(out.Map, out.Changes).Map), "and taken back as one")

	for words, op := range map[string]edit.Operation{
		"proper name":              &edit.Duplicate{Concepts: []cm.ID{"bell", "clapper"}, As: map[cm.ID]cm.ID{"bell": "q1", "clapper": "q2"}},
		"has that name already":    &edit.Duplicate{Concepts: []cm.ID{"bell"}, As: map[cm.ID]cm.ID{"bell": "rim"}},
		"nothing selected to copy": &edit.Duplicate{},
		"no longer on the map":     &edit.Duplicate{Concepts: []cm.ID{"gone"}, As: map[cm.ID]cm.ID{"gone": "q1"}},
		"too far off the paper":    &edit.Duplicate{Concepts: []cm.ID{"bell"}, As: map[cm.ID]cm.ID{"bell": "q1"}, By: cm.Point{X: cm.FarthestPlace + 1}},
	} {
		before := doc(t, m)
		_, err := edit.Apply(m, []edit.Operation{op}, nil)
		require.ErrorContains(t, err, words)
		assert.Equal(t, before, doc(t, m))
	}
}

// A part of a map arrives on another one with all that was said of it, and with the kinds
// and tags that it bears: those that are there already are used.
func TestAPartArrivesWhole(t *testing.T) {
	from := tower(t)
	out, err := edit.Apply(from, []edit.Operation{
		&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "rim"}, Note: "Its **edge**."},
		&edit.AddKind{ID: "k", Name: "Part", Colour: "sea", Icon: "bell"}, &edit.AssignKind{Concepts: []cm.ID{"rim", "clapper"}, Kind: "k"},
		&edit.AddKind{ID: "k-cause", Name: "cause", Links: true, Stroke: cm.StrokeHeavy}, &edit.AssignKind{Links: []cm.ID{"c-hits"}, Kind: "k-cause"},
		&edit.AddTag{ID: "t", Name: "cast"}, &edit.AssignTag{Tag: "t", Concepts: []cm.ID{"rim"}, On: true},
	}, nil)
	require.NoError(t, err)
	part, err := edit.Part(out.Map, []cm.ID{"rim", "clapper", "gone"})
	require.NoError(t, err)
	raw, err := document.Write(part)
	require.NoError(t, err)
	there, err := edit.Apply(cm.NewMap("there", "de"), []edit.Operation{&edit.AddKind{ID: "theirs", Name: " PART ", Colour: "rose"}, &edit.AddConcept{ID: "x", Label: "x"}}, nil)
	require.NoError(t, err)
	op := &edit.Paste{Document: raw, By: cm.Point{X: 7}, As: map[cm.ID]cm.ID{"rim": "n1", "clapper": "n2", "c-hits": "n3", "k": "n4", "k-cause": "n5", "t": "n6"}}
	landed, err := edit.Apply(there.Map, []edit.Operation{op}, layout.Placer{Measurer: wide{}})
	require.NoError(t, err)
	sound(t, landed.Map)
	m := landed.Map
	rim := m.Concepts["n1"]
	assert.Equal(t, []string{"rim", "Its **edge**."}, []string{m.Words(rim.Label), m.Words(rim.Note)})
	assert.Equal(t, cm.Text{"en": "rim", "de": "rim"}, rim.Label, "it can be read in the language of the map")
	assert.Equal(t, cm.ID("theirs"), rim.Kind, "a kind of that name is there")
	assert.Equal(t, cm.Colour("rose"), m.KindOf(rim).Colour)
	assert.Equal(t, cm.StrokeHeavy, m.KindOfLink(m.Links["n3"]).Stroke, "one that is not comes along")
	assert.Equal(t, "cast", m.Words(m.Tags["n6"].Name))
	assert.True(t, rim.Tags["n6"])
	assert.Equal(t, out.Map.Says(out.Map.Links["c-hits"]), m.Says(m.Links["n3"]))
	assert.Equal(t, doc(t, there.Map), doc(t, history.Invert(landed.Map, landed.Changes).Map), "and taken back as one")

	again, err := edit.Apply(out.Map, []edit.Operation{op}, nil)
	require.NoError(t, err, "and on its own map, beside itself")
	assert.Equal(t, cm.ID("k"), again.Map.Concepts["n1"].Kind)
	_, err = edit.Part(out.Map, []cm.ID{"gone"})
	assert.ErrorContains(t, err, "not on its map any more")
	for words, op := range map[string]*edit.Paste{
		"proper name": {Document: raw}, "no map of Mevrin": {Document: []byte(`{}`)}, "not whole": {Document: []byte(`[`)},
		"nothing selected": {Document: []byte(`{"mevrin": 1, "id": "m", "language": "en", "concepts": [], "links": []}`)},
	} {
		_, err := edit.Apply(there.Map, []edit.Operation{op}, nil)
		assert.ErrorContains(t, err, words)
	}
}

// Whether siblings share a phrase is decided where the map's other rules are.
func TestASiblingSharesThePhraseOrHasItsOwn(t *testing.T) {
	m := tower(t)
	n := 0
	add := func(words, phrase string, beside cm.ID) error {
		n++
		id := func(kind string) cm.ID { return cm.ID(fmt.Sprintf("%s%d", kind, n)) }
		out, err := edit.Apply(m, []edit.Operation{&edit.AddSibling{Concept: id("p"), Label: words, Phrase: phrase, Beside: beside, Link: id("sl"), Own: id("so"), Above: id("sa")}}, nil)
		if err == nil {
			sound(t, out.Map)
			m = out.Map
		}
		return err
	}
	require.NoError(t, add("lip", "has", "rim"))
	assert.Equal(t, "bell has lip, rim, crown", m.Says(m.Links["b-has"]))
	require.NoError(t, add("shoulder", "widens from", "rim"))
	assert.Equal(t, "bell widens from shoulder", m.Says(m.Links["sl2"]))
	var order []cm.ID
	for _, c := range m.Siblings("bell") {
		order = append(order, c.ID)
	}
	assert.Equal(t, []cm.ID{"clapper", "rim", "p2", "p1", "crown"}, order, "each right behind what it was written beside")
	require.NoError(t, add(" LOOSE", "has", "crown"))
	assert.Equal(t, cm.ID("bell"), m.Parent(m.Concepts["loose"]), "an idea that was there is not doubled")
	require.ErrorContains(t, add("x", "", "bell"), "below another")
	require.ErrorContains(t, add("bell", "has", "rim"), "the idea itself")
}

// Everything that follows the map's language is one change, and comes back without a word.
func TestTheLanguageOfANamedMapIsTakenBack(t *testing.T) {
	out, err := edit.Apply(tower(t), []edit.Operation{&edit.NameMap{Title: "The bell"}}, nil)
	require.NoError(t, err)
	german, err := edit.Apply(out.Map, []edit.Operation{&edit.SetLanguage{Language: "de"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, cm.Text{"de": "The bell"}, german.Map.Title)
	changed := map[cm.Key]int{}
	for _, c := range german.Changes {
		changed[c.Key]++
	}
	assert.Equal(t, 1, changed[cm.Key{Kind: cm.EntityMap, ID: "m"}])
	assert.Zero(t, changed[cm.Key{Kind: cm.EntityMap}])
	back := history.Invert(german.Map, german.Changes)
	assert.Empty(t, back.Notices)
	assert.Equal(t, doc(t, out.Map), doc(t, back.Map))
}

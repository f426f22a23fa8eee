package scene_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

func made(t *testing.T, ops ...edit.Operation) *scene.Scene {
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	return scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)
}

func onConcept(id cm.ID) cm.Key { return cm.Key{Kind: cm.EntityConcept, ID: id} }

// Marks stand in one order, counted by what they are; what stands on the slip
// itself has none.
func TestMarksBelowALabel(t *testing.T) {
	hash := strings.Repeat("0a", 32)
	picture := &cm.File{Hash: hash, Type: "image/png", W: 300, H: 200}
	sound := &cm.File{Hash: hash, Type: "audio/wav"}
	sc := made(t, &edit.AddConcept{ID: "a", Label: "hum"}, &edit.AddConcept{ID: "b", Label: "hum", At: cm.Point{X: 400}},
		&edit.SetNote{On: onConcept("a"), Note: "The *lowest* tone. " + strings.Repeat("x", 400)},
		&edit.AttachSource{On: onConcept("a"), ID: "s1", Source: cm.Source{File: sound, Title: "low"}}, &edit.AttachSource{On: onConcept("a"), ID: "s2", Source: cm.Source{File: sound, Title: "high"}},
		&edit.AttachSource{On: onConcept("a"), ID: "s3", Source: cm.Source{File: picture, Wide: 120, Says: "a bell"}},
		&edit.SetAmount{Concept: "a", Amount: "196 Hz"}, &edit.SetDuration{Concept: "a", Lasts: "20 min"},
		&edit.AddTag{ID: "t", Name: "heard", Colour: "plum"}, &edit.AssignTag{Concepts: []cm.ID{"a"}, Tag: "t", On: true},
		&edit.SetIcons{Concepts: []cm.ID{"a"}, Icons: []cm.Icon{"bell", "ear"}},
		&edit.SetTable{Concept: "a", Table: &cm.Table{Head: true, Rows: [][]string{{"a", "b"}, {"a rather long cell of a table that has to be broken", ""}}}},
	)
	a, b := sc.Slips["a"], sc.Slips["b"]
	var signs, words []string
	right := 0.0
	for _, k := range a.Marks {
		signs, words = append(signs, k.Sign), append(words, k.Words)
		assert.GreaterOrEqual(t, k.X, right, "marks do not lie on each other")
		right = k.X + k.W
	}
	assert.Equal(t, []string{"note", "sound", "words", "words", "tag"}, signs)
	assert.Equal(t, []string{"", "2", "196 Hz", "20 min", "H"}, words)
	assert.LessOrEqual(t, right, a.Box.W-scene.Strip)
	assert.Equal(t, "low\nhigh", a.Marks[1].Hint)
	assert.Len(t, []rune(a.Marks[0].Hint), 241, "a hint is short")
	assert.Equal(t, []cm.Icon{"bell", "ear"}, a.Icons)
	require.NotNil(t, a.Picture)
	assert.Equal(t, scene.Picture{Source: "s3", Hash: hash, W: 120, H: 80, Says: "a bell"}, *a.Picture)
	require.NotNil(t, a.Grid)
	assert.Less(t, a.Grid.W+2*13, a.Box.W+1)
	assert.Greater(t, a.Grid.Rows[1], a.Grid.Rows[0], "a broken cell is higher")
	assert.Greater(t, a.Box.H, b.Box.H+80+a.Grid.H)
	assert.Empty(t, b.Marks)
	assert.Equal(t, a.Box.X+a.Box.W/2, 0.0, "it grows around its place")
}

// Colours stand for what the author chose, and the key says what.
func TestColoursStandForOneThing(t *testing.T) {
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	base := []edit.Operation{
		&edit.AddConcept{ID: "bell", Label: "bell"}, &edit.AddConcept{ID: "rim", Label: "rim", At: cm.Point{X: -200, Y: 150}}, &edit.AddConcept{ID: "yoke", Label: "yoke", At: cm.Point{X: 200, Y: 150}},
		&edit.AddConcept{ID: "bronze", Label: "bronze", At: cm.Point{X: -200, Y: 300}}, &edit.SetFocus{Concept: "bell"},
		&edit.AddLink{ID: "1", Phrase: "has", From: end("f", "bell"), To: end("t", "rim")}, &edit.AddLink{ID: "2", Phrase: "has", From: end("f", "bell"), To: end("t", "yoke")},
		&edit.AddLink{ID: "3", Phrase: "is of", From: end("f", "rim"), To: end("t", "bronze")},
		&edit.AddKind{ID: "k", Name: "part", Colour: "clay"}, &edit.AssignKind{Concepts: []cm.ID{"rim", "yoke"}, Kind: "k"},
		&edit.AddTag{ID: "t", Name: "old", Colour: "plum"}, &edit.AssignTag{Concepts: []cm.ID{"bronze"}, Tag: "t", On: true},
	}
	colours := func(sc *scene.Scene) (all [4]cm.Colour) {
		for i, id := range []cm.ID{"bell", "rim", "yoke", "bronze"} {
			all[i] = sc.Slips[id].Colour
		}
		return all
	}
	rows := func(sc *scene.Scene) (all []string) {
		for _, r := range sc.Key.Rows {
			all = append(all, r.Words+" "+string(r.Colour))
		}
		return all
	}
	by := func(b cm.ColourBy) *scene.Scene { return made(t, append(base, &edit.SetLook{By: &b})...) }
	assert.Equal(t, [4]cm.Colour{"", "clay", "clay", ""}, colours(by(cm.ByKind)))
	assert.Equal(t, []string{"part clay", "old "}, rows(by(cm.ByKind)))
	assert.Equal(t, [4]cm.Colour{"", "sky", "straw", "sky"}, colours(by(cm.ByBranch)))
	assert.Equal(t, []string{"rim sky", "yoke straw", "part ", "old "}, rows(by(cm.ByBranch)), "a kind has its outline alone then")
	assert.Equal(t, [4]cm.Colour{"sky", "straw", "straw", "sea"}, colours(by(cm.ByLevel)))
	assert.Equal(t, [4]cm.Colour{"", "", "", "plum"}, colours(by(cm.ByTag)))
}

// Whatever the map, a key that nobody placed covers nothing.
func TestTheKeyFindsRoom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 30)
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		if sc.Key == nil || m.KeyPlace != nil && m.KeyPlace.At != nil {
			return
		}
		for _, s := range sc.Slips {
			require.False(t, s.Box.Meets(sc.Key.Box), "the key lies on %s", s.ID)
		}
		for _, l := range sc.Links {
			require.False(t, l.Gap.Meets(sc.Key.Box), "the key lies on a phrase")
		}
	})
}

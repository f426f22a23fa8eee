package scene_test

import (
	"fmt"
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

// On any map a card lies beside what it speaks of, joined to it by the shortest
// line; on paper with room for all, cards cover nothing.
func TestCardsLieBesideWhatTheySpeakOf(t *testing.T) {
	card := func(n int, of cm.Key) scene.CardAsked {
		return scene.CardAsked{Stop: cm.ID(fmt.Sprint("s", n)), Number: fmt.Sprint(n), Title: "Hands on the rope", Words: "The clapper does not move by itself. It is swung by a rope, and at the other end of the rope stands the ringer, who pulls.", Shows: []cm.Key{{Kind: cm.EntityConcept, ID: "gone"}, of}}
	}
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		var asked []scene.CardAsked
		for i, id := range cm.SortedIDs(m.Concepts) {
			asked = append(asked, card(i, cm.Key{Kind: cm.EntityConcept, ID: id}))
		}
		for i, id := range cm.SortedIDs(m.Links) {
			asked = append(asked, card(i, cm.Key{Kind: cm.EntityLink, ID: id}))
		}
		cards := scene.Cards(sc, asked)
		require.GreaterOrEqual(t, len(cards), len(m.Concepts))
		for _, c := range cards {
			of := scene.Rect{}
			if s := sc.Slips[c.Of.ID]; s != nil {
				of = s.Box
			} else {
				of = sc.Links[c.Of.ID].Gap
			}
			require.False(t, c.Box.Meets(of), "a card covers what it speaks of")
			require.True(t, of.Grown(0.01, 0.01).Holds(c.From) && c.Box.Grown(0.01, 0.01).Holds(c.To))
		}
	})

	var ops []edit.Operation
	var asked []scene.CardAsked
	for i := range 12 {
		id := cm.ID(fmt.Sprint("c", i))
		ops = append(ops, &edit.AddConcept{ID: id, Label: "the rim of a bell", At: cm.Point{X: float64(i%4) * 420, Y: float64(i/4) * 260}})
		asked = append(asked, card(i, cm.Key{Kind: cm.EntityConcept, ID: id}), card(i+20, cm.Key{Kind: cm.EntityConcept, ID: id}))
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	require.NoError(t, err)
	sc := scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)
	cards := scene.Cards(sc, asked)
	require.Len(t, cards, 24)
	for i, c := range cards {
		for _, s := range sc.Slips {
			assert.False(t, c.Box.Meets(s.Box))
		}
		for _, o := range cards[:i] {
			assert.False(t, c.Box.Meets(o.Box), "two cards lie on each other")
		}
	}
	assert.Empty(t, scene.Cards(sc, []scene.CardAsked{{Stop: "s", Shows: []cm.Key{{Kind: cm.EntityLink, ID: "gone"}}}}), "what shows nothing lies nowhere")
}

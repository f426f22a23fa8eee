package prose_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"mevrin/core/prose"
)

// Hand-made, as somebody might write them: what is said, and what is left to its author.
func TestSentencesAreRead(t *testing.T) {
	bank := []string{"consists of", "is a kind of", "leads to", "besteht aus"}
	say := func(from, phrase, to string) prose.Proposition {
		return prose.Proposition{From: strings.Split(from, "+"), Phrase: phrase, To: strings.Split(to, "+")}
	}
	for _, c := range []struct {
		text  string
		said  []prose.Proposition
		whole bool
	}{
		{"The bell is cast from bronze.", []prose.Proposition{say("bell", "is cast from", "bronze")}, true},
		{"Bell bronze consists of copper and tin.", []prose.Proposition{say("bell bronze", "consists of", "copper+tin")}, true},
		{"Copper, tin and zinc are metals.", []prose.Proposition{say("copper+tin+zinc", "are", "metals")}, true},
		{"The bell is made of bronze, which is a mixture of copper and tin.", []prose.Proposition{say("bell", "is made of", "bronze"), say("bronze", "is a mixture of", "copper+tin")}, true},
		{"Therefore, the clapper hits the sound bow.", []prose.Proposition{say("clapper", "hits", "sound bow")}, true},
		{"In the tower, the bell hangs in a frame.", []prose.Proposition{say("bell", "hangs in", "frame")}, false},
		{"Tin is harder than copper because its grains are small.", []prose.Proposition{say("tin", "is harder than", "copper")}, false},
		{"The sounds of the bell travel through the air.", []prose.Proposition{say("sounds of the bell", "travel through", "air")}, true},
		{"DNA carries genes.", []prose.Proposition{say("DNA", "carries", "genes")}, true},
		{"Glockenbronze besteht aus Kupfer und Zinn.", []prose.Proposition{say("glockenbronze", "besteht aus", "Kupfer+Zinn")}, true},
		{"The sound travels through the air and reaches the ear.", []prose.Proposition{say("sound", "travels through", "air"), say("sound", "reaches", "ear")}, true},
		{"When the bell swings, the clapper strikes the rim.", []prose.Proposition{say("clapper", "strikes", "rim")}, false},
		{"Founders tune each bell by turning it on a lathe.", []prose.Proposition{say("founders", "tune", "bell")}, false},
		{"The strike makes the metal vibrate.", nil, false},
		{"The clapper follows it.", nil, false},
		{"Louvres let out the sound.", []prose.Proposition{say("louvres", "let out", "sound")}, true},
		{"What a bell!", nil, false},
		{"Ring the bell", nil, false},
		{"Is it true?", nil, false},
	} {
		all := prose.Read(c.text, bank)
		assert.Len(t, all, 1, c.text)
		assert.Equal(t, c.said, all[0].Said, c.text)
		assert.Equal(t, c.whole, all[0].Whole, c.text)
	}
	all := prose.Read("The bell hangs in the tower. It weighs e.g. two tons; they are lifted by a crane.\n\nThe end", bank)
	assert.Len(t, all, 4)
	assert.Equal(t, []string{"bell"}, all[1].Said[0].From, "it is the bell")
	assert.Empty(t, all[3].Said)
}

// Whatever is pasted: no word comes from elsewhere, and nothing is lost.
func TestNothingIsMadeUp(t *testing.T) {
	word := rapid.SampledFrom([]string{"the", "bell", "Bronze", "is", "of", "and", "which", "hits", ",", ".", "because", "it", "consists", "\n\n", "é", "(", "—", "sounds"})
	rapid.Check(t, func(t *rapid.T) {
		text := strings.Join(rapid.SliceOfN(word, 0, 60).Draw(t, "words"), " ")
		kept := ""
		for _, s := range prose.Read(text, []string{"consists of"}) {
			kept += " " + s.Words
			for _, p := range s.Said {
				for _, words := range append(append([]string{p.Phrase}, p.From...), p.To...) {
					if words == "" {
						t.Fatalf("nothing is said: %+v", p)
					}
					for w := range strings.FieldsSeq(words) {
						if !strings.Contains(strings.ToLower(text), strings.ToLower(w)) {
							t.Fatalf("%q does not stand in %q", w, text)
						}
					}
				}
			}
		}
		assert.Equal(t, strings.Fields(text), strings.Fields(kept))
	})
}

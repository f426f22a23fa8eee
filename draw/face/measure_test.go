package face_test

import (
	"fmt"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/draw/face"
)

func TestEveryScriptOfTheChainIsMeasured(t *testing.T) {
	for _, words := range []string{"bell wall", "Ærøskøbing ŵ Ǆ", "λόγος Ω", "звук колокола", "صوت الجرس", "钟声", "≤ → ₂"} {
		for _, v := range []face.Voice{face.Noun, face.Verb} {
			w := face.Measure(v, 16, words)
			assert.Zero(t, w.Missing, words)
			assert.Greater(t, w.Px, 8.0, words)
			assert.InDelta(t, 2*w.Px, face.Measure(v, 32, words).Px, 1e-9)
		}
	}
	assert.Equal(t, 1, face.Measure(face.Noun, 16, "a\U0001fae8").Missing)
}

func TestWrapKeepsEveryCharacterAndTheWidth(t *testing.T) {
	plain := rapid.StringOfN(rapid.SampledFrom([]rune("ab ß é-钟声 جرس λ\n")), 0, 60, -1)
	letters := func(s string) string { return strings.Join(strings.Fields(s), "") }
	rapid.Check(t, func(t *rapid.T) {
		words := plain.Draw(t, "words")
		var all strings.Builder
		for _, line := range face.Wrap(face.Noun, 15, 90, words) {
			require.LessOrEqual(t, line.Px, 90.0)
			require.Equal(t, strings.TrimSpace(line.Words), line.Words)
			all.WriteString(line.Words)
		}
		require.Equal(t, letters(words), letters(all.String()))
	})
}

func TestTheStyleSheetNamesEveryFile(t *testing.T) {
	css := face.CSS("/fonts/")
	assert.Contains(t, css, "url(/fonts/source-serif-4-latin-400-italic.woff)")
	assert.Equal(t, strings.Count(css, "@font-face"), strings.Count(css, "unicode-range"))
}

// Glyphs stand as wide apart as words are measured, in order; and any number of people
// measure at the same time, with what one alone would find.
func TestGlyphsAndManyMeasuringAtOnce(t *testing.T) {
	all := []string{"a bell hums", "λόγος Ω", "≤ 钟声 bell", "x"}
	want := map[string]float64{}
	for _, words := range all {
		w := face.Measure(face.Noun, 20, words).Px
		want[words] = w
		last := -1.0
		for _, run := range face.Glyphs(face.Noun, 20, words) {
			for _, g := range run.Glyphs {
				require.Greater(t, g.X, last)
				last = g.X
			}
		}
		require.Less(t, last, w)
		require.Greater(t, last, w-40)
	}
	var done sync.WaitGroup
	for i := range 8 {
		done.Go(func() {
			for n := range 200 {
				words := all[(i+n)%len(all)]
				assert.InDelta(t, want[words], face.Measure(face.Noun, 20, words).Px, 1e-9)
				face.Measure(face.Verb, 20, fmt.Sprint(words, i, n))
			}
		})
	}
	done.Wait()
}

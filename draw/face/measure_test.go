package face_test

import (
	"strings"
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

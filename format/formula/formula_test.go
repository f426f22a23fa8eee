package formula_test

import (
	"encoding/xml"
	"io"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/format/formula"
)

func TestFormulae(t *testing.T) {
	for in, want := range map[string]string{
		"f = v/lambda":   "<mrow><mi>f</mi><mo>=</mo><mfrac><mi>v</mi><mi>λ</mi></mfrac></mrow>",
		"E_0^2":          "<mrow><msup><msub><mi>E</mi><mn>0</mn></msub><mn>2</mn></msup></mrow>",
		"(a+b)/(2 - c)":  "<mrow><mfrac><mrow><mi>a</mi><mo>+</mo><mi>b</mi></mrow><mrow><mn>2</mn><mo>−</mo><mi>c</mi></mrow></mfrac></mrow>",
		"sqrt(1.5) <= x": "<mrow><msqrt><mrow><mn>1.5</mn></mrow></msqrt><mo>≤</mo><mi>x</mi></mrow>",
	} {
		got, ok := formula.MathML(in)
		require.True(t, ok, in)
		assert.Equal(t, "<math>"+want+"</math>", got)
	}
	_, ok := formula.MathML(strings.Repeat("(", 200))
	assert.False(t, ok, "too deep")
	_, ok = formula.MathML(strings.Repeat("a", 301))
	assert.False(t, ok, "too long")
}

// Whatever is typed, well-formed markup of a few elements comes of it.
func FuzzFormula(f *testing.F) {
	for _, s := range []string{"<script>alert(1)</script>", "a</mi><img src=x>", "((((", "^_^", "1/2/3/", "\x00&amp;"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, words string) {
		out, ok := formula.MathML(words)
		if !ok {
			return
		}
		from := xml.NewDecoder(strings.NewReader(strings.ToValidUTF8(out, "")))
		for {
			token, err := from.Token()
			if err == io.EOF {
				return
			}
			if err != nil {
				require.NotContains(t, err.Error(), "element", "%q", words) // XML knows fewer characters than HTML
				return
			}
			if start, isStart := token.(xml.StartElement); isStart {
				require.True(t, slices.Contains([]string{"math", "mrow", "mi", "mn", "mo", "mfrac", "msup", "msub", "msqrt"}, start.Name.Local))
				require.Empty(t, start.Attr)
			}
		}
	})
}

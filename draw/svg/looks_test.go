package svg_test

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/draw/display"
)

// contrast is the contrast ratio of two colours (WCAG 2.2, relative luminance),
// reckoned here anew: what chose the colours is not to judge them.
func contrast(t require.TestingT, a, b string) float64 {
	light := func(c string) float64 {
		sum := 0.0
		for i, weight := range []float64{0.2126, 0.7152, 0.0722} {
			n, err := strconv.ParseUint(c[1+2*i:3+2*i], 16, 8)
			require.NoError(t, err)
			v := float64(n) / 255
			if v <= 0.04045 {
				v /= 12.92
			} else {
				v = math.Pow((v+0.055)/1.055, 2.4)
			}
			sum += weight * v
		}
		return sum
	}
	x, y := light(a), light(b)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05)
}

// In every dress words can be read on whatever they may stand on, in ink and in
// every colour that they may have; lines can be told from the paper.
func TestEveryDressCanBeRead(t *testing.T) {
	assert.InDelta(t, 21, contrast(t, "#000000", "#ffffff"), 1e-9)
	for _, d := range cm.Themes {
		canBeRead(t, cm.Look{Theme: d})
	}
}

// So it is with colours of one's own, whatever is chosen: the ink is corrected, the
// rest follows.
func TestColoursOfOnesOwnCanBeRead(t *testing.T) {
	taken := 0
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) string { return fmt.Sprintf("#%06x", rapid.IntRange(0, 0xffffff).Draw(t, name)) }
		own := cm.OwnColours{Paper: draw("paper"), Slip: draw("slip"), Ink: draw("ink")}
		if rapid.Bool().Draw(t, "alike") {
			own.Slip = own.Paper
		}
		op := &edit.SetLook{Own: &own}
		if rapid.IntRange(0, 3).Draw(t, "picture") == 0 {
			paper := cm.PaperPicture
			op.Paper, op.Picture = &paper, &cm.Backdrop{File: cm.File{Hash: strings.Repeat("0a", 32), Type: "image/png", W: 40, H: 30}, Wide: 400}
		}
		out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{op}, nil)
		if err != nil {
			require.ErrorContains(t, err, "No ink can be read")
			return
		}
		taken++
		l := out.Map.Look
		require.Equal(t, []string{own.Paper, own.Slip}, []string{l.Own.Paper, l.Own.Slip})
		require.Equal(t, l.Own.Ink != own.Ink, len(out.Notices) == 1, "what is corrected is said")
		canBeRead(t, l)
		require.Contains(t, display.Own(l), "--ink: "+l.Own.Ink+";")
	})
	assert.Greater(t, taken, 30)
}

func canBeRead(t require.TestingT, d cm.Look) {
	picture := d.Own == nil || d.Paper == cm.PaperPicture
	grounds := []string{"paper", "slip"}
	for _, c := range cm.Colours {
		grounds = append(grounds, string(c)+"-wash")
	}
	for _, ground := range grounds {
		on := display.Colour(d, ground)
		assert.GreaterOrEqual(t, contrast(t, display.Colour(d, "ink"), on), 4.5, "%v: ink on %s", d, ground)
		for _, c := range cm.Colours {
			assert.GreaterOrEqual(t, contrast(t, display.Colour(d, string(c)+"-deep"), on), 4.5, "%v: %s words on %s", d, c, ground)
		}
	}
	for _, name := range []string{"ink-soft", "madder", "moss"} {
		assert.GreaterOrEqual(t, contrast(t, display.Colour(d, name), display.Colour(d, "paper")), 4.5, "%v: %s on paper", d, name)
	}
	// Whatever lies under the map as a picture: its darkest and its lightest.
	for _, c := range []string{"#000000", "#ffffff"} {
		if !picture {
			break
		}
		under := blended(t, c, display.Colour(d, "paper"), cm.BackdropOpacity)
		assert.GreaterOrEqual(t, contrast(t, display.Colour(d, "ink"), under), 4.5, "%v: ink over a picture of %s", d, c)
		assert.GreaterOrEqual(t, contrast(t, display.Colour(d, "ink-soft"), under), 3.0, "%v: lines over a picture of %s", d, c)
	}
	for i, a := range cm.Colours {
		for _, b := range cm.Colours[:i] {
			assert.NotEqual(t, display.Colour(d, string(a)), display.Colour(d, string(b)))
		}
	}
}

// blended gives the colour that is seen where one lies over another.
func blended(t require.TestingT, over, under string, opacity float64) string {
	out := "#"
	for i := 1; i < 7; i += 2 {
		a, err := strconv.ParseUint(over[i:i+2], 16, 8)
		require.NoError(t, err)
		b, err := strconv.ParseUint(under[i:i+2], 16, 8)
		require.NoError(t, err)
		out += fmt.Sprintf("%02x", int(math.Round(float64(a)*opacity+float64(b)*(1-opacity))))
	}
	return out
}

// blind are the ways in which eyes may lack colours: how much of red, green and
// blue light they see as which (Machado, Oliveira and Fernandes, A physiologically-based
// model for simulation of color vision deficiency, 2009, severity 1).
var blind = map[string][3][3]float64{
	"none":   {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}},
	"protan": {{0.152286, 1.052583, -0.204868}, {0.114503, 0.786281, 0.099216}, {-0.003882, -0.048116, 1.051998}},
	"deutan": {{0.367322, 0.860646, -0.227968}, {0.280085, 0.672501, 0.047413}, {-0.011820, 0.042940, 0.968881}},
	"tritan": {{1.255528, -0.076749, -0.178779}, {-0.078411, 0.930809, 0.147602}, {0.004733, 0.691367, 0.303900}},
}

// seenAs gives a colour in CIELAB (CIE 15:2004, D65) as eyes of one sort see it.
func seenAs(t *testing.T, c string, eyes [3][3]float64) (lab [3]float64) {
	var linear, seen [3]float64
	for i := range linear {
		n, err := strconv.ParseUint(c[1+2*i:3+2*i], 16, 8)
		require.NoError(t, err)
		if v := float64(n) / 255; v <= 0.04045 {
			linear[i] = v / 12.92
		} else {
			linear[i] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	for i := range seen {
		for j := range linear {
			seen[i] += eyes[i][j] * linear[j]
		}
		seen[i] = math.Min(1, math.Max(0, seen[i]))
	}
	f := func(v float64) float64 {
		if v > 0.008856 {
			return math.Cbrt(v)
		}
		return 7.787*v + 16.0/116
	}
	x := f((0.4124*seen[0] + 0.3576*seen[1] + 0.1805*seen[2]) / 0.95047)
	y := f(0.2126*seen[0] + 0.7152*seen[1] + 0.0722*seen[2])
	z := f((0.0193*seen[0] + 0.1192*seen[1] + 0.9505*seen[2]) / 1.08883)
	return [3]float64{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

// The colours of kinds stay apart for eyes that lack red, green or blue: about ten
// times what can just be told apart (a distance of 2.3 in CIELAB: Mahy, Van Eycken
// and Oosterlinck, 1994).
func TestColoursStayApart(t *testing.T) {
	assert.InDelta(t, 53.24, seenAs(t, "#ff0000", blind["none"])[0], 0.05)
	for name, eyes := range blind {
		for i, a := range cm.Colours {
			for _, b := range cm.Colours[:i] {
				p, q := seenAs(t, display.Colour(cm.Look{}, string(a)), eyes), seenAs(t, display.Colour(cm.Look{}, string(b)), eyes)
				apart := math.Hypot(math.Hypot(p[0]-q[0], p[1]-q[1]), p[2]-q[2])
				assert.Greater(t, apart, 22.0, "%s and %s, %s", a, b, name)
			}
		}
	}
}

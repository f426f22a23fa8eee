// Package shade reckons with colours as screens show them: how well one can be told
// from another, what a mixture of two is, and how to move one until it can be read.
// Colours are sRGB (IEC 61966-2-1), written as six small hexadecimal digits behind a
// hash.
package shade

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
)

var form = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// Valid tells whether a colour has the form of one.
func Valid(c string) bool { return form.MatchString(c) }

func parts(c string) (rgb [3]float64) {
	n, _ := strconv.ParseUint(c[1:], 16, 32) // its form was checked
	return [3]float64{float64(n >> 16), float64(n >> 8 & 255), float64(n & 255)}
}

// Luminance gives the relative luminance of a colour, from 0 (black) to 1 (white):
// WCAG 2.2, "relative luminance".
func Luminance(c string) float64 {
	rgb, sum := parts(c), 0.0
	for i, weight := range [3]float64{0.2126, 0.7152, 0.0722} {
		v := rgb[i] / 255
		if v <= 0.04045 {
			v /= 12.92
		} else {
			v = math.Pow((v+0.055)/1.055, 2.4)
		}
		sum += weight * v
	}
	return sum
}

// Contrast gives the contrast ratio of two colours, from 1 to 21: WCAG 2.2,
// "contrast ratio".
func Contrast(a, b string) float64 {
	x, y := Luminance(a), Luminance(b)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05)
}

// Mix gives a colour with a part of another in it, from 0 for the first to 1 for
// the second, as a screen blends them.
func Mix(a, b string, part float64) string {
	x, y, out := parts(a), parts(b), "#"
	for i := range x {
		out += fmt.Sprintf("%02x", int(math.Round(x[i]*(1-part)+y[i]*part)))
	}
	return out
}

// Readable moves a colour towards black or white, as little as it takes, until its
// contrast to each of some grounds is at least a ratio. Ok is false where neither
// black nor white is far enough from all of them; the colour is then returned as it
// was.
func Readable(c string, ratio float64, grounds ...string) (moved string, ok bool) {
	enough := func(c string) bool {
		for _, g := range grounds {
			if Contrast(c, g) < ratio {
				return false
			}
		}
		return true
	}
	if enough(c) {
		return c, true
	}
	moved, least := c, 2.0
	for _, end := range []string{"#000000", "#ffffff"} {
		if !enough(end) {
			continue
		}
		// Once far enough from all grounds, it stays so on the way to the end.
		low, high := 0.0, 1.0
		for high-low > 1.0/512 {
			if mid := (low + high) / 2; enough(Mix(c, end, mid)) {
				high = mid
			} else {
				low = mid
			}
		}
		if high < least {
			moved, least, ok = Mix(c, end, high), high, true
		}
	}
	return moved, ok
}

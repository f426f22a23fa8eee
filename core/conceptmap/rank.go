package conceptmap

import "strings"

// digits are those of a rank, in the order of their bytes, so that ranks are
// compared as plain strings in Go, in SQLite and in JavaScript alike.
const digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"

// KeyBetween gives a rank that sorts after a and before b. An empty a stands
// for the beginning, an empty b for the end. A rank is read as the digits of a
// fraction in base 62 and never ends in "0", so there is always room for
// another between two different ranks. It panics unless a sorts before b:
// callers take both from one sorted list.
func KeyBetween(a, b string) string {
	if b != "" && a >= b {
		panic("conceptmap: KeyBetween wants a before b")
	}
	var key strings.Builder
	open := b == "" // once above a digit of b's, any digit will do
	for i := 0; ; i++ {
		lo, hi := 0, len(digits)
		if i < len(a) {
			lo = strings.IndexByte(digits, a[i])
		}
		if !open && i < len(b) {
			hi = strings.IndexByte(digits, b[i])
		}
		switch {
		case hi-lo > 1:
			mid := (lo + hi) / 2
			if b == "" && lo+1 < hi && i < len(a) {
				mid = lo + 1 // appending is the usual case: stay short for long
			}
			key.WriteByte(digits[mid])
			return key.String()
		case hi-lo == 1:
			key.WriteByte(digits[lo])
			open = true
		default:
			key.WriteByte(digits[lo])
		}
	}
}

// MaxRank bounds a rank, in characters.
const MaxRank = 200

// ValidRank tells whether a string has the form of a rank.
func ValidRank(key string) bool {
	return key != "" && len(key) <= MaxRank && key[len(key)-1] != '0' &&
		strings.Trim(key, digits) == ""
}

// Package likeness tells whether words mean the same, or hold what is sought: letter
// by letter but for case and spaces (Fold), as names of one concept (Stem), as a place in
// a text (Holds, Parted). Check, ideas, sentences and search compare by it.
package likeness

import "strings"

// Fold gives a label as it is compared: letter case, and spaces beyond one
// between words, make no difference.
func Fold(label string) string {
	return strings.ToLower(strings.Join(strings.Fields(label), " "))
}

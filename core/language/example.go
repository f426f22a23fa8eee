package language

import (
	"slices"

	"mevrin/core/likeness"
)

// ForExamples tells that a kind of this name is one for examples, in whichever language.
func ForExamples(name string) bool {
	return slices.Contains([]string{"example", "examples", "beispiel", "beispiele", "exemple", "exemples", "ejemplo", "ejemplos"}, likeness.Fold(name))
}

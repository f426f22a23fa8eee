package conceptmap

import (
	"maps"
	"slices"
)

// Outcome is what became of an entry.
type Outcome struct {
	Map     *Map
	Changes []Change
	Moved   []Moved
	// Notices says in plain words what the person should hear about: what was
	// dropped on the way, or left alone by an undo.
	Notices []string
}

// OutcomeOf compares a draft with what it began as.
func OutcomeOf(d *draft) Outcome {
	out := Outcome{Map: d.m, Moved: d.moved, Notices: d.notices}
	for _, key := range slices.SortedFunc(maps.Keys(d.touched), compareKeys) {
		if change := Difference(d.base, d.m, key); !change.Nothing() {
			out.Changes = append(out.Changes, change)
		}
	}
	return out
}

package history

import (
	"maps"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/message"
	"slices"
)

// Outcome is what became of an entry.
type Outcome struct {
	Map     *cm.Map
	Changes []Change
	Moved   []draft.Moved
	// Notices says in plain words what the person should hear about: what was
	// dropped on the way, or left alone by an undo.
	Notices []message.Message
}

// OutcomeOf compares a draft with what it began as.
func OutcomeOf(d *draft.Draft) Outcome {
	out := Outcome{Map: d.Map, Moved: d.Moves, Notices: d.Notices}
	for _, key := range slices.SortedFunc(maps.Keys(d.Touched), compareKeys) {
		if change := Difference(d.Base, d.Map, key); !change.Nothing() {
			out.Changes = append(out.Changes, change)
		}
	}
	return out
}

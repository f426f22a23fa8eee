// Package demo holds the maps that a new Mevrin is shown with. They are made
// by the operations that a person's hands would perform, and are all set in
// the made-up Hollin bell works.
package demo

import (
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// Map is a map of the demo: its id and the entries that make it, in order.
type Map struct {
	ID      cm.ID
	Entries [][]edit.Operation
	Files   []File // that its sources name
}

// File is a file of a map.
type File struct {
	Name string
	Raw  []byte
}

// Maps gives all maps of the demo.
func Maps() []Map { return []Map{bell(), ownBell(), casting(), ringing(), lesson(), firstTry()} }

// Build performs the entries of a map.
func (d Map) Build() (*cm.Map, error) {
	m := cm.NewMap(d.ID, "en")
	for i, ops := range d.Entries {
		out, err := edit.Apply(m, ops, nil)
		if err != nil {
			return nil, fmt.Errorf("demo map %s, entry %d: %w", d.ID, i+1, err)
		}
		m = out.Map
	}
	return m, nil
}

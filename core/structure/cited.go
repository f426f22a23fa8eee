package structure

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// Citations gives the works that a map cites, each once: in the order in which its
// concepts are read, then those of links, then those that are attached to nothing.
func (s *Structure) Citations() []cm.Citation {
	var all []cm.Citation
	add := func(sources map[cm.ID]cm.Source) {
		for _, id := range cm.SourceList(sources) {
			if c := sources[id].Cite; c != nil && !slices.Contains(all, *c) {
				all = append(all, *c)
			}
		}
	}
	for _, id := range s.Order {
		add(s.m.Concepts[id].Sources)
	}
	for _, id := range cm.SortedIDs(s.m.Links) {
		add(s.m.Links[id].Sources)
	}
	add(s.m.Tray)
	return all
}

package query

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
)

// FoundMap is a map on which words were found, with where.
type FoundMap struct {
	store.Summary
	Hits []Said // sentences, or words alone
	More int    // that are not shown
}

// The bounds of what a search shows.
const (
	MaxHits      = 300
	shownHits    = 4
	maxFoundMaps = 40
)

// FoundOn shares out what was found among the maps, the best first.
func FoundOn(maps []store.Summary, hits []store.Hit) (all []FoundMap) {
	for _, h := range hits {
		i := slices.IndexFunc(all, func(f FoundMap) bool { return f.ID == h.MapID })
		if i < 0 {
			at := slices.IndexFunc(maps, func(m store.Summary) bool { return m.ID == h.MapID })
			if at < 0 || len(all) == maxFoundMaps {
				continue
			}
			all, i = append(all, FoundMap{Summary: maps[at]}), len(all)
		}
		f := &all[i]
		if h.Entity == cm.EntityMap { // it is what the map is called, which stands there
			continue
		}
		if len(f.Hits) == shownHits {
			f.More++
			continue
		}
		one := Said{From: h.Words}
		if h.From != "" && h.To != "" {
			one = Said{h.From, h.Words, h.To}
		}
		f.Hits = append(f.Hits, one)
	}
	return all
}

package query

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/differences"
	"mevrin/markdown"
	"mevrin/store"
)

// FoundMap is a map on which words were found, with where.
type FoundMap struct {
	store.Summary
	Hits []differences.Said // sentences, or words alone
	More int                // that are not shown
}

// The bounds of what a search shows.
const (
	MaxHits      = 300
	shownHits    = 4
	maxFoundMaps = 40
)

// plainWords gives words that may be CommonMark without their marks, each of several texts set off from the next.
func plainWords(words string) string {
	var all []string
	for line := range strings.SplitSeq(words, "\n") {
		if line = strings.Join(strings.Fields(markdown.Plain(line)), " "); line != "" {
			all = append(all, line)
		}
	}
	return strings.Join(all, " · ")
}

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
		one := differences.Said{From: plainWords(h.Words)}
		if h.From != "" && h.To != "" {
			one = differences.Said{From: h.From, Phrase: plainWords(h.Words), To: h.To}
		}
		f.Hits = append(f.Hits, one)
	}
	return all
}

package guide

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
)

// ChangeOf is what became of something at a stop.
type ChangeOf string

// What can have become of it.
const (
	ChangeAdded   ChangeOf = "added"   // the stop is new
	ChangeMoved   ChangeOf = "moved"   // the stop has another place on the route
	ChangeRemoved ChangeOf = "removed" // the stop is gone, or left out
	ChangeCard    ChangeOf = "card"    // its card reads otherwise
	ChangeWords   ChangeOf = "words"   // something that it shows has other words
	ChangeGone    ChangeOf = "gone"    // something that it shows is gone from the map
	ChangeNear    ChangeOf = "near"    // something new is linked with what it shows
)

// Change is one thing that is otherwise at a stop than before.
type Change struct {
	Of   ChangeOf
	Stop cm.ID
	// Key is the thing that it is about, Was its words before, Now its words now.
	Key      cm.Key
	Was, Now string
}

// Changes gives what is otherwise along a route than it was on an earlier state of the map, stop by
// stop as they stand now, what is gone last.
func Changes(before, now *cm.Map, route cm.ID) (all []Change) {
	was, is := map[cm.ID]int{}, map[cm.ID]bool{}
	old := before.WalkedStops(route)
	stops := now.WalkedStops(route)
	for _, s := range stops {
		is[s.ID] = true
	}
	for _, s := range old {
		if is[s.ID] {
			was[s.ID] = len(was)
		}
	}
	place := 0
	for _, s := range stops {
		at, there := was[s.ID]
		if !there {
			all = append(all, Change{Of: ChangeAdded, Stop: s.ID})
			continue
		}
		if at != place {
			all = append(all, Change{Of: ChangeMoved, Stop: s.ID})
		}
		place++
		if b := before.Stops[s.ID]; !maps.Equal(b.Card, s.Card) || b.FromMap != s.FromMap || !maps.Equal(b.Title, s.Title) || !maps.Equal(b.Question, s.Question) || !maps.Equal(b.Answer, s.Answer) {
			all = append(all, Change{Of: ChangeCard, Stop: s.ID})
		}
		all = append(all, changesAt(before, now, s)...)
	}
	for _, s := range old {
		if !is[s.ID] {
			all = append(all, Change{Of: ChangeRemoved, Stop: s.ID, Was: Name(before, s)})
		}
	}
	return all
}

func changesAt(before, now *cm.Map, s *cm.Stop) (all []Change) {
	shown := map[cm.ID]bool{}
	for _, ref := range s.Refs {
		key := cm.Key{Kind: ref.Kind, ID: ref.ID}
		a, had := before.WordsAt(key)
		b, has := now.WordsAt(key)
		switch {
		case ref.Kind == cm.EntityMap:
		case had && !has:
			all = append(all, Change{Of: ChangeGone, Stop: s.ID, Key: key, Was: before.Words(a)})
		case had && before.Words(a) != now.Words(b):
			all = append(all, Change{Of: ChangeWords, Stop: s.ID, Key: key, Was: before.Words(a), Now: now.Words(b)})
		}
		shown[ref.ID] = has && ref.Kind == cm.EntityConcept
	}
	var near []cm.ID
	for _, id := range cm.SortedIDs(now.Links) {
		ends := now.Links[id].Ends()
		if before.Links[id] != nil || !slices.ContainsFunc(ends, func(e cm.End) bool { return shown[e.Concept] }) {
			continue
		}
		for _, e := range ends {
			if !shown[e.Concept] && before.Concepts[e.Concept] == nil && !slices.Contains(near, e.Concept) {
				near = append(near, e.Concept)
			}
		}
	}
	for _, id := range near {
		all = append(all, Change{Of: ChangeNear, Stop: s.ID, Key: cm.Key{Kind: cm.EntityConcept, ID: id}, Now: now.Words(now.Concepts[id].Label)})
	}
	return all
}

package guide

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
)

// Lead is how a room is led along a route at one moment. The zero value stands before the first
// stop, where the focus concept stands alone.
type Lead struct {
	Stop cm.ID // empty before the first
	// Way are the stops that were gone through, the present one last.
	Way []cm.ID
	// Part is how many of the parts of the stop stand, counted from 1.
	Part int
	// Aside are the concepts at which the room looked beside the route since it left it, the one
	// that it looks at last; empty on the route.
	Aside   []cm.ID
	Visited map[cm.ID]bool // stops
	Closer  bool           // near at what the stop speaks of
	Answer  bool           // the answer to the question of the stop is uncovered
	Dark    bool
	Large   *cm.Proposed // a proposition that is shown as a sentence
	Source  *SourceOf    // one that is shown large
	Only    cm.ID        // a kind or a tag: all else is faded
	Tucked  map[cm.ID]bool
}

// SourceOf names a source of a concept or a link.
type SourceOf struct {
	Of cm.Key
	ID cm.ID
}

// Deed is what whoever guides does.
type Deed string

// The deeds. Those that put something over the map take it away again when they are done twice.
const (
	DeedNext     Deed = "next" // the next part or stop; takes away what lies over the map, and leads back to the route, first
	DeedBack     Deed = "back"
	DeedStop     Deed = "stop"    // to a stop; without one before the first
	DeedConcept  Deed = "concept" // leaves the route for a concept and what is linked with it
	DeedReturn   Deed = "return"  // to the stop at which the route was left
	DeedCloser   Deed = "closer"
	DeedAnswer   Deed = "answer" // uncovers the answer to the question of the stop
	DeedDark     Deed = "dark"
	DeedSentence Deed = "sentence"
	DeedSource   Deed = "source"
	DeedOnly     Deed = "only" // fades all that is not of a kind or tag
	DeedTuck     Deed = "tuck" // the branch below a concept
)

// Command is a deed and what it is done to.
type Command struct {
	Deed     Deed
	ID       cm.ID       // a stop, a concept, a kind or a tag
	Sentence cm.Proposed // for DeedSentence
	Source   SourceOf    // for DeedSource
}

// Do gives how the room is led after a deed. It refuses what is not on the map (any more).
func (l Lead) Do(m *cm.Map, route cm.ID, c Command) (Lead, error) {
	l.Visited, l.Tucked, l.Aside = maps.Clone(l.Visited), maps.Clone(l.Tucked), slices.Clone(l.Aside)
	way := slices.DeleteFunc(slices.Clone(l.Way), func(id cm.ID) bool { return m.Stops[id] == nil })
	parts := partsAt(m, way)
	over := l.Dark || l.Large != nil || l.Source != nil
	gone := cm.Refusef("That is no longer on the map.")
	switch c.Deed {
	case DeedNext, DeedBack:
		switch {
		case over:
			l.Dark, l.Large, l.Source = false, nil, nil
		case len(l.Aside) > 1 && c.Deed == DeedBack:
			l.Aside = l.Aside[:len(l.Aside)-1]
		case len(l.Aside) > 0:
			l.Aside = nil
		case c.Deed == DeedNext && l.Part < parts:
			l.Part++
		case c.Deed == DeedNext:
			if on := l.on(m, route, way); on != "" && len(way) < maxWay {
				l.to(m, append(way, on), 1)
			}
		case c.Deed == DeedBack && l.Part > 1:
			l.Part = min(l.Part, parts) - 1
		case c.Deed == DeedBack && len(way) > 0:
			l.to(m, way[:len(way)-1], 0)
		}
	case DeedStop:
		if s := m.Stops[c.ID]; c.ID != "" && (s == nil || s.Route != route || s.Skipped) {
			return l, cm.Refusef("This stop is gone from the route.")
		}
		l.Aside, l.Dark, l.Large, l.Source = nil, false, nil, nil
		if slices.ContainsFunc(Next(m, l.Stop), func(w WayOn) bool { return w.To == c.ID }) && len(way) < maxWay {
			l.to(m, append(way, c.ID), 1)
		} else {
			l.to(m, wayTo(m, route, c.ID), 0)
		}
	case DeedConcept:
		if m.Concepts[c.ID] == nil {
			return l, gone
		}
		l.Dark, l.Large, l.Source = false, nil, nil
		if i := slices.Index(l.Aside, c.ID); i >= 0 { // back on the way that one came
			l.Aside = l.Aside[:i]
		}
		l.Aside = append(l.Aside, c.ID)
		l.Aside = l.Aside[max(0, len(l.Aside)-maxAside):]
	case DeedReturn:
		l.Aside, l.Large, l.Source = nil, nil, nil
	case DeedCloser:
		l.Closer = !l.Closer
	case DeedAnswer:
		if s := m.Stops[l.Stop]; s == nil || s.Answer.Empty() {
			return l, cm.Refusef("There is no answer at this stop.")
		}
		l.Answer = !l.Answer
	case DeedDark:
		l.Dark = !l.Dark
	case DeedSentence:
		if l.Large != nil && *l.Large == c.Sentence || c.Sentence.Link == "" {
			l.Large = nil
			break
		}
		if _, _, known := m.Reads(c.Sentence); !known {
			return l, gone
		}
		l.Large, l.Source = &c.Sentence, nil
	case DeedSource:
		if l.Source != nil && *l.Source == c.Source || c.Source.ID == "" {
			l.Source = nil
			break
		}
		if _, there := SourcesAt(m, c.Source.Of)[c.Source.ID]; !there {
			return l, gone
		}
		l.Source, l.Large = &c.Source, nil
	case DeedOnly:
		if c.ID == l.Only {
			c.ID = ""
		}
		if c.ID != "" && m.Kinds[c.ID] == nil && m.Tags[c.ID] == nil {
			return l, gone
		}
		l.Only = c.ID
	case DeedTuck:
		if m.Concepts[c.ID] == nil {
			return l, gone
		}
		if l.Tucked[c.ID] {
			delete(l.Tucked, c.ID)
		} else if l.Tucked = orMade(l.Tucked); true {
			l.Tucked[c.ID] = true
		}
	default:
		return l, cm.Refusef("That cannot be done while a room is led.")
	}
	return l, nil
}

// maxAside bounds the way beside a route that is remembered.
const maxAside = 40

func orMade(of map[cm.ID]bool) map[cm.ID]bool {
	if of == nil {
		return map[cm.ID]bool{}
	}
	return of
}

// maxWay bounds the way that is remembered where a route goes round.
const maxWay = 500

// on gives where one goes on: the first way on from the stop, the first stop from before it.
func (l *Lead) on(m *cm.Map, route cm.ID, way []cm.ID) cm.ID {
	if len(way) > 0 {
		if next := Next(m, way[len(way)-1]); len(next) > 0 {
			return next[0].To
		}
		return ""
	}
	if stops := m.WalkedStops(route); len(stops) > 0 {
		return stops[0].ID
	}
	return ""
}

// to goes along a way; the first part of its last stop stands, or all of them where part is 0.
func (l *Lead) to(m *cm.Map, way []cm.ID, part int) {
	l.Stop, l.Part, l.Way, l.Answer = "", 0, way, false
	if len(way) == 0 {
		return
	}
	l.Stop, l.Part = way[len(way)-1], part
	if all := partsAt(m, way); part == 0 || all == 0 {
		l.Part = all
	}
	l.Visited = orMade(l.Visited)
	l.Visited[l.Stop] = true
}

// partsAt gives how many parts the last stop of a way has.
func partsAt(m *cm.Map, way []cm.ID) int {
	steps := GrowthAlong(m, way)
	if len(steps) == 0 {
		return 0
	}
	return len(steps[len(steps)-1].Parts(m))
}

// SourcesAt gives the sources of a concept, a link or a stop.
func SourcesAt(m *cm.Map, key cm.Key) map[cm.ID]cm.Source {
	if c := m.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
		return c.Sources
	}
	if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
		return l.Sources
	}
	if s := m.Stops[key.ID]; key.Kind == cm.EntityStop && s != nil {
		return s.Sources
	}
	return nil
}

// Parts gives what a step brings, in the order in which it is brought. It is one part where its
// stop does not ask for one thing after the other; then the first concept stands alone, each
// further one comes with the link that joins it, and each further link by itself.
func (s Step) Parts(m *cm.Map) [][]cm.Key {
	var all []cm.Key
	for _, id := range s.Concepts {
		all = append(all, cm.Key{Kind: cm.EntityConcept, ID: id})
	}
	stop := m.Stops[s.Stop]
	if stop == nil || !stop.OneByOne {
		for _, id := range s.Links {
			all = append(all, cm.Key{Kind: cm.EntityLink, ID: id})
		}
		if len(all) == 0 {
			return nil
		}
		return [][]cm.Key{all}
	}
	waits := map[cm.ID]bool{}
	for _, id := range s.Concepts {
		waits[id] = true
	}
	left := slices.Clone(s.Links)
	var parts [][]cm.Key
	complete := func(part []cm.Key) {
		for i := 0; i < len(left); i++ {
			if slices.ContainsFunc(m.Links[left[i]].Ends(), func(e cm.End) bool { return waits[e.Concept] }) {
				continue
			}
			parts = append(parts, append(part, cm.Key{Kind: cm.EntityLink, ID: left[i]}))
			part, left = nil, slices.Delete(left, i, i+1)
			i--
		}
		if len(part) > 0 {
			parts = append(parts, part)
		}
	}
	complete(nil)
	for _, key := range all {
		delete(waits, key.ID)
		complete([]cm.Key{key})
	}
	return parts
}

// Due gives from which minute to which the room is at a stop if all goes as planned: by the minutes
// of the stops; where none has any, the minutes of the route in equal shares. Planned is false where
// neither says anything, or the stop is not on the route.
func Due(m *cm.Map, route, stop cm.ID) (from, to float64, planned bool) {
	stops := m.WalkedStops(route)
	sum := 0
	for _, s := range stops {
		sum += s.Minutes
	}
	for _, s := range stops {
		takes := float64(s.Minutes)
		if r := m.Routes[route]; sum == 0 && r != nil {
			takes = float64(r.Minutes) / float64(len(stops))
		}
		to = from + takes
		planned = planned || takes > 0
		if s.ID == stop {
			return from, to, planned || sum > 0
		}
		from = to
	}
	return 0, 0, false
}

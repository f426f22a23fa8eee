package content

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
)

// Stop is a stop of a route as it stands on paper or on a slide.
type Stop struct {
	ID    cm.ID
	Title string
	// Card, Question, Answer and GuideNotes are CommonMark; empty where there is none.
	Card, Question, Answer, GuideNotes string
	Means                              map[cm.ID]bool // what it speaks of
	Grown                              *cm.Map        // all that stands by then
	Part                               *cm.Map        // what it speaks of and what is new, alone
}

// Walked gives the route that an export is about: the one that is exported, or the first that has stops;
// nil where there is none.
func (e *Export) Walked() *cm.Route {
	if r := e.Map.Routes[e.Route]; r != nil {
		return r
	}
	for _, id := range cm.SortedIDs(e.Map.Routes) {
		if len(e.Map.WalkedStops(id)) > 0 {
			return e.Map.Routes[id]
		}
	}
	return nil
}

// Stops gives the stops of a route, in their order.
func (e *Export) Stops(route cm.ID) []Stop {
	steps := guide.Growth(e.Map, route)
	said := guide.Said(e.Map, e.Structure, route, e.Words)
	all := make([]Stop, len(steps))
	for i, step := range steps {
		stop := e.Map.Stops[step.Stop]
		s := Stop{ID: stop.ID, Title: guide.NameIn(e.Map, stop, e.Words), Card: e.Words(stop.Card), Question: e.Words(stop.Question), Answer: e.Words(stop.Answer), GuideNotes: e.Words(stop.GuideNotes), Means: map[cm.ID]bool{}}
		if guide.FollowsMap(stop) {
			s.Card = said[stop.ID]
		}
		for _, key := range step.Shows {
			s.Means[key.ID] = true
		}
		s.Grown = guide.Part(e.Map, steps[:i+1])
		s.Part = guide.Part(e.Map, []guide.Step{alone(s.Grown, step)})
		all[i] = s
	}
	return all
}

// alone is a step with all that it speaks of, whether it is new there or not, and the links between that.
func alone(grown *cm.Map, step guide.Step) guide.Step {
	stands := map[cm.ID]bool{}
	add := func(id cm.ID) {
		if grown.Concepts[id] != nil {
			stands[id] = true
		}
	}
	addEnds := func(l *cm.Link) {
		for _, end := range l.Ends() {
			add(end.Concept)
		}
	}
	for _, id := range step.Concepts {
		add(id)
	}
	for _, id := range step.Links {
		addEnds(grown.Links[id])
	}
	for _, key := range step.Shows {
		add(key.ID)
		if l := grown.Links[key.ID]; l != nil {
			addEnds(l)
		}
	}
	step = guide.Step{Concepts: cm.SortedIDs(stands)}
	for _, id := range cm.SortedIDs(grown.Links) {
		whole := true
		for _, end := range grown.Links[id].Ends() {
			whole = whole && stands[end.Concept]
		}
		if whole {
			step.Links = append(step.Links, id)
		}
	}
	return step
}

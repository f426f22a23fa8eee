package check

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
)

var routeRules = []*Rule{
	{
		ID: "route-empty-card", About: AboutRoute, Title: "A stop would show an empty card",
		Why:   "Whoever walks alone reads the card. Without a word they do not know what to look at.",
		Looks: "Stops without a title and without a card in any language.",
		find:  emptyCards,
	},
	{
		ID: "route-stop-gone", About: AboutRoute, Title: "A stop speaks of what is gone",
		Why:   "What it showed has been removed from the map since.",
		Looks: "Stops of which a concept or a link is no longer on the map.",
		find:  stopsGone,
	},
	{
		ID: "route-jump", About: AboutRoute, Title: "Two stops have no link between them",
		Why:   "Those who walk do not see how one follows from the other.",
		Looks: "Stops whose concepts are linked to none of those of the stop before, nor to any that was shown by then.",
		find:  routeJumps,
	},
	{
		ID: "route-unreached", About: AboutRoute, Title: "No way leads to a stop",
		Why:   "Whoever walks never comes there: all ways go past it.",
		Looks: "Stops that no choice and no stop before them leads to, on routes that branch.",
		find:  lostStops(true),
	},
	{
		ID: "route-endless", About: AboutRoute, Title: "A way never comes to an end",
		Why:   "Whoever takes it goes round in a circle.",
		Looks: "Stops from which no way leads to the end of the route, on routes that branch.",
		find:  lostStops(false),
	},
	{
		ID: "route-not-visited", About: AboutRoute, Least: 0.8, Title: "A route leaves out a concept of its levels",
		Why:   "Where a route covers a level, what it leaves out there is likely to have been forgotten.",
		Looks: "Concepts that a route never shows, on levels of which it shows this share or more.",
		find:  notVisited,
	},
	{
		ID: "route-long", About: AboutRoute, Least: 30, Title: "A route is long to read",
		Why:    "Attention has its limits; two routes may serve better.",
		Looks:  "Routes whose cards take more minutes than are planned for the route, or than so many where nothing is planned, at 200 words a minute.",
		Source: "Brysbaert: How many words do we read per minute? Journal of Memory and Language 109 (2019)",
		find:   longRoutes,
	},
}

func stopKey(id cm.ID) cm.Key  { return cm.Key{Kind: cm.EntityStop, ID: id} }
func routeKey(id cm.ID) cm.Key { return cm.Key{Kind: cm.EntityRoute, ID: id} }

// stops calls do for the stops of all routes, each with the one before on its route, or nil.
func (l *look) stops(do func(stop, before *cm.Stop)) {
	for _, route := range cm.SortedIDs(l.m.Routes) {
		var before *cm.Stop
		for _, stop := range l.m.WalkedStops(route) {
			do(stop, before)
			before = stop
		}
	}
}

func emptyCards(l *look) []Place {
	var places []Place
	l.stops(func(stop, _ *cm.Stop) {
		if stop.Title.Empty() && stop.Card.Empty() && stop.Question.Empty() && !(stop.FromMap && l.said(stop) != "") {
			places = append(places, Place{[]cm.Key{stopKey(stop.ID)}, []Remedy{{Title: "Remove the stop", Operations: []edit.Operation{&edit.RemoveStop{Stop: stop.ID}}}}})
		}
	})
	return places
}

// said gives what the map says at a stop.
func (l *look) said(stop *cm.Stop) string {
	return guide.Said(l.m, l.s, stop.Route, l.m.Words)[stop.ID]
}

// shows gives what a stop shows that is still on the map: its things, and their concepts.
func (l *look) shows(stop *cm.Stop) (refs []cm.Key, concepts map[cm.ID]bool) {
	concepts = map[cm.ID]bool{}
	for _, ref := range stop.Refs {
		switch c, o := l.m.Concepts[ref.ID], l.m.Links[ref.ID]; {
		case ref.Kind == cm.EntityConcept && c != nil:
			concepts[ref.ID] = true
		case ref.Kind == cm.EntityLink && o != nil:
			for _, e := range o.Ends() {
				concepts[e.Concept] = true
			}
		case ref.Kind == cm.EntityRegion && l.m.Regions[ref.ID] != nil, ref.Kind == cm.EntityMap:
		default:
			continue
		}
		refs = append(refs, cm.Key{Kind: ref.Kind, ID: ref.ID})
	}
	return refs, concepts
}

func stopsGone(l *look) []Place {
	var places []Place
	l.stops(func(stop, _ *cm.Stop) {
		if refs, _ := l.shows(stop); len(refs) < len(stop.Refs) {
			places = append(places, Place{[]cm.Key{stopKey(stop.ID)}, []Remedy{{Title: "Leave out what is gone", Operations: []edit.Operation{&edit.ShowAtStop{Stop: stop.ID, Refs: refs}}}}})
		}
	})
	return places
}

func routeJumps(l *look) []Place {
	var places []Place
	for _, route := range cm.SortedIDs(l.m.Routes) {
		for _, gap := range guide.Gaps(l.m, l.s, route) {
			places = append(places, Place{Keys: []cm.Key{stopKey(gap.Stop), stopKey(gap.Before)}})
		}
	}
	return places
}

func lostStops(unreached bool) func(l *look) []Place {
	return func(l *look) []Place {
		var places []Place
		for _, route := range cm.SortedIDs(l.m.Routes) {
			never, endless := guide.Lost(l.m, route)
			if unreached {
				endless = never
			}
			for _, id := range endless {
				places = append(places, Place{Keys: []cm.Key{stopKey(id)}})
			}
		}
		return places
	}
}

func notVisited(l *look) []Place {
	var places []Place
	for _, route := range cm.SortedIDs(l.m.Routes) {
		shown := map[cm.ID]bool{}
		for _, step := range guide.Growth(l.m, route) {
			for _, id := range step.Concepts {
				shown[id] = true
			}
		}
		all, seen := map[int]int{}, map[int]int{}
		for _, id := range l.s.Order {
			level := l.s.Places[id].Level
			if all[level]++; shown[id] {
				seen[level]++
			}
		}
		for _, id := range l.s.Order {
			if level := l.s.Places[id].Level; level > 0 && !shown[id] && float64(seen[level]) >= l.least*float64(all[level]) {
				places = append(places, Place{Keys: []cm.Key{concept(id), routeKey(route)}})
			}
		}
	}
	return places
}

func longRoutes(l *look) []Place {
	const wordsInAMinute = 200
	var places []Place
	for _, route := range cm.SortedIDs(l.m.Routes) {
		words := 0
		for _, stop := range l.m.WalkedStops(route) {
			words += len(strings.Fields(l.m.Words(stop.Card))) + len(strings.Fields(l.m.Words(stop.Title)))
		}
		most := l.least
		if planned := l.m.Routes[route].Minutes; planned > 0 {
			most = float64(planned)
		}
		if float64(words) > most*wordsInAMinute {
			places = append(places, Place{Keys: []cm.Key{routeKey(route)}})
		}
	}
	return places
}

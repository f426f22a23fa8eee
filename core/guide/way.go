package guide

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// AsRead names the order in which a map is read, concept by concept: a way through a map that has
// no route. Other ways that need none are the ids of Orders.
const AsRead = "as-read"

// madeRoute is the id of a route that is on no map.
const madeRoute cm.ID = "made-route"

// Way gives the route that a name stands for, and the map that has it: one of the map's own, or a
// proposed order of all of the map as a route of a stop for each concept. Without a name it is the
// first route that has stops, or else the map as it is read. It is empty where there is nothing to
// be led through.
func Way(m *cm.Map, s *structure.Structure, by cm.ID) (*cm.Map, cm.ID) {
	if m.Routes[by] != nil {
		return m, by
	}
	if by == "" {
		for _, id := range cm.SortedIDs(m.Routes) {
			if len(m.WalkedStops(id)) > 0 {
				return m, id
			}
		}
	}
	if by == "" || by == AsRead {
		by = "deep"
	}
	var order []cm.ID
	for _, p := range Propose(m, s, nil) {
		if p.ID == string(by) && p.About.ID == "" {
			order = p.Stops
		}
	}
	if by == "deep" && len(order) == 0 {
		order = s.Order[:min(len(s.Order), MaxProposed)]
	}
	if len(order) == 0 {
		return m, ""
	}
	with := m.Clone()
	with.Routes = map[cm.ID]*cm.Route{madeRoute: {ID: madeRoute, Title: m.Question}}
	with.Stops = map[cm.ID]*cm.Stop{}
	rank := ""
	for _, id := range order {
		rank = cm.KeyBetween(rank, "")
		with.Stops["stop-"+id] = &cm.Stop{ID: "stop-" + id, Route: madeRoute, Rank: rank, Refs: []cm.Ref{{Kind: cm.EntityConcept, ID: id}}}
	}
	return with, madeRoute
}

// All gives what a room may see of a map, whatever it is led to: all that Part takes over, of all
// concepts and links.
func All(m *cm.Map) *cm.Map {
	return Part(m, []Step{{Concepts: cm.SortedIDs(m.Concepts), Links: cm.SortedIDs(m.Links)}})
}

package query

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/workspace"
)

// readingOrder names the route that a map without one has all the same.
const readingOrder cm.ID = "reading-order"

// Presented gives the route by which the map is presented: its first one that has stops, or else
// all that is linked as it is read, concept by concept; then the reading is of a map that has such
// a route. It is empty where there is nothing to present.
func (s Reading) Presented() (Reading, cm.ID) {
	for _, id := range cm.SortedIDs(s.Map.Routes) {
		if len(s.Map.StopsOf(id)) > 0 {
			return s, id
		}
	}
	var order []cm.ID
	for _, p := range guide.Propose(s.Map, s.Structure, nil) {
		if p.ID == "deep" {
			order = p.Stops
		}
	}
	if len(order) == 0 {
		order = s.Structure.Order[:min(len(s.Structure.Order), guide.MaxProposed)]
	}
	if len(order) == 0 {
		return s, ""
	}
	m := s.Map.Clone()
	m.Routes = map[cm.ID]*cm.Route{readingOrder: {ID: readingOrder, Title: m.Question}}
	m.Stops = map[cm.ID]*cm.Stop{}
	rank := ""
	for _, id := range order {
		rank = cm.KeyBetween(rank, "")
		m.Stops["stop-"+id] = &cm.Stop{ID: "stop-" + id, Route: readingOrder, Rank: rank, Refs: []cm.Ref{{Kind: cm.EntityConcept, ID: id}}}
	}
	s.State = &workspace.State{Map: m, Revision: s.Revision, Structure: structure.Of(m), Scene: s.Scene}
	return s, readingOrder
}

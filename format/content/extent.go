package content

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/core/structure"
)

// Extent takes the part of a map that somebody wants: all of it where what is empty or "all"; "branch",
// "region", "stop" or "route" and an id; or "only" and ids of concepts, parted by commas. It keeps notes
// and sources of what is in it, and the route that is asked for; it refuses what is not there.
func (e *Export) Extent(what string) error {
	sort, id, _ := strings.Cut(what, " ")
	m := e.Map
	var concepts []cm.ID
	gone := cm.Refusef("What is to be exported is no longer on the map.")
	switch sort {
	case "", "all":
		return nil
	case "only":
		for one := range strings.SplitSeq(id, ",") {
			if m.Concepts[cm.ID(one)] != nil {
				concepts = append(concepts, cm.ID(one))
			}
		}
	case "branch":
		if m.Concepts[cm.ID(id)] == nil {
			return gone
		}
		inside := map[cm.ID]bool{cm.ID(id): true}
		for _, c := range e.Structure.Order {
			if inside[c] || inside[e.Structure.Places[c].Parent] {
				inside[c] = true
				concepts = append(concepts, c)
			}
		}
	case "region":
		r := m.Regions[cm.ID(id)]
		if r == nil {
			return gone
		}
		concepts = cm.SortedIDs(m.Inside(r))
	case "stop", "route":
		route := cm.ID(id)
		if s := m.Stops[cm.ID(id)]; sort == "stop" && s != nil {
			route = s.Route
		}
		if m.Routes[route] == nil {
			return gone
		}
		e.Route = route
		for _, step := range guide.Growth(m, route) {
			if sort == "stop" && step.Stop != cm.ID(id) {
				continue
			}
			for _, key := range step.Shows {
				if key.Kind == cm.EntityConcept && !slices.Contains(concepts, key.ID) {
					concepts = append(concepts, key.ID)
				} else if l := m.Links[key.ID]; l != nil {
					for _, end := range l.Ends() {
						if !slices.Contains(concepts, end.Concept) {
							concepts = append(concepts, end.Concept)
						}
					}
				}
			}
		}
	default:
		return cm.Refusef("There is no such part of a map.")
	}
	part, err := edit.Part(m, concepts)
	if err != nil {
		return gone
	}
	part.Title, part.Question, part.Look, part.Focus = m.Title, m.Question, m.Look, m.Focus
	if part.Concepts[m.Focus] == nil {
		part.Focus = ""
	}
	for rid, r := range m.Regions { // those of which all is in the part
		inside := m.Inside(r)
		whole := len(inside) > 0
		for c := range inside {
			whole = whole && part.Concepts[c] != nil
		}
		if whole {
			part.Regions[rid] = r
		}
	}
	if r := m.Routes[e.Route]; r != nil {
		part.Routes[e.Route] = r
		for _, s := range m.StopsOf(e.Route) {
			if sort == "route" || string(s.ID) == id {
				part.Stops[s.ID] = s
			}
		}
	}
	e.Map, e.Structure = part, structure.Of(part)
	return nil
}

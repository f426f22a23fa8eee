package guide

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// WayOn is one way on from a stop.
type WayOn struct {
	To    cm.ID
	Words cm.Text // of a choice; nil where nobody is asked
}

// Next gives the ways on from a stop: its choices, where it leads without being asked, or the next
// one on the list. There is none from the last stop, nor from one that is not walked.
func Next(m *cm.Map, stop cm.ID) (ways []WayOn) {
	s := m.Stops[stop]
	if s == nil {
		return nil
	}
	walked := func(id cm.ID) bool { o := m.Stops[id]; return o != nil && o.Route == s.Route && !o.Skipped }
	for _, c := range s.Choices {
		if walked(c.To) {
			ways = append(ways, WayOn{c.To, c.Words})
		}
	}
	if len(ways) > 0 {
		return ways
	}
	if walked(s.Then) {
		return []WayOn{{To: s.Then}}
	}
	all := m.WalkedStops(s.Route)
	if at := slices.IndexFunc(all, func(o *cm.Stop) bool { return o.ID == stop }); at >= 0 && at+1 < len(all) {
		return []WayOn{{To: all[at+1].ID}}
	}
	return nil
}

// branched tells that a route does not simply go down its list.
func branched(stops []*cm.Stop) bool {
	return slices.ContainsFunc(stops, func(s *cm.Stop) bool { return len(s.Choices) > 0 || s.Then != "" })
}

// WaysTo gives for each stop of a route the shortest way that leads there from the first, both among
// it; none for a stop to which no way leads.
func WaysTo(m *cm.Map, route cm.ID) map[cm.ID][]cm.ID {
	stops := m.WalkedStops(route)
	to := map[cm.ID][]cm.ID{}
	if len(stops) == 0 {
		return to
	}
	to[stops[0].ID] = []cm.ID{stops[0].ID}
	for open := []cm.ID{stops[0].ID}; len(open) > 0; open = open[1:] {
		for _, on := range Next(m, open[0]) {
			if to[on.To] == nil {
				to[on.To] = append(slices.Clone(to[open[0]]), on.To)
				open = append(open, on.To)
			}
		}
	}
	return to
}

// wayTo gives the stops that one has gone through at a stop: the shortest way there, or all before it
// on the list where none leads there.
func wayTo(m *cm.Map, route, stop cm.ID) []cm.ID {
	stops := m.WalkedStops(route)
	if branched(stops) {
		if way := WaysTo(m, route)[stop]; way != nil {
			return way
		}
	}
	var way []cm.ID
	for _, s := range stops {
		if way = append(way, s.ID); s.ID == stop {
			return way
		}
	}
	return nil
}

// Lost gives the stops of a route to which no way leads, and those from which no way leads to an end.
func Lost(m *cm.Map, route cm.ID) (unreached, endless []cm.ID) {
	stops := m.WalkedStops(route)
	if !branched(stops) {
		return nil, nil
	}
	reached := WaysTo(m, route)
	ends := map[cm.ID]bool{}
	for found := true; found; {
		found = false
		for _, s := range stops {
			next := Next(m, s.ID)
			if !ends[s.ID] && (len(next) == 0 || slices.ContainsFunc(next, func(w WayOn) bool { return ends[w.To] })) {
				ends[s.ID], found = true, true
			}
		}
	}
	for _, s := range stops {
		if reached[s.ID] == nil {
			unreached = append(unreached, s.ID)
		} else if !ends[s.ID] {
			endless = append(endless, s.ID)
		}
	}
	return unreached, endless
}

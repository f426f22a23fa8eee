package layout

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
)

// manyToSee is from how many concepts on a map is drawn dense.
const manyToSee = 60

// graph gives what a pattern puts in order. Links gives the link of each wire, empty for
// one of which some ends stand elsewhere; crossing those of which an end lies in an inner
// group, so that its line must be led once that has its place.
func (g *group) graph(a *arranging, boxes []route.Rect) (graph tidy.Graph, links, crossing []cm.ID) {
	index := map[cm.ID]int{}
	graph.Root, graph.Stop, graph.Quick, graph.Fold = -1, a.Stop, a.quick && (g.pattern != cm.PatternWeb || len(g.own) > manyWoven), !g.tooMany(a)
	for i, id := range g.own {
		index[id] = i
		graph.Boxes = append(graph.Boxes, tidy.Box{Size: a.size(id), Time: a.time(id)})
		if id == g.top || g.top == "" && id == a.m.Focus {
			graph.Root = i
		}
	}
	for id, i := range g.holds {
		index[id] = len(g.own) + i
	}
	for _, r := range boxes {
		graph.Boxes = append(graph.Boxes, tidy.Box{Size: tidy.Size{W: r.X1 - r.X0, H: r.Y1 - r.Y0}, Whole: true})
	}
	graph.Above, graph.Rank = make([]int, len(graph.Boxes)), make([]int, len(graph.Boxes))
	graph.Ordered = make([]bool, len(graph.Boxes))
	for i, id := range g.own {
		graph.Ordered[i] = a.m.Concepts[id].Ordered
	}
	// Groups share the time that one of all would take.
	graph.Effort = max(0.02, float64(len(graph.Boxes))/float64(max(1, a.many, len(graph.Boxes))))
	hang := func(box int, id cm.ID) {
		graph.Above[box] = -1
		place := a.s.Places[id]
		if at, ok := index[place.Parent]; ok && place.Parent != "" && at != box {
			graph.Above[box] = at
			graph.Rank[box] = slices.Index(a.s.Places[place.Parent].Children, id)
		}
	}
	for i, id := range g.own {
		hang(i, id)
	}
	if a.scope.Before != nil {
		a.was(g, &graph)
	}
	for i, in := range g.inner {
		hang(len(g.own)+i, in.top)
	}
	for _, id := range a.touching(index) {
		l := a.m.Links[id]
		wire, whole, crosses := tidy.Wire{}, true, false
		first, same := -1, true
		for i, e := range l.Ends() {
			at, ok := index[e.Concept]
			whole = whole && ok
			if !ok {
				continue
			}
			if len(wire.From)+len(wire.To) == 0 {
				first = at
			}
			same = same && at == first
			crosses = crosses || at >= len(g.own)
			if i < len(l.From) {
				wire.From = append(wire.From, at)
			} else {
				wire.To = append(wire.To, at)
			}
		}
		if !whole && len(a.held) > 0 && len(wire.From) > 0 && len(wire.To) > 0 && !same {
			// Some of its ends stand with a branch that stays: the others are placed by it
			// all the same, and it is led once all have their places.
			wire.Phrase = a.Measurer.Phrase(a.m, l)
			graph.Wires, links = append(graph.Wires, wire), append(links, "")
			continue
		}
		if !whole || same && first >= len(g.own) {
			continue // of another group
		}
		size := a.Measurer.Phrase(a.m, l)
		wire.Phrase = size
		graph.Wires, links = append(graph.Wires, wire), append(links, id)
		if crosses {
			crossing = append(crossing, id)
		}
	}
	return graph, links, crossing
}

// was tells where the boxes of a group stood before; an inner group as a whole.
func (a *arranging) was(g *group, graph *tidy.Graph) {
	before := a.scope.Before
	graph.Loosely = !a.scope.Again
	fresh := func(id cm.ID) bool { return before.Concepts[id] == nil || a.scope.New != nil && a.scope.New(id) }
	stood := func(id cm.ID) geometry.Rect {
		c := before.Concepts[id]
		if c == nil {
			return geometry.Rect{}
		}
		return slipRect(c.At, a.Measurer.Slip(before, c), 0)
	}
	for _, id := range g.own {
		graph.Was, graph.Fresh = append(graph.Was, stood(id).Middle()), append(graph.Fresh, fresh(id))
	}
	for i, in := range g.inner {
		var room *route.Rect
		for id, at := range g.holds {
			if at != i || fresh(id) {
				continue
			}
			box := stood(id)
			if room != nil {
				box = union(*room, box)
			}
			room = &box
		}
		if room == nil {
			room = &route.Rect{}
			graph.Fresh = append(graph.Fresh, true)
		} else {
			graph.Fresh = append(graph.Fresh, false)
			if in.region {
				*room = outlined(*room)
			}
		}
		graph.Was = append(graph.Was, room.Middle())
	}
}

// touching lists the links of some concepts by their ids.
func (a *arranging) touching(some map[cm.ID]int) []cm.ID {
	if a.links == nil {
		a.links = map[cm.ID][]cm.ID{}
		for id, l := range a.m.Links {
			for _, e := range l.Ends() {
				a.links[e.Concept] = append(a.links[e.Concept], id)
			}
		}
	}
	var all []cm.ID
	for id := range some {
		all = append(all, a.links[id]...)
	}
	slices.Sort(all)
	return slices.Compact(all)
}

func (a *arranging) time(id cm.ID) *tidy.Span {
	from, to, ok := a.m.Concepts[id].Span()
	if !ok {
		return nil
	}
	return &tidy.Span{From: from, To: to}
}

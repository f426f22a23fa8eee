package measured

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
)

// conceptID and linkID name what a node and a wire become on a map.
func conceptID(node int) cm.ID { return cm.ID(fmt.Sprintf("c%05d", node)) }

func linkID(wire int) cm.ID { return cm.ID(fmt.Sprintf("l%05d", wire)) }

// Sizes measures the slips and phrases of a map of the graph as the graph has them. It is a
// layout.Measurer.
type Sizes struct {
	slips, phrases map[cm.ID]geometry.Size
}

// Sizes gives the sizes that the graph brings along.
func (f *File) Sizes() Sizes {
	s := Sizes{map[cm.ID]geometry.Size{}, map[cm.ID]geometry.Size{}}
	for i, n := range f.Nodes {
		s.slips[conceptID(i)] = geometry.Size{W: n.W, H: n.H}
	}
	for w, edges := range f.wired() {
		first := f.Edges[edges[0]]
		s.phrases[linkID(w)] = geometry.Size{W: first.W, H: first.H}
	}
	return s
}

// Slip gives the extent of a node.
func (s Sizes) Slip(_ *cm.Map, c *cm.Concept) geometry.Size { return s.slips[c.ID] }

// Phrase gives the room of an edge's words.
func (s Sizes) Phrase(_ *cm.Map, l *cm.Link) geometry.Size { return s.phrases[l.ID] }

// Placed gives where everything stands on a map of the graph; ms is how long that took.
func (f *File) Placed(m *cm.Map, ms float64) Positions {
	out, sizes := Positions{Graph: f.Name, Time: ms}, f.Sizes()
	middle := func(id cm.ID) geometry.Point {
		at := m.Concepts[id].At
		return geometry.Point{X: at.X, Y: at.Y + sizes.slips[id].H/2}
	}
	for i, n := range f.Nodes {
		at := middle(conceptID(i))
		out.Nodes = append(out.Nodes, Position{n.ID, at.X, at.Y})
	}
	for w, edges := range f.wired() {
		l := m.Links[linkID(w)]
		hub := f.hub(l, middle)
		for j, e := range edges {
			drawn := Drawn{Index: e}
			put := func(p geometry.Point) { drawn.Points = append(drawn.Points, [2]float64{p.X, p.Y}) }
			put(middle(l.From[0].Concept))
			for _, p := range l.Bends[l.From[0].ID] {
				put(p)
			}
			put(hub)
			// Ends of a link are in the order of their ids.
			to := l.To[slices.IndexFunc(l.To, func(end cm.End) bool { return end.ID == endID(j) })]
			for _, p := range slices.Backward(l.Bends[to.ID]) {
				put(p)
			}
			put(middle(to.Concept))
			if sizes.phrases[l.ID].W > 0 {
				drawn.Label = &Place{hub.X, hub.Y}
			}
			out.Edges = append(out.Edges, drawn)
		}
	}
	return out
}

func endID(at int) cm.ID { return cm.ID(fmt.Sprintf("t%05d", at)) }

// hub is where the phrase of a link stands: where it was put, or between its ends.
func (f *File) hub(l *cm.Link, middle func(cm.ID) geometry.Point) geometry.Point {
	if l.Hub != nil {
		return *l.Hub
	}
	ends := l.Ends()
	sum := geometry.Point{}
	for _, e := range ends {
		at := middle(e.Concept)
		sum.X, sum.Y = sum.X+at.X/float64(len(ends)), sum.Y+at.Y/float64(len(ends))
	}
	return sum
}

// ReadPositions reads where a layout put a graph.
func ReadPositions(raw []byte) (*Positions, error) {
	var p Positions
	if err := json.Unmarshal(raw, &p); err != nil {
		return nil, errors.New("these are no positions: the file is not whole, or no JSON of that form")
	}
	sound := func(v float64) bool { return math.Abs(v) <= maxLength*10 }
	for _, n := range p.Nodes {
		if !sound(n.X) || !sound(n.Y) {
			return nil, fmt.Errorf("the node %.60q has no sound place", n.ID)
		}
	}
	return &p, nil
}

// MapFrom gives the graph as a map on which everything stands where it was put before, with
// the operations that make what has come since.
func (f *File) MapFrom(id cm.ID, was *Positions) (*cm.Map, []edit.Operation, error) {
	at := map[string]Position{}
	for _, n := range was.Nodes {
		at[n.ID] = n
	}
	wires := f.wired()
	known := map[cm.ID]bool{}
	for i, n := range f.Nodes {
		_, there := at[n.ID]
		known[conceptID(i)] = there
	}
	before, after := f.operations(wires, func(id cm.ID) bool { return known[id] })
	out, err := edit.Apply(cm.NewMap(id, "en"), before, nil)
	if err != nil {
		return nil, nil, err
	}
	m := out.Map
	for i, n := range f.Nodes {
		if c := m.Concepts[conceptID(i)]; c != nil {
			c.At = cm.Point{X: at[n.ID].X, Y: at[n.ID].Y - n.H/2}
		}
	}
	for w, edges := range wires {
		l := m.Links[linkID(w)]
		if l == nil {
			continue
		}
		for _, drawn := range was.Edges {
			if drawn.Index == edges[0] && drawn.Label != nil {
				l.Hub, l.Tidied = &cm.Point{X: drawn.Label.X, Y: drawn.Label.Y}, true
			}
		}
	}
	return m, after, nil
}

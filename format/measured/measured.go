// Package measured reads graphs whose boxes and phrases have been measured
// already, in JSON, and writes where a layout put them. Such files compare
// layouts: everyone lays out the same sizes. docs/tidy.md describes both forms.
package measured

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// The bounds of what is read.
const (
	maxNodes  = 20_000
	maxEdges  = 60_000
	maxLength = 100_000 // pixels
)

// File is a measured graph.
type File struct {
	Name  string `json:"name"`
	Root  string `json:"root"`
	Nodes []Node `json:"nodes"`
	Edges []Edge `json:"edges"`
}

// Node is a box with its extent in pixels.
type Node struct {
	ID    string  `json:"id"`
	Label string  `json:"label"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
}

// Edge leads from a node to a node. A phrase has the room that it takes.
type Edge struct {
	From  string  `json:"from"`
	To    string  `json:"to"`
	Label string  `json:"label"`
	W     float64 `json:"lw"`
	H     float64 `json:"lh"`
}

// Read reads a measured graph. Members that it does not know mean nothing.
func Read(raw []byte) (*File, error) {
	var f File
	if err := json.Unmarshal(raw, &f); err != nil {
		return nil, errors.New("this is no measured graph: it is not whole, or no JSON of that form")
	}
	if len(f.Nodes) == 0 || len(f.Nodes) > maxNodes || len(f.Edges) > maxEdges {
		return nil, fmt.Errorf("a measured graph has 1 to %d nodes and at most %d edges; this one has %d and %d", maxNodes, maxEdges, len(f.Nodes), len(f.Edges))
	}
	known := map[string]bool{}
	for _, n := range f.Nodes {
		if n.ID == "" || known[n.ID] {
			return nil, fmt.Errorf("two nodes have the id %.60q, or it is empty", n.ID)
		}
		known[n.ID] = true
		if !length(n.W) || !length(n.H) {
			return nil, fmt.Errorf("the node %.60q has no sound extent", n.ID)
		}
	}
	for i, e := range f.Edges {
		if !known[e.From] || !known[e.To] {
			return nil, fmt.Errorf("edge %d joins nodes that are not there", i)
		}
		if !length(e.W) || !length(e.H) {
			return nil, fmt.Errorf("the phrase of edge %d has no sound extent", i)
		}
	}
	return &f, nil
}

func length(v float64) bool { return v >= 0 && v <= maxLength && !math.IsNaN(v) }

// wired is which edges make one wire: those that lead from one node with the
// same phrase share it.
func (f *File) wired() [][]int {
	type key struct{ from, label string }
	at := map[key]int{}
	led := map[[2]any]bool{} // a node stands once at a phrase
	var wires [][]int
	for i, e := range f.Edges {
		k := key{e.From, e.Label}
		w, known := at[k]
		if !known || e.Label == "" || e.From == e.To || led[[2]any{w, e.To}] {
			w = len(wires)
			wires = append(wires, nil)
			if e.From != e.To {
				at[k] = w
			}
		}
		led[[2]any{w, e.To}] = true
		wires[w] = append(wires[w], i)
	}
	return wires
}

// Map gives the graph as a map, its nodes placed as words on a page.
func (f *File) Map(id cm.ID) (*cm.Map, error) {
	ops, _ := f.operations(f.wired(), func(cm.ID) bool { return true })
	out, err := edit.Apply(cm.NewMap(id, "en"), ops, nil)
	return out.Map, err
}

// operations gives what makes a map of the graph: first that which is there, then the rest.
func (f *File) operations(wires [][]int, there func(cm.ID) bool) (first, rest []edit.Operation) {
	name := map[string]cm.ID{}
	if f.Name != "" {
		first = append(first, &edit.NameMap{Title: f.Name})
	}
	columns := int(math.Ceil(math.Sqrt(float64(len(f.Nodes)))))
	for i, n := range f.Nodes {
		id := conceptID(i)
		name[n.ID] = id
		op := &edit.AddConcept{ID: id, Label: n.Label, At: cm.Point{X: float64(i%columns) * 220, Y: float64(i/columns) * 120}}
		if there(id) {
			first = append(first, op)
		} else {
			rest = append(rest, op)
		}
	}
	if root, ok := name[f.Root]; ok && there(root) {
		first = append(first, &edit.SetFocus{Concept: root})
	}
	for i, edges := range wires {
		from := f.Edges[edges[0]]
		link := &edit.AddLink{ID: linkID(i), Phrase: from.Label, From: []cm.End{{ID: "f", Concept: name[from.From]}}}
		old := there(link.From[0].Concept)
		var later []edit.Operation // ends at what has come since
		for j, e := range edges {
			end := cm.End{ID: endID(j), Concept: name[f.Edges[e].To]}
			if old && !there(end.Concept) {
				later = append(later, &edit.AddEnd{Link: link.ID, Side: cm.SideTo, End: end})
				continue
			}
			link.To = append(link.To, end)
		}
		switch {
		case !old:
			rest = append(rest, link)
		case len(link.To) == 0: // all of it has come since
			for _, op := range later {
				link.To = append(link.To, op.(*edit.AddEnd).End)
			}
			rest = append(rest, link)
		default:
			first, rest = append(first, link), append(rest, later...)
		}
	}
	return first, rest
}

// Positions is where a layout put a graph.
type Positions struct {
	Graph string     `json:"graph"`
	Time  float64    `json:"time_ms"`
	Nodes []Position `json:"nodes"`
	Edges []Drawn    `json:"edges"`
}

// Position is the centre of a box.
type Position struct {
	ID string  `json:"id"`
	X  float64 `json:"x"`
	Y  float64 `json:"y"`
}

// Drawn is an edge as it is drawn: from the centre of one box to that of the
// other, with the centre of its phrase.
type Drawn struct {
	Index  int          `json:"i"`
	Points [][2]float64 `json:"points"`
	Label  *Place       `json:"label,omitempty"`
}

// Place is a place.
type Place struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

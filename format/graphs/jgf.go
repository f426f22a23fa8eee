package graphs

import (
	"encoding/json"
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// graph is a graph in JSON Graph Format 2 (jsongraphformat.info).
type graph struct {
	ID       string          `json:"id,omitempty"`
	Label    string          `json:"label,omitempty"`
	Directed bool            `json:"directed"`
	Metadata map[string]any  `json:"metadata,omitempty"`
	Nodes    json.RawMessage `json:"nodes"`
	Edges    []jsonEdge      `json:"edges"`
}

type jsonNode struct {
	ID       string         `json:"id,omitempty"` // of the first version, whose nodes are a list
	Label    string         `json:"label,omitempty"`
	Metadata map[string]any `json:"metadata,omitempty"`
}

type jsonEdge struct {
	ID       string         `json:"id,omitempty"`
	Source   string         `json:"source"`
	Target   string         `json:"target"`
	Relation string         `json:"relation,omitempty"`
	Label    string         `json:"label,omitempty"`
	Directed *bool          `json:"directed,omitempty"`
	Metadata map[string]any `json:"metadata,omitempty"`
}

// WriteJGF gives a map in JSON Graph Format.
func WriteJGF(e *content.Export) ([]byte, error) {
	nodes := map[string]jsonNode{}
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		n := jsonNode{Label: e.Words(c.Label), Metadata: map[string]any{"x": place(c).X, "y": place(c).Y, "level": e.Structure.Places[id].Level}}
		if note := e.Words(c.Note); note != "" && e.Options.Notes {
			n.Metadata["note"] = note
		}
		if kind := e.Kind(c); kind != "" {
			n.Metadata["kind"] = kind
		}
		if tags := e.Tags(c); len(tags) > 0 {
			n.Metadata["tags"] = tags
		}
		nodes[string(id)] = n
	}
	raw, err := json.Marshal(nodes)
	if err != nil {
		return nil, err
	}
	g := graph{ID: string(e.Map.ID), Label: e.Title(), Directed: true, Nodes: raw, Edges: []jsonEdge{}, Metadata: map[string]any{"question": e.Question(), "state": e.State, "address": e.Address}}
	for _, one := range edges(e) {
		j := jsonEdge{ID: one.id, Source: one.from, Target: one.to, Relation: one.phrase, Label: one.phrase}
		if one.plain {
			j.Directed = new(bool)
		}
		if one.both {
			j.Metadata = map[string]any{"heads": "both"}
		}
		g.Edges = append(g.Edges, j)
	}
	return json.MarshalIndent(map[string]graph{"graph": g}, "", " ")
}

// ReadJGF reads JSON Graph Format of either version; of several graphs the first.
func ReadJGF(raw []byte) (*content.Draft, error) {
	var file struct {
		Graph  *graph  `json:"graph"`
		Graphs []graph `json:"graphs"`
	}
	if err := json.Unmarshal([]byte(safe.Text(raw)), &file); err != nil {
		return nil, jsonFault(err)
	}
	d := &content.Draft{}
	if file.Graph == nil && len(file.Graphs) > 0 {
		file.Graph = &file.Graphs[0]
		if len(file.Graphs) > 1 {
			d.Tell(0, "Only the first of several graphs is read.")
		}
	}
	if file.Graph == nil {
		return nil, cm.Refusef("There is no graph in this file.")
	}
	g := file.Graph
	d.Title = words(g.Label)
	if q, is := g.Metadata["question"].(string); is {
		d.Question = words(q)
	}
	nodes, order := map[string]jsonNode{}, []string{}
	var list []jsonNode
	if json.Unmarshal(g.Nodes, &nodes) == nil {
		order = keysInOrder(g.Nodes)
	} else if json.Unmarshal(g.Nodes, &list) == nil {
		for _, n := range list {
			nodes[n.ID] = n
			order = append(order, n.ID)
		}
	} else {
		return nil, cm.Refusef("The nodes of this graph cannot be read.")
	}
	for _, key := range order {
		n := nodes[key]
		c := content.Concept{Key: key, Label: n.Label}
		text := func(name string) string { s, _ := n.Metadata[name].(string); return s }
		for name := range n.Metadata {
			kept(&c.Data, name, text(name))
		}
		c.Note, c.Kind = text("note"), words(text("kind"))
		if tags, is := n.Metadata["tags"].([]any); is {
			for _, t := range tags {
				c.Tags = append(c.Tags, fmt.Sprint(t))
			}
		}
		x, hasX := n.Metadata["x"].(float64)
		y, hasY := n.Metadata["y"].(float64)
		if hasX && hasY {
			c.At = &cm.Point{X: x, Y: y}
		}
		if err := d.Add(labelled(c)); err != nil {
			return nil, err
		}
	}
	for _, e := range g.Edges {
		phrase := e.Label
		if e.Relation != "" {
			phrase = e.Relation
		}
		plain := e.Directed != nil && !*e.Directed || e.Directed == nil && !g.Directed && g.Metadata == nil
		l := content.Link{From: e.Source, To: e.Target, Phrase: words(phrase), Plain: plain, Both: e.Metadata["heads"] == "both"}
		for name, value := range e.Metadata {
			if s, is := value.(string); is {
				kept(&l.Data, name, s)
			}
		}
		if err := d.Join(l); err != nil {
			return nil, err
		}
	}
	return finish(d)
}

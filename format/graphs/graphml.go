package graphs

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// WriteGraphML gives a map as GraphML (graphml.graphdrawing.org).
func WriteGraphML(e *content.Export) []byte {
	var b strings.Builder
	b.WriteString(xml.Header)
	fmt.Fprintf(&b, "<!-- %s -->\n", comment(e))
	b.WriteString(`<graphml xmlns="http://graphml.graphdrawing.org/xmlns">` + "\n")
	for _, k := range [][3]string{{"label", "all", "string"}, {"note", "node", "string"}, {"kind", "node", "string"}, {"tags", "node", "string"}, {"level", "node", "int"}, {"x", "node", "double"}, {"y", "node", "double"}, {"heads", "edge", "string"}, {"cross", "edge", "boolean"}, {"title", "graph", "string"}, {"question", "graph", "string"}} {
		fmt.Fprintf(&b, "<key id=\"%s\" for=\"%s\" attr.name=\"%s\" attr.type=\"%s\"/>\n", k[0], k[1], k[0], k[2])
	}
	data := func(key, value string) {
		if value != "" {
			fmt.Fprintf(&b, "<data key=\"%s\">%s</data>", key, escaped(value))
		}
	}
	b.WriteString("<graph id=\"map\" edgedefault=\"directed\">\n")
	data("title", e.Title())
	data("question", e.Question())
	b.WriteString("\n")
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		fmt.Fprintf(&b, "<node id=\"%s\">", escaped(string(id)))
		data("label", e.Words(c.Label))
		if e.Options.Notes {
			data("note", e.Words(c.Note))
		}
		data("kind", e.Kind(c))
		data("tags", strings.Join(e.Tags(c), "; "))
		data("level", strconv.Itoa(e.Structure.Places[id].Level))
		data("x", strconv.FormatFloat(place(c).X, 'f', -1, 64))
		data("y", strconv.FormatFloat(place(c).Y, 'f', -1, 64))
		b.WriteString("</node>\n")
	}
	for _, one := range edges(e) {
		directed := ""
		if one.plain {
			directed = ` directed="false"`
		}
		fmt.Fprintf(&b, "<edge id=\"%s\" source=\"%s\" target=\"%s\"%s>", escaped(one.id), escaped(one.from), escaped(one.to), directed)
		data("label", one.phrase)
		if one.both {
			data("heads", "both")
		}
		if one.cross {
			data("cross", "true")
		}
		b.WriteString("</edge>\n")
	}
	b.WriteString("</graph>\n</graphml>\n")
	return []byte(b.String())
}

// ReadGraphML reads GraphML: nodes and edges, with what their keys call a label, a note or a
// description, a kind, tags, x and y.
func ReadGraphML(raw []byte) (*content.Draft, error) {
	dec, err := safe.XML(raw)
	if err != nil {
		return nil, err
	}
	d := &content.Draft{}
	names := map[string]string{} // of keys
	var c *content.Concept
	var l *content.Link
	key, value, depth, known, undirected := "", "", 0, false, false
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, safe.Broken(err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth++; depth > safe.MaxDepth {
				return nil, cm.Refusef("This file is nested too deeply to be a map.")
			}
			a := attributes(t)
			switch t.Name.Local {
			case "graphml":
				known = true
			case "key":
				names[a["id"]] = strings.ToLower(a["attr.name"])
			case "graph":
				undirected = a["edgedefault"] == "undirected"
			case "node":
				c = &content.Concept{Key: a["id"]}
			case "edge":
				l = &content.Link{From: a["source"], To: a["target"], Plain: a["directed"] == "false" || undirected && a["directed"] != "true"}
			case "data":
				key, value = names[a["key"]], ""
				if key == "" {
					key = strings.ToLower(a["key"])
				}
			case "hyperedge":
				line, _ := dec.InputPos()
				d.Tell(line, "An edge of several nodes.")
			}
		case xml.CharData:
			if key != "" && len(value) < cm.MaxNote {
				value += string(t)
			}
		case xml.EndElement:
			depth--
			switch t.Name.Local {
			case "data":
				take(d, c, l, key, strings.TrimSpace(value))
				key = ""
			case "node":
				if c != nil {
					if err := d.Add(labelled(*c)); err != nil {
						return nil, err
					}
				}
				c = nil
			case "edge":
				if l != nil {
					if err := d.Join(*l); err != nil {
						return nil, err
					}
				}
				l = nil
			}
		}
	}
	if !known {
		return nil, cm.Refusef("This is no GraphML file.")
	}
	return finish(d)
}

func attributes(t xml.StartElement) map[string]string {
	all := map[string]string{}
	for _, a := range t.Attr {
		all[a.Name.Local] = a.Value
	}
	return all
}

// labelled gives a concept a label, its key where it has no other.
func labelled(c content.Concept) content.Concept {
	if strings.TrimSpace(c.Label) == "" {
		c.Label = c.Key
	}
	return c
}

// take takes up what is said of a node, an edge or the whole.
func take(d *content.Draft, c *content.Concept, l *content.Link, key, value string) {
	number := func() float64 {
		v, err := strconv.ParseFloat(value, 64)
		if err != nil || v != v {
			return 0
		}
		return v
	}
	switch {
	case value == "":
	case c != nil:
		switch key {
		case "label", "name", "title":
			c.Label = value
		case "note", "description", "desc":
			c.Note = value
		case "kind", "type", "category":
			c.Kind = words(value)
		case "tags":
			c.Tags = strings.Split(value, ";")
		case "x", "y":
			if c.At == nil {
				c.At = &cm.Point{}
			}
			if key == "x" {
				c.At.X = number()
			} else {
				c.At.Y = number()
			}
		}
	case l != nil:
		switch key {
		case "label", "phrase", "name", "relation":
			l.Phrase = words(value)
		case "heads":
			l.Both = value == "both"
		}
	case key == "title":
		d.Title = words(value)
	case key == "question":
		d.Question = words(value)
	}
}

package graphs

import (
	"cmp"
	"encoding/xml"
	"fmt"
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
	r := newReading()
	key, value := "", ""
	return r.all(raw, cm.Refusef("This is no GraphML file."), func(t xml.Token, line int) error {
		switch t := t.(type) {
		case xml.StartElement:
			a := safe.Attributes(t)
			switch t.Name.Local {
			case "graphml":
				r.known = true
			case "key":
				r.keys[a["id"]] = strings.ToLower(a["attr.name"])
			case "graph":
				r.undirected = a["edgedefault"] == "undirected"
			case "node":
				r.concept = &content.Concept{Key: a["id"]}
			case "edge":
				r.link = &content.Link{From: a["source"], To: a["target"], Plain: a["directed"] == "false" || r.undirected && a["directed"] != "true"}
			case "data":
				key, value = cmp.Or(r.keys[a["key"]], strings.ToLower(a["key"])), ""
			case "hyperedge":
				r.draft.Tell(line, "An edge of several nodes.")
			}
		case xml.CharData:
			if key != "" && len(value) < cm.MaxNote {
				value += string(t)
			}
		case xml.EndElement:
			if t.Name.Local == "data" {
				r.take(key, strings.TrimSpace(value))
				key = ""
			}
			return r.ends(t.Name.Local)
		}
		return nil
	})
}

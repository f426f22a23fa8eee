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

// WriteGEXF gives a map as GEXF 1.3 (gexf.net).
func WriteGEXF(e *content.Export) []byte {
	var b strings.Builder
	b.WriteString(xml.Header)
	b.WriteString(`<gexf xmlns="http://gexf.net/1.3" xmlns:viz="http://gexf.net/1.3/viz" version="1.3">` + "\n<meta>")
	fmt.Fprintf(&b, "<creator>Mevrin</creator><description>%s</description></meta>\n", escaped(strings.Join([]string{e.Title(), e.Said()}, " – ")))
	b.WriteString("<graph defaultedgetype=\"directed\" mode=\"static\">\n<attributes class=\"node\"><attribute id=\"note\" title=\"note\" type=\"string\"/><attribute id=\"kind\" title=\"kind\" type=\"string\"/><attribute id=\"tags\" title=\"tags\" type=\"string\"/><attribute id=\"level\" title=\"level\" type=\"integer\"/></attributes>\n<attributes class=\"edge\"><attribute id=\"heads\" title=\"heads\" type=\"string\"/><attribute id=\"cross\" title=\"cross\" type=\"boolean\"/></attributes>\n<nodes>\n")
	value := func(key, v string) {
		if v != "" {
			fmt.Fprintf(&b, "<attvalue for=\"%s\" value=\"%s\"/>", key, escaped(v))
		}
	}
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		fmt.Fprintf(&b, "<node id=\"%s\" label=\"%s\"><attvalues>", escaped(string(id)), escaped(e.Line(c.Label)))
		if e.Options.Notes {
			value("note", e.Words(c.Note))
		}
		value("kind", e.Kind(c))
		value("tags", strings.Join(e.Tags(c), "; "))
		value("level", strconv.Itoa(e.Structure.Places[id].Level))
		fmt.Fprintf(&b, "</attvalues><viz:position x=\"%g\" y=\"%g\"/></node>\n", place(c).X, -place(c).Y)
	}
	b.WriteString("</nodes>\n<edges>\n")
	for _, one := range edges(e) {
		kind := ""
		switch {
		case one.plain:
			kind = ` type="undirected"`
		case one.both:
			kind = ` type="mutual"`
		}
		fmt.Fprintf(&b, "<edge id=\"%s\" source=\"%s\" target=\"%s\"%s label=\"%s\"><attvalues>", escaped(one.id), escaped(one.from), escaped(one.to), kind, escaped(one.phrase))
		if one.cross {
			value("cross", "true")
		}
		b.WriteString("</attvalues></edge>\n")
	}
	b.WriteString("</edges>\n</graph>\n</gexf>\n")
	return []byte(b.String())
}

// ReadGEXF reads GEXF.
func ReadGEXF(raw []byte) (*content.Draft, error) {
	r := newReading()
	return r.all(raw, cm.Refusef("This is no GEXF file."), func(t xml.Token, _ int) error {
		switch t := t.(type) {
		case xml.StartElement:
			a := safe.Attributes(t)
			switch t.Name.Local {
			case "gexf":
				r.known = true
			case "graph":
				r.undirected = a["defaultedgetype"] == "undirected"
			case "attribute":
				r.keys[a["id"]] = strings.ToLower(a["title"])
			case "node":
				r.concept = &content.Concept{Key: a["id"], Label: a["label"]}
			case "edge":
				kind := a["type"]
				r.link = &content.Link{From: a["source"], To: a["target"], Phrase: words(a["label"]), Plain: kind == "undirected" || kind == "" && r.undirected, Both: kind == "mutual"}
			case "attvalue":
				r.take(cmp.Or(r.keys[a["for"]], a["for"]), a["value"])
			case "position":
				if r.concept != nil {
					r.concept.At = &cm.Point{X: number(a["x"]), Y: -number(a["y"])}
				}
			}
		case xml.EndElement:
			return r.ends(t.Name.Local)
		}
		return nil
	})
}

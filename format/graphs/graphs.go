// Package graphs writes and reads maps as graphs: GraphML, GEXF 1.3, DOT, JSON Graph Format 2 and Mermaid
// text. A node is a concept, an edge a proposition; a link of several concepts is several edges.
package graphs

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
)

// edge is a proposition as graphs have it; a link with two arrowheads is one edge both ways.
type edge struct {
	id, from, to, phrase string
	plain, both, cross   bool
}

// edges gives the edges of a map, each with a name of its own.
func edges(e *content.Export) (all []edge) {
	for _, s := range e.Sentences() {
		if s.Against {
			continue // it is the other way of one that is there
		}
		heads := e.Map.Links[s.Strand.Link].Heads
		all = append(all, edge{
			id: fmt.Sprintf("%s-%s-%s", s.Strand.Link, s.Strand.From, s.Strand.To), from: string(s.Subject), to: string(s.Object),
			phrase: s.Phrase, plain: heads == cm.HeadsNone, both: heads == cm.HeadsBoth, cross: s.Cross,
		})
	}
	return all
}

// place is where the middle of a concept's upper edge stands.
func place(c *cm.Concept) cm.Point { return c.At }

func escaped(words string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(words)) // to memory
	return b.String()
}

// comment is what a file says of itself.
func comment(e *content.Export) string {
	return strings.ReplaceAll(strings.ReplaceAll(e.Said(), "--", "- -"), "*/", "* /")
}

// finish refuses a draft without concepts.
func finish(d *content.Draft) (*content.Draft, error) {
	if len(d.Concepts) == 0 {
		return nil, cm.Refusef("There is nothing in this file that could be a concept.")
	}
	return d, nil
}

// words puts words on one line.
func words(s string) string { return strings.Join(strings.Fields(s), " ") }

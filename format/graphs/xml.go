package graphs

import (
	"encoding/xml"
	"math"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// reading is a graph that is read from XML: what is there so far, and the node or the edge that the reader
// is within.
type reading struct {
	draft             *content.Draft
	keys              map[string]string // names of attributes, by their ids
	concept           *content.Concept
	link              *content.Link
	known, undirected bool // the file is of its format; its edges have no direction
}

func newReading() *reading { return &reading{draft: &content.Draft{}, keys: map[string]string{}} }

// all reads a file with what knows its elements; other is said of one that is not of the format.
func (r *reading) all(raw []byte, other error, take func(t xml.Token, line int) error) (*content.Draft, error) {
	if err := safe.XML(raw, take); err != nil {
		return nil, err
	}
	if !r.known {
		return nil, other
	}
	return finish(r.draft)
}

// ends takes up a node or an edge that is read whole.
func (r *reading) ends(element string) (err error) {
	switch {
	case element == "node" && r.concept != nil:
		err = r.draft.Add(labelled(*r.concept))
		r.concept = nil
	case element == "edge" && r.link != nil:
		err = r.draft.Join(*r.link)
		r.link = nil
	}
	return err
}

// labelled gives a concept a label, its key where it has no other.
func labelled(c content.Concept) content.Concept {
	if strings.TrimSpace(c.Label) == "" {
		c.Label = c.Key
	}
	return c
}

// number reads a coordinate; 0 for what is none.
func number(words string) float64 {
	v, err := strconv.ParseFloat(strings.TrimSpace(words), 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0
	}
	return v
}

// maxData bounds how much is kept of what is said of one node or edge.
const maxData = 30

// kept keeps what is said of a node or an edge by its name, so that somebody may choose what it is.
func kept(data *map[string]string, name, value string) {
	if name != "" && value != "" && len(*data) < maxData {
		if *data == nil {
			*data = map[string]string{}
		}
		(*data)[name] = cm.Shortened(value, cm.MaxNote)
	}
}

// take takes up what is said of a node, an edge or the whole.
func (r *reading) take(key, value string) {
	c, l := r.concept, r.link
	switch {
	case value == "":
	case c != nil:
		kept(&c.Data, key, value)
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
				c.At.X = number(value)
			} else {
				c.At.Y = number(value)
			}
		}
	case l != nil:
		kept(&l.Data, key, value)
		switch key {
		case "label", "phrase", "name", "relation":
			l.Phrase = words(value)
		case "heads":
			l.Both = value == "both"
		}
	case key == "title":
		r.draft.Title = words(value)
	case key == "question":
		r.draft.Question = words(value)
	}
}

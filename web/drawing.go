package web

import (
	"html/template"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/svg"
)

// Drawing is the part of a page's drawing that changed.
type Drawing struct {
	Slips map[cm.ID]string `json:"slips,omitempty"`
	Links map[cm.ID]string `json:"links,omitempty"`
	Gone  []string         `json:"gone,omitempty"` // element ids: c-… and l-…
	// Whole tells that Slips and Links are all there are.
	Whole bool `json:"whole,omitempty"`
	Head  Head `json:"head"`
}

// Head is what a map says of itself above the paper.
type Head struct {
	Title    string `json:"title"` // what it is called, where that is not the question
	Question string `json:"question"`
}

func (s *state) head() Head {
	h := Head{s.m.Name(), s.m.Words(s.m.Question)}
	if h.Title == h.Question {
		h.Title = ""
	}
	return h
}

// drawing gives what a patch touched, as it looks in this state.
func (s *state) drawing(p patch) Drawing {
	out := Drawing{Head: s.head()}
	add := func(ids []cm.ID, prefix string, draw func(cm.ID) (string, bool), into *map[cm.ID]string) {
		for _, id := range ids {
			if drawn, there := draw(id); there {
				if *into == nil {
					*into = map[cm.ID]string{}
				}
				(*into)[id] = drawn
			} else {
				out.Gone = append(out.Gone, prefix+string(id))
			}
		}
	}
	add(p.slips, "c-", s.drawSlip, &out.Slips)
	add(p.goneSlips, "c-", s.drawSlip, &out.Slips)
	add(p.links, "l-", s.drawLink, &out.Links)
	add(p.goneLinks, "l-", s.drawLink, &out.Links)
	return out
}

func (s *state) drawSlip(id cm.ID) (string, bool) {
	if e := s.scene.Slips[id]; e != nil {
		return svg.Slip(e), true
	}
	return "", false
}

func (s *state) drawLink(id cm.ID) (string, bool) {
	if e := s.scene.Links[id]; e != nil {
		return svg.Link(e), true
	}
	return "", false
}

// whole gives the complete drawing.
func (s *state) whole() Drawing {
	p := patch{slips: cm.SortedIDs(s.scene.Slips), links: cm.SortedIDs(s.scene.Links)}
	out := s.drawing(p)
	out.Whole = true
	return out
}

// paper gives the complete drawing as markup. The writers of package svg
// escape every word themselves.
func (s *state) paper() (links, slips template.HTML) {
	return template.HTML(svg.Group(s.scene.Links, svg.Link)), template.HTML(svg.Group(s.scene.Slips, svg.Slip))
}

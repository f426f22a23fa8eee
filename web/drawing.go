package web

import (
	"html/template"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
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
	Axis     string `json:"axis"` // the markup of the axis of a map drawn along time
}

func (s *state) head() Head {
	h := Head{Title: s.m.Name(), Question: s.m.Words(s.m.Question), Axis: svg.Axis(s.scene.Axis)}
	if h.Title == h.Question {
		h.Title = ""
	}
	return h
}

// drawing gives what differs, as it looks in this state to a view.
func (s *state) drawing(p difference, v scene.View) Drawing {
	out := Drawing{Head: s.head()}
	sc := s.seen(v)
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
	slip := func(id cm.ID) (string, bool) {
		if e := sc.Slips[id]; e != nil {
			return svg.Slip(e), true
		}
		return "", false
	}
	link := func(id cm.ID) (string, bool) {
		if e := sc.Links[id]; e != nil {
			return svg.Link(e), true
		}
		return "", false
	}
	add(p.slips, "c-", slip, &out.Slips)
	add(p.goneSlips, "c-", slip, &out.Slips)
	add(p.links, "l-", link, &out.Links)
	add(p.goneLinks, "l-", link, &out.Links)
	return out
}

// whole gives the complete drawing for a view.
func (s *state) whole(v scene.View) Drawing {
	sc := s.seen(v)
	out := s.drawing(difference{slips: cm.SortedIDs(sc.Slips), links: cm.SortedIDs(sc.Links)}, v)
	out.Whole = true
	return out
}

// paper gives the complete drawing as markup. The writers of package svg
// escape every word themselves.
func (s *state) paper(v scene.View) (links, slips, axis template.HTML) {
	sc := s.seen(v)
	return template.HTML(svg.Group(sc.Links, svg.Link)), template.HTML(svg.Group(sc.Slips, svg.Slip)), template.HTML(svg.Axis(sc.Axis))
}

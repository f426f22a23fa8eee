package workspace

import (
	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/draw/display"
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
	// Axis, Regions and Key are the markup of the axis of a map drawn along time, of
	// the outlines around concepts, and of the key on the paper.
	Axis    string `json:"axis"`
	Regions string `json:"regions"`
	Key     string `json:"key"`
	// Look names the classes that dress the paper.
	Look string `json:"look"`
	// Own is the style sheet of the look's own colours.
	Own string `json:"own,omitempty"`
	// Kinds are those of the map in the order of its key.
	Kinds []kindBrief `json:"kinds"`
	// Kept tells that the map keeps itself in order; Grows to which side it grows then:
	// down, up, right, left or around.
	Kept  bool   `json:"kept"`
	Grows string `json:"grows"`
	// Brief tells how far the map meets its brief; nil where it has none.
	Brief *briefCount `json:"brief,omitempty"`
}

// briefCount is how far a map meets its brief.
type briefCount struct {
	Met   int         `json:"met"`
	Of    int         `json:"of"` // lines
	Lines []lineCount `json:"lines"`
}

type lineCount struct {
	ID    cm.ID `json:"id"`
	Count int   `json:"count"`
	Met   bool  `json:"met"`
}

func (s *State) briefCount() *briefCount {
	if brief.Of(s.Map) == nil {
		return nil
	}
	sum := brief.Add(s.Briefed())
	count := &briefCount{Met: sum.Met, Of: sum.Lines, Lines: []lineCount{}}
	for _, r := range s.Briefed() {
		count.Lines = append(count.Lines, lineCount{r.Line.ID, r.Count, r.Met})
	}
	return count
}

// kindBrief is a kind as menus and keys offer it.
type kindBrief struct {
	ID    cm.ID  `json:"id"`
	Name  string `json:"name"`
	Links bool   `json:"links,omitempty"`
}

// LookOf names the classes that dress the paper of a map.
func LookOf(l cm.Look) string {
	classes := "look-plain"
	if l.Theme != cm.ThemePlain {
		classes = "look-" + string(l.Theme)
	}
	if l.Paper != "" {
		classes += " paper-" + string(l.Paper)
	}
	return classes
}

func (s *State) Head(v scene.View) Head {
	sc := s.Seen(v)
	h := Head{Title: s.Map.Name(), Question: s.Map.Words(s.Map.Question), Axis: svg.Axis(sc.Axis), Regions: svg.Regions(sc), Key: svg.Key(sc.Key), Look: LookOf(s.Map.Look), Own: display.Own(s.Map.Look), Kept: s.Map.KeepTidy, Grows: s.Map.Pattern.Grows(), Brief: s.briefCount()}
	h.Kinds = []kindBrief{}
	for _, k := range s.Map.Key() {
		h.Kinds = append(h.Kinds, kindBrief{k.ID, s.Map.Words(k.Name), k.Links})
	}
	if h.Title == h.Question {
		h.Title = ""
	}
	return h
}

// drawing gives what differs, as it looks in this state to a view.
func (s *State) drawing(p difference, v scene.View) Drawing {
	out := Drawing{Head: s.Head(v)}
	sc := s.Seen(v)
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
func (s *State) whole(v scene.View) Drawing {
	sc := s.Seen(v)
	out := s.drawing(difference{slips: cm.SortedIDs(sc.Slips), links: cm.SortedIDs(sc.Links)}, v)
	out.Whole = true
	return out
}

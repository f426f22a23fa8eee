package office

import (
	"cmp"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/draw/display"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/markdown"
)

// slide is one slide: what stands of the map by then, and what is said.
type slide struct {
	title  string
	body   []para
	notes  string
	shapes []shape
	alt    string
}

// shape is a part of a drawing that can be edited: an outline, with words in it or alone.
type shape struct {
	outline      display.Outline // in the shape's own box, from its upper left corner; nil for words alone
	box          geometry.Box    // on the slide, in points
	fill, stroke string          // hexadecimal with a hash; empty for none
	wide         float64         // of the stroke, in points
	words        string
	verb, bold   bool
	size         float64 // of words, in points
	ink          string
	name         string
}

// The measures of a slide, in points: 13⅓ × 7½ inches.
const (
	slideW    = 960.0
	slideH    = 540.0
	slideEdge = 36.0
	titleHigh = 64.0
	mapWide   = 600.0
)

// slidesOf gives the slides of a map: one for each stop of the route that is exported, or of the first
// one; without any, one for the whole and one for each branch.
func slidesOf(e *content.Export) []slide {
	first := slide{title: e.Title(), body: []para{{spans: plain(e.Question())}}}
	if first.title == e.Question() {
		first.body = nil
	}
	if said := e.Said(); said != "" {
		first.body = append(first.body, para{kind: kindFoot, spans: plain(said)})
	}
	if r := e.Walked(); r != nil {
		first.title = cmp.Or(e.Line(r.Title), first.title)
		if aim := e.Words(r.Purpose); aim != "" {
			first.body = append(fromMarkdown(aim), first.body...)
		}
		return append([]slide{first}, stops(e, r.ID)...)
	}
	whole := e.Map
	first.shapes, first.alt = shapes(e, whole, nil), content.Alternative(e)
	return append([]slide{first}, branches(e)...)
}

func stops(e *content.Export, route cm.ID) (all []slide) {
	for _, stop := range e.Stops(route) {
		s := slide{title: stop.Title, notes: markdown.Plain(stop.GuideNotes), body: fromMarkdown(stop.Card), alt: stop.Title}
		if stop.Question != "" {
			s.body = append(s.body, para{spans: []span{{words: stop.Question, strong: true}}})
			if stop.Answer != "" {
				s.notes = strings.TrimSpace(s.notes + "\n\n" + markdown.Plain(stop.Answer))
			}
		}
		if len(stop.Grown.Concepts) > 0 {
			s.shapes = shapes(e, stop.Grown, stop.Means)
		}
		all = append(all, s)
	}
	return all
}

func branches(e *content.Export) (all []slide) {
	tops := e.Structure.Roots
	if p := e.Structure.Places[e.Map.Focus]; p != nil {
		tops = p.Children
	}
	for _, top := range tops {
		var rows []para
		inside := map[cm.ID]bool{}
		base := -1
		for _, r := range e.Outline() {
			if r.Concept.ID != top && !inside[e.Structure.Places[r.Concept.ID].Parent] {
				continue
			}
			inside[r.Concept.ID] = true
			if base < 0 {
				base = r.Depth
				continue
			}
			rows = append(rows, para{kind: kindItem, level: r.Depth - base, spans: []span{{words: r.Phrase + " ", verb: true}, {words: r.Label}}})
		}
		if len(inside) < 2 {
			continue
		}
		var links []cm.ID
		for _, id := range cm.SortedIDs(e.Map.Links) {
			all := true
			for _, end := range e.Map.Links[id].Ends() {
				all = all && inside[end.Concept]
			}
			if all {
				links = append(links, id)
			}
		}
		part := guide.Part(e.Map, []guide.Step{{Concepts: cm.SortedIDs(inside), Links: links}})
		label := e.Line(e.Map.Concepts[top].Label)
		all = append(all, slide{title: label, body: rows[:min(len(rows), 12)], notes: markdown.Plain(e.Words(e.Map.Concepts[top].Note)), shapes: shapes(e, part, nil), alt: label})
	}
	return all
}

// shapes draws a part of the map with shapes that can be edited, in the room that slides have for it.
func shapes(e *content.Export, part *cm.Map, means map[cm.ID]bool) (all []shape) {
	view := scene.View{Lang: e.Lang}
	part = scene.Together(part, structure.Of(part), view) // words are larger where nothing lies empty
	sc := scene.Build(part, structure.Of(part), view, nil)
	if len(sc.Slips) == 0 {
		return nil
	}
	box := sc.Bounds()
	room := geometry.Box{X: slideW - slideEdge - mapWide, Y: slideEdge + titleHigh, W: mapWide, H: slideH - 2*slideEdge - titleHigh}
	k := min(room.W/box.W, room.H/box.H, 0.9)
	at := func(x, y float64) geometry.Point {
		return geometry.Point{X: room.X + (room.W-box.W*k)/2 + (x-box.X)*k, Y: room.Y + (room.H-box.H*k)/2 + (y-box.Y)*k}
	}
	placed := func(b geometry.Box) geometry.Box {
		p := at(b.X, b.Y)
		return geometry.Box{X: p.X, Y: p.Y, W: b.W * k, H: b.H * k}
	}
	for _, id := range cm.SortedIDs(sc.Links) {
		for _, p := range display.PaintedIn(sc.Look, []display.Item{display.Link(sc.Links[id])}) {
			o, is := p.Item.(*display.Path)
			if !is || p.Fill == "" && p.Stroke == "" || strings.Contains(o.Class, "reach") || strings.Contains(o.Class, "rule") {
				continue
			}
			s := shaped(o.Path, func(q geometry.Point) geometry.Point {
				return at(p.DX+(q.X+o.At.X)*p.Scale, p.DY+(q.Y+o.At.Y)*p.Scale)
			})
			s.fill, s.stroke, s.wide, s.name = p.Fill, p.Stroke, max(0.5, p.StrokeWidth*k), "line"
			all = append(all, s)
		}
	}
	for _, id := range cm.SortedIDs(sc.Links) {
		l := sc.Links[id]
		if l.Words == nil || len(l.Words.Lines) == 0 {
			continue
		}
		all = append(all, shape{box: placed(l.Gap), fill: "#ffffff", words: e.Line(part.Links[id].Phrase), verb: true, size: max(5, l.Words.Size*k*0.98), ink: "#1d2f52", name: "phrase"})
	}
	for _, id := range cm.SortedIDs(sc.Slips) {
		slip := sc.Slips[id]
		for _, p := range display.PaintedIn(sc.Look, []display.Item{display.Slip(slip)}) {
			o, is := p.Item.(*display.Path)
			if !is || o.Class != "body" && o.Class != "strip" {
				continue
			}
			s := shaped(o.Path, func(q geometry.Point) geometry.Point {
				return at(p.DX+(q.X+o.At.X)*p.Scale, p.DY+(q.Y+o.At.Y)*p.Scale)
			})
			s.fill, s.stroke, s.wide, s.name = p.Fill, p.Stroke, max(0.75, p.StrokeWidth*k), "concept"
			if o.Class == "body" {
				s.words, s.ink, s.bold = strings.TrimSpace(e.Words(part.Concepts[id].Label)), "#1d2f52", slip.Focus
				s.size = max(5, cmp.Or(blockSize(slip.Words), 15)*k*0.98)
				if means[id] {
					s.stroke, s.wide = "#d98a00", 2.25
				}
			}
			all = append(all, s)
		}
	}
	return all
}

func blockSize(b *scene.Block) float64 {
	if b == nil {
		return 0
	}
	return b.Size
}

// shaped gives an outline in a box of its own on the slide.
func shaped(o display.Outline, at func(geometry.Point) geometry.Point) shape {
	x0, y0, x1, y1 := 1e9, 1e9, -1e9, -1e9
	moved := make(display.Outline, len(o))
	for i, s := range o {
		moved[i] = display.Segment{Op: s.Op, C1: at(s.C1), C2: at(s.C2), To: at(s.To)}
		points := []geometry.Point{moved[i].To}
		if s.Op == 'Z' {
			points = nil
		} else if s.Op == 'C' {
			points = append(points, moved[i].C1, moved[i].C2)
		}
		for _, p := range points {
			x0, y0, x1, y1 = min(x0, p.X), min(y0, p.Y), max(x1, p.X), max(y1, p.Y)
		}
	}
	if x1 < x0 {
		return shape{}
	}
	for i := range moved {
		for _, p := range []*geometry.Point{&moved[i].C1, &moved[i].C2, &moved[i].To} {
			p.X, p.Y = p.X-x0, p.Y-y0
		}
	}
	return shape{outline: moved, box: geometry.Box{X: x0, Y: y0, W: max(x1-x0, 0.1), H: max(y1-y0, 0.1)}}
}

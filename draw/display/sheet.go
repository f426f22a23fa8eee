package display

import (
	"math"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// List is all that is painted of a scene, in the order of painting.
func List(sc *scene.Scene) []Item {
	items := Regions(sc)
	if a := Axis(sc.Axis); a != nil {
		items = append(items, a)
	}
	for _, id := range cm.SortedIDs(sc.Links) {
		items = append(items, Link(sc.Links[id]))
	}
	for _, id := range cm.SortedIDs(sc.Slips) {
		items = append(items, Slip(sc.Slips[id]))
	}
	if k := Key(sc.Key); k != nil {
		items = append(items, k)
	}
	return items
}

// Regions are the outlines around concepts, with the picture that lies under them.
func Regions(sc *scene.Scene) []Item {
	var all []Item
	if p := sc.Look.Picture; p != nil {
		all = append(all, &Image{Class: "picture backdrop", Hash: p.File.Hash, Box: geometry.Box{X: p.At.X, Y: p.At.Y, W: p.Wide, H: p.Height()}, Opacity: cm.BackdropOpacity})
	}
	for _, r := range sc.Regions {
		all = append(all, region(r))
	}
	return all
}

func region(r *scene.Region) *Group {
	c := classes{"region"}
	c.on(r.Colour != "", "colour-"+string(r.Colour))
	c.on(r.Stroke != "", "stroke-"+string(r.Stroke))
	c.on(r.Filled, "filled")
	g := &Group{Class: c.String(), ID: "r-" + string(r.ID), Label: t("Region %s", joined(r.Words))}
	inside := make([]string, len(r.Inside))
	for i, id := range r.Inside {
		inside[i] = string(id)
	}
	g.Facts = []Fact{{"kind", "region"}, {"id", string(r.ID)}, {"inside", strings.Join(inside, " ")}}
	for _, k := range r.Marks {
		g.Label += ", " + k.Says
	}
	var border Outline
	for _, part := range r.Parts {
		for i, p := range part {
			if i == 0 {
				border.move(p.X, p.Y)
			} else {
				border.line(p.X, p.Y)
			}
		}
		border.close()
	}
	tab := &Group{Class: "tab", At: geometry.Point{X: r.Tab.X, Y: r.Tab.Y}, Items: []Item{
		&Path{Class: "cut", Path: polygon(0, 0, r.Tab.W, 0, r.Tab.W-10, r.Tab.H, 0, r.Tab.H)},
	}}
	room := r.MarksRoom()
	tab.add(block("aside", r.Words, geometry.Box{W: r.Tab.W - 8 - scene.FoldSign - room, H: r.Tab.H})...)
	if room > 0 {
		tab.add(badges(r.Marks, r.Tab.W-14-scene.FoldSign-room, (r.Tab.H-13)/2))
	}
	x := r.Tab.W - 10 - scene.FoldSign
	tab.add(&Rect{Class: "touch fold-touch", Box: geometry.Box{X: x - 2, W: 24, H: 24}}, &Path{Class: "fold-sign", Path: straight(x+4, 10, x+8, 14, x+12, 10)})
	g.add(&Path{Class: "border", Path: border}, tab)
	return g
}

// Axis is the axis of a map drawn along time; nil where there is none.
func Axis(a *scene.Axis) *Group {
	if a == nil {
		return nil
	}
	g := &Group{Class: "axis"}
	line := straight(a.X0, a.Y, a.X1, a.Y)
	for _, t := range a.Ticks {
		line.move(t.X, a.Y-5)
		line.line(t.X, a.Y+5)
	}
	g.add(&Path{Path: line})
	for _, s := range a.Spans {
		g.add(&Path{Class: "span", Path: straight(s.X0, s.Y, s.X1, s.Y)})
	}
	for _, t := range a.Ticks {
		g.add(words("noun", face.Noun, 15, t.X, a.Y-12, t.Words))
	}
	return g
}

// Key is the key on the paper; nil where there is none.
func Key(k *scene.Key) *Group {
	if k == nil {
		return nil
	}
	g := &Group{Class: "paper-key", At: geometry.Point{X: k.Box.X, Y: k.Box.Y},
		Facts: []Fact{{"box", numbers(k.Box.X, k.Box.Y, k.Box.W, k.Box.H)}, {"folded", strconv.FormatBool(k.Folded)}}}
	right, fold := k.Box.W-34, straight(k.Box.W-34, 17, k.Box.W-29, 12, k.Box.W-24, 17)
	if k.Folded {
		fold = straight(right, 12, right+5, 17, right+10, 12)
	}
	g.add(&Path{Class: "back", Path: polygon(0, 0, k.Box.W-scene.Cut, 0, k.Box.W, scene.Cut, k.Box.W, k.Box.H, 0, k.Box.H)},
		&Group{Class: "key-head", Items: []Item{words("aside bold key-words", face.NounBold, 14, k.Pad(), 20, t("Key")), &Path{Class: "fold-sign", Path: fold}}})
	for _, r := range k.Rows {
		g.add(keyRow(k, r))
	}
	return g
}

func keyRow(k *scene.Key, r scene.KeyRow) *Group {
	x, y := k.Pad(), r.Y
	g := &Group{Class: "key-row"}
	switch {
	case r.Tag != nil:
		g.fact("tag", string(r.ID))
	case r.Kind != nil:
		g.fact("kind", string(r.ID))
	case r.ID != "":
		g.fact("branch", string(r.ID))
	}
	g.add(&Rect{Class: "touch", Box: geometry.Box{Y: y - scene.KeyRowH/2, W: k.Box.W, H: scene.KeyRowH}})
	sample := geometry.Box{X: x, Y: y - sampleHeight/2, W: scene.KeySample, H: sampleHeight}
	switch {
	case r.Tag != nil:
		c := classes{"badge"}
		c.on(r.Tag.Colour != "", "colour-"+string(r.Tag.Colour))
		first := []rune(strings.ToUpper(r.Words) + " ")[0]
		g.add(&Group{Class: c.String(), At: geometry.Point{X: x + 15, Y: y - 6.5}, Items: tagged(string(first))})
	case r.Icon != "":
		g.add(pictogram(r.Icon, x+13, y-8, 16)...)
	case r.Kind == nil:
		g.add(Sample(&cm.Kind{Colour: r.Colour, Outline: cm.OutlinePlain}, sample))
	case r.Kind.Links:
		g.add(SampleLine(r.Kind, x, y))
	default:
		kind := *r.Kind
		kind.Colour = r.Colour
		g.add(Sample(&kind, sample))
	}
	line := y + scene.KeyType*baseline
	g.add(words("aside key-words", face.Noun, scene.KeyType, x+scene.KeySample+10, line, r.Words),
		words("aside key-count", face.Noun, scene.KeyType, k.Box.W-k.Pad(), line, strconv.Itoa(r.Count)))
	return g
}

// sampleHeight is how high a small slip stands in the key.
const sampleHeight = 21.0

// Cards are the small cards of a route, each a group that names its stop.
func Cards(all []scene.Card) []Item {
	var items []Item
	for _, c := range all {
		items = append(items, card(c))
	}
	return items
}

func card(c scene.Card) *Group {
	g := &Group{Class: "small-card", Facts: []Fact{{"stop", string(c.Stop)}}, Label: t("Card %s", c.Number)}
	if c.Title != nil {
		g.Label += ", " + joined(c.Title)
	}
	w, h := c.Box.W, c.Box.H
	leaf := &Group{At: geometry.Point{X: c.Box.X, Y: c.Box.Y}, Items: []Item{
		&Path{Class: "leaf", Path: polygon(0, 0, w, 0, w, h-9, w-9, h, 0, h)}, &Path{Class: "leaf-turn", Path: straight(w, h-9, w-9, h-9, w-9, h)},
		words("aside leaf-number", face.NounBold, 15, scene.CardPad, scene.CardPad+12, c.Number),
	}}
	y := scene.CardPad
	if t := c.Title; t != nil {
		leaf.add(block("aside", t, geometry.Box{X: scene.CardPad + scene.CardLead, Y: y, W: t.W, H: t.H})...)
		y += t.H + 3
	} else {
		y += 15
	}
	if b := c.Words; b != nil {
		leaf.add(block("aside", b, geometry.Box{X: scene.CardPad, Y: y, W: b.W, H: b.H})...)
	}
	g.add(&Path{Class: "tether", Path: straight(c.From.X, c.From.Y, c.To.X, c.To.Y)}, leaf)
	return g
}

// Paper is the sheet under a drawing, with what is printed on it.
func Paper(box geometry.Box, l cm.Look, colour func(name string) string) []Item {
	all := []Item{&Rect{Box: box, Paint: &Paint{Fill: colour("paper")}}}
	if l.Paper == "" || l.Paper == cm.PaperPicture {
		return all
	}
	step := scene.PaperStep
	print := &Paint{Stroke: colour("ink-faint"), StrokeOpacity: 0.55, StrokeWidth: 1}
	if l.Paper == "dots" {
		print.StrokeWidth, print.LineCap, print.Dash = 2.4, "round", []float64{0, step}
	}
	var lines Outline
	x0, y0 := math.Floor(box.X/step)*step, math.Floor(box.Y/step)*step
	for y := y0 + step; y < box.Y+box.H; y += step {
		lines.move(x0+step, y)
		lines.line(box.X+box.W, y)
	}
	for x := x0 + step; x < box.X+box.W && l.Paper == "squares"; x += step {
		lines.move(x, y0+step)
		lines.line(x, box.Y+box.H)
	}
	return append(all, &Path{Class: "printed", Path: lines, Paint: print})
}

// Small is a drawing for a place where its words could not be read: outlines and lines
// only, bars for words, in colours of their own. Lines are as wide as is said.
func Small(sc *scene.Scene, stroke float64, colour func(name string) string) []Item {
	lines := &Group{Paint: &Paint{Stroke: colour("ink-soft"), StrokeWidth: stroke}}
	for _, id := range cm.SortedIDs(sc.Links) {
		var line Outline
		for _, leg := range sc.Links[id].Legs {
			line.leg(leg.Path)
		}
		lines.add(&Path{Path: line})
	}
	all := []Item{lines}
	for _, id := range cm.SortedIDs(sc.Slips) {
		all = append(all, smallSlip(sc.Slips[id], stroke, colour))
	}
	return all
}

func smallSlip(s *scene.Slip, stroke float64, colour func(name string) string) *Group {
	strip, fill := "strip", "slip"
	if s.Focus {
		strip = "ink"
	}
	if s.Colour != "" {
		strip, fill = string(s.Colour), string(s.Colour)+"-wash"
	}
	body, edge := Outlines(s)
	g := &Group{At: geometry.Point{X: s.Box.X, Y: s.Box.Y}, Items: []Item{
		&Path{Path: body, Paint: &Paint{Fill: colour(fill), Stroke: colour("ink"), StrokeWidth: stroke, LineJoin: "round"}},
		&Path{Path: edge, Paint: &Paint{Fill: colour(strip), Stroke: colour(strip), StrokeWidth: stroke, LineJoin: "round"}},
	}}
	for i, line := range s.Words.Lines {
		middle := (s.Box.H-s.Words.H)/2 + (float64(i)+0.5)*s.Words.LineHeight
		left := (s.Box.W + scene.Strip*2 - line.Px) / 2
		g.add(&Path{Path: straight(left, middle, left+line.Px, middle), Paint: &Paint{Stroke: colour("ink-faint"), StrokeWidth: s.Words.Size * 0.42}})
	}
	return g
}

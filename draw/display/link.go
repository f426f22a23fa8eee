package display

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// Link is one link: its lines, its darts and its phrase.
func Link(k *scene.Link) *Group {
	c := classes{"link"}
	c.on(k.Open(), "open")
	c.on(k.Veiled(), "veiled")
	c.on(k.Colour != "", "colour-"+string(k.Colour))
	c.on(k.Stroke != "", "stroke-"+string(k.Stroke))
	g := &Group{Class: c.String(), ID: "l-" + string(k.ID), Label: linkLabel(k)}
	g.Facts = []Fact{{"kind", "link"}, {"id", string(k.ID)}, {"heads", string(k.Heads)}, {"from", ends(k, true)}, {"to", ends(k, false)}, {"gap", numbers(k.Gap.X, k.Gap.Y, k.Gap.W, k.Gap.H)}}
	g.typed(k.Words)
	g.byHand(k)
	var reach Outline
	for _, leg := range k.Legs {
		reach.leg(leg.Path)
	}
	g.add(&Path{Class: "reach", Path: reach})
	g.legs(k.Legs)
	g.add(&Rect{Class: "gap", Box: k.Gap})
	in := k.Gap
	if n := len(k.Marks); n > 0 {
		room := k.Marks[n-1].X + k.Marks[n-1].W + scene.LinkMarkGap
		g.add(badges(k.Marks, k.Gap.X+k.Gap.W-room, k.Gap.Y+(k.Gap.H-13)/2))
		in.W -= room
	}
	if k.Open() { // a line to write on, as in an exercise book
		g.add(&Path{Class: "rule", Path: straight(in.X+4, in.Y+in.H-4, in.X+in.W-4, in.Y+in.H-4)})
	} else {
		g.add(block("verb", k.Words, in)...)
	}
	g.add(talk(k.Talk, k.Gap.X+k.Gap.W-4, k.Gap.Y+k.Gap.H)...)
	for _, v := range k.Verdicts {
		g.add(verdict(k, v))
	}
	return g
}

func linkLabel(k *scene.Link) string {
	label := k.Says
	if k.Kind != "" {
		label += ", " + k.Kind
	}
	for _, mark := range k.Marks {
		label += ", " + mark.Says
	}
	for _, v := range k.Verdicts {
		label += ", " + v.Says()
	}
	return label + k.Talk.Says()
}

func ends(k *scene.Link, from bool) string {
	var all []string
	for _, leg := range k.Legs {
		if leg.From == from {
			all = append(all, string(leg.End)+":"+string(leg.Concept))
		}
	}
	return strings.Join(all, " ")
}

// byHand tells how the author led a line, for those who go on leading it.
func (g *Group) byHand(k *scene.Link) {
	l := k.ByHand()
	if l.Line != cm.LineAuto {
		g.fact("line", string(l.Line))
	}
	if l.Along != 0 {
		g.fact("along", strconv.FormatFloat(l.Along, 'f', 4, 64))
	}
	if l.Hub != nil {
		g.fact("hub", numbers(l.Hub.X, l.Hub.Y))
	}
	if l.Tidied {
		g.fact("tidied", "1")
	}
	var bends []string
	for _, end := range cm.SortedIDs(l.Bends) {
		var at []string
		for _, p := range l.Bends[end] {
			at = append(at, numbers(p.X, p.Y))
		}
		bends = append(bends, string(end)+":"+strings.Join(at, ","))
	}
	if bends != nil {
		g.fact("bends", strings.Join(bends, ";"))
	}
}

// legs adds the lines of a link, then its knots and darts: one path for all of a sort,
// since a large map has thousands.
func (g *Group) legs(legs []scene.Leg) {
	var lines, cross, darts Outline
	for _, leg := range legs {
		if leg.Cross {
			cross.leg(leg.Path)
		} else {
			lines.leg(leg.Path)
		}
		if leg.Dart != nil {
			darts.dart(*leg.Dart)
		}
	}
	for _, sort := range []Path{{Class: "line", Path: lines}, {Class: "line cross", Path: cross}, {Class: "between", Path: cross}} {
		if sort.Path != nil {
			g.add(&sort)
		}
	}
	for _, leg := range legs {
		if leg.Knot != nil {
			g.add(&Circle{"knot", *leg.Knot, 3.4})
		}
	}
	if darts != nil {
		g.add(&Path{Class: "dart", Path: darts})
	}
}

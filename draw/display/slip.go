package display

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// Slip is one concept.
func Slip(s *scene.Slip) *Group {
	g := &Group{Class: slipClass(s), ID: "c-" + string(s.ID), At: geometry.Point{X: s.Box.X, Y: s.Box.Y}, Label: slipLabel(s)}
	slipFacts(g, s)
	g.add(outline(s)...)
	in := geometry.Box{X: scene.Strip, W: s.Box.W - scene.Strip, H: s.Box.H}
	if len(s.Hides) > 0 {
		in.H -= scene.FoldedHeight
	}
	bottom := in.H
	in = g.stuff(s, in)
	if len(s.Marks) > 0 {
		in.H -= scene.MarksHeight
	}
	x := scene.Strip + 9.0
	for _, name := range s.Icons {
		g.add(pictogram(name, x, in.Y+(in.H-scene.IconSize)/2, scene.IconSize)...)
		x += scene.IconSize + 4
	}
	if wide := s.IconsWidth(); wide > 0 {
		in.X, in.W = in.X+wide, in.W-wide
	}
	g.add(block("noun", s.Words, in)...)
	if n := len(s.Marks); n > 0 {
		last := s.Marks[n-1]
		g.add(badges(s.Marks, scene.Strip+(s.Box.W-scene.Strip-last.X-last.W)/2, bottom-scene.MarksHeight-3))
	}
	g.tuck(s)
	g.add(talk(s.Talk, s.Box.W-16, s.Box.H)...)
	if s.Pinned {
		g.add(&Circle{"pin", geometry.Point{X: 16}, 4})
	}
	if s.Held {
		g.add(&Circle{"held", geometry.Point{X: 16}, 3.5})
	}
	return g
}

func slipClass(s *scene.Slip) string {
	c := classes{"slip"}
	c.on(s.Focus, "focus")
	c.on(s.Loose, "loose")
	c.on(len(s.Words.Lines) == 0, "empty")
	c.on(s.Colour != "", "colour-"+string(s.Colour))
	c.on(s.Pinned, "pinned")
	c.on(s.Held, "held")
	c.on(s.Region, "gathered")
	if p := s.Paint; p != nil {
		c.on(p.Fill != "", "fill-"+string(p.Fill))
		c.on(p.Words != "", "words-"+string(p.Words))
		c.on(p.Border != "", "border-"+string(p.Border))
	}
	return c.String()
}

func slipFacts(g *Group, s *scene.Slip) {
	g.Facts = []Fact{{"kind", "concept"}, {"id", string(s.ID)}, {"box", numbers(s.Box.X, s.Box.Y, s.Box.W, s.Box.H)}}
	if s.MainLink != "" {
		g.fact("main", string(s.MainLink)+" "+string(s.MainEnd)+" "+s.Rank+" "+string(s.Parent))
	}
	g.typed(s.Words)
	if s.Outline != cm.OutlineSlip {
		g.fact("outline", string(s.Outline))
	}
	if s.Size != 0 {
		g.fact("size", strconv.Itoa(s.Size))
	}
	if s.Wide {
		g.fact("wide", "1")
	}
	if len(s.Hides) > 0 {
		hides := make([]string, len(s.Hides))
		for i, id := range s.Hides {
			hides[i] = string(id)
		}
		g.fact("hides", strings.Join(hides, " "))
	}
	if s.Region {
		g.fact("region", "1")
	}
	g.fact("level", strconv.Itoa(s.Level))
}

// typed tells the words as they were typed, where their lines do not.
func (g *Group) typed(b *scene.Block) {
	if b != nil && len(b.Lines) > 1 {
		g.fact("words", b.Words)
	}
}

func slipLabel(s *scene.Slip) string {
	label := joined(s.Words)
	say := func(words string) { label += ", " + words }
	if s.Kind != "" {
		say(s.Kind)
	}
	for _, i := range s.Icons {
		if n, is := i.Step(); is {
			say(t("step %d", n))
		} else if means := i.Means(); means != "" {
			say(t(means))
		}
	}
	for _, k := range s.Marks {
		say(k.Says)
	}
	if s.Remark != nil {
		say(joined(s.Remark))
	}
	if s.Pinned {
		say(t("pinned"))
	}
	if s.Held {
		say(t("placed by hand"))
	}
	label += s.Talk.Says()
	if n := len(s.Hides); n > 0 {
		say(t("%d tucked away", n))
	}
	return label
}

// tuck adds the folded lower edge of a slip that hides its branch.
func (g *Group) tuck(s *scene.Slip) {
	n := len(s.Hides)
	if n == 0 {
		return
	}
	top := s.Box.H - scene.FoldedHeight
	g.add(&Group{Class: "tuck", Items: []Item{
		&Path{Class: "flap", Path: polygon(0, top, s.Box.W, top, s.Box.W-7, s.Box.H, 7, s.Box.H)},
		words("aside count", face.Noun, 12.5, s.Box.W/2, s.Box.H-5.5, t("+%d ideas", n)),
	}})
}

// stuff adds the picture above a label and the table below it, and gives the room that
// is left for the label and its marks.
func (g *Group) stuff(s *scene.Slip, in geometry.Box) geometry.Box {
	middle := in.X + in.W/2
	if p := s.Picture; p != nil {
		g.add(&Rect{Class: "mat", Box: geometry.Box{X: middle - p.W/2 - 3, Y: 6, W: p.W + 6, H: p.H + 6}},
			&Image{Class: "picture", Hash: p.Hash, Source: p.Source, Box: geometry.Box{X: middle - p.W/2, Y: 9, W: p.W, H: p.H}, Says: p.Says})
		in.Y, in.H = in.Y+p.H+scene.PictureGap, in.H-p.H-scene.PictureGap
	}
	foot := 0.0
	if len(s.Marks) > 0 {
		foot = scene.MarksHeight
	}
	if t := s.Grid; t != nil {
		in.H -= t.H + scene.GridGap
		g.add(grid(t, middle-t.W/2, in.Y+in.H-foot))
	}
	if r := s.Remark; r != nil {
		in.H -= r.H + scene.RemarkGap
		top := in.Y + in.H - foot - 3
		g.add(&Path{Class: "remark-line", Path: straight(middle-14, top+1, middle+14, top+1)})
		g.add(block("aside remark", r, geometry.Box{X: in.X, Y: top + scene.RemarkGap - 2, W: in.W, H: r.H})...)
	}
	return in
}

// grid is a table.
func grid(t *scene.Grid, left, top float64) *Group {
	g := &Group{Class: "rows-grid", At: geometry.Point{X: left, Y: top}}
	if t.Head {
		g.add(&Rect{Class: "rows-head", Box: geometry.Box{W: t.W, H: t.Rows[0]}})
	}
	g.add(&Rect{Class: "touch", Box: geometry.Box{W: t.W, H: t.H}})
	rules := straight(0, 0, t.W, 0)
	y := 0.0
	for _, h := range t.Rows {
		y += h
		rules.move(0, y)
		rules.line(t.W, y)
	}
	x := 0.0
	for i := range len(t.Columns) + 1 {
		rules.move(x, 0)
		rules.line(x, t.H)
		if i < len(t.Columns) {
			x += t.Columns[i]
		}
	}
	g.add(&Path{Class: "rules", Path: rules})
	y = 0
	for i, row := range t.Cells {
		x := 0.0
		for j, cell := range row {
			g.add(block("aside", cell, geometry.Box{X: x, Y: y, W: t.Columns[j], H: t.Rows[i]})...)
			x += t.Columns[j]
		}
		y += t.Rows[i]
	}
	return g
}

package tidy

import (
	"fmt"
	"strings"
)

// patterns are all ways to put a map in order, by their names.
var patterns = []struct {
	name string
	draw func(Graph, Spacing, bool) Drawing
}{
	{"levels", Levels},
	{"levels-up", func(g Graph, s Spacing, keep bool) Drawing {
		return mirrored(Levels(g.mirrored(1, -1), s, keep), 1, -1)
	}},
	{"levels-right", func(g Graph, s Spacing, keep bool) Drawing { return turned(Levels, g, s, keep) }},
	{"levels-left", func(g Graph, s Spacing, keep bool) Drawing {
		return mirrored(turned(Levels, g.mirrored(-1, 1), s, keep), -1, 1)
	}},
	{"sides", Sides},
	{"rings", Rings},
	{"web", Web},
	{"spine", Spine},
	{"time", Along},
	{"rows", Columns},
}

// Pattern gives the way to draw by a pattern.
func Pattern(name string) (func(Graph, Spacing, bool) Drawing, error) {
	for _, p := range patterns {
		if p.name == name {
			return p.draw, nil
		}
	}
	return nil, fmt.Errorf("there is no pattern %q; there are %s", name, PatternNames())
}

// PatternNames lists the patterns.
func PatternNames() string {
	names := make([]string, len(patterns))
	for i, p := range patterns {
		names[i] = p.name
	}
	return strings.Join(names, ", ")
}

// turned draws by a pattern with x and y exchanged.
func turned(draw func(Graph, Spacing, bool) Drawing, g Graph, s Spacing, keep bool) Drawing {
	flip := func(z Size) Size { return Size{W: z.H, H: z.W} }
	side := g
	side.Boxes, side.Wires = make([]Box, len(g.Boxes)), make([]Wire, len(g.Wires))
	for i, b := range g.Boxes {
		side.Boxes[i] = b
		side.Boxes[i].Size = flip(b.Size)
	}
	for i, w := range g.Wires {
		w.Phrase = flip(w.Phrase)
		side.Wires[i] = w
	}
	if g.Was != nil {
		side.Was = make([]Point, len(g.Was))
		for i, p := range g.Was {
			side.Was[i] = Point{X: p.Y, Y: p.X}
		}
	}
	d := draw(side, s, keep)
	d.each(func(p Point) Point { return Point{X: p.Y, Y: p.X} })
	return d
}

// mirrored turns a drawing over, to the other side or upside down.
func mirrored(d Drawing, x, y float64) Drawing {
	d.each(func(p Point) Point { return Point{X: p.X * x, Y: p.Y * y} })
	return d
}

// mirrored gives the graph with the places where it stood turned over.
func (g Graph) mirrored(x, y float64) Graph {
	was := g.Was
	for i, p := range was {
		if i == 0 {
			g.Was = make([]Point, len(was))
		}
		g.Was[i] = Point{X: p.X * x, Y: p.Y * y}
	}
	return g
}

// each puts every place of a drawing elsewhere.
func (d *Drawing) each(to func(Point) Point) {
	for i, p := range d.Boxes {
		d.Boxes[i] = to(p)
	}
	for i := range d.Wires {
		d.Wires[i].Phrase = to(d.Wires[i].Phrase)
		for _, leg := range d.Wires[i].Legs {
			for j, p := range leg {
				leg[j] = to(p)
			}
		}
	}
}

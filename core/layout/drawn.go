package layout

import (
	"math"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
)

// drawn is a group put in order: the middles of slips, and lines.
type drawn struct {
	at    map[cm.ID]tidy.Point
	lines map[cm.ID]line
}

// line is how one link is led, by the ids of its ends.
type line struct {
	phrase tidy.Point
	legs   map[cm.ID][]tidy.Point
	// near holds what lines pass that end within an inner group, up to its box.
	near map[cm.ID][]tidy.Point
}

func (d *drawn) shift(by tidy.Point) {
	add := func(p tidy.Point) tidy.Point { return tidy.Point{X: p.X + by.X, Y: p.Y + by.Y} }
	for id, p := range d.at {
		d.at[id] = add(p)
	}
	for id, l := range d.lines {
		l.phrase = add(l.phrase)
		for _, leg := range l.legs {
			for i := range leg {
				leg[i] = add(leg[i])
			}
		}
		d.lines[id] = l
	}
}

// take adds a branch, with its top at a place.
func (d *drawn) take(branch *drawn, top cm.ID, at tidy.Point) {
	from := branch.at[top]
	branch.shift(tidy.Point{X: at.X - from.X, Y: at.Y - from.Y})
	for id, p := range branch.at {
		d.at[id] = p
	}
	for id, l := range branch.lines {
		d.lines[id] = l
	}
}

// box gives the room that a drawing takes.
func (a *arranging) box(d *drawn) route.Rect {
	r := route.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	hold := func(o route.Rect) {
		r = route.Rect{X0: min(r.X0, o.X0), Y0: min(r.Y0, o.Y0), X1: max(r.X1, o.X1), Y1: max(r.Y1, o.Y1)}
	}
	for id, p := range d.at {
		hold(geometry.At(p, a.size(id)))
	}
	for id, l := range d.lines {
		size := a.Measurer.Phrase(a.m, a.m.Links[id])
		hold(geometry.At(l.phrase, size))
		for _, leg := range l.legs {
			for _, p := range leg {
				hold(geometry.At(p, tidy.Size{}))
			}
		}
	}
	return r
}

package layout

import (
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
)

// A large map whose pattern would make it a ribbon is wrapped: what hangs from its top
// is drawn branch by branch and set in rows (or, where levels go sideways, in columns),
// and so on within each branch that would be a ribbon itself.
const (
	minWrapped   = 120 // concepts of a map that is wrapped; a smaller one is as wide as its pattern makes it
	minWoven     = 700 // of a map of levels whose branches many links join
	minWrappedIn = 9   // concepts of a branch within a wrapped map
	maxNested    = 24  // branches within branches that are wrapped
	// The proportions, width to height, within which nothing is wrapped.
	slimmest, widest = 0.5, 2.8
)

// wraps tells that branches of a pattern may be set in rows: those of levels. Rings and webs
// are as wide as high by themselves, lists take the shapes that suit the whole, and along time
// each stands where its time is.
func wraps(p cm.Pattern) bool {
	switch p {
	case cm.PatternLevels, cm.PatternUp, cm.PatternRight, cm.PatternLeft:
		return true
	}
	return false
}

// shelves gives the way to set the branches of a pattern in rows: they begin where the
// pattern's levels begin.
func shelves(p cm.Pattern) func(tidy.Graph, tidy.Spacing, bool) tidy.Drawing {
	switch p {
	case cm.PatternUp:
		return tidy.ShelvesUp
	case cm.PatternRight:
		return tidy.ShelvesRight
	case cm.PatternLeft:
		return tidy.ShelvesLeft
	}
	return tidy.Shelves
}

// tooMany tells that a group has as many concepts as are wrapped.
func (g *group) tooMany(a *arranging) bool {
	least := minWrapped
	if a.woven {
		least = minWoven
	}
	if g.nested > 0 {
		least = minWrappedIn
	}
	return len(g.own) >= least && g.nested < maxNested && !g.shelved && wraps(g.pattern)
}

// woven tells that so many links join branches that they are better drawn together.
func woven(m *cm.Map) bool {
	const few = 0.05
	joins := 0
	for _, l := range m.Links {
		joins += len(l.From)*len(l.To) - 1
	}
	joins += len(m.Links)
	return float64(joins-len(m.Concepts)) > few*float64(len(m.Concepts))
}

// ribbon tells that a drawing is far wider than high, or far higher than wide.
func ribbon(r route.Rect) bool {
	aspect := (r.X1 - r.X0) / max(1, r.Y1-r.Y0)
	return aspect < slimmest || aspect > widest
}

// surelyRibbon tells, without drawing it, that a group of many concepts becomes a
// ribbon: its largest level alone is far longer than all levels are high.
func (g *group) surelyRibbon(a *arranging) bool {
	if g.pattern == cm.PatternRows {
		return false
	}
	mine, depth := map[cm.ID]bool{}, map[cm.ID]int{}
	for _, id := range g.own {
		mine[id] = true
	}
	var long, high []float64
	for _, id := range g.own { // in reading order: parents first
		if p := a.s.Places[id].Parent; mine[p] {
			depth[id] = depth[p] + 1
		}
		d := depth[id]
		for len(long) <= d {
			long, high = append(long, 0), append(high, 0)
		}
		size := a.size(id)
		if g.pattern == cm.PatternRight || g.pattern == cm.PatternLeft {
			size.W, size.H = size.H, size.W
		}
		long[d] += size.W + spacing.Side
		high[d] = max(high[d], size.H)
	}
	all := 0.0
	for _, h := range high {
		all += h + 3*spacing.Level
	}
	return slices.Max(long) > 1.5*widest*all
}

// wrap divides a group: its top (with what hangs from it in a chain) and each branch
// below that as a group of its own, to be set in rows.
func (g *group) wrap(a *arranging) *group {
	w := &group{top: g.top, region: g.region, pattern: g.pattern, shelved: true, nested: g.nested + 1, holds: map[cm.ID]int{}}
	mine := make(map[cm.ID]bool, len(g.own))
	for _, id := range g.own {
		mine[id] = true
	}
	// What stands by itself in the group hangs from whatever is above it there.
	above := func(id cm.ID) cm.ID {
		for p := a.s.Places[id].Parent; p != ""; p = a.s.Places[p].Parent {
			if mine[p] {
				return p
			}
		}
		return ""
	}
	below := map[cm.ID][]cm.ID{}
	for _, id := range g.own {
		below[above(id)] = append(below[above(id)], id)
	}
	inner := map[cm.ID][]*group{}
	for _, in := range g.inner {
		inner[above(in.top)] = append(inner[above(in.top)], in)
	}
	heads, top := below[""], cm.ID("")
	for len(heads) == 1 {
		top = heads[0]
		w.own = append(w.own, top)
		w.hold(inner[top], g.holds, g.inner)
		heads = below[top]
	}
	w.hold(inner[""], g.holds, g.inner)
	for _, head := range heads {
		branch := &group{top: head, pattern: g.pattern, nested: g.nested + 1, holds: map[cm.ID]int{}}
		for open := []cm.ID{head}; len(open) > 0; {
			id := open[len(open)-1]
			open = open[:len(open)-1]
			branch.own = append(branch.own, id)
			branch.hold(inner[id], g.holds, g.inner)
			for _, c := range slices.Backward(below[id]) {
				open = append(open, c)
			}
		}
		if len(branch.own) == 1 && len(branch.inner) == 0 {
			w.own = append(w.own, head)
			continue
		}
		for _, id := range branch.own {
			w.holds[id] = len(w.inner)
		}
		for id := range branch.holds {
			w.holds[id] = len(w.inner)
		}
		w.inner = append(w.inner, branch)
	}
	return w
}

// hold takes inner groups of another group along.
func (g *group) hold(some []*group, holds map[cm.ID]int, all []*group) {
	for _, in := range some {
		at := slices.Index(all, in)
		for id, i := range holds {
			if i == at {
				g.holds[id] = len(g.inner)
			}
		}
		g.inner = append(g.inner, in)
	}
}

// squarer gives a drawing of shelves, or, where that is a ribbon all the same, since
// deep branches grow one way, the one with the branches set beside their top.
func squarer(graph tidy.Graph, d tidy.Drawing, p cm.Pattern) tidy.Drawing {
	off := unevenness(graph, d)
	if off < math.Log(widest) {
		return d
	}
	beside := tidy.ShelvesRight
	if p == cm.PatternRight || p == cm.PatternLeft {
		beside = tidy.Shelves
	}
	if other := beside(graph, spacing, true); unevenness(graph, other) < off {
		return other
	}
	return d
}

// unevenness tells how far the proportions of a drawing are from a square's: the
// logarithm of its longer side to its shorter.
func unevenness(graph tidy.Graph, d tidy.Drawing) float64 {
	all := geometry.At(d.Boxes[0], graph.Boxes[0].Size)
	for i, at := range d.Boxes {
		r := geometry.At(at, graph.Boxes[i].Size)
		all = route.Rect{X0: min(all.X0, r.X0), Y0: min(all.Y0, r.Y0), X1: max(all.X1, r.X1), Y1: max(all.Y1, r.Y1)}
	}
	return math.Abs(math.Log((all.X1 - all.X0) / (all.Y1 - all.Y0)))
}

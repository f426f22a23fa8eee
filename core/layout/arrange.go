package layout

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/layout/tidy"
	"mevrin/core/structure"
	"mevrin/core/work"
)

// Arrange puts a map, or one branch of it, in order by its patterns. Branches
// with a pattern of their own are put in order first and stand in the rest as
// one box each. What is pinned stays, and the rest makes room for it.
func (r Placer) Arrange(m *cm.Map, s edit.Scope) (edit.Arrangement, error) {
	a := arranging{Placer: r, m: m, s: structure.Of(m), scope: s, stays: map[cm.ID]bool{}}
	for id, c := range m.Concepts {
		if c.Hold == cm.HoldPin || s.Hand && c.Hold == cm.HoldHand {
			a.stays[id] = true
		}
	}
	members := a.s.Order
	if s.Branch != "" {
		members = a.below(s.Branch)
	}
	switch {
	case len(members) == 0:
		return edit.Arrangement{}, nil
	case len(members) > MaxArranged && s.Again:
		return edit.Arrangement{}, nil // an edit must not fail for that
	case len(members) > maxWoven && a.patternOf(s.Branch) == cm.PatternWeb:
		return edit.Arrangement{}, cm.Refusef("A web of %d concepts takes too long; at most %d are put in order like that. Levels or rings are quicker.", len(members), maxWoven)
	case len(members) > MaxArranged:
		return edit.Arrangement{}, cm.Refusef("At most %d concepts are put in order at once; this is %d. Put its branches in order, one after the other.", MaxArranged, len(members))
	}
	ends := 0
	for _, l := range m.Links {
		ends += len(l.From) + len(l.To)
	}
	a.many, a.woven = len(members), woven(m)
	a.quick = len(members) > manyConcepts || ends > crowded*len(m.Concepts)
	var out edit.Arrangement
	done := work.Done(func() {
		d := a.group(s.Branch, members, nil).draw(&a)
		d.shift(a.anchor(d))
		for _, g := range a.held {
			d.take(g.draw(&a), g.top, a.middle(g.top))
		}
		out = a.settle(d)
	})
	switch {
	case !done && s.Again:
		return edit.Arrangement{}, nil
	case !done:
		return edit.Arrangement{}, cm.Refusef("Putting %d concepts in order like this takes too long, and was broken off. Nothing was moved. Levels are the quickest; or put the branches in order, one after the other.", len(members))
	}
	return out, nil
}

// MaxArranged bounds the concepts that are put in order at once: more would keep
// others waiting for too long.
const MaxArranged = 6000

// maxWoven bounds those of a web, which is the slowest pattern.
const maxWoven = 3500

// manyConcepts is from how many on less is looked at for each line, crowded from how many ends
// of links for each concept.
const (
	manyConcepts = 300
	manyWoven    = 1300 // of a web, whose lines are short
	crowded      = 14
)

// arranging is a map being put in order.
type arranging struct {
	Placer
	m     *cm.Map
	s     *structure.Structure
	scope edit.Scope
	stays map[cm.ID]bool
	quick bool
	many  int               // how many concepts are put in order
	woven bool              // so many links join branches that these are better drawn together
	links map[cm.ID][]cm.ID // of each concept, once asked for
	// held are branches that stand where their top was put.
	held []*group
}

// below gives a concept with all that hangs below it, in reading order.
func (a *arranging) below(top cm.ID) []cm.ID {
	ids := []cm.ID{}
	open := []cm.ID{top}
	for len(open) > 0 {
		id := open[len(open)-1]
		open = open[:len(open)-1]
		ids = append(ids, id)
		for _, child := range slices.Backward(a.s.Places[id].Children) {
			open = append(open, child)
		}
	}
	return ids
}

// group is what one pattern puts in order: concepts, and as one box each the
// branches that have a pattern of their own and the regions.
type group struct {
	top     cm.ID // of a branch, or of a region
	region  bool
	pattern cm.Pattern
	own     []cm.ID
	inner   []*group
	holds   map[cm.ID]int // concepts of inner groups: which one
	nested  int           // in how many branches it lies that are set in rows (wrap.go)
	shelved bool          // what it holds is set in rows
}

// group divides concepts by regions and by the patterns of their branches.
func (a *arranging) group(top cm.ID, members []cm.ID, but []cm.ID) *group {
	g := &group{top: top, pattern: a.patternOf(top), holds: map[cm.ID]int{}}
	if g.pattern != cm.PatternTime { // there each stands where its time is
		for _, r := range a.regions(members, but) {
			for _, id := range r.inside {
				g.holds[id] = len(g.inner)
			}
			in := a.group(a.highest(r.inside), r.inside, append(slices.Clone(but), r.id))
			in.region = true
			g.inner = append(g.inner, in)
		}
	}
	mine := make(map[cm.ID]bool, len(members))
	for _, id := range members {
		mine[id] = true
	}
	away := map[cm.ID]bool{} // with a branch that stands by itself
	for _, id := range members {
		if _, inside := g.holds[id]; inside || away[id] {
			continue
		}
		if a.stays[id] && id != top && id != a.m.Focus && g.pattern != cm.PatternTime {
			branch := slices.DeleteFunc(a.below(id), func(b cm.ID) bool {
				_, held := g.holds[b]
				return held || !mine[b] || away[b]
			})
			for _, b := range branch {
				away[b] = true
			}
			a.held = append(a.held, a.group(id, branch, but))
			continue
		}
		if c := a.m.Concepts[id]; id != top && c.Pattern != cm.PatternNone && id != a.m.Focus {
			branch := slices.DeleteFunc(a.below(id), func(b cm.ID) bool {
				_, held := g.holds[b]
				return held || !mine[b]
			})
			for _, b := range branch {
				g.holds[b] = len(g.inner)
			}
			g.inner = append(g.inner, a.group(id, branch, but))
			continue
		}
		g.own = append(g.own, id)
	}
	return g
}

// patternOf gives the pattern of a branch: its own, or that of what it hangs
// from, or that of the map.
func (a *arranging) patternOf(id cm.ID) cm.Pattern {
	for at := id; at != ""; at = a.s.Places[at].Parent {
		if p := a.m.Concepts[at].Pattern; p != cm.PatternNone {
			return p
		}
	}
	if a.m.Pattern != cm.PatternNone {
		return a.m.Pattern
	}
	return cm.PatternLevels
}

// middle gives where a concept stands now.
func (a *arranging) middle(id cm.ID) tidy.Point {
	c := a.m.Concepts[id]
	return tidy.Point{X: c.At.X, Y: c.At.Y + a.size(id).H/2}
}

func (a *arranging) size(id cm.ID) tidy.Size {
	return a.Measurer.Slip(a.m, a.m.Concepts[id])
}

// draw puts a group in order; a large one that would become a ribbon is wrapped.
func (g *group) draw(a *arranging) *drawn {
	if !g.tooMany(a) {
		return g.drawAs(a)
	}
	if !g.surelyRibbon(a) {
		if d := g.drawAs(a); !ribbon(a.box(d)) {
			return d
		}
	}
	return g.wrap(a).drawAs(a)
}

// drawAs puts a group in order by its pattern, inner groups first.
func (g *group) drawAs(a *arranging) *drawn {
	inner := make([]*drawn, len(g.inner))
	boxes := make([]route.Rect, len(g.inner))
	for i, in := range g.inner {
		inner[i] = in.draw(a)
		if boxes[i] = a.box(inner[i]); in.region {
			boxes[i] = outlined(boxes[i])
		}
	}
	graph, links, crossing := g.graph(a, boxes)
	pattern, err := tidy.Pattern(string(g.pattern))
	if err != nil {
		pattern = tidy.Levels
	}
	if g.shelved {
		pattern = shelves(g.pattern)
	}
	room := spacing
	if len(g.own) >= manyToSee {
		room = dense
	}
	d := pattern(graph, room, !a.m.Freely)
	if g.shelved {
		d = squarer(graph, d, g.pattern)
	}
	out := &drawn{at: map[cm.ID]tidy.Point{}, lines: map[cm.ID]line{}}
	for i, id := range g.own {
		out.at[id] = d.Boxes[i]
	}
	for i, in := range inner {
		to, from := d.Boxes[len(g.own)+i], boxes[i].Middle()
		in.shift(tidy.Point{X: to.X - from.X, Y: to.Y - from.Y})
		for id, p := range in.at {
			out.at[id] = p
		}
		for id, l := range in.lines {
			out.lines[id] = l
		}
	}
	for w, id := range links {
		if id == "" {
			continue
		}
		l := line{phrase: d.Wires[w].Phrase, legs: map[cm.ID][]tidy.Point{}, near: map[cm.ID][]tidy.Point{}}
		for i, e := range a.m.Links[id].Ends() {
			if _, inside := g.holds[e.Concept]; !inside {
				l.legs[e.ID] = d.Wires[w].Legs[i]
			} else if g.shelved && len(d.Wires[w].Legs[i]) > 0 {
				l.near[e.ID] = d.Wires[w].Legs[i]
			}
		}
		out.lines[id] = l
	}
	a.lead(out, crossing)
	return out
}

// spacing is a map's on the paper; dense that of one with many concepts, of which as much as
// may be should be in sight.
var (
	spacing = tidy.Spacing{Level: 33, Side: 24, Line: 14, Part: 56}
	dense   = tidy.Spacing{Level: 27, Side: 18, Line: 12, Part: 48}
)

// lead leads links around everything that has its place.
func (a *arranging) lead(d *drawn, links []cm.ID) {
	if len(links) == 0 {
		return
	}
	ids := cm.SortedIDs(d.at)
	index := map[cm.ID]int{}
	var things []route.Rect
	for i, id := range ids {
		index[id] = i
		things = append(things, geometry.At(d.at[id], a.size(id)))
	}
	phrases := make([]cm.ID, 0, len(d.lines))
	for _, id := range cm.SortedIDs(d.lines) {
		size := a.Measurer.Phrase(a.m, a.m.Links[id])
		phrases = append(phrases, id)
		things = append(things, geometry.At(d.lines[id].phrase, size))
	}
	x := route.NewIndex(things).Under(a.Stop)
	around := route.Around
	if a.quick {
		around = route.AroundQuickly
	}
	for _, id := range links {
		l := d.lines[id]
		own := len(ids) + slices.Index(phrases, id)
		for _, e := range a.m.Links[id].Ends() {
			if _, led := l.legs[e.ID]; led {
				continue
			}
			at := index[e.Concept]
			to, on := l.phrase, l.near[e.ID]
			if len(on) > 0 {
				to = on[0]
			}
			turns, _ := around(d.at[e.Concept], to, x, func(i int) bool { return i == at || i == own })
			l.legs[e.ID] = append(turns, on...)
		}
	}
}

package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout/route"
	"mevrin/core/work"
)

// Untidy is what is hard to read in a drawing, by what it is.
type Untidy struct {
	Slips     [][2]cm.ID // slips that lie on each other
	Words     [][2]cm.ID // a phrase, and a slip on which it lies
	Phrases   [][2]cm.ID // phrases that lie on each other
	Through   [][2]cm.ID // a line, and a slip through which it runs
	Across    [][2]cm.ID // a line, and the phrase of another link through which it runs
	Crossings [][2]cm.ID // links whose lines cross, a pair for each crossing
	Crossed   int        // how often lines cross, also where that is not listed
	Used      float64    // of the drawing's room, the part that slips and phrases take
}

// stroke is a straight piece of a line as it is drawn.
type stroke struct {
	a, b route.Point
	link cm.ID
}

// maxListed bounds the spots of one sort that are listed: nobody looks at more.
const maxListed = 5000

func listed(all [][2]cm.ID, a, b cm.ID) [][2]cm.ID {
	if len(all) >= maxListed {
		return all
	}
	return append(all, [2]cm.ID{a, b})
}

// UntidyOf looks a drawing over.
func UntidyOf(sc *Scene, limit *work.Limit) Untidy {
	var u Untidy
	ids := cm.SortedIDs(sc.Slips)
	slips := route.NewIndex(nil).Under(limit)
	area := 0.0
	for _, id := range ids {
		r := rectOf(sc.Slips[id].Box)
		slips.Near(r, func(at int, _ route.Rect) bool { u.Slips = listed(u.Slips, ids[at], id); return true })
		slips.Add(r)
		area += (r.X1 - r.X0) * (r.Y1 - r.Y0)
	}
	links := cm.SortedIDs(sc.Links)
	gaps := route.NewIndex(nil).Under(limit)
	for _, id := range links {
		r := rectOf(sc.Links[id].Gap)
		gaps.Near(r, func(at int, _ route.Rect) bool { u.Phrases = listed(u.Phrases, links[at], id); return true })
		gaps.Add(r)
	}
	var strokes []stroke
	lines := route.NewIndex(nil).Under(limit)
	for _, id := range links {
		l := sc.Links[id]
		slips.Near(rectOf(l.Gap), func(at int, _ route.Rect) bool { u.Words = listed(u.Words, id, ids[at]); return true })
		area += l.Gap.W * l.Gap.H
		own := strokesOf(l)
		hit, across := map[cm.ID]bool{}, map[cm.ID]bool{}
		for _, s := range own {
			slips.Along(s.a, s.b, -1, func(at int, _ route.Rect) bool {
				if !slices.ContainsFunc(l.Legs, func(leg Leg) bool { return leg.Concept == ids[at] }) {
					hit[ids[at]] = true
				}
				return true
			})
			gaps.Along(s.a, s.b, -1, func(at int, _ route.Rect) bool {
				if links[at] != id {
					across[links[at]] = true
				}
				return true
			})
			lines.Along(s.a, s.b, 1, func(at int, _ route.Rect) bool {
				if o := strokes[at]; o.link != id && route.Cross(s.a, s.b, o.a, o.b) {
					u.Crossed++
					u.Crossings = listed(u.Crossings, o.link, id)
				}
				return true
			})
		}
		for _, slip := range cm.SortedIDs(hit) {
			u.Through = listed(u.Through, id, slip)
		}
		for _, phrase := range cm.SortedIDs(across) {
			u.Across = listed(u.Across, id, phrase)
		}
		for _, s := range own {
			lines.AddLine(s.a, s.b)
			strokes = append(strokes, s)
		}
	}
	if b := sc.Bounds(); b.W*b.H > 0 {
		u.Used = area / (b.W * b.H)
	}
	return u
}

// strokesOf gives the lines of a link in straight pieces.
func strokesOf(l *Link) []stroke {
	var all []stroke
	for _, leg := range l.Legs {
		for _, c := range leg.Path {
			steps := 1
			if !c.Straight() {
				steps = 10
			}
			at := c.A
			for i := 1; i <= steps; i++ {
				next := c.At(float64(i) / float64(steps))
				all = append(all, stroke{at, next, l.ID})
				at = next
			}
		}
	}
	return all
}

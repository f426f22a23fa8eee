package tidy

import (
	"math"
	"slices"

	"mevrin/core/layout/route"
)

// Spine draws a graph along a spine that begins at its root: each branch is a rib, above or
// below, and what hangs from it is listed on it. One too long for a page goes on below.
func Spine(g Graph, s Spacing, keep bool) Drawing {
	return inParts(g, s, func(p part) placed {
		l := newLister(&g, p, s, keep)
		side := map[int]bool{} // above, by the heads of the ribs
		if g.Was != nil {
			for _, b := range l.order[1:] {
				if l.up[b] == l.root {
					side[b] = g.Was[b].Y < g.Was[l.root].Y
				} else {
					side[b] = side[l.up[b]]
				}
			}
		}
		l.upside = func(b int) bool { return side[b] }
		l.read = func(b int) float64 { return g.Was[b].X }
		root := Point{X: -g.Boxes[l.root].W / 2}
		l.inRanks = g.Was != nil && !l.oneSpine(side)
		chosen := l.choose(p, keep, func() []plan { return l.spines(side) }, func(p plan) map[int]Point {
			at := map[int]Point{l.root: root}
			l.ribs(p, func(i int, x, y, down float64) {
				c := l.kids[l.root][i]
				l.spread(c, p.take[i], Point{X: x, Y: y + down*l.off(c)}, down, at)
			})
			return at
		})
		l.at.boxes[l.root] = root
		type rib struct{ y, down float64 }
		var all []rib
		l.ribs(chosen, func(i int, x, y, down float64) {
			c := l.kids[l.root][i]
			in, top := l.write(c, chosen.take[i]), y+l.off(c)
			if down < 0 {
				top = y - l.off(c) - in.tall
			}
			l.put(in, Point{X: x, Y: top}, down < 0)
			all = append(all, rib{y, down})
		})
		for i, r := range all {
			l.along(l.kids[l.root][i], r.y, r.down)
		}
		return l.at
	})
}

// longest is the proportion beyond which a spine goes on below.
const longest = 4

// spines looks for the shapes of ribs that make the whole fit a small window.
func (l *lister) spines(above map[int]bool) []plan {
	of, talls := l.branches()
	kids := l.kids[l.root]
	one := l.oneSpine(above)
	var all []plan
	for _, tall := range talls {
		p := plan{take: within(of, tall), sides: make([]int, len(kids))}
		for i, c := range kids {
			switch {
			case !l.as(c) || !one:
				p.sides[i] = -1 // where there is room
			case !above[c]:
				p.sides[i] = 1
			}
		}
		l.extent(&p)
		all = append(all, p)
	}
	if len(all) == 0 { // nothing hangs from the root
		return []plan{{}}
	}
	best := smallest(all)
	wide, high := l.extent(&best)
	if wide < longest*high || l.as(l.root) && one {
		return all
	}
	for n := 2.0; n <= 24 && n <= float64(len(kids)); n++ {
		next := plan{take: best.take, sides: slices.Repeat([]int{-1}, len(kids))}
		begin, family, page := 0.0, 0.0, wide/n*1.08
		l.ribs(best, func(i int, x, _, _ float64) {
			if !l.fan(kids[i]) {
				family = x
			}
			// What one phrase leads to stands at one spine, unless that alone is too long.
			if i > 0 && x+best.take[i].wide-begin > page && (x == family || x-family > page/2) {
				next.breaks, begin = append(next.breaks, i), x
			}
		})
		l.extent(&next)
		all = append(all, next)
	}
	return all
}

// oneSpine tells that all ribs stood at one spine.
func (l *lister) oneSpine(above map[int]bool) bool {
	for _, c := range l.kids[l.root] {
		if !l.g.old(c) {
			continue
		}
		far := l.off(c) + l.g.Boxes[c].H/2
		for _, k := range l.kids[c] { // what stands on its line, and is taller, lowers it
			if l.g.old(k) && math.Abs(l.g.Was[k].Y-l.g.Was[c].Y) < 2 {
				low, _ := l.level(c, k)
				far += low
			}
		}
		if above[c] {
			far = -far
		}
		if d := l.g.Was[c].Y - l.g.Was[l.root].Y - far; d < -1 || d > 1 {
			return false
		}
	}
	return true
}

// extent measures a plan.
func (l *lister) extent(p *plan) (wide, high float64) {
	top, bottom := 0.0, 0.0
	l.ribs(*p, func(i int, x, y, down float64) {
		wide = max(wide, x+p.take[i].wide)
		far := y + down*(l.off(l.kids[l.root][i])+p.take[i].tall)
		top, bottom = min(top, far), max(bottom, far)
	})
	wide, high = wide+l.g.Boxes[l.root].W, bottom-top
	p.need = fits(wide, high)
	return wide, high
}

// off is how far from the spine a rib begins.
func (l *lister) off(b int) float64 { return l.space.Level + l.phrase(b).H + l.space.Side }

// ribs tells where the ribs leave the spine: the left edges of what is written of them, at
// which height their spine runs, and 1 for those below, -1 for those above. Those without a
// side are given that on which there is room first; what one phrase leads to stands on one
// side.
func (l *lister) ribs(p plan, at func(i int, x, y, down float64)) {
	kids := l.kids[l.root]
	y := 0.0
	for begin := 0; begin < len(kids); {
		end := len(kids)
		if i := slices.IndexFunc(p.breaks, func(b int) bool { return b > begin }); i >= 0 {
			end = p.breaks[i]
		}
		next, high, side := [2]float64{l.space.Part, l.space.Part}, [2]float64{}, 0
		lefts := make([]float64, 0, end-begin)
		for i := begin; i < end; i++ {
			switch {
			case p.sides[i] >= 0:
				side = p.sides[i]
			case i > begin && l.fan(kids[i]):
			case next[1] < next[0]-1:
				side = 1
			default:
				side = 0
			}
			p.sides[i] = side
			x, wide := l.under(kids[i], p.take[i], next[side])
			lefts = append(lefts, x)
			next[side] = x + wide + l.space.Part
			// Heads stand along the spine in their order.
			next[1-side] = max(next[1-side], x+l.g.Boxes[kids[i]].W/2+l.space.Side)
			high[side] = max(high[side], l.off(kids[i])+p.take[i].tall)
		}
		if begin > 0 {
			y += high[0]
		}
		for i, x := range lefts {
			at(begin+i, x, y, float64(2*p.sides[begin+i]-1))
		}
		y += high[1] + l.space.Part
		begin = end
	}
}

// along leads the line of a rib along its spine, and then aside.
func (l *lister) along(b int, spine, down float64) {
	w, head := l.wire[b], l.at.boxes[b]
	if w < 0 || l.fan(b) {
		return // there is none, or it is led with the first of its heads
	}
	at := Point{X: head.X, Y: spine + down*(l.space.Level+l.phrase(b).H)/2}
	line := &route.Line{Phrase: at}
	for _, e := range l.g.Wires[w].ends() {
		var leg []Point
		switch {
		case e == l.root:
			leg = []Point{{X: head.X, Y: spine}}
			if spine != 0 { // down from the root first
				leg = slices.Insert(leg, 0, Point{X: l.at.boxes[l.root].X, Y: spine})
			}
		case e == b:
		case l.wire[e] == w && l.up[e] == l.root: // beside its phrase, then to its head
			leg = []Point{{X: l.at.boxes[e].X, Y: at.Y}}
		default: // it leads elsewhere, too
			l.at.wish[w] = at
			return
		}
		line.Legs = append(line.Legs, leg)
	}
	l.at.led[w] = line
}

package scene

import (
	"math"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// asides are by how much a line that runs on another is moved to find it a way of its own, in
// pixels, to either side: a little, past the phrase of the other, or further.
var asides = [...]float64{8, 16, 24, 36, 52, 76}

// runsOn tells whether the lines of a link run on those of an older one for long.
func (o *older) runsOn(k *Link) bool {
	for _, other := range o.links {
		if k.extent.Grown(2).Meets(other.extent) && k.common(other) > route.MaxCommon {
			return true
		}
	}
	return false
}

// common gives over what length the lines of two links run on each other. Where stepped ones
// leave the same slip, their ports part them.
func (k *Link) common(o *Link) float64 {
	sum := 0.0
	for i, leg := range k.Legs {
		for j, other := range o.Legs {
			same := i < len(k.ends) && j < len(o.ends) && k.ends[i].Slip == o.ends[j].Slip
			leg.Path.pieces(same && k.steps(i), func(a, b Point) {
				other.Path.pieces(same && o.steps(j), func(c, d Point) {
					sum += distance(a, b) * route.Shared(a, b, c, d)
				})
			})
		}
	}
	return sum
}

// pieces gives a path in straight pieces, with or without its first curve.
func (p Path) pieces(butFirst bool, do func(a, b Point)) {
	for i, c := range p {
		if butFirst && i == 0 {
			continue
		}
		c.pieces(func(a, b Point) bool { do(a, b); return false })
	}
}

// besides gives the link led so that it runs on no older one, nil where no such way is found,
// and where that was tried.
func (k *Link) besides(d *detours, o *older) (*Link, route.Rect) {
	tried := k.extent
	if len(k.ends) != 2 || k.source.Hub != nil {
		return nil, tried
	}
	a, b := k.ends[0], k.ends[1]
	own := []*Slip{a.Slip, b.Slip}
	blocked := func(turns []Point) (n int) {
		at := a.from()
		for _, p := range append(turns[:len(turns):len(turns)], b.from()) {
			if d.throughSlips(at, p, own) {
				n++
			}
			at = p
		}
		return n
	}
	least := blocked(k.moved(a, b, 0))
	for _, off := range asides {
		for _, by := range [2]float64{off, -off} {
			turns := k.moved(a, b, by)
			for _, p := range turns {
				tried = union(tried, geometry.Span(p, p))
			}
			if turns == nil || blocked(turns) > least {
				continue
			}
			next := *k
			next.ways = map[cm.ID][]Point{a.End: turns}
			good := next.put(func() bool {
				next.tried = append(next.tried, next.Gap)
				return !d.covered(next.Gap) && !o.meet(next.Gap)
			})
			tried = union(tried, next.extent)
			if good && !o.crossed(&next) && !o.runsOn(&next) {
				return &next, tried
			}
		}
	}
	return nil, tried
}

// moved gives the turns of a line that runs so far beside the one of the link.
func (k *Link) moved(a, b end, by float64) []Point {
	was := k.ways[a.End]
	from, to := a.from(), b.from()
	if k.manner == cm.LineStepped && len(was) == 0 {
		if half := mix(from, to, 0.5); math.Abs(to.Y-from.Y) >= math.Abs(to.X-from.X)/2 {
			was = []Point{{X: from.X, Y: half.Y}, {X: to.X, Y: half.Y}}
		} else {
			was = []Point{{X: half.X, Y: from.Y}, {X: half.X, Y: to.Y}}
		}
	}
	if len(was) == 0 {
		return nil
	}
	turns := make([]Point, len(was))
	for i, p := range was {
		before, after := from, to
		if i > 0 {
			before = was[i-1]
		}
		if i+1 < len(was) {
			after = was[i+1]
		}
		if k.manner == cm.LineStepped { // the piece between two turns is moved across itself
			level := i > 0 && was[0].Y == was[len(was)-1].Y || i == 0 && len(was) > 1 && was[1].Y == p.Y
			turns[i] = Point{X: p.X + by, Y: p.Y}
			if level {
				turns[i] = Point{X: p.X, Y: p.Y + by}
			}
			continue
		}
		long := geometry.Distance(before, after)
		if long < 1 {
			return nil
		}
		turns[i] = Point{X: p.X + by*(before.Y-after.Y)/long, Y: p.Y + by*(after.X-before.X)/long}
	}
	return turns
}

func sameRect(a, b *route.Rect) bool { return a == b || a != nil && b != nil && *a == *b }

package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout/route"
)

// detours finds the ways of lines that run by themselves: around the slips that
// stand between their ends.
type detours struct {
	slips *standing
	// touched are the places where slips came, went, or look otherwise than in the
	// scene before; all tells that every line is looked at anew.
	touched []route.Rect
	all     bool

	looked route.Rect // where the way of the present link was sought

	index *route.Index // made when a line turns out to be blocked
}

// A line goes around a few slips; one that would have to go around more is easier
// to follow straight. On maps of many slips it goes around fewer, the fewer the
// larger they are.
const (
	fewInWay   = 6
	fewCorners = 64
	manySlips  = 150
)

// manyTouched is from how many changed slips on all lines are looked at.
const manyTouched = 40

// newDetours finds ways among slips; changed are those that came, went, or are drawn anew.
func newDetours(now *standing, changed []slipChange) *detours {
	d := &detours{slips: now}
	touch := func(s *Slip) { d.touched = append(d.touched, rectOf(s.Box).Grown(2*route.Clear)) }
	for _, c := range changed {
		if c.is != nil && c.was != nil && c.is.Box == c.was.Box {
			continue
		}
		for _, s := range [2]*Slip{c.is, c.was} {
			if s != nil {
				touch(s)
			}
		}
	}
	d.all = len(d.touched) > manyTouched
	return d
}

func rectOf(r Rect) route.Rect { return route.Rect{X0: r.X, Y0: r.Y, X1: r.X + r.W, Y1: r.Y + r.H} }

// concerns tells whether the way of a link may be another now: where a slip that
// changed stands on one of its lines, or where its phrase might; of a line that
// goes around something, where it stands anywhere that was looked at.
func (d *detours) concerns(k *Link) bool {
	if d.all {
		return true
	}
	wide := max(k.Gap.W, k.Gap.H)/2 + 2*route.Clear
	for _, r := range d.touched {
		if k.looked.Meets(r) { // also where no way was found, or it turned out to be free
			return true
		}
		if r = r.Grown(wide); !k.reach.Meets(r) {
			continue
		}
		for i, a := range k.ends {
			for _, b := range k.ends[i+1:] {
				if r.Cut(a.from(), b.from()) {
					return true
				}
			}
			if m := k.Gap.Middle(); r.Cut(a.from(), m) {
				return true
			}
			at := a.from()
			for _, p := range k.source.Bends[a.End] {
				if r.Cut(at, p) {
					return true
				}
				at = p
			}
		}
	}
	return false
}

// reaches gives the box around all that concerns looks at of a link by itself.
func (k *Link) reaches() route.Rect {
	m := k.Gap.Middle()
	r := route.Rect{X0: m.X, Y0: m.Y, X1: m.X, Y1: m.Y}
	hold := func(p Point) {
		r.X0, r.Y0, r.X1, r.Y1 = min(r.X0, p.X), min(r.Y0, p.Y), max(r.X1, p.X), max(r.Y1, p.Y)
	}
	for _, e := range k.ends {
		hold(e.from())
		for _, p := range k.source.Bends[e.End] {
			hold(p)
		}
	}
	return r.Grown(1)
}

// blocked tells whether a straight line runs through slips that are not its own, or through
// phrases that the index knows.
func (d *detours) blocked(a, b Point, own []*Slip) bool {
	return d.meets(a, b, own, func(int) bool { return true })
}

// throughSlips tells whether a straight line runs through slips that are not its own.
func (d *detours) throughSlips(a, b Point, own []*Slip) bool { return d.meets(a, b, own, d.isSlip) }

func (d *detours) meets(from, to Point, own []*Slip, counts func(id int) bool) bool {
	if d.index == nil && d.all {
		d.build()
	}
	if d.index != nil {
		hit := false
		d.index.Along(from, to, 1, func(id int, _ route.Rect) bool {
			hit = counts(id) && !d.owns(own, id)
			return !hit
		})
		return hit
	}
	return d.slips.through(from, to, own)
}

func (d *detours) owns(own []*Slip, id int) bool {
	return d.isSlip(id) && slices.ContainsFunc(own, func(s *Slip) bool { return s.ID == d.slips.ids[id] })
}

// isSlip tells whether a box of the index is a slip's; what else is in it are
// phrases.
func (d *detours) isSlip(id int) bool { return id < len(d.slips.ids) }

func (d *detours) build() { d.index = route.NewIndex(d.slips.boxes) }

// around gives the turns of a line that keeps clear of slips; none where it may
// run straight, or can only.
func (d *detours) around(a, b Point, own []*Slip) []Point {
	if !d.blocked(a, b, own) {
		return nil
	}
	if d.index == nil {
		d.build()
	}
	few, corners := fewInWay, fewCorners
	for n := manySlips; len(d.slips.ids) > n && few > 2; n *= 2 {
		few, corners = few-2, corners-20
	}
	turns, looked := route.AroundFew(a, b, d.index, func(id int) bool { return d.owns(own, id) }, few, corners)
	d.looked = union(d.looked, looked)
	return turns
}

// stepped gives the turns of a line of level and upright pieces that keeps clear
// of slips, if one with two turns does: between the two slips, or else beyond.
func (d *detours) stepped(a, b Point, own []*Slip) []Point {
	try := func(turns ...Point) bool {
		return !d.blocked(a, turns[0], own) && !d.blocked(turns[0], turns[1], own) && !d.blocked(turns[1], b, own)
	}
	for _, t := range [...]float64{0.5, 0.35, 0.65, 0.2, 0.8} {
		y, x := a.Y+(b.Y-a.Y)*t, a.X+(b.X-a.X)*t
		if turns := []Point{{X: a.X, Y: y}, {X: b.X, Y: y}}; try(turns...) {
			return turns
		}
		if turns := []Point{{X: x, Y: a.Y}, {X: x, Y: b.Y}}; try(turns...) {
			return turns
		}
	}
	for _, off := range [...]float64{40, 70, 110, 160, 240, 360} {
		for _, y := range [...]float64{max(a.Y, b.Y) + off, min(a.Y, b.Y) - off} {
			if turns := []Point{{X: a.X, Y: y}, {X: b.X, Y: y}}; try(turns...) {
				return turns
			}
		}
		for _, x := range [...]float64{max(a.X, b.X) + off, min(a.X, b.X) - off} {
			if turns := []Point{{X: x, Y: a.Y}, {X: x, Y: b.Y}}; try(turns...) {
				return turns
			}
		}
	}
	return nil
}

// byItself tells that nobody has led the line.
func (k *Link) byItself() bool {
	l := k.source
	return len(l.Bends) == 0 && l.Hub == nil && l.Along == 0
}

// way finds the turns of all lines of the link that run by themselves, by their
// ends.
func (k *Link) way(d *detours) map[cm.ID][]Point {
	if !k.byItself() && !k.source.Tidied || k.ends[0].Slip == k.ends[len(k.ends)-1].Slip {
		k.looked = route.Rect{}
		return nil
	}
	ways := map[cm.ID][]Point{}
	d.looked = route.Rect{}
	defer func() {
		if k.looked = d.looked; d.looked != (route.Rect{}) {
			k.looked = d.looked.Grown(2 * route.Clear)
		}
	}()
	if len(k.ends) == 2 && k.source.Hub == nil {
		a, b := k.ends[0], k.ends[1]
		own := []*Slip{a.Slip, b.Slip}
		turns := d.around(a.from(), b.from(), own)
		if k.manner == cm.LineStepped && turns != nil || k.manner == cm.LineStepped && d.stepBlocked(a.from(), b.from(), own) {
			turns = d.stepped(a.from(), b.from(), own)
		}
		if turns != nil {
			ways[a.End] = turns
		}
	} else {
		hub := k.hub()
		for _, e := range k.ends {
			through := slices.Concat([]Point{e.from()}, k.bends(e.End), []Point{hub})
			for i := 1; i < len(through); i++ {
				if d.blocked(through[i-1], through[i], []*Slip{e.Slip}) {
					ways[e.End] = d.around(e.from(), hub, []*Slip{e.Slip})
					break
				}
			}
		}
	}
	if len(ways) == 0 {
		return nil
	}
	return ways
}

// stepBlocked tells whether the usual steps run through a slip.
func (d *detours) stepBlocked(a, b Point, own []*Slip) bool {
	for _, c := range steps([]Point{a, b}) {
		if d.blocked(c.A, c.B, own) {
			return true
		}
	}
	return false
}

// union gives the box around two; one without extent counts for nothing.
func union(a, b route.Rect) route.Rect {
	if a == (route.Rect{}) {
		return b
	}
	return route.Rect{X0: min(a.X0, b.X0), Y0: min(a.Y0, b.Y0), X1: max(a.X1, b.X1), Y1: max(a.Y1, b.Y1)}
}

// sameWays tells whether two sets of turns are the same.
func sameWays(a, b map[cm.ID][]Point) bool {
	if len(a) != len(b) {
		return false
	}
	for end, turns := range a {
		if other, there := b[end]; !there || !slices.Equal(turns, other) {
			return false
		}
	}
	return true
}

// covered tells whether a phrase would lie on a slip.
func (d *detours) covered(gap Rect) bool {
	r := rectOf(gap)
	if d.index != nil {
		hit := false
		d.index.Near(r, func(id int, _ route.Rect) bool { hit = d.isSlip(id); return !hit })
		return hit
	}
	return d.slips.meets(r)
}

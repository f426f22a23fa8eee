package scene

import (
	"cmp"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// Lines are led from the middle of a slip to that of another. Where several leave a slip by
// one side they would come out in a bunch, and where one leaves a wide slip flatly, its dart
// would lie along the border. So each line is given a port: a place on the border, at even
// distances from those beside it, at which it meets the slip at no less than minAngle.
const (
	minAngle  = math.Pi / 6
	portStep  = 12.0 // between two lines on one side, in pixels, where there is room for it
	portInset = 6.0  // from the ends of a side, where there is room for it
)

// port is where a leg meets its slip.
type port struct {
	link *Link // as it is drawn without ports
	leg  int
	side side
	turn float64 // by which the legs of a slip are ordered around it: their direction, in radians
	lo   float64 // along the side, between which the leg meets it steeply enough
	hi   float64
	wish float64 // where along the side the leg leaves by itself
	bow  bool    // it meets the side steeply enough nowhere: it has to be bent
	at   begin
	// asked are the pieces of lines of which it was asked what is in their way.
	asked [][2]Point
}

// begin is where a leg begins, and, if it has to be bent for it, in which direction it leaves
// (a vector of length 1, else zero).
type begin struct{ At, Leave Point }

// ports are those of one slip.
type ports struct {
	slip  *Slip
	all   []port
	reach route.Rect // around all pieces of lines that were asked for
}

// legsAt gathers the legs at a slip, those that are new and those that are led as before; nil
// where there is none.
func (sc *Scene) legsAt(id cm.ID, fresh []port, was *ports, same map[*Link]*Link) *ports {
	slip := sc.Slips[id]
	if slip == nil {
		return nil
	}
	p := &ports{slip: slip, all: fresh}
	if was != nil {
		for _, q := range was.all {
			link := q.link
			if is := same[link]; is != nil {
				link = is
			}
			if sc.straight[link.ID] == link {
				p.all = append(p.all, port{link: link, leg: q.leg})
			}
		}
	}
	if len(p.all) == 0 {
		return nil
	}
	slices.SortFunc(p.all, func(a, b port) int { return cmp.Or(cmp.Compare(a.link.ID, b.link.ID), a.leg-b.leg) })
	return p
}

// portSlip gives the slip at which a leg has a port; nil where it has none: it leads back to
// where it came from, or to what is tucked away.
func (k *Link) portSlip(leg int) *Slip {
	if k.Legs[leg].Veiled || k.ends[0].Slip == k.ends[len(k.ends)-1].Slip || len(k.Legs) != len(k.ends) {
		return nil
	}
	return k.ends[leg].Slip
}

// depend tells whether something stands, or stood, where lines to the ports run.
func (p *ports) depend(changed []route.Rect) bool {
	for _, r := range changed {
		if !r.Meets(p.reach) {
			continue
		}
		for i := range p.all {
			if slices.ContainsFunc(p.all[i].asked, func(piece [2]Point) bool { return r.Cut(piece[0], piece[1]) }) {
				return true
			}
		}
	}
	return false
}

// place finds the ports of a slip.
func (p *ports) place(o *obstacles) {
	reach := rectOf(p.slip.Box)
	for _, q := range p.all {
		first := q.link.Legs[q.leg].whole[0]
		reach = union(reach, geometry.Span(first.A, first.B))
	}
	o.turnTo(reach)
	var sides [4][]*port
	for i := range p.all {
		q := &p.all[i]
		q.aim(p.slip, o)
		sides[q.side] = append(sides[q.side], q)
	}
	for s, all := range sides {
		slices.SortStableFunc(all, func(a, b *port) int { return cmp.Compare(a.turn, b.turn) })
		lo, hi := p.slip.side(side(s))
		evenly(all, lo, hi)
	}
	for i := range p.all {
		q := &p.all[i]
		whole := q.link.Legs[q.leg].whole
		natural := begin{At: whole.Begin()}
		q.at = q.begin(p.slip, q.wish)
		if distance(q.at.At, natural.At) < 0.5 {
			q.at.At = natural.At
		}
		if q.at != natural && q.inWay(q.at, o) && !q.inWay(natural, o) {
			q.at = natural
		}
		for _, piece := range q.asked {
			p.reach = union(p.reach, geometry.Span(piece[0], piece[1]))
		}
	}
}

// steps tells that the leg begins with a piece that is level or upright and has to stay so.
func (q *port) steps() bool { return q.link.steps(q.leg) }

func (k *Link) steps(leg int) bool {
	first := k.Legs[leg].whole[0]
	return k.manner == cm.LineStepped && first.Straight() && (math.Abs(first.A.X-first.B.X) < 0.01 || math.Abs(first.A.Y-first.B.Y) < 0.01)
}

// aim finds by which side of its slip a leg leaves, and between which places: the side by
// which it leaves by itself, if it meets that steeply enough somewhere, or else the one beside
// that. Where it meets neither so, it has to be bent.
func (q *port) aim(slip *Slip, o *obstacles) {
	from, mid := q.link.Legs[q.leg].whole.Begin(), slip.Box.Middle()
	level, upright := right, bottom
	if from.X < mid.X {
		level = left
	}
	if from.Y < mid.Y {
		upright = top
	}
	first, second := upright, level
	if math.Abs(from.X-mid.X)*slip.Box.H >= math.Abs(from.Y-mid.Y)*slip.Box.W {
		first, second = level, upright
	}
	wish := func(s side) {
		q.side, q.wish = s, max(q.lo, min(q.hi, s.along(from)))
	}
	switch {
	case q.meets(slip, first):
		wish(first)
	case q.meets(slip, second):
		wish(second)
		if !q.inWay(q.begin(slip, q.wish), o) {
			break
		}
		fallthrough
	default:
		q.lo, q.hi = slip.side(first)
		wish(first)
		q.bow = q.link.Legs[q.leg].whole[0].Straight() && !q.steps()
	}
	q.turn = math.Atan2(q.side.along(from)-q.side.along(mid), q.side.beyond(from)-q.side.beyond(mid))
}

// begin gives how the leg begins at a place along its side.
func (q *port) begin(slip *Slip, along float64) begin {
	b := begin{At: slip.borderAt(q.side, along)}
	if q.bow {
		sin, cos := math.Sincos(minAngle * 1.1)
		if q.side.along(q.link.Legs[q.leg].whole.turn()) < along {
			cos = -cos
		}
		b.Leave = q.side.place(cos, sin)
	}
	return b
}

// inWay tells whether something stands on the first piece of the leg.
func (q *port) inWay(b begin, o *obstacles) bool {
	c := q.link.Legs[q.leg].whole.begunAt(b, q.steps())[0]
	return c.pieces(func(a, b Point) bool {
		q.asked = append(q.asked, [2]Point{a, b})
		return o.inWay(a, b, q.link)
	})
}

// meets finds between which places of a side a leg meets it steeply enough; false where
// nowhere.
func (q *port) meets(slip *Slip, s side) bool {
	whole := q.link.Legs[q.leg].whole
	q.lo, q.hi = slip.side(s)
	if !whole[0].Straight() || q.steps() { // its direction stays when its begin moves
		in := Path{whole[0]}.towardsBegin()
		if -s.beyond(in) < math.Sin(minAngle) {
			return false
		}
		if q.steps() {
			q.keepSteps(s, whole)
		}
		return q.lo <= q.hi
	}
	to := whole.turn()
	high := s.beyond(to) - slip.edge(s)
	if high <= 0 {
		return false
	}
	wide := high / math.Tan(minAngle)
	q.lo, q.hi = max(q.lo, s.along(to)-wide), min(q.hi, s.along(to)+wide)
	return q.lo <= q.hi
}

// keepSteps narrows the places to those from which a stepped line still comes to its phrase
// and does not run back.
func (q *port) keepSteps(s side, whole Path) {
	end := s.along(whole[0].B)
	if len(whole) == 1 {
		room := q.link.Gap.W
		if s == left || s == right {
			room = q.link.Gap.H
		}
		q.lo, q.hi = max(q.lo, end-room/2+4), min(q.hi, end+room/2-4)
		return
	}
	if next := s.along(whole[1].B); next > end {
		q.hi = min(q.hi, next-portInset)
	} else if next < end {
		q.lo = max(q.lo, next+portInset)
	}
}

// evenly gives ports of one side, in order, places at even distances: as near to where
// they would be by themselves as that allows (a regression line through those places).
func evenly(all []*port, from, to float64) {
	n := len(all)
	if n < 2 {
		return
	}
	mean, slope, square := 0.0, 0.0, 0.0
	for _, q := range all {
		mean += q.wish / float64(n)
	}
	for i, q := range all {
		x := float64(i) - float64(n-1)/2
		slope += x * (q.wish - mean)
		square += x * x
	}
	widest := (to - from) / float64(n-1)
	step := max(min(portStep, widest), min(slope/square, widest))
	for step > 0.5 {
		// The first port stands where all of them meet the side steeply enough.
		lo, hi := from, to-step*float64(n-1)
		for i, q := range all {
			lo, hi = max(lo, q.lo-step*float64(i)), min(hi, q.hi-step*float64(i))
		}
		if lo <= hi+1e-9 {
			first := max(lo, min(hi, mean-step*float64(n-1)/2))
			for i, q := range all {
				q.wish = first + step*float64(i)
			}
			return
		}
		step *= 0.8
	}
	// No step suits all of them: they stand where each would, in order.
}

// ported gives the link with its legs beginning at other places.
func (k *Link) ported(at []begin) *Link {
	next := *k
	next.at, next.Legs = at, slices.Clone(k.Legs)
	for i := range at {
		next.Legs[i].whole = k.Legs[i].whole.begunAt(at[i], k.steps(i))
	}
	next.finish()
	return &next
}

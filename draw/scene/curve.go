package scene

import (
	"math"
	"slices"
)

// Curve is a cubic Bézier curve; a straight line has its control points at the
// thirds.
type Curve struct{ A, C1, C2, B Point }

func straight(a, b Point) Curve { return Curve{a, mix(a, b, 1.0/3), mix(a, b, 2.0/3), b} }

// quadratic gives the curve with one control point (degree elevation).
func quadratic(a, control, b Point) Curve {
	return Curve{a, mix(a, control, 2.0/3), mix(b, control, 2.0/3), b}
}

func mix(a, b Point, t float64) Point { return Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t} }

func distance(a, b Point) float64 { return math.Hypot(b.X-a.X, b.Y-a.Y) }

// Straight tells whether the curve is drawn as a line.
func (c Curve) Straight() bool {
	return distance(c.C1, mix(c.A, c.B, 1.0/3)) < 0.01 && distance(c.C2, mix(c.A, c.B, 2.0/3)) < 0.01
}

// At gives the point at t, 0 at A and 1 at B.
func (c Curve) At(t float64) Point {
	u := 1 - t
	a, b, d, e := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
	return Point{X: a*c.A.X + b*c.C1.X + d*c.C2.X + e*c.B.X, Y: a*c.A.Y + b*c.C1.Y + d*c.C2.Y + e*c.B.Y}
}

// Part gives the piece of the curve from t0 to t1 (de Casteljau's subdivision).
func (c Curve) Part(t0, t1 float64) Curve {
	right := func(c Curve, t float64) Curve {
		p, q, r := mix(c.A, c.C1, t), mix(c.C1, c.C2, t), mix(c.C2, c.B, t)
		pq, qr := mix(p, q, t), mix(q, r, t)
		return Curve{mix(pq, qr, t), qr, r, c.B}
	}
	c = right(c, t0)
	if t0 >= 1 {
		return c
	}
	return right(c.reversed(), 1-(t1-t0)/(1-t0)).reversed()
}

func (c Curve) reversed() Curve { return Curve{c.B, c.C2, c.C1, c.A} }

// length gives the curve's length, by its chords.
func (c Curve) length() float64 {
	if c.Straight() {
		return distance(c.A, c.B)
	}
	const steps = 16
	sum, at := 0.0, c.A
	for i := 1; i <= steps; i++ {
		next := c.At(float64(i) / steps)
		sum += distance(at, next)
		at = next
	}
	return sum
}

// pieces gives the curve in straight pieces, until do says that it is enough; true if it did.
func (c Curve) pieces(do func(a, b Point) (enough bool)) bool {
	steps := 1
	if !c.Straight() {
		steps = 8
	}
	from := c.A
	for i := 1; i <= steps; i++ {
		to := c.At(float64(i) / float64(steps))
		if do(from, to) {
			return true
		}
		from = to
	}
	return false
}

// Path is curves one after another. A place on it is told by a number: its
// whole part counts the curves before, the rest is t on the curve there.
type Path []Curve

// At gives the point at a place, 0 being the begin and len(p) the end.
func (p Path) At(u float64) Point {
	i := min(int(u), len(p)-1)
	return p[i].At(u - float64(i))
}

// Begin and End give the ends of the path.
func (p Path) Begin() Point { return p[0].A }

// End gives the other end of the path.
func (p Path) End() Point { return p[len(p)-1].B }

// Part gives the piece between two places.
func (p Path) Part(u0, u1 float64) Path {
	u1 = max(u0, u1)
	var part Path
	for i, c := range p {
		low, high := max(u0-float64(i), 0), min(u1-float64(i), 1)
		if low < high {
			part = append(part, c.Part(low, high))
		}
	}
	if part == nil {
		at := p.At(u0)
		part = Path{straight(at, at)}
	}
	return part
}

func (p Path) reversed() Path {
	back := make(Path, len(p))
	for i, c := range p {
		back[len(p)-1-i] = c.reversed()
	}
	return back
}

func (p Path) length() float64 {
	sum := 0.0
	for _, c := range p {
		sum += c.length()
	}
	return sum
}

// place gives the place at a distance from the begin.
func (p Path) place(along float64) float64 {
	for i, c := range p {
		n := c.length()
		if along > n && i < len(p)-1 {
			along -= n
			continue
		}
		if n == 0 {
			return float64(i)
		}
		if c.Straight() {
			return float64(i) + min(1, along/n)
		}
		const steps = 32
		sum, at := 0.0, c.A
		for s := 1; s <= steps; s++ {
			next := c.At(float64(s) / steps)
			d := distance(at, next)
			if sum+d >= along && d > 0 {
				return float64(i) + (float64(s-1)+(along-sum)/d)/steps
			}
			sum += d
			at = next
		}
		return float64(i + 1)
	}
	return float64(len(p))
}

// towardsBegin gives the direction in which the path arrives at its begin, as
// a vector of length 1 pointing out of it.
func (p Path) towardsBegin() Point {
	for _, c := range p {
		for _, from := range []Point{c.C1, c.C2, c.B} {
			if d := distance(from, p[0].A); d >= 0.01 {
				return Point{X: (p[0].A.X - from.X) / d, Y: (p[0].A.Y - from.Y) / d}
			}
		}
	}
	return Point{X: 0, Y: 1}
}

// leave gives the greatest place at which a path that begins inside a shape is
// still in it, and 0 where it begins outside.
func (p Path) leave(r shape) float64 {
	if !r.Holds(p[0].A) {
		return 0
	}
	steps := 48
	if len(p) > 1 {
		steps = 24
	}
	last := 0.0
	for i, c := range p {
		for s := 1; s <= steps; s++ {
			if t := float64(s) / float64(steps); r.Holds(c.At(t)) {
				last = float64(i) + t
			}
		}
	}
	low, high := last, math.Min(float64(len(p)), last+1/float64(steps))
	for range 20 {
		if mid := (low + high) / 2; r.Holds(p.At(mid)) {
			low = mid
		} else {
			high = mid
		}
	}
	return low
}

// begunAt gives the path with another begin, its end where it was. With steps, its first
// piece keeps its direction, and the next is longer or shorter for that.
func (p Path) begunAt(b begin, steps bool) Path {
	at := b.At
	by := Point{X: at.X - p[0].A.X, Y: at.Y - p[0].A.Y}
	if by == (Point{}) && b.Leave == (Point{}) {
		return p
	}
	next := slices.Clone(p)
	first := p[0]
	switch {
	case b.Leave != (Point{}):
		far := distance(at, first.B) * 0.4
		next[0] = quadratic(at, Point{X: at.X + b.Leave.X*far, Y: at.Y + b.Leave.Y*far}, first.B)
	case !first.Straight():
		next[0] = Curve{at, Point{X: first.C1.X + by.X, Y: first.C1.Y + by.Y}, first.C2, first.B}
	case steps:
		to := Point{X: at.X, Y: first.B.Y}
		if math.Abs(first.A.Y-first.B.Y) < 0.01 {
			to = Point{X: first.B.X, Y: at.Y}
		}
		next[0] = straight(at, to)
		if len(p) > 1 {
			next[1] = straight(to, p[1].B)
		}
	case len(p) > 1 && !p[1].Straight(): // a rounded corner follows: it turns from the new line
		corner := p.turn()
		from := mix(corner, at, min(1, distance(corner, p[1].A)/max(distance(corner, at), 1e-6)))
		next[0], next[1] = straight(at, from), quadratic(from, corner, p[1].B)
	default:
		next[0] = straight(at, first.B)
	}
	return next
}

// turn gives where the line through the first piece ends: at the corner, where one follows
// that is rounded.
func (p Path) turn() Point {
	if len(p) > 1 && !p[1].Straight() {
		a, c := p[1].A, p[1].C1
		return Point{X: a.X + 1.5*(c.X-a.X), Y: a.Y + 1.5*(c.Y-a.Y)}
	}
	return p[0].B
}

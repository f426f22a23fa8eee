package scene

import "math"

// Curve is a quadratic Bézier curve; a straight line has its control point in
// the middle.
type Curve struct{ A, Control, B Point }

func straight(a, b Point) Curve { return Curve{a, Point{(a.X + b.X) / 2, (a.Y + b.Y) / 2}, b} }

// Straight tells whether the curve is drawn as a line.
func (c Curve) Straight() bool {
	mid := Point{(c.A.X + c.B.X) / 2, (c.A.Y + c.B.Y) / 2}
	return math.Hypot(c.Control.X-mid.X, c.Control.Y-mid.Y) < 0.01
}

// At gives the point at t, 0 at A and 1 at B.
func (c Curve) At(t float64) Point {
	u := 1 - t
	return Point{
		u*u*c.A.X + 2*u*t*c.Control.X + t*t*c.B.X,
		u*u*c.A.Y + 2*u*t*c.Control.Y + t*t*c.B.Y,
	}
}

// Part gives the piece of the curve from t0 to t1 (de Casteljau's subdivision).
func (c Curve) Part(t0, t1 float64) Curve {
	mix := func(a, b Point, t float64) Point { return Point{a.X + (b.X-a.X)*t, a.Y + (b.Y-a.Y)*t} }
	control := mix(mix(c.A, c.Control, t0), mix(c.Control, c.B, t0), t1)
	return Curve{c.At(t0), control, c.At(t1)}
}

// towards gives the direction in which the curve arrives at its end A, as a
// vector of length 1 pointing out of the curve.
func (c Curve) towardsA() Point { return unit(c.Control, c.A, c.B) }

func unit(from, to, otherwise Point) Point {
	d := math.Hypot(to.X-from.X, to.Y-from.Y)
	if d < 0.01 {
		from = otherwise
		if d = math.Hypot(to.X-from.X, to.Y-from.Y); d < 0.01 {
			return Point{0, 1}
		}
	}
	return Point{(to.X - from.X) / d, (to.Y - from.Y) / d}
}

// leave gives the greatest t at which a curve that begins inside the box is
// still in it, and 0 where it begins outside.
func (c Curve) leave(r Rect) float64 {
	if !r.holds(c.A) {
		return 0
	}
	const steps = 48
	last := 0.0
	for i := 1; i <= steps; i++ {
		if t := float64(i) / steps; r.holds(c.At(t)) {
			last = t
		}
	}
	low, high := last, math.Min(1, last+1.0/steps)
	for range 20 {
		if mid := (low + high) / 2; r.holds(c.At(mid)) {
			low = mid
		} else {
			high = mid
		}
	}
	return low
}

func (r Rect) holds(p Point) bool {
	return p.X >= r.X && p.X <= r.X+r.W && p.Y >= r.Y && p.Y <= r.Y+r.H
}

func (c Curve) reversed() Curve { return Curve{c.B, c.Control, c.A} }

// length gives the curve's length, by its chords.
func (c Curve) length() float64 {
	const steps = 16
	sum, at := 0.0, c.A
	for i := 1; i <= steps; i++ {
		next := c.At(float64(i) / steps)
		sum += math.Hypot(next.X-at.X, next.Y-at.Y)
		at = next
	}
	return sum
}

package scene

import (
	"math"

	cm "mevrin/core/conceptmap"
)

// shape is what a line can leave.
type shape interface{ Holds(Point) bool }

// The measures of outlines, in pixels: the radius of a capsule's corners and
// the depth of a lozenge's points at most, the radius of a ticket's notches.
const (
	maxRound = 22.0
	maxPoint = 16.0
	Notch    = 6.0
)

// ovalPower is the exponent of the curve that is an oval's border,
// |x|^n + |y|^n = 1 (a superellipse, after Lamé, Examen des différentes méthodes
// employées pour résoudre les problèmes de géométrie, 1818): fuller than an
// ellipse, so that it has more room for words.
const ovalPower = 2.3

// room gives how much wider and higher a box is for its outline, around words
// of a size.
func room(o cm.Outline, w, h float64) (dw, dh float64) {
	switch o {
	case cm.OutlineCapsule, cm.OutlineTicket:
		return 10, 0
	case cm.OutlineLozenge:
		return 22, 0
	case cm.OutlineOval:
		return 0.2 * w, 0.24*h + 4
	}
	return 0, 0
}

// Round gives the radius of a capsule's corners.
func Round(h float64) float64 { return math.Min(h/2, maxRound) }

// PointDepth gives the depth of a lozenge's points.
func PointDepth(h float64) float64 { return math.Min(h/2, maxPoint) }

// Holds tells whether a point lies within the slip's outline.
func (s *Slip) Holds(p Point) bool {
	b := s.Box
	if !b.Holds(p) {
		return false
	}
	mid := b.Middle()
	dx, dy := math.Abs(p.X-mid.X), math.Abs(p.Y-mid.Y)
	switch s.Outline {
	case cm.OutlineCapsule:
		r := Round(b.H)
		x, y := dx-(b.W/2-r), dy-(b.H/2-r)
		return x <= 0 || y <= 0 || math.Hypot(x, y) <= r
	case cm.OutlineLozenge:
		return dx <= b.W/2-PointDepth(b.H)*dy/(b.H/2)
	case cm.OutlineTicket:
		return math.Hypot(dx-b.W/2, dy) >= Notch
	case cm.OutlineOval:
		return math.Pow(dx/(b.W/2), ovalPower)+math.Pow(dy/(b.H/2), ovalPower) <= 1
	}
	return true
}

package scene

import (
	cm "mevrin/core/conceptmap"
)

// side is one of the four sides of a slip's box.
type side int

const (
	top side = iota
	right
	bottom
	left
)

// along gives a place's coordinate along a side, beyond that across it, outwards.
func (s side) along(p Point) float64 {
	if s == top || s == bottom {
		return p.X
	}
	return p.Y
}

func (s side) beyond(p Point) float64 {
	switch s {
	case top:
		return -p.Y
	case bottom:
		return p.Y
	case left:
		return -p.X
	}
	return p.X
}

// place gives the place with a coordinate along a side and one beyond.
func (s side) place(along, beyond float64) Point {
	switch s {
	case top:
		return Point{X: along, Y: -beyond}
	case bottom:
		return Point{X: along, Y: beyond}
	case left:
		return Point{X: -beyond, Y: along}
	}
	return Point{X: beyond, Y: along}
}

// edge gives where a side lies, outwards.
func (s *Slip) edge(of side) float64 {
	b := s.Box
	return max(of.beyond(Point{X: b.X, Y: b.Y}), of.beyond(Point{X: b.X + b.W, Y: b.Y + b.H}))
}

// side gives from where to where ports may stand on a side.
func (s *Slip) side(of side) (from, to float64) {
	from, length := s.Box.X, s.Box.W
	if of == left || of == right {
		from, length = s.Box.Y, s.Box.H
	}
	in := min(portInset, length/4)
	switch s.Outline {
	case cm.OutlineCapsule:
		in = max(in, Round(s.Box.H)*0.45)
	case cm.OutlineOval:
		in = max(in, length*0.16)
	case cm.OutlineLozenge:
		if of == top || of == bottom {
			in = max(in, PointDepth(s.Box.H))
		}
	}
	in = min(in, length*0.45)
	return from + in, from + length - in
}

// borderAt gives the place on the border beyond a place along a side.
func (s *Slip) borderAt(of side, along float64) Point {
	in, out := of.place(along, of.beyond(s.Box.Middle())), of.place(along, s.edge(of))
	if s.Holds(mix(out, in, 1e-6)) {
		return out
	}
	for range 24 {
		if m := mix(in, out, 0.5); s.Holds(m) {
			in = m
		} else {
			out = m
		}
	}
	return in
}

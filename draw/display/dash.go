package display

import (
	"math"

	"mevrin/core/geometry"
)

// RoundedBox is the outline of a box with rounded corners, for whoever has no boxes of its own.
func RoundedBox(b geometry.Box, r float64) Outline {
	var o Outline
	x0, y0, x1, y1 := b.X, b.Y, b.X+b.W, b.Y+b.H
	r = max(0, min(r, b.W/2, b.H/2))
	if r == 0 {
		o.move(x0, y0)
		o.line(x1, y0)
		o.line(x1, y1)
		o.line(x0, y1)
		o.close()
		return o
	}
	k := r * 0.4477152498 // a quarter of a circle as one curve: 1 − 4(√2−1)/3
	o.move(x0+r, y0)
	o.line(x1-r, y0)
	o.curve(x1-k, y0, x1, y0+k, x1, y0+r)
	o.line(x1, y1-r)
	o.curve(x1, y1-k, x1-k, y1, x1-r, y1)
	o.line(x0+r, y1)
	o.curve(x0+k, y1, x0, y1-k, x0, y1-r)
	o.line(x0, y0+r)
	o.curve(x0, y0+k, x0+k, y0, x0+r, y0)
	o.close()
	return o
}

// Straight gives a curve from a place as the ends of straight lines, fine enough for a scale in pixels.
func Straight(from geometry.Point, s Segment, scale float64) []geometry.Point {
	long := math.Hypot(s.C1.X-from.X, s.C1.Y-from.Y) + math.Hypot(s.C2.X-s.C1.X, s.C2.Y-s.C1.Y) + math.Hypot(s.To.X-s.C2.X, s.To.Y-s.C2.Y)
	steps := int(max(4, min(64, math.Sqrt(long*scale)*1.5)))
	all := make([]geometry.Point, steps)
	for i := range all {
		t := float64(i+1) / float64(steps)
		u := 1 - t
		all[i] = geometry.Point{
			X: u*u*u*from.X + 3*u*u*t*s.C1.X + 3*u*t*t*s.C2.X + t*t*t*s.To.X,
			Y: u*u*u*from.Y + 3*u*u*t*s.C1.Y + 3*u*t*t*s.C2.Y + t*t*t*s.To.Y,
		}
	}
	return all
}

// maxDashes bounds into how many pieces an outline is taken.
const maxDashes = 20_000

// Dashed takes an outline apart into its dashes, as pieces of straight lines; all of it in one piece
// where there are none. The numbers are lengths drawn and left out by turns, as in SVG.
func Dashed(o Outline, dash []float64) []Outline {
	sum := 0.0
	for _, d := range dash {
		sum += d
	}
	if sum <= 0 {
		return []Outline{o}
	}
	if len(dash)%2 == 1 {
		dash = append(append([]float64{}, dash...), dash...)
	}
	var all []Outline
	var piece Outline
	var from, now geometry.Point
	at, left := 0, dash[0]
	turn := func() {
		if at%2 == 0 && len(piece) > 0 {
			if len(piece) == 1 { // a dot
				piece.line(now.X+0.01, now.Y)
			}
			all = append(all, piece)
		}
		piece = nil
		at = (at + 1) % len(dash)
		if left = dash[at]; at%2 == 0 {
			piece.move(now.X, now.Y)
		}
	}
	to := func(p geometry.Point) {
		for len(all) < maxDashes {
			far := math.Hypot(p.X-now.X, p.Y-now.Y)
			if far < left || far == 0 {
				left -= far
				if now = p; at%2 == 0 {
					piece.line(p.X, p.Y)
				}
				return
			}
			share := left / far
			now = geometry.Point{X: now.X + share*(p.X-now.X), Y: now.Y + share*(p.Y-now.Y)}
			if at%2 == 0 && left > 0 {
				piece.line(now.X, now.Y)
			}
			turn()
		}
	}
	for _, s := range o {
		switch s.Op {
		case 'M':
			if at%2 == 0 && len(piece) > 1 {
				all = append(all, piece)
			}
			from, now, piece, at, left = s.To, s.To, nil, 0, dash[0]
			piece.move(now.X, now.Y)
		case 'L':
			to(s.To)
		case 'C':
			for _, p := range Straight(now, s, 1) {
				to(p)
			}
		case 'Z':
			to(from)
		}
	}
	if at%2 == 0 && len(piece) > 1 {
		all = append(all, piece)
	}
	return all
}

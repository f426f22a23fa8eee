package scene

import (
	"math"

	cm "mevrin/core/conceptmap"
)

// lead gives a line of a manner through places, two at least.
func lead(through []Point, line cm.Line) Path {
	switch line {
	case cm.LineCurved:
		return sweep(through)
	case cm.LineStepped:
		return steps(through)
	}
	path := make(Path, len(through)-1)
	for i := range path {
		path[i] = straight(through[i], through[i+1])
	}
	return path
}

// softened gives a path of straight pieces with its corners rounded, beginning at
// most so far before each.
func (p Path) softened(by float64) Path {
	if len(p) < 2 {
		return p
	}
	var soft Path
	at := p[0].A
	for i := range p {
		corner := p[i].B
		if i+1 == len(p) {
			soft = append(soft, straight(at, corner))
			break
		}
		before, after := distance(p[i].A, corner), distance(corner, p[i+1].B)
		r := min(by, before/2, after/2)
		if r < 0.5 {
			soft = append(soft, straight(at, corner))
			at = corner
			continue
		}
		from, to := mix(corner, p[i].A, r/before), mix(corner, p[i+1].B, r/after)
		soft = append(soft, straight(at, from), quadratic(from, corner, to))
		at = to
	}
	return soft
}

// sweep gives a smooth line through places: between two of them one that
// leaves and arrives along the longer way, else a Catmull–Rom spline (Catmull
// and Rom, A class of local interpolating splines, 1974).
func sweep(p []Point) Path {
	if len(p) == 2 {
		a, b := p[0], p[1]
		dx, dy := b.X-a.X, b.Y-a.Y
		along, aside := math.Max(math.Abs(dx), math.Abs(dy)), math.Min(math.Abs(dx), math.Abs(dy))
		switch {
		case aside < along*0.18: // so little aside that no sweep would be seen: a bow
			control := mix(a, b, 0.5)
			return Path{quadratic(a, Point{X: control.X + 0.22*dy, Y: control.Y - 0.22*dx}, b)}
		case math.Abs(dy) >= math.Abs(dx):
			return Path{{a, Point{X: a.X, Y: a.Y + dy*0.6}, Point{X: b.X, Y: b.Y - dy*0.6}, b}}
		}
		return Path{{a, Point{X: a.X + dx*0.6, Y: a.Y}, Point{X: b.X - dx*0.6, Y: b.Y}, b}}
	}
	path := make(Path, len(p)-1)
	at := func(i int) Point { return p[max(0, min(len(p)-1, i))] }
	for i := range path {
		before, a, b, after := at(i-1), at(i), at(i+1), at(i+2)
		path[i] = Curve{a, Point{X: a.X + (b.X-before.X)/6, Y: a.Y + (b.Y-before.Y)/6}, Point{X: b.X - (after.X-a.X)/6, Y: b.Y - (after.Y-a.Y)/6}, b}
	}
	return path
}

// steps gives a line of level and upright pieces. Between two places it turns
// half way; each bend lies on a piece that can be moved by it.
func steps(p []Point) Path {
	var path Path
	at := p[0]
	to := func(q Point) {
		if q != at {
			path = append(path, straight(at, q))
			at = q
		}
	}
	first, last := p[0], p[len(p)-1]
	upright := math.Abs(last.Y-first.Y) >= math.Abs(last.X-first.X)/2
	if len(p) == 2 {
		half := mix(first, last, 0.5)
		if upright {
			to(Point{X: first.X, Y: half.Y})
			to(Point{X: last.X, Y: half.Y})
		} else {
			to(Point{X: half.X, Y: first.Y})
			to(Point{X: half.X, Y: last.Y})
		}
	} else {
		for i := 1; i < len(p); i++ {
			if upright {
				to(Point{X: at.X, Y: p[i].Y})
			} else {
				to(Point{X: p[i].X, Y: at.Y})
			}
			to(p[i])
			upright = !upright
		}
	}
	to(last)
	if path == nil {
		path = Path{straight(first, last)}
	}
	return path
}

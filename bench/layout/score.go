package main

import (
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/format/measured"
)

// metrics say how good a drawing is. README.md says what each means.
type metrics struct {
	Crossings, Overlaps, Hits, OnBox, OnPhrase, Far int
	Area                                            float64 // over that of all boxes
	Aspect                                          float64 // width to height
}

// clutter sums what makes a drawing hard to read.
func (m metrics) clutter() int { return m.Crossings + m.Overlaps + m.Hits + m.OnBox + m.OnPhrase }

// seen is a line as it is seen: outside the boxes at its two ends.
type seen struct {
	points   []route.Point
	span     route.Rect
	from, to int
}

// phrase is a phrase where it stands, with the lines that it belongs to.
type phrase struct {
	box   route.Rect
	lines []int
}

// touch is how far two things may overlap unnoticed, in pixels; away how far a
// phrase may stand from its line.
const (
	touch = 0.5
	depth = 1
	away  = 12
)

// score judges a drawing of a graph.
func score(f *measured.File, p measured.Positions) metrics {
	var m metrics
	index := map[string]int{}
	boxes := make([]route.Rect, len(f.Nodes))
	content := 0.0
	whole := route.Rect{X0: 1e18, Y0: 1e18, X1: -1e18, Y1: -1e18}
	hold := func(r route.Rect) {
		whole = route.Rect{X0: min(whole.X0, r.X0), Y0: min(whole.Y0, r.Y0), X1: max(whole.X1, r.X1), Y1: max(whole.Y1, r.Y1)}
	}
	for i, n := range f.Nodes {
		index[n.ID] = i
		boxes[i] = geometry.At(route.Point{X: p.Nodes[i].X, Y: p.Nodes[i].Y}, route.Size{W: n.W, H: n.H})
		content += n.W * n.H
		hold(boxes[i])
	}
	lines := make([]seen, len(f.Edges))
	phrases := []phrase{}
	at := map[[4]any]int{}
	for _, e := range p.Edges {
		edge := f.Edges[e.Index]
		line := cut(e, boxes[index[edge.From]], boxes[index[edge.To]])
		line.from, line.to = index[edge.From], index[edge.To]
		lines[e.Index] = line
		hold(line.span)
		if e.Label == nil {
			continue
		}
		box := geometry.At(route.Point{X: e.Label.X, Y: e.Label.Y}, route.Size{W: edge.W, H: edge.H})
		hold(box)
		key := [4]any{edge.From, edge.Label, int(box.X0), int(box.Y0)} // a phrase shared by several counts once
		if n, there := at[key]; there {
			phrases[n].lines = append(phrases[n].lines, e.Index)
			continue
		}
		content += edge.W * edge.H
		at[key] = len(phrases)
		phrases = append(phrases, phrase{box, []int{e.Index}})
	}
	m.Crossings = crossings(lines)
	m.countBoxes(boxes, lines)
	m.countPhrases(boxes, phrases, lines)
	m.Area = (whole.X1 - whole.X0) * (whole.Y1 - whole.Y0) / content
	m.Aspect = (whole.X1 - whole.X0) / (whole.Y1 - whole.Y0)
	return m
}

// cut gives the part of a line outside its two boxes.
func cut(e measured.Drawn, from, to route.Rect) seen {
	points := make([]route.Point, len(e.Points))
	for i, p := range e.Points {
		points[i] = route.Point{X: p[0], Y: p[1]}
	}
	points = reversed(leave(reversed(leave(points, from)), to))
	s := seen{points: points, span: route.Rect{X0: 1e18, Y0: 1e18, X1: -1e18, Y1: -1e18}}
	for _, p := range points {
		s.span = route.Rect{X0: min(s.span.X0, p.X), Y0: min(s.span.Y0, p.Y), X1: max(s.span.X1, p.X), Y1: max(s.span.Y1, p.Y)}
	}
	return s
}

// leave cuts a line off where it first leaves the box in which it begins.
func leave(points []route.Point, box route.Rect) []route.Point {
	for i := 1; i < len(points); i++ {
		a, b := points[i-1], points[i]
		if low, high := box.Through(a, b); low < high && high < 1 {
			out := route.Point{X: a.X + (b.X-a.X)*high, Y: a.Y + (b.Y-a.Y)*high}
			return append([]route.Point{out}, points[i:]...)
		}
	}
	return points
}

func reversed(points []route.Point) []route.Point {
	back := make([]route.Point, len(points))
	for i, p := range points {
		back[len(points)-1-i] = p
	}
	return back
}

// crossings counts, pair by pair, where two lines cross.
func crossings(lines []seen) int {
	x := route.NewIndex(nil)
	var of []int // the line of each piece
	count := 0
	for i, l := range lines {
		met := map[int]bool{}
		for k := 1; k < len(l.points); k++ {
			x.Near(spanOf(l.points[k-1], l.points[k]), func(id int, _ route.Rect) bool {
				met[of[id]] = true
				return true
			})
		}
		for j := range met {
			count += cross(l.points, lines[j].points)
		}
		for k := 1; k < len(l.points); k++ {
			x.Add(spanOf(l.points[k-1], l.points[k]))
			of = append(of, i)
		}
	}
	return count
}

func spanOf(a, b route.Point) route.Rect {
	return route.Rect{X0: min(a.X, b.X), Y0: min(a.Y, b.Y), X1: max(a.X, b.X), Y1: max(a.Y, b.Y)}.Grown(2 * hair)
}

// hair is by how much one of two lines is moved that meet at a turn or share a
// stretch: of four ways to move it, that with the fewest crossings counts, so
// that a mere touch is none.
const hair = 0.02

// cross counts how often two lines cross.
func cross(a, b []route.Point) int {
	count, touching := 0, false
	for i := 1; i < len(a); i++ {
		for j := 1; j < len(b); j++ {
			if sides(a[i-1], a[i], b[j-1], b[j]) {
				count++
			}
			touching = touching || reaches(a[i-1], b[j-1], b[j]) || reaches(a[i], b[j-1], b[j]) || reaches(b[j-1], a[i-1], a[i]) || reaches(b[j], a[i-1], a[i])
		}
	}
	if !touching {
		return count
	}
	for _, by := range [4]route.Point{{X: 0.7, Y: 0.9}, {X: -0.7, Y: 0.9}, {X: 0.7, Y: -0.9}, {X: -0.7, Y: -0.9}} {
		moved := make([]route.Point, len(a))
		for i, p := range a {
			moved[i] = route.Point{X: p.X + hair*by.X, Y: p.Y + hair*by.Y}
		}
		n := 0
		for i := 1; i < len(a); i++ {
			for j := 1; j < len(b); j++ {
				if sides(moved[i-1], moved[i], b[j-1], b[j]) {
					n++
				}
			}
		}
		count = min(count, n)
	}
	return count
}

// sides tells whether two pieces cross; an end that lies on the other piece
// counts as lying on one side of it.
func sides(a, b, c, d route.Point) bool {
	left := func(p, q, r route.Point) bool { return (q.X-p.X)*(r.Y-p.Y)-(q.Y-p.Y)*(r.X-p.X) > 0 }
	return left(a, b, c) != left(a, b, d) && left(c, d, a) != left(c, d, b)
}

// reaches tells whether a point lies on a piece, within a hair.
func reaches(p, a, b route.Point) bool {
	dx, dy := b.X-a.X, b.Y-a.Y
	t := 0.0
	if long := dx*dx + dy*dy; long > 0 {
		t = max(0, min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/long))
	}
	return geometry.Distance(p, route.Point{X: a.X + dx*t, Y: a.Y + dy*t}) < hair
}

// countBoxes counts boxes that overlap, and lines that run through boxes.
func (m *metrics) countBoxes(boxes []route.Rect, lines []seen) {
	x := route.NewIndex(nil)
	for _, b := range boxes {
		x.Near(b.Grown(-touch/2), func(_ int, o route.Rect) bool {
			if o.Grown(-touch / 2).Meets(b.Grown(-touch / 2)) {
				m.Overlaps++
			}
			return true
		})
		x.Add(b)
	}
	for _, l := range lines {
		hit := map[int]bool{}
		for k := 1; k < len(l.points); k++ {
			x.Along(l.points[k-1], l.points[k], -depth, func(id int, _ route.Rect) bool {
				if id != l.from && id != l.to {
					hit[id] = true
				}
				return true
			})
		}
		m.Hits += len(hit)
	}
}

// countPhrases counts phrases on boxes, on each other, and away from their lines.
func (m *metrics) countPhrases(boxes []route.Rect, phrases []phrase, lines []seen) {
	on, others := route.NewIndex(boxes), route.NewIndex(nil)
	for _, p := range phrases {
		r := p.box.Grown(-touch / 2)
		on.Near(r, func(_ int, o route.Rect) bool {
			if o.Grown(-touch / 2).Meets(r) {
				m.OnBox++
			}
			return true
		})
		others.Near(r, func(_ int, o route.Rect) bool {
			if o.Grown(-touch / 2).Meets(r) {
				m.OnPhrase++
			}
			return true
		})
		others.Add(p.box)
		for _, i := range p.lines {
			near := false
			for k := 1; k < len(lines[i].points); k++ {
				near = near || p.box.Grown(away).Cut(lines[i].points[k-1], lines[i].points[k])
			}
			if !near && len(lines[i].points) > 1 {
				m.Far++
			}
		}
	}
}

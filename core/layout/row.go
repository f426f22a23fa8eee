package layout

import (
	"cmp"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/structure"
)

// How far from its siblings, in pixels, a concept may be put to stand among them:
// across their row, and beyond its two ends.
const (
	acrossRow = 40
	beyondRow = 160
)

// Row gives the children of a concept's parent in the order in which they stand on the
// paper, around it, below or beside each other, as the pattern is; among tells whether
// the concept stands in the row that they form.
func (r Placer) Row(m *cm.Map, id cm.ID) (order []cm.ID, among bool) {
	a := arranging{Placer: r, m: m, s: structure.Of(m)}
	parent := a.s.Places[id].Parent
	order = slices.Clone(a.s.Places[parent].Children)
	others := make([]geometry.Point, 0, len(order))
	for _, other := range order {
		if other != id {
			others = append(others, middle(m, r.Measurer, other))
		}
	}
	own := middle(m, r.Measurer, id)
	pattern := a.patternOf(parent)
	if pattern == cm.PatternSides && parent != m.Focus {
		pattern = cm.PatternRight // what is below a branch is read from the top
	}
	x, y := func(p geometry.Point) float64 { return p.X }, func(p geometry.Point) float64 { return p.Y }
	switch pattern {
	case cm.PatternRings, cm.PatternSides:
		if sorted, err := Sorted(m, r.Measurer, parent, order, Around); err == nil {
			order = sorted
		}
		centre := middle(m, r.Measurer, parent)
		far := func(p geometry.Point) float64 { return geometry.Distance(p, centre) }
		across := slices.ContainsFunc(others, func(p geometry.Point) bool {
			if pattern == cm.PatternSides {
				return math.Abs(p.X-own.X) <= acrossRow
			}
			return math.Abs(far(p)-far(own)) <= acrossRow
		})
		return order, across
	case cm.PatternRight, cm.PatternLeft, cm.PatternRows:
		slices.SortStableFunc(order, func(a, b cm.ID) int { return cmp.Compare(middle(m, r.Measurer, a).Y, middle(m, r.Measurer, b).Y) })
		return order, inRow(own, others, y, x)
	}
	slices.SortStableFunc(order, func(a, b cm.ID) int { return cmp.Compare(middle(m, r.Measurer, a).X, middle(m, r.Measurer, b).X) })
	return order, (pattern == cm.PatternLevels || pattern == cm.PatternUp) && inRow(own, others, x, y)
}

// inRow tells whether a place lies in the row of others that runs along one direction.
func inRow(own geometry.Point, others []geometry.Point, along, across func(geometry.Point) float64) bool {
	least, most := math.Inf(1), math.Inf(-1)
	level := false
	for _, p := range others {
		least, most = min(least, along(p)), max(most, along(p))
		level = level || math.Abs(across(p)-across(own)) <= acrossRow
	}
	return level && along(own) >= least-beyondRow && along(own) <= most+beyondRow
}

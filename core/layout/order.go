package layout

import (
	"math"
	"slices"

	"golang.org/x/text/collate"
	"golang.org/x/text/language"

	cm "mevrin/core/conceptmap"
)

// Order is a way to put siblings in order.
type Order string

// The ways: by their words, as the map's language sorts them; by their places,
// row by row; by their places around their parent, clockwise from the top; by the
// times that they belong to, those without one last.
const (
	ByWords Order = "words"
	ByRows  Order = "rows"
	Around  Order = "around"
	ByTime  Order = "time"
)

// Sorted gives the children of a concept in another order. What is alike keeps
// the order that it had.
func Sorted(m *cm.Map, size Measurer, parent cm.ID, children []cm.ID, way Order) ([]cm.ID, error) {
	order := slices.Clone(children)
	switch way {
	case ByWords:
		tag, err := language.Parse(string(m.Language))
		if err != nil {
			tag = language.Und
		}
		c := collate.New(tag, collate.Loose, collate.Numeric)
		slices.SortStableFunc(order, func(a, b cm.ID) int {
			return c.CompareString(m.Words(m.Concepts[a].Label), m.Words(m.Concepts[b].Label))
		})
	case ByRows:
		return byRows(m, size, order), nil
	case Around:
		at := middle(m, size, parent)
		angle := func(id cm.ID) float64 {
			p := middle(m, size, id)
			// From straight up, clockwise.
			a := math.Atan2(p.X-at.X, at.Y-p.Y)
			if a < 0 {
				a += 2 * math.Pi
			}
			return a
		}
		slices.SortStableFunc(order, func(a, b cm.ID) int { return compare(angle(a), angle(b)) })
	case ByTime:
		when := func(id cm.ID) float64 {
			if from, _, ok := m.Concepts[id].Span(); ok {
				return from
			}
			return math.Inf(1)
		}
		slices.SortStableFunc(order, func(a, b cm.ID) int { return compare(when(a), when(b)) })
	default:
		return nil, cm.Refusef("Siblings are ordered by their words, by rows, around their parent, or by time.")
	}
	return order, nil
}

// byRows reads places as one reads a page: slips whose middles lie within the
// height of the upper one are a row.
func byRows(m *cm.Map, size Measurer, ids []cm.ID) []cm.ID {
	slices.SortStableFunc(ids, func(a, b cm.ID) int { return compare(middle(m, size, a).Y, middle(m, size, b).Y) })
	var order []cm.ID
	for len(ids) > 0 {
		top, high := middle(m, size, ids[0]), size.Slip(m, m.Concepts[ids[0]]).H
		n := 1
		for n < len(ids) && middle(m, size, ids[n]).Y <= top.Y+high {
			n++
		}
		row := ids[:n]
		slices.SortStableFunc(row, func(a, b cm.ID) int { return compare(middle(m, size, a).X, middle(m, size, b).X) })
		order, ids = append(order, row...), ids[n:]
	}
	return order
}

func middle(m *cm.Map, size Measurer, id cm.ID) cm.Point {
	c := m.Concepts[id]
	return cm.Point{X: c.At.X, Y: c.At.Y + size.Slip(m, c).H/2}
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

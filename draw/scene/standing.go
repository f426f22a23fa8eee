package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// standing are the slips of a scene in the order of their ids, their boxes in a row: what is
// asked after an edit is which of them a few short lines meet, and one look along the row is
// quicker for that than making an index.
type standing struct {
	ids   []cm.ID
	slips []*Slip
	boxes []route.Rect
}

// standingOf sets slips in a row; before is the row of an earlier scene, or nil.
func standingOf(now map[cm.ID]*Slip, before *standing) *standing {
	if before != nil && len(before.ids) == len(now) {
		if st := before.with(now); st != nil {
			return st
		}
	}
	st := &standing{ids: cm.SortedIDs(now), slips: make([]*Slip, len(now)), boxes: make([]route.Rect, len(now))}
	for i, id := range st.ids {
		st.slips[i], st.boxes[i] = now[id], rectOf(now[id].Box)
	}
	return st
}

// with gives the row with other slips by the same ids; nil where one is missing.
func (st *standing) with(now map[cm.ID]*Slip) *standing {
	next := &standing{ids: st.ids, slips: make([]*Slip, len(st.ids)), boxes: slices.Clone(st.boxes)}
	for i, id := range st.ids {
		s := now[id]
		if s == nil {
			return nil
		}
		if next.slips[i] = s; s != st.slips[i] {
			next.boxes[i] = rectOf(s.Box)
		}
	}
	return next
}

// through tells whether a straight line runs through a slip that is not its own, or past it by
// less than a pixel.
func (st *standing) through(a, b Point, own []*Slip) bool {
	span := geometry.Span(a, b).Grown(1)
	for i := range st.boxes {
		if st.boxes[i].Meets(span) && st.boxes[i].Grown(1).Cut(a, b) && !slices.Contains(own, st.slips[i]) {
			return true
		}
	}
	return false
}

// meets tells whether a slip stands in a box.
func (st *standing) meets(r route.Rect) bool {
	for i := range st.boxes {
		if st.boxes[i].Meets(r) {
			return true
		}
	}
	return false
}

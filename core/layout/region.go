package layout

import (
	"cmp"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout/route"
)

// How far the outline of a region reaches beyond its slips, in pixels: at the
// sides and below, and above, where its title stands.
const (
	RegionBeside = 16.0
	RegionAbove  = 42.0
)

// outlined gives the outline of a region around its slips.
func outlined(r route.Rect) route.Rect {
	return route.Rect{X0: r.X0 - RegionBeside, X1: r.X1 + RegionBeside, Y0: r.Y0 - RegionAbove, Y1: r.Y1 + RegionBeside}
}

// inRegion is a region with those of some concepts that are inside.
type inRegion struct {
	id     cm.ID
	inside []cm.ID
}

// regions gives the regions that hold at least two of some concepts, but not all
// of them, the largest first. One that shares a concept with a larger one that is
// not around it is left out: a concept has one place.
func (a *arranging) regions(members, but []cm.ID) []inRegion {
	if len(a.m.Regions) == 0 {
		return nil
	}
	var all []inRegion
	for _, id := range cm.SortedIDs(a.m.Regions) {
		if slices.Contains(but, id) {
			continue
		}
		in := a.m.Inside(a.m.Regions[id])
		r := inRegion{id: id}
		for _, c := range members {
			if in[c] {
				r.inside = append(r.inside, c)
			}
		}
		if len(r.inside) > 1 && len(r.inside) < len(members) {
			all = append(all, r)
		}
	}
	slices.SortStableFunc(all, func(x, y inRegion) int { return cmp.Compare(len(y.inside), len(x.inside)) })
	taken := map[cm.ID]bool{}
	return slices.DeleteFunc(all, func(r inRegion) bool {
		if slices.ContainsFunc(r.inside, func(c cm.ID) bool { return taken[c] }) {
			return true // it comes up again inside the larger one
		}
		for _, c := range r.inside {
			taken[c] = true
		}
		return false
	})
}

// highest gives the concept that hangs from the fewest others, the first of them.
// A region hangs from what that one hangs from, so that no two hang from each
// other.
func (a *arranging) highest(ids []cm.ID) cm.ID {
	depth := func(id cm.ID) (n int) {
		for at := a.s.Places[id].Parent; at != ""; at = a.s.Places[at].Parent {
			n++
		}
		return n
	}
	return slices.MinFunc(ids, func(x, y cm.ID) int { return cmp.Compare(depth(x), depth(y)) })
}

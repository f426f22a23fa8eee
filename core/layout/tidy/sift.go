package tidy

import (
	"slices"

	"mevrin/core/layout/route"
)

// sift lets siblings change places so that straight lines between the boxes cross each other,
// and boxes, less: each sibling in turn goes where that is least (after the sifting of
// Matuszewski, Schönfeld and Molitor, 1999), again and again while it helps and the work
// lasts. Place gives where everything stands for the order that siblings have now; those of
// boxes that keep theirs stay. Dear says how much dearer that is than to look at the lines.
func (t *tree) sift(p part, keep bool, dear int, place func() map[int]Point) {
	s := sifting{tree: t, part: p, place: place}
	s.work = sifted / max(1, len(p.boxes)+len(p.wires)) / dear
	if t.g.Was != nil {
		return // what stands stays
	}
	if t.g.Effort > 0 {
		s.work = int(float64(s.work) * t.g.Effort)
	}
	s.lines()
	least := s.clutter()
	for won := true; won && least > 0 && s.work > 0; {
		won = false
		for _, b := range t.order {
			kids := t.kids[b]
			if len(kids) < 2 || keep || t.g.keeps(b) {
				continue
			}
			for _, family := range t.families(kids) {
				if least == 0 || s.work <= 0 {
					return
				}
				if now := s.move(b, family, least); now < least {
					least, won = now, true
				}
			}
		}
	}
}

// sifted is how much is looked at, in boxes and wires.
const sifted = 220_000

type sifting struct {
	*tree
	part  part
	place func() map[int]Point
	ends  [][2]int
	work  int
}

// families are children that hang by one wire, which stay beside each other.
func (t *tree) families(kids []int) [][]int {
	var all [][]int
	for i, c := range kids {
		if i > 0 && t.wire[kids[i-1]] == t.wire[c] && t.wire[c] >= 0 {
			all[len(all)-1] = append(all[len(all)-1], c)
			continue
		}
		all = append(all, []int{c})
	}
	return all
}

// lines gives what is counted: from each first box of a wire to its others.
func (s *sifting) lines() {
	for _, w := range s.part.wires {
		ends := s.g.Wires[w].ends()
		for _, e := range ends[1:] {
			if e != ends[0] {
				s.ends = append(s.ends, [2]int{ends[0], e})
			}
		}
	}
}

// move puts a family where there is least clutter among its siblings, and gives that.
func (s *sifting) move(b int, family []int, least int) int {
	was := s.kids[b]
	rest := slices.DeleteFunc(slices.Clone(was), func(c int) bool { return slices.Contains(family, c) })
	best := was
	at := 0
	for _, other := range append([][]int{nil}, s.families(rest)...) {
		at += len(other)
		order := slices.Insert(slices.Clone(rest), at, family...)
		if slices.Equal(order, was) {
			continue
		}
		if s.work <= 0 {
			break
		}
		s.kids[b] = order
		if n := s.clutter(); n < least {
			best, least = order, n
		}
	}
	if len(family) > 1 && s.work > 0 { // and the other way round
		i := slices.Index(best, family[0])
		order := slices.Clone(best)
		slices.Reverse(order[i : i+len(family)])
		s.kids[b] = order
		if n := s.clutter(); n < least {
			best, least = order, n
		}
	}
	s.kids[b] = best
	return least
}

// clutter counts where straight lines cross, or run through boxes.
func (s *sifting) clutter() int {
	s.work--
	s.g.Stop.TickBy(len(s.ends))
	at := s.place()
	n := 0
	lines := route.NewIndex(nil)
	for _, e := range s.ends {
		a, b := at[e[0]], at[e[1]]
		lines.Along(a, b, 1, func(id int, _ route.Rect) bool {
			o := s.ends[id]
			if o[0] != e[0] && o[0] != e[1] && o[1] != e[0] && o[1] != e[1] && route.Cross(a, b, at[o[0]], at[o[1]]) {
				n++
			}
			return true
		})
		lines.AddLine(a, b)
	}
	return n
}

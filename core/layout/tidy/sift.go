package tidy

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"mevrin/core/layout/route"
)

// sift lets siblings change places so that straight lines between the boxes cross each other
// less: each sibling in turn goes where that is least (after the sifting of
// Matuszewski, Schönfeld and Molitor, 1999), again and again while it helps and the work
// lasts. Place gives where everything stands for the order that siblings have now; those of
// boxes that keep theirs stay. Dear says how much dearer that is than to look at the lines. A drawing
// that is taken up again keeps the order in which siblings stood: before tells where.
func (t *tree) sift(p part, keep bool, dear int, before func(b, up int) float64, place func() map[int]Point) {
	s := sifting{tree: t, part: p, place: place}
	if t.g.Was != nil {
		t.asBefore(keep, before)
		return
	}
	s.lines()
	s.work = sifted / (len(p.boxes) + len(s.ends) + len(s.ends)*len(s.ends)/3000) / dear
	if t.g.Effort > 0 {
		s.work = int(float64(s.work) * t.g.Effort)
	}
	least := s.settle(keep, s.clutter())
	best := maps.Clone(t.kids)
	for mix := shuffle(1); least > 0 && s.work > 0; { // from other beginnings
		for _, b := range t.order {
			if kids := t.kids[b]; t.mayChange(b, keep) {
				t.kids[b] = mix.families(t.families(kids))
			}
		}
		if n := s.settle(keep, s.clutter()); n < least {
			best, least = maps.Clone(t.kids), n
		}
	}
	maps.Copy(t.kids, best)
}

// mayChange tells that what hangs from a box may change places.
func (t *tree) mayChange(b int, keep bool) bool {
	return len(t.kids[b]) > 1 && !keep && !t.g.keeps(b)
}

// asBefore puts siblings that may change places in the order in which they stood, those that
// are new at the end.
func (t *tree) asBefore(keep bool, before func(b, up int) float64) {
	for _, b := range t.order {
		kids := t.kids[b]
		if !t.mayChange(b, keep) {
			continue
		}
		at := func(c int) float64 {
			if !t.g.old(c) || !t.g.old(t.root) {
				return math.Inf(1)
			}
			return before(c, b)
		}
		families := t.families(slices.Clone(kids))
		for _, f := range families {
			slices.SortStableFunc(f, func(x, y int) int { return cmp.Compare(at(x), at(y)) })
		}
		slices.SortStableFunc(families, func(x, y []int) int { return cmp.Compare(at(x[0]), at(y[0])) })
		t.kids[b] = slices.Concat(families...)
	}
}

// settle moves families until none wins any more, or the work is done.
func (s *sifting) settle(keep bool, least int) int {
	for won := true; won && least > 0; {
		won = false
		for _, b := range s.order {
			kids := s.kids[b]
			if !s.mayChange(b, keep) {
				continue
			}
			for _, family := range s.families(kids) {
				if least == 0 || s.work <= 0 {
					return least
				}
				if now := s.move(b, family, least); now < least {
					least, won = now, true
				}
			}
		}
	}
	return least
}

// families mixes families, and gives all of them in one row.
func (s *shuffle) families(all [][]int) []int {
	order := make([]int, len(all))
	for i := range order {
		order[i] = i
	}
	s.row(order)
	var row []int
	for _, i := range order {
		row = append(row, all[i]...)
	}
	return row
}

// sifted is how much is looked at, in boxes and wires.
const sifted = 150_000

type sifting struct {
	*tree
	part   part
	place  func() map[int]Point
	ends   [][2]int
	work   int
	chords []chord
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

// clutter counts where straight lines cross.
func (s *sifting) clutter() int {
	s.work--
	s.g.Stop.TickBy(len(s.ends))
	at := s.place()
	s.chords = s.chords[:0]
	for _, e := range s.ends {
		a, b := at[e[0]], at[e[1]]
		s.chords = append(s.chords, chord{a: a, b: b, ends: e, left: min(a.X, b.X), right: max(a.X, b.X), top: min(a.Y, b.Y), bottom: max(a.Y, b.Y)})
	}
	// From left to right, each with those that begin before it ends.
	slices.SortFunc(s.chords, func(a, b chord) int { return cmp.Compare(a.left, b.left) })
	n := 0
	for i := range s.chords {
		e := &s.chords[i]
		for j := i + 1; j < len(s.chords) && s.chords[j].left <= e.right; j++ {
			o := &s.chords[j]
			if o.top <= e.bottom && e.top <= o.bottom && o.ends[0] != e.ends[0] && o.ends[0] != e.ends[1] && o.ends[1] != e.ends[0] && o.ends[1] != e.ends[1] && route.Cross(e.a, e.b, o.a, o.b) {
				n++
			}
		}
	}
	return n
}

// chord is a straight line between two boxes, and the room that it takes.
type chord struct {
	a, b                     Point
	ends                     [2]int
	left, right, top, bottom float64
}

package tidy

import (
	"cmp"
	"math"
	"slices"
)

// plan is how the branches of a root are written: each in a shape, and by breaks a page in
// rows, or by sides a spine.
type plan struct {
	take   []*shape
	whole  *shape  // instead: of all, as one list below the root
	breaks []int   // the branches with which a row begins, or a further spine
	sides  []int   // for each branch, 0 above the spine, 1 below
	wide   float64 // of a page
	need   float64
}

// steadier is how much larger a drawing may be that is written as it was.
const steadier = 1.4

// choose takes the plan that needs the least room, or that by which the drawing stays as it
// was, where that needs little more; siblings that may change places do so first, for fewer
// crossings, and of plans that need hardly more room that is taken whose lines cross least.
func (l *lister) choose(p part, keep bool, plans func() []plan, places func(plan) map[int]Point) plan {
	if l.g.Was == nil {
		first := smallest(plans())
		if first.sides != nil && first.breaks != nil {
			return first // of several spines the order could not be taken up again
		}
		took := l.took(first)
		l.sift(p, keep, 2, nil, func() map[int]Point { return places(l.again(first, took)) })
		return l.clearest(p, plans(), places)
	}
	if !l.inRanks {
		l.sift(p, keep, 1, l.before(), nil)
	}
	kept := smallest(plans())
	if l.g.Loosely {
		return kept
	}
	l.anew = true
	free := smallest(plans())
	l.anew = false
	if kept.need <= steadier*free.need {
		return kept
	}
	return free
}

func smallest(plans []plan) plan {
	return slices.MinFunc(plans, func(a, b plan) int { return cmp.Compare(a.need, b.need) })
}

// clearest takes, of the plans that need hardly more room than the smallest, one whose
// straight lines cross least.
func (l *lister) clearest(p part, plans []plan, places func(plan) map[int]Point) plan {
	best := smallest(plans)
	counted := sifting{tree: l.tree, part: p}
	counted.lines()
	const looked = 24
	if len(counted.ends) > 20*looked {
		return best
	}
	slices.SortStableFunc(plans, func(a, b plan) int { return cmp.Compare(a.need, b.need) })
	least := -1
	for _, a := range plans[:min(len(plans), looked)] {
		if a.need > 1.12*plans[0].need {
			break
		}
		counted.place = func() map[int]Point { return places(a) }
		if n := counted.clutter(); least < 0 || n < least {
			best, least = a, n
		}
	}
	return best
}

// took gives the shape of each branch by its head.
func (l *lister) took(p plan) map[int]*shape {
	all := map[int]*shape{}
	var note func(b int, s *shape)
	note = func(b int, s *shape) {
		all[b] = s
		for i, c := range l.kids[b] {
			note(c, s.kids[i])
		}
	}
	if p.whole != nil {
		note(l.root, p.whole)
		return all
	}
	for i, c := range l.kids[l.root] {
		note(c, p.take[i])
	}
	return all
}

// again measures the shapes of a plan for the order that siblings have now.
func (l *lister) again(p plan, took map[int]*shape) plan {
	var anew func(b int) *shape
	anew = func(b int) *shape {
		next := &shape{breaks: took[b].breaks, beside: took[b].beside}
		for _, c := range l.kids[b] {
			next.kids = append(next.kids, anew(c))
		}
		return l.measured(b, next)
	}
	next := plan{breaks: p.breaks, sides: p.sides}
	if p.whole != nil {
		next.whole = anew(l.root)
		return next
	}
	for _, c := range l.kids[l.root] {
		next.take = append(next.take, anew(c))
	}
	return next
}

// spread tells where the boxes of a branch stand, upside down with -1.
func (l *lister) spread(b int, s *shape, at Point, down float64, to map[int]Point) {
	size := l.g.Boxes[b].Size
	head := Point{X: at.X + size.W/2, Y: at.Y + down*size.H/2}
	head.Y += down * l.lowered(b, s)
	l.each(s, b, func(i int, x, y float64) {
		l.spread(l.kids[b][i], s.kids[i], Point{X: at.X + x, Y: at.Y + down*y}, down, to)
	})
	to[b] = head
}

// before tells where siblings stood in the order in which what is written is read: column by
// column, each downwards.
func (l *lister) before() func(b, up int) float64 {
	g := l.g
	left, right := map[int]float64{}, map[int]float64{} // of what was written of a branch
	for i := len(l.order) - 1; i > 0; i-- {
		b := l.order[i]
		half := g.Boxes[b].W / 2
		if _, met := right[b]; !met {
			right[b] = g.Was[b].X + half
		}
		right[b] = max(right[b], g.Was[b].X+half)
		left[b] = g.Was[b].X - half - l.phrase(b).W - 2*l.space.Line
		if up := l.up[b]; right[b] > right[up] || right[up] == 0 {
			right[up] = right[b]
		}
	}
	columns := map[int]float64{} // by heads: how many stand before
	for _, kids := range l.kids {
		kids = slices.DeleteFunc(slices.Clone(kids), func(c int) bool { return !g.old(c) })
		slices.SortStableFunc(kids, func(x, y int) int { return cmp.Compare(left[x], left[y]) })
		column, edge := 0.0, math.Inf(1)
		for _, c := range kids {
			if left[c] > edge {
				column++
			}
			if left[c] > edge || math.IsInf(edge, 1) {
				edge = right[c]
			}
			edge = max(edge, right[c])
			columns[c] = column
		}
	}
	const far = 1e7
	return func(b, up int) float64 {
		if up == l.root && l.read != nil {
			return l.read(b)
		}
		y := g.Was[b].Y
		if l.upside != nil && l.upside(b) {
			y = -y
		}
		return far*columns[b] + y
	}
}

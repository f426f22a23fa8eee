package route

import (
	"cmp"
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/work"
)

// Apart moves boxes as little as it can so that none overlap and at least gap
// lies between any two of them, sideways or in height. Weight says how much a
// box resists; one of weight Fixed stays. It solves one direction after the
// other as separation constraints under least squares, after Dwyer, Marriott
// and Stuckey, Fast node overlap removal, Graph Drawing 2005.
func Apart(stop *work.Limit, at []Point, size []Size, weight []float64, gap float64) []Point {
	next := slices.Clone(at)
	boxes := func() []Rect {
		all := make([]Rect, len(next))
		for i, p := range next {
			all[i] = geometry.At(p, size[i]).Grown(gap / 2)
		}
		return all
	}
	put := func(along func(*Point) *float64, extent func(Size) float64, pairs [][2]int) {
		vs := make([]*variable, len(next))
		for i := range next {
			w := 1.0
			if weight != nil {
				w = weight[i]
			}
			vs[i] = &variable{wish: *along(&next[i]), weight: w}
		}
		cs := make([]*constraint, len(pairs))
		for i, p := range pairs {
			cs[i] = &constraint{left: vs[p[0]], right: vs[p[1]], gap: (extent(size[p[0]])+extent(size[p[1]]))/2 + gap + 1e-6}
		}
		separate(stop, vs, cs)
		for i, v := range vs {
			if v.weight < Fixed {
				*along(&next[i]) = v.found
			}
		}
	}
	x, y := func(p *Point) *float64 { return &p.X }, func(p *Point) *float64 { return &p.Y }
	w, h := func(s Size) float64 { return s.W }, func(s Size) float64 { return s.H }
	put(x, w, neighbours(boxes(), true))
	put(y, h, turnedNeighbours(boxes()))
	wedged(stop, next, size, weight, gap)
	return next
}

// wedged moves boxes that found no room between two that stay: each to the
// nearest free place.
func wedged(stop *work.Limit, at []Point, size []Size, weight []float64, gap float64) {
	if weight == nil || !slices.ContainsFunc(weight, func(w float64) bool { return w >= Fixed }) {
		return
	}
	meets := func(i int, p Point) bool {
		stop.TickBy(1 + len(at)/16)
		own := geometry.At(p, size[i]).Grown(gap - 0.01)
		for j, q := range at {
			if j != i && own.Meets(geometry.At(q, size[j])) {
				return true
			}
		}
		return false
	}
	for i := range at {
		if weight[i] >= Fixed || !meets(i, at[i]) {
			continue
		}
		from := at[i]
		for r := gap; r < 20_000; r += gap {
			n := int(r/gap) * 8
			k := 0
			for ; k < n; k++ {
				sin, cos := math.Sincos(2 * math.Pi * float64(k) / float64(n))
				if p := (Point{X: from.X + r*cos, Y: from.Y + r*sin}); !meets(i, p) {
					at[i] = p
					break
				}
			}
			if k < n {
				break
			}
		}
	}
}

// Fixed is the weight of a box that stays where it is.
const Fixed = 1e9

// turnedNeighbours gives the pairs that must be kept apart in height.
func turnedNeighbours(boxes []Rect) [][2]int {
	turned := make([]Rect, len(boxes))
	for i, r := range boxes {
		turned[i] = Rect{X0: r.Y0, Y0: r.X0, X1: r.Y1, Y1: r.X1}
	}
	return neighbours(turned, false)
}

// neighbours gives the pairs of boxes to be kept apart sideways, the left one
// first, by a line swept downwards. With leave, a pair that is parted more
// easily in height is left for that.
func neighbours(boxes []Rect, leave bool) [][2]int {
	type event struct {
		at   float64
		box  int
		open bool
	}
	var events []event
	for i, r := range boxes {
		events = append(events, event{r.Y0, i, true}, event{r.Y1, i, false})
	}
	slices.SortFunc(events, func(a, b event) int {
		if c := cmp.Compare(a.at, b.at); c != 0 {
			return c
		}
		if a.open != b.open { // what ends here does not meet what begins here
			if b.open {
				return -1
			}
			return 1
		}
		return a.box - b.box
	})
	middle := func(i int) float64 { return (boxes[i].X0 + boxes[i].X1) / 2 }
	before := func(a, b int) int { return cmp.Or(cmp.Compare(middle(a), middle(b)), a-b) }
	var open []int
	var pairs [][2]int
	aside := func(a, b int) float64 { return min(boxes[a].X1, boxes[b].X1) - max(boxes[a].X0, boxes[b].X0) }
	below := func(a, b int) float64 { return min(boxes[a].Y1, boxes[b].Y1) - max(boxes[a].Y0, boxes[b].Y0) }
	for _, e := range events {
		i, found := slices.BinarySearchFunc(open, e.box, before)
		if !e.open {
			if found {
				open = slices.Delete(open, i, i+1)
			}
			// Those that it stood between may now meet.
			if !leave && i > 0 && i < len(open) {
				pairs = append(pairs, [2]int{open[i-1], open[i]})
			}
			continue
		}
		if !leave {
			if i > 0 {
				pairs = append(pairs, [2]int{open[i-1], e.box})
			}
			if i < len(open) {
				pairs = append(pairs, [2]int{e.box, open[i]})
			}
		} else {
			for j := i - 1; j >= 0; j-- {
				over := aside(open[j], e.box)
				if over <= 0 || over <= below(open[j], e.box) {
					pairs = append(pairs, [2]int{open[j], e.box})
				}
				if over <= 0 {
					break
				}
			}
			for j := i; j < len(open); j++ {
				over := aside(open[j], e.box)
				if over <= 0 || over <= below(open[j], e.box) {
					pairs = append(pairs, [2]int{e.box, open[j]})
				}
				if over <= 0 {
					break
				}
			}
		}
		open = slices.Insert(open, i, e.box)
	}
	return pairs
}

// variable is a coordinate to be found.
type variable struct {
	wish, weight float64
	found        float64
	offset       float64 // from the place of its block
	block        *block
	out, in      []*constraint
}

func (v *variable) at() float64 { return v.block.place + v.offset }

// constraint says that right lies at least gap after left.
type constraint struct {
	left, right *variable
	gap         float64
	active      bool // it holds its two variables in one block
	pull        float64
}

func (c *constraint) slack() float64 { return c.right.at() - c.gap - c.left.at() }

// block is variables that constraints hold at fixed distances.
type block struct {
	vars          []*variable
	place, weight float64
}

func (b *block) settle() {
	sum := 0.0
	b.weight = 0
	for _, v := range b.vars {
		sum += v.weight * (v.wish - v.offset)
		b.weight += v.weight
	}
	b.place = sum / b.weight
}

// separate finds the places nearest to those wished that keep all constraints.
func separate(stop *work.Limit, vs []*variable, cs []*constraint) {
	for _, v := range vs {
		v.block = &block{vars: []*variable{v}, place: v.wish, weight: v.weight}
	}
	for _, c := range cs {
		c.left.out, c.right.in = append(c.left.out, c), append(c.right.in, c)
	}
	// Blocks are merged over the constraint that is broken most, then those that
	// hold what would rather part are split, a few times.
	order := topological(vs)
	for _, v := range order {
		satisfy(stop, v)
	}
	for range 24 {
		stop.TickBy(len(vs))
		split := false
		for _, c := range cs {
			if c.active {
				c.pull = 0
			}
		}
		done := map[*block]bool{}
		for _, v := range vs {
			if b := v.block; !done[b] && len(b.vars) > 1 {
				done[b] = true
				pulls(b)
			}
		}
		for _, c := range cs {
			if c.active && c.pull < -1e-6 {
				c.part()
				split = true
			}
		}
		for range 60 {
			stop.TickBy(len(cs) / 4)
			worst := -1e-7
			var broken []*constraint
			for _, c := range cs {
				if s := c.slack(); !c.active && s < worst {
					broken = append(broken, c)
				}
			}
			if len(broken) == 0 {
				break
			}
			for _, c := range broken {
				if c.slack() < worst && c.left.block != c.right.block {
					c.merge()
				}
			}
		}
		if !split {
			break
		}
	}
	// What haste left broken is put right from left to right.
	for _, v := range order {
		v.found = v.at()
		for _, c := range v.in {
			if v.weight < Fixed {
				v.found = max(v.found, c.left.found+c.gap)
			}
		}
	}
	for _, v := range slices.Backward(order) { // from what stays, to the left
		for _, c := range v.out {
			if v.weight < Fixed {
				v.found = min(v.found, c.right.found-c.gap)
			}
		}
	}
}

// topological orders variables so that each comes after those to its left.
func topological(vs []*variable) []*variable {
	wait := make(map[*variable]int, len(vs))
	var order, open []*variable
	for _, v := range vs {
		wait[v] = len(v.in)
		if len(v.in) == 0 {
			open = append(open, v)
		}
	}
	for len(open) > 0 {
		v := open[len(open)-1]
		open = open[:len(open)-1]
		order = append(order, v)
		for _, c := range v.out {
			if wait[c.right]--; wait[c.right] == 0 {
				open = append(open, c.right)
			}
		}
	}
	return order
}

// satisfy merges the block of a variable with those to its left until nothing
// there is broken.
func satisfy(stop *work.Limit, v *variable) {
	for {
		stop.TickBy(1 + len(v.block.vars)/8)
		var worst *constraint
		least := -1e-9
		for _, u := range v.block.vars {
			for _, c := range u.in {
				if c.left.block != v.block {
					if s := c.slack(); s < least {
						worst, least = c, s
					}
				}
			}
		}
		if worst == nil {
			return
		}
		worst.merge()
	}
}

// merge puts both sides into one block.
func (c *constraint) merge() {
	a, b := c.left.block, c.right.block
	by := c.left.offset + c.gap - c.right.offset
	if len(a.vars) < len(b.vars) {
		a, b, by = b, a, -by
	}
	for _, v := range b.vars {
		v.offset += by
		v.block = a
	}
	a.vars = append(a.vars, b.vars...)
	c.active = true
	a.settle()
}

// part splits a block at a constraint.
func (c *constraint) part() {
	c.active = false
	for _, side := range [2]*variable{c.left, c.right} {
		b := &block{}
		open := []*variable{side}
		side.block = b
		for len(open) > 0 {
			v := open[len(open)-1]
			open = open[:len(open)-1]
			b.vars = append(b.vars, v)
			for _, o := range v.out {
				if o.active && o.right.block != b {
					o.right.block = b
					open = append(open, o.right)
				}
			}
			for _, o := range v.in {
				if o.active && o.left.block != b {
					o.left.block = b
					open = append(open, o.left)
				}
			}
		}
		b.settle()
	}
}

// pulls finds with what force each active constraint of a block is held: the
// Lagrange multipliers, by walking its tree with a stack.
func pulls(b *block) {
	type step struct {
		v   *variable
		via *constraint
	}
	order := []step{{b.vars[0], nil}}
	for i := 0; i < len(order); i++ {
		v, via := order[i].v, order[i].via
		for _, c := range v.out {
			if c.active && c != via {
				order = append(order, step{c.right, c})
			}
		}
		for _, c := range v.in {
			if c.active && c != via {
				order = append(order, step{c.left, c})
			}
		}
	}
	force := map[*variable]float64{}
	parent := map[*constraint]*variable{}
	for _, s := range order {
		force[s.v] = s.v.weight * (s.v.at() - s.v.wish)
		if s.via != nil {
			if s.via.left == s.v {
				parent[s.via] = s.via.right
			} else {
				parent[s.via] = s.via.left
			}
		}
	}
	for _, s := range slices.Backward(order) {
		if s.via == nil {
			continue
		}
		f := force[s.v]
		force[parent[s.via]] += f
		if s.via.right == s.v {
			s.via.pull = f
		} else {
			s.via.pull = -f
		}
		if math.IsNaN(s.via.pull) {
			s.via.pull = 0
		}
	}
}

package tidy

import "math"

// spring is a graph whose vertices push each other off while its edges draw them together:
// drawn from a coarse picture of itself to the finest (Walshaw, A multilevel algorithm for
// force-directed graph drawing, JGAA 7(3), 2003; Hu, Efficient, high-quality force-directed
// graph drawing, 2005).
type spring struct {
	near   [][]tie
	weight []float64 // how many vertices of the finest graph each stands for
	at     []Point
	tick   func(work int)
}

// tie is an edge seen from one end: to which vertex, and how strongly it draws.
type tie struct {
	to     int32
	strong float64
}

// How forces are set against each other (Hu, 2005, section 3). The push falls with the square
// of the distance, so that what is far apart is not driven to the rim.
const (
	springLength = 80.0
	pushing      = 0.2 // of the push, against the pull
	openness     = 1.1 // how large a square may be, for its distance, to be seen as one
	coarsest     = 24  // vertices
)

// force places the vertices by forces, from a beginning of its own for each mix.
func (w *woven) force(mix shuffle) {
	s := &spring{near: make([][]tie, len(w.names)), weight: make([]float64, len(w.names)), at: make([]Point, len(w.names)), tick: w.g.Stop.TickBy}
	for v, near := range w.near {
		s.weight[v] = 1
		for _, r := range near {
			s.near[v] = append(s.near[v], tie{int32(r.to), 1})
		}
	}
	s.draw(&mix)
	copy(w.at, s.at)
}

// draw draws a coarser graph first, and from that this one.
func (s *spring) draw(mix *shuffle) {
	n := len(s.near)
	into, count := s.matched()
	if n <= coarsest || count > n*9/10 {
		order := make([]int, n)
		for v := range order {
			order[v] = v
		}
		mix.row(order)
		for i, v := range order {
			sin, cos := math.Sincos(float64(i) * math.Pi * (3 - math.Sqrt(5)))
			r := springLength * math.Sqrt(float64(i)+0.5)
			s.at[v] = Point{X: r * cos, Y: r * sin}
		}
		s.settle(300, springLength)
		return
	}
	coarse := s.coarsened(into, count)
	coarse.draw(mix)
	grow := math.Sqrt(float64(n) / float64(count))
	for v, c := range into {
		// Those that were one begin beside each other, each to its own side.
		sin, cos := math.Sincos(float64(v) * math.Pi * (3 - math.Sqrt(5)))
		p := coarse.at[c]
		s.at[v] = Point{X: grow*p.X + 0.2*springLength*cos, Y: grow*p.Y + 0.2*springLength*sin}
	}
	s.settle(60, springLength/3)
}

// matched finds vertices to be drawn as one: each with the neighbour that it shares with the
// fewest, and those that hang from one vertex alone with each other.
func (s *spring) matched() (into []int, count int) {
	n := len(s.near)
	into = make([]int, n)
	for v := range into {
		into[v] = -1
	}
	for v := range n { // leaves of one vertex, in twos
		waiting := -1
		for _, p := range s.near[v] {
			u := int(p.to)
			if len(s.near[u]) != 1 || into[u] >= 0 {
				continue
			}
			if waiting < 0 {
				waiting = u
				continue
			}
			into[waiting], into[u] = count, count
			count, waiting = count+1, -1
		}
	}
	for v := range n {
		if into[v] >= 0 {
			continue
		}
		best, most := -1, 0.0
		for _, p := range s.near[v] {
			if into[p.to] >= 0 || int(p.to) == v {
				continue
			}
			if good := p.strong / (s.weight[p.to] * s.weight[v]); good > most {
				best, most = int(p.to), good
			}
		}
		into[v] = count
		if best >= 0 {
			into[best] = count
		}
		count++
	}
	return into, count
}

// coarsened gives the graph of what was matched.
func (s *spring) coarsened(into []int, count int) *spring {
	c := &spring{near: make([][]tie, count), weight: make([]float64, count), at: make([]Point, count), tick: s.tick}
	at := make([]map[int]int, count)
	for v, i := range into {
		c.weight[i] += s.weight[v]
		if at[i] == nil {
			at[i] = map[int]int{}
		}
		for _, p := range s.near[v] {
			to := into[p.to]
			if to == i {
				continue
			}
			k, met := at[i][to]
			if !met {
				k = len(c.near[i])
				at[i][to] = k
				c.near[i] = append(c.near[i], tie{int32(to), 0})
			}
			c.near[i][k].strong += p.strong
		}
	}
	return c
}

// settle moves the vertices, each along the force on it, in steps that grow while that helps
// and else become smaller, until they move no more.
func (s *spring) settle(rounds int, step float64) {
	energy, won := math.Inf(1), 0
	for range rounds {
		tree := newQuad(s.at, s.weight)
		s.tick(len(s.at) * 8)
		sum, moved := 0.0, 0.0
		for v := range s.at {
			f := tree.push(s.at[v])
			for _, p := range s.near[v] {
				dx, dy := s.at[p.to].X-s.at[v].X, s.at[p.to].Y-s.at[v].Y
				d := math.Hypot(dx, dy)
				by := p.strong * d / springLength / s.weight[v]
				f.X, f.Y = f.X+dx*by, f.Y+dy*by
			}
			long := math.Hypot(f.X, f.Y)
			if long < 1e-9 {
				continue
			}
			sum += long * long
			far := min(step, long)
			s.at[v] = Point{X: s.at[v].X + f.X/long*far, Y: s.at[v].Y + f.Y/long*far}
			moved = max(moved, far)
		}
		if sum < energy {
			if won++; won >= 5 {
				won, step = 0, step/0.9
			}
		} else {
			won, step = 0, step*0.9
		}
		energy = sum
		if moved < 0.01*springLength {
			break
		}
	}
}

// quad is a square of the plane with what stands in it, seen from afar as one (Barnes and
// Hut, A hierarchical O(N log N) force-calculation algorithm, Nature 324, 1986).
type quad struct {
	nodes []quadNode
}

type quadNode struct {
	middle Point // of the square
	half   float64
	mass   float64
	centre Point // of mass
	kids   int32 // the first of four; 0 for none
	full   bool
}

// finest bounds how often squares are divided where vertices coincide.
const finest = 24

func newQuad(at []Point, weight []float64) *quad {
	low, high := at[0], at[0]
	for _, p := range at {
		low, high = Point{X: min(low.X, p.X), Y: min(low.Y, p.Y)}, Point{X: max(high.X, p.X), Y: max(high.Y, p.Y)}
	}
	q := &quad{nodes: make([]quadNode, 0, 3*len(at))}
	q.nodes = append(q.nodes, quadNode{middle: Point{X: (low.X + high.X) / 2, Y: (low.Y + high.Y) / 2}, half: max(high.X-low.X, high.Y-low.Y)/2 + 1})
	for v, p := range at {
		q.add(0, p, weight[v], 0)
	}
	return q
}

func (q *quad) add(i int, p Point, mass float64, deep int) {
	for {
		n := &q.nodes[i]
		if !n.full {
			n.full, n.mass, n.centre = true, mass, p
			return
		}
		was, wasMass := n.centre, n.mass
		n.mass += mass
		n.centre = Point{X: (was.X*wasMass + p.X*mass) / n.mass, Y: (was.Y*wasMass + p.Y*mass) / n.mass}
		if deep >= finest {
			return
		}
		if n.kids == 0 {
			kids := len(q.nodes)
			n.kids = int32(kids)
			middle, half := n.middle, n.half/2
			for k := range 4 {
				m := Point{X: middle.X - half, Y: middle.Y - half}
				if k&1 != 0 {
					m.X = middle.X + half
				}
				if k&2 != 0 {
					m.Y = middle.Y + half
				}
				q.nodes = append(q.nodes, quadNode{middle: m, half: half})
			}
			n = &q.nodes[i]
			q.add(n.side(was), was, wasMass, deep+1)
			n = &q.nodes[i]
		}
		i, deep = n.side(p), deep+1
	}
}

// side gives the quarter in which a place lies.
func (n *quadNode) side(p Point) int {
	i := int(n.kids)
	if p.X > n.middle.X {
		i++
	}
	if p.Y > n.middle.Y {
		i += 2
	}
	return i
}

// push gives the force on a place by all others.
func (q *quad) push(p Point) Point {
	var f Point
	stack := [4 * finest]int32{}
	top := 1
	for top > 0 {
		top--
		n := &q.nodes[stack[top]]
		if !n.full {
			continue
		}
		dx, dy := p.X-n.centre.X, p.Y-n.centre.Y
		d2 := dx*dx + dy*dy
		if n.kids == 0 || 4*n.half*n.half < openness*openness*d2 {
			if d2 < 1e-6 {
				continue // itself
			}
			by := pushing * springLength * springLength * springLength * n.mass / (d2 * math.Sqrt(d2))
			f.X, f.Y = f.X+dx*by, f.Y+dy*by
			continue
		}
		for k := range int32(4) {
			stack[top] = n.kids + k
			top++
		}
	}
	return f
}

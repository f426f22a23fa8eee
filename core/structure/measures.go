package structure

import (
	"cmp"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/work"
)

// Measure is a figure about a map, with what it means and where it comes from.
type Measure struct {
	ID, Title string
	Means     string // its definition, in plain words
	Source    string // the literature, where it is not of our own making
}

// Measures lists the figures that Mevrin works out. docs/figures.md explains them.
var Measures = []Measure{
	{"concepts", "Concepts", "How many concepts stand on the map, loose ideas among them.", ""},
	{"links", "Links", "How many linking phrases stand on the map, those without words among them. A phrase with several ends counts once.", ""},
	{"propositions", "Propositions", "How many sentences the map says: each way through a link from a concept to a concept, and two where arrows point both ways.", "Novak and Gowin, Learning How to Learn, 1984"},
	{"cross", "Cross-links", "Links that join concepts of different branches and put neither under the other.", "Novak and Gowin, Learning How to Learn, 1984"},
	{"levels", "Levels", "How many levels stand below each other: the focus concept is on level 1, what hangs from it on level 2, and so on.", "Novak and Gowin, Learning How to Learn, 1984"},
	{"widest", "Widest branch", "The branch with the most concepts. A branch is a concept on level 2 with all below it.", ""},
	{"deepest", "Deepest branch", "The branch that reaches down to the lowest level; of several, the first in reading order.", ""},
	{"meet", "Links that meet", "How many different concepts a concept is joined to (its degree).", "Freeman, Centrality in social networks: conceptual clarification, Social Networks 1, 1979"},
	{"holding", "Holding the map together", "On how many of the shortest ways between two other concepts a concept lies, as a part of all such pairs, from 0 to 1 (betweenness; arrows are not minded; where several ways are equally short each counts its share).", "Freeman, A set of measures of centrality based on betweenness, Sociometry 40, 1977; worked out after Brandes, A faster algorithm for betweenness centrality, 2001"},
	{"groups", "Groups", "Concepts that are joined more among each other than to the rest: the division found by joining, again and again, the two groups that raise modularity most, as long as any do.", "Clauset, Newman and Moore, Finding community structure in very large networks, Physical Review E 70, 2004"},
}

// MaxMeasured bounds the concepts of a map that all figures are worked out for.
const MaxMeasured = 4000

// net is the map as concepts and which of them are joined, whichever way.
type net struct {
	ids  []cm.ID
	near [][]int // sorted, each neighbour once
}

func (s *Structure) net() net {
	n := net{ids: s.Order, near: make([][]int, len(s.Order))}
	for _, p := range s.Propositions() {
		if a, b := p.from, p.to; a != b {
			n.near[a], n.near[b] = append(n.near[a], b), append(n.near[b], a)
		}
	}
	for i, near := range n.near {
		slices.Sort(near)
		n.near[i] = slices.Compact(near)
	}
	return n
}

// crosses tells whether a strand of a link joins different branches.
func (s *Structure) crosses(l *cm.Link) bool { return slices.ContainsFunc(l.Strands(), s.Cross) }

// CrossLinks gives the links of which a strand joins different branches, sorted by
// their ids.
func (s *Structure) CrossLinks() []cm.ID {
	var ids []cm.ID
	for _, id := range cm.SortedIDs(s.m.Links) {
		if s.crosses(s.m.Links[id]) {
			ids = append(ids, id)
		}
	}
	return ids
}

// Degrees gives for each concept how many others it is joined to.
func (s *Structure) Degrees() map[cm.ID]int {
	n := s.net()
	degrees := make(map[cm.ID]int, len(n.ids))
	for i, id := range n.ids {
		degrees[id] = len(n.near[i])
	}
	return degrees
}

// Betweenness gives for each concept the share of pairs of others whose shortest
// ways lead over it, from 0 to 1 (Freeman, 1977, divided by the number of pairs;
// computed as in Brandes, 2001, in time proportional to concepts times links).
func (s *Structure) Betweenness(limit *work.Limit) map[cm.ID]float64 {
	n := s.net()
	count := len(n.ids)
	sum := make([]float64, count)
	ways, part := make([]float64, count), make([]float64, count)
	far := make([]int, count)
	order := make([]int, 0, count)
	for from := range count {
		limit.TickBy(count)
		order = append(order[:0], from)
		for i := range far {
			far[i], ways[i], part[i] = -1, 0, 0
		}
		far[from], ways[from] = 0, 1
		for i := 0; i < len(order); i++ {
			u := order[i]
			for _, v := range n.near[u] {
				if far[v] < 0 {
					far[v] = far[u] + 1
					order = append(order, v)
				}
				if far[v] == far[u]+1 {
					ways[v] += ways[u]
				}
			}
		}
		for _, v := range slices.Backward(order) {
			for _, u := range n.near[v] {
				if far[u] == far[v]-1 {
					part[u] += ways[u] / ways[v] * (1 + part[v])
				}
			}
			if v != from {
				sum[v] += part[v]
			}
		}
	}
	all := make(map[cm.ID]float64, count)
	for i, id := range n.ids {
		all[id] = 0
		if count > 2 { // each pair was met from both sides
			all[id] = sum[i] / float64((count-1)*(count-2))
		}
	}
	return all
}

// Groups divides the concepts at which links end into groups that belong together
// by their links, the largest first, by greedy modularity (Clauset, Newman and
// Moore, 2004). Modularity says how good the division is, from 0 to 1: the share
// of joins inside groups, less what chance would give.
func (s *Structure) Groups(limit *work.Limit) (groups [][]cm.ID, modularity float64) {
	n := s.net()
	twice := 0.0
	for _, near := range n.near {
		twice += float64(len(near))
	}
	if twice == 0 {
		return nil, 0
	}
	g := merging{of: make([]int, len(n.ids)), joins: make([]map[int]float64, len(n.ids)), weight: make([]float64, len(n.ids))}
	for i, near := range n.near {
		g.of[i], g.weight[i], g.joins[i] = i, float64(len(near))/twice, map[int]float64{}
		for _, j := range near {
			g.joins[i][j] = 1 / twice
		}
		modularity -= g.weight[i] * g.weight[i]
	}
	for {
		limit.TickBy(len(g.of) / 4)
		a, b, gain := g.best()
		if gain <= 1e-12 {
			break
		}
		g.merge(a, b)
		modularity += gain
	}
	index := map[int]int{}
	for i, id := range n.ids {
		if len(n.near[i]) == 0 {
			continue
		}
		at, known := index[g.of[i]]
		if !known {
			at = len(groups)
			index[g.of[i]] = at
			groups = append(groups, nil)
		}
		groups[at] = append(groups[at], id)
	}
	slices.SortStableFunc(groups, func(a, b []cm.ID) int { return cmp.Compare(len(b), len(a)) })
	return groups, modularity
}

// merging is groups on the way to becoming fewer: the share of joins between
// each two, and of all ends in each.
type merging struct {
	of     []int
	joins  []map[int]float64
	weight []float64
}

// best gives the two groups whose union raises modularity most; of several, the
// first.
func (g *merging) best() (a, b int, gain float64) {
	for i, joins := range g.joins {
		for j, e := range joins {
			if j <= i {
				continue
			}
			more := 2 * (e - g.weight[i]*g.weight[j])
			if more > gain+1e-12 || more > gain-1e-12 && gain > 0 && (i < a || i == a && j < b) {
				a, b, gain = i, j, more
			}
		}
	}
	return a, b, gain
}

func (g *merging) merge(a, b int) {
	for j, e := range g.joins[b] {
		delete(g.joins[j], b)
		if j != a {
			g.joins[a][j] += e
			g.joins[j][a] += e
		}
	}
	g.joins[b] = nil
	g.weight[a] += g.weight[b]
	for i, of := range g.of {
		if of == b {
			g.of[i] = a
		}
	}
}

// Way gives the propositions that lead from a concept to another over the fewest
// concepts: along their arrows, or also against them. It is nil where none do.
func (s *Structure) Way(from, to cm.ID, against bool) []Proposition {
	all := s.Propositions()
	out := map[cm.ID][]int{}
	for i, p := range all {
		out[p.Subject] = append(out[p.Subject], i)
		if against {
			out[p.Object] = append(out[p.Object], i)
		}
	}
	came := map[cm.ID]int{from: -1}
	open := []cm.ID{from}
	for i := 0; i < len(open) && open[i] != to; i++ {
		for _, n := range out[open[i]] {
			next := all[n].other(open[i])
			if _, seen := came[next]; !seen {
				came[next] = n
				open = append(open, next)
			}
		}
	}
	if _, reached := came[to]; !reached || from == to {
		return nil
	}
	var way []Proposition
	for at := to; at != from; at = all[came[at]].other(at) {
		way = append(way, all[came[at]])
	}
	slices.Reverse(way)
	return way
}

// other gives the concept at the other side of a proposition.
func (p Proposition) other(of cm.ID) cm.ID {
	if p.Subject == of {
		return p.Object
	}
	return p.Subject
}

// Near gives for each concept that can be reached within some steps, over links
// either way, how many it takes; the concept itself takes none.
func (s *Structure) Near(id cm.ID, steps int) map[cm.ID]int {
	n := s.net()
	at := slices.Index(n.ids, id)
	if at < 0 {
		return nil
	}
	far := map[int]int{at: 0}
	open := []int{at}
	for i := 0; i < len(open) && far[open[i]] < steps; i++ {
		for _, v := range n.near[open[i]] {
			if _, seen := far[v]; !seen {
				far[v] = far[open[i]] + 1
				open = append(open, v)
			}
		}
	}
	named := make(map[cm.ID]int, len(far))
	for i, d := range far {
		named[n.ids[i]] = d
	}
	return named
}

// Depth gives the number of levels of the focus concept's tree.
func (s *Structure) Depth() int {
	deepest := 0
	for _, p := range s.Places {
		deepest = max(deepest, p.Level)
	}
	return deepest
}

// Branches gives the branches of the focus concept's tree in sibling order, with
// how many concepts each holds and the lowest level that it reaches.
func (s *Structure) Branches() (tops []cm.ID, size, depth map[cm.ID]int) {
	size, depth = map[cm.ID]int{}, map[cm.ID]int{}
	for _, id := range s.Order {
		p := s.Places[id]
		if p.Level < 2 {
			continue
		}
		if p.Branch == id {
			tops = append(tops, id)
		}
		size[p.Branch]++
		depth[p.Branch] = max(depth[p.Branch], p.Level)
	}
	return tops, size, depth
}

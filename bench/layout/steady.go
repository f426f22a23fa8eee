package main

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/format/measured"
)

// leavesTried is how many leaves are added to each graph, each to a map without it.
const leavesTried = 4

// steady tells how far the others move when a leaf is added to a map that is kept in order:
// the median and the 90th percentile over all graphs of a class, in px, and how far they move
// when the map is put in order again as it is.
func steady(pattern string, graphs []*measured.File) (median50, median90, again float64, worst string) {
	var halves, nines, agains []float64
	most := -1.0
	for _, f := range graphs {
		whole := arranged(f, pattern, nil)
		twice := arranged(f, pattern, &whole)
		all := moves(whole, twice)
		agains = append(agains, at(all, 0.5))
		for _, leaf := range leaves(f) {
			part := without(f, leaf)
			before := arranged(part, pattern, nil)
			after := arranged(f, pattern, &before)
			all := moves(before, after)
			halves, nines = append(halves, at(all, 0.5)), append(nines, at(all, 0.9))
			if v := at(all, 0.9); v > most {
				most, worst = v, fmt.Sprint(f.Name, " ", leaf)
			}
		}
	}
	slices.Sort(halves)
	slices.Sort(nines)
	slices.Sort(agains)
	return at(halves, 0.5), at(nines, 0.5), at(agains, 0.5), worst
}

// arranged puts a graph in order, once or again.
func arranged(f *measured.File, pattern string, again *measured.Positions) measured.Positions {
	at, err := f.Arrange(measured.Order{Pattern: cm.Pattern(pattern), Freely: true, Again: again})
	if err != nil {
		panic(err)
	}
	return at
}

func at(sorted []float64, part float64) float64 {
	if len(sorted) == 0 {
		return 0
	}
	return sorted[min(len(sorted)-1, int(part*float64(len(sorted))))]
}

// moves gives how far the nodes of one drawing stand from where they stand in another.
func moves(before, after measured.Positions) []float64 {
	was := map[string]measured.Position{}
	for _, n := range before.Nodes {
		was[n.ID] = n
	}
	var all []float64
	for _, n := range after.Nodes {
		if p, there := was[n.ID]; there {
			all = append(all, math.Hypot(n.X-p.X, n.Y-p.Y))
		}
	}
	slices.Sort(all)
	return all
}

// leaves picks nodes that one edge leads to, spread over the graph.
func leaves(f *measured.File) []string {
	degree := map[string]int{}
	for _, e := range f.Edges {
		degree[e.From]++
		degree[e.To]++
	}
	var all []string
	for _, n := range f.Nodes {
		if degree[n.ID] == 1 && n.ID != f.Root {
			all = append(all, n.ID)
		}
	}
	slices.SortFunc(all, cmp.Compare)
	if len(all) <= leavesTried {
		return all
	}
	var picked []string
	for i := range leavesTried {
		picked = append(picked, all[(2*i+1)*len(all)/(2*leavesTried)])
	}
	return picked
}

// without gives a graph without one node.
func without(f *measured.File, id string) *measured.File {
	part := *f
	part.Nodes = slices.DeleteFunc(slices.Clone(f.Nodes), func(n measured.Node) bool { return n.ID == id })
	part.Edges = slices.DeleteFunc(slices.Clone(f.Edges), func(e measured.Edge) bool { return e.From == id || e.To == id })
	return &part
}

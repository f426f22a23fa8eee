package structure

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// Along says which links a chain follows.
type Along string

// What chains follow: main links, from the top down whichever way they read; or arrows.
const (
	AlongMain   Along = "main"
	AlongArrows Along = "arrows"
)

// Chain gives the propositions that one comes to from a concept within some steps, each once, depth
// first: what is said of a concept stands before what is said of those below it. Open ones are
// left out.
func (s *Structure) Chain(from cm.ID, steps int, along Along) []Proposition {
	leads := map[cm.ID][]Proposition{} // from each concept
	for _, p := range s.Propositions() {
		switch {
		case p.Open || p.Subject == p.Object:
		case along == AlongArrows:
			leads[p.Subject] = append(leads[p.Subject], p)
		case s.Places[p.Object].Parent == p.Subject && s.isMain(p.Strand, p.Subject, p.Object):
			leads[p.Subject] = append(leads[p.Subject], p)
		case s.Places[p.Subject].Parent == p.Object && s.isMain(p.Strand, p.Object, p.Subject):
			leads[p.Object] = append(leads[p.Object], p)
		}
	}
	// As many steps as it takes at least, so that a short way is not lost behind a long one.
	within := map[cm.ID]int{from: 0}
	for open := []cm.ID{from}; len(open) > 0; open = open[1:] {
		for _, p := range leads[open[0]] {
			if next := p.other(open[0]); within[open[0]] < steps {
				if _, seen := within[next]; !seen {
					within[next] = within[open[0]] + 1
					open = append(open, next)
				}
			}
		}
	}
	var all []Proposition
	told, said := map[cm.ID]bool{}, map[Proposition]bool{}
	var tell func(at cm.ID)
	tell = func(at cm.ID) {
		if told[at] || within[at] >= steps {
			return
		}
		told[at] = true
		here := slices.DeleteFunc(slices.Clone(leads[at]), func(p Proposition) bool { return said[p] })
		for _, p := range here {
			said[p] = true
			all = append(all, p)
		}
		for _, p := range here {
			if next := p.other(at); within[next] > within[at] {
				tell(next)
			}
		}
	}
	tell(from)
	return all
}

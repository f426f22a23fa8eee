package check

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// ends are the two concepts of a proposition, the smaller id first.
func (p told) ends() [2]cm.ID {
	if p.Subject > p.Object {
		return [2]cm.ID{p.Object, p.Subject}
	}
	return [2]cm.ID{p.Subject, p.Object}
}

// pairs calls do with each two propositions of different links between the same two concepts, in
// reading order.
func (l *look) pairs(do func(a, b told)) {
	by := map[[2]cm.ID][]told{}
	for _, p := range l.words() {
		if p.Subject == p.Object {
			continue
		}
		for _, o := range by[p.ends()] {
			if o.Strand.Link != p.Strand.Link {
				do(o, p)
			}
		}
		by[p.ends()] = append(by[p.ends()], p)
	}
}

func contraries(l *look) []Place {
	var places []Place
	l.pairs(func(a, b told) {
		if a.Subject == b.Subject && l.t.Contrary(a.phrase, b.phrase) {
			places = append(places, Place{[]cm.Key{link(a.Strand.Link), link(b.Strand.Link)}, []Remedy{{Title: "Reword one of them", Ask: AskWords}}})
		}
	})
	return places
}

// circles finds what is a kind, a part or the earlier of itself, over other concepts.
func circles(l *look) []Place {
	var places []Place
	for _, of := range []string{"kind", "part"} {
		next := map[cm.ID][]told{}
		var nodes []cm.ID
		for _, p := range l.words() {
			m := l.meaning(p.phrase)
			if m == nil || m.Of != of {
				continue
			}
			if m.Up {
				p.Subject, p.Object = p.Object, p.Subject
			}
			if next[p.Subject] == nil {
				nodes = append(nodes, p.Subject)
			}
			next[p.Subject] = append(next[p.Subject], p)
		}
		done := map[cm.ID]bool{}
		for _, start := range nodes {
			if way := around(start, next, done); way != nil {
				var keys []cm.Key
				for _, p := range way {
					done[p.Subject] = true
					if k := link(p.Strand.Link); !slices.Contains(keys, k) {
						keys = append(keys, k)
					}
				}
				places = append(places, Place{keys, []Remedy{{Title: "Reword the first", Ask: AskWords}}})
			}
		}
	}
	return places
}

// around gives the shortest way from a concept back to itself, by propositions; nil where there
// is none, or where it passes one that is done.
func around(start cm.ID, next map[cm.ID][]told, done map[cm.ID]bool) []told {
	if done[start] {
		return nil
	}
	by := map[cm.ID]told{}
	open := []cm.ID{start}
	for i := 0; i < len(open); i++ {
		for _, p := range next[open[i]] {
			if p.Object == start {
				way := []told{p}
				for at := p.Subject; at != start; at = by[at].Subject {
					way = append(way, by[at])
				}
				slices.Reverse(way)
				return way
			}
			if _, met := by[p.Object]; !met && !done[p.Object] {
				by[p.Object] = p
				open = append(open, p.Object)
			}
		}
	}
	return nil
}

package check

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
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

// relation is what a proposition says in terms that can be compared: by which verb or of which
// meaning, and from which concept to which it leads when read the plain way.
type relation struct {
	of       string
	from, to cm.ID
	turned   bool // its phrase is passive, or the opposite of a plain one
}

func (l *look) relations(p told) (all []relation) {
	add := func(of string, turned bool) {
		r := relation{of, p.Subject, p.Object, turned}
		if turned {
			r.from, r.to = r.to, r.from
		}
		all = append(all, r)
	}
	if m := l.meaning(p.phrase); m != nil {
		add("meaning "+m.Of, m.Up)
	}
	if verb, passive := l.t.Verb(p.phrase); verb != "" {
		add(verb, passive)
	}
	return all
}

func backwards(l *look) []Place {
	var places []Place
	seen := map[cm.ID]bool{}
	l.pairs(func(a, b told) {
		for _, x := range l.relations(a) {
			for _, y := range l.relations(b) {
				if x.of != y.of || x.turned == y.turned {
					continue
				}
				odd, other := a, b
				if y.turned {
					odd, other = b, a
				}
				if seen[odd.Strand.Link] {
					continue
				}
				seen[odd.Strand.Link] = true
				place := Place{Keys: []cm.Key{link(odd.Strand.Link), link(other.Strand.Link)}}
				if x.from != y.from { // they say the contrary: one is turned round
					place.Remedies = []Remedy{{Title: "Reverse it", Operations: []edit.Operation{&edit.ReverseLink{Link: odd.Strand.Link}}}}
				} else if one := l.m.Links[odd.Strand.Link]; len(one.From) == 1 && len(one.To) == 1 && one.Heads != cm.HeadsBoth {
					place.Remedies = []Remedy{{Title: "Keep the other", Operations: []edit.Operation{&edit.Remove{Links: []cm.ID{one.ID}}}}}
				}
				places = append(places, place)
			}
		}
	})
	return places
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

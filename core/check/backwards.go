package check

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

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

// backwards finds phrases that read against their arrow: against another link of the same two
// concepts, against the kind of their own link, or against what the rest of the map says.
func backwards(l *look) []Place {
	seen := map[cm.ID]bool{}
	places := l.turnedAgainstEachOther(seen)
	for _, find := range []func() []against{l.againstTheirKind, l.againstAWay, l.againstOthersOfTheirKinds, l.againstLevels} {
		for _, a := range find() {
			odd := a.odd.Strand.Link
			if seen[odd] {
				continue
			}
			seen[odd] = true
			place := Place{Keys: append([]cm.Key{link(odd)}, a.others...)}
			place.Remedies = []Remedy{{Title: "Reverse it", Operations: []edit.Operation{&edit.ReverseLink{Link: odd}}}, {Title: "Reword it", Ask: AskWords}}
			places = append(places, place)
		}
	}
	return places
}

// against is a proposition that reads the other way round than others do.
type against struct {
	odd    told
	others []cm.Key // some of them
}

func (l *look) turnedAgainstEachOther(seen map[cm.ID]bool) []Place {
	var places []Place
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

// againstTheirKind finds phrases that read from the effect to its cause, or from the later to the
// earlier, on links of a kind that leads the other way.
func (l *look) againstTheirKind() (all []against) {
	leads := map[cm.Role]string{"science.cause": "cause", "process.then": "time", "history.led": "cause", "process.needs": "need"}
	for _, p := range l.words() {
		k := l.m.KindOfLink(l.m.Links[p.Strand.Link])
		if k == nil || p.Against {
			continue
		}
		if m := l.meaning(p.phrase); m != nil && m.Up && m.Of == leads[k.Role] {
			all = append(all, against{odd: p})
		}
	}
	return all
}

// farthest is how many links a way has at most that tells against a phrase.
const farthest = 4

// againstAWay finds passive phrases of cause, need and time where plain ones lead over other
// concepts from their subject to their object: “c is caused by a” says what a way “c causes b, b
// causes a” denies. Of kinds and parts the circle is a finding of its own.
func (l *look) againstAWay() (all []against) {
	for _, of := range []string{"cause", "need", "time"} {
		next := map[cm.ID][]told{}
		var turned []told
		for _, p := range l.words() {
			switch m := l.meaning(p.phrase); {
			case m == nil || m.Of != of || p.Subject == p.Object:
			case m.Up:
				turned = append(turned, p)
			default:
				next[p.Subject] = append(next[p.Subject], p)
			}
		}
		for _, p := range turned {
			if way := wayOver(p.Subject, p.Object, next); len(way) > 1 {
				a := against{odd: p}
				for _, w := range way {
					a.others = append(a.others, link(w.Strand.Link))
				}
				all = append(all, a)
			}
		}
	}
	return all
}

// wayOver gives the shortest way from one concept to another by at most farthest propositions.
func wayOver(from, to cm.ID, next map[cm.ID][]told) []told {
	by := map[cm.ID]told{}
	open := []cm.ID{from}
	for range farthest {
		var then []cm.ID
		for _, at := range open {
			for _, p := range next[at] {
				if _, met := by[p.Object]; met || p.Object == from {
					continue
				}
				by[p.Object] = p
				then = append(then, p.Object)
			}
		}
		if _, there := by[to]; there {
			way := []told{by[to]}
			for at := by[to].Subject; at != from; at = by[at].Subject {
				way = append(way, by[at])
			}
			slices.Reverse(way)
			return way
		}
		open = then
	}
	return nil
}

// custom is from how many other propositions on, all the same way, one that reads the other way
// is noticed.
const custom = 3

// againstOthersOfTheirKinds finds relations that lead from one kind of concept to another wherever
// they are said but once.
func (l *look) againstOthersOfTheirKinds() []against {
	type way struct {
		of       string
		from, to cm.ID // kinds
	}
	said := map[way][]told{}
	var order []way
	for _, p := range l.words() {
		a, b := l.m.KindOf(l.m.Concepts[p.Subject]), l.m.KindOf(l.m.Concepts[p.Object])
		if a == nil || b == nil || a == b || l.m.Links[p.Strand.Link].Heads == cm.HeadsBoth {
			continue
		}
		for _, r := range l.relations(p) {
			w := way{r.of, a.ID, b.ID}
			if r.turned {
				w.from, w.to = w.to, w.from
			}
			if said[w] == nil {
				order = append(order, w)
			}
			said[w] = append(said[w], p)
		}
	}
	var all []against
	for _, w := range order {
		others := said[way{w.of, w.to, w.from}]
		if len(said[w]) == 1 && len(others) >= custom {
			all = append(all, unlike(said[w][0], others))
		}
	}
	return all
}

// againstLevels finds sentences of kinds and parts on main links that put the special above the
// general where all others on the map put it below.
func (l *look) againstLevels() (all []against) {
	for _, of := range []string{"kind", "part"} {
		var down, up []told
		for _, p := range l.words() {
			m := l.meaning(p.phrase)
			if m == nil || m.Of != of {
				continue
			}
			general, special := p.Subject, p.Object
			if m.Up {
				general, special = special, general
			}
			switch {
			case l.s.Places[special].Parent == general:
				down = append(down, p)
			case l.s.Places[general].Parent == special:
				up = append(up, p)
			}
		}
		// What reads the plain way says what it says: only a turned phrase is doubtful.
		if len(up) == 1 && len(down) >= custom && l.meaning(up[0].phrase).Up {
			all = append(all, unlike(up[0], down))
		}
	}
	return all
}

func unlike(odd told, others []told) against {
	a := against{odd: odd}
	for _, o := range others[:custom] {
		a.others = append(a.others, link(o.Strand.Link))
	}
	return a
}

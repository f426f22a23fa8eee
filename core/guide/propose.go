package guide

import (
	"cmp"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/language"
	"mevrin/core/structure"
)

// Order is a way to go through a map: what it is called, and when one would take it.
type Order struct{ ID, Title, Why string }

// Orders are those that are proposed.
var Orders = []Order{
	{"broad", "Broad first", "The whole before its parts: level by level from the focus concept."},
	{"deep", "Deep first", "One branch to its end before the next: as the map is read."},
	{"first-look", "For a first look", "The focus concept and what hangs from it, and no more."},
	{"causes", "Causes before effects", "What makes something happen, and what something needs, stands before it."},
	{"argument", "As an argument", "Each claim with its reasons, their evidence, what is said against it, and the answers."},
	{"way", "The way between the two", "The shortest way by links from the first that is selected to the second."},
	{"branch", "This branch", "What hangs from the selected concept, as it is read."},
	{"around", "Around this concept", "The selected concept, and then all that is linked with it."},
	{"time", "As time goes", "What has a time, the earliest first."},
	{"time-of-kind", "All of one kind as time goes", "What has a time, the earliest first."},
	{"time-of-tag", "All with one tag as time goes", "What has a time, the earliest first."},
}

// Proposal is a route that a map suggests: its concepts in an order, and why.
type Proposal struct {
	Order
	// About is the concept, kind or tag that it is about; empty where it is about the whole map.
	About cm.Key
	Stops []cm.ID // concepts
	// Closes are the links that close a circle, against which the order goes.
	Closes []cm.ID
}

// MaxProposed bounds the stops of a proposed route.
const MaxProposed = 120

// fewest is how many stops make a route.
const fewest = 2

// Propose gives the routes that a map suggests; chosen are the concepts that are selected. What
// comes to fewer than two stops is left out.
func Propose(m *cm.Map, s *structure.Structure, chosen []cm.ID) []Proposal {
	p := proposing{m: m, s: s, at: map[cm.ID]int{}}
	for i, id := range s.Order {
		p.at[id] = i
	}
	p.add(Proposal{Order: Order{ID: "broad"}, Stops: p.broad(0)})
	p.add(Proposal{Order: Order{ID: "deep"}, Stops: p.deep("")})
	p.add(Proposal{Order: Order{ID: "first-look"}, Stops: p.broad(2)})
	order, closes := p.causes()
	p.add(Proposal{Order: Order{ID: "causes"}, Stops: order, Closes: closes})
	p.add(Proposal{Order: Order{ID: "argument"}, Stops: p.argument()})
	p.times()
	for i, id := range chosen {
		if m.Concepts[id] == nil {
			continue
		}
		about := cm.Key{Kind: cm.EntityConcept, ID: id}
		if i == 0 && len(chosen) == 2 && m.Concepts[chosen[1]] != nil {
			p.add(Proposal{Order: Order{ID: "way"}, About: about, Stops: p.way(id, chosen[1])})
		}
		if len(chosen) == 1 {
			p.add(Proposal{Order: Order{ID: "branch"}, About: about, Stops: p.deep(id)})
			p.add(Proposal{Order: Order{ID: "around"}, About: about, Stops: p.around(id)})
		}
	}
	return p.all
}

type proposing struct {
	m   *cm.Map
	s   *structure.Structure
	at  map[cm.ID]int // in reading order
	all []Proposal
}

func (p *proposing) add(one Proposal) {
	if len(one.Stops) < fewest {
		return
	}
	one.Stops = one.Stops[:min(len(one.Stops), MaxProposed)]
	one.Order = Orders[slices.IndexFunc(Orders, func(o Order) bool { return o.ID == one.ID })]
	p.all = append(p.all, one)
}

// broad gives the focus concept's tree level by level, to a level; to the last where it is 0.
func (p *proposing) broad(to int) (all []cm.ID) {
	for _, id := range p.s.Order {
		if level := p.s.Places[id].Level; level > 0 && (to == 0 || level <= to) {
			all = append(all, id)
		}
	}
	slices.SortStableFunc(all, func(a, b cm.ID) int { return cmp.Compare(p.s.Places[a].Level, p.s.Places[b].Level) })
	return all
}

// deep gives what hangs from a concept in reading order; all that is linked where it is empty.
func (p *proposing) deep(top cm.ID) (all []cm.ID) {
	inside := map[cm.ID]bool{top: top != ""}
	for _, id := range p.s.Order {
		if inside[id] || inside[p.s.Places[id].Parent] {
			inside[id] = true
			all = append(all, id)
		} else if top == "" && !p.s.Places[id].Loose {
			all = append(all, id)
		}
	}
	return all
}

func (p *proposing) way(from, to cm.ID) []cm.ID {
	way := p.s.Way(from, to, true)
	if way == nil {
		return nil
	}
	all := []cm.ID{from}
	for _, step := range way {
		next := step.Object
		if next == all[len(all)-1] {
			next = step.Subject
		}
		all = append(all, next)
	}
	return all
}

func (p *proposing) around(id cm.ID) []cm.ID {
	near := p.s.Near(id, 1)
	all := []cm.ID{id}
	for _, other := range p.s.Order {
		if _, is := near[other]; is && other != id {
			all = append(all, other)
		}
	}
	return all
}

// before says which concept comes before the other by a proposition, if it says so: by the meaning
// of its phrase, or by the kind of its link.
func before(m *cm.Map, t *language.Tongue, prop structure.Proposition) (first, then cm.ID, says bool) {
	l := m.Links[prop.Strand.Link]
	if k := m.KindOfLink(l); k != nil && !prop.Against {
		switch k.Role {
		case "science.cause", "process.then", "history.led":
			return prop.Subject, prop.Object, true
		case "process.needs":
			return prop.Object, prop.Subject, true
		}
	}
	if t == nil {
		return "", "", false
	}
	meaning, known := t.Meaning(m.Words(l.Phrase))
	if !known || !slices.Contains([]string{"cause", "need", "time"}, meaning.Of) {
		return "", "", false
	}
	// What needs something comes behind it; of the others the subject comes first.
	if (meaning.Of == "need") != meaning.Up {
		return prop.Object, prop.Subject, true
	}
	return prop.Subject, prop.Object, true
}

// causes gives the concepts that stand in an order of causes, needs or time, each behind what comes
// before it (topological order: Kahn, Topological sorting of large networks, CACM 5, 1962), and
// the links that had to be left aside since they close a circle.
func (p *proposing) causes() (order, closes []cm.ID) {
	var texts []string
	for _, id := range cm.SortedIDs(p.m.Links) {
		texts = append(texts, p.m.Words(p.m.Links[id].Phrase))
	}
	t := language.Guess(string(p.m.Language), texts)
	type edge struct{ from, to, link cm.ID }
	var edges []edge
	waits := map[cm.ID]int{} // for how many each concept waits
	for _, prop := range p.s.Propositions() {
		if first, then, says := before(p.m, t, prop); says && first != then {
			edges = append(edges, edge{first, then, prop.Strand.Link})
			waits[first] += 0
			waits[then]++
		}
	}
	var open []cm.ID
	for id := range waits {
		open = append(open, id)
	}
	slices.SortFunc(open, func(a, b cm.ID) int { return cmp.Compare(p.at[a], p.at[b]) })
	for len(open) > 0 {
		i := slices.IndexFunc(open, func(id cm.ID) bool { return waits[id] == 0 })
		if i < 0 {
			// All that is left waits for each other: the first that is read goes first, against the
			// links that lead to it.
			i = 0
			for _, e := range edges {
				if e.to == open[0] && slices.Contains(open, e.from) && !slices.Contains(closes, e.link) {
					closes = append(closes, e.link)
				}
			}
		}
		next := open[i]
		open = slices.Delete(open, i, i+1)
		order = append(order, next)
		for _, e := range edges {
			if e.from == next {
				waits[e.to]--
			}
		}
	}
	return order, closes
}

// argument gives claims, each with what is said for it and against it.
func (p *proposing) argument() (all []cm.ID) {
	ranks := map[cm.Role]int{"argument.claim": 1, "argument.reason": 2, "argument.evidence": 3, "argument.assumption": 4, "argument.counter": 5}
	role := func(id cm.ID) int {
		if k := p.m.KindOf(p.m.Concepts[id]); k != nil {
			return ranks[k.Role]
		}
		return 0
	}
	near := map[cm.ID][]cm.ID{}
	for _, prop := range p.s.Propositions() {
		near[prop.Subject] = append(near[prop.Subject], prop.Object)
		near[prop.Object] = append(near[prop.Object], prop.Subject)
	}
	told := map[cm.ID]bool{}
	var tell func(id cm.ID)
	tell = func(id cm.ID) {
		if told[id] {
			return
		}
		told[id] = true
		all = append(all, id)
		next := slices.DeleteFunc(slices.Clone(near[id]), func(o cm.ID) bool { return role(o) < 2 })
		slices.SortStableFunc(next, func(a, b cm.ID) int {
			return cmp.Or(cmp.Compare(role(a), role(b)), cmp.Compare(p.at[a], p.at[b]))
		})
		for _, o := range next {
			tell(o)
		}
	}
	for _, id := range p.s.Order {
		if role(id) == 1 {
			tell(id)
		}
	}
	return all
}

// times proposes all concepts of each kind and tag in the order of time, and all of the map.
func (p *proposing) times() {
	of := func(has func(*cm.Concept) bool) (all []cm.ID) {
		for _, id := range p.s.Order {
			if c := p.m.Concepts[id]; timed(c) && has(c) {
				all = append(all, id)
			}
		}
		slices.SortStableFunc(all, func(a, b cm.ID) int { return p.compareTimes(a, b) })
		return all
	}
	all := of(func(*cm.Concept) bool { return true })
	p.add(Proposal{Order: Order{ID: "time"}, Stops: all})
	for _, k := range p.m.Key() {
		if stops := of(func(c *cm.Concept) bool { own := p.m.KindOf(c); return own != nil && own.ID == k.ID }); len(stops) < len(all) {
			p.add(Proposal{Order: Order{ID: "time-of-kind"}, About: cm.Key{Kind: cm.EntityKind, ID: k.ID}, Stops: stops})
		}
	}
	for _, id := range cm.SortedIDs(p.m.Tags) {
		if stops := of(func(c *cm.Concept) bool { return c.Tags[id] }); len(stops) < len(all) {
			p.add(Proposal{Order: Order{ID: "time-of-tag"}, About: cm.Key{Kind: cm.EntityTag, ID: id}, Stops: stops})
		}
	}
}

func timed(c *cm.Concept) bool {
	_, _, is := c.Span()
	return is
}

func (p *proposing) compareTimes(a, b cm.ID) int {
	x, _, _ := p.m.Concepts[a].Span()
	y, _, _ := p.m.Concepts[b].Span()
	return cmp.Or(cmp.Compare(x, y), cmp.Compare(p.at[a], p.at[b]))
}

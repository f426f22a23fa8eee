package check

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/language"
	"mevrin/core/structure"
)

// Rules about how the concepts of a map hang together.
var shapeRules = []*Rule{
	{
		ID: "chain-only", About: AboutStructure, Least: 6, Title: "The map is a chain",
		Why:    "Where each concept leads to the next alone, the map tells a sequence and no structure. What else do they have to do with each other?",
		Looks:  "Maps of so many concepts or more that all hang together, none of which is linked to more than two others.",
		Source: "Hay and Kinchin: Using concept maps to reveal conceptual typologies. Education + Training 48 (2006)",
		find:   chainOnly,
	},
	{
		ID: "hub", About: AboutStructure, Least: 10, Title: "A concept carries too much",
		Why:   "When all hangs from one concept, levels between are missing: which of these belong together, and under what name?",
		Looks: "Concepts that are linked to so many others or more.",
		find:  hubs,
	},
	{
		ID: "level-jump", About: AboutStructure, Least: 2, Title: "A link skips a level",
		Why:   "What lies between says how the two have to do with each other. The longer way on the map may be all that is needed.",
		Looks: "Further links between a concept and one that hangs below it by so many levels or more.",
		find:  levelJumps,
	},
	{
		ID: "branch-alone", About: AboutStructure, Least: 3, Title: "A branch has no link to any other",
		Why:    "Cross-links show that somebody sees how the parts of a subject hang together.",
		Looks:  "Branches of so many concepts or more at which no cross-link ends, on maps of twelve concepts or more that are no argument, process or lesson.",
		Source: "Novak and Gowin: Learning How to Learn. Cambridge University Press, 1984",
		find:   branchesAlone,
	},
	{
		ID: "few-cross-links", About: AboutStructure, Least: 15, Title: "The map has few cross-links",
		Why:    "A tree repeats an order that is known. New insight is mostly in the links between its branches.",
		Looks:  "Maps of twelve concepts or more, with two branches or more, that have less than one cross-link for so many concepts.",
		Source: "Novak and Gowin: Learning How to Learn. Cambridge University Press, 1984",
		find:   fewCrossLinks,
	},
	{
		ID: "no-examples", About: AboutStructure, Title: "The map has no examples",
		Why:    "The key has a kind for examples. They show whether a concept is understood.",
		Looks:  "Maps of twelve concepts or more whose key has a kind that is called example, and no concept of it.",
		Source: "Novak and Gowin: Learning How to Learn. Cambridge University Press, 1984",
		find:   noExamples,
	},
	{
		ID: "focus-unclear", About: AboutStructure, Words: true, Title: "The focus concept is part or kind of another",
		Why:   "The most inclusive concept stands on top. By its own links, this map has a more inclusive one.",
		Looks: "Propositions that say by their phrase that the focus concept is a part or a kind of another concept.",
		find:  focusUnclear,
	},
}

// neighbours gives the different concepts to which each is linked.
func neighbours(s *structure.Structure) map[cm.ID]map[cm.ID]bool {
	near := map[cm.ID]map[cm.ID]bool{}
	add := func(a, b cm.ID) {
		if near[a] == nil {
			near[a] = map[cm.ID]bool{}
		}
		near[a][b] = true
	}
	for _, p := range s.Propositions() {
		if p.Subject != p.Object {
			add(p.Subject, p.Object)
			add(p.Object, p.Subject)
		}
	}
	return near
}

func chainOnly(l *look) []Place {
	if float64(len(l.m.Concepts)) < l.least {
		return nil
	}
	near := neighbours(l.s)
	for _, of := range near {
		if len(of) > 2 {
			return nil
		}
	}
	// All hang together where as many are reached from one as there are.
	reached := []cm.ID{l.s.Order[0]}
	seen := map[cm.ID]bool{reached[0]: true}
	for i := 0; i < len(reached); i++ {
		for o := range near[reached[i]] {
			if !seen[o] {
				seen[o] = true
				reached = append(reached, o)
			}
		}
	}
	if len(reached) < len(l.m.Concepts) {
		return nil
	}
	return []Place{{Remedies: []Remedy{linkRemedy(l.m, "Say what else belongs together", l.s.Order[0], "")}}}
}

func hubs(l *look) []Place {
	near := neighbours(l.s)
	var places []Place
	for _, id := range l.s.Order {
		if float64(len(near[id])) >= l.least {
			places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{linkRemedy(l.m, "Say what belongs together", id, "")}})
		}
	}
	return places
}

func levelJumps(l *look) []Place {
	below := func(id, top cm.ID) int { // by how many levels; 0 where it does not hang there
		n := 0
		for at := id; at != "" && n <= len(l.m.Concepts); at, n = l.s.Places[at].Parent, n+1 {
			if at == top {
				return n
			}
		}
		return 0
	}
	var places []Place
	seen := map[cm.ID]bool{}
	for _, p := range l.s.Propositions() {
		if p.Main || seen[p.Strand.Link] {
			continue
		}
		if n := max(below(p.Object, p.Subject), below(p.Subject, p.Object)); float64(n) >= l.least {
			seen[p.Strand.Link] = true
			place := Place{Keys: []cm.Key{link(p.Strand.Link)}}
			if one := l.m.Links[p.Strand.Link]; len(one.From) == 1 && len(one.To) == 1 {
				place.Remedies = []Remedy{{Title: "Remove it", Operations: []edit.Operation{&edit.Remove{Links: []cm.ID{one.ID}}}}}
			}
			places = append(places, place)
		}
	}
	return places
}

// branches gives the tops of the branches below the focus concept, in reading order, with how
// many concepts each has.
func (l *look) branches() (tops []cm.ID, size map[cm.ID]int) {
	size = map[cm.ID]int{}
	for _, id := range l.s.Order {
		at := l.s.Places[id]
		if at.Level < 2 {
			continue
		}
		if size[at.Branch] == 0 {
			tops = append(tops, at.Branch)
		}
		size[at.Branch]++
	}
	return tops, size
}

// planned tells that half of the concepts or more are parts of an argument, a process or a lesson,
// whose branches need not be joined.
func (l *look) planned() bool {
	n := 0
	for _, c := range l.m.Concepts {
		if k := l.m.KindOf(c); k != nil && slices.Contains([]string{"argument", "process", "lesson"}, k.Role.Set()) {
			n++
		}
	}
	return 2*n >= len(l.m.Concepts)
}

func branchesAlone(l *look) []Place {
	tops, size := l.branches()
	if !l.grown() || len(tops) < 2 || l.planned() {
		return nil
	}
	joined := map[cm.ID]bool{}
	for _, p := range l.s.Propositions() {
		if p.Cross {
			joined[l.s.Places[p.Subject].Branch], joined[l.s.Places[p.Object].Branch] = true, true
		}
	}
	var places []Place
	for _, top := range tops {
		if !joined[top] && float64(size[top]) >= l.least {
			places = append(places, Place{[]cm.Key{concept(top)}, []Remedy{linkRemedy(l.m, "Link it to another branch", top, "")}})
		}
	}
	return places
}

func fewCrossLinks(l *look) []Place {
	if tops, _ := l.branches(); !l.grown() || len(tops) < 2 || l.planned() || float64(len(l.s.CrossLinks()))*l.least >= float64(len(l.m.Concepts)) {
		return nil
	}
	return []Place{{}}
}

func noExamples(l *look) []Place {
	if !l.grown() {
		return nil
	}
	kinds := map[cm.ID]bool{}
	for _, k := range l.m.Kinds {
		if !k.Links && language.ForExamples(l.m.Words(k.Name)) {
			kinds[k.ID] = true
		}
	}
	if len(kinds) == 0 {
		return nil
	}
	for _, c := range l.m.Concepts {
		if k := l.m.KindOf(c); k != nil && kinds[k.ID] {
			return nil
		}
	}
	return []Place{{}}
}

func focusUnclear(l *look) []Place {
	var places []Place
	for _, p := range l.words() {
		m := l.meaning(p.phrase)
		if m == nil || m.Of != "kind" && m.Of != "part" {
			continue
		}
		special, general := p.Object, p.Subject
		if m.Up {
			special, general = general, special
		}
		if special == l.m.Focus && general != special {
			places = append(places, Place{[]cm.Key{concept(general), concept(special)}, []Remedy{{Title: "Make that the focus concept", Operations: []edit.Operation{&edit.SetFocus{Concept: general}}}}})
		}
	}
	return places
}

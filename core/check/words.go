package check

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/language"
	"mevrin/core/likeness"
)

// Rules about words by themselves: what a phrase says, and whether two labels name one thing.
var wordRules = []*Rule{
	{
		ID: "phrase-empty", About: AboutWords, Words: true, Title: "A phrase says nothing",
		Why:    "That two things have to do with each other is said by the line already. The phrase should say what: then it can be true or not.",
		Looks:  "Phrases such as “is”, “of”, “has”, “is related to”, and those that only name one of their two concepts. The lists are in the program, for English, German, French and Spanish.",
		Source: "Novak and Gowin: Learning How to Learn. Cambridge University Press, 1984",
		find:   faultyPhrases(language.Empty),
	},
	{
		ID: "phrase-no-relation", About: AboutWords, Words: true, Title: "A phrase is a thing or a quality, not a relation",
		Why:    "Read aloud, two nouns and a third between them make no sentence. Often the word is a concept of its own, and two phrases are missing.",
		Looks:  "Phrases without a verb, a preposition or a conjunction that end in a noun or an adjective. Words that may be either are left alone.",
		Source: "Novak and Gowin: Learning How to Learn. Cambridge University Press, 1984",
		find:   faultyPhrases(language.NoRelation),
	},
	{
		ID: "phrase-worn", About: AboutWords, Least: 0.35, Title: "One phrase is used for nearly everything",
		Why:   "Where the same words join most of the concepts, they say little about any of them. What differs between the cases?",
		Looks: "Phrases of more than this share of all propositions, from twelve propositions on and six uses.",
		find:  wornPhrases,
	},
	{
		ID: "phrase-backwards", About: AboutWords, Words: true, Title: "A phrase reads against its arrow",
		Why:   "A passive phrase is easily put on an arrow that leads the other way: what is read then is the contrary of what was meant.",
		Looks: "Two links between the same two concepts of which one says in the passive, or by its opposite, what the other says: “causes” and “is caused by”, “contains” and “is part of”; what is said twice so, the same way, is noticed, too. A passive phrase of cause, need or time that a way of up to four plain ones denies, or that stands on a kind of link that leads from the cause to the effect. One relation that leads from one kind of concept to another three times or more, and once the other way round. One “is part of” or “is a kind of” that puts the whole below its part where three others or more put it above.",
		find:  backwards,
	},
	{
		ID: "label-two-ideas", About: AboutWords, Words: true, Title: "A concept holds two ideas",
		Why:   "What is said of the one may not hold of the other. Apart, each can have its own links.",
		Looks: "Labels with “and”, “or”, “&”, “/” or “;” between two words. What lies between two things, as in “relation of size and pitch”, and names are left out.",
		find:  twoIdeas,
	},
	{
		ID: "label-number", About: AboutWords, Title: "A concept is only a number",
		Why:   "Nobody can tell from it what was counted or measured.",
		Looks: "Labels of digits, or of words for numbers, alone. Concepts with a time are left out.",
		find:  onlyNumbers,
	},
	{
		ID: "concept-variant", About: AboutWords, Words: true, Title: "A concept stands there in another spelling",
		Why:   "Each concept should stand once: only then do all its links meet.",
		Looks: "Labels that differ by spelling, hyphens, inflection, the order of words, a slip in typing, or of which one is short for the other.",
		find:  variants, apart: true,
	},
	{
		ID: "concept-synonym", About: AboutWords, Words: true, Title: "Two concepts may be the same by another name",
		Why:   "Two words for one thing hide that their links belong together. Where they differ in meaning, a link should say how.",
		Looks: "Labels that a list of words with one meaning holds. The list is in the program, for English, German, French and Spanish.",
		find:  synonyms,
	},
	{
		ID: "contrary", About: AboutWords, Words: true, Title: "The map says a thing and its contrary",
		Why:   "Both cannot hold as they stand. Perhaps each holds under a condition that is not said.",
		Looks: "Two propositions with the same concepts, in the same direction, of which one denies the other or says the opposite: “strengthens” and “weakens”.",
		find:  contraries,
	},
	{
		ID: "judged-not", About: AboutWords, Title: "A sentence was judged not to hold, and stands there still",
		Why:   "What does not hold misleads whoever learns from the map. Reword it, turn it round, or take it away.",
		Looks: "Propositions whose settled judgement, or else each judgement by the map’s own people, is that they do not hold, and whose words have not changed since.",
		find:  judgedNot,
	},
	{
		ID: "circle-of-meaning", About: AboutWords, Words: true, Title: "Meanings run in a circle",
		Why:   "If A is a kind of B, and B of C, then C is no kind of A. The same holds of parts.",
		Looks: "Circles of propositions that say by their phrase what is a kind or a part of what. Circles in time are left alone: much comes round again.",
		find:  circles,
	},
}

func faultyPhrases(fault language.Fault) func(*look) []Place {
	return func(l *look) []Place {
		var places []Place
		seen := map[cm.ID]bool{}
		for _, p := range l.words() {
			if id := p.Strand.Link; !seen[id] && l.fault(p) == fault && !l.argued(p) {
				seen[id] = true
				places = append(places, Place{[]cm.Key{link(id)}, []Remedy{{Title: "Reword it", Ask: AskWords}}})
			}
		}
		return places
	}
}

// argued tells that a proposition joins statements: “because” and “and” are enough there.
func (l *look) argued(p told) bool { return l.statement(p.Subject) || l.statement(p.Object) }

// What a phrase must have before it counts as worn.
const (
	wornFrom = 12 // propositions
	wornUses = 6
)

func wornPhrases(l *look) []Place {
	all := l.words()
	if len(all) < wornFrom {
		return nil
	}
	uses, links := map[string]int{}, map[string][]cm.Key{}
	var order []string
	for _, p := range all {
		if l.t != nil && l.fault(p) == language.Empty {
			continue // that is said already
		}
		key := likeness.Fold(p.phrase)
		if uses[key] == 0 {
			order = append(order, key)
		}
		uses[key]++
		if k, all := link(p.Strand.Link), links[key]; len(all) == 0 || all[len(all)-1] != k {
			links[key] = append(links[key], k)
		}
	}
	var places []Place
	for _, key := range order {
		if uses[key] >= wornUses && len(links[key]) > 1 && float64(uses[key]) > l.least*float64(len(all)) {
			places = append(places, Place{links[key], []Remedy{{Title: "Reword the first", Ask: AskWords}}})
		}
	}
	return places
}

func twoIdeas(l *look) []Place {
	var places []Place
	for i, label := range l.names() {
		id := l.s.Order[i]
		if l.t.TwoIdeas(label) && !l.statement(id) {
			places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{{Title: "Name one of them", Ask: AskWords}}})
		}
	}
	return places
}

// statement tells that a concept is part of an argument, whose labels are sentences.
func (l *look) statement(id cm.ID) bool {
	k := l.m.KindOf(l.m.Concepts[id])
	return k != nil && k.Role.Set() == "argument" || isSentence(l.label(id))
}

func onlyNumbers(l *look) []Place {
	var places []Place
	for i, label := range l.names() {
		c := l.m.Concepts[l.s.Order[i]]
		if _, _, timed := c.Span(); !timed && l.t.OnlyNumber(label) {
			places = append(places, Place{[]cm.Key{concept(c.ID)}, []Remedy{{Title: "Say what it counts", Ask: AskWords}}})
		}
	}
	return places
}

func variants(l *look) []Place {
	names := l.names()
	var places []Place
	for _, v := range l.t.Variants(names) {
		if likeness.Stem(names[v.A], l.t.Name) == likeness.Stem(names[v.B], l.t.Name) {
			continue // it stands there twice, which another rule says
		}
		places = append(places, l.sameThing(l.s.Order[v.A], l.s.Order[v.B]))
	}
	return places
}

// sameThing offers to merge two concepts.
func (l *look) sameThing(a, b cm.ID) Place {
	if b == l.m.Focus {
		a, b = b, a
	}
	return Place{[]cm.Key{concept(a), concept(b)}, []Remedy{{Title: "Merge the two", Operations: []edit.Operation{&edit.MergeConcepts{Keep: a, Gone: b}}}}}
}

func judgedNot(l *look) []Place {
	if len(l.m.Judgements) == 0 {
		return nil
	}
	judged := l.m.Judged()
	var places []Place
	for _, p := range l.s.Propositions() {
		against, any := true, false
		for _, j := range judged[cm.Proposed{Strand: p.Strand, Against: p.Against}] {
			if j.Stale(l.m) || cm.Visitor(j.By) && !j.Settled {
				continue
			}
			any = true
			against = against && j.Verdict == cm.HoldsNot
			if j.Settled { // it stands first
				break
			}
		}
		if any && against {
			place := Place{[]cm.Key{link(p.Strand.Link)}, []Remedy{{Title: "Reword it", Ask: AskWords}}}
			// Turned round it says something else, unless it says the same both ways.
			if l.label(p.Subject) != l.label(p.Object) && l.m.Links[p.Strand.Link].Heads != cm.HeadsBoth {
				place.Remedies = append(place.Remedies, Remedy{Title: "Reverse it", Operations: []edit.Operation{&edit.ReverseLink{Link: p.Strand.Link}}})
			}
			places = append(places, place)
		}
	}
	return places
}

func synonyms(l *look) []Place {
	var places []Place
	for _, pair := range l.t.Synonyms(l.names(), l.about.Author.Synonyms) {
		places = append(places, l.sameThing(l.s.Order[pair[0]], l.s.Order[pair[1]]))
	}
	return places
}

// Package check notices what a map still lacks. Each rule is a value with a
// name and the reason behind it, so that a teacher can see why it is there.
package check

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Rule is one thing to look for.
type Rule struct {
	ID    string // stable, for settings and exports
	Title string // what is wrong, in plain words
	Why   string // why it matters
	find  func(*cm.Map, *structure.Structure) []cm.Key
}

// Finding is what one rule noticed. Where names the places, in reading order;
// it is empty where the finding is about the map as a whole.
type Finding struct {
	Rule  *Rule
	Where []cm.Key
}

// Rules lists the rules in the order in which findings are shown.
var Rules = []*Rule{
	{
		ID: "no-question", Title: "The map has no focus question",
		Why:  "A map answers a question. Without one it sprawls, and nobody can say what belongs on it.",
		find: noQuestion,
	},
	{
		ID: "open-link", Title: "A link has no words",
		Why:  "Only the words on a link turn two concepts into a statement that can be true or not.",
		find: openLinks,
	},
	{
		ID: "loose-idea", Title: "An idea is not linked yet",
		Why:  "An idea that no link reaches does not take part in what the map says.",
		find: looseIdeas,
	},
}

// Find applies every rule to a map. Rules that notice nothing are left out.
func Find(m *cm.Map, s *structure.Structure) []Finding {
	var all []Finding
	for _, rule := range Rules {
		if where := rule.find(m, s); where != nil {
			all = append(all, Finding{rule, where})
		}
	}
	return all
}

func noQuestion(m *cm.Map, _ *structure.Structure) []cm.Key {
	if !m.Question.Empty() {
		return nil
	}
	return []cm.Key{}
}

func openLinks(_ *cm.Map, s *structure.Structure) []cm.Key {
	var where []cm.Key
	seen := map[cm.ID]bool{}
	for _, p := range s.Propositions() {
		if p.Open && !seen[p.Strand.Link] {
			seen[p.Strand.Link] = true
			where = append(where, cm.Key{Kind: cm.KindLink, ID: p.Strand.Link})
		}
	}
	return where
}

// looseIdeas leaves out a map's only concept: it has nothing to be linked to.
func looseIdeas(m *cm.Map, s *structure.Structure) []cm.Key {
	if len(m.Concepts) < 2 {
		return nil
	}
	var where []cm.Key
	for _, id := range s.Loose() {
		where = append(where, cm.Key{Kind: cm.KindConcept, ID: id})
	}
	return where
}

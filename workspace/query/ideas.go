package query

import (
	"context"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
	"mevrin/standin/ideas"
	"mevrin/workspace"
)

// Idea is an idea with the reason why it is offered, ready to be added.
type Idea struct {
	Phrase, Noun, Why, Steps string
	There                    bool // the noun is on the map already
}

// maxIdeas is how many ideas are offered at once.
const maxIdeas = 24

// Ideas gives what could be added to a concept, which is not said of it yet, and the
// words of the concept.
func (s Reading) Ideas(ctx context.Context, w *workspace.Workspace, who workspace.Person, concept cm.ID) (words string, all []Idea, err error) {
	c := s.Map.Concepts[concept]
	if c == nil {
		return "", nil, cm.Refusef("That concept is no longer on the map.")
	}
	words = s.Map.Words(c.Label)
	said := map[string]bool{}
	for _, p := range s.Structure.Propositions() {
		if p.Subject == c.ID {
			one := s.sentenceOf(p)
			said[likeness.Fold(one.Verb)+"|"+ideas.Plain(one.Noun2)] = true
		}
	}
	there := map[string]bool{}
	for _, o := range s.Map.Concepts {
		there[ideas.Plain(s.Map.Words(o.Label))] = true
	}
	offer := func(i ideas.Idea, why string) {
		key := likeness.Fold(i.Phrase) + "|" + ideas.Plain(i.Noun)
		if said[key] || len(all) == maxIdeas || i.Noun == "" {
			return
		}
		said[key] = true
		steps, err := StepsOf("jot", "concept", "@c", "words", i.Phrase+": "+i.Noun, "at", cm.Point{X: c.At.X, Y: c.At.Y + 130}, "under", c.ID, "link", "@l", "own", "@e", "above", "@f")
		if err == nil {
			all = append(all, Idea{i.Phrase, i.Noun, why, steps, there[ideas.Plain(i.Noun)]})
		}
	}
	elsewhere, err := w.Store.For(who.Scope).SaidElsewhere(ctx, s.Map.ID, func(label string) bool { return ideas.Plain(label) == ideas.Plain(words) })
	if err != nil {
		return "", nil, err
	}
	for _, e := range elsewhere {
		offer(ideas.Idea{Phrase: strings.TrimSpace(e.Phrase), Noun: e.Noun}, s.t("said on “%s”", e.Map))
	}
	for _, i := range w.Ideas.Offer(words, s.Map.Language) {
		offer(i, s.t("from the small word net that comes with Mevrin"))
	}
	return words, all, nil
}

package workspace

import (
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
	"mevrin/core/message"
	"mevrin/core/phrases"
	"mevrin/core/prose"
)

// readText gives what makes a map of the sentences of a text. What was not read, or not whole, stands in the note
// on the map, so that nothing of the text is lost.
func readText(text string) ([]edit.Operation, error) {
	if strings.TrimSpace(text) == "" {
		return nil, cm.Refusef("Paste a text first.")
	}
	var known []string
	for _, g := range phrases.Shipped {
		for _, words := range g.Words {
			known = append(known, words...)
		}
	}
	all := prose.Read(text, known)
	if len(all) == prose.MaxSentences {
		return nil, cm.Refusef("That is a long text: at most %d sentences are read at once. Paste a part of it first.", prose.MaxSentences-1)
	}
	var ops []edit.Operation
	var unread []string
	there := map[string]bool{}
	for _, s := range all {
		if len(s.Said) == 0 || !s.Whole {
			unread = append(unread, "- "+s.Words)
		}
		for _, p := range s.Said {
			if key := likeness.Fold(fmt.Sprint(p.From, "\n", p.Phrase, "\n", p.To)); !there[key] {
				there[key] = true
				ops = append(ops, &edit.AddProposition{Link: NewThingID("l"), From: termsOf(p.From), Phrase: p.Phrase, To: termsOf(p.To)})
			}
		}
	}
	if len(ops) == 0 {
		return nil, cm.Refusef("No sentence could be read as a concept, a linking phrase and another concept. Short, plain ones can: “A bell is cast from bronze.”")
	}
	if len(unread) > 0 {
		note := message.Of("Of %d sentences of the text, these were not read, or not whole:", len(all)).String() + "\n\n" + strings.Join(unread, "\n")
		ops = append(ops, &edit.SetNote{On: cm.Key{Kind: cm.EntityMap}, Note: note})
	}
	return ops, nil
}

func termsOf(words []string) []edit.Term {
	all := make([]edit.Term, len(words))
	for i, w := range words {
		all[i] = edit.Term{Words: w, Concept: NewThingID("c"), End: NewThingID("e")}
	}
	return all
}

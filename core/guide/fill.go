package guide

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// saidOnCard bounds the sentences of a card that follows the map.
const saidOnCard = 6

// Said gives for each stop of a route what the map says there, as CommonMark, in the words that one
// is given for its texts: the notes of what it shows, and the sentences that it brings. Stops of which
// the map says nothing are left out.
func Said(m *cm.Map, s *structure.Structure, route cm.ID, words func(cm.Text) string) map[cm.ID]string {
	sentences := map[cm.ID][]string{}
	for _, p := range s.Propositions() {
		if !p.Open {
			parts := []string{words(m.Concepts[p.Subject].Label), "*" + words(m.Links[p.Strand.Link].Phrase) + "*", words(m.Concepts[p.Object].Label)}
			sentences[p.Strand.Link] = append(sentences[p.Strand.Link], "- "+plain(strings.Join(parts, " ")))
		}
	}
	said := map[cm.ID]string{}
	for _, step := range Growth(m, route) {
		var parts, lines []string
		for _, key := range step.Shows {
			if note := strings.TrimSpace(words(NoteAt(m, key))); note != "" {
				parts = append(parts, note)
			}
		}
		for _, link := range step.Links {
			lines = append(lines, sentences[link]...)
		}
		if len(lines) > 0 {
			parts = append(parts, strings.Join(lines[:min(len(lines), saidOnCard)], "\n"))
		}
		if text := strings.Join(parts, "\n\n"); text != "" {
			said[step.Stop] = cm.Shortened(text, cm.MaxNote)
		}
	}
	return said
}

// NoteAt gives the note of a concept or a link; nil where there is none.
func NoteAt(m *cm.Map, key cm.Key) cm.Text {
	if c := m.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
		return c.Note
	}
	if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
		return l.Note
	}
	return nil
}

// FollowsMap tells that the card of a stop reads what the map says (see Said): nothing is written on
// it, and its author lets it follow.
func FollowsMap(s *cm.Stop) bool { return s.FromMap && s.Card.Empty() }

// Keeps gives what does not fade at a step whose stop fades all else: the concepts and links that it
// shows and brings, and what these links join. Nil where nothing fades.
func Keeps(m *cm.Map, step Step) map[cm.ID]bool {
	if s := m.Stops[step.Stop]; s == nil || !s.Fades {
		return nil
	}
	keeps := map[cm.ID]bool{}
	add := func(key cm.Key) {
		keeps[key.ID] = true
		if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
			for _, e := range l.Ends() {
				keeps[e.Concept] = true
			}
		}
	}
	for _, key := range step.Shows {
		add(key)
	}
	for _, id := range step.Concepts {
		keeps[id] = true
	}
	for _, id := range step.Links {
		add(cm.Key{Kind: cm.EntityLink, ID: id})
	}
	for _, id := range cm.SortedIDs(m.Links) { // a link between two that stay, stays
		if allShown(m.Links[id], keeps) {
			keeps[id] = true
		}
	}
	return keeps
}

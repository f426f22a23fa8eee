package guide

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// saidOnCard bounds the sentences of a card that is filled from the map.
const saidOnCard = 6

// Fill gives for each stop of a route whose card is empty what the map says there, as CommonMark:
// the notes of what it shows, and the sentences that it brings. Stops of which the map says nothing
// are left out.
func Fill(m *cm.Map, s *structure.Structure, route cm.ID) map[cm.ID]string {
	said := map[cm.ID][]string{}
	for _, p := range s.Propositions() {
		if !p.Open {
			words := []string{m.Words(m.Concepts[p.Subject].Label), "*" + m.Words(m.Links[p.Strand.Link].Phrase) + "*", m.Words(m.Concepts[p.Object].Label)}
			said[p.Strand.Link] = append(said[p.Strand.Link], "- "+strings.Join(strings.Fields(strings.Join(words, " ")), " "))
		}
	}
	filled := map[cm.ID]string{}
	for _, step := range Growth(m, route) {
		stop := m.Stops[step.Stop]
		if !stop.Card.Empty() {
			continue
		}
		var parts, lines []string
		for _, key := range step.Shows {
			note := cm.Text(nil)
			if c := m.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
				note = c.Note
			} else if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
				note = l.Note
			}
			if words := strings.TrimSpace(m.Words(note)); words != "" {
				parts = append(parts, words)
			}
		}
		for _, link := range step.Links {
			lines = append(lines, said[link]...)
		}
		if len(lines) > 0 {
			parts = append(parts, strings.Join(lines[:min(len(lines), saidOnCard)], "\n"))
		}
		if text := strings.Join(parts, "\n\n"); text != "" {
			filled[stop.ID] = text
		}
	}
	return filled
}

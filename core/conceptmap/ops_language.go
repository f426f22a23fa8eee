package conceptmap

// SetLanguage says in which language the author's words are. Words that stood
// under the former language stand under the new one then, unless the map has a
// translation there already.
type SetLanguage struct {
	Language Lang `json:"language"`
}

func (op *SetLanguage) apply(d *draft) error {
	if !op.Language.Valid() {
		return refusef("That is not the name of a language.")
	}
	was := d.m.Language
	if was == op.Language {
		return nil
	}
	said := func(t *Text) bool {
		words := (*t)[was]
		if words == "" || (*t)[op.Language] != "" {
			return false
		}
		*t = t.With(was, "").With(op.Language, words)
		return true
	}
	d.m.Language = op.Language
	said(&d.m.Title)
	said(&d.m.Question)
	d.putHeader()
	for _, id := range SortedIDs(d.m.Concepts) {
		next := *d.m.Concepts[id]
		if label, note := said(&next.Label), said(&next.Note); label || note {
			d.putConcept(&next)
		}
	}
	for _, id := range SortedIDs(d.m.Links) {
		next := *d.m.Links[id]
		if phrase, note := said(&next.Phrase), said(&next.Note); phrase || note {
			d.putLink(&next)
		}
	}
	for _, id := range SortedIDs(d.m.Routes) {
		next := *d.m.Routes[id]
		if said(&next.Title) {
			d.putRoute(&next)
		}
	}
	for _, id := range SortedIDs(d.m.Stops) {
		next := *d.m.Stops[id]
		title, card, notes := said(&next.Title), said(&next.Card), said(&next.GuideNotes)
		if title || card || notes {
			d.putStop(&next)
		}
	}
	return nil
}

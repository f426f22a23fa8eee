package conceptmap

import "reflect"

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
	// say lets all texts of an entity follow, whichever it has.
	say := func(entity any) bool {
		any := false
		for _, t := range textsOf(entity) {
			any = said(t) || any
		}
		return any
	}
	d.m.Language = op.Language
	said(&d.m.Title)
	said(&d.m.Question)
	said(&d.m.Note)
	d.putHeader()
	follow(d.m.Kinds, say, d.putKind)
	follow(d.m.Tags, say, d.putTag)
	follow(d.m.Concepts, say, d.putConcept)
	follow(d.m.Links, say, d.putLink)
	follow(d.m.Regions, say, d.putRegion)
	follow(d.m.Filters, say, d.putFilter)
	follow(d.m.Routes, say, d.putRoute)
	follow(d.m.Stops, say, d.putStop)
	return nil
}

// follow puts those entities anew that have something to say.
func follow[E any](all map[ID]*E, say func(any) bool, put func(*E)) {
	for _, id := range SortedIDs(all) {
		next := *all[id]
		if say(&next) {
			put(&next)
		}
	}
}

// textsOf gives the texts of an entity, a pointer to a struct.
func textsOf(entity any) []*Text {
	var all []*Text
	v := reflect.ValueOf(entity).Elem()
	for i := range v.NumField() {
		if t, is := v.Field(i).Addr().Interface().(*Text); is {
			all = append(all, t)
		}
	}
	return all
}

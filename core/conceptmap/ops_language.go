package conceptmap

// SetLanguage says in which language the author's words are. Words that stood
// under the former language stand under the new one then, unless the map has a
// translation there already.
type SetLanguage struct {
	Language Lang `json:"language"`
}

func (op *SetLanguage) apply(d *editing) error {
	if !op.Language.Valid() {
		return Refusef("That is not the name of a language.")
	}
	was := d.m.Language
	if was == op.Language {
		return nil
	}
	d.m.Language = op.Language
	d.putHeader()
	for _, sort := range Entities {
		for _, id := range sort.IDs(d.m) {
			next := sort.Copy(sort.Get(d.m, id))
			followed := false
			for _, t := range sort.Texts(next) {
				if words := (*t)[was]; words != "" && (*t)[op.Language] == "" {
					*t = t.With(was, "").With(op.Language, words)
					followed = true
				}
			}
			if followed {
				d.put(sort, id, next)
			}
		}
	}
	return nil
}

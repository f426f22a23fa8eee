package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
)

// SetHand says with which hand the map opens.
type SetHand struct {
	Hand cm.Hand `json:"hand"`
}

func (op *SetHand) apply(d *editing) error {
	if !op.Hand.Valid() {
		return cm.Refusef("There is no such hand.")
	}
	d.Map.Hand = op.Hand
	d.TouchHeader()
	return nil
}

// SetLanguage says in which language the author's words are. Words that stood
// under the former language stand under the new one then, unless the map has a
// translation there already.
type SetLanguage struct {
	Language cm.Lang `json:"language"`
}

func (op *SetLanguage) apply(d *editing) error {
	if !op.Language.Valid() {
		return cm.Refusef("That is not the name of a language.")
	}
	was := d.Map.Language
	if was == op.Language {
		return nil
	}
	d.Map.Language = op.Language
	d.TouchHeader()
	for _, sort := range cm.Entities {
		for _, id := range sort.IDs(d.Map) {
			next := sort.Copy(sort.Get(d.Map, id))
			followed := false
			for _, t := range sort.Texts(next) {
				if words := (*t)[was]; words != "" && (*t)[op.Language] == "" {
					*t = t.With(was, "").With(op.Language, words)
					followed = true
				}
			}
			if followed {
				d.Put(next)
			}
		}
	}
	return nil
}

// NameMap gives the map its title in one language.
type NameMap struct {
	Lang  cm.Lang `json:"lang,omitempty"`
	Title string  `json:"title"`
}

func (op *NameMap) apply(d *editing) error {
	title, err := cm.Clean(op.Title, cm.MaxTitle, "The title of a map")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.Map.Title = d.Map.Title.With(lang, title)
	d.TouchHeader()
	return nil
}

// Ask sets the focus question that the map answers; empty words remove it.
type Ask struct {
	Lang     cm.Lang `json:"lang,omitempty"`
	Question string  `json:"question"`
}

func (op *Ask) apply(d *editing) error {
	question, err := cm.Clean(op.Question, cm.MaxQuestion, "The focus question")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.Map.Question = d.Map.Question.With(lang, question)
	d.TouchHeader()
	return nil
}

// SetOpening says which branches are tucked away when somebody opens the map
// for the first time; none lets it open whole.
type SetOpening struct {
	Tucked []cm.ID `json:"tucked"`
}

func (op *SetOpening) apply(d *editing) error {
	next := map[cm.ID]bool{}
	for _, id := range op.Tucked {
		if _, err := d.Concept(id); err != nil {
			return err
		}
		next[id] = true
	}
	d.SetTucked(next)
	return nil
}

// SetRule says whether a rule of package check speaks on this map.
type SetRule struct {
	Rule string `json:"rule"`
	On   bool   `json:"on"`
}

func (op *SetRule) apply(d *editing) error { return setRule(d, op.Rule, op.On) }

func setRule(d *editing, rule string, on bool) error {
	if !cm.ID(rule).Valid() {
		return cm.Refusef("There is no rule of that name.")
	}
	next := maps.Clone(d.Map.RulesOff)
	switch {
	case on:
		delete(next, rule)
	case len(next) >= cm.MaxRulesOff:
		return cm.Refusef("At most %d rules can be switched off.", cm.MaxRulesOff)
	case next == nil:
		next = map[string]bool{rule: true}
	default:
		next[rule] = true
	}
	if len(next) == 0 {
		next = nil
	}
	d.Map.RulesOff = next
	d.TouchHeader()
	return nil
}

package conceptmap

// Dismissal is a finding of a rule that somebody looked at and left as it is, with the reason.
type Dismissal struct {
	ID   ID     `json:"id"`
	Rule string `json:"rule"`
	// Refs are the things that it was about, with the words that they had. Of other words the
	// rule speaks again.
	Refs   []Ref  `json:"refs,omitempty" mevrin:"limit=refs"`
	Reason string `json:"reason,omitempty" mevrin:"limit=comment"`
	By     ID     `json:"by"`
	Name   string `json:"called,omitempty" mevrin:"limit=speaker"`
	At     string `json:"at" mevrin:"form=moment"`
}

// MaxDismissals bounds the dismissed findings of one map.
const MaxDismissals = 5000

// Sound tells what is wrong with a dismissal as a whole.
func (d *Dismissal) Sound() error {
	if !ID(d.Rule).Valid() || !d.By.Valid() {
		return Refusef("A finding that is left as it is names its rule, and who left it.")
	}
	for _, ref := range d.Refs {
		if !ref.ID.Valid() {
			return Refusef("A finding is about things on the map.")
		}
	}
	return nil
}

// Holds tells that a dismissal still stands: what it is about has the words that it had.
func (d *Dismissal) Holds(m *Map) bool {
	for _, ref := range d.Refs {
		now, there := m.WordsAt(Key{ref.Kind, ref.ID})
		if !there {
			return false
		}
		for lang, words := range ref.Seen {
			if now[lang] != words {
				return false
			}
		}
	}
	return true
}

package conceptmap

import (
	"mevrin/core/likeness"
	"slices"
	"strings"
)

// Hand says with which controls a map is worked on.
type Hand string

// The two hands. With the plain one there are a few large controls, and
// nothing on the map can be lost: it performs gentle operations alone.
const (
	HandFull  Hand = ""
	HandPlain Hand = "plain"
)

// Valid tells whether there is such a hand.
func (h Hand) Valid() bool { return h == HandFull || h == HandPlain }

// Map is one concept map: the whole document.
type Map struct {
	ID ID
	Header
	Kinds    map[ID]*Kind
	Tags     map[ID]*Tag
	Concepts map[ID]*Concept
	Links    map[ID]*Link
	Regions  map[ID]*Region
	Filters  map[ID]*Filter
	Routes   map[ID]*Route
	Stops    map[ID]*Stop
	// Comments are what people say about the map, apart from what it says.
	Comments map[ID]*Comment
	// Judgements are what people think of its propositions.
	Judgements map[ID]*Judgement
	// Dismissals are findings of rules that were left as they are.
	Dismissals map[ID]*Dismissal
	// Requirements are the lines of its brief: what it is to have.
	Requirements map[ID]*Requirement
	// Grades are what people gave it by the criteria of its rubric.
	Grades map[ID]*Grade
}

// Header is what a map says of itself: the map seen as an entity.
type Header struct {
	Language Lang `json:"language"` // of the author's words; translations stand beside it
	Title    Text `json:"title,omitempty" mevrin:"limit=title"`
	Question Text `json:"question,omitempty" mevrin:"limit=question"` // the focus question that the map answers
	// Focus is the concept from which levels are counted, or empty. It is
	// chosen, and changes only by SetFocus, by merging, or when it vanishes.
	Focus ID `json:"focus,omitempty" mevrin:"needs=concept"`
	// RulesOff names the rules of package check that this map's author does not
	// want to hear from.
	RulesOff map[string]bool `json:"rulesOff,omitempty" mevrin:"limit=rules"`
	// RuleLeast holds from how much on rules speak that count something, where that is not what
	// they come with.
	RuleLeast map[string]float64 `json:"ruleLeast,omitempty" mevrin:"limit=rules"`
	// OpenJudging lets those who judge see at once what others said of a proposition. Otherwise
	// they see it once all of them have said something of every one.
	OpenJudging bool `json:"openJudging,omitempty"`
	// Brief is what the brief says beside its lines.
	Brief BriefHead `json:"brief,omitzero"`
	// Rubric says what the map earns points for.
	Rubric Rubric `json:"rubric,omitzero"`
	// Tucked names the concepts whose branches are tucked away when somebody
	// opens the map for the first time. One that names nothing means nothing.
	Tucked map[ID]bool `json:"tucked,omitempty" mevrin:"limit=concepts"`
	// Hand says with which controls the map opens.
	Hand Hand `json:"hand,omitempty"`
	// Pattern is how the map was last put in order as a whole, if ever; Freely
	// says that siblings may be exchanged for fewer crossings, and KeepTidy that
	// the map is put in order again after each edit.
	Pattern  Pattern `json:"pattern,omitempty"`
	Freely   bool    `json:"freely,omitempty"`
	KeepTidy bool    `json:"keepTidy,omitempty"`
	Look     Look    `json:"look,omitzero"`
	// Tray holds sources that were gathered and are attached to nothing yet.
	Tray map[ID]Source `json:"tray,omitempty" mevrin:"limit=sources"`
	Note Text          `json:"note,omitempty" mevrin:"limit=note"` // on the map as a whole
	// KeyPlace is where the key stands on the paper; nil where nobody moved it.
	KeyPlace *KeyPlace `json:"keyPlace,omitempty"`
}

// NewMap gives an empty map in a language.
func NewMap(id ID, lang Lang) *Map {
	return (&Map{ID: id, Header: Header{Language: lang}}).Clone()
}

// Clone gives a map whose collections can be altered without touching m.
func (m *Map) Clone() *Map {
	next := *m
	for _, d := range Entities {
		d.ofMap.clone(&next)
	}
	return &next
}

// Name gives what to call the map: its title, else the words of its focus
// concept, which it follows until somebody names the map on purpose, else its
// question. It is empty where there is none of these.
func (m *Map) Name() string {
	if title := m.Words(m.Title); title != "" {
		return title
	}
	if c := m.Concepts[m.Focus]; c != nil && !c.Label.Empty() {
		return strings.Join(strings.Fields(m.Words(c.Label)), " ")
	}
	return m.Words(m.Question)
}

// FirstOf gives the first of some languages in which the map has words, its own where
// there is none.
func (m *Map) FirstOf(langs []Lang) Lang {
	for _, l := range langs {
		if l == m.Language {
			return l
		}
		for _, d := range Entities {
			for _, id := range d.IDs(m) {
				if words, _ := d.Name(d.Get(m, id)); words[l] != "" {
					return l
				}
			}
		}
	}
	return m.Language
}

// Words gives a text in the map's own language, or in any that it has.
func (m *Map) Words(t Text) string { return t.For(m.Language) }

// Says reads a link aloud: each side's concepts joined by commas, for a reader
// of the first language that has words.
func (m *Map) Says(l *Link, langs ...Lang) string {
	langs = append(slices.Clone(langs), m.Language)
	oneLine := func(t Text, otherwise string) string {
		if words := strings.Join(strings.Fields(t.For(langs...)), " "); words != "" {
			return words
		}
		return otherwise
	}
	side := func(ends []End) string {
		names := make([]string, len(ends))
		for i, e := range ends {
			names[i] = "a concept without words"
			if c := m.Concepts[e.Concept]; c != nil {
				names[i] = oneLine(c.Label, names[i])
			}
		}
		return strings.Join(names, ", ")
	}
	return side(l.From) + " " + oneLine(l.Phrase, "(no words yet)") + " " + side(l.To)
}

// Find gives the concept that a label names in the map's own words, whatever
// its case or spaces; of several the one with the least id. Nil where there is
// none.
func (m *Map) Find(label string) *Concept {
	want := likeness.Fold(label)
	if want == "" {
		return nil
	}
	var found *Concept
	for _, c := range m.Concepts {
		if likeness.Fold(m.Words(c.Label)) == want && (found == nil || c.ID < found.ID) {
			found = c
		}
	}
	return found
}

package conceptmap

import (
	"maps"
	"regexp"
	"slices"
	"strings"
)

// ID names a thing within one map, for good. Ids are made by whoever makes the
// thing, usually the page: up to 40 letters, digits, hyphens and underscores.
type ID string

var idForm = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$`)

// Valid tells whether the id has the form of an id.
func (id ID) Valid() bool { return idForm.MatchString(string(id)) }

// Point is a place on the paper in pixels at scale 1, x to the right, y down.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// FarthestPlace bounds both coordinates of a place, in pixels either way.
const FarthestPlace = 200_000

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

// Concept is an idea with a label. It stands once on the map.
type Concept struct {
	ID    ID   `json:"id"`
	Label Text `json:"label,omitempty" mevrin:"limit=label"`
	Note  Text `json:"note,omitempty" mevrin:"limit=note"`
	// NoteCard is how its note lies open on the paper; nil for the ordinary way.
	NoteCard *NoteCard `json:"noteCard,omitempty"`
	// Remark is a short remark that is read with the label.
	Remark Text  `json:"remark,omitempty" mevrin:"limit=remark"`
	At     Point `json:"at"` // the top centre of its slip, whatever its words measure
	// Main is the strand that puts the concept under its parent: the one that
	// first joined it, until the author chooses another or it vanishes. It may
	// run against the arrow of its link. A concept without one is a root.
	Main *Main `json:"main,omitempty"`

	// Kind names what sort of thing the concept is, or is empty. One that names
	// nothing means nothing.
	Kind ID `json:"kind,omitempty"`
	// Tags are those that it carries; one that names nothing means nothing.
	Tags map[ID]bool `json:"tags,omitempty" mevrin:"limit=tags"`
	// Paint is how it looks otherwise than its kind; nil where it does not.
	Paint *Paint `json:"paint,omitempty"`
	// Icons stand beside its label.
	Icons []Icon `json:"icons,omitempty" mevrin:"limit=icons"`

	// Amount is how much it is; Lasts how long it takes, in a unit of duration.
	Amount *Amount `json:"amount,omitempty"`
	Lasts  *Amount `json:"lasts,omitempty" mevrin:"form=duration"`

	// Hold says how firmly it stands where it is; Pattern how its branch is put
	// in order, where that differs from what it hangs from.
	Hold    Hold    `json:"hold,omitempty"`
	Pattern Pattern `json:"pattern,omitempty"`

	// When is the time that it belongs to, as CleanWhen writes it, or empty.
	When string `json:"when,omitempty" mevrin:"form=time"`

	// How the label is set. Size counts steps from the ordinary size, from
	// MinSize to MaxSize; Width is the room for a line in pixels, 0 for as
	// wide as suits the words.
	Size   int     `json:"size,omitempty"`
	Bold   bool    `json:"bold,omitempty"`
	Italic bool    `json:"italic,omitempty"`
	Align  Align   `json:"align,omitempty"`
	Width  float64 `json:"width,omitempty"`

	// Table stands on its slip below the label.
	Table *Table `json:"table,omitempty"`

	// Sources are attached to the concept, by their ids.
	Sources map[ID]Source `json:"sources,omitempty" mevrin:"limit=sources"`

	// Task says what is to be done about it, or is nil.
	Task *Task `json:"task,omitempty"`
	// Votes say who agrees with it (true), and who does not (false).
	Votes map[ID]bool `json:"votes,omitempty" mevrin:"limit=votes,form=ballot"`
}

// Main is a concept's main strand with the rank that orders the concept among
// its siblings there (see KeyBetween). The two are written as one.
type Main struct {
	Strand
	Rank string `json:"rank" mevrin:"form=rank"`
}

// Heads says at which side of a link its arrowheads stand.
type Heads string

// The three ways in which a link can be read.
const (
	HeadsOne  Heads = "one"  // from → to: one proposition for each strand
	HeadsBoth Heads = "both" // from ↔ to: two propositions for each strand
	HeadsNone Heads = "none" // from – to: one proposition, read from left to right
)

// Link joins concepts by a linking phrase. It has at least one end on each
// side; several ends on a side share the phrase. One concept stands at most
// once on a side, and may stand on both (a self-link).
type Link struct {
	ID     ID   `json:"id"`
	Phrase Text `json:"phrase,omitempty" mevrin:"limit=phrase"`
	Note   Text `json:"note,omitempty" mevrin:"limit=note"`
	// NoteCard is how its note lies open on the paper; nil for the ordinary way.
	NoteCard *NoteCard `json:"noteCard,omitempty"`
	// Kind names what sort of link it is, or is empty.
	Kind  ID    `json:"kind,omitempty"`
	Heads Heads `json:"heads"`
	From  []End `json:"from"` // in the order of their ids
	To    []End `json:"to"`   // in the order of their ids

	// How the line is led; all absent: by itself. Bends are places that it
	// passes between an end and the phrase, by the id of the end, in the order
	// from there; one that names no end means nothing. Along says where on a
	// line between two concepts the phrase stands, as a part of its length
	// (0 stands for the middle). Hub is where several ends meet at their phrase.
	Line  Line           `json:"line,omitempty"`
	Bends map[ID][]Point `json:"bends,omitempty"`
	Along float64        `json:"along,omitempty"`
	Hub   *Point         `json:"hub,omitempty"`
	// Tidied says that the line was led by putting the map in order, not by
	// hand: when one of its concepts moves it runs by itself again.
	Tidied bool `json:"tidied,omitempty"`

	// Sources are attached to the link, by their ids.
	Sources map[ID]Source `json:"sources,omitempty" mevrin:"limit=sources"`
}

// End is where a link meets a concept. Its id is unique within the link.
type End struct {
	ID      ID `json:"id"`
	Concept ID `json:"concept"`
}

// Strand is one way through a link: from one of its from-ends to one of its
// to-ends. What is said of a single proposition (main, judged, bent) belongs
// to a strand.
type Strand struct {
	Link ID `json:"link"`
	From ID `json:"from"` // the id of an end
	To   ID `json:"to"`   // the id of an end
}

// Route is a way through the map that somebody chose.
type Route struct {
	ID    ID   `json:"id"`
	Title Text `json:"title,omitempty" mevrin:"limit=title"`
}

// Stop is one step of a route. It outlives what it shows: deleting a concept
// or a link leaves its stops standing, with the words that were last seen.
type Stop struct {
	ID         ID     `json:"id"`
	Route      ID     `json:"route" mevrin:"needs=route"`
	Rank       string `json:"rank" mevrin:"form=rank"` // orders the stops of a route (see KeyBetween)
	Title      Text   `json:"title,omitempty" mevrin:"limit=title"`
	Card       Text   `json:"card,omitempty" mevrin:"limit=note"`       // what the learner reads, Markdown
	GuideNotes Text   `json:"guideNotes,omitempty" mevrin:"limit=note"` // for the one who guides, never for the room
	Refs       []Ref  `json:"refs,omitempty" mevrin:"limit=refs"`
}

// Ref points from a stop to what it shows, or from a comment to what it is about,
// which may be gone. Seen holds the words that stood there when last recorded: at the
// making of the reference and when its target vanished.
type Ref struct {
	Kind Entity `json:"kind"`
	ID   ID     `json:"id"`
	Seen Text   `json:"seen,omitempty" mevrin:"limit=label"`
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

// Ends gives all ends of the link, those of the from-side first.
func (l *Link) Ends() []End { return slices.Concat(l.From, l.To) }

// Strands gives every way through the link, in the order of from-ends and,
// for each, of to-ends.
func (l *Link) Strands() []Strand {
	all := make([]Strand, 0, len(l.From)*len(l.To))
	for _, f := range l.From {
		for _, t := range l.To {
			all = append(all, Strand{l.ID, f.ID, t.ID})
		}
	}
	return all
}

// Between gives the concepts that a strand joins; ok is false where the
// strand does not exist in m.
func (m *Map) Between(s Strand) (from, to ID, ok bool) {
	l := m.Links[s.Link]
	if l == nil {
		return "", "", false
	}
	f, t := findEnd(l.From, s.From), findEnd(l.To, s.To)
	if f < 0 || t < 0 {
		return "", "", false
	}
	return l.From[f].Concept, l.To[t].Concept, true
}

// Rank gives the concept's rank among its siblings, "" for a root.
func (c *Concept) Rank() string {
	if c.Main == nil {
		return ""
	}
	return c.Main.Rank
}

// Parent gives the concept above c by its main strand, or "" for a root and
// where the main strand does not hold.
func (m *Map) Parent(c *Concept) ID {
	if c == nil || c.Main == nil {
		return ""
	}
	from, to, ok := m.Between(c.Main.Strand)
	switch {
	case !ok || from == to:
		return ""
	case from == c.ID:
		return to
	case to == c.ID:
		return from
	}
	return ""
}

func findEnd(ends []End, id ID) int {
	return slices.IndexFunc(ends, func(e End) bool { return e.ID == id })
}

func hasConcept(ends []End, c ID) bool {
	return slices.ContainsFunc(ends, func(e End) bool { return e.Concept == c })
}

func sortEnds(ends []End) []End {
	ends = slices.Clone(ends)
	slices.SortFunc(ends, func(a, b End) int { return strings.Compare(string(a.ID), string(b.ID)) })
	return ends
}

// SortedIDs gives the keys of a collection in the order of ids.
func SortedIDs[V any](all map[ID]V) []ID {
	return slices.Sorted(maps.Keys(all))
}

// InOrder gives the things of a collection in the order of their ids.
func InOrder[V any](all map[ID]V) []V {
	list := make([]V, 0, len(all))
	for _, id := range SortedIDs(all) {
		list = append(list, all[id])
	}
	return list
}

// siblings gives the children of a parent in the order of their ranks.
func (m *Map) siblings(parent ID) []*Concept {
	var all []*Concept
	for _, id := range SortedIDs(m.Concepts) {
		if c := m.Concepts[id]; c.Main != nil && m.Parent(c) == parent {
			all = append(all, c)
		}
	}
	sortByRank(all)
	return all
}

func sortByRank(all []*Concept) {
	slices.SortStableFunc(all, func(a, b *Concept) int { return strings.Compare(a.Rank(), b.Rank()) })
}

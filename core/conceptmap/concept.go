package conceptmap

import (
	"math"
	"slices"
	"strings"
)

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
	// Ordered says that its author put what hangs from it in order: it keeps that order,
	// whatever else may change places on the map.
	Ordered bool `json:"ordered,omitempty"`

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
	// Apart names concepts of which somebody said that this one is not to be linked to them; of
	// two it stands at that whose id comes first. One that names nothing means nothing.
	Apart map[ID]bool `json:"apart,omitempty" mevrin:"limit=apart"`
	Votes map[ID]bool `json:"votes,omitempty" mevrin:"limit=votes,form=ballot"`
}

// Main is a concept's main strand with the rank that orders the concept among
// its siblings there (see KeyBetween). The two are written as one.
type Main struct {
	Strand
	Rank string `json:"rank" mevrin:"form=rank"`
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

// Siblings gives the children of a parent in the order of their ranks.
func (m *Map) Siblings(parent ID) []*Concept {
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

// NoteCard is how a note looks where it lies open on the paper, and where it does.
type NoteCard struct {
	Colour Colour `json:"colour,omitempty"`
	// Off is how far its upper left corner lies from what it belongs to, in pixels
	// at scale 1: from the top centre of a slip, the middle of a phrase, the upper
	// left corner of a region's tab. Nil where it finds a free place by itself.
	Off *Point `json:"off,omitempty"`
}

// FarthestNote bounds how far a note lies from what it belongs to, in pixels
// either way.
const FarthestNote = 4000

// Valid tells whether a note can lie so.
func (n *NoteCard) Valid() bool {
	return n == nil || n.Colour.Valid() && *n != (NoteCard{}) && (n.Off == nil || near(n.Off.X) && near(n.Off.Y))
}

func near(v float64) bool { return !math.IsNaN(v) && math.Abs(v) <= FarthestNote }

// MaxRemark is how many characters a remark has at most.
const MaxRemark = 160

// Align says at which side the lines of a label begin or end.
type Align string

// The three ways to align a label.
const (
	AlignCentre Align = ""
	AlignLeft   Align = "left"
	AlignRight  Align = "right"
)

// The bounds of a label's setting: steps of size, and width in pixels.
const (
	MinSize  = -2
	MaxSize  = 4
	MinWidth = 40
	MaxWidth = 900
)

// Sound tells what is wrong with how a concept's label is set.
func (c *Concept) Sound() error {
	if c.Size >= MinSize && c.Size <= MaxSize &&
		(c.Align == AlignCentre || c.Align == AlignLeft || c.Align == AlignRight) &&
		(c.Width == 0 || c.Width >= MinWidth && c.Width <= MaxWidth) {
		return nil
	}
	return Refusef("A label cannot be set that way.")
}

// Table is a small table on a slip.
type Table struct {
	Head bool       `json:"head,omitempty"` // the first row are headings
	Rows [][]string `json:"rows"`           // each as long as the first
}

// The bounds of a table.
const (
	MaxRows    = 60
	MaxColumns = 12
	MaxCell    = 200 // characters
)

// Valid tells whether the table is within its bounds, with rows of one length.
func (t *Table) Valid() bool {
	if t == nil {
		return true
	}
	if len(t.Rows) == 0 || len(t.Rows) > MaxRows || len(t.Rows[0]) == 0 || len(t.Rows[0]) > MaxColumns {
		return false
	}
	for _, row := range t.Rows {
		if len(row) != len(t.Rows[0]) || slices.ContainsFunc(row, func(cell string) bool {
			clean, err := Clean(cell, MaxCell, "")
			return err != nil || clean != cell
		}) {
			return false
		}
	}
	return true
}

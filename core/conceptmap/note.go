package conceptmap

import (
	"maps"
	"math"
	"slices"
	"unicode/utf8"
)

// SetNote writes the note of a concept, a link, a region or the map itself in one
// language; empty words remove it.
type SetNote struct {
	On   Key    `json:"on"`
	Lang Lang   `json:"lang,omitempty"`
	Note string `json:"note"`
}

func (op *SetNote) apply(d *editing) error {
	note, err := cleanNote(op.Note, "A note")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	switch op.On.Kind {
	case EntityConcept:
		c, err := d.concept(op.On.ID)
		if err != nil {
			return err
		}
		c.Note = c.Note.With(lang, note)
		d.putConcept(c)
	case EntityLink:
		l, err := d.link(op.On.ID)
		if err != nil {
			return err
		}
		l.Note = l.Note.With(lang, note)
		d.putLink(l)
	case EntityRegion:
		was := d.m.Regions[op.On.ID]
		if was == nil {
			return Refusef("That region is gone.")
		}
		next := *was
		next.Note = next.Note.With(lang, note)
		d.putRegion(&next)
	case EntityMap:
		d.m.Note = d.m.Note.With(lang, note)
		d.putHeader()
	default:
		return Refusef("Only concepts, links, regions and maps have notes.")
	}
	return nil
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

func (n *NoteCard) Valid() bool {
	return n == nil || n.Colour.Valid() && *n != (NoteCard{}) && (n.Off == nil || near(n.Off.X) && near(n.Off.Y))
}

func near(v float64) bool { return !math.IsNaN(v) && math.Abs(v) <= FarthestNote }

// SetNoteCard says how the note of a concept, a link or a region looks where it
// lies open, and where: what is nil stays.
type SetNoteCard struct {
	On     Key     `json:"on"`
	Colour *Colour `json:"colour,omitempty"`
	Off    *Point  `json:"off,omitempty"`
	Free   bool    `json:"free,omitempty"` // it finds its place by itself again
}

func (op *SetNoteCard) apply(d *editing) error {
	dress := func(was *NoteCard) (*NoteCard, error) {
		next := NoteCard{}
		if was != nil {
			next = *was
		}
		set(&next.Colour, op.Colour)
		if op.Free {
			next.Off = nil
		}
		if op.Off != nil {
			off := roundPoint(*op.Off)
			next.Off = &off
		}
		if next == (NoteCard{}) {
			return nil, nil
		}
		if !next.Valid() {
			return nil, Refusef("A note lies within %d pixels of what it belongs to, in one of the colours of the map.", FarthestNote)
		}
		return &next, nil
	}
	switch op.On.Kind {
	case EntityConcept:
		c, err := d.concept(op.On.ID)
		if err == nil {
			c.NoteCard, err = dress(c.NoteCard)
		}
		if err != nil {
			return err
		}
		d.putConcept(c)
	case EntityLink:
		l, err := d.link(op.On.ID)
		if err == nil {
			l.NoteCard, err = dress(l.NoteCard)
		}
		if err != nil {
			return err
		}
		d.putLink(l)
	case EntityRegion:
		was := d.m.Regions[op.On.ID]
		if was == nil {
			return Refusef("That region is gone.")
		}
		next, err := *was, error(nil)
		if next.NoteCard, err = dress(was.NoteCard); err != nil {
			return err
		}
		d.putRegion(&next)
	default:
		return Refusef("Only notes of concepts, links and regions lie on the paper.")
	}
	return nil
}

// MaxRemark is how many characters a remark has at most.
const MaxRemark = 160

// SetRemark writes a short remark that is fixed to a concept and read with it;
// empty words remove it.
type SetRemark struct {
	Concept ID     `json:"concept"`
	Lang    Lang   `json:"lang,omitempty"`
	Remark  string `json:"remark"`
}

func (op *SetRemark) apply(d *editing) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	words, err := Clean(op.Remark, MaxRemark, "A remark")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	c.Remark = c.Remark.With(lang, words)
	d.putConcept(c)
	return nil
}

// joinRemarks puts a second remark behind a first, and into the note where both
// together are too long.
func (d *editing) joinRemarks(keep *Concept, other Text) error {
	for _, l := range slices.SortedFunc(maps.Keys(other), compareLangs) {
		words, had := other[l], keep.Remark[l]
		switch joined := had + "; " + words; {
		case words == had:
		case had == "":
			keep.Remark = keep.Remark.With(l, words)
		case utf8.RuneCountInString(joined) <= MaxRemark:
			keep.Remark = keep.Remark.With(l, joined)
		default:
			if err := d.joinNotes(&keep.Note, Text{l: words}); err != nil {
				return err
			}
		}
	}
	return nil
}

package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
	"slices"
	"strings"
	"unicode/utf8"
)

// joinNotes puts a second note below a first.
func (d *editing) joinNotes(kept *cm.Text, other cm.Text) error {
	for _, l := range slices.SortedFunc(maps.Keys(other), cm.CompareLangs) {
		words, had := other[l], (*kept)[l]
		if words == had {
			continue
		}
		if had != "" {
			words = had + "\n\n" + words
		}
		note, err := cm.Clean(words, cm.MaxNote, "The note of what is joined")
		if err != nil {
			return err
		}
		*kept = kept.With(l, note)
	}
	return nil
}

// fitted gives the words that a thing is named by and, where some were left off, all of them.
func fitted(words string, limit int, shorten bool) (kept, whole string) {
	words = strings.TrimSpace(words)
	if kept = words; shorten {
		kept = cm.Shortened(words, limit)
	}
	if kept != words {
		whole = words
	}
	return kept, whole
}

// keepWhole adds to a note all words of a name that was shortened, if it was.
func (d *editing) keepWhole(on cm.Key, lang cm.Lang, whole string) error {
	if whole == "" {
		return nil
	}
	note := SetNote{On: on, Lang: lang, Note: whole, Append: true}
	return note.apply(d)
}

// SetNote writes the note of a concept, a link, a region or the map itself in one
// language; empty words remove it.
type SetNote struct {
	On   cm.Key  `json:"on"`
	Lang cm.Lang `json:"lang,omitempty"`
	Note string  `json:"note"`
	// Append puts the words below those that are there.
	Append bool `json:"append,omitempty"`
}

func (op *SetNote) apply(d *editing) error {
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	written := func(was cm.Text) (cm.Text, error) {
		words := op.Note
		if op.Append && was[lang] != "" {
			words = was[lang] + "\n\n" + words
		}
		note, err := cm.CleanNote(words, "A note")
		return was.With(lang, note), err
	}
	switch op.On.Kind {
	case cm.EntityConcept:
		c, err := d.Concept(op.On.ID)
		if err != nil {
			return err
		}
		if c.Note, err = written(c.Note); err != nil {
			return err
		}
		d.Put(c)
	case cm.EntityLink:
		l, err := d.Link(op.On.ID)
		if err != nil {
			return err
		}
		if l.Note, err = written(l.Note); err != nil {
			return err
		}
		d.Put(l)
	case cm.EntityRegion:
		was := d.Map.Regions[op.On.ID]
		if was == nil {
			return cm.Refusef("That region is gone.")
		}
		next := *was
		if next.Note, err = written(was.Note); err != nil {
			return err
		}
		d.Put(&next)
	case cm.EntityMap:
		note, err := written(d.Map.Note)
		if err != nil {
			return err
		}
		d.Map.Note = note
		d.TouchHeader()
	default:
		return cm.Refusef("Only concepts, links, regions and maps have notes.")
	}
	return nil
}

// SetNoteCard says how the note of a concept, a link or a region looks where it
// lies open, and where: what is nil stays.
type SetNoteCard struct {
	On     cm.Key     `json:"on"`
	Colour *cm.Colour `json:"colour,omitempty"`
	Off    *cm.Point  `json:"off,omitempty"`
	Free   bool       `json:"free,omitempty"` // it finds its place by itself again
}

func (op *SetNoteCard) apply(d *editing) error {
	dress := func(was *cm.NoteCard) (*cm.NoteCard, error) {
		next := cm.NoteCard{}
		if was != nil {
			next = *was
		}
		set(&next.Colour, op.Colour)
		if op.Free {
			next.Off = nil
		}
		if op.Off != nil {
			off := cm.RoundPoint(*op.Off)
			next.Off = &off
		}
		if next == (cm.NoteCard{}) {
			return nil, nil
		}
		if !next.Valid() {
			return nil, cm.Refusef("A note lies within %d pixels of what it belongs to, in one of the colours of the map.", cm.FarthestNote)
		}
		return &next, nil
	}
	switch op.On.Kind {
	case cm.EntityConcept:
		c, err := d.Concept(op.On.ID)
		if err == nil {
			c.NoteCard, err = dress(c.NoteCard)
		}
		if err != nil {
			return err
		}
		d.Put(c)
	case cm.EntityLink:
		l, err := d.Link(op.On.ID)
		if err == nil {
			l.NoteCard, err = dress(l.NoteCard)
		}
		if err != nil {
			return err
		}
		d.Put(l)
	case cm.EntityRegion:
		was := d.Map.Regions[op.On.ID]
		if was == nil {
			return cm.Refusef("That region is gone.")
		}
		next, err := *was, error(nil)
		if next.NoteCard, err = dress(was.NoteCard); err != nil {
			return err
		}
		d.Put(&next)
	default:
		return cm.Refusef("Only notes of concepts, links and regions lie on the paper.")
	}
	return nil
}

// SetRemark writes a short remark that is fixed to a concept and read with it;
// empty words remove it.
type SetRemark struct {
	Concept cm.ID   `json:"concept"`
	Lang    cm.Lang `json:"lang,omitempty"`
	Remark  string  `json:"remark"`
}

func (op *SetRemark) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	words, err := cm.Clean(op.Remark, cm.MaxRemark, "A remark")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	c.Remark = c.Remark.With(lang, words)
	d.Put(c)
	return nil
}

// joinRemarks puts a second remark behind a first, and into the note where both
// together are too long.
func (d *editing) joinRemarks(keep *cm.Concept, other cm.Text) error {
	for _, l := range slices.SortedFunc(maps.Keys(other), cm.CompareLangs) {
		words, had := other[l], keep.Remark[l]
		switch joined := had + "; " + words; {
		case words == had:
		case had == "":
			keep.Remark = keep.Remark.With(l, words)
		case utf8.RuneCountInString(joined) <= cm.MaxRemark:
			keep.Remark = keep.Remark.With(l, joined)
		default:
			if err := d.joinNotes(&keep.Note, cm.Text{l: words}); err != nil {
				return err
			}
		}
	}
	return nil
}

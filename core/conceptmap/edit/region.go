package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
)

// AddRegion draws a region around concepts, and around whole branches.
type AddRegion struct {
	ID       cm.ID     `json:"id"`
	Lang     cm.Lang   `json:"lang,omitempty"`
	Title    string    `json:"title,omitempty"`
	Concepts []cm.ID   `json:"concepts,omitempty"`
	Branches []cm.ID   `json:"branches,omitempty"`
	Colour   cm.Colour `json:"colour,omitempty"`
	Stroke   cm.Stroke `json:"stroke,omitempty"`
	Filled   bool      `json:"filled,omitempty"`
}

func (op *AddRegion) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if len(d.Map.Regions) >= cm.MaxRegions {
		return cm.Refusef("A map can have at most %d regions.", cm.MaxRegions)
	}
	if len(op.Concepts)+len(op.Branches) == 0 {
		return cm.Refusef("A region needs something inside: select at least one concept.")
	}
	r := &cm.Region{ID: op.ID, Colour: op.Colour, Stroke: op.Stroke, Filled: op.Filled}
	if err := d.inRegion(r, op.Concepts, op.Branches, true); err != nil {
		return err
	}
	return d.setRegion(r, op.Lang, &op.Title, nil)
}

// inRegion puts concepts and branches into a region, or takes them out.
func (d *editing) inRegion(r *cm.Region, concepts, branches []cm.ID, in bool) error {
	for _, list := range [2][]cm.ID{concepts, branches} {
		for _, id := range list {
			if _, err := d.Concept(id); err != nil {
				return err
			}
		}
	}
	for _, id := range concepts {
		r.Members = cm.WithMember(r.Members, id, in)
		if !in {
			r.Branches = cm.WithMember(r.Branches, id, false)
		}
	}
	for _, id := range branches {
		r.Branches = cm.WithMember(r.Branches, id, in)
	}
	return nil
}

// SetRegion changes how a region is called and looks: what is nil stays.
type SetRegion struct {
	Region cm.ID      `json:"region"`
	Lang   cm.Lang    `json:"lang,omitempty"`
	Title  *string    `json:"title,omitempty"`
	Note   *string    `json:"note,omitempty"`
	Colour *cm.Colour `json:"colour,omitempty"`
	Stroke *cm.Stroke `json:"stroke,omitempty"`
	Filled *bool      `json:"filled,omitempty"`
}

func (op *SetRegion) apply(d *editing) error {
	was := d.Map.Regions[op.Region]
	if was == nil {
		return cm.Refusef("That region is gone.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	set(&next.Stroke, op.Stroke)
	set(&next.Filled, op.Filled)
	return d.setRegion(&next, op.Lang, op.Title, op.Note)
}

func (d *editing) setRegion(r *cm.Region, language cm.Lang, title, note *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if title != nil {
		words, err := cm.Clean(*title, cm.MaxTitle, "The title of a region")
		if err != nil {
			return err
		}
		r.Title = r.Title.With(lang, words)
	}
	if note != nil {
		words, err := cm.CleanNote(*note, "The note of a region")
		if err != nil {
			return err
		}
		r.Note = r.Note.With(lang, words)
	}
	if !r.Colour.Valid() || !r.Stroke.Valid() {
		return cm.Refusef("There is no such colour or border.")
	}
	d.Put(r)
	return nil
}

// PutInRegion puts concepts and whole branches into a region, or takes them out
// of it. What is inside by its branch leaves with the branch alone.
type PutInRegion struct {
	Region   cm.ID   `json:"region"`
	Concepts []cm.ID `json:"concepts,omitempty"`
	Branches []cm.ID `json:"branches,omitempty"`
	In       bool    `json:"in"`
}

func (op *PutInRegion) apply(d *editing) error {
	was := d.Map.Regions[op.Region]
	if was == nil {
		return cm.Refusef("That region is gone.")
	}
	next := *was
	if err := d.inRegion(&next, op.Concepts, op.Branches, op.In); err != nil {
		return err
	}
	if maps.Equal(next.Members, was.Members) && maps.Equal(next.Branches, was.Branches) && !op.In {
		return cm.Refusef("It is inside with its branch. Take the branch out, or put it below something else.")
	}
	d.Put(&next)
	return nil
}

// RemoveRegion takes an outline away; what was inside stays.
type RemoveRegion struct {
	Region cm.ID `json:"region"`
}

func (op *RemoveRegion) apply(d *editing) error {
	r := d.Map.Regions[op.Region]
	if r == nil {
		return cm.Refusef("That region is gone.")
	}
	d.RememberWords(cm.Key{Kind: cm.EntityRegion, ID: r.ID}, r.Title)
	delete(d.Map.Regions, op.Region)
	d.Touch(cm.EntityRegion, op.Region)
	return nil
}

// redirectRegions puts the heir of a concept that goes where that one was.
func (d *editing) redirectRegions(gone, heir cm.ID) {
	for _, id := range cm.SortedIDs(d.Map.Regions) {
		r := d.Map.Regions[id]
		if !r.Members[gone] && !r.Branches[gone] {
			continue
		}
		next := *r
		if r.Members[gone] {
			next.Members = cm.WithMember(cm.WithMember(r.Members, gone, false), heir, true)
		}
		if r.Branches[gone] {
			next.Branches = cm.WithMember(cm.WithMember(r.Branches, gone, false), heir, true)
		}
		d.Put(&next)
	}
}

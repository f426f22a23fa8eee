package conceptmap

import "maps"

// Region is an outline around some concepts, with a title. It follows them
// wherever they stand. A member that names nothing means nothing.
type Region struct {
	ID    ID   `json:"id"`
	Title Text `json:"title,omitempty" mevrin:"limit=title"`
	Note  Text `json:"note,omitempty" mevrin:"limit=note"`
	// NoteCard is how its note lies open on the paper; nil for the ordinary way.
	NoteCard *NoteCard `json:"noteCard,omitempty"`
	// Members are concepts inside; Branches are concepts that are inside with all
	// that hangs from them, now or later.
	Members  map[ID]bool `json:"members,omitempty" mevrin:"limit=concepts"`
	Branches map[ID]bool `json:"branches,omitempty" mevrin:"limit=concepts"`
	Colour   Colour      `json:"colour,omitempty"`
	Stroke   Stroke      `json:"stroke,omitempty"`
	// Filled says that the paper inside is tinted with the colour.
	Filled bool `json:"filled,omitempty"`
}

// MaxRegions bounds the regions of a map.
const MaxRegions = 500

// Inside tells which concepts of the map lie inside a region, by what hangs from
// what.
func (m *Map) Inside(r *Region) map[ID]bool {
	inside := map[ID]bool{}
	for id := range r.Members {
		if m.Concepts[id] != nil {
			inside[id] = true
		}
	}
	if len(r.Branches) == 0 {
		return inside
	}
	for id := range m.Concepts {
		at := id
		for range len(m.Concepts) { // hierarchies have no rings; what came from outside might
			if r.Branches[at] {
				inside[id] = true
				break
			}
			if at = m.Parent(m.Concepts[at]); at == "" {
				break
			}
		}
	}
	return inside
}

// AddRegion draws a region around concepts, and around whole branches.
type AddRegion struct {
	ID       ID     `json:"id"`
	Lang     Lang   `json:"lang,omitempty"`
	Title    string `json:"title,omitempty"`
	Concepts []ID   `json:"concepts,omitempty"`
	Branches []ID   `json:"branches,omitempty"`
	Colour   Colour `json:"colour,omitempty"`
	Stroke   Stroke `json:"stroke,omitempty"`
	Filled   bool   `json:"filled,omitempty"`
}

func (op *AddRegion) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	if len(d.m.Regions) >= MaxRegions {
		return Refusef("A map can have at most %d regions.", MaxRegions)
	}
	if len(op.Concepts)+len(op.Branches) == 0 {
		return Refusef("A region needs something inside: select at least one concept.")
	}
	r := &Region{ID: op.ID, Colour: op.Colour, Stroke: op.Stroke, Filled: op.Filled}
	if err := d.inRegion(r, op.Concepts, op.Branches, true); err != nil {
		return err
	}
	return d.setRegion(r, op.Lang, &op.Title, nil)
}

// inRegion puts concepts and branches into a region, or takes them out.
func (d *editing) inRegion(r *Region, concepts, branches []ID, in bool) error {
	for _, list := range [2][]ID{concepts, branches} {
		for _, id := range list {
			if _, err := d.concept(id); err != nil {
				return err
			}
		}
	}
	for _, id := range concepts {
		r.Members = with(r.Members, id, in)
		if !in {
			r.Branches = with(r.Branches, id, false)
		}
	}
	for _, id := range branches {
		r.Branches = with(r.Branches, id, in)
	}
	return nil
}

// SetRegion changes how a region is called and looks: what is nil stays.
type SetRegion struct {
	Region ID      `json:"region"`
	Lang   Lang    `json:"lang,omitempty"`
	Title  *string `json:"title,omitempty"`
	Note   *string `json:"note,omitempty"`
	Colour *Colour `json:"colour,omitempty"`
	Stroke *Stroke `json:"stroke,omitempty"`
	Filled *bool   `json:"filled,omitempty"`
}

func (op *SetRegion) apply(d *editing) error {
	was := d.m.Regions[op.Region]
	if was == nil {
		return Refusef("That region is gone.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	set(&next.Stroke, op.Stroke)
	set(&next.Filled, op.Filled)
	return d.setRegion(&next, op.Lang, op.Title, op.Note)
}

func (d *editing) setRegion(r *Region, language Lang, title, note *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if title != nil {
		words, err := Clean(*title, MaxTitle, "The title of a region")
		if err != nil {
			return err
		}
		r.Title = r.Title.With(lang, words)
	}
	if note != nil {
		words, err := cleanNote(*note, "The note of a region")
		if err != nil {
			return err
		}
		r.Note = r.Note.With(lang, words)
	}
	if !r.Colour.Valid() || !r.Stroke.Valid() {
		return Refusef("There is no such colour or border.")
	}
	d.putRegion(r)
	return nil
}

// PutInRegion puts concepts and whole branches into a region, or takes them out
// of it. What is inside by its branch leaves with the branch alone.
type PutInRegion struct {
	Region   ID   `json:"region"`
	Concepts []ID `json:"concepts,omitempty"`
	Branches []ID `json:"branches,omitempty"`
	In       bool `json:"in"`
}

func (op *PutInRegion) apply(d *editing) error {
	was := d.m.Regions[op.Region]
	if was == nil {
		return Refusef("That region is gone.")
	}
	next := *was
	if err := d.inRegion(&next, op.Concepts, op.Branches, op.In); err != nil {
		return err
	}
	if maps.Equal(next.Members, was.Members) && maps.Equal(next.Branches, was.Branches) && !op.In {
		return Refusef("It is inside with its branch. Take the branch out, or put it below something else.")
	}
	d.putRegion(&next)
	return nil
}

// RemoveRegion takes an outline away; what was inside stays.
type RemoveRegion struct {
	Region ID `json:"region"`
}

func (op *RemoveRegion) apply(d *editing) error {
	r := d.m.Regions[op.Region]
	if r == nil {
		return Refusef("That region is gone.")
	}
	d.rememberWords(Key{EntityRegion, r.ID}, r.Title)
	delete(d.m.Regions, op.Region)
	d.touch(EntityRegion, op.Region)
	return nil
}

// redirectRegions puts the heir of a concept that goes where that one was.
func (d *editing) redirectRegions(gone, heir ID) {
	for _, id := range SortedIDs(d.m.Regions) {
		r := d.m.Regions[id]
		if !r.Members[gone] && !r.Branches[gone] {
			continue
		}
		next := *r
		if r.Members[gone] {
			next.Members = with(with(r.Members, gone, false), heir, true)
		}
		if r.Branches[gone] {
			next.Branches = with(with(r.Branches, gone, false), heir, true)
		}
		d.putRegion(&next)
	}
}

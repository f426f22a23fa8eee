package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// SaveFilter keeps a filter under a name: a new one, or one that is there.
type SaveFilter struct {
	ID         cm.ID          `json:"id"`
	Lang       cm.Lang        `json:"lang,omitempty"`
	Name       string         `json:"name"`
	Match      cm.Match       `json:"match"`
	Conditions []cm.Condition `json:"conditions"`
	Hide       bool           `json:"hide,omitempty"`
}

func (op *SaveFilter) apply(d *editing) error {
	f := &cm.Filter{ID: op.ID}
	if was := d.Map.Filters[op.ID]; was != nil {
		*f = *was
	} else {
		if err := d.Free(op.ID); err != nil {
			return err
		}
		if len(d.Map.Filters) >= cm.MaxFilters {
			return cm.Refusef("A map can keep at most %d filters.", cm.MaxFilters)
		}
		last := ""
		for _, o := range d.Map.Filters {
			last = max(last, o.Rank)
		}
		f.Rank = cm.KeyBetween(last, "")
	}
	name, err := cm.Clean(op.Name, cm.MaxKindName, "The name of a filter")
	if err != nil {
		return err
	}
	if name == "" {
		return cm.Refusef("A filter needs at least one word as its name.")
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	f.Name, f.Match, f.Conditions, f.Hide = f.Name.With(lang, name), op.Match, op.Conditions, op.Hide
	if len(f.Conditions) == 0 {
		return cm.Refusef("This filter asks for nothing yet.")
	}
	if err := f.Sound(); err != nil {
		return err
	}
	d.Put(f)
	return nil
}

// RemoveFilter forgets a filter.
type RemoveFilter struct {
	Filter cm.ID `json:"filter"`
}

func (op *RemoveFilter) apply(d *editing) error {
	if d.Map.Filters[op.Filter] == nil {
		return cm.Refusef("That filter is gone.")
	}
	delete(d.Map.Filters, op.Filter)
	d.Touch(cm.EntityFilter, op.Filter)
	return nil
}

// AddTag makes a tag. As a kind, it is not made again where one of its name is
// there and Reuse is set.
type AddTag struct {
	ID     cm.ID     `json:"id"`
	Lang   cm.Lang   `json:"lang,omitempty"`
	Name   string    `json:"name"`
	Colour cm.Colour `json:"colour,omitempty"`
	Reuse  bool      `json:"reuse,omitempty"`
}

func (op *AddTag) apply(d *editing) error {
	if op.Reuse {
		for _, t := range d.Map.TagList() {
			if likeness.Fold(d.Map.Words(t.Name)) == likeness.Fold(op.Name) {
				d.meant[op.ID] = t.ID
				return nil
			}
		}
	}
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if len(d.Map.Tags) >= cm.MaxTags {
		return cm.Refusef("A map can have at most %d tags.", cm.MaxTags)
	}
	t := &cm.Tag{ID: op.ID, Colour: op.Colour}
	last := ""
	for _, o := range d.Map.Tags {
		last = max(last, o.Rank)
	}
	t.Rank = cm.KeyBetween(last, "")
	return d.setTag(t, op.Lang, &op.Name)
}

// SetTag renames or recolours a tag: what is nil stays as it is.
type SetTag struct {
	Tag    cm.ID      `json:"tag"`
	Lang   cm.Lang    `json:"lang,omitempty"`
	Name   *string    `json:"name,omitempty"`
	Colour *cm.Colour `json:"colour,omitempty"`
}

func (op *SetTag) apply(d *editing) error {
	was := d.Map.Tags[op.Tag]
	if was == nil {
		return cm.Refusef("That tag is gone.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	return d.setTag(&next, op.Lang, op.Name)
}

func (d *editing) setTag(t *cm.Tag, language cm.Lang, name *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if name != nil {
		words, err := cm.Clean(*name, cm.MaxKindName, "The name of a tag")
		if err != nil {
			return err
		}
		if words == "" {
			return cm.Refusef("A tag needs at least one word as its name.")
		}
		for _, o := range d.Map.Tags {
			if o.ID != t.ID && likeness.Fold(d.Map.Words(o.Name)) == likeness.Fold(words) {
				return cm.Refusef("There is a tag “%s” already.", words)
			}
		}
		t.Name = t.Name.With(lang, words)
	}
	if !t.Colour.Valid() {
		return cm.Refusef("There is no such colour.")
	}
	d.Put(t)
	return nil
}

// RemoveTag takes a tag off the map and off its concepts.
type RemoveTag struct {
	Tag cm.ID `json:"tag"`
}

func (op *RemoveTag) apply(d *editing) error {
	if d.Map.Tags[op.Tag] == nil {
		return cm.Refusef("That tag is gone.")
	}
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		if c := d.Map.Concepts[id]; c.Tags[op.Tag] {
			next := *c
			next.Tags = cm.WithMember(c.Tags, op.Tag, false)
			d.Put(&next)
		}
	}
	delete(d.Map.Tags, op.Tag)
	d.Touch(cm.EntityTag, op.Tag)
	return nil
}

// AssignTag puts a tag on concepts, or takes it off them.
type AssignTag struct {
	Concepts []cm.ID `json:"concepts"`
	Tag      cm.ID   `json:"tag"`
	On       bool    `json:"on"`
}

func (op *AssignTag) apply(d *editing) error {
	tag := op.Tag
	if meant, ok := d.meant[tag]; ok {
		tag = meant
	}
	if d.Map.Tags[tag] == nil {
		return cm.Refusef("That tag is gone.")
	}
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if c.Tags[tag] != op.On {
			c.Tags = cm.WithMember(c.Tags, tag, op.On)
			d.Put(c)
		}
	}
	return nil
}

package conceptmap

import (
	"maps"
	"slices"
	"strings"
)

// Tag is a word by which concepts are found and filtered. A concept may carry
// any number.
type Tag struct {
	ID     ID     `json:"id"`
	Name   Text   `json:"name,omitempty" mevrin:"limit=name"`
	Colour Colour `json:"colour,omitempty"`
	Rank   string `json:"rank" mevrin:"form=rank"` // orders the tags (see KeyBetween)
}

// MaxTags bounds the tags of a map.
const MaxTags = 200

// TagList gives all tags in their order.
func (m *Map) TagList() []*Tag {
	all := InOrder(m.Tags)
	slices.SortStableFunc(all, func(a, b *Tag) int { return strings.Compare(a.Rank, b.Rank) })
	return all
}

// AddTag makes a tag. As a kind, it is not made again where one of its name is
// there and Reuse is set.
type AddTag struct {
	ID     ID     `json:"id"`
	Lang   Lang   `json:"lang,omitempty"`
	Name   string `json:"name"`
	Colour Colour `json:"colour,omitempty"`
	Reuse  bool   `json:"reuse,omitempty"`
}

func (op *AddTag) apply(d *editing) error {
	if op.Reuse {
		for _, t := range d.m.TagList() {
			if Fold(d.m.Words(t.Name)) == Fold(op.Name) {
				d.meant[op.ID] = t.ID
				return nil
			}
		}
	}
	if err := d.free(op.ID); err != nil {
		return err
	}
	if len(d.m.Tags) >= MaxTags {
		return Refusef("A map can have at most %d tags.", MaxTags)
	}
	t := &Tag{ID: op.ID, Colour: op.Colour}
	last := ""
	for _, o := range d.m.Tags {
		last = max(last, o.Rank)
	}
	t.Rank = KeyBetween(last, "")
	return d.setTag(t, op.Lang, &op.Name)
}

// SetTag renames or recolours a tag: what is nil stays as it is.
type SetTag struct {
	Tag    ID      `json:"tag"`
	Lang   Lang    `json:"lang,omitempty"`
	Name   *string `json:"name,omitempty"`
	Colour *Colour `json:"colour,omitempty"`
}

func (op *SetTag) apply(d *editing) error {
	was := d.m.Tags[op.Tag]
	if was == nil {
		return Refusef("That tag is gone.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	return d.setTag(&next, op.Lang, op.Name)
}

func (d *editing) setTag(t *Tag, language Lang, name *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if name != nil {
		words, err := Clean(*name, MaxKindName, "The name of a tag")
		if err != nil {
			return err
		}
		if words == "" {
			return Refusef("A tag needs at least one word as its name.")
		}
		for _, o := range d.m.Tags {
			if o.ID != t.ID && Fold(d.m.Words(o.Name)) == Fold(words) {
				return Refusef("There is a tag “%s” already.", words)
			}
		}
		t.Name = t.Name.With(lang, words)
	}
	if !t.Colour.Valid() {
		return Refusef("There is no such colour.")
	}
	d.putTag(t)
	return nil
}

// RemoveTag takes a tag off the map and off its concepts.
type RemoveTag struct {
	Tag ID `json:"tag"`
}

func (op *RemoveTag) apply(d *editing) error {
	if d.m.Tags[op.Tag] == nil {
		return Refusef("That tag is gone.")
	}
	for _, id := range SortedIDs(d.m.Concepts) {
		if c := d.m.Concepts[id]; c.Tags[op.Tag] {
			next := *c
			next.Tags = with(c.Tags, op.Tag, false)
			d.putConcept(&next)
		}
	}
	delete(d.m.Tags, op.Tag)
	d.touch(EntityTag, op.Tag)
	return nil
}

// AssignTag puts a tag on concepts, or takes it off them.
type AssignTag struct {
	Concepts []ID `json:"concepts"`
	Tag      ID   `json:"tag"`
	On       bool `json:"on"`
}

func (op *AssignTag) apply(d *editing) error {
	tag := op.Tag
	if meant, ok := d.meant[tag]; ok {
		tag = meant
	}
	if d.m.Tags[tag] == nil {
		return Refusef("That tag is gone.")
	}
	for _, id := range op.Concepts {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		if c.Tags[tag] != op.On {
			c.Tags = with(c.Tags, tag, op.On)
			d.putConcept(c)
		}
	}
	return nil
}

// with gives a set with or without one member; an empty set is nil.
func with(set map[ID]bool, id ID, on bool) map[ID]bool {
	next := maps.Clone(set)
	if !on {
		delete(next, id)
		if len(next) == 0 {
			return nil
		}
		return next
	}
	if next == nil {
		next = map[ID]bool{}
	}
	next[id] = true
	return next
}

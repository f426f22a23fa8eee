package conceptmap

import (
	"slices"
	"strings"
)

// Kind is a sort of thing that the author has named, such as "process". Its
// colour and its outline say so at every concept of that kind. All kinds of a
// map are its key.
type Kind struct {
	ID      ID      `json:"id"`
	Name    Text    `json:"name,omitempty"`
	Meaning Text    `json:"meaning,omitempty"`
	Colour  Colour  `json:"colour,omitempty"`
	Outline Outline `json:"outline,omitempty"`
	Rank    string  `json:"rank"` // orders the key (see KeyBetween)
}

// Colour names one of a set of colours; a look says how each is shown.
type Colour string

// Colours are the names of the set, in the order in which they are offered.
var Colours = []Colour{"sky", "straw", "sea", "rose", "leaf", "iron", "plum", "clay"}

// Outline is the shape of a slip.
type Outline string

// The outlines; a slip's is the ordinary one.
const (
	OutlineSlip    Outline = ""
	OutlineCapsule Outline = "capsule"
	OutlineLozenge Outline = "lozenge"
	OutlineTicket  Outline = "ticket"
	OutlineOval    Outline = "oval"
	OutlinePlain   Outline = "plain"
)

// Outlines are all outlines, in the order in which they are offered.
var Outlines = []Outline{OutlineSlip, OutlineCapsule, OutlineLozenge, OutlineTicket, OutlineOval, OutlinePlain}

// The bounds of a key.
const (
	MostKinds    = 60
	MostKindName = 60
)

func (k *Kind) looksSound() bool {
	return (k.Colour == "" || slices.Contains(Colours, k.Colour)) && slices.Contains(Outlines, k.Outline)
}

// KindOf gives the kind of a concept, or nil.
func (m *Map) KindOf(c *Concept) *Kind {
	if c == nil || c.Kind == "" {
		return nil
	}
	return m.Kinds[c.Kind]
}

// Key gives all kinds in their order.
func (m *Map) Key() []*Kind {
	all := inOrder(m.Kinds)
	slices.SortStableFunc(all, func(a, b *Kind) int { return strings.Compare(a.Rank, b.Rank) })
	return all
}

// AddKind adds a kind at the end of the key.
type AddKind struct {
	ID      ID      `json:"id"`
	Lang    Lang    `json:"lang,omitempty"`
	Name    string  `json:"name"`
	Colour  Colour  `json:"colour,omitempty"`
	Outline Outline `json:"outline,omitempty"`
	// Reuse makes nothing where the key has a kind of this name already: what
	// follows in the same entry means that one.
	Reuse bool `json:"reuse,omitempty"`
}

func (op *AddKind) apply(d *draft) error {
	if op.Reuse {
		for _, k := range d.m.Key() {
			if Fold(d.m.Words(k.Name)) == Fold(op.Name) {
				d.meant[op.ID] = k.ID
				return nil
			}
		}
	}
	if err := d.free(op.ID); err != nil {
		return err
	}
	if len(d.m.Kinds) >= MostKinds {
		return refusef("A key can have at most %d kinds.", MostKinds)
	}
	k := &Kind{ID: op.ID, Colour: op.Colour, Outline: op.Outline}
	last := ""
	for _, o := range d.m.Kinds {
		last = max(last, o.Rank)
	}
	k.Rank = KeyBetween(last, "")
	return d.setKind(k, op.Lang, &op.Name, nil)
}

// SetKind changes a kind, and with it all concepts of that kind: what is nil
// stays as it is.
type SetKind struct {
	Kind    ID       `json:"kind"`
	Lang    Lang     `json:"lang,omitempty"`
	Name    *string  `json:"name,omitempty"`
	Meaning *string  `json:"meaning,omitempty"`
	Colour  *Colour  `json:"colour,omitempty"`
	Outline *Outline `json:"outline,omitempty"`
}

func (op *SetKind) apply(d *draft) error {
	was := d.m.Kinds[op.Kind]
	if was == nil {
		return refusef("That kind is gone from the key.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	set(&next.Outline, op.Outline)
	return d.setKind(&next, op.Lang, op.Name, op.Meaning)
}

func (d *draft) setKind(k *Kind, language Lang, name, meaning *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if name != nil {
		words, err := Clean(*name, MostKindName, "The name of a kind")
		if err != nil {
			return err
		}
		if words == "" {
			return refusef("A kind needs at least one word as its name.")
		}
		for _, o := range d.m.Kinds {
			if o.ID != k.ID && Fold(d.m.Words(o.Name)) == Fold(words) {
				return refusef("The key has a kind “%s” already.", words)
			}
		}
		k.Name = k.Name.With(lang, words)
	}
	if meaning != nil {
		words, err := Clean(*meaning, MostNote, "The meaning of a kind")
		if err != nil {
			return err
		}
		k.Meaning = k.Meaning.With(lang, words)
	}
	if !k.looksSound() {
		return refusef("There is no such colour or outline.")
	}
	d.putKind(k)
	return nil
}

// RemoveKind takes a kind out of the key; its concepts have none afterwards.
type RemoveKind struct {
	Kind ID `json:"kind"`
}

func (op *RemoveKind) apply(d *draft) error {
	if d.m.Kinds[op.Kind] == nil {
		return refusef("That kind is gone from the key.")
	}
	for _, id := range SortedIDs(d.m.Concepts) {
		if c := d.m.Concepts[id]; c.Kind == op.Kind {
			next := *c
			next.Kind = ""
			d.putConcept(&next)
		}
	}
	delete(d.m.Kinds, op.Kind)
	d.touch(EntityKind, op.Kind)
	return nil
}

// AssignKind gives concepts a kind; an empty one takes theirs away.
type AssignKind struct {
	Concepts []ID `json:"concepts"`
	Kind     ID   `json:"kind"`
}

func (op *AssignKind) apply(d *draft) error {
	kind := op.Kind
	if meant, ok := d.meant[kind]; ok {
		kind = meant
	}
	if kind != "" && d.m.Kinds[kind] == nil {
		return refusef("That kind is gone from the key.")
	}
	for _, id := range op.Concepts {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		if c.Kind != kind {
			c.Kind = kind
			d.putConcept(c)
		}
	}
	return nil
}

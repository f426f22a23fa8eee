package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
	"slices"
	"strings"
)

// AddKind adds a kind at the end of the key.
type AddKind struct {
	ID      cm.ID      `json:"id"`
	Lang    cm.Lang    `json:"lang,omitempty"`
	Name    string     `json:"name"`
	Colour  cm.Colour  `json:"colour,omitempty"`
	Outline cm.Outline `json:"outline,omitempty"`
	Icon    cm.Icon    `json:"icon,omitempty"`
	Links   bool       `json:"links,omitempty"`
	Stroke  cm.Stroke  `json:"stroke,omitempty"`
	Meaning string     `json:"meaning,omitempty"`
	Role    cm.Role    `json:"role,omitempty"`
	// Reuse makes nothing where the key has a kind of this name already: what
	// follows in the same entry means that one.
	Reuse bool `json:"reuse,omitempty"`
}

func (op *AddKind) apply(d *editing) error {
	if op.Reuse {
		for _, k := range d.Map.Key() {
			if k.Links == op.Links && likeness.Fold(d.Map.Words(k.Name)) == likeness.Fold(op.Name) {
				d.meant[op.ID] = k.ID
				return nil
			}
		}
	}
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if len(d.Map.Kinds) >= cm.MaxKinds {
		return cm.Refusef("A key can have at most %d kinds.", cm.MaxKinds)
	}
	k := &cm.Kind{ID: op.ID, Colour: op.Colour, Outline: op.Outline, Icon: op.Icon, Links: op.Links, Stroke: op.Stroke, Role: op.Role}
	last := ""
	for _, o := range d.Map.Kinds {
		last = max(last, o.Rank)
	}
	k.Rank = cm.KeyBetween(last, "")
	return d.setKind(k, op.Lang, &op.Name, &op.Meaning)
}

// SetKind changes a kind, and with it all concepts of that kind: what is nil
// stays as it is.
type SetKind struct {
	Kind    cm.ID       `json:"kind"`
	Lang    cm.Lang     `json:"lang,omitempty"`
	Name    *string     `json:"name,omitempty"`
	Meaning *string     `json:"meaning,omitempty"`
	Colour  *cm.Colour  `json:"colour,omitempty"`
	Outline *cm.Outline `json:"outline,omitempty"`
	Icon    *cm.Icon    `json:"icon,omitempty"`
	Stroke  *cm.Stroke  `json:"stroke,omitempty"`
	Role    *cm.Role    `json:"role,omitempty"`
}

func (op *SetKind) apply(d *editing) error {
	was := d.Map.Kinds[op.Kind]
	if was == nil {
		return cm.Refusef("That kind is gone from the key.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	set(&next.Outline, op.Outline)
	set(&next.Icon, op.Icon)
	set(&next.Stroke, op.Stroke)
	set(&next.Role, op.Role)
	return d.setKind(&next, op.Lang, op.Name, op.Meaning)
}

func (d *editing) setKind(k *cm.Kind, language cm.Lang, name, meaning *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if name != nil {
		words, err := cm.Clean(*name, cm.MaxKindName, "The name of a kind")
		if err != nil {
			return err
		}
		if words == "" {
			return cm.Refusef("A kind needs at least one word as its name.")
		}
		for _, o := range d.Map.Kinds {
			if o.ID != k.ID && o.Links == k.Links && likeness.Fold(d.Map.Words(o.Name)) == likeness.Fold(words) {
				return cm.Refusef("The key has a kind “%s” already.", words)
			}
		}
		k.Name = k.Name.With(lang, words)
	}
	if meaning != nil {
		words, err := cm.CleanNote(*meaning, "The meaning of a kind")
		if err != nil {
			return err
		}
		k.Meaning = k.Meaning.With(lang, words)
	}
	if err := k.Sound(); err != nil {
		return err
	}
	d.Put(k)
	return nil
}

// RemoveKind takes a kind out of the key; what was of that kind has none
// afterwards.
type RemoveKind struct {
	Kind cm.ID `json:"kind"`
}

func (op *RemoveKind) apply(d *editing) error { return d.replaceKind(op.Kind, "") }

// replaceKind takes a kind out of the key and gives all that was of it another.
func (d *editing) replaceKind(gone, heir cm.ID) error {
	if d.Map.Kinds[gone] == nil {
		return cm.Refusef("That kind is gone from the key.")
	}
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		if c := d.Map.Concepts[id]; c.Kind == gone {
			next := *c
			next.Kind = heir
			d.Put(&next)
		}
	}
	for _, id := range cm.SortedIDs(d.Map.Links) {
		if l := d.Map.Links[id]; l.Kind == gone {
			next := *l
			next.Kind = heir
			d.Put(&next)
		}
	}
	for _, id := range cm.SortedIDs(d.Map.Filters) {
		next := *d.Map.Filters[id]
		next.Conditions = slices.Clone(next.Conditions)
		changed := false
		for i, t := range next.Conditions {
			if t.About == cm.AboutKind && t.Value == string(gone) && heir != "" {
				next.Conditions[i].Value, changed = string(heir), true
			}
		}
		if changed {
			d.Put(&next)
		}
	}
	delete(d.Map.Kinds, gone)
	d.Touch(cm.EntityKind, gone)
	return nil
}

// MergeKinds makes one kind of two: all that was of the one that goes is of the
// one that stays.
type MergeKinds struct {
	Keep cm.ID `json:"keep"`
	Gone cm.ID `json:"gone"`
}

func (op *MergeKinds) apply(d *editing) error {
	keep, gone := d.Map.Kinds[op.Keep], d.Map.Kinds[op.Gone]
	switch {
	case keep == nil || gone == nil:
		return cm.Refusef("That kind is gone from the key.")
	case op.Keep == op.Gone:
		return cm.Refusef("A kind cannot be merged with itself.")
	case keep.Links != gone.Links:
		return cm.Refusef("A kind of concepts and a kind of links cannot become one.")
	}
	next := *keep
	if err := d.joinNotes(&next.Meaning, gone.Meaning); err != nil {
		return err
	}
	d.Put(&next)
	return d.replaceKind(op.Gone, op.Keep)
}

// OrderKinds puts kinds in an order; those that are not named follow as they
// were.
type OrderKinds struct {
	Order []cm.ID `json:"order"`
}

func (op *OrderKinds) apply(d *editing) error {
	at := map[cm.ID]int{}
	for i, id := range op.Order {
		if d.Map.Kinds[id] == nil {
			return cm.Refusef("That kind is gone from the key.")
		}
		at[id] = i + 1
	}
	all := cm.InOrder(d.Map.Kinds)
	slices.SortStableFunc(all, func(a, b *cm.Kind) int {
		x, y := at[a.ID], at[b.ID]
		switch {
		case x > 0 && y > 0:
			return x - y
		case x > 0:
			return -1
		case y > 0:
			return 1
		}
		return strings.Compare(a.Rank, b.Rank)
	})
	rank := ""
	for _, k := range all {
		next := *k
		rank = cm.KeyBetween(rank, "")
		next.Rank = rank
		d.Put(&next)
	}
	return nil
}

// AssignKind gives concepts or links a kind; an empty one takes theirs away.
type AssignKind struct {
	Concepts []cm.ID `json:"concepts,omitempty"`
	Links    []cm.ID `json:"links,omitempty"`
	Kind     cm.ID   `json:"kind"`
}

func (op *AssignKind) apply(d *editing) error {
	kind := op.Kind
	if meant, ok := d.meant[kind]; ok {
		kind = meant
	}
	if k := d.Map.Kinds[kind]; kind != "" {
		switch {
		case k == nil:
			return cm.Refusef("That kind is gone from the key.")
		case k.Links && len(op.Concepts) > 0:
			return cm.Refusef("“%s” is a kind of links.", d.Map.Words(k.Name))
		case !k.Links && len(op.Links) > 0:
			return cm.Refusef("“%s” is a kind of concepts.", d.Map.Words(k.Name))
		}
	}
	for _, id := range op.Concepts {
		if meant, ok := d.meant[id]; ok { // one that was there already
			id = meant
		}
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if c.Kind != kind {
			c.Kind = kind
			d.Put(c)
		}
	}
	for _, id := range op.Links {
		l, err := d.Link(id)
		if err != nil {
			return err
		}
		if l.Kind != kind {
			l.Kind = kind
			d.Put(l)
		}
	}
	return nil
}

// PlaceKey moves the key on the paper, folds it, or takes it off: what is nil
// stays as it is.
type PlaceKey struct {
	At     *cm.Point `json:"at,omitempty"`
	Folded *bool     `json:"folded,omitempty"`
	Away   *bool     `json:"away,omitempty"`
}

func (op *PlaceKey) apply(d *editing) error {
	var next cm.KeyPlace
	if d.Map.KeyPlace != nil {
		next = *d.Map.KeyPlace
	}
	if op.At != nil {
		at, err := cm.CleanPoint(*op.At)
		if err != nil {
			return err
		}
		next.At = &at
	}
	set(&next.Folded, op.Folded)
	set(&next.Away, op.Away)
	d.Map.KeyPlace = &next
	if next == (cm.KeyPlace{}) {
		d.Map.KeyPlace = nil
	}
	d.TouchHeader()
	return nil
}

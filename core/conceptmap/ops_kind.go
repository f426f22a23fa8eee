package conceptmap

import (
	"slices"
	"strings"
)

// AddKind adds a kind at the end of the key.
type AddKind struct {
	ID      ID      `json:"id"`
	Lang    Lang    `json:"lang,omitempty"`
	Name    string  `json:"name"`
	Colour  Colour  `json:"colour,omitempty"`
	Outline Outline `json:"outline,omitempty"`
	Icon    Icon    `json:"icon,omitempty"`
	Links   bool    `json:"links,omitempty"`
	Stroke  Stroke  `json:"stroke,omitempty"`
	Meaning string  `json:"meaning,omitempty"`
	Role    Role    `json:"role,omitempty"`
	// Reuse makes nothing where the key has a kind of this name already: what
	// follows in the same entry means that one.
	Reuse bool `json:"reuse,omitempty"`
}

func (op *AddKind) apply(d *editing) error {
	if op.Reuse {
		for _, k := range d.m.Key() {
			if k.Links == op.Links && Fold(d.m.Words(k.Name)) == Fold(op.Name) {
				d.meant[op.ID] = k.ID
				return nil
			}
		}
	}
	if err := d.free(op.ID); err != nil {
		return err
	}
	if len(d.m.Kinds) >= MaxKinds {
		return Refusef("A key can have at most %d kinds.", MaxKinds)
	}
	k := &Kind{ID: op.ID, Colour: op.Colour, Outline: op.Outline, Icon: op.Icon, Links: op.Links, Stroke: op.Stroke, Role: op.Role}
	last := ""
	for _, o := range d.m.Kinds {
		last = max(last, o.Rank)
	}
	k.Rank = KeyBetween(last, "")
	return d.setKind(k, op.Lang, &op.Name, &op.Meaning)
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
	Icon    *Icon    `json:"icon,omitempty"`
	Stroke  *Stroke  `json:"stroke,omitempty"`
	Role    *Role    `json:"role,omitempty"`
}

func (op *SetKind) apply(d *editing) error {
	was := d.m.Kinds[op.Kind]
	if was == nil {
		return Refusef("That kind is gone from the key.")
	}
	next := *was
	set(&next.Colour, op.Colour)
	set(&next.Outline, op.Outline)
	set(&next.Icon, op.Icon)
	set(&next.Stroke, op.Stroke)
	set(&next.Role, op.Role)
	return d.setKind(&next, op.Lang, op.Name, op.Meaning)
}

func (d *editing) setKind(k *Kind, language Lang, name, meaning *string) error {
	lang, err := d.lang(language)
	if err != nil {
		return err
	}
	if name != nil {
		words, err := Clean(*name, MaxKindName, "The name of a kind")
		if err != nil {
			return err
		}
		if words == "" {
			return Refusef("A kind needs at least one word as its name.")
		}
		for _, o := range d.m.Kinds {
			if o.ID != k.ID && o.Links == k.Links && Fold(d.m.Words(o.Name)) == Fold(words) {
				return Refusef("The key has a kind “%s” already.", words)
			}
		}
		k.Name = k.Name.With(lang, words)
	}
	if meaning != nil {
		words, err := cleanNote(*meaning, "The meaning of a kind")
		if err != nil {
			return err
		}
		k.Meaning = k.Meaning.With(lang, words)
	}
	if err := k.Sound(); err != nil {
		return err
	}
	d.putKind(k)
	return nil
}

// RemoveKind takes a kind out of the key; what was of that kind has none
// afterwards.
type RemoveKind struct {
	Kind ID `json:"kind"`
}

func (op *RemoveKind) apply(d *editing) error { return d.replaceKind(op.Kind, "") }

// replaceKind takes a kind out of the key and gives all that was of it another.
func (d *editing) replaceKind(gone, heir ID) error {
	if d.m.Kinds[gone] == nil {
		return Refusef("That kind is gone from the key.")
	}
	for _, id := range SortedIDs(d.m.Concepts) {
		if c := d.m.Concepts[id]; c.Kind == gone {
			next := *c
			next.Kind = heir
			d.putConcept(&next)
		}
	}
	for _, id := range SortedIDs(d.m.Links) {
		if l := d.m.Links[id]; l.Kind == gone {
			next := *l
			next.Kind = heir
			d.putLink(&next)
		}
	}
	for _, id := range SortedIDs(d.m.Filters) {
		next := *d.m.Filters[id]
		next.Conditions = slices.Clone(next.Conditions)
		changed := false
		for i, t := range next.Conditions {
			if t.About == AboutKind && t.Value == string(gone) && heir != "" {
				next.Conditions[i].Value, changed = string(heir), true
			}
		}
		if changed {
			d.putFilter(&next)
		}
	}
	delete(d.m.Kinds, gone)
	d.touch(EntityKind, gone)
	return nil
}

// MergeKinds makes one kind of two: all that was of the one that goes is of the
// one that stays.
type MergeKinds struct {
	Keep ID `json:"keep"`
	Gone ID `json:"gone"`
}

func (op *MergeKinds) apply(d *editing) error {
	keep, gone := d.m.Kinds[op.Keep], d.m.Kinds[op.Gone]
	switch {
	case keep == nil || gone == nil:
		return Refusef("That kind is gone from the key.")
	case op.Keep == op.Gone:
		return Refusef("A kind cannot be merged with itself.")
	case keep.Links != gone.Links:
		return Refusef("A kind of concepts and a kind of links cannot become one.")
	}
	next := *keep
	if err := d.joinNotes(&next.Meaning, gone.Meaning); err != nil {
		return err
	}
	d.putKind(&next)
	return d.replaceKind(op.Gone, op.Keep)
}

// OrderKinds puts kinds in an order; those that are not named follow as they
// were.
type OrderKinds struct {
	Order []ID `json:"order"`
}

func (op *OrderKinds) apply(d *editing) error {
	at := map[ID]int{}
	for i, id := range op.Order {
		if d.m.Kinds[id] == nil {
			return Refusef("That kind is gone from the key.")
		}
		at[id] = i + 1
	}
	all := InOrder(d.m.Kinds)
	slices.SortStableFunc(all, func(a, b *Kind) int {
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
		rank = KeyBetween(rank, "")
		next.Rank = rank
		d.putKind(&next)
	}
	return nil
}

// AssignKind gives concepts or links a kind; an empty one takes theirs away.
type AssignKind struct {
	Concepts []ID `json:"concepts,omitempty"`
	Links    []ID `json:"links,omitempty"`
	Kind     ID   `json:"kind"`
}

func (op *AssignKind) apply(d *editing) error {
	kind := op.Kind
	if meant, ok := d.meant[kind]; ok {
		kind = meant
	}
	if k := d.m.Kinds[kind]; kind != "" {
		switch {
		case k == nil:
			return Refusef("That kind is gone from the key.")
		case k.Links && len(op.Concepts) > 0:
			return Refusef("“%s” is a kind of links.", d.m.Words(k.Name))
		case !k.Links && len(op.Links) > 0:
			return Refusef("“%s” is a kind of concepts.", d.m.Words(k.Name))
		}
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
	for _, id := range op.Links {
		l, err := d.link(id)
		if err != nil {
			return err
		}
		if l.Kind != kind {
			l.Kind = kind
			d.putLink(l)
		}
	}
	return nil
}

// KeyPlace says where the key stands on the paper, by its top left corner, and
// how.
type KeyPlace struct {
	At     *Point `json:"at,omitempty"` // by itself below the map where absent
	Folded bool   `json:"folded,omitempty"`
	Away   bool   `json:"away,omitempty"` // it is not on the paper
}

// PlaceKey moves the key on the paper, folds it, or takes it off: what is nil
// stays as it is.
type PlaceKey struct {
	At     *Point `json:"at,omitempty"`
	Folded *bool  `json:"folded,omitempty"`
	Away   *bool  `json:"away,omitempty"`
}

func (op *PlaceKey) apply(d *editing) error {
	var next KeyPlace
	if d.m.KeyPlace != nil {
		next = *d.m.KeyPlace
	}
	if op.At != nil {
		at, err := place(*op.At)
		if err != nil {
			return err
		}
		next.At = &at
	}
	set(&next.Folded, op.Folded)
	set(&next.Away, op.Away)
	d.m.KeyPlace = &next
	if next == (KeyPlace{}) {
		d.m.KeyPlace = nil
	}
	d.putHeader()
	return nil
}

package history

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	cm "mevrin/core/conceptmap"
	"reflect"
	"slices"
	"strings"
)

func compareKeys(a, b cm.Key) int {
	return cmp.Or(a.Kind.Order()-b.Kind.Order(), strings.Compare(string(a.ID), string(b.ID)))
}

// Fields is an entity taken apart into what can be written independently. A
// text is a field for each language ("label/en"), a side of a link a field for
// each end ("from/e1"). What is absent has no field.
type Fields map[string]json.RawMessage

// Change is what an operation did to one entity. Before is nil where the
// entity was made, After is nil where it went; otherwise both hold just the
// fields that differ, and a field missing on one side was absent there.
type Change struct {
	cm.Key
	Before Fields `json:"before"`
	After  Fields `json:"after"`
}

// Made tells whether the entity came into being.
func (c Change) Made() bool { return c.Before == nil }

// Gone tells whether the entity ceased to be.
func (c Change) Gone() bool { return c.After == nil }

// compare gives the change from one state of an entity to another; ok is
// false where nothing differs. Nil stands for an entity that is not there.
func compare(key cm.Key, before, after Fields) (change Change, ok bool) {
	change.Key = key
	switch {
	case before == nil && after == nil:
		return change, false
	case before == nil || after == nil:
		change.Before, change.After = before, after
		return change, true
	}
	change.Before, change.After = Fields{}, Fields{}
	for name, was := range before {
		if is, there := after[name]; !there {
			change.Before[name] = was
		} else if !bytes.Equal(was, is) {
			change.Before[name], change.After[name] = was, is
		}
	}
	for name, is := range after {
		if _, there := before[name]; !there {
			change.After[name] = is
		}
	}
	return change, len(change.Before)+len(change.After) > 0
}

// FieldNames gives the names of all fields that the change touched, sorted.
func (c Change) FieldNames() []string {
	names := make([]string, 0, len(c.Before)+len(c.After))
	for name := range c.Before {
		names = append(names, name)
	}
	for name := range c.After {
		names = append(names, name)
	}
	slices.Sort(names)
	return slices.Compact(names)
}

// fieldsOf gives the present state of an entity, nil where there is none.
func fieldsOf(m *cm.Map, key cm.Key) Fields {
	if d := cm.Describe(key.Kind); d != nil {
		if e := d.Get(m, key.ID); e != nil {
			return Encode(d, e)
		}
	}
	return nil
}

// setFields replaces the state of an entity in a map that may be written to;
// nil removes it.
func setFields(m *cm.Map, key cm.Key, parts Fields) error {
	d := cm.Describe(key.Kind)
	if d == nil {
		return fmt.Errorf("there is no entity called %q", key.Kind)
	}
	if parts == nil {
		d.Delete(m, key.ID)
		return nil
	}
	entity := d.New()
	if err := Decode(d, key.ID, parts, entity); err != nil {
		return fmt.Errorf("%s %q: %w", key.Kind, key.ID, err)
	}
	d.Put(m, key.ID, entity)
	return nil
}

// Replay applies logged changes to a map and gives the next. It asks nothing
// of the rules that made the changes: what happened is not judged again.
func Replay(m *cm.Map, changes []Change) (*cm.Map, error) {
	next := m.Clone()
	for _, c := range changes {
		var state Fields
		if !c.Gone() {
			state = Fields{}
			if !c.Made() {
				if state = fieldsOf(next, c.Key); state == nil {
					return nil, fmt.Errorf("the log alters %s %q, which is not there", c.Kind, c.ID)
				}
				for name := range c.Before {
					delete(state, name)
				}
			}
			for name, raw := range c.After {
				state[name] = raw
			}
		}
		if err := setFields(next, c.Key, state); err != nil {
			return nil, err
		}
	}
	return next, nil
}

// Reversed gives the changes that lead back, for replaying a log from its end.
func Reversed(changes []Change) []Change {
	back := make([]Change, 0, len(changes))
	for _, c := range slices.Backward(changes) {
		back = append(back, Change{Key: c.Key, Before: c.After, After: c.Before})
	}
	return back
}

// Contents gives the changes that make a whole map out of nothing, as a copy or
// a file does in one entry.
func Contents(m *cm.Map) []Change {
	return Between(cm.NewMap(m.ID, m.Language), m)
}

// Between gives the changes that lead from one state of a map to another, whatever was done in between.
func Between(before, after *cm.Map) []Change {
	var all []Change
	for _, d := range cm.Entities {
		ids := d.IDs(after)
		for _, id := range d.IDs(before) {
			if d.Get(after, id) == nil {
				ids = append(ids, id)
			}
		}
		for _, id := range ids {
			if change := Difference(before, after, cm.Key{Kind: d.Kind, ID: id}); !change.Nothing() {
				all = append(all, change)
			}
		}
	}
	return all
}

// Difference gives what differs in one entity between two states of a map. Members are
// compared as they are; only those that differ are written out.
func Difference(before, after *cm.Map, key cm.Key) Change {
	change := Change{Key: key}
	d := cm.Describe(key.Kind)
	if d == nil {
		return change
	}
	change.Before, change.After = Compare(d, d.Get(before, key.ID), d.Get(after, key.ID))
	return change
}

// Compare gives the fields in which two states of an entity differ. A state that is nil
// stands for an entity that is not there: its fields are nil, and the other's are all.
func Compare(d *cm.Description, was, is any) (before, after Fields) {
	switch {
	case was == is:
		return nil, nil
	case was == nil:
		return nil, Encode(d, is)
	case is == nil:
		return Encode(d, was), nil
	}
	before, after = Fields{}, Fields{}
	for i := range d.Members {
		f := &d.Members[i]
		if x, y := f.Of(was), f.Of(is); !reflect.DeepEqual(x.Interface(), y.Interface()) {
			encodeMember(before, f, x)
			encodeMember(after, f, y)
		}
	}
	for name, x := range before {
		if y, there := after[name]; there && bytes.Equal(x, y) {
			delete(before, name)
			delete(after, name)
		}
	}
	return before, after
}

// Nothing tells whether the change changes nothing.
func (c Change) Nothing() bool {
	return len(c.Before)+len(c.After) == 0 && (c.Before == nil) == (c.After == nil)
}

// Written is which fields of an entity a change wrote, without what it wrote there: what is kept of
// an entry to tell its author of when somebody writes over it. Main strands, and how lines are led,
// are left out; they follow from other work.
type Written struct {
	cm.Key
	names []string // sorted
}

// placed is what most changes of a map that keeps itself in order write.
var placed = []string{"at"}

// WrittenBy gives what changes wrote.
func WrittenBy(changes []Change) []Written {
	all := make([]Written, 0, len(changes))
	for _, c := range changes {
		names := slices.DeleteFunc(c.FieldNames(), func(name string) bool { return name == "main" || ledByMap(name) })
		switch {
		case len(names) == 0:
			continue
		case slices.Equal(names, placed):
			names = placed
		}
		all = append(all, Written{c.Key, names})
	}
	return slices.Clip(all)
}

// Size is what it takes in memory, in bytes, about.
func (w Written) Size() int64 {
	n := 80
	if len(w.names) > 1 {
		for _, name := range w.names {
			n += 16 + len(name)
		}
	}
	return int64(n)
}

// Overtaken gives the entities in which the later changes wrote a field that
// the earlier ones had written: what the earlier author should be told.
func Overtaken(later []Change, earlier []Written) []cm.Key {
	wrote := make(map[cm.Key][]string, len(earlier))
	for _, w := range earlier {
		wrote[w.Key] = w.names
	}
	var keys []cm.Key
	for _, c := range later {
		names, ok := wrote[c.Key]
		if !ok || c.Made() {
			continue
		}
		for _, name := range c.FieldNames() {
			if _, found := slices.BinarySearch(names, name); found {
				keys = append(keys, c.Key)
				break
			}
		}
	}
	return keys
}

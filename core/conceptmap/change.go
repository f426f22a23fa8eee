package conceptmap

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// Entity tells what sort of thing an id names.
type Entity string

// The sorts of entity, in the order in which changes are listed and in which
// they can be made anew: nothing needs what stands after it.
const (
	EntityMap     Entity = "map" // its id is the map's own
	EntityKind    Entity = "kind"
	EntityTag     Entity = "tag"
	EntityConcept Entity = "concept"
	EntityLink    Entity = "link"
	EntityRegion  Entity = "region"
	EntityFilter  Entity = "filter"
	EntityRoute   Entity = "route"
	EntityStop    Entity = "stop"
	EntityComment Entity = "comment"
)

var entityOrder = map[Entity]int{EntityMap: 0, EntityKind: 1, EntityTag: 2, EntityConcept: 3, EntityLink: 4, EntityRegion: 5, EntityFilter: 6, EntityRoute: 7, EntityStop: 8, EntityComment: 9}

// Key names one entity of a map.
type Key struct {
	Kind Entity `json:"kind"`
	ID   ID     `json:"id"`
}

func compareKeys(a, b Key) int {
	return cmp.Or(entityOrder[a.Kind]-entityOrder[b.Kind], strings.Compare(string(a.ID), string(b.ID)))
}

// Fields is an entity taken apart into what can be written independently. A
// text is a field for each language ("label/en"), a side of a link a field for
// each end ("from/e1"). What is absent has no field.
type Fields map[string]json.RawMessage

// Change is what an operation did to one entity. Before is nil where the
// entity was made, After is nil where it went; otherwise both hold just the
// fields that differ, and a field missing on one side was absent there.
type Change struct {
	Key
	Before Fields `json:"before"`
	After  Fields `json:"after"`
}

// Made tells whether the entity came into being.
func (c Change) Made() bool { return c.Before == nil }

// Gone tells whether the entity ceased to be.
func (c Change) Gone() bool { return c.After == nil }

// header is the map itself seen as an entity.
type header struct {
	Language Lang `json:"language"`
	Title    Text `json:"title,omitempty"`
	Question Text `json:"question,omitempty"`
	Focus    ID   `json:"focus,omitempty"`

	RulesOff map[string]bool `json:"rulesOff,omitempty"`
	Tucked   map[ID]bool     `json:"tucked,omitempty"`
	Hand     Hand            `json:"hand,omitempty"`
	Pattern  Pattern         `json:"pattern,omitempty"`
	Freely   bool            `json:"freely,omitempty"`
	KeepTidy bool            `json:"keepTidy,omitempty"`
	Note     Text            `json:"note,omitempty"`
	KeyPlace *KeyPlace       `json:"keyPlace,omitempty"`
	Look     *Look           `json:"look,omitempty"`
	Tray     map[ID]Source   `json:"tray,omitempty"`
}

func (m *Map) header() *header {
	return &header{m.Language, m.Title, m.Question, m.Focus, m.RulesOff, m.Tucked, m.Hand, m.Pattern, m.Freely, m.KeepTidy, m.Note, m.KeyPlace, dressed(m.Look), m.Tray}
}

// memberFields are the members of entities that are taken apart by their own
// members: texts, and what is kept by id. endFields are taken apart by their
// ends.
var (
	memberFields = mapMembers(header{}, Kind{}, Tag{}, Concept{}, Link{}, Region{}, Filter{}, Route{}, Stop{}, Comment{})
	endFields    = map[string]bool{"from": true, "to": true}
)

// mapMembers names the members of entities that are maps, as their types say.
func mapMembers(entities ...any) map[string]bool {
	names := map[string]bool{}
	for _, e := range entities {
		for f := range reflect.TypeOf(e).Fields() {
			if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); f.Type.Kind() == reflect.Map {
				names[name] = true
			}
		}
	}
	return names
}

// encodeFields gives the fields of an entity. The entities are plain structs that
// always marshal, so an error here is a fault of the program.
func encodeFields(entity any) Fields {
	whole := Fields{}
	must(json.Unmarshal(mustMarshal(entity), &whole))
	delete(whole, "id")
	parts := make(Fields, len(whole))
	for name, raw := range whole {
		switch {
		case memberFields[name]:
			var words map[string]json.RawMessage
			must(json.Unmarshal(raw, &words))
			for lang, w := range words {
				parts[name+"/"+lang] = w
			}
		case endFields[name]:
			var ends []End
			must(json.Unmarshal(raw, &ends))
			for _, e := range ends {
				parts[name+"/"+string(e.ID)] = mustMarshal(e.Concept)
			}
		default:
			parts[name] = raw
		}
	}
	return parts
}

// decodeFields is the inverse of encodeFields: it fills the entity from fields.
func decodeFields(id ID, parts Fields, entity any) error {
	whole := map[string]any{"id": id}
	ends := map[string][]End{}
	for name, raw := range parts {
		head, tail, split := strings.Cut(name, "/")
		switch {
		case !split:
			whole[name] = raw
		case memberFields[head]:
			words, _ := whole[head].(map[string]json.RawMessage)
			if words == nil {
				words = map[string]json.RawMessage{}
				whole[head] = words
			}
			words[tail] = raw
		case endFields[head]:
			end := End{ID: ID(tail)}
			if err := json.Unmarshal(raw, &end.Concept); err != nil {
				return err
			}
			ends[head] = append(ends[head], end)
		default:
			return fmt.Errorf("field %q belongs to no entity", name)
		}
	}
	for side, list := range ends {
		whole[side] = sortEnds(list)
	}
	raw, err := json.Marshal(whole)
	if err != nil {
		return err
	}
	into := json.NewDecoder(bytes.NewReader(raw))
	into.DisallowUnknownFields()
	return into.Decode(entity)
}

// compare gives the change from one state of an entity to another; ok is
// false where nothing differs. Nil stands for an entity that is not there.
func compare(key Key, before, after Fields) (change Change, ok bool) {
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

// Ends tells whether the change is about a link that came or went, or about what it
// joins.
func (c Change) Ends() bool {
	if c.Made() || c.Gone() {
		return true
	}
	for _, all := range []Fields{c.Before, c.After} {
		for name := range all {
			if head, _, _ := strings.Cut(name, "/"); endFields[head] {
				return true
			}
		}
	}
	return false
}

// Size is what the change holds, in bytes.
func (c Change) Size() int64 {
	n := len(c.ID)
	for _, all := range []Fields{c.Before, c.After} {
		for name, value := range all {
			n += len(name) + len(value)
		}
	}
	return int64(n)
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

// fields gives the present state of an entity, nil where there is none.
func (m *Map) fields(key Key) Fields {
	switch key.Kind {
	case EntityMap:
		return encodeFields(m.header())
	case EntityKind:
		if e := m.Kinds[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityTag:
		if e := m.Tags[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityRegion:
		if e := m.Regions[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityFilter:
		if e := m.Filters[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityConcept:
		if e := m.Concepts[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityLink:
		if e := m.Links[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityRoute:
		if e := m.Routes[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityStop:
		if e := m.Stops[key.ID]; e != nil {
			return encodeFields(e)
		}
	case EntityComment:
		if e := m.Comments[key.ID]; e != nil {
			return encodeFields(e)
		}
	}
	return nil
}

// setFields replaces the state of an entity in a map that may be written to;
// nil removes it.
func (m *Map) setFields(key Key, parts Fields) error {
	switch key.Kind {
	case EntityMap:
		var h header
		delete(parts, "id")
		if err := decodeFields(key.ID, parts, &struct {
			ID ID `json:"id"`
			*header
		}{header: &h}); err != nil {
			return err
		}
		m.Language, m.Title, m.Question, m.Focus, m.RulesOff, m.Tucked, m.Hand = h.Language, h.Title, h.Question, h.Focus, h.RulesOff, h.Tucked, h.Hand
		m.Pattern, m.Freely, m.KeepTidy = h.Pattern, h.Freely, h.KeepTidy
		m.Note, m.KeyPlace, m.Look, m.Tray = h.Note, h.KeyPlace, undressed(h.Look), h.Tray
		return nil
	case EntityKind:
		return setEntity(m.Kinds, key.ID, parts)
	case EntityTag:
		return setEntity(m.Tags, key.ID, parts)
	case EntityRegion:
		return setEntity(m.Regions, key.ID, parts)
	case EntityFilter:
		return setEntity(m.Filters, key.ID, parts)
	case EntityConcept:
		return setEntity(m.Concepts, key.ID, parts)
	case EntityLink:
		return setEntity(m.Links, key.ID, parts)
	case EntityRoute:
		return setEntity(m.Routes, key.ID, parts)
	case EntityStop:
		return setEntity(m.Stops, key.ID, parts)
	case EntityComment:
		return setEntity(m.Comments, key.ID, parts)
	}
	return fmt.Errorf("there is no entity called %q", key.Kind)
}

func setEntity[E any](all map[ID]*E, id ID, parts Fields) error {
	if parts == nil {
		delete(all, id)
		return nil
	}
	entity := new(E)
	if err := decodeFields(id, parts, entity); err != nil {
		return fmt.Errorf("entity %q: %w", id, err)
	}
	all[id] = entity
	return nil
}

// Replay applies logged changes to a map and gives the next. It asks nothing
// of the rules that made the changes: what happened is not judged again.
func Replay(m *Map, changes []Change) (*Map, error) {
	next := m.clone()
	for _, c := range changes {
		var state Fields
		if !c.Gone() {
			state = Fields{}
			if !c.Made() {
				if state = next.fields(c.Key); state == nil {
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
		if err := next.setFields(c.Key, state); err != nil {
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

func mustMarshal(v any) json.RawMessage {
	raw, err := json.Marshal(v)
	must(err)
	return raw
}

func must(err error) {
	if err != nil {
		panic("conceptmap: " + err.Error())
	}
}

// Contents gives the changes that make a whole map out of nothing, as a copy or
// a file does in one entry.
func Contents(m *Map) []Change {
	empty := NewMap(m.ID, m.Language)
	keys := []Key{{EntityMap, m.ID}}
	for id := range m.Kinds {
		keys = append(keys, Key{EntityKind, id})
	}
	for id := range m.Tags {
		keys = append(keys, Key{EntityTag, id})
	}
	for id := range m.Regions {
		keys = append(keys, Key{EntityRegion, id})
	}
	for id := range m.Filters {
		keys = append(keys, Key{EntityFilter, id})
	}
	for id := range m.Concepts {
		keys = append(keys, Key{EntityConcept, id})
	}
	for id := range m.Links {
		keys = append(keys, Key{EntityLink, id})
	}
	for id := range m.Routes {
		keys = append(keys, Key{EntityRoute, id})
	}
	for id := range m.Stops {
		keys = append(keys, Key{EntityStop, id})
	}
	for id := range m.Comments {
		keys = append(keys, Key{EntityComment, id})
	}
	slices.SortFunc(keys, compareKeys)
	var all []Change
	for _, key := range keys {
		if change, differs := compare(key, empty.fields(key), m.fields(key)); differs {
			all = append(all, change)
		}
	}
	return all
}

// Difference gives what differs in one entity between two states of a map; a
// change without fields says that nothing does.
func Difference(before, after *Map, key Key) Change {
	change, _ := compare(key, before.fields(key), after.fields(key))
	return change
}

// Overtaken gives the entities in which the later changes wrote a field that
// the earlier ones had written: what the earlier author should be told. Main
// strands are left out; they follow from other work.
func Overtaken(later, earlier []Change) []Key {
	wrote := map[Key]Change{}
	for _, c := range earlier {
		wrote[c.Key] = c
	}
	var keys []Key
	for _, c := range later {
		before, ok := wrote[c.Key]
		if !ok || c.Made() {
			continue
		}
		names := before.FieldNames()
		for _, name := range c.FieldNames() {
			if _, found := slices.BinarySearch(names, name); found && name != "main" {
				keys = append(keys, c.Key)
				break
			}
		}
	}
	return keys
}

package conceptmap

import (
	"maps"
	"reflect"
	"slices"
)

// Entity tells what sort of thing an id names.
type Entity string

// The sorts of entity.
const (
	EntityMap         Entity = "map" // its id is the map's own
	EntityKind        Entity = "kind"
	EntityTag         Entity = "tag"
	EntityConcept     Entity = "concept"
	EntityLink        Entity = "link"
	EntityRegion      Entity = "region"
	EntityFilter      Entity = "filter"
	EntityRoute       Entity = "route"
	EntityStop        Entity = "stop"
	EntityComment     Entity = "comment"
	EntityJudgement   Entity = "judgement"
	EntityDismissal   Entity = "dismissal"
	EntityRequirement Entity = "requirement"
	EntityGrade       Entity = "grade"
)

// Entities describes every sort of entity, in the order in which changes are listed
// and in which entities can be made anew: nothing needs what stands after it. A new
// sort of entity is a line here, its collection on Map, and its type.
var Entities = []*Description{
	describeHeader(),
	describe(EntityKind, "kinds", MaxKinds, func(m *Map) *map[ID]*Kind { return &m.Kinds }),
	describe(EntityTag, "tags", MaxTags, func(m *Map) *map[ID]*Tag { return &m.Tags }),
	describe(EntityConcept, "concepts", MaxConcepts, func(m *Map) *map[ID]*Concept { return &m.Concepts }).always(),
	describe(EntityLink, "links", MaxLinks, func(m *Map) *map[ID]*Link { return &m.Links }).always(),
	describe(EntityRegion, "regions", MaxRegions, func(m *Map) *map[ID]*Region { return &m.Regions }),
	describe(EntityFilter, "filters", MaxFilters, func(m *Map) *map[ID]*Filter { return &m.Filters }),
	describe(EntityRoute, "routes", MaxStops, func(m *Map) *map[ID]*Route { return &m.Routes }).always(),
	describe(EntityStop, "stops", MaxStops, func(m *Map) *map[ID]*Stop { return &m.Stops }).always(),
	describe(EntityComment, "comments", MaxComments, func(m *Map) *map[ID]*Comment { return &m.Comments }),
	describe(EntityJudgement, "judgements", MaxJudgements, func(m *Map) *map[ID]*Judgement { return &m.Judgements }),
	describe(EntityDismissal, "dismissals", MaxDismissals, func(m *Map) *map[ID]*Dismissal { return &m.Dismissals }),
	describe(EntityRequirement, "requirements", MaxRequirements, func(m *Map) *map[ID]*Requirement { return &m.Requirements }),
	describe(EntityGrade, "grades", MaxGrades, func(m *Map) *map[ID]*Grade { return &m.Grades }),
}

// Describe gives the description of a sort of entity, nil where there is none.
func Describe(kind Entity) *Description {
	if i := kind.Order(); i >= 0 {
		return Entities[i]
	}
	return nil
}

// DescriptionOf gives the description of an entity's sort, nil for what is none.
func DescriptionOf(entity any) *Description {
	t := reflect.TypeOf(entity)
	i := slices.IndexFunc(Entities, func(d *Description) bool { return reflect.PointerTo(d.Type) == t })
	if i < 0 {
		return nil
	}
	return Entities[i]
}

// Order gives the place of a sort of entity in Entities, -1 for what is none.
func (kind Entity) Order() int {
	return slices.IndexFunc(Entities, func(d *Description) bool { return d.Kind == kind })
}

// Description is all that code needs to know of one sort of entity which treats
// every sort alike: copying, documents, changes, undo, languages, search, rows. It is
// read off the entity's type: a new field takes one line there, with its tags.
//
// An entity is given as a pointer to its struct, as *Concept, and *Header for the map.
type Description struct {
	Kind    Entity
	List    string // the member of a document that lists them; empty for the map itself
	Always  bool   // documents have the list even where it is empty
	Max     int    // how many a map may have
	Type    reflect.Type
	Members []Member // without the id
	ofMap   collection

	texts, refs, needs []*Member
}

// DescribeType describes a sort of entity by its struct alone: as it is apart from
// any map.
func DescribeType(kind Entity, t reflect.Type) *Description {
	d := &Description{Kind: kind, Type: t, Members: MembersOf(t)}
	for i := range d.Members {
		f := &d.Members[i]
		switch {
		case f.Type == TextType:
			d.texts = append(d.texts, f)
		case f.Type == refType || f.Type == refsType:
			d.refs = append(d.refs, f)
		case f.Needs != "" || f.Apart == ByEnd:
			d.needs = append(d.needs, f)
		}
	}
	return d
}

// New gives an empty entity of the sort.
func (d *Description) New() any { return reflect.New(d.Type).Interface() }

// Get gives an entity of a map, nil where there is none.
func (d *Description) Get(m *Map, id ID) any { return d.ofMap.get(m, id) }

// Put puts an entity on a map that may be written to.
func (d *Description) Put(m *Map, id ID, entity any) { d.ofMap.put(m, id, entity) }

// Delete takes an entity off a map that may be written to.
func (d *Description) Delete(m *Map, id ID) { d.ofMap.remove(m, id) }

// IDs gives the ids of all entities of the sort, in their order.
func (d *Description) IDs(m *Map) []ID { return d.ofMap.ids(m) }

// Len counts the entities of the sort on a map.
func (d *Description) Len(m *Map) int { return d.ofMap.count(m) }

// Copy gives a copy of an entity that may be altered member by member.
func (d *Description) Copy(entity any) any {
	next := reflect.New(d.Type)
	next.Elem().Set(reflect.ValueOf(entity).Elem())
	return next.Interface()
}

// IDOf gives the id of an entity, empty for a map.
func (d *Description) IDOf(entity any) ID {
	if field := reflect.ValueOf(entity).Elem().FieldByName("ID"); field.IsValid() {
		return field.Interface().(ID)
	}
	return ""
}

// SetID gives an entity its id; the map's own is none of its header's.
func (d *Description) SetID(entity any, id ID) {
	if field := reflect.ValueOf(entity).Elem().FieldByName("ID"); field.IsValid() {
		field.Set(reflect.ValueOf(id))
	}
}

// Member gives a member by its name, nil where there is none.
func (d *Description) Member(name string) *Member {
	for i := range d.Members {
		if d.Members[i].Name == name {
			return &d.Members[i]
		}
	}
	return nil
}

// Name gives the words by which an entity is called: its first text, which may be
// empty. Ok is false for sorts that have no text.
func (d *Description) Name(entity any) (words Text, ok bool) {
	if len(d.texts) == 0 {
		return nil, false
	}
	return d.texts[0].Of(entity).Interface().(Text), true
}

// Texts gives all texts of an entity.
func (d *Description) Texts(entity any) []*Text {
	all := make([]*Text, len(d.texts))
	for i, f := range d.texts {
		all[i] = f.Of(entity).Addr().Interface().(*Text)
	}
	return all
}

// HasRefs tells whether entities of the sort have references that remember words.
func (d *Description) HasRefs() bool { return len(d.refs) > 0 }

// Refs gives the references of an entity that remember words: they outlive what they
// point to.
func (d *Description) Refs(entity any) []*Ref {
	var all []*Ref
	for _, f := range d.refs {
		v := f.Of(entity)
		if f.Type == refType {
			all = append(all, v.Addr().Interface().(*Ref))
			continue
		}
		for i := range v.Len() {
			all = append(all, v.Index(i).Addr().Interface().(*Ref))
		}
	}
	return all
}

// OwnRefs gives a copy of an entity lists of references of its own, without those that name
// nothing, so that they can be altered.
func (d *Description) OwnRefs(entity any) {
	for _, f := range d.refs {
		if v := f.Of(entity); f.Type == refsType && v.Len() > 0 {
			own := slices.DeleteFunc(slices.Clone(v.Interface().([]Ref)), func(r Ref) bool { return r.ID == "" })
			v.Set(reflect.ValueOf(own))
		}
	}
}

// Needs gives the entities without which this one cannot be on a map.
func (d *Description) Needs(entity any) []Key {
	var all []Key
	for _, f := range d.needs {
		switch v := f.Of(entity).Interface().(type) {
		case ID:
			if v != "" {
				all = append(all, Key{f.Needs, v})
			}
		case []End:
			for _, e := range v {
				all = append(all, Key{EntityConcept, e.Concept})
			}
		}
	}
	return all
}

// collection is how entities of one sort are kept on a map.
type collection struct {
	get    func(m *Map, id ID) any
	put    func(m *Map, id ID, entity any)
	remove func(m *Map, id ID)
	ids    func(m *Map) []ID
	count  func(m *Map) int
	clone  func(m *Map) // gives the map a collection of its own
}

func describe[E any](kind Entity, list string, most int, at func(*Map) *map[ID]*E) *Description {
	d := DescribeType(kind, reflect.TypeFor[E]())
	d.List, d.Max = list, most
	d.ofMap = collection{
		get: func(m *Map, id ID) any {
			if e := (*at(m))[id]; e != nil {
				return e
			}
			return nil
		},
		put:    func(m *Map, id ID, entity any) { (*at(m))[id] = entity.(*E) },
		remove: func(m *Map, id ID) { delete(*at(m), id) },
		ids:    func(m *Map) []ID { return SortedIDs(*at(m)) },
		count:  func(m *Map) int { return len(*at(m)) },
		clone: func(m *Map) {
			if *at(m) = maps.Clone(*at(m)); *at(m) == nil {
				*at(m) = map[ID]*E{}
			}
		},
	}
	return d
}

func (d *Description) always() *Description {
	d.Always = true
	return d
}

func describeHeader() *Description {
	d := DescribeType(EntityMap, reflect.TypeFor[Header]())
	d.Max = 1
	d.ofMap = collection{
		get:    func(m *Map, _ ID) any { return &m.Header },
		put:    func(m *Map, _ ID, entity any) { m.Header = *entity.(*Header) },
		remove: func(*Map, ID) {},
		ids:    func(m *Map) []ID { return []ID{m.ID} },
		count:  func(*Map) int { return 1 },
		clone:  func(*Map) {},
	}
	return d
}

// Key names one entity of a map.
type Key struct {
	Kind Entity `json:"kind"`
	ID   ID     `json:"id"`
}

// Has tells whether an entity is on the map.
func (m *Map) Has(key Key) bool {
	d := Describe(key.Kind)
	return d != nil && d.Get(m, key.ID) != nil
}

// Taken tells whether anything on the map has an id.
func (m *Map) Taken(id ID) bool {
	return slices.ContainsFunc(Entities[1:], func(d *Description) bool { return d.Get(m, id) != nil })
}

// WordsAt gives the words by which a thing is called; there is false where it is not
// on the map.
func (m *Map) WordsAt(key Key) (words Text, there bool) {
	d := Describe(key.Kind)
	if d == nil {
		return nil, false
	}
	e := d.Get(m, key.ID)
	if e == nil {
		return nil, false
	}
	words, _ = d.Name(e)
	return words, true
}

package conceptmap

import (
	"maps"
	"slices"
)

// draft is a map in the making: the base that it started from, the state so
// far, and which entities have been touched.
type draft struct {
	base    *Map
	m       *Map
	touched map[Key]bool
	moved   []Moved
	notices []string
	placer  Placer
	// meant says which concept, kind or tag stands for an id that was given for a new
	// one, where the map had such a one already.
	meant map[ID]ID
}

func newDraft(m *Map, placer Placer) *draft {
	return &draft{base: m, m: m.Clone(), touched: map[Key]bool{}, placer: placer, meant: map[ID]ID{}}
}

// put stores a new or altered entity of any sort; it must be a fresh value.
func (d *draft) put(sort *Description, id ID, entity any) {
	sort.Put(d.m, id, entity)
	d.touch(sort.Kind, id)
}

func (d *draft) touch(kind Entity, id ID) { d.touched[Key{kind, id}] = true }

// The put functions store a new or altered entity; it must be a fresh value.

func (d *draft) putConcept(c *Concept) { d.m.Concepts[c.ID] = c; d.touch(EntityConcept, c.ID) }
func (d *draft) putKind(k *Kind)       { d.m.Kinds[k.ID] = k; d.touch(EntityKind, k.ID) }
func (d *draft) putTag(t *Tag)         { d.m.Tags[t.ID] = t; d.touch(EntityTag, t.ID) }
func (d *draft) putRegion(r *Region)   { d.m.Regions[r.ID] = r; d.touch(EntityRegion, r.ID) }
func (d *draft) putFilter(f *Filter)   { d.m.Filters[f.ID] = f; d.touch(EntityFilter, f.ID) }
func (d *draft) putRoute(r *Route)     { d.m.Routes[r.ID] = r; d.touch(EntityRoute, r.ID) }
func (d *draft) putStop(s *Stop)       { d.m.Stops[s.ID] = s; d.touch(EntityStop, s.ID) }
func (d *draft) putComment(c *Comment) { d.m.Comments[c.ID] = c; d.touch(EntityComment, c.ID) }
func (d *draft) putHeader()            { d.touch(EntityMap, d.m.ID) }

// putLink stores a link; bends of ends that it no longer has go.
func (d *draft) putLink(l *Link) {
	for end := range l.Bends {
		if findEnd(l.From, end) < 0 && findEnd(l.To, end) < 0 {
			l.Bends = l.withBends(end, nil)
		}
	}
	d.m.Links[l.ID] = l
	d.touch(EntityLink, l.ID)
}

// concept gives a copy that may be altered and put.
func (d *draft) concept(id ID) (*Concept, error) {
	c := d.m.Concepts[id]
	if c == nil {
		return nil, Refusef("That concept is no longer on the map.")
	}
	next := *c
	return &next, nil
}

// link gives a copy that may be altered and put, its ends included.
func (d *draft) link(id ID) (*Link, error) {
	l := d.m.Links[id]
	if l == nil {
		return nil, Refusef("That link is no longer on the map.")
	}
	next := *l
	next.From, next.To = slices.Clone(l.From), slices.Clone(l.To)
	return &next, nil
}

// free checks the id of a thing to be made: well formed and never used on
// this map for a thing of any kind.
func (d *draft) free(id ID) error {
	if !id.Valid() {
		return Refusef("The new thing came without a proper name of its own. Please reload the page.")
	}
	if d.m.Taken(id) {
		return Refusef("Something on this map has that name already. Please reload the page.")
	}
	return nil
}

// dropConcept removes a concept that no link names any more, and settles what
// pointed to it.
func (d *draft) dropConcept(id ID) {
	d.rememberWords(Key{EntityConcept, id}, d.m.Concepts[id].Label)
	delete(d.m.Concepts, id)
	d.touch(EntityConcept, id)
	if d.m.Focus == id {
		d.m.Focus = ""
		d.putHeader()
	}
	if d.m.Tucked[id] {
		next := maps.Clone(d.m.Tucked)
		delete(next, id)
		d.setTucked(next)
	}
}

func (d *draft) setTucked(next map[ID]bool) {
	if len(next) == 0 {
		next = nil
	}
	d.m.Tucked = next
	d.putHeader()
}

func (d *draft) dropLink(id ID) {
	d.rememberWords(Key{EntityLink, id}, d.m.Links[id].Phrase)
	delete(d.m.Links, id)
	d.touch(EntityLink, id)
}

// rememberWords writes the last words of a vanishing thing into the references to
// it: of the stops that show it, of the comments on it.
func (d *draft) rememberWords(key Key, words Text) {
	d.changeRefs(key, func(ref *Ref, _ []*Ref) bool {
		if maps.Equal(ref.Seen, words) {
			return false
		}
		ref.Seen = words
		return true
	})
}

// changeRefs alters every reference to a thing, wherever it is kept. Change is given a
// reference of a copy, and all others beside it, and tells whether it altered any.
func (d *draft) changeRefs(key Key, change func(ref *Ref, beside []*Ref) bool) {
	for _, sort := range Entities {
		if !sort.HasRefs() {
			continue
		}
		for _, id := range sort.IDs(d.m) {
			is := func(r *Ref) bool { return r.Kind == key.Kind && r.ID == key.ID }
			if !slices.ContainsFunc(sort.Refs(sort.Get(d.m, id)), is) {
				continue
			}
			next := sort.Copy(sort.Get(d.m, id))
			if s, ok := next.(*Stop); ok {
				s.Refs = slices.Clone(s.Refs)
			}
			refs := sort.Refs(next)
			if change(refs[slices.IndexFunc(refs, is)], refs) {
				d.put(sort, id, next)
			}
		}
	}
}

// outcome compares the draft with its base.
func (d *draft) outcome() Outcome {
	keys := slices.SortedFunc(maps.Keys(d.touched), compareKeys)
	out := Outcome{Map: d.m, Moved: d.moved, Notices: d.notices}
	for _, key := range keys {
		if change := Difference(d.base, d.m, key); !change.Nothing() {
			out.Changes = append(out.Changes, change)
		}
	}
	return out
}

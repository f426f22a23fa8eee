package conceptmap

import (
	"maps"
	"slices"
)

// Moved records that something now goes by another name, for all that refers
// to it from outside the map: judgements, comments, progress on a walk. For a
// concept only the ids are set; for an end, the link's too.
type Moved struct {
	Kind    Entity `json:"kind"` // EntityConcept, or EntityLink for an end
	Old     ID     `json:"old"`
	New     ID     `json:"new"` // empty where the thing went without an heir
	OldLink ID     `json:"oldLink,omitempty"`
	NewLink ID     `json:"newLink,omitempty"`
}

// draft is a map in the making: the base that it started from, the state so
// far, and which entities have been touched.
type draft struct {
	base    *Map
	m       *Map
	touched map[Key]bool
	moved   []Moved
	notices []string
}

// newDraft begins a draft that is a map so far.
func newDraft(m *Map) *draft {
	return &draft{base: m, m: m.Clone(), touched: map[Key]bool{}}
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

// fits refuses what makes a map larger than it may be. A map that is too large
// already may be altered, as long as it does not grow.
func (d *draft) fits() error {
	over := func(was, is, most int) bool { return is > most && is > was }
	switch {
	case over(len(d.base.Concepts), len(d.m.Concepts), MaxConcepts):
		return Refusef("A map can have at most %d concepts. Begin another one for the rest.", MaxConcepts)
	case over(len(d.base.Links), len(d.m.Links), MaxLinks):
		return Refusef("A map can have at most %d links. Begin another one for the rest.", MaxLinks)
	case over(len(d.base.Stops), len(d.m.Stops), MaxStops), over(len(d.base.Routes), len(d.m.Routes), MaxStops):
		return Refusef("The routes of a map can have at most %d stops.", MaxStops)
	case len(d.m.Links) != 0 && d.linked() && over(d.base.strands(), d.m.strands(), MaxStrands):
		return Refusef("This would make the map say more than %d sentences: each end on one side of a phrase is joined to each on the other. Lead the phrase to fewer concepts.", MaxStrands)
	}
	return nil
}

// linked tells whether any link was altered.
func (d *draft) linked() bool {
	for key := range d.touched {
		if key.Kind == EntityLink {
			return true
		}
	}
	return false
}

// sound checks a link as a whole, before it is put.
func (d *draft) sound(l *Link) error {
	for _, e := range l.Ends() {
		if d.m.Concepts[e.Concept] == nil {
			return Refusef("A concept that this link should join is no longer on the map.")
		}
	}
	return l.Sound()
}

// notice says something that the person should hear about.
func (d *draft) notice(words string) {
	if !slices.Contains(d.notices, words) {
		d.notices = append(d.notices, words)
	}
}

// recordMove records that something goes by another name now.
func (d *draft) recordMove(m Moved) { d.moved = append(d.moved, m) }

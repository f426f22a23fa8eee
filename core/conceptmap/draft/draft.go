package draft

import (
	"maps"
	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"slices"
)

// Moved records that something now goes by another name, for all that refers
// to it from outside the map: judgements, comments, progress on a walk. For a
// concept only the ids are set; for an end, the link's too.
type Moved struct {
	Kind    cm.Entity `json:"kind"` // EntityConcept, or EntityLink for an end
	Old     cm.ID     `json:"old"`
	New     cm.ID     `json:"new"` // empty where the thing went without an heir
	OldLink cm.ID     `json:"oldLink,omitempty"`
	NewLink cm.ID     `json:"newLink,omitempty"`
}

// Draft is a map in the making: the base that it started from, the state so
// far, and which entities have been touched.
type Draft struct {
	Base    *cm.Map
	Map     *cm.Map
	Touched map[cm.Key]bool
	Moves   []Moved
	Notices []message.Message
}

// New begins a draft that is a map so far.
func New(m *cm.Map) *Draft {
	return &Draft{Base: m, Map: m.Clone(), Touched: map[cm.Key]bool{}}
}

// Put stores a new or altered entity of any sort; it must be a fresh value. Bends of
// ends that a link no longer has go.
func (d *Draft) Put(entity any) {
	if l, is := entity.(*cm.Link); is {
		for end := range l.Bends {
			if cm.FindEnd(l.From, end) < 0 && cm.FindEnd(l.To, end) < 0 {
				l.Bends = l.WithBends(end, nil)
			}
		}
	}
	sort := cm.DescriptionOf(entity)
	id := sort.IDOf(entity)
	if sort.Kind == cm.EntityMap {
		id = d.Map.ID // what a map says of itself has no id of its own
	}
	sort.Put(d.Map, id, entity)
	d.Touch(sort.Kind, id)
}

// Touch says that an entity may have been altered, or is gone.
func (d *Draft) Touch(kind cm.Entity, id cm.ID) { d.Touched[cm.Key{Kind: kind, ID: id}] = true }

// TouchHeader says that what the map says of itself may have been altered.
func (d *Draft) TouchHeader() { d.Touch(cm.EntityMap, d.Map.ID) }

// Concept gives a copy that may be altered and put.
func (d *Draft) Concept(id cm.ID) (*cm.Concept, error) {
	c := d.Map.Concepts[id]
	if c == nil {
		return nil, cm.Refusef("That concept is no longer on the map.")
	}
	next := *c
	return &next, nil
}

// Link gives a copy that may be altered and put, its ends included.
func (d *Draft) Link(id cm.ID) (*cm.Link, error) {
	l := d.Map.Links[id]
	if l == nil {
		return nil, cm.Refusef("That link is no longer on the map.")
	}
	next := *l
	next.From, next.To = slices.Clone(l.From), slices.Clone(l.To)
	return &next, nil
}

// Free checks the id of a thing to be made: well formed and never used on
// this map for a thing of any kind.
func (d *Draft) Free(id cm.ID) error {
	if !id.Valid() {
		return cm.Refusef("The new thing came without a proper name of its own. Please reload the page.")
	}
	if d.Map.Taken(id) {
		return cm.Refusef("Something on this map has that name already. Please reload the page.")
	}
	return nil
}

// DropConcept removes a concept that no link names any more, and settles what
// pointed to it.
func (d *Draft) DropConcept(id cm.ID) {
	d.RememberWords(cm.Key{Kind: cm.EntityConcept, ID: id}, d.Map.Concepts[id].Label)
	delete(d.Map.Concepts, id)
	d.Touch(cm.EntityConcept, id)
	if d.Map.Focus == id {
		d.Map.Focus = ""
		d.TouchHeader()
	}
	if d.Map.Tucked[id] {
		next := maps.Clone(d.Map.Tucked)
		delete(next, id)
		d.SetTucked(next)
	}
}

// SetTucked says which branches are tucked away when the map opens.
func (d *Draft) SetTucked(next map[cm.ID]bool) {
	if len(next) == 0 {
		next = nil
	}
	d.Map.Tucked = next
	d.TouchHeader()
}

// DropLink removes a link. Main strands through it are mended by Settle.
func (d *Draft) DropLink(id cm.ID) {
	d.RememberWords(cm.Key{Kind: cm.EntityLink, ID: id}, d.Map.Links[id].Phrase)
	delete(d.Map.Links, id)
	d.Touch(cm.EntityLink, id)
}

// RememberWords writes the last words of a vanishing thing into the references to
// it: of the stops that show it, of the comments on it.
func (d *Draft) RememberWords(key cm.Key, words cm.Text) {
	d.ChangeRefs(key, func(ref *cm.Ref, _ []*cm.Ref) bool {
		if maps.Equal(ref.Seen, words) {
			return false
		}
		ref.Seen = words
		return true
	})
}

// ChangeRefs alters every reference to a thing, wherever it is kept. Change is given a
// reference of a copy, and all others beside it, and tells whether it altered any; one of
// several that it lets name nothing goes.
func (d *Draft) ChangeRefs(key cm.Key, change func(ref *cm.Ref, beside []*cm.Ref) bool) {
	for _, sort := range cm.Entities {
		if !sort.HasRefs() {
			continue
		}
		for _, id := range sort.IDs(d.Map) {
			is := func(r *cm.Ref) bool { return r.Kind == key.Kind && r.ID == key.ID }
			if !slices.ContainsFunc(sort.Refs(sort.Get(d.Map, id)), is) {
				continue
			}
			next := sort.Copy(sort.Get(d.Map, id))
			sort.OwnRefs(next)
			refs := sort.Refs(next)
			if change(refs[slices.IndexFunc(refs, is)], refs) {
				sort.OwnRefs(next) // what was emptied goes
				d.Put(next)
			}
		}
	}
}

// Fits refuses what makes a map larger than it may be. A map that is too large
// already may be altered, as long as it does not grow.
func (d *Draft) Fits() error {
	over := func(was, is, most int) bool { return is > most && is > was }
	switch {
	case over(len(d.Base.Concepts), len(d.Map.Concepts), cm.MaxConcepts):
		return cm.Refusef("A map can have at most %d concepts. Begin another one for the rest.", cm.MaxConcepts)
	case over(len(d.Base.Links), len(d.Map.Links), cm.MaxLinks):
		return cm.Refusef("A map can have at most %d links. Begin another one for the rest.", cm.MaxLinks)
	case over(len(d.Base.Stops), len(d.Map.Stops), cm.MaxStops), over(len(d.Base.Routes), len(d.Map.Routes), cm.MaxStops):
		return cm.Refusef("The routes of a map can have at most %d stops.", cm.MaxStops)
	case len(d.Map.Links) != 0 && d.linked() && over(d.Base.Strands(), d.Map.Strands(), cm.MaxStrands):
		return cm.Refusef("This would make the map say more than %d sentences: each end on one side of a phrase is joined to each on the other. Lead the phrase to fewer concepts.", cm.MaxStrands)
	}
	return nil
}

// linked tells whether any link was altered.
func (d *Draft) linked() bool {
	for key := range d.Touched {
		if key.Kind == cm.EntityLink {
			return true
		}
	}
	return false
}

// CheckLink checks a link as a whole, before it is put.
func (d *Draft) CheckLink(l *cm.Link) error {
	for _, e := range l.Ends() {
		if d.Map.Concepts[e.Concept] == nil {
			return cm.Refusef("A concept that this link should join is no longer on the map.")
		}
	}
	return l.Sound()
}

// Notice says something that the person should hear about.
func (d *Draft) Notice(key string, args ...any) {
	said := message.Of(key, args...)
	if !slices.ContainsFunc(d.Notices, func(m message.Message) bool { return m.String() == said.String() }) {
		d.Notices = append(d.Notices, said)
	}
}

// RecordMove records that something goes by another name now.
func (d *Draft) RecordMove(m Moved) { d.Moves = append(d.Moves, m) }

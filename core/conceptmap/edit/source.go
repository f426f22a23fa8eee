package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
)

// sourcesOf gives the sources of a concept, a link, a stop or the tray, and a way to write
// them.
func (d *editing) sourcesOf(on cm.Key) (map[cm.ID]cm.Source, func(map[cm.ID]cm.Source), error) {
	switch on.Kind {
	case cm.EntityConcept:
		c, err := d.Concept(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return c.Sources, func(all map[cm.ID]cm.Source) { c.Sources = all; d.Put(c) }, nil
	case cm.EntityLink:
		l, err := d.Link(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return l.Sources, func(all map[cm.ID]cm.Source) { l.Sources = all; d.Put(l) }, nil
	case cm.EntityStop:
		s, err := d.stop(on.ID)
		if err != nil {
			return nil, nil, err
		}
		next := *s
		return s.Sources, func(all map[cm.ID]cm.Source) { next.Sources = all; d.Put(&next) }, nil
	case cm.EntityMap:
		return d.Map.Tray, func(all map[cm.ID]cm.Source) { d.Map.Tray = all; d.TouchHeader() }, nil
	}
	return nil, nil, cm.Refusef("Sources belong to concepts, links, stops, or the tray of the map.")
}

// AttachSource attaches a source to a concept or a link, after those that it has.
type AttachSource struct {
	On cm.Key `json:"on"`
	ID cm.ID  `json:"id"`
	cm.Source
}

func (op *AttachSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if !op.ID.Valid() {
		return cm.Refusef("The new source came without a proper name of its own. Please reload the page.")
	}
	next, err := cleanSource(op.Source)
	if err != nil {
		return err
	}
	last := ""
	for _, s := range all {
		if s.URL == next.URL && s.URL != "" {
			return cm.Refusef("That address is attached to it already.")
		}
		last = max(last, s.Rank)
	}
	next.Rank = cm.KeyBetween(last, "")
	if _, taken := all[op.ID]; taken || len(all) >= cm.MaxSources {
		return cm.Refusef("At most %d sources can be attached to one thing, each with a name of its own.", cm.MaxSources)
	}
	put(withSource(all, op.ID, &next))
	return d.grown(op.On, next.Wide > 0)
}

// grown makes room around a concept whose slip has become larger.
func (d *editing) grown(on cm.Key, larger bool) error {
	if !larger || on.Kind != cm.EntityConcept {
		return nil
	}
	return d.clear([]cm.ID{on.ID})
}

// cleanSource gives a source as it is stored, or says what is wrong with it.
func cleanSource(s cm.Source) (cm.Source, error) {
	if s.URL != "" {
		address, err := cm.CleanAddress(s.URL)
		if err != nil {
			return s, err
		}
		s.URL = address
	}
	texts := []struct {
		field *string
		most  int
		what  string
	}{{&s.Title, cm.MaxSourceName, "The name of a source"}, {&s.Says, cm.MaxSourceSays, "The description of a source"}, {&s.Licence, cm.MaxSourceName, "A licence"}}
	if s.Cite != nil {
		cite := *s.Cite
		s.Cite = &cite
		for _, field := range []*string{&cite.Author, &cite.Year, &cite.Title, &cite.Place} {
			texts = append(texts, struct {
				field *string
				most  int
				what  string
			}{field, cm.MaxSourceSays, "A citation"})
		}
	}
	for _, t := range texts {
		clean, err := cm.Clean(*t.field, t.most, t.what)
		if err != nil {
			return s, err
		}
		*t.field = clean
	}
	if s.Cite != nil && s.Cite.Title == "" {
		return s, cm.Refusef("A citation needs at least the title of the work.")
	}
	if s.Rank = ""; !s.Valid() {
		return s, cm.Refusef("That is no source that can be attached: a web address, a file or a citation.")
	}
	return s, nil
}

// withSource gives sources with one more, changed, or (nil) less; none are nil.
func withSource(all map[cm.ID]cm.Source, id cm.ID, s *cm.Source) map[cm.ID]cm.Source {
	next := maps.Clone(all)
	if next == nil {
		next = map[cm.ID]cm.Source{}
	}
	if s == nil {
		delete(next, id)
	} else {
		next[id] = *s
	}
	if len(next) == 0 {
		return nil
	}
	return next
}

// SetSource changes what is said of a source: what is nil stays as it is.
type SetSource struct {
	On      cm.Key   `json:"on"`
	ID      cm.ID    `json:"id"`
	Title   *string  `json:"title,omitempty"`
	Says    *string  `json:"says,omitempty"`
	Licence *string  `json:"licence,omitempty"`
	Wide    *float64 `json:"wide,omitempty"`
}

func (op *SetSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	was, there := all[op.ID]
	if !there {
		return cm.Refusef("That source is gone already.")
	}
	rank := was.Rank
	set(&was.Title, op.Title)
	set(&was.Says, op.Says)
	set(&was.Licence, op.Licence)
	if op.Wide != nil {
		if was.Wide = *op.Wide; was.Wide != 0 {
			was.Wide = min(max(was.Wide, cm.MinPicture), cm.MaxPicture)
		}
	}
	next, err := cleanSource(was)
	if err != nil {
		return err
	}
	next.Rank = rank
	put(withSource(all, op.ID, &next))
	return d.grown(op.On, op.Wide != nil && next.Wide > 0)
}

// DetachSource takes a source off a concept or a link.
type DetachSource struct {
	On cm.Key `json:"on"`
	ID cm.ID  `json:"id"`
}

func (op *DetachSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if _, there := all[op.ID]; !there {
		return cm.Refusef("That source is gone already.")
	}
	put(withSource(all, op.ID, nil))
	return nil
}

// attach adds a source of another concept, where it says nothing that is there.
// The concept must be a copy.
func attach(c *cm.Concept, id cm.ID, s cm.Source) error {
	for _, o := range c.Sources {
		if o.URL != "" && o.URL == s.URL || o.File != nil && s.File != nil && o.File.Hash == s.File.Hash {
			return nil
		}
	}
	if _, taken := c.Sources[id]; taken || len(c.Sources) >= cm.MaxSources {
		return cm.Refusef("At most %d sources can be attached to one thing, each with a name of its own.", cm.MaxSources)
	}
	c.Sources = withSource(c.Sources, id, &s)
	return nil
}

// PlaceSource takes a source out of the tray and attaches it to a concept or a
// link; or moves it from one of them to another.
type PlaceSource struct {
	From cm.Key `json:"from"`
	ID   cm.ID  `json:"id"`
	To   cm.Key `json:"to"`
}

func (op *PlaceSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.From)
	if err != nil {
		return err
	}
	src, there := all[op.ID]
	if !there {
		return cm.Refusef("That source is gone already.")
	}
	if op.From == op.To {
		return nil
	}
	put(withSource(all, op.ID, nil))
	src.Rank = ""
	if src.Kind() != cm.SourcePicture || op.To.Kind != cm.EntityConcept {
		src.Wide = 0
	}
	taken, _, err := d.sourcesOf(op.To)
	if err != nil {
		return err
	}
	own := op.ID
	for n := 2; cm.HasSource(taken, own); n++ {
		own = cm.Numbered(op.ID, n)
	}
	return (&AttachSource{On: op.To, ID: own, Source: src}).apply(d)
}

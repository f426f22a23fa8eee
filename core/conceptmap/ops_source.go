package conceptmap

import (
	"maps"
)

// sourcesOf gives the sources of a concept, a link or the tray, and a way to write
// them.
func (d *editing) sourcesOf(on Key) (map[ID]Source, func(map[ID]Source), error) {
	switch on.Kind {
	case EntityConcept:
		c, err := d.concept(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return c.Sources, func(all map[ID]Source) { c.Sources = all; d.putConcept(c) }, nil
	case EntityLink:
		l, err := d.link(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return l.Sources, func(all map[ID]Source) { l.Sources = all; d.putLink(l) }, nil
	case EntityMap:
		return d.m.Tray, func(all map[ID]Source) { d.m.Tray = all; d.putHeader() }, nil
	}
	return nil, nil, Refusef("Sources belong to concepts, links, or the tray of the map.")
}

// AttachSource attaches a source to a concept or a link, after those that it has.
type AttachSource struct {
	On Key `json:"on"`
	ID ID  `json:"id"`
	Source
}

func (op *AttachSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if !op.ID.Valid() {
		return Refusef("The new source came without a proper name of its own. Please reload the page.")
	}
	next, err := cleanSource(op.Source)
	if err != nil {
		return err
	}
	last := ""
	for _, s := range all {
		if s.URL == next.URL && s.URL != "" {
			return Refusef("That address is attached to it already.")
		}
		last = max(last, s.Rank)
	}
	next.Rank = KeyBetween(last, "")
	if _, taken := all[op.ID]; taken || len(all) >= MaxSources {
		return Refusef("At most %d sources can be attached to one thing, each with a name of its own.", MaxSources)
	}
	put(withSource(all, op.ID, &next))
	return d.grown(op.On, next.Wide > 0)
}

// grown makes room around a concept whose slip has become larger.
func (d *editing) grown(on Key, larger bool) error {
	if !larger || on.Kind != EntityConcept {
		return nil
	}
	return d.clear([]ID{on.ID})
}

// cleanSource gives a source as it is stored, or says what is wrong with it.
func cleanSource(s Source) (Source, error) {
	if s.URL != "" {
		address, err := cleanAddress(s.URL)
		if err != nil {
			return s, err
		}
		s.URL = address
	}
	texts := []struct {
		field *string
		most  int
		what  string
	}{{&s.Title, MaxSourceName, "The name of a source"}, {&s.Says, MaxSourceSays, "The description of a source"}, {&s.Licence, MaxSourceName, "A licence"}}
	if s.Cite != nil {
		cite := *s.Cite
		s.Cite = &cite
		for _, field := range []*string{&cite.Author, &cite.Year, &cite.Title, &cite.Place} {
			texts = append(texts, struct {
				field *string
				most  int
				what  string
			}{field, MaxSourceSays, "A citation"})
		}
	}
	for _, t := range texts {
		clean, err := Clean(*t.field, t.most, t.what)
		if err != nil {
			return s, err
		}
		*t.field = clean
	}
	if s.Cite != nil && s.Cite.Title == "" {
		return s, Refusef("A citation needs at least the title of the work.")
	}
	if s.Rank = ""; !s.Valid() {
		return s, Refusef("That is no source that can be attached: a web address, a file or a citation.")
	}
	return s, nil
}

// withSource gives sources with one more, changed, or (nil) less; none are nil.
func withSource(all map[ID]Source, id ID, s *Source) map[ID]Source {
	next := maps.Clone(all)
	if next == nil {
		next = map[ID]Source{}
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
	On      Key      `json:"on"`
	ID      ID       `json:"id"`
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
		return Refusef("That source is gone already.")
	}
	rank := was.Rank
	set(&was.Title, op.Title)
	set(&was.Says, op.Says)
	set(&was.Licence, op.Licence)
	if op.Wide != nil {
		if was.Wide = *op.Wide; was.Wide != 0 {
			was.Wide = min(max(was.Wide, MinPicture), MaxPicture)
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
	On Key `json:"on"`
	ID ID  `json:"id"`
}

func (op *DetachSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if _, there := all[op.ID]; !there {
		return Refusef("That source is gone already.")
	}
	put(withSource(all, op.ID, nil))
	return nil
}

// attach adds a source of another concept, where it says nothing that is there.
// The concept must be a copy.
func attach(c *Concept, id ID, s Source) error {
	for _, o := range c.Sources {
		if o.URL != "" && o.URL == s.URL || o.File != nil && s.File != nil && o.File.Hash == s.File.Hash {
			return nil
		}
	}
	if _, taken := c.Sources[id]; taken || len(c.Sources) >= MaxSources {
		return Refusef("At most %d sources can be attached to one thing, each with a name of its own.", MaxSources)
	}
	c.Sources = withSource(c.Sources, id, &s)
	return nil
}

// PlaceSource takes a source out of the tray and attaches it to a concept or a
// link; or moves it from one of them to another.
type PlaceSource struct {
	From Key `json:"from"`
	ID   ID  `json:"id"`
	To   Key `json:"to"`
}

func (op *PlaceSource) apply(d *editing) error {
	all, put, err := d.sourcesOf(op.From)
	if err != nil {
		return err
	}
	src, there := all[op.ID]
	if !there {
		return Refusef("That source is gone already.")
	}
	if op.From == op.To {
		return nil
	}
	put(withSource(all, op.ID, nil))
	src.Rank = ""
	if src.Kind() != SourcePicture || op.To.Kind != EntityConcept {
		src.Wide = 0
	}
	taken, _, err := d.sourcesOf(op.To)
	if err != nil {
		return err
	}
	own := op.ID
	for n := 2; hasSource(taken, own); n++ {
		own = numbered(op.ID, n)
	}
	return (&AttachSource{On: op.To, ID: own, Source: src}).apply(d)
}

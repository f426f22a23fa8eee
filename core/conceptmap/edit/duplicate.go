package edit

import (
	"maps"

	cm "mevrin/core/conceptmap"
)

// Duplicate copies concepts with all that the map says of them, and each link that is
// wholly between them. What hangs from another of them hangs so in the copy, too. What
// people say of the map stays with what they said it of, and so does its place in
// regions and routes. The copies stand as the originals do, moved as a whole until they
// cover nothing.
type Duplicate struct {
	Concepts []cm.ID `json:"concepts"`
	// As names the copies: of each concept, and of each link that may be between them.
	As map[cm.ID]cm.ID `json:"as"`
	By cm.Point        `json:"by"` // how far from the originals they are wished
}

func (op *Duplicate) apply(d *editing) error {
	for _, id := range op.Concepts {
		if _, err := d.Concept(id); err != nil {
			return err
		}
	}
	return (&copying{d, partOf(d.Map, op.Concepts), op.As, op.By}).do()
}

// partOf gives the map that consists of some concepts of a map and of the links wholly
// between them, with the kinds and tags that they bear. What is not on the map is left out.
func partOf(m *cm.Map, concepts []cm.ID) *cm.Map {
	part := cm.NewMap(m.ID, m.Language)
	for _, id := range concepts {
		c := m.Concepts[id]
		if c == nil {
			continue
		}
		part.Concepts[id] = c
		for tag := range c.Tags {
			if t := m.Tags[tag]; t != nil {
				part.Tags[tag] = t
			}
		}
		if k := m.KindOf(c); k != nil {
			part.Kinds[k.ID] = k
		}
	}
	for id, l := range m.Links {
		within := true
		for _, e := range l.Ends() {
			within = within && part.Concepts[e.Concept] != nil
		}
		if !within {
			continue
		}
		part.Links[id] = l
		if k := m.Kinds[l.Kind]; k != nil {
			part.Kinds[k.ID] = k
		}
	}
	return part
}

// copying copies a part of a map onto one.
type copying struct {
	*editing
	from *cm.Map
	as   map[cm.ID]cm.ID
	by   cm.Point
}

func (c *copying) do() error {
	by, err := cm.CleanPoint(c.by)
	if err != nil {
		return err
	}
	copies := make([]*cm.Concept, 0, len(c.from.Concepts))
	for _, id := range cm.SortedIDs(c.from.Concepts) {
		next := *c.from.Concepts[id]
		next.ID, next.Main, next.Votes = c.as[id], nil, nil
		next.At = cm.Point{X: next.At.X + by.X, Y: next.At.Y + by.Y}
		copies = append(copies, &next)
	}
	if len(copies) == 0 {
		return cm.Refusef("There is nothing selected to copy.")
	}
	further := cm.Point{}
	if c.placer != nil {
		further = c.placer.FreeTogether(c.Map, copies)
	}
	for _, next := range copies {
		if err := c.Free(next.ID); err != nil {
			return err
		}
		if next.At, err = cm.CleanPoint(cm.RoundPoint(cm.Point{X: next.At.X + further.X, Y: next.At.Y + further.Y})); err != nil {
			return err
		}
		c.Put(next)
	}
	return c.links(cm.Point{X: by.X + further.X, Y: by.Y + further.Y})
}

// links copies what joins the originals among themselves. Ends are named within their
// link, so that those of a copy bear the same names.
func (c *copying) links(by cm.Point) error {
	for _, id := range cm.SortedIDs(c.from.Links) {
		l := *c.from.Links[id]
		l.ID = c.as[id]
		if err := c.Free(l.ID); err != nil {
			return err
		}
		l.From, l.To = c.ends(l.From), c.ends(l.To)
		if l.Hub != nil {
			l.Hub = &cm.Point{X: l.Hub.X + by.X, Y: l.Hub.Y + by.Y}
		}
		l.Bends = maps.Clone(l.Bends)
		for end, places := range l.Bends {
			l.Bends[end] = moved(places, by)
		}
		if err := c.CheckLink(&l); err != nil {
			return err
		}
		c.Put(&l)
	}
	return c.hierarchy()
}

func (c *copying) ends(ends []cm.End) []cm.End {
	next := make([]cm.End, len(ends))
	for i, e := range ends {
		next[i] = cm.End{ID: e.ID, Concept: c.as[e.Concept]}
	}
	return next
}

func moved(places []cm.Point, by cm.Point) []cm.Point {
	next := make([]cm.Point, len(places))
	for i, p := range places {
		next[i] = cm.Point{X: p.X + by.X, Y: p.Y + by.Y}
	}
	return next
}

// hierarchy lets each copy hang as its original does, where that hangs from another of
// them; what does not finds a parent among the copies as for any new link.
func (c *copying) hierarchy() error {
	for _, id := range cm.SortedIDs(c.from.Concepts) {
		main := c.from.Concepts[id].Main
		if main == nil || c.from.Links[main.Link] == nil {
			continue
		}
		next, err := c.Concept(c.as[id])
		if err != nil {
			return err
		}
		next.Main = &cm.Main{Strand: cm.Strand{Link: c.as[main.Link], From: main.From, To: main.To}, Rank: main.Rank}
		c.Put(next)
	}
	for _, id := range cm.SortedIDs(c.from.Links) {
		if l := c.Map.Links[c.as[id]]; l != nil {
			for _, s := range l.Strands() {
				c.Join(s)
			}
		}
	}
	return nil
}

package edit

import (
	"cmp"
	"encoding/json"
	"maps"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
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

// Paste puts down a part of another map, or of this one as it was: concepts with all
// that was said of them, the links wholly between them, and the kinds and tags that they
// bear. Kinds and tags that this map has by name are used; others are added to it.
type Paste struct {
	// Document is the part, as the document of a map of its own (see Part).
	Document json.RawMessage `json:"document"`
	// As names what is made of each thing in the part.
	As map[cm.ID]cm.ID `json:"as"`
	By cm.Point        `json:"by"` // how far from where they stood they are wished
}

// Part gives concepts of a map, with all that Paste puts down with them, as a map of
// their own. It fails where none of them is on the map.
func Part(m *cm.Map, concepts []cm.ID) (*cm.Map, error) {
	part := partOf(m, concepts)
	for id, c := range part.Concepts {
		if c.Main != nil && part.Links[c.Main.Link] == nil {
			next := *c
			next.Main = nil // it hangs from what does not come along
			part.Concepts[id] = &next
		}
	}
	if len(part.Concepts) == 0 {
		return nil, cm.Refusef("What was copied is not on its map any more.")
	}
	return part, nil
}

func (op *Paste) apply(d *editing) error {
	whole, err := document.Read(op.Document)
	if err != nil {
		return err
	}
	// Whatever else the document holds does not come along.
	part := partOf(whole, cm.SortedIDs(whole.Concepts))
	here, err := op.key(d, part)
	if err != nil {
		return err
	}
	for id, c := range part.Concepts {
		next := *c
		next.Kind, next.Tags = here[c.Kind], nil
		for tag := range c.Tags {
			next.Tags = cm.WithMember(next.Tags, here[tag], true)
		}
		next.Label, next.Note, next.Remark = op.said(d, part, c.Label), op.said(d, part, c.Note), op.said(d, part, c.Remark)
		part.Concepts[id] = &next
	}
	for id, l := range part.Links {
		next := *l
		next.Kind = here[l.Kind]
		next.Phrase, next.Note = op.said(d, part, l.Phrase), op.said(d, part, l.Note)
		part.Links[id] = &next
	}
	return (&copying{d, part, op.As, op.By}).do()
}

// said lets words be read on a map of another language, too.
func (op *Paste) said(d *editing, part *cm.Map, words cm.Text) cm.Text {
	if words.Empty() || words[d.Map.Language] != "" {
		return words
	}
	return words.With(d.Map.Language, part.Words(words))
}

// key finds or makes the kinds and tags of the part, and gives by which each of them goes
// on this map.
func (op *Paste) key(d *editing, part *cm.Map) (map[cm.ID]cm.ID, error) {
	here := map[cm.ID]cm.ID{}
	take := func(id cm.ID, add Operation) error {
		if err := add.apply(d); err != nil {
			return err
		}
		here[id] = cmp.Or(d.meant[op.As[id]], op.As[id])
		return nil
	}
	for _, k := range part.Key() {
		err := take(k.ID, &AddKind{ID: op.As[k.ID], Name: part.Words(k.Name), Colour: k.Colour, Outline: k.Outline, Icon: k.Icon, Links: k.Links, Stroke: k.Stroke, Meaning: part.Words(k.Meaning), Role: k.Role, Reuse: true})
		if err != nil {
			return nil, err
		}
	}
	for _, t := range part.TagList() {
		if err := take(t.ID, &AddTag{ID: op.As[t.ID], Name: part.Words(t.Name), Colour: t.Colour, Reuse: true}); err != nil {
			return nil, err
		}
	}
	return here, nil
}

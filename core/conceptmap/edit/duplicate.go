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
	by, err := cm.CleanPoint(op.By)
	if err != nil {
		return err
	}
	copies := make([]*cm.Concept, 0, len(op.Concepts))
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		c.ID, c.Main, c.Votes = op.As[id], nil, nil
		c.At = cm.Point{X: c.At.X + by.X, Y: c.At.Y + by.Y}
		copies = append(copies, c)
	}
	if len(copies) == 0 {
		return cm.Refusef("There is nothing selected to copy.")
	}
	further := cm.Point{}
	if d.placer != nil {
		further = d.placer.FreeTogether(d.Map, copies)
	}
	for _, c := range copies {
		if err := d.Free(c.ID); err != nil {
			return err
		}
		if c.At, err = cm.CleanPoint(cm.RoundPoint(cm.Point{X: c.At.X + further.X, Y: c.At.Y + further.Y})); err != nil {
			return err
		}
		d.Put(c)
	}
	return op.links(d, cm.Point{X: by.X + further.X, Y: by.Y + further.Y})
}

// links copies what joins the originals among themselves. Ends are named within their
// link, so that those of a copy bear the same names.
func (op *Duplicate) links(d *editing, by cm.Point) error {
	among := map[cm.ID]bool{}
	for _, id := range op.Concepts {
		among[id] = true
	}
	for _, id := range cm.SortedIDs(d.Map.Links) {
		within := true
		for _, e := range d.Map.Links[id].Ends() {
			within = within && among[e.Concept]
		}
		if !within {
			continue
		}
		l, err := d.Link(id)
		if err != nil {
			return err
		}
		l.ID = op.As[id]
		if err := d.Free(l.ID); err != nil {
			return err
		}
		l.From, l.To = op.ends(l.From), op.ends(l.To)
		if l.Hub != nil {
			l.Hub = &cm.Point{X: l.Hub.X + by.X, Y: l.Hub.Y + by.Y}
		}
		l.Bends = maps.Clone(l.Bends)
		for end, places := range l.Bends {
			l.Bends[end] = moved(places, by)
		}
		if err := d.CheckLink(l); err != nil {
			return err
		}
		d.Put(l)
	}
	return op.hierarchy(d)
}

func (op *Duplicate) ends(ends []cm.End) []cm.End {
	next := make([]cm.End, len(ends))
	for i, e := range ends {
		next[i] = cm.End{ID: e.ID, Concept: op.As[e.Concept]}
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
func (op *Duplicate) hierarchy(d *editing) error {
	for _, id := range op.Concepts {
		main := d.Map.Concepts[id].Main
		if main == nil || d.Map.Links[op.As[main.Link]] == nil {
			continue
		}
		c, err := d.Concept(op.As[id])
		if err != nil {
			return err
		}
		c.Main = &cm.Main{Strand: cm.Strand{Link: op.As[main.Link], From: main.From, To: main.To}, Rank: main.Rank}
		d.Put(c)
	}
	for _, id := range cm.SortedIDs(op.As) {
		if l := d.Map.Links[op.As[id]]; l != nil {
			for _, s := range l.Strands() {
				d.Join(s)
			}
		}
	}
	return nil
}

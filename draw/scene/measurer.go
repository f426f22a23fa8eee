package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
)

// Measurer tells those that lay out maps how large things are drawn.
type Measurer struct {
	// Drawn may be a scene of an earlier state of the map, in which what did not change is not measured
	// again; nil for none.
	Drawn *Scene
}

// Slip gives the size of a concept's slip in the map's own language.
func (r Measurer) Slip(m *cm.Map, c *cm.Concept) layout.Size {
	if s := r.same(m, c); s != nil {
		return layout.Size{W: s.Box.W, H: s.Box.H}
	}
	more := newMeanings(m, m.Language).of(c)
	_, box := slipBox(c, m.Words(c.Label), m.Focus == c.ID, false, m.OutlineOf(c), m.Look.Large, &more)
	return layout.Size{W: box.W, H: box.H}
}

// same gives the slip of a concept in the earlier scene where it was drawn with all that its size depends
// on; nil where it was not.
func (r Measurer) same(m *cm.Map, c *cm.Concept) *Slip {
	if r.Drawn == nil || r.Drawn.language != m.Language || r.Drawn.Look.Large != m.Look.Large {
		return nil
	}
	s := r.Drawn.Slips[c.ID]
	if s == nil || s.source != c || s.lang != "" || s.kind != m.KindOf(c) || s.Focus != (m.Focus == c.ID) || len(s.Hides) > 0 {
		return nil
	}
	if len(c.Tags) > 0 && !slices.Equal(s.tags, newMeanings(m, m.Language).tagsOf(c)) {
		return nil
	}
	return s
}

// Phrase gives the room that the words of a link take, or that is kept for them.
func (Measurer) Phrase(m *cm.Map, l *cm.Link) layout.Size {
	gap := phraseBox(m.Words(l.Phrase), m.Look.Large, (&meanings{m: m, lang: m.Language}).linkMarks(l))
	return layout.Size{W: gap.W, H: gap.H}
}

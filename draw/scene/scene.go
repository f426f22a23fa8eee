// Package scene turns a map into measured shapes: boxes with their wrapped
// words, lines with their phrases. It knows no output format; svg and others
// write what it holds. All lengths are pixels at scale 1, y down.
//
// A scene belongs to a map and a View. Building the next one reuses every
// element that did not change, so that what differs between two scenes is
// found by comparing pointers (Diff).
package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/face"
)

// View says for whom a map is drawn.
type View struct {
	// Lang is the language to show where the map has it; the map's own
	// language stands in for what is not translated.
	Lang cm.Lang
}

// Point is a place.
type Point struct{ X, Y float64 }

// Rect is a box by its top left corner and its extent.
type Rect struct{ X, Y, W, H float64 }

// Middle gives the centre of the box.
func (r Rect) Middle() Point { return Point{r.X + r.W/2, r.Y + r.H/2} }

// Grown gives the box with a margin around it.
func (r Rect) Grown(x, y float64) Rect { return Rect{r.X - x, r.Y - y, r.W + 2*x, r.H + 2*y} }

// Meets tells whether two boxes overlap.
func (r Rect) Meets(o Rect) bool {
	return r.X < o.X+o.W && o.X < r.X+r.W && r.Y < o.Y+o.H && o.Y < r.Y+r.H
}

// Scene is a whole drawing.
type Scene struct {
	Slips map[cm.ID]*Slip
	Links map[cm.ID]*Link

	language cm.Lang
	bows     map[cm.ID]float64
}

// Slip is a concept as drawn.
type Slip struct {
	ID    cm.ID
	Box   Rect
	Words *Block
	Focus bool // the focus concept
	Loose bool // no link ends at it
	Level int
	Note  bool // it carries a note
	// MainLink is the link by which the concept hangs from its parent, MainEnd
	// the concept's own end of it; both empty for a root.
	MainLink, MainEnd cm.ID
	Rank              string // among its siblings

	source *cm.Concept
	view   View
}

// Link is a link as drawn: one leg for each end, meeting at the phrase.
type Link struct {
	ID    cm.ID
	Legs  []Leg
	Gap   Rect   // the room of the phrase, on paper colour
	Words *Block // nil for a link without a phrase
	Heads cm.Heads
	// Says is the link as sentences, for those who hear the map.
	Says string

	source *cm.Link
	ends   []*Slip
	cross  []bool
	bow    float64
	view   View
}

// Open tells that the link still asks for its words.
func (l *Link) Open() bool { return l.Words == nil }

// Leg is the part of a link between one of its ends and its phrase.
type Leg struct {
	End     cm.ID
	Concept cm.ID
	From    bool   // it belongs to the from-side
	Cross   bool   // all strands through it are cross-links
	Curve   Curve  // from the slip's border to the phrase
	Dart    *Dart  // where an arrow points at the concept
	Knot    *Point // where the link leaves its source
}

// Dart is a slim arrowhead: its tip and the direction in which it points, a
// vector of length 1.
type Dart struct{ Tip, Along Point }

// Build draws a map. Prev may be an earlier scene of the same map, whose
// elements are taken over where nothing about them changed.
func Build(m *cm.Map, s *structure.Structure, v View, prev *Scene) *Scene {
	if prev == nil || prev.language != m.Language {
		prev = &Scene{} // in another language every word may be another
	}
	sc := &Scene{language: m.Language, Slips: make(map[cm.ID]*Slip, len(m.Concepts)), Links: make(map[cm.ID]*Link, len(m.Links))}
	for id, c := range m.Concepts {
		place := s.Places[id]
		slip := prev.Slips[id]
		if slip == nil || slip.source != c || slip.Focus != (m.Focus == id) || slip.Loose != place.Loose ||
			slip.Level != place.Level || slip.view != v {
			slip = &Slip{ID: id, Focus: m.Focus == id, Loose: place.Loose, Level: place.Level, Note: !c.Note.Empty(), source: c, view: v}
			slip.hang(m)
			slip.Words, slip.Box = slipBox(c.At, c.Label.For(v.Lang, m.Language), slip.Focus)
		}
		sc.Slips[id] = slip
	}
	sc.bows = prev.bows
	if !prev.sameLinks(m) {
		sc.bows = bowed(m)
	}
	for id, l := range m.Links {
		link := prev.Links[id]
		if link == nil || link.source != l || link.bow != sc.bows[id] || link.view != v || !link.holds(s, sc) {
			link = &Link{ID: id, Heads: l.Heads, source: l, bow: sc.bows[id], view: v}
			if !link.gather(l, s, sc) {
				continue
			}
			link.draw(m, v)
		}
		sc.Links[id] = link
	}
	return sc
}

// hang looks up by which end of which link the concept hangs from its parent.
func (s *Slip) hang(m *cm.Map) {
	c := s.source
	if m.Parent(c) == "" || s.Focus {
		return
	}
	s.MainLink, s.MainEnd, s.Rank = c.Main.Link, c.Main.From, c.Main.Rank
	if _, to, _ := m.Between(c.Main.Strand); to == c.ID {
		s.MainEnd = c.Main.To
	}
}

// gather looks up what the drawing of a link depends on; false where one of
// its concepts is not there.
func (k *Link) gather(l *cm.Link, s *structure.Structure, sc *Scene) bool {
	for _, e := range l.Ends() {
		slip := sc.Slips[e.Concept]
		if slip == nil {
			return false
		}
		k.ends = append(k.ends, slip)
	}
	for _, strand := range l.Strands() {
		k.cross = append(k.cross, s.Cross(strand))
	}
	return len(l.From) > 0 && len(l.To) > 0
}

// holds tells whether a drawn link still has the slips and cross-links that it
// was drawn with.
func (k *Link) holds(s *structure.Structure, sc *Scene) bool {
	i, l := 0, k.source
	for _, side := range [2][]cm.End{l.From, l.To} {
		for _, e := range side {
			if k.ends[i] != sc.Slips[e.Concept] {
				return false
			}
			i++
		}
	}
	i = 0
	for _, f := range l.From {
		for _, t := range l.To {
			if k.cross[i] != s.Cross(cm.Strand{Link: l.ID, From: f.ID, To: t.ID}) {
				return false
			}
			i++
		}
	}
	return true
}

// sameLinks tells whether the scene shows the very links of a map.
func (sc *Scene) sameLinks(m *cm.Map) bool {
	if sc.bows == nil || len(sc.Links) != len(m.Links) {
		return false
	}
	for id, l := range m.Links {
		if drawn := sc.Links[id]; drawn == nil || drawn.source != l {
			return false
		}
	}
	return true
}

// bowed gives each of several links between the same two concepts a bow of
// its own, in pixels to the left of the way from the lesser id to the greater.
func bowed(m *cm.Map) map[cm.ID]float64 {
	pairs := map[[2]cm.ID][]cm.ID{}
	for id, l := range m.Links {
		if len(l.From) == 1 && len(l.To) == 1 {
			a, b := l.From[0].Concept, l.To[0].Concept
			if a > b {
				a, b = b, a
			}
			pairs[[2]cm.ID{a, b}] = append(pairs[[2]cm.ID{a, b}], id)
		}
	}
	bows := map[cm.ID]float64{}
	for _, ids := range pairs {
		if len(ids) < 2 {
			continue
		}
		slices.Sort(ids)
		for i, id := range ids {
			bows[id] = (float64(i) - float64(len(ids)-1)/2) * 52
		}
	}
	return bows
}

// Diff lists what a page that shows one scene must replace and remove to show
// another, each in the order of ids.
func Diff(before, after *Scene) (slips, links, goneSlips, goneLinks []cm.ID) {
	slips, goneSlips = differ(before.Slips, after.Slips)
	links, goneLinks = differ(before.Links, after.Links)
	return slips, links, goneSlips, goneLinks
}

func differ[E any](before, after map[cm.ID]*E) (changed, gone []cm.ID) {
	for id, e := range after {
		if before[id] != e {
			changed = append(changed, id)
		}
	}
	for id := range before {
		if after[id] == nil {
			gone = append(gone, id)
		}
	}
	slices.Sort(changed)
	slices.Sort(gone)
	return changed, gone
}

// Block is wrapped words with the room that they take.
type Block struct {
	Words       string // as written, with the author's own line breaks
	Lines       []face.Line
	Size        float64 // of the font
	LineHeight  float64
	W, H        float64
	RightToLeft bool
}

// Bounds gives the box around everything drawn; a small one at the origin
// where there is nothing.
func (sc *Scene) Bounds() Rect {
	first := true
	var x0, y0, x1, y1 float64
	add := func(r Rect) {
		if first {
			x0, y0, x1, y1, first = r.X, r.Y, r.X+r.W, r.Y+r.H, false
			return
		}
		x0, y0, x1, y1 = min(x0, r.X), min(y0, r.Y), max(x1, r.X+r.W), max(y1, r.Y+r.H)
	}
	for _, s := range sc.Slips {
		add(s.Box)
	}
	for _, l := range sc.Links {
		add(l.Gap)
		for _, leg := range l.Legs {
			for i := range 9 {
				p := leg.Curve.At(float64(i) / 8)
				add(Rect{X: p.X - 2, Y: p.Y - 2, W: 4, H: 4})
			}
		}
	}
	return Rect{x0, y0, x1 - x0, y1 - y0}
}

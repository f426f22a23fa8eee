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
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/structure"
	"mevrin/draw/face"
)

// View says for whom a map is drawn.
type View struct {
	// Lang is the language to show where the map has it; the map's own
	// language stands in for what is not translated.
	Lang cm.Lang
	// Tucked tells which branches are tucked away.
	Tucked Tucked
}

// Tucked names the concepts whose branches are tucked away, in a form that can
// be compared: their ids, sorted, with spaces between them.
type Tucked string

// TuckedOf names some concepts.
func TuckedOf(ids []cm.ID) Tucked {
	names := make([]string, len(ids))
	for i, id := range ids {
		names[i] = string(id)
	}
	slices.Sort(names)
	return Tucked(strings.Join(slices.Compact(names), " "))
}

// IDs gives the concepts, sorted.
func (t Tucked) IDs() []cm.ID {
	var ids []cm.ID
	for name := range strings.FieldsSeq(string(t)) {
		ids = append(ids, cm.ID(name))
	}
	return ids
}

// PaperStep is the distance of the lines, squares or dots that are printed on paper,
// in pixels.
const PaperStep = 28.0

// The shapes of package geometry.
type (
	Point = geometry.Point
	Rect  = geometry.Box
)

// Scene is a whole drawing.
type Scene struct {
	Slips map[cm.ID]*Slip
	Links map[cm.ID]*Link
	// Axis is the axis of a map drawn along time, else nil.
	Axis *Axis
	// Regions are the outlines around concepts, the larger before the smaller.
	Regions []*Region
	// Key says what kinds and tags mean; nil where there is none on the paper.
	Key *Key

	// Look is how the map is dressed.
	Look cm.Look

	language cm.Lang
	view     View
	shape    *structure.Structure
	stand    *standing // the slips in a row
	stamp    *stamp    // tells this scene from any other
	base     *stamp    // of the scene from which changed was told
	changed  struct{ slips, links, goneSlips, goneLinks []cm.ID }
	bows     map[cm.ID]float64
	alone    map[cm.ID]*Link // the links as they would be drawn without each other
	order    []cm.ID         // of the links, by their ids
	straight map[cm.ID]*Link // the links as they make way for each other, led to the middles of slips
	ports    map[cm.ID]*ports
}

// A stamp tells one scene from another; it holds nothing of it, so that no scene keeps the one
// before in memory. (It has a size: all that have none may lie at one address.)
type stamp struct{ _ byte }

// Slip is a concept as drawn.
type Slip struct {
	ID    cm.ID
	Box   Rect
	Words *Block
	Focus bool // the focus concept
	Loose bool // no link ends at it
	Level int
	// Pinned tells that putting the map in order leaves it where it is; Held, that a
	// hand placed it on a map that keeps itself in order, which leaves it there.
	Pinned, Held bool
	// Kind is the name of its kind, empty where it has none; colour and outline
	// are that kind's.
	Kind    string
	Colour  cm.Colour
	Outline cm.Outline
	// Icons stand left of its label, Marks below.
	Icons   []cm.Icon
	Marks   []Mark
	Picture *Picture   // above the label
	Remark  *Block     // below it, or nil
	Grid    *Grid      // below that
	Talk    Discussion // at its lower edge
	// Paint is how it looks otherwise than its kind, or nil.
	Paint *cm.Paint
	Size  int  // of its label, in steps
	Wide  bool // the width of its label was chosen
	// Hides lists what is tucked away below it, sorted.
	Hides []cm.ID
	// MainLink is the link by which the concept hangs from its parent, MainEnd
	// the concept's own end of it; both empty for a root.
	MainLink, MainEnd cm.ID
	Parent            cm.ID  // the concept from which it hangs
	Rank              string // among its siblings

	// Region tells that this is no concept but a region that is tucked to one box,
	// by the region's id.
	Region bool

	source *cm.Concept
	kind   *cm.Kind
	tags   []*cm.Tag
	lang   cm.Lang
}

// Link is a link as drawn: one leg for each end, meeting at the phrase.
type Link struct {
	ID    cm.ID
	Legs  []Leg
	Gap   Rect       // the room of the phrase and its marks, on paper colour
	Words *Block     // nil for a link without a phrase
	Marks []Mark     // behind the phrase
	Talk  Discussion // at the lower edge of the gap
	// Verdicts are what was judged of its propositions.
	Verdicts []VerdictAt
	Heads    cm.Heads
	// Says is the link as sentences, for those who hear the map.
	Says string
	// Kind is the name of its kind, empty where it has none; colour and stroke are
	// that kind's.
	Kind   string
	Colour cm.Colour
	Stroke cm.Stroke

	source *cm.Link
	kind   *cm.Kind
	hue    cm.Colour // by what colours stand for, if it has no kind
	manner cm.Line   // how its line runs: its own, or the map's
	shown  []*Slip   // for each end, what is seen of its concept
	ends   []end     // that are drawn
	cross  []bool
	bow    float64
	lang   cm.Lang
	ways   map[cm.ID][]Point // turns of the lines that run by themselves, by their ends
	looked route.Rect        // where a way for them was sought
	reach  route.Rect        // around where it runs if nothing is in its way
	extent route.Rect        // around all lines and the phrase
	// Of one that makes way for others: that their phrases stood on its lines, and
	// where its own was tried.
	crossed bool
	tried   []Rect
	aside   *route.Rect // where it was tried beside older ones on which it ran, or nil
	at      []begin     // where its legs begin, if not all by themselves
	part    float64     // where on its line the phrase stands, if nobody put it anywhere
}

// end is an end of a link as drawn, the from-side first.
type end struct {
	End    cm.ID
	From   bool
	Slip   *Slip
	Veiled bool // its concept is tucked away; the slip stands for it
}

// Open tells that the link still asks for its words.
func (l *Link) Open() bool { return l.Words == nil }

// Veiled tells that the link leads to something that is tucked away.
func (l *Link) Veiled() bool {
	return slices.ContainsFunc(l.Legs, func(leg Leg) bool { return leg.Veiled })
}

// ByHand gives what the author led by hand: the link as it is stored.
func (l *Link) ByHand() *cm.Link { return l.source }

// Leg is the part of a link between one of its ends and its phrase.
type Leg struct {
	End     cm.ID
	Concept cm.ID
	From    bool   // it belongs to the from-side
	Cross   bool   // all strands through it are cross-links
	Veiled  bool   // it leads to something that is tucked away under the concept
	Path    Path   // from the slip's border to the phrase
	Dart    *Dart  // where an arrow points at the concept
	Knot    *Point // where the link leaves its source

	whole Path // from the slip's border to the middle of the phrase
}

// Dart is a slim arrowhead: its tip and the direction in which it points, a
// vector of length 1.
type Dart struct{ Tip, Along Point }

// Diff lists what a page that shows one scene must replace and remove to show
// another, each in the order of ids.
func Diff(before, after *Scene) (slips, links, goneSlips, goneLinks []cm.ID) {
	if c := after.changed; before.stamp != nil && after.base == before.stamp {
		return slices.Clone(c.slips), slices.Clone(c.links), slices.Clone(c.goneSlips), slices.Clone(c.goneLinks)
	}
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
	Voice       face.Voice
	Align       cm.Align
	Inset       float64 // of aligned lines from the edge of their box
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
				p := leg.Path.At(float64(i) / 8 * float64(len(leg.Path)))
				add(Rect{X: p.X - 2, Y: p.Y - 2, W: 4, H: 4})
			}
		}
	}
	for _, r := range sc.Regions {
		for _, part := range r.Parts {
			for _, p := range part {
				add(Rect{X: p.X, Y: p.Y})
			}
		}
	}
	if sc.Key != nil {
		add(sc.Key.Box)
	}
	if a := sc.Axis; a != nil {
		add(Rect{X: a.X0, Y: a.Y - 26, W: a.X1 - a.X0, H: 26})
	}
	return Rect{X: x0, Y: y0, W: x1 - x0, H: y1 - y0}
}

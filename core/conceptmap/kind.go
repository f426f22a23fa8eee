package conceptmap

import (
	"regexp"
	"slices"
	"strings"
)

// Kind is a sort of thing that the author has named, such as "process", or a sort
// of link, such as "cause". Its colour, its outline and its icon say so at every
// concept of that kind; colour and stroke at every link. All kinds of a map are
// its key.
type Kind struct {
	ID      ID      `json:"id"`
	Name    Text    `json:"name,omitempty" mevrin:"limit=name"`
	Meaning Text    `json:"meaning,omitempty" mevrin:"limit=note"`
	Colour  Colour  `json:"colour,omitempty"`
	Outline Outline `json:"outline,omitempty"`
	Icon    Icon    `json:"icon,omitempty"`
	// Links says that it is a kind of links; then it has a stroke, no outline.
	Links  bool   `json:"links,omitempty"`
	Stroke Stroke `json:"stroke,omitempty"`
	// Role says what rules and phrases know the kind as, whatever it is called: the
	// set that it came from and its part there ("argument.claim"), or nothing.
	Role Role   `json:"role,omitempty"`
	Rank string `json:"rank" mevrin:"form=rank"` // orders the key (see KeyBetween)
}

// Role names a part in a set of kinds, such as "argument.claim".
type Role string

// RolePattern is the form of a role.
var RolePattern = regexp.MustCompile(`^[a-z]{1,20}\.[a-z]{1,20}$`)

// Valid tells whether the role has the form of one, or is none.
func (r Role) Valid() bool { return r == "" || RolePattern.MatchString(string(r)) }

// Set gives the set of which the role is a part.
func (r Role) Set() string {
	set, _, _ := strings.Cut(string(r), ".")
	return set
}

// Stroke is how a line is drawn. None is dotted: a dotted line is a link that
// waits for its words.
type Stroke string

// The strokes; the ordinary one is a plain line.
const (
	StrokePlain  Stroke = ""
	StrokeHeavy  Stroke = "heavy"
	StrokeDashed Stroke = "dashed"
	StrokeUneven Stroke = "uneven" // a long dash and a short one
)

// Strokes are all strokes, in the order in which they are offered.
var Strokes = []Stroke{StrokePlain, StrokeHeavy, StrokeDashed, StrokeUneven}

// Valid tells whether there is such a stroke.
func (s Stroke) Valid() bool { return slices.Contains(Strokes, s) }

// Icon is the name of a small picture of the set that is shipped, or the number of a
// step ("step-7", see Step). One that the set does not have is not shown.
type Icon string

// IconPattern is the form of the name of an icon.
var IconPattern = regexp.MustCompile(`^[a-z0-9]{1,30}(-[a-z0-9]{1,30}){0,6}$`)

// Valid tells whether the icon has the form of a name.
func (i Icon) Valid() bool { return IconPattern.MatchString(string(i)) }

// Colour names one of a set of colours; a look says how each is shown.
type Colour string

// Colours are the names of the set, in the order in which they are offered.
var Colours = []Colour{"sky", "straw", "sea", "rose", "leaf", "iron", "plum", "clay"}

// Valid tells whether there is such a colour; none is one.
func (c Colour) Valid() bool { return c == "" || slices.Contains(Colours, c) }

// Outline is the shape of a slip.
type Outline string

// The outlines; a slip's is the ordinary one.
const (
	OutlineSlip    Outline = ""
	OutlineCapsule Outline = "capsule"
	OutlineLozenge Outline = "lozenge"
	OutlineTicket  Outline = "ticket"
	OutlineOval    Outline = "oval"
	OutlinePlain   Outline = "plain"
)

// Outlines are all outlines, in the order in which they are offered.
var Outlines = []Outline{OutlineSlip, OutlineCapsule, OutlineLozenge, OutlineTicket, OutlineOval, OutlinePlain}

// Valid tells whether there is such an outline.
func (o Outline) Valid() bool { return slices.Contains(Outlines, o) }

// FreeLook gives a look for one more kind of concepts, or of links, that no other
// of that sort has yet; where all are taken they come round again.
func (m *Map) FreeLook(links bool) (Colour, Outline, Stroke) {
	colours, outlines, strokes := map[Colour]bool{}, map[Outline]bool{}, map[Stroke]bool{}
	n := 0
	for _, k := range m.Kinds {
		if k.Links == links {
			colours[k.Colour], outlines[k.Outline], strokes[k.Stroke] = true, true, true
			n++
		}
	}
	if links {
		return free(Colours, colours, n), OutlineSlip, free(Strokes, strokes, n)
	}
	return free(Colours, colours, n), free(Outlines, outlines, n), StrokePlain
}

// FreeColour gives a colour for one more tag.
func (m *Map) FreeColour() Colour {
	taken := map[Colour]bool{}
	for _, t := range m.Tags {
		taken[t.Colour] = true
	}
	return free(Colours, taken, len(m.Tags))
}

func free[T comparable](all []T, taken map[T]bool, n int) T {
	for _, v := range all {
		if !taken[v] {
			return v
		}
	}
	return all[n%len(all)]
}

// The bounds of a key.
const (
	MaxKinds    = 60
	MaxKindName = 60
)

// Sound tells what is wrong with how a kind looks as a whole.
func (k *Kind) Sound() error {
	if k.Colour.Valid() && k.Outline.Valid() && k.Stroke.Valid() && (k.Icon == "" || k.Icon.Valid()) && k.Role.Valid() &&
		(k.Links || k.Stroke == "") && (!k.Links || k.Outline == "" && k.Icon == "") {
		return nil
	}
	return Refusef("There is no such colour, outline, icon or line for this kind.")
}

// KindOf gives the kind of a concept, or nil.
func (m *Map) KindOf(c *Concept) *Kind {
	if c == nil || c.Kind == "" || m.Kinds[c.Kind] == nil || m.Kinds[c.Kind].Links {
		return nil
	}
	return m.Kinds[c.Kind]
}

// KindOfLink gives the kind of a link, or nil.
func (m *Map) KindOfLink(l *Link) *Kind {
	if l == nil || l.Kind == "" || m.Kinds[l.Kind] == nil || !m.Kinds[l.Kind].Links {
		return nil
	}
	return m.Kinds[l.Kind]
}

// Key gives all kinds in their order, those of concepts first.
func (m *Map) Key() []*Kind {
	all := InOrder(m.Kinds)
	slices.SortStableFunc(all, func(a, b *Kind) int { return strings.Compare(a.Rank, b.Rank) })
	slices.SortStableFunc(all, func(a, b *Kind) int {
		switch {
		case a.Links == b.Links:
			return 0
		case b.Links:
			return -1
		}
		return 1
	})
	return all
}

// KeyPlace says where the key stands on the paper, by its top left corner, and
// how.
type KeyPlace struct {
	At     *Point `json:"at,omitempty"` // by itself below the map where absent
	Folded bool   `json:"folded,omitempty"`
	Away   bool   `json:"away,omitempty"` // it is not on the paper
}

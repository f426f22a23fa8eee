// Package structure derives what a map says from what it stores: propositions,
// the hierarchy with its levels and branches, cross-links, loose ideas, and
// the order in which the map is read. None of this is ever stored.
//
// # Definitions
//
// Proposition: a strand read in one direction. A link with one arrowhead, or
// none, makes one proposition of each strand, from its from-end to its to-end
// (without heads that is the order of reading, left to right); a link with two
// arrowheads makes two, one each way. A link without a phrase makes
// propositions too; they are Open. A self-link, with one concept on both
// sides, makes a proposition of that concept with itself.
//
// Parent: of a concept, the other concept of its main strand. A concept
// without a sound main strand is a root; so is the focus concept. A main
// strand is not sound if its link or an end is gone, if it does not touch the
// concept, or if it is a self-link's.
//
// Tree: a root with all that is below it. A map can have several. Concepts
// whose parents form a circle have no root: they are in no tree.
//
// Level: 1 for the focus concept, one more than its parent's for a concept
// below it. A concept outside the focus concept's tree has level 0: it has
// none, even where a further link joins it to the tree.
//
// Branch: for a concept in the focus concept's tree, its ancestor (or itself)
// at level 2; for any other concept in a tree, the root of that tree. The
// focus concept and concepts in no tree have no branch.
//
// Main strand: a strand that is the main strand of one of its two concepts.
// All others are further strands.
//
// Cross-link: a further strand whose two concepts have branches, and different
// ones. A link is a cross-link if any of its strands is.
//
// Loose idea: a concept at which no link ends, on either side. A self-link
// ends at its concept, so that concept is not loose.
//
// Siblings: the children of one parent in the order of their ranks, then of
// their ids.
//
// Reading order: the focus concept's tree, then the other trees in the order
// of their roots' ids, loose ideas among them, each tree from the top down and
// each concept before its children (depth first, children in sibling order);
// then the concepts in no tree, by id. Each concept occurs exactly once.
package structure

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"sync"

	cm "mevrin/core/conceptmap"
)

// Proposition is a strand read in one direction.
type Proposition struct {
	Strand cm.Strand
	// Subject and Object are the concepts that the sentence begins and ends with.
	Subject, Object cm.ID
	// Against tells that the sentence runs from the to-end to the from-end, as
	// the second one of a link with two arrowheads does.
	Against bool
	Open    bool // the link has no phrase yet
	Main    bool
	Cross   bool

	from, to int // where subject and object stand in the reading order
}

// Place is where a concept stands in the hierarchy.
type Place struct {
	Parent   cm.ID
	Level    int // 1 for the focus concept, 0 outside its tree
	Branch   cm.ID
	Children []cm.ID // in sibling order
	Loose    bool
	order    int
}

// Structure is what a map says. It belongs to one state of one map.
type Structure struct {
	Places map[cm.ID]*Place
	Order  []cm.ID // the reading order
	Roots  []cm.ID // in reading order

	m     *cm.Map
	ids   []cm.ID // of all concepts, sorted
	cross map[cm.Strand]bool
	say   sync.Once
	said  []Proposition
}

// Of derives the structure of a map. It never fails: whatever the map holds,
// the definitions of this package give an answer. Time is proportional to the
// size of the map, but for sorting.
func Of(m *cm.Map) *Structure {
	s := &Structure{
		m:      m,
		Places: make(map[cm.ID]*Place, len(m.Concepts)),
		cross:  map[cm.Strand]bool{},
		ids:    cm.SortedIDs(m.Concepts),
	}
	s.placeAll(m)
	s.readAll(m)
	s.crossAll(m)
	return s
}

// Next derives the structure of a map from that of an earlier state of it. It
// gives what Of gives, and is quick where only words and places differ, or links
// were added from which nothing hangs.
func Next(before *Structure, m *cm.Map) *Structure {
	if before == nil {
		return Of(m)
	}
	added, same := addedTo(before.m, m)
	if !same {
		return Of(m)
	}
	next := &Structure{m: m, Places: before.Places, Order: before.Order, Roots: before.Roots, ids: before.ids, cross: before.cross}
	for i, l := range added {
		if i == 0 {
			next.cross = maps.Clone(before.cross)
		}
		for _, e := range l.Ends() {
			if place := next.Places[e.Concept]; place != nil && place.Loose {
				return Of(m)
			}
		}
		next.crossOf(l)
	}
	return next
}

// SameShape tells whether the hierarchy and the cross-links are those of another structure, taken
// over by Next. It is false at times where they are equal.
func (s *Structure) SameShape(o *Structure) bool {
	return len(s.Order) == len(o.Order) && (len(s.Order) == 0 || &s.Order[0] == &o.Order[0])
}

// addedTo gives the links that one map has beyond another; same is false where the two differ in
// anything else that a place in the hierarchy or a cross-link depends on.
func addedTo(a, b *cm.Map) (added []*cm.Link, same bool) {
	if a.Focus != b.Focus || len(a.Concepts) != len(b.Concepts) || len(a.Links) > len(b.Links) {
		return nil, false
	}
	for id, was := range a.Concepts {
		is := b.Concepts[id]
		if is == nil || is.Main != was.Main && (is.Main == nil || was.Main == nil || *is.Main != *was.Main) {
			return nil, false
		}
		if is.Main != nil && len(a.Links) < len(b.Links) && a.Links[is.Main.Link] == nil {
			return nil, false // it may hang from what was added
		}
	}
	kept := 0
	for id, is := range b.Links {
		was := a.Links[id]
		switch {
		case was == nil:
			added = append(added, is)
			continue
		case is != was && (!slices.Equal(is.From, was.From) || !slices.Equal(is.To, was.To)):
			return nil, false
		}
		kept++
	}
	return added, kept == len(a.Links)
}

// placeAll finds parents, children and loose ideas.
func (s *Structure) placeAll(m *cm.Map) {
	all := make([]Place, len(s.ids))
	for i, id := range s.ids {
		all[i] = Place{Loose: true, order: -1}
		s.Places[id] = &all[i]
	}
	for _, l := range m.Links {
		for _, side := range [2][]cm.End{l.From, l.To} {
			for _, e := range side {
				if p := s.Places[e.Concept]; p != nil {
					p.Loose = false
				}
			}
		}
	}
	for i, id := range s.ids {
		c := m.Concepts[id]
		if id == m.Focus || c.Main == nil {
			continue
		}
		parent := m.Parent(c)
		up := s.Places[parent]
		if up == nil {
			continue
		}
		all[i].Parent = parent
		up.Children = append(up.Children, id)
	}
	for i := range all {
		p := &all[i]
		if len(p.Children) < 2 {
			continue
		}
		slices.SortStableFunc(p.Children, func(a, b cm.ID) int {
			return strings.Compare(m.Concepts[a].Rank(), m.Concepts[b].Rank())
		})
	}
}

// readAll walks the trees in reading order and gives levels and branches.
func (s *Structure) readAll(m *cm.Map) {
	if s.Places[m.Focus] != nil {
		s.Roots = append(s.Roots, m.Focus)
	}
	s.Order = slices.Grow(s.Order, len(s.ids))
	for _, id := range s.ids {
		if id != m.Focus && s.Places[id].Parent == "" {
			s.Roots = append(s.Roots, id)
		}
	}
	for _, root := range s.Roots {
		s.walk(root, root == m.Focus)
	}
	for _, id := range s.ids {
		if p := s.Places[id]; p.order < 0 {
			p.order = len(s.Order)
			s.Order = append(s.Order, id)
		}
	}
}

// walk goes through one tree with a stack of its own, since a chain of
// concepts may be longer than recursion should go.
func (s *Structure) walk(root cm.ID, focus bool) {
	stack := []cm.ID{root}
	for len(stack) > 0 {
		id := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		p := s.Places[id]
		p.order = len(s.Order)
		s.Order = append(s.Order, id)
		switch {
		case !focus:
			p.Branch = root
		case id == root:
			p.Level = 1
		default:
			up := s.Places[p.Parent]
			p.Level, p.Branch = up.Level+1, up.Branch
			if p.Level == 2 {
				p.Branch = id
			}
		}
		for _, child := range slices.Backward(p.Children) {
			stack = append(stack, child)
		}
	}
}

// crossAll finds the cross-links.
func (s *Structure) crossAll(m *cm.Map) {
	for _, l := range m.Links {
		s.crossOf(l)
	}
}

func (s *Structure) crossOf(l *cm.Link) {
	for _, f := range l.From {
		a := s.Places[f.Concept]
		if a == nil || a.Branch == "" {
			continue
		}
		for _, t := range l.To {
			b := s.Places[t.Concept]
			if b == nil || b.Branch == "" || a.Branch == b.Branch {
				continue
			}
			if strand := (cm.Strand{Link: l.ID, From: f.ID, To: t.ID}); !s.isMain(strand, f.Concept, t.Concept) {
				s.cross[strand] = true
			}
		}
	}
}

// Propositions reads every strand as a sentence: in the reading order of
// subjects, then of objects, then by link id. It may be called from several
// goroutines.
func (s *Structure) Propositions() []Proposition {
	s.say.Do(s.sayAll)
	return s.said
}

// eachStrand visits the strands that say something, and the concepts between which they run: an end at a
// concept that is not there says nothing. Both tells that a strand says something both ways.
func (s *Structure) eachStrand(visit func(l *cm.Link, strand cm.Strand, from, to cm.ID, both bool)) {
	for _, l := range s.m.Links {
		for _, strand := range l.Strands() {
			if from, to, _ := s.m.Between(strand); s.Places[from] != nil && s.Places[to] != nil {
				visit(l, strand, from, to, l.Heads == cm.HeadsBoth)
			}
		}
	}
}

func (s *Structure) sayAll() {
	s.eachStrand(func(l *cm.Link, strand cm.Strand, from, to cm.ID, both bool) {
		p := Proposition{Strand: strand, Subject: from, Object: to, Open: l.Phrase.Empty(),
			Main: s.isMain(strand, from, to), Cross: s.cross[strand], from: s.Places[from].order, to: s.Places[to].order}
		s.said = append(s.said, p)
		if both {
			p.Subject, p.Object, p.Against = to, from, true
			p.from, p.to = p.to, p.from
			s.said = append(s.said, p)
		}
	})
	slices.SortFunc(s.said, func(a, b Proposition) int {
		return cmp.Or(
			a.from-b.from, a.to-b.to,
			strings.Compare(string(a.Strand.Link), string(b.Strand.Link)),
			compareBools(a.Against, b.Against),
		)
	})
}

func compareBools(a, b bool) int {
	switch {
	case a == b:
		return 0
	case b:
		return -1
	}
	return 1
}

// Cross tells whether a strand is a cross-link.
func (s *Structure) Cross(strand cm.Strand) bool { return s.cross[strand] }

// Main tells whether a strand is the main strand of one of its concepts.
func (s *Structure) Main(strand cm.Strand) bool {
	from, to, ok := s.m.Between(strand)
	return ok && s.isMain(strand, from, to)
}

func (s *Structure) isMain(strand cm.Strand, from, to cm.ID) bool {
	for _, id := range [2]cm.ID{from, to} {
		if p := s.Places[id]; p != nil && p.Parent != "" && s.m.Concepts[id].Main.Strand == strand {
			return true
		}
	}
	return false
}

// Loose gives the loose ideas in reading order.
func (s *Structure) Loose() []cm.ID {
	var loose []cm.ID
	for _, id := range s.Order {
		if s.Places[id].Loose {
			loose = append(loose, id)
		}
	}
	return loose
}

// Hidden gives the concepts that are not seen while branches are tucked away,
// each with the concept that is seen in its stead: the highest one above it
// whose branch is tucked away. The concept itself stays in view.
func (s *Structure) Hidden(tucked func(cm.ID) bool) map[cm.ID]cm.ID {
	hidden := map[cm.ID]cm.ID{}
	// In reading order every concept comes before its children.
	for _, id := range s.Order {
		parent := s.Places[id].Parent
		if parent == "" {
			continue
		}
		if shown, inside := hidden[parent]; inside {
			hidden[id] = shown
		} else if tucked(parent) {
			hidden[id] = parent
		}
	}
	return hidden
}

// At gives the concepts on a level of the focus concept's tree that have
// something below them, in reading order.
func (s *Structure) At(level int) []cm.ID {
	var ids []cm.ID
	for _, id := range s.Order {
		if p := s.Places[id]; p.Level == level && len(p.Children) > 0 {
			ids = append(ids, id)
		}
	}
	return ids
}

package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Build draws a map. Prev may be an earlier scene of the same map, whose
// elements are taken over where nothing about them changed.
func Build(m *cm.Map, s *structure.Structure, v View, prev *Scene) *Scene {
	if prev == nil || prev.language != m.Language || prev.Look.Large != m.Look.Large || prev.Look.Line != m.Look.Line {
		prev = &Scene{} // every word and line may be another
	}
	b := building{m: m, s: s, v: v, prev: prev, hue: coloured(m, s), judged: judgementsOf(m), mean: newMeanings(m, v.Lang)}
	b.sc = &Scene{language: m.Language, Look: m.Look, view: v, shape: s, Slips: make(map[cm.ID]*Slip, len(m.Concepts)), alone: make(map[cm.ID]*Link, len(m.Links)), stamp: new(stamp), base: prev.stamp}
	b.mean.talk, b.mean.hands = m.Discussion(), m.Hands()
	b.hidden, b.hides = tuckedAway(m, s, v.Tucked)
	b.lineHue = lineColoured(m, s, b.hue)
	b.sameShape = prev.shape != nil && s.SameShape(prev.shape)
	b.slips()
	b.links()
	b.sc.settleTogether(b.around, prev)
	b.sc.port(b.around, prev, b.linksChanged)
	b.sc.changed.slips, b.sc.changed.goneSlips = namesOf(b.slipsChanged)
	b.sc.Regions = regionsOf(m, b.mean, b.sc, v)
	b.sc.Axis = axisOf(m, b.sc)
	b.sc.Key = keyOf(m, s, b.sc, v)
	return b.sc
}

// building is a scene that is being made.
type building struct {
	m        *cm.Map
	s        *structure.Structure
	v        View
	sc, prev *Scene
	mean     *meanings
	judged   judgements
	hue      func(*cm.Concept) cm.Colour
	lineHue  func(*cm.Link) cm.Colour
	hidden   map[cm.ID]cm.ID   // what is tucked away, with what is seen in its stead
	hides    map[cm.ID][]cm.ID // what each of those hides
	// sameShape tells that concepts hang, and links cross, as in the scene before.
	sameShape    bool
	around       *detours
	slipsChanged []slipChange
	linksChanged []linkChange
}

// A slipChange is a slip that came, went, or is drawn anew; a linkChange the same of a link.
type (
	slipChange = change[Slip]
	linkChange = change[Link]
)

type change[E any] struct {
	id      cm.ID
	was, is *E // nil where it was not there, or is not any more
}

// namesOf gives the ids of what is there and of what is gone, sorted.
func namesOf[E any](all []change[E]) (there, gone []cm.ID) {
	for _, c := range all {
		if c.is != nil {
			there = append(there, c.id)
		} else {
			gone = append(gone, c.id)
		}
	}
	slices.Sort(there)
	slices.Sort(gone)
	return there, gone
}

// slips draws the slips.
func (b *building) slips() {
	kept := 0
	for id, c := range b.m.Concepts {
		if _, away := b.hidden[id]; away {
			continue
		}
		was := b.prev.Slips[id]
		slip := was
		if slip == nil || !b.holdsSlip(slip, c) {
			slip = b.slip(c)
		}
		b.sc.Slips[id] = slip
	}
	b.sc.gathered(b.m, b.hides, b.v, b.prev)
	for id, slip := range b.sc.Slips {
		was := b.prev.Slips[id]
		if was != nil {
			kept++
		}
		if was != slip {
			b.slipsChanged = append(b.slipsChanged, slipChange{id, was, slip})
		}
	}
	if kept < len(b.prev.Slips) {
		for id, was := range b.prev.Slips {
			if b.sc.Slips[id] == nil {
				b.slipsChanged = append(b.slipsChanged, slipChange{id: id, was: was})
			}
		}
	}
	b.sc.stand = standingOf(b.sc.Slips, b.prev.stand)
	b.around = newDetours(b.sc.stand, b.slipsChanged)
}

// holdsSlip tells whether a slip still shows its concept as it is.
func (b *building) holdsSlip(slip *Slip, c *cm.Concept) bool {
	if slip.source != c || slip.kind != b.m.KindOf(c) || slip.Focus != (b.m.Focus == c.ID) || slip.lang != b.v.Lang ||
		!slices.Equal(slip.Hides, b.hides[c.ID]) || !slices.Equal(slip.tags, b.mean.tagsOf(c)) || slip.Colour != b.hue(c) || slip.Talk != b.mean.talkOf(c) {
		return false
	}
	if b.sameShape {
		return true
	}
	place := b.s.Places[c.ID]
	return slip.Loose == place.Loose && slip.Level == place.Level && slip.Parent == place.Parent
}

// slip draws the slip of a concept.
func (b *building) slip(c *cm.Concept) *Slip {
	m, place := b.m, b.s.Places[c.ID]
	slip := &Slip{ID: c.ID, Focus: m.Focus == c.ID, Loose: place.Loose, Level: place.Level, Parent: place.Parent, tags: b.mean.tagsOf(c), Pinned: c.Hold == cm.HoldPin, Held: c.Hold == cm.HoldHand && m.KeepTidy, Size: c.Size, Wide: c.Width > 0, Hides: b.hides[c.ID], source: c, kind: m.KindOf(c), lang: b.v.Lang}
	if slip.kind != nil {
		slip.Kind = slip.kind.Name.For(b.v.Lang, m.Language)
	}
	slip.Colour, slip.Outline, slip.Paint = b.hue(c), m.OutlineOf(c), c.Paint
	if len(slip.Hides) > 0 && slip.Outline != cm.OutlineSlip {
		slip.Outline = cm.OutlinePlain // a folded edge is straight
	}
	slip.hang(m)
	more := b.mean.of(c)
	slip.Words, slip.Box = slipBox(c, c.Label.For(b.v.Lang, m.Language), slip.Focus, len(slip.Hides) > 0, m.OutlineOf(c), m.Look.Large, &more)
	slip.Icons, slip.Marks, slip.Picture, slip.Remark, slip.Grid = more.icons, more.marks, more.picture, more.remark, more.grid
	slip.Talk = b.mean.talkOf(c)
	return slip
}

// seen gives what is seen of a concept: its slip, or what it is tucked away under.
func (b *building) seen(concept cm.ID) *Slip {
	if shown, away := b.hidden[concept]; away {
		return b.sc.Slips[shown]
	}
	return b.sc.Slips[concept]
}

// links draws the links by themselves.
func (b *building) links() {
	m, prev, sc := b.m, b.prev, b.sc
	all := make([]linkChange, 0, len(m.Links))
	sameEnds := prev.bows != nil && len(prev.alone) == len(m.Links) // links tucked away count as others
	for id, l := range m.Links {
		was := prev.alone[id]
		sameEnds = sameEnds && was != nil && (was.source == l || slices.Equal(was.source.From, l.From) && slices.Equal(was.source.To, l.To))
		all = append(all, linkChange{id: id, was: was})
	}
	sc.bows = prev.bows
	if !sameEnds {
		sc.bows = bowedAfter(m, prev)
	}
	kept := 0
	for i := range all {
		c := &all[i]
		if c.was != nil {
			kept++
		}
		l := m.Links[c.id]
		if c.is = c.was; c.was == nil || !b.holdsLink(c.was, l) {
			c.is = b.link(l)
		} else if b.around.concerns(c.was) {
			c.is = b.ledAnew(c.was)
		}
		if c.is != nil {
			sc.alone[c.id] = c.is
		}
		if c.is != c.was {
			b.linksChanged = append(b.linksChanged, *c)
		}
	}
	if kept < len(prev.alone) {
		for id, was := range prev.alone {
			if m.Links[id] == nil {
				b.linksChanged = append(b.linksChanged, linkChange{id: id, was: was})
			}
		}
	}
}

// fewChanged is of how many changed slips each link is asked whether it ends there.
const fewChanged = 12

// holdsLink tells whether a link is still drawn from the same: words, slips, colours, marks.
func (b *building) holdsLink(link *Link, l *cm.Link) bool {
	if link.source != l || link.lang != b.v.Lang || link.bow != b.sc.bows[l.ID] || link.kind != b.m.KindOfLink(l) ||
		link.Talk != b.mean.discussion(cm.Key{Kind: cm.EntityLink, ID: l.ID}) || !slices.Equal(link.Verdicts, b.judged.on(l)) {
		return false
	}
	if b.sameShape && b.v.Tucked == "" && b.prev.view.Tucked == "" && b.prev.Look.By == b.m.Look.By && len(b.slipsChanged) <= fewChanged {
		return !slices.ContainsFunc(link.shown, func(s *Slip) bool {
			return slices.ContainsFunc(b.slipsChanged, func(c slipChange) bool { return c.was == s })
		})
	}
	return link.hue == b.lineHue(l) && link.holds(b.s, b.seen)
}

// link draws a link by itself; nil where there is nothing to draw.
func (b *building) link(l *cm.Link) *Link {
	m := b.m
	link := &Link{ID: l.ID, Heads: l.Heads, source: l, bow: b.sc.bows[l.ID], lang: b.v.Lang, kind: m.KindOfLink(l), hue: b.lineHue(l), Marks: b.mean.linkMarks(l), Talk: b.mean.discussion(cm.Key{Kind: cm.EntityLink, ID: l.ID}), Verdicts: b.judged.on(l)}
	if link.manner = l.Line; l.Line == cm.LineAuto && !l.Tidied {
		link.manner = m.Look.Line
	}
	if link.Colour = link.hue; link.kind != nil {
		k := link.kind
		link.Kind, link.Colour, link.Stroke = k.Name.For(b.v.Lang, m.Language), k.Colour, k.Stroke
	}
	if !link.gather(l, b.s, b.seen) {
		return nil
	}
	link.ways = link.way(b.around)
	link.settle(m, b.around)
	link.reach = link.reaches()
	return link
}

// ledAnew leads a link around what came in its way, or is not there any more.
func (b *building) ledAnew(link *Link) *Link {
	next := *link
	next.ways = next.way(b.around)
	// A scene is never altered: one that was looked at further is another.
	same := sameWays(next.ways, link.ways) && union(next.looked, link.looked) == link.looked
	if same && link.part == firstPart && !b.around.covered(link.Gap) {
		return link
	}
	if next.settle(b.m, b.around); same && next.Gap == link.Gap {
		return link
	}
	next.reach = next.reaches()
	return &next
}

// tuckedAway gives what is hidden, with what is seen in its stead (a concept, or
// the box of a region), and what each of those hides.
func tuckedAway(m *cm.Map, s *structure.Structure, t Tucked) (hidden map[cm.ID]cm.ID, hides map[cm.ID][]cm.ID) {
	if t == "" {
		return nil, nil
	}
	ids := t.IDs()
	hidden = s.Hidden(func(id cm.ID) bool { return slices.Contains(ids, id) })
	if hidden == nil {
		hidden = map[cm.ID]cm.ID{}
	}
	boxed := tuckedRegions(m, ids)
	for id, box := range boxed {
		hidden[id] = box
	}
	for id, shown := range hidden {
		if box, too := boxed[shown]; too { // what hides it is hidden itself
			hidden[id] = box
		}
	}
	hides = map[cm.ID][]cm.ID{}
	for _, id := range cm.SortedIDs(hidden) {
		hides[hidden[id]] = append(hides[hidden[id]], id)
	}
	return hidden, hides
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

// gather looks up what the drawing of a link depends on; false where there is
// nothing to draw: one of its concepts is not there, or the whole of it is
// tucked away.
func (k *Link) gather(l *cm.Link, s *structure.Structure, seen func(cm.ID) *Slip) bool {
	for i, e := range l.Ends() {
		slip := seen(e.Concept)
		if slip == nil {
			return false
		}
		k.shown = append(k.shown, slip)
		k.ends = append(k.ends, end{e.ID, i < len(l.From), slip, slip.ID != e.Concept})
	}
	for _, strand := range l.Strands() {
		k.cross = append(k.cross, s.Cross(strand))
	}
	// One leg is enough to what several hidden concepts are tucked away under,
	// and none is needed where the link ends at that concept itself.
	all := k.ends
	k.ends = nil
	var from, to int
	for i, e := range all {
		if e.Veiled && slices.ContainsFunc(all, func(o end) bool { return !o.Veiled && o.Slip == e.Slip }) ||
			e.Veiled && slices.ContainsFunc(all[:i], func(o end) bool { return o.Slip == e.Slip }) {
			continue
		}
		k.ends = append(k.ends, e)
		if e.From {
			from++
		} else {
			to++
		}
	}
	return from > 0 && to > 0
}

// holds tells whether a drawn link still has the slips and cross-links that it
// was drawn with.
func (k *Link) holds(s *structure.Structure, seen func(cm.ID) *Slip) bool {
	i, l := 0, k.source
	for _, side := range [2][]cm.End{l.From, l.To} {
		for _, e := range side {
			if k.shown[i] != seen(e.Concept) {
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

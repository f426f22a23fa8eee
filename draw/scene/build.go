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
	sc := &Scene{language: m.Language, Look: m.Look, Slips: make(map[cm.ID]*Slip, len(m.Concepts)), straight: make(map[cm.ID]*Link, len(m.Links)), alone: make(map[cm.ID]*Link, len(m.Links))}
	hidden, hides := tuckedAway(m, s, v.Tucked)
	mean := newMeanings(m, v.Lang)
	mean.talk, mean.hands = m.Discussion(), m.Hands()
	hue := coloured(m, s)
	lineHue := lineColoured(m, s, hue)
	for id, c := range m.Concepts {
		if _, away := hidden[id]; away {
			continue
		}
		place := s.Places[id]
		slip := prev.Slips[id]
		if slip == nil || slip.source != c || slip.kind != m.KindOf(c) || slip.Focus != (m.Focus == id) || slip.Loose != place.Loose ||
			slip.Level != place.Level || slip.Parent != place.Parent || slip.lang != v.Lang || !slices.Equal(slip.Hides, hides[id]) || !slices.Equal(slip.tags, mean.tagsOf(c)) || slip.Colour != hue(c) || slip.Talk != mean.talkOf(c) {
			slip = &Slip{ID: id, Focus: m.Focus == id, Loose: place.Loose, Level: place.Level, Parent: place.Parent, tags: mean.tagsOf(c), Pinned: c.Hold == cm.HoldPin, Held: c.Hold == cm.HoldHand && m.KeepTidy, Size: c.Size, Wide: c.Width > 0, Hides: hides[id], source: c, kind: m.KindOf(c), lang: v.Lang}
			if slip.kind != nil {
				slip.Kind = slip.kind.Name.For(v.Lang, m.Language)
			}
			slip.Colour, slip.Outline, slip.Paint = hue(c), m.OutlineOf(c), c.Paint
			if len(slip.Hides) > 0 && slip.Outline != cm.OutlineSlip {
				slip.Outline = cm.OutlinePlain // a folded edge is straight
			}
			slip.hang(m)
			more := mean.of(c)
			slip.Words, slip.Box = slipBox(c, c.Label.For(v.Lang, m.Language), slip.Focus, len(slip.Hides) > 0, m.OutlineOf(c), m.Look.Large, &more)
			slip.Icons, slip.Marks, slip.Picture, slip.Remark, slip.Grid = more.icons, more.marks, more.picture, more.remark, more.grid
			slip.Talk = mean.talkOf(c)
		}
		sc.Slips[id] = slip
	}
	sc.gathered(m, hides, v, prev)
	sc.bows = prev.bows
	if !prev.sameLinks(m) {
		sc.bows = bowed(m)
	}
	seen := func(concept cm.ID) *Slip {
		if shown, away := hidden[concept]; away {
			return sc.Slips[shown]
		}
		return sc.Slips[concept]
	}
	around := newDetours(sc.Slips, prev.Slips)
	judged := judgementsOf(m)
	for id, l := range m.Links {
		link, talk := prev.alone[id], mean.discussion(cm.Key{Kind: cm.EntityLink, ID: id})
		verdicts := judged.on(l)
		if link == nil || link.source != l || link.Talk != talk || !slices.Equal(link.Verdicts, verdicts) || link.bow != sc.bows[id] || link.lang != v.Lang || link.kind != m.KindOfLink(l) || link.hue != lineHue(l) || !link.holds(s, seen) {
			link = &Link{ID: id, Heads: l.Heads, source: l, bow: sc.bows[id], lang: v.Lang, kind: m.KindOfLink(l), hue: lineHue(l), Marks: mean.linkMarks(l), Talk: talk, Verdicts: verdicts}
			if link.manner = l.Line; l.Line == cm.LineAuto && !l.Tidied {
				link.manner = m.Look.Line
			}
			if link.Colour = link.hue; link.kind != nil {
				k := link.kind
				link.Kind, link.Colour, link.Stroke = k.Name.For(v.Lang, m.Language), k.Colour, k.Stroke
			}
			if !link.gather(l, s, seen) {
				continue
			}
			link.ways = link.way(around)
			link.settle(m, around)
		} else if around.concerns(link) {
			next := *link
			next.ways = next.way(around)
			// A scene is never altered: one that was looked at further is another.
			same := sameWays(next.ways, link.ways) && union(next.looked, link.looked) == link.looked
			if !same || link.part != firstPart || around.covered(link.Gap) {
				if next.settle(m, around); !same || next.Gap != link.Gap {
					link = &next
				}
			}
		}
		sc.alone[id] = link
	}
	sc.settleTogether(around, prev)
	sc.port(around, prev)
	sc.Regions = regionsOf(m, mean, sc, v)
	sc.Axis = axisOf(m, sc)
	sc.Key = keyOf(m, s, sc, v)
	return sc
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

// sameLinks tells whether the scene shows the very links of a map.
func (sc *Scene) sameLinks(m *cm.Map) bool {
	if sc.bows == nil || len(sc.Links) != len(m.Links) { // links tucked away count as others
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

package scene

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// phraseClear is how far lines and phrases keep from the phrase of another, in
// pixels.
const phraseClear = 3

// older are the links that a further one makes way for: those with lesser ids,
// which were there before. So nothing that stands well is moved for what comes.
type older struct {
	links   []*Link
	indexed int // how many of their phrases the index of the detours knows
}

// settleTogether lets links make way for each other: a line goes around the
// phrases of older ones, and a phrase moves along its line where older lines or
// phrases are in its place. Only what lies near something that changed since the
// scene before is looked at.
func (sc *Scene) settleTogether(d *detours, prev *Scene) {
	if len(sc.Slips) > manySlips { // an edit would take too long
		sc.straight = sc.alone
		return
	}
	sc.straight = make(map[cm.ID]*Link, len(sc.alone))
	all := d.all || len(prev.Slips) > manySlips
	sc.order = prev.order
	if len(prev.order) != len(sc.alone) || !sameKeys(prev.alone, sc.alone) {
		sc.order = slices.Sorted(maps.Keys(sc.alone))
	}
	t := &touched{boxes: slices.Clone(d.touched)}
	for id, was := range prev.straight {
		if !all && sc.alone[id] == nil {
			t.add(was)
		}
	}
	o := &older{links: make([]*Link, 0, len(sc.order))}
	for _, id := range sc.order {
		alone, was := sc.alone[id], prev.straight[id]
		link := was
		if all || was == nil || prev.alone[id] != alone || was.depends(alone, t) {
			link = alone.together(d, o)
			if was != nil && prev.alone[id] == alone && was.drawnAs(link) {
				link = was
			}
			if link != was && !all { // else nothing is asked what it depends on
				t.add(link)
				if was != nil {
					t.add(was)
				}
			}
		}
		sc.straight[id] = link
		o.links = append(o.links, link)
	}
}

func sameKeys(a, b map[cm.ID]*Link) bool {
	for id := range a {
		if b[id] == nil {
			return false
		}
	}
	return true
}

// touched are the places where something changed since the scene before: of slips
// and phrases, and of lines.
type touched struct{ boxes, lines []route.Rect }

// depends tells whether anything that changed lies where a phrase was tried, on
// the lines of the link, or where a way around was sought.
func (k *Link) depends(alone *Link, t *touched) bool {
	meets := func(r route.Rect) bool {
		r = r.Grown(phraseClear)
		return r.Meets(rectOf(k.Gap)) || slices.ContainsFunc(k.tried, func(gap Rect) bool { return r.Meets(rectOf(gap)) })
	}
	for _, r := range t.boxes {
		if meets(r) || k.looked.Meets(r) || k.aside != nil && k.aside.Meets(r) {
			return true
		}
		if r = r.Grown(phraseClear); alone.extent.Meets(r) && alone.cuts(r) {
			return true
		}
	}
	return slices.ContainsFunc(t.lines, func(r route.Rect) bool {
		return meets(r) || r.Meets(k.extent) && k.cuts(r) || k.aside != nil && r.Meets(*k.aside)
	})
}

// pieceLength is how long the pieces of a line are at most whose room is looked
// at, in pixels.
const pieceLength = 60

// add takes in the places of a link: of its phrase, and of its lines in pieces.
func (t *touched) add(k *Link) {
	t.boxes = append(t.boxes, rectOf(k.Gap).Grown(phraseClear))
	for _, leg := range k.Legs {
		for _, c := range leg.Path {
			n := int(distance(c.A, c.B)/pieceLength) + 1
			if !c.Straight() {
				n = max(n, 8)
			}
			from := c.A
			for i := 1; i <= n; i++ {
				p := c.At(float64(i) / float64(n))
				t.lines = append(t.lines, geometry.Span(from, p).Grown(phraseClear))
				from = p
			}
		}
	}
}

// drawnAs tells whether another drawing of the same link is the same, and was
// sought in the same room.
func (k *Link) drawnAs(o *Link) bool {
	return k.Gap == o.Gap && k.part == o.part && k.looked == o.looked && sameWays(k.ways, o.ways) && k.crossed == o.crossed && sameRect(k.aside, o.aside) && slices.Equal(k.tried, o.tried)
}

// together gives the link as it is drawn among older ones.
func (k *Link) together(d *detours, o *older) *Link {
	if !k.byItself() || k.Veiled() || k.ends[0].Slip == k.ends[len(k.ends)-1].Slip {
		return k
	}
	crossed := o.crossed(k)
	next := *k
	if o.runsOn(k) {
		aside, tried := k.besides(d, o)
		if aside != nil {
			next = *aside
		}
		tried = tried.Grown(2 * route.Clear)
		next.aside = &tried
		if aside != nil || !crossed && !o.meet(k.Gap) {
			return &next
		}
	} else if !crossed && !o.meet(k.Gap) {
		return k
	}
	if crossed {
		o.index(d)
		next.ways = next.way(d)
		next.looked = union(next.looked, k.looked)
	}
	if !next.put(func() bool {
		next.tried = append(next.tried, next.Gap)
		return !d.covered(next.Gap) && !o.meet(next.Gap)
	}) {
		next.put(func() bool { return !d.covered(next.Gap) })
	}
	return &next
}

// index makes known to the search for ways where the phrases of the older links
// stand.
func (o *older) index(d *detours) {
	if d.index == nil {
		d.build()
	}
	for ; o.indexed < len(o.links); o.indexed++ {
		if k := o.links[o.indexed]; k.Words != nil && !k.Veiled() {
			d.index.Add(rectOf(k.Gap).Grown(phraseClear - 1))
		}
	}
}

// crossed tells whether the lines of a link run through the phrase of an older
// one.
func (o *older) crossed(k *Link) bool {
	for _, other := range o.links {
		if other.Words == nil || !k.extent.Meets(other.extent) || other.Veiled() {
			continue
		}
		if gap := rectOf(other.Gap).Grown(phraseClear); k.extent.Meets(gap) && k.cuts(gap) {
			return true
		}
	}
	return false
}

// meet tells whether a phrase stands on that of an older link, or on its line.
func (o *older) meet(gap Rect) bool {
	r := rectOf(gap).Grown(phraseClear)
	return slices.ContainsFunc(o.links, func(k *Link) bool {
		return r.Meets(k.extent) && (r.Meets(rectOf(k.Gap)) || k.cuts(r))
	})
}

// cuts tells whether a line of the link runs through a box.
func (k *Link) cuts(r route.Rect) bool {
	for _, leg := range k.Legs {
		for _, c := range leg.Path {
			if c.pieces(r.Cut) {
				return true
			}
		}
	}
	return false
}

// around gives the box around all lines and the phrase of a link.
func (k *Link) around() route.Rect {
	r := rectOf(k.Gap)
	for _, leg := range k.Legs {
		for _, c := range leg.Path {
			for _, p := range [4]Point{c.A, c.C1, c.C2, c.B} {
				r.X0, r.Y0, r.X1, r.Y1 = min(r.X0, p.X), min(r.Y0, p.Y), max(r.X1, p.X), max(r.Y1, p.Y)
			}
		}
	}
	return r
}

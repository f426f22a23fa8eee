package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// dartRoom is how much of a line its dart covers, in pixels.
const dartRoom = 8

// firstPart is where on its line a phrase stands if it can.
const firstPart = 0.5

// settle draws a link so that its phrase covers no slip, where that can be.
func (k *Link) settle(m *cm.Map, d *detours) {
	words := k.source.Phrase.For(k.lang, m.Language)
	k.Gap = phraseBox(words, m.Look.Large, k.Marks)
	if words != "" {
		k.Words = block(words, verbsSet(m.Look.Large))
	}
	k.Says = m.Says(k.source, k.lang)
	k.put(func() bool { return !d.covered(k.Gap) })
}

// parts are where on its line a phrase may stand, the best first.
var parts = [...]float64{firstPart, 0.4, 0.6, 0.3, 0.7, 0.22, 0.78}

// put leads the lines of a link with its phrase at the first place that suits, or
// else in the middle; false if none did.
func (k *Link) put(suits func() bool) bool {
	k.Legs, k.part = nil, firstPart
	seen := k.single()
	switch {
	case seen != nil && k.byItself():
		for _, k.part = range parts {
			if k.gapAt(seen.At(seen.place(k.part * seen.length()))); suits() {
				k.cut(seen)
				return true
			}
		}
		k.part = firstPart
		k.cut(seen)
		return false
	case seen != nil:
		k.cut(seen)
		return suits()
	case len(k.ends) != 2:
		k.drawFan()
	}
	k.finish()
	return suits()
}

func (k *Link) gapAt(p Point) { k.Gap.X, k.Gap.Y = p.X-k.Gap.W/2, p.Y-k.Gap.H/2 }

// from gives where the line begins at an end: in the middle of its slip, or on
// the fold of the slip that stands for it.
func (e end) from() Point {
	if e.Veiled {
		return Point{X: e.Slip.Box.Middle().X, Y: e.Slip.Box.Y + e.Slip.Box.H - FoldedHeight/2}
	}
	return e.Slip.Box.Middle()
}

func (k *Link) bends(end cm.ID) []Point {
	return slices.Clone(k.source.Bends[end])
}

// single gives what can be seen of the one line of a link from slip to slip. One
// that has several ends, leads back to where it came from, or has its phrase put
// beside it is drawn at once but for fans; then there is nothing to give.
func (k *Link) single() Path {
	if len(k.ends) != 2 {
		return nil
	}
	first, second := k.ends[0], k.ends[1]
	back := k.bends(second.End)
	slices.Reverse(back)
	through := slices.Concat([]Point{first.from()}, k.bends(first.End), back, []Point{second.from()})
	if first.Slip == second.Slip && len(through) == 2 {
		k.drawLoop(first.Slip)
		return nil
	}
	if k.source.Hub != nil && k.source.Along == 0 {
		k.drawThrough(first, second)
		return nil
	}
	if turns := k.ways[first.End]; len(turns) > 0 {
		through = slices.Concat(through[:1], turns, through[1:])
	}
	whole := k.lead(through)
	if k.bow != 0 && len(through) == 2 && k.manner != cm.LineStepped {
		p, q := through[0], through[1]
		along := straight(q, p)
		out := Path{along}.towardsBegin()
		bow := k.bow
		if first.Slip.ID > second.Slip.ID {
			bow = -bow
		}
		// The control point lies twice as far out as the curve comes.
		middle := mix(p, q, 0.5)
		whole = Path{quadratic(p, Point{X: middle.X + 2*bow*out.Y, Y: middle.Y - 2*bow*out.X}, q)}
	}
	if first.Slip == second.Slip { // out of it and back to it
		mid := float64(len(whole)) / 2
		k.gapAt(whole.At(mid))
		k.Legs = []Leg{k.leg(first, outside(first.Slip, whole.Part(0, mid))), k.leg(second, outside(first.Slip, whole.Part(mid, float64(len(whole))).reversed()))}
		return nil
	}
	u0, u1 := whole.leave(first.Slip), float64(len(whole))-whole.reversed().leave(second.Slip)
	if u0 >= u1 { // the slips overlap: nothing can be seen between them
		u0 = float64(len(whole)) / 2
		u1 = u0
	}
	return whole.Part(u0, u1)
}

// cut puts the phrase on the line: at its part, or where the author put it.
func (k *Link) cut(seen Path) {
	along := k.source.Along
	if along == 0 {
		along = k.part
	}
	at := seen.place(along * seen.length())
	k.gapAt(seen.At(at))
	k.Legs = []Leg{k.leg(k.ends[0], seen.Part(0, at)), k.leg(k.ends[1], seen.Part(at, float64(len(seen))).reversed())}
	k.finish()
}

// drawThrough leads one line from slip to slip through the place where the phrase
// was put.
func (k *Link) drawThrough(first, second end) {
	hub := Point(*k.source.Hub)
	k.gapAt(hub)
	for _, e := range []end{first, second} {
		k.Legs = append(k.Legs, k.leg(e, outside(e.Slip, k.lead(k.through(e, hub)))))
	}
}

// through gives the places that a line passes from an end to its phrase.
func (k *Link) through(e end, hub Point) []Point {
	turns := k.bends(e.End)
	if around, there := k.ways[e.End]; there {
		turns = around
	}
	return slices.Concat([]Point{e.from()}, turns, []Point{hub})
}

// lead gives a line through places in the manner of the link. What was led by
// putting the map in order turns softly.
func (k *Link) lead(through []Point) Path {
	path := lead(through, k.manner)
	switch {
	case k.source.Tidied && k.manner == cm.LineAuto:
		return path.softened(14)
	case len(k.ways) == 0:
		return path
	case k.manner == cm.LineStepped: // its turns are steps already
		return lead(through, cm.LineStraight)
	case k.manner == cm.LineAuto:
		return path.softened(24)
	}
	return path
}

// drawLoop leads a self-link out of the slip's right side and back to its top.
func (k *Link) drawLoop(slip *Slip) {
	box := slip.Box
	out := Point{X: box.X + box.W - PointDepth(box.H), Y: box.Y + box.H*0.6}
	back := Point{X: box.X + box.W*0.6, Y: box.Y + box.H*0.4}
	far := Point{X: box.X + box.W + 34 + k.Gap.W/2, Y: box.Y - 30}
	k.gapAt(far)
	k.Legs = []Leg{
		k.leg(k.ends[0], outside(slip, Path{quadratic(out, Point{X: far.X, Y: out.Y}, far)})),
		k.leg(k.ends[1], outside(slip, Path{quadratic(back, Point{X: back.X, Y: far.Y}, far)})),
	}
}

// outside gives what is seen of a path that begins in a slip.
func outside(slip *Slip, whole Path) Path {
	if u := whole.leave(slip); u < float64(len(whole)) {
		return whole.Part(u, float64(len(whole)))
	}
	return whole
}

// drawFan lets several ends meet at one phrase, half way between the middle
// of those on the one side and of those on the other, or where the author put
// it.
func (k *Link) drawFan() {
	hub := k.hub()
	k.gapAt(hub)
	for _, e := range k.ends {
		k.Legs = append(k.Legs, k.leg(e, outside(e.Slip, k.lead(k.through(e, hub)))))
	}
}

// hub gives where the lines of a link meet at its phrase.
func (k *Link) hub() Point {
	if k.source.Hub != nil {
		return Point(*k.source.Hub)
	}
	var sides [2]Point
	var count [2]float64
	for _, e := range k.ends {
		side := 0
		if !e.From {
			side = 1
		}
		mid := e.from()
		sides[side].X += mid.X
		sides[side].Y += mid.Y
		count[side]++
	}
	return Point{X: (sides[0].X/count[0] + sides[1].X/count[1]) / 2, Y: (sides[0].Y/count[0] + sides[1].Y/count[1]) / 2}
}

// leg makes the leg of an end.
func (k *Link) leg(e end, p Path) Leg {
	leg := Leg{End: e.End, Concept: e.Slip.ID, From: e.From, Veiled: e.Veiled, Cross: true, whole: p}
	for s, strand := range k.source.Strands() {
		if strand.From == e.End && e.From || strand.To == e.End && !e.From {
			leg.Cross = leg.Cross && k.cross[s]
		}
	}
	return leg
}

// finish sets darts and knots and cuts each leg off where the phrase begins.
// A leg that ends at a fold has neither: what it leads to is not in sight.
func (k *Link) finish() {
	gap := k.Gap.Grown(3, 2)
	whole := k.Veiled() // its words are not shown, so its line needs no gap
	for i := range k.Legs {
		leg := &k.Legs[i]
		border := leg.whole.Begin()
		leg.Dart, leg.Knot = nil, nil
		pointed := !leg.Veiled && (k.Heads == cm.HeadsBoth || k.Heads == cm.HeadsOne && !leg.From)
		switch {
		case pointed:
			leg.Dart = &Dart{Tip: border, Along: leg.whole.towardsBegin()}
		case k.Heads == cm.HeadsOne && !leg.Veiled:
			leg.Knot = &border
		}
		u1 := float64(len(leg.whole))
		if !whole {
			u1 -= leg.whole.reversed().leave(gap)
		}
		u0 := 0.0
		if pointed {
			u0 = leg.whole.place(dartRoom)
		}
		leg.Path = leg.whole.Part(min(u0, u1), u1)
	}
	k.extent = k.around()
}

package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// dartRoom is how much of a line its dart covers, in pixels.
const dartRoom = 8

// draw places the phrase of a link and its legs.
func (k *Link) draw(m *cm.Map, v View) {
	l := k.source
	words := l.Phrase.For(v.Lang, m.Language)
	k.Gap = openGap
	if words != "" {
		k.Words = block(words, &verbSetting)
		k.Gap = Rect{W: k.Words.W + 2*verbSetting.padX, H: k.Words.H + 2*verbSetting.padY}
	}
	k.Says = m.Says(l, v.Lang)
	if len(l.From) == 1 && len(l.To) == 1 {
		k.drawSingle()
	} else {
		k.drawFan()
	}
	k.finish()
}

func (k *Link) gapAt(p Point) { k.Gap.X, k.Gap.Y = p.X-k.Gap.W/2, p.Y-k.Gap.H/2 }

// drawSingle leads one line from slip to slip, through the phrase in the
// middle of what can be seen of it.
func (k *Link) drawSingle() {
	a, b := k.ends[0].Box, k.ends[1].Box
	if k.ends[0] == k.ends[1] {
		k.drawLoop(a)
		return
	}
	whole := straight(a.Middle(), b.Middle())
	if k.bow != 0 {
		along := unit(whole.A, whole.B, whole.A)
		bow := k.bow
		if k.ends[0].ID > k.ends[1].ID {
			bow = -bow
		}
		// The control point lies twice as far out as the curve comes.
		whole.Control.X += 2 * bow * along.Y
		whole.Control.Y -= 2 * bow * along.X
	}
	t0, t1 := whole.leave(a), 1-whole.reversed().leave(b)
	if t0 >= t1 { // the slips overlap: nothing can be seen between them
		t0, t1 = 0.5, 0.5
	}
	seen := whole.Part(t0, t1)
	mid := seen.At(0.5)
	k.gapAt(mid)
	first, second := seen.Part(0, 0.5), seen.Part(0.5, 1).reversed()
	k.Legs = []Leg{k.leg(0, true, first), k.leg(1, false, second)}
}

// drawLoop leads a self-link out of the slip's right side and back to its top.
func (k *Link) drawLoop(box Rect) {
	out := Point{box.X + box.W, box.Y + box.H*0.6}
	back := Point{box.X + box.W*0.6, box.Y}
	far := Point{box.X + box.W + 34 + k.Gap.W/2, box.Y - 30}
	k.gapAt(far)
	first := Curve{out, Point{far.X, out.Y}, far}
	second := Curve{back, Point{back.X, far.Y}, far}
	k.Legs = []Leg{k.leg(0, true, first), k.leg(1, false, second)}
}

// drawFan lets several ends meet at one phrase, half way between the middle
// of those on the one side and of those on the other.
func (k *Link) drawFan() {
	froms := len(k.source.From)
	a, b := centre(k.ends[:froms]), centre(k.ends[froms:])
	hub := Point{(a.X + b.X) / 2, (a.Y + b.Y) / 2}
	k.gapAt(hub)
	for i, slip := range k.ends {
		whole := straight(slip.Box.Middle(), hub)
		if t := whole.leave(slip.Box); t < 1 {
			whole = whole.Part(t, 1)
		}
		k.Legs = append(k.Legs, k.leg(i, i < froms, whole))
	}
}

func centre(slips []*Slip) Point {
	var p Point
	for _, s := range slips {
		mid := s.Box.Middle()
		p.X += mid.X / float64(len(slips))
		p.Y += mid.Y / float64(len(slips))
	}
	return p
}

// leg makes the leg of the i-th end: from-ends first, then to-ends.
func (k *Link) leg(i int, from bool, c Curve) Leg {
	l := k.source
	end := slices.Concat(l.From, l.To)[i]
	leg := Leg{End: end.ID, Concept: end.Concept, From: from, Cross: true, Curve: c}
	for s, strand := range l.Strands() {
		if strand.From == end.ID && from || strand.To == end.ID && !from {
			leg.Cross = leg.Cross && k.cross[s]
		}
	}
	return leg
}

// finish sets darts and knots and cuts each leg off where the phrase begins.
func (k *Link) finish() {
	gap := k.Gap.Grown(3, 2)
	for i := range k.Legs {
		leg := &k.Legs[i]
		border := leg.Curve.A
		pointed := k.Heads == cm.HeadsBoth || k.Heads == cm.HeadsOne && !leg.From
		switch {
		case pointed:
			leg.Dart = &Dart{Tip: border, Along: leg.Curve.towardsA()}
		case k.Heads == cm.HeadsOne:
			leg.Knot = &border
		}
		t1 := 1 - leg.Curve.reversed().leave(gap)
		t0 := 0.0
		if n := leg.Curve.length(); pointed && n > 0 {
			t0 = dartRoom / n
		}
		if t0 >= t1 {
			t0 = t1
		}
		leg.Curve = leg.Curve.Part(t0, t1)
	}
}

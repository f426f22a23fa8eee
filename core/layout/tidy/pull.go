package tidy

import (
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// pull draws lines taut: a turn goes where the line keeps clear of boxes and
// phrases without it, and crosses no more lines than it did.
func pull(g *Graph, d *Drawing) {
	t := taut{g: g, d: d, things: route.NewIndex(nil).Under(g.Stop), strokes: route.NewIndex(nil).Under(g.Stop)}
	for b, p := range d.Boxes {
		t.things.Add(geometry.At(p, g.Boxes[b].Size))
	}
	for w, line := range d.Wires {
		t.things.Add(geometry.At(line.Phrase, g.Wires[w].Phrase))
		for e := range line.Legs {
			t.add(w, e)
		}
	}
	for w := range d.Wires {
		if self(g.Wires[w]) {
			continue
		}
		for e := range d.Wires[w].Legs {
			if t.looked > mostLooked {
				return // among so many lines few turns can go
			}
			t.tighten(w, e)
		}
	}
}

// mostLooked bounds how many strokes are looked at.
const mostLooked = 1_200_000

type taut struct {
	looked  int
	g       *Graph
	d       *Drawing
	things  *route.Index // boxes, then phrases
	strokes *route.Index
	lines   []stroke
	of      map[[2]int][]int // the strokes of each leg
}

// stroke is a straight piece of a leg; one that is gone has no leg.
type stroke struct {
	a, b Point
	leg  [2]int
	gone bool
}

// way gives the places of a leg, both ends included.
func (t *taut) way(w, e int) []Point {
	line := t.d.Wires[w]
	way := []Point{t.d.Boxes[t.g.Wires[w].ends()[e]]}
	return append(append(way, line.Legs[e]...), line.Phrase)
}

func (t *taut) add(w, e int) {
	if t.of == nil {
		t.of = map[[2]int][]int{}
	}
	leg := [2]int{w, e}
	for _, id := range t.of[leg] {
		t.lines[id].gone = true
	}
	t.of[leg] = nil
	way := t.way(w, e)
	for i := 1; i < len(way); i++ {
		t.strokes.Add(geometry.Span(way[i-1], way[i]))
		t.of[leg] = append(t.of[leg], len(t.lines))
		t.lines = append(t.lines, stroke{way[i-1], way[i], leg, false})
	}
}

// tighten takes turns out of a leg: all of them, or runs of them from both ends,
// or one after the other.
func (t *taut) tighten(w, e int) {
	leg := t.d.Wires[w].Legs[e]
	if len(leg) == 0 {
		return
	}
	changed := false
	for n := len(leg); n > 0; n-- { // runs of n turns
		for i := 0; i+n <= len(leg); i++ {
			way := t.way(w, e)
			a, b := way[i], way[i+n+1]
			if !t.clear(w, e, a, b) || t.crossed(w, e, []Point{a, b}) > t.crossed(w, e, way[i:i+n+2]) {
				continue
			}
			leg = slices.Delete(slices.Clone(leg), i, i+n)
			t.d.Wires[w].Legs[e] = leg
			changed = true
			n = min(n, len(leg)) + 1
			break
		}
	}
	if changed {
		t.add(w, e)
	}
}

func (t *taut) clear(w, e int, a, b Point) bool {
	own := t.g.Wires[w].ends()[e]
	bare := t.g.Wires[w].Phrase.W == 0
	clear := true
	t.things.Along(a, b, 6, func(id int, _ route.Rect) bool {
		// Without words to meet at, the two legs meet anywhere on the line.
		clear = id == own || id == len(t.d.Boxes)+w || bare && slices.Contains(t.g.Wires[w].ends(), id) ||
			id >= len(t.d.Boxes) && t.g.Wires[id-len(t.d.Boxes)].Phrase.W == 0
		return clear
	})
	return clear
}

// crossed counts the lines that a way crosses.
func (t *taut) crossed(w, e int, way []Point) int {
	n := 0
	for i := 1; i < len(way); i++ {
		a, b := way[i-1], way[i]
		t.strokes.Near(geometry.Span(a, b), func(id int, _ route.Rect) bool {
			t.looked++
			if s := t.lines[id]; !s.gone && s.leg != [2]int{w, e} && route.Cross(a, b, s.a, s.b) {
				n++
			}
			return true
		})
	}
	return n
}

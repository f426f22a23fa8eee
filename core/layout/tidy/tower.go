package tidy

import (
	"math"

	"mevrin/core/geometry"
)

// towers tells that a box is as high as several levels.
func (g *Graph) towers(b int) bool { return g.Boxes[b].Whole && g.Boxes[b].H > 2.5*g.usualHeight() }

// usualHeight is the median height of the boxes that are single slips.
func (g *Graph) usualHeight() float64 {
	var all []float64
	for _, b := range g.Boxes {
		if !b.Whole {
			all = append(all, b.H)
		}
	}
	if len(all) == 0 {
		return math.Inf(1)
	}
	return geometry.Median(all)
}

// aside takes out of a part the wires that lead to a box that towers without anything hanging
// by them: on levels they could only run below it or above. They are led once all stands.
func (g *Graph) aside(p part) (onLevels part, aside []int) {
	onLevels = part{boxes: p.boxes}
	tall := map[int]bool{}
	for _, b := range p.boxes {
		tall[b] = g.towers(b)
	}
	for _, w := range p.wires {
		ends := g.Wires[w].ends()
		hangs := func(a, b int) bool { return g.Above == nil || g.Above[a] == b || g.Above[b] == a }
		if len(ends) == 2 && (tall[ends[0]] || tall[ends[1]]) && !hangs(ends[0], ends[1]) {
			aside = append(aside, w)
			continue
		}
		onLevels.wires = append(onLevels.wires, w)
	}
	return onLevels, aside
}

// towering tells that a vertex is a box that is as high as several levels.
func (l *levelled) towering(v int) bool {
	return v < len(l.part.boxes) && l.g.towers(l.part.boxes[v])
}

// raise gives boxes that tower storeys: vertices as wide as they are, which hold their room on
// the levels to which they reach down. What hangs from such a box hangs from its foot, the
// lowest of them.
func (l *levelled) raise(storeys func(b int) int) {
	l.storey = map[int]bool{}
	l.column = map[int][]int{}
	for _, b := range l.part.boxes {
		v := l.vertex[b]
		if !l.towering(v) {
			continue
		}
		for range storeys(b) {
			l.column[v], l.storey[len(l.size)] = append(l.column[v], len(l.size)), true
			l.size, l.dummy = append(l.size, Size{W: l.size[v].W}), append(l.dummy, false)
		}
	}
}

// storeysByHeight gives about how many further levels, those of phrases among them, a box
// reaches down to.
func (l *levelled) storeysByHeight(b int) int {
	const most = 60
	words := 0.0
	for _, w := range l.part.wires {
		words = max(words, l.g.Wires[w].Phrase.H)
	}
	usual := l.g.usualHeight()
	step := (usual+words)/2 + l.space.Level
	return min(most, int((l.g.Boxes[b].H-usual)/step+0.5))
}

// foot is the vertex from which hangs what hangs from a vertex.
func (l *levelled) foot(v int) int {
	if c := l.column[v]; len(c) > 0 {
		return c[len(c)-1]
	}
	return v
}

// above gives the lower end of what stands higher, where two vertices have their ranks.
func (l *levelled) above(v, other int, rank []int) int {
	if foot := l.foot(v); rank[foot] < rank[other] {
		return foot
	}
	return v
}

// stack joins the storeys of each box, in the order of boxes, those on levels from which it is parted by others among
// them.
func (l *levelled) stack(join func(a, b, weight int)) {
	const firm = 8 // as so many lines: few run through
	for _, b := range l.part.boxes {
		at := l.vertex[b]
		for _, v := range l.column[at] {
			join(at, v, firm)
			at = v
		}
	}
}

// height is how high a vertex makes its level.
func (l *levelled) height(v int) float64 {
	if len(l.column[v]) > 0 {
		return 0
	}
	return l.size[v].H
}

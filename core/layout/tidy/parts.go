package tidy

import (
	"math"
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// piece is what is drawn of a part, in a box of its own.
type piece struct {
	boxes, wires []int
	low, high    Point
}

func (p *piece) hold(at Point, s Size) {
	p.low = Point{X: min(p.low.X, at.X-s.W/2), Y: min(p.low.Y, at.Y-s.H/2)}
	p.high = Point{X: max(p.high.X, at.X+s.W/2), Y: max(p.high.Y, at.Y+s.H/2)}
}

func pieceOf(g *Graph, d *Drawing, p part) *piece {
	piece := &piece{boxes: p.boxes, wires: p.wires, low: Point{X: math.Inf(1), Y: math.Inf(1)}, high: Point{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, b := range p.boxes {
		piece.hold(d.Boxes[b], g.Boxes[b].Size)
	}
	for _, w := range p.wires {
		piece.hold(d.Wires[w].Phrase, g.Wires[w].Phrase)
		for _, leg := range d.Wires[w].Legs {
			for _, at := range leg {
				piece.hold(at, Size{})
			}
		}
	}
	return piece
}

// rows puts loose boxes in lines, as words on a page.
func rows(g *Graph, d *Drawing, loose []int, s Spacing) []*piece {
	if len(loose) == 0 {
		return nil
	}
	if g.Was != nil { // each stays where it is
		var each []*piece
		for _, b := range loose {
			each = append(each, pieceOf(g, d, part{boxes: []int{b}}))
		}
		return each
	}
	area := 0.0
	for _, b := range loose {
		area += (g.Boxes[b].W + s.Side) * (g.Boxes[b].H + s.Side)
	}
	wide := math.Sqrt(area * 1.8)
	x, y, tall := 0.0, 0.0, 0.0
	for _, b := range loose {
		size := g.Boxes[b].Size
		if x > 0 && x+size.W > wide {
			x, y, tall = 0, y+tall+s.Side, 0
		}
		d.Boxes[b] = Point{X: x + size.W/2, Y: y + size.H/2}
		x += size.W + s.Side
		tall = max(tall, size.H)
	}
	return []*piece{pieceOf(g, d, part{boxes: loose})}
}

// pack puts pieces side by side and below each other, the first at the top
// left, in shelves about half as wide again as high.
func pack(g *Graph, d *Drawing, pieces []*piece, gap float64) {
	if len(pieces) == 0 {
		return
	}
	if g.Was != nil && d.packAsBefore(g, pieces, gap) {
		return
	}
	area, wide := 0.0, 0.0
	for _, p := range pieces {
		w, h := p.high.X-p.low.X+gap, p.high.Y-p.low.Y+gap
		area += w * h
		wide = max(wide, w)
	}
	wide = max(wide, math.Sqrt(area*1.6))
	// Behind the first, the tall ones come first: shelves are filled better.
	order := slices.Clone(pieces[1:])
	slices.SortStableFunc(order, func(a, b *piece) int {
		switch ha, hb := a.high.Y-a.low.Y, b.high.Y-b.low.Y; {
		case ha > hb:
			return -1
		case ha < hb:
			return 1
		}
		return 0
	})
	x, y, tall := 0.0, 0.0, 0.0
	for _, p := range append([]*piece{pieces[0]}, order...) {
		w, h := p.high.X-p.low.X, p.high.Y-p.low.Y
		if x > 0 && x+w > wide {
			x, y, tall = 0, y+tall+gap, 0
		}
		d.move(p, Point{X: x - p.low.X, Y: y - p.low.Y})
		x += w + gap
		tall = max(tall, h)
	}
}

// packAsBefore puts pieces where they stood, those that are new below the rest; what has
// come too near is moved aside. It is false where nothing stood anywhere.
func (d *Drawing) packAsBefore(g *Graph, pieces []*piece, gap float64) bool {
	stood := make([]bool, len(pieces))
	low := math.Inf(-1)
	left := math.Inf(1)
	for i, p := range pieces {
		var dx, dy []float64
		for _, b := range p.boxes {
			if g.old(b) {
				dx, dy = append(dx, g.Was[b].X-d.Boxes[b].X), append(dy, g.Was[b].Y-d.Boxes[b].Y)
			}
		}
		if len(dx) == 0 {
			continue
		}
		slices.Sort(dx)
		slices.Sort(dy)
		d.put(p, Point{X: dx[len(dx)/2], Y: dy[len(dy)/2]})
		stood[i] = true
		low, left = max(low, p.high.Y), min(left, p.low.X)
	}
	if !slices.Contains(stood, true) {
		return false
	}
	for i, p := range pieces {
		if !stood[i] {
			d.put(p, Point{X: left - p.low.X, Y: low + gap - p.low.Y})
			left = p.high.X + gap
		}
	}
	for round := 0; ; round++ {
		if round == 12 {
			return false // they are too many to find room like that
		}
		moved := false
		for i, p := range pieces {
			for _, q := range pieces[:i] {
				across, down := min(p.high.X, q.high.X)-max(p.low.X, q.low.X)+gap*0.6, min(p.high.Y, q.high.Y)-max(p.low.Y, q.low.Y)+gap*0.6
				if across <= 0.5 || down <= 0.5 {
					continue
				}
				by := Point{X: math.Copysign(across, p.low.X+p.high.X-q.low.X-q.high.X)}
				if down < across {
					by = Point{Y: math.Copysign(down, p.low.Y+p.high.Y-q.low.Y-q.high.Y)}
				}
				d.put(p, by)
				moved = true
			}
		}
		if !moved {
			break
		}
	}
	return true
}

// put moves a piece with what is known of its extent.
func (d *Drawing) put(p *piece, by Point) {
	d.move(p, by)
	p.low, p.high = Point{X: p.low.X + by.X, Y: p.low.Y + by.Y}, Point{X: p.high.X + by.X, Y: p.high.Y + by.Y}
}

// move shifts a piece of a drawing.
func (d *Drawing) move(p *piece, by Point) {
	for _, b := range p.boxes {
		d.Boxes[b] = Point{X: d.Boxes[b].X + by.X, Y: d.Boxes[b].Y + by.Y}
	}
	for _, w := range p.wires {
		line := &d.Wires[w]
		line.Phrase = Point{X: line.Phrase.X + by.X, Y: line.Phrase.Y + by.Y}
		for _, leg := range line.Legs {
			for i, at := range leg {
				leg[i] = Point{X: at.X + by.X, Y: at.Y + by.Y}
			}
		}
	}
}

// halve makes the two legs of a wire without a phrase from its way: it is cut
// half way along.
func halve(way []Point, from, to Point) Line {
	all := append(append([]Point{from}, way...), to)
	length := 0.0
	for i := 1; i < len(all); i++ {
		length += distance(all[i-1], all[i])
	}
	at, left := 1, length/2
	for ; at < len(all)-1 && distance(all[at-1], all[at]) < left; at++ {
		left -= distance(all[at-1], all[at])
	}
	a, b := all[at-1], all[at]
	t := 0.5
	if d := distance(a, b); d > 0 {
		t = min(1, left/d)
	}
	second := slices.Clone(all[at : len(all)-1])
	slices.Reverse(second)
	return Line{Phrase: Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t}, Legs: [][]Point{slices.Clone(all[1:at]), second}}
}

// loop leads a line from a box to itself: out at one side and back at the top or
// the foot; dx and dy are 1 or -1 and say where its phrase stands, off how far
// away.
func loop(s Size, at Point, w Wire, dx, dy, off float64) Line {
	phrase := Point{X: at.X + dx*(s.W/2+14+off+w.Phrase.W/2), Y: at.Y + dy*(s.H/2+8+off+w.Phrase.H/2)}
	line := Line{Phrase: phrase}
	for i := range w.ends() {
		if i < len(w.From) {
			line.Legs = append(line.Legs, []Point{{X: phrase.X, Y: at.Y}})
		} else {
			line.Legs = append(line.Legs, []Point{{X: at.X + dx*s.W/4, Y: phrase.Y}})
		}
	}
	return line
}

// loops leads the lines from boxes to themselves where there is room beside the
// box, once all else has its place.
func loops(g *Graph, d *Drawing) {
	x := route.NewIndex(nil).Under(g.Stop)
	for b, p := range d.Boxes {
		x.Add(geometry.At(p, g.Boxes[b].Size))
	}
	for w, line := range d.Wires {
		if !self(g.Wires[w]) {
			x.Add(geometry.At(line.Phrase, g.Wires[w].Phrase))
		}
	}
	for w, wire := range g.Wires {
		if !self(wire) {
			continue
		}
		b := wire.From[0]
		for off, done := 0.0, false; off < 600 && !done; off += 10 {
			for _, side := range [4][2]float64{{1, -1}, {-1, -1}, {1, 1}, {-1, 1}} {
				line := loop(g.Boxes[b].Size, d.Boxes[b], wire, side[0], side[1], off)
				room := geometry.At(line.Phrase, wire.Phrase).Grown(3)
				taken := false
				x.Near(room, func(int, route.Rect) bool { taken = true; return false })
				if !taken {
					d.Wires[w], done = line, true
					x.Add(room)
					break
				}
			}
		}
	}
}

package tidy

import (
	"cmp"
	"math"
	"slices"
)

// shape is one of the ways in which a branch may be written: what hangs from its head below
// each other, further in; or in several such columns beside each other; or one of it on the
// line of the head, and the rest below that. Which to take is told by the extents alone, so that each
// branch keeps a few, none of which is larger both ways than another (shape functions:
// Stockmeyer, Optimal orientations of cells in slicing floorplan designs, 1983).
type shape struct {
	wide, tall float64
	kids       []*shape
	breaks     []int // the children with which a further column begins
	beside     int   // the child that stands on the line of the head, plus one; 0 for none
}

// manyShapes is how many shapes of a branch are kept.
const manyShapes = 12

// shapes gives those of a branch, narrow ones first.
func (l *lister) shapes(b int) []*shape {
	kids := l.kids[b]
	size := l.g.Boxes[b].Size
	if len(kids) == 0 {
		return []*shape{{wide: size.W, tall: size.H}}
	}
	of := make([][]*shape, len(kids))
	for i, c := range kids {
		of[i] = l.shapes(c)
	}
	was, known := l.stood(b)
	var all []*shape
	beside := was.beside
	if !known {
		beside = l.heaviest(b)
	}
	if beside > 0 {
		i := slices.Index(kids, beside-1)
		for _, take := range choices(of) {
			for _, kid := range of[i] {
				take := slices.Clone(take)
				take[i] = kid
				all = append(all, l.measured(b, &shape{kids: take, beside: beside}))
			}
		}
	}
	if known && beside == 0 {
		for _, take := range choices(of) {
			all = append(all, l.measured(b, &shape{kids: take, breaks: was.breaks}))
		}
	} else if !known {
		for _, take := range choices(of) {
			all = append(all, l.measured(b, &shape{kids: take}))
			for _, tall := range heights(take) {
				if breaks := l.columns(b, take, tall); len(breaks) > 0 {
					all = append(all, l.measured(b, &shape{kids: take, breaks: breaks}))
				}
			}
		}
	}
	return best(all)
}

// choices gives some ways to take one shape of each child: for each of a few widths the
// lowest that is no wider, or else the narrowest.
func choices(of [][]*shape) [][]*shape {
	var wides []float64
	for _, shapes := range of {
		for _, s := range shapes {
			wides = append(wides, s.wide)
		}
	}
	wides = sampled(wides)
	all := make([][]*shape, 0, len(wides))
	for _, wide := range wides {
		take := make([]*shape, len(of))
		for i, shapes := range of {
			take[i] = shapes[0]
			for _, s := range shapes { // from narrow and tall to wide and low
				if s.wide <= wide {
					take[i] = s
				}
			}
		}
		all = append(all, take)
	}
	return all
}

// heights gives heights that columns of these may have.
func heights(of []*shape) []float64 {
	sum, most := 0.0, 0.0
	for _, s := range of {
		sum, most = sum+s.tall, max(most, s.tall)
	}
	var all []float64
	for n := 2.0; n <= 40 && sum/n > most/2; n = math.Ceil(n * 1.2) {
		all = append(all, max(most, sum/n*1.1))
	}
	return all
}

// sampled gives at most some of the values, in order, spread evenly.
func sampled(values []float64) []float64 {
	slices.Sort(values)
	values = slices.Compact(values)
	const most = 10
	if len(values) <= most {
		return values
	}
	out := make([]float64, most)
	for i := range out {
		out[i] = values[i*(len(values)-1)/(most-1)]
	}
	return out
}

// columns breaks what hangs from a box into columns no taller than given. What one phrase
// leads to begins a column where it does not stay in one.
func (l *lister) columns(b int, of []*shape, tall float64) []int {
	var breaks []int
	y := 0.0
	kids := l.kids[b]
	turn := func(i int) {
		if i > 0 && y > 0 {
			breaks = append(breaks, i)
			y = 0
		}
	}
	for i := 0; i < len(kids); {
		run, h := i, 0.0
		for ; run < len(kids) && (run == i || l.fan(kids[run])); run++ {
			h += of[run].tall + l.space.Line
		}
		if y+h > tall+l.space.Line {
			turn(i)
		}
		for ; i < run; i++ {
			if h = of[i].tall + l.space.Line; y+h > tall+l.space.Line {
				turn(i)
			}
			y += h
		}
	}
	return breaks
}

// best keeps of the shapes those that are not larger both ways than another, some of them,
// narrow ones first.
func best(all []*shape) []*shape {
	slices.SortStableFunc(all, func(a, b *shape) int {
		return cmp.Or(cmp.Compare(a.wide, b.wide), cmp.Compare(a.tall, b.tall), cmp.Compare(len(a.breaks), len(b.breaks)))
	})
	var kept []*shape
	for _, s := range all {
		if len(kept) == 0 || s.tall < kept[len(kept)-1].tall-1 {
			kept = append(kept, s)
		}
	}
	if len(kept) <= manyShapes {
		return kept
	}
	out := make([]*shape, manyShapes)
	for i := range out {
		out[i] = kept[i*(len(kept)-1)/(manyShapes-1)]
	}
	return out
}

// into gives where a child stands in a list: how far in, and below what stands before it.
func (l *lister) into(c int) (x, top float64) {
	words := l.phrase(c)
	return indent + words.W + 2*l.space.Line, l.space.Line + max(0, (words.H-l.g.Boxes[c].H)/2)
}

// aside gives how far to the right of the edge of its head one stands on its line.
func (l *lister) aside(c int) float64 { return max(l.phrase(c).W+2*l.space.Line, l.space.Level) }

// level gives how far below their tops two heads of a line stand.
func (l *lister) level(b, c int) (head, child float64) {
	a, d := l.g.Boxes[b].H, l.g.Boxes[c].H
	return max(0, (d-a)/2), max(0, (a-d)/2)
}

// measured gives a shape its extent.
func (l *lister) measured(b int, s *shape) *shape {
	size := l.g.Boxes[b].Size
	s.wide, s.tall = size.W, l.lowered(b, s)+size.H
	l.each(s, b, func(i int, x, y float64) {
		s.wide, s.tall = max(s.wide, x+s.kids[i].wide), max(s.tall, y+s.kids[i].tall)
	})
	return s
}

// each tells where the children of a list or of columns stand: the upper left corners of
// what is written of them.
func (l *lister) each(s *shape, b int, at func(i int, x, y float64)) {
	start := l.lowered(b, s) + l.g.Boxes[b].H
	if len(s.breaks) > 0 {
		start += l.space.Line // for the line to the further columns
	}
	left, right, y := 0.0, 0.0, start
	line := -1
	for i, c := range l.kids[b] {
		if c == s.beside-1 {
			line = i
			continue
		}
		if slices.Contains(s.breaks, i) {
			left, y = right+l.space.Side, start
		}
		x, top := l.into(c)
		at(i, left+x, y+top)
		right, y = max(right, left+x+s.kids[i].wide), y+top+s.kids[i].tall
	}
	if line >= 0 {
		c := s.beside - 1
		_, child := l.level(b, c)
		at(line, max(l.g.Boxes[b].W+l.aside(c), right+l.space.Side), child)
	}
}

// lowered tells how far the head of a shape stands below its top: as far as that which stands
// on its line is taller.
func (l *lister) lowered(b int, s *shape) float64 {
	if s.beside == 0 {
		return 0
	}
	head, _ := l.level(b, s.beside-1)
	return head
}

// heaviest gives the child, plus one, that may stand on the line of its head: that below which
// most is, or where they keep their order the last; 0 where what leads to it leads to more.
func (l *lister) heaviest(b int) int {
	kids := l.kids[b]
	best := kids[len(kids)-1]
	if !l.inOrder && !l.g.keeps(b) {
		for _, c := range kids {
			if l.many[c] > l.many[best] {
				best = c
			}
		}
	}
	for _, c := range kids {
		if c != best && l.wire[c] == l.wire[best] && l.wire[c] >= 0 {
			return 0
		}
	}
	return best + 1
}

// as tells that a box is to stay as it stood.
func (l *lister) as(b int) bool {
	return l.g.Was != nil && !l.g.Loosely && !l.anew && !l.g.Fresh[b]
}

// stood tells how what hangs from a box was written in the drawing that is taken up.
func (l *lister) stood(b int) (was shape, known bool) {
	g := l.g
	if !l.as(b) {
		return was, false
	}
	down := 1.0
	if l.upside != nil && l.upside(b) {
		down = -1
	}
	last := math.Inf(-1)
	for i, c := range l.kids[b] {
		if !l.as(c) {
			continue
		}
		if math.Abs(g.Was[c].Y-g.Was[b].Y) < 2 {
			known, was.beside = true, c+1
			continue
		}
		y, half := g.Was[c].Y*down, g.Boxes[c].H/2
		if known && y-half < last { // not below the one before
			was.breaks = append(was.breaks, i)
		}
		known, last = true, y+half
	}
	return was, known
}

// fits tells how large a window as wide as 1.6 times its height must be for an extent: its
// height.
func fits(wide, tall float64) float64 { return max(wide/1.6, tall) }

package scene

import (
	"cmp"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/draw/face"
)

// Region is an outline around concepts as drawn. Where others stand among its
// concepts it goes around them, and may come to have several parts.
type Region struct {
	ID    cm.ID
	Parts [][]Point // closed, with straight sides; a hole is a part, too
	Tab   Rect      // for the title, within the upper edge
	Words *Block
	// Inside are the concepts within, sorted; those that are seen.
	Inside []cm.ID
	Colour cm.Colour
	Stroke cm.Stroke
	Filled bool
	Marks  []Mark // in its tab, behind the title
}

// How far a region reaches beyond its slips at the sides and below, and above,
// where its tab stands; how far it keeps from the slips of others; and how far the
// outline of a region reaches beyond that of one inside it. In pixels.
const (
	regionBeside = layout.RegionBeside
	regionAbove  = layout.RegionAbove
	regionApart  = 7.0
	regionNested = 12.0
	TabHeight    = 24.0
	FoldSign     = 18.0 // the room of the sign that tucks it, at the right of its tab
)

var tabSetting = setting{voice: face.Noun, size: 14, lineHeight: 18, wide: 420, padX: 10, padY: 3}

// regionsOf draws the regions of what is seen, the larger before the smaller.
func regionsOf(m *cm.Map, mean *meanings, sc *Scene, v View) []*Region {
	var all []*Region
	for _, id := range cm.SortedIDs(m.Regions) {
		r := m.Regions[id]
		if sc.Slips[id] != nil {
			continue // it is tucked to a box
		}
		one := &Region{ID: id, Marks: mean.regionMarks(r), Colour: r.Colour, Stroke: r.Stroke, Filled: r.Filled, Words: block(r.Title.For(v.Lang, m.Language), tabSetting)}
		for _, c := range cm.SortedIDs(m.Inside(r)) {
			if sc.Slips[c] != nil {
				one.Inside = append(one.Inside, c)
			}
		}
		if len(one.Inside) > 0 {
			all = append(all, one)
		}
	}
	slices.SortStableFunc(all, func(a, b *Region) int { return cmp.Compare(len(b.Inside), len(a.Inside)) })
	// From the innermost out: an outline goes around those that it holds.
	depth := make([]int, len(all))
	for i := len(all) - 1; i >= 0; i-- {
		for j := i + 1; j < len(all); j++ {
			if within(all[j].Inside, all[i].Inside) {
				depth[i] = max(depth[i], depth[j]+1)
			}
		}
		all[i].draw(sc, float64(depth[i]))
	}
	return all
}

// within tells whether all of one sorted list are in another.
func within(some, all []cm.ID) bool {
	for _, id := range some {
		if _, there := slices.BinarySearch(all, id); !there {
			return false
		}
	}
	return true
}

// draw works out the outline.
func (r *Region) draw(sc *Scene, depth float64) {
	beside, above := regionBeside+depth*regionNested, regionAbove+depth*(TabHeight+6)
	own := make([]Rect, 0, len(r.Inside))
	whole := Rect{}
	for _, id := range r.Inside {
		b := sc.Slips[id].Box
		b = Rect{X: b.X - beside, Y: b.Y - above, W: b.W + 2*beside, H: b.H + beside + above}
		if own = append(own, b); len(own) == 1 {
			whole = b
		}
		x1, y1 := max(whole.X+whole.W, b.X+b.W), max(whole.Y+whole.H, b.Y+b.H)
		whole.X, whole.Y = min(whole.X, b.X), min(whole.Y, b.Y)
		whole.W, whole.H = x1-whole.X, y1-whole.Y
	}
	var others []Rect
	for _, id := range cm.SortedIDs(sc.Slips) {
		if _, mine := slices.BinarySearch(r.Inside, id); !mine {
			if b := sc.Slips[id].Box.Grown(regionApart, regionApart); b.Meets(whole) {
				others = append(others, b)
			}
		}
	}
	if len(others) == 0 {
		r.Parts = [][]Point{{{X: whole.X, Y: whole.Y}, {X: whole.X + whole.W, Y: whole.Y}, {X: whole.X + whole.W, Y: whole.Y + whole.H}, {X: whole.X, Y: whole.Y + whole.H}}}
	} else {
		slips := make([]Rect, len(r.Inside))
		for i, id := range r.Inside {
			slips[i] = sc.Slips[id].Box.Grown(regionApart/2, regionApart/2)
		}
		r.Parts = around(own, slips, others)
	}
	r.tab()
}

// tab puts the tab at the left of the highest edge.
func (r *Region) tab() {
	at := Point{}
	for i, part := range r.Parts {
		for j, p := range part {
			if i == 0 && j == 0 || p.Y < at.Y || p.Y == at.Y && p.X < at.X {
				at = p
			}
		}
	}
	r.Tab = Rect{X: at.X, Y: at.Y, W: max(30, r.Words.W+2*tabSetting.padX+8+FoldSign+r.MarksRoom()), H: TabHeight}
}

// around gives the outlines of some boxes, joined in rows and columns where no
// other box stands between them. The room around slips gives way to others, the
// slips do not. The plane is cut along all sides of boxes, so that each cell is
// wholly inside or outside.
func around(own, slips, others []Rect) [][]Point {
	var xs, ys []float64
	for _, b := range slices.Concat(own, slips, others) {
		xs, ys = append(xs, b.X, b.X+b.W), append(ys, b.Y, b.Y+b.H)
	}
	slices.Sort(xs)
	slices.Sort(ys)
	g := &cells{xs: slices.Compact(xs), ys: slices.Compact(ys)}
	g.in = make([]bool, len(g.xs)*len(g.ys))
	taken := make([]bool, len(g.in))
	fill := func(set []bool, b Rect) {
		x0, _ := slices.BinarySearch(g.xs, b.X)
		y0, _ := slices.BinarySearch(g.ys, b.Y)
		for y := y0; g.ys[y] < b.Y+b.H; y++ {
			for x := x0; g.xs[x] < b.X+b.W; x++ {
				set[y*len(g.xs)+x] = true
			}
		}
	}
	for _, b := range others {
		fill(taken, b)
	}
	for _, b := range own {
		fill(g.in, b)
	}
	for i := range g.in {
		g.in[i] = g.in[i] && !taken[i]
	}
	for _, b := range slips {
		fill(g.in, b)
	}
	g.bridge(taken, len(g.ys), len(g.xs), func(row, col int) int { return row*len(g.xs) + col })
	g.bridge(taken, len(g.xs), len(g.ys), func(row, col int) int { return col*len(g.xs) + row })
	return g.outlines()
}

// cells is a plane cut into cells; a cell is named by its upper left corner.
type cells struct {
	xs, ys []float64
	in     []bool
}

// bridge fills the gaps of each row in which nothing else stands.
func (g *cells) bridge(taken []bool, rows, cols int, at func(row, col int) int) {
	for row := range rows {
		last := -1
		for col := range cols {
			switch i := at(row, col); {
			case g.in[i]:
				for c := last + 1; last >= 0 && c < col; c++ {
					g.in[at(row, c)] = true
				}
				last = col
			case taken[i]:
				last = -1
			}
		}
	}
}

func (g *cells) holds(x, y int) bool {
	return x >= 0 && y >= 0 && x < len(g.xs) && y < len(g.ys) && g.in[y*len(g.xs)+x]
}

// outlines follows the borders of what is inside, which lies to their right.
func (g *cells) outlines() [][]Point {
	type corner struct{ x, y int }
	next := map[corner][]corner{}
	var begins []corner
	side := func(a, b corner) {
		next[a] = append(next[a], b)
		begins = append(begins, a)
	}
	for y := range g.ys {
		for x := range g.xs {
			if !g.holds(x, y) {
				continue
			}
			if !g.holds(x, y-1) {
				side(corner{x, y}, corner{x + 1, y})
			}
			if !g.holds(x+1, y) {
				side(corner{x + 1, y}, corner{x + 1, y + 1})
			}
			if !g.holds(x, y+1) {
				side(corner{x + 1, y + 1}, corner{x, y + 1})
			}
			if !g.holds(x-1, y) {
				side(corner{x, y + 1}, corner{x, y})
			}
		}
	}
	var parts [][]Point
	for _, begin := range begins {
		var way []corner
		for at := begin; len(next[at]) > 0; {
			to := next[at][0]
			next[at] = next[at][1:]
			// What goes on straight is one side.
			if n := len(way); n > 1 && (way[n-2].x == way[n-1].x) == (way[n-1].x == at.x) {
				way[n-1] = at
			} else {
				way = append(way, at)
			}
			at = to
		}
		if len(way) > 3 {
			part := make([]Point, len(way))
			for i, c := range way {
				part[i] = Point{X: g.xs[c.x], Y: g.ys[c.y]}
			}
			parts = append(parts, part)
		}
	}
	return parts
}

// tuckedRegions gives the concepts that stand in the box of a region that is
// tucked away, with that region: of several, the one that holds most.
func tuckedRegions(m *cm.Map, ids []cm.ID) map[cm.ID]cm.ID {
	boxed, size := map[cm.ID]cm.ID{}, map[cm.ID]int{}
	for _, id := range ids {
		r := m.Regions[id]
		if r == nil {
			continue
		}
		inside := m.Inside(r)
		size[id] = len(inside)
		for c := range inside {
			if have, too := boxed[c]; !too || size[have] < size[id] {
				boxed[c] = id
			}
		}
	}
	return boxed
}

// gathered draws the boxes of regions that are tucked away, in the middle of what
// they hold.
func (sc *Scene) gathered(m *cm.Map, hides map[cm.ID][]cm.ID, v View, prev *Scene) {
	for id, held := range hides {
		r := m.Regions[id]
		if r == nil {
			continue
		}
		x0, x1, y0, y1 := 0.0, 0.0, 0.0, 0.0
		for i, c := range held {
			at := m.Concepts[c].At
			if i == 0 {
				x0, x1, y0, y1 = at.X, at.X, at.Y, at.Y
			}
			x0, x1, y0, y1 = min(x0, at.X), max(x1, at.X), min(y0, at.Y), max(y1, at.Y)
		}
		c := &cm.Concept{ID: id, Label: r.Title, At: cm.Point{X: float64(int(x0+x1) / 2), Y: float64(int(y0+y1) / 2)}}
		words, box := slipBox(c, r.Title.For(v.Lang, m.Language), false, true, cm.OutlinePlain, m.Look.Large, &extras{})
		slip := &Slip{ID: id, Region: true, Words: words, Box: box, Colour: r.Colour, Outline: cm.OutlinePlain, Hides: held, source: c, lang: v.Lang}
		if was := prev.Slips[id]; was != nil && was.Region && was.Box == box && was.Words == words && was.Colour == slip.Colour && slices.Equal(was.Hides, held) {
			slip = was
		}
		sc.Slips[id] = slip
	}
}

// MarksRoom is how much of the tab its marks take.
func (r *Region) MarksRoom() float64 {
	if len(r.Marks) == 0 {
		return 0
	}
	last := r.Marks[len(r.Marks)-1]
	return last.X + last.W + LinkMarkGap
}

// regionMarks gives the marks of a region: its note, and what people said of it.
func (g *meanings) regionMarks(r *cm.Region) []Mark {
	var all []Mark
	if !r.Note.Empty() {
		all = append(all, noteMark(g.words(r.Note), r.NoteCard))
	}
	talk := g.discussion(cm.Key{Kind: cm.EntityRegion, ID: r.ID})
	for _, p := range talk.Parts() {
		p.Says = strings.TrimPrefix(talk.Says(), ", ")
		all = append(all, p)
	}
	spread(all)
	return all
}

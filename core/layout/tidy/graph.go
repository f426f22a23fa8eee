// Package tidy puts maps in order: from measured slips and phrases to places
// and lines, by a pattern. Everything here is a pure function; the same input
// gives the same drawing.
//
// Lengths are pixels at scale 1, y down. Boxes are known by their centres.
package tidy

import (
	"mevrin/core/geometry"
	"mevrin/core/layout/route"
	"mevrin/core/work"
)

// Point is a place, Size the extent of a box.
type (
	Point = route.Point
	Size  = route.Size
)

// Box is a slip to be placed.
type Box struct {
	Size
	Time *Span // when it was, for what is drawn along time
	// Whole is set for a region or a branch that is drawn by itself: as large as it comes, it
	// is one box of what it hangs in.
	Whole bool
}

// Span is a time: its beginning and its end, in any unit.
type Span struct{ From, To float64 }

// Wire is a link: a phrase between the boxes it leads from and those it leads
// to. Every end is one line, from the box to the phrase.
type Wire struct {
	From, To []int // boxes
	Phrase   Size  // the room of the words; zero for a link that needs none
}

// ends gives the boxes at both sides, those led from first.
func (w Wire) ends() []int {
	all := make([]int, 0, len(w.From)+len(w.To))
	return append(append(all, w.From...), w.To...)
}

// Graph is a measured map.
type Graph struct {
	Boxes []Box
	Wires []Wire
	// Root is the box at the top, or -1.
	Root int
	// Above gives for each box the one that it hangs from, or -1; and Rank its
	// place among those that hang from the same one, where that order is kept.
	Above []int
	Rank  []int
	// Ordered tells of boxes that what hangs from them keeps its order, where others may
	// change places; nil for none.
	Ordered []bool
	// Was is where the boxes stood in the last drawing by the same pattern, which is to be
	// taken up so that little moves; nil to begin anew. Fresh tells of which boxes it means
	// nothing.
	Was   []Point
	Fresh []bool
	// Loosely lets what stood somewhere give way to a better order.
	Loosely bool
	// Effort scales for how long good orders are looked for; 0 is 1.
	Effort float64
	// Fold sets crowded levels in several rows.
	Fold bool
	// Quick looks at less for each line that is led around boxes: for large maps.
	Quick bool
	// Stop lets the work be broken off; nil where it never is.
	Stop *work.Limit
}

// keeps tells that what hangs from a box keeps its order.
func (g *Graph) keeps(b int) bool { return b < len(g.Ordered) && g.Ordered[b] }

// Drawing is a graph put in order.
type Drawing struct {
	Boxes []Point // centres
	Wires []Line
}

// Line is how a wire is led.
type Line struct {
	Phrase Point // the centre of its words
	// Legs holds for each end, in the order From, To, the places that the line
	// passes on its way from the box to the phrase, neither included.
	Legs [][]Point
}

// Spacing is what a pattern leaves free.
type Spacing struct {
	Level float64 // between levels
	Side  float64 // between boxes beside each other
	Line  float64 // between lines, and between a line and a box
	Part  float64 // between parts that no link joins
}

// Usual is the spacing of a map on the paper.
var Usual = Spacing{Level: 25, Side: 24, Line: 12, Part: 40}

func distance(a, b Point) float64 { return geometry.Distance(a, b) }

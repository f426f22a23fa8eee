package scene

import (
	"math"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout/route"
	"mevrin/draw/face"
)

// RouteLine is the way of a route over a map.
type RouteLine struct {
	// Ways lead from each stop to the next, around the slips of others; they begin and end under
	// what the stops show.
	Ways    [][]Point
	Numbers []RouteNumber
}

// RouteNumber is a numeral beside what a stop shows, or several where it is shown again.
type RouteNumber struct {
	Of    cm.Key
	Words string
	Box   Rect // of the numerals; they stand on its lower edge
}

// The measures of numerals beside stops, in pixels: how far they stand from slips, how high they
// are, and how far from an arrowhead or a line they keep.
const (
	numberClear = 3.0
	numberHigh  = 17.0
	dartClear   = 9.0
)

var numberVoice = setting{voice: face.Noun, size: 15, lineHeight: numberHigh, wide: 400, align: cm.AlignLeft, fixed: true}

// RouteLine leads a line along what the stops of a route show, and puts a numeral beside each of
// those things. A stop that shows nothing that is seen is passed over.
func (sc *Scene) RouteLine(stops [][]cm.Key, numbers []string) RouteLine {
	var line RouteLine
	ids := cm.SortedIDs(sc.Slips)
	boxes := make([]route.Rect, len(ids))
	for i, id := range ids {
		boxes[i] = rectOf(sc.Slips[id].Box)
	}
	index := route.NewIndex(boxes)
	var before *Rect
	var from cm.Key
	at, order := map[cm.Key]*RouteNumber{}, []cm.Key{}
	for i, shows := range stops {
		for _, key := range shows {
			if _, _, seen := sc.firstSeen([]cm.Key{key}); !seen {
				continue
			}
			if at[key] == nil {
				at[key] = &RouteNumber{Of: key}
				order = append(order, key)
			}
			at[key].Words = strings.TrimSpace(at[key].Words + " " + numbers[i])
		}
		key, box, seen := sc.firstSeen(shows)
		if !seen {
			continue
		}
		if before != nil && key != from {
			a, b := before.Middle(), box.Middle()
			turns, _ := route.Around(a, b, index, func(i int) bool { return ids[i] == from.ID || ids[i] == key.ID })
			line.Ways = append(line.Ways, append(append([]Point{a}, turns...), b))
		}
		before, from = &box, key
	}
	taken := sc.taken()
	var darts []Point
	for _, id := range cm.SortedIDs(sc.Links) {
		for _, leg := range sc.Links[id].Legs {
			if leg.Dart != nil {
				darts = append(darts, leg.Dart.Tip, Point{X: leg.Dart.Tip.X - leg.Dart.Along.X*dartClear, Y: leg.Dart.Tip.Y - leg.Dart.Along.Y*dartClear})
			}
			if leg.Knot != nil {
				darts = append(darts, *leg.Knot)
			}
		}
	}
	lines := sc.alongLines()
	for _, key := range order {
		n := at[key]
		_, of, _ := sc.firstSeen([]cm.Key{key})
		n.Box = numberAt(of, math.Ceil(block(n.Words, numberVoice).W), taken, darts, lines)
		taken = append(taken, n.Box)
		line.Numbers = append(line.Numbers, *n)
	}
	return line
}

// numberAt finds a place for numerals around a box where they touch no words, no slip and no
// arrowhead, and as few lines as can be; the upper left where all are as good.
func numberAt(of Rect, wide float64, taken []Rect, darts, lines []Point) Rect {
	var best Rect
	least := math.Inf(1)
	left, right, above, below := of.X, of.X+of.W-wide, of.Y-numberClear-numberHigh, of.Y+of.H+numberClear
	for i, p := range []Point{
		{X: left, Y: above}, {X: right, Y: above}, {X: left, Y: below}, {X: right, Y: below},
		{X: left - wide - numberClear, Y: of.Y}, {X: of.X + of.W + numberClear, Y: of.Y}, {X: left - wide - numberClear, Y: of.Y + of.H - numberHigh}, {X: of.X + of.W + numberClear, Y: of.Y + of.H - numberHigh},
		{X: of.X + of.W/3, Y: above}, {X: of.X + of.W*2/3 - wide, Y: above}, {X: of.X + of.W/3, Y: below}, {X: of.X + of.W*2/3 - wide, Y: below},
	} {
		box := Rect{X: p.X, Y: p.Y, W: wide, H: numberHigh}
		cost := float64(i) / 100
		for _, r := range taken {
			if r.Meets(box) {
				cost += 100
			}
		}
		near := func(points []Point, clear, each float64) {
			for _, q := range points {
				if q.X > box.X-clear && q.X < box.X+box.W+clear && q.Y > box.Y-clear && q.Y < box.Y+box.H+clear {
					cost += each
				}
			}
		}
		near(darts, dartClear, 50)
		near(lines, 2, 5)
		if cost < least {
			best, least = box, cost
		}
	}
	return best
}

package scene

import (
	"math"
	"slices"
	"strconv"

	cm "mevrin/core/conceptmap"
)

// Axis is a line of time above a map that is drawn along time.
type Axis struct {
	X0, X1, Y float64
	Ticks     []Tick
	Spans     []Span
}

// Span is how long something lasts: a bar below its slip.
type Span struct{ X0, X1, Y float64 }

// What is less wide is no span to the eye; and how far below its slip a bar runs,
// both in pixels.
const (
	minSpan   = 6
	spanBelow = 7
)

// Tick is a time on the axis.
type Tick struct {
	X     float64
	Words string
}

// axisAbove is how far above the map the axis stands, in pixels.
const axisAbove = 44

// axisOf gives the axis of a map drawn along time: nil for any other, and where
// slips no longer stand where their times would have them.
func axisOf(m *cm.Map, sc *Scene) *Axis {
	if m.Pattern != cm.PatternTime {
		return nil
	}
	span := func(id cm.ID) (from, to float64, ok bool) {
		if c := m.Concepts[id]; c != nil { // not the box of a region
			return c.Span()
		}
		return 0, 0, false
	}
	var when, where []float64
	last := math.Inf(-1)
	for _, id := range cm.SortedIDs(sc.Slips) {
		if from, to, ok := span(id); ok {
			when, where = append(when, from), append(where, sc.Slips[id].Box.X)
			last = max(last, to)
		}
	}
	scale, zero, ok := fitted(when, where)
	if !ok {
		return nil
	}
	bounds := sc.Bounds()
	first := slices.Min(when)
	var spans []Span
	for _, id := range cm.SortedIDs(sc.Slips) {
		box := sc.Slips[id].Box
		if from, to, ok := span(id); ok && (to-from)*scale > minSpan && math.Abs(box.X-zero-from*scale) < 8 {
			spans = append(spans, Span{box.X, zero + to*scale, box.Y + box.H + spanBelow})
		}
	}
	a := &Axis{X0: zero + first*scale, X1: max(bounds.X+bounds.W, zero+last*scale), Y: bounds.Y - axisAbove, Spans: spans}
	a.Ticks = ticks(first, max(last, (a.X1-zero)/scale), (a.X1-a.X0)/110, func(t float64) float64 { return zero + t*scale })
	return a
}

// fitted gives the straight line that places follow from times, if most do within
// a few pixels: through the medians of the slopes from the first and of what is
// left (Theil and Sen), so that one that was moved by hand spoils nothing.
func fitted(when, where []float64) (scale, zero float64, ok bool) {
	var slopes []float64
	for i := range when {
		for j := range i {
			if when[i] != when[j] {
				slopes = append(slopes, (where[i]-where[j])/(when[i]-when[j]))
			}
		}
	}
	if len(slopes) == 0 {
		return 0, 0, false
	}
	slices.Sort(slopes)
	scale = slopes[len(slopes)/2]
	var zeros []float64
	for i := range when {
		zeros = append(zeros, where[i]-when[i]*scale)
	}
	slices.Sort(zeros)
	zero = zeros[len(zeros)/2]
	near := 0
	for i := range when {
		if math.Abs(where[i]-when[i]*scale-zero) < 8 {
			near++
		}
	}
	return scale, zero, scale > 0 && 2*near > len(when)
}

// ticks gives about so many times between two, at round numbers: 1, 2 or 5 of a
// power of ten, or months where years are too coarse.
func ticks(from, to, about float64, at func(float64) float64) []Tick {
	if to <= from || about < 1 {
		return nil
	}
	step := math.Pow(10, math.Floor(math.Log10((to-from)/about)))
	for _, by := range []float64{2, 2.5, 2} {
		if (to-from)/step > about {
			step *= by
		}
	}
	var all []Tick
	if step < 1 && step >= 1.0/24 && math.Abs(from) > 100 { // years: their months
		every := 1.0
		for _, n := range []float64{2, 3, 6, 12} {
			if (to-from)*12/every > about {
				every = n
			}
		}
		for n := math.Ceil(from * 12 / every); n*every/12 <= to; n++ {
			month := int(n*every) - 12*int(math.Floor(n*every/12))
			all = append(all, Tick{at(n * every / 12), t(monthTexts[month]) + " " + strconv.Itoa(int(math.Floor(n*every/12)))})
		}
		return all
	}
	for n := math.Ceil(from/step - 1e-9); n*step <= to+1e-9 && len(all) < 60; n++ {
		all = append(all, Tick{at(n * step), strconv.FormatFloat(math.Round(n*step*1e6)/1e6+0, 'f', -1, 64)})
	}
	return all
}

// monthTexts are the months as an axis has them.
var monthTexts = [...]string{"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"}

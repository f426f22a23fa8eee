package scene

import (
	"math"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
)

// Card is the card of a stop in small, beside what it speaks of.
type Card struct {
	Stop   cm.ID
	Number string // of the stop on its route
	Title  *Block // nil where it has none
	Words  *Block // the beginning of the card; nil where it is empty
	Box    Rect
	// Of is the element beside which it lies, From and To the ends of a short line
	// between the two.
	Of       cm.Key
	From, To Point
}

// The measures of small cards, in pixels: how wide their words are, the room in
// them, and how many characters of a card they show.
const (
	cardWide  = 158.0
	CardPad   = 9.0
	cardShows = 110
	// CardLead is the room of the number to the left of the title.
	CardLead = 24.0
)

var (
	cardTitle = setting{voice: face.NounBold, size: 12.5, lineHeight: 15, wide: cardWide - CardLead, align: cm.AlignLeft, fixed: true}
	cardWords = setting{voice: face.Noun, size: 11.5, lineHeight: 14, wide: cardWide, align: cm.AlignLeft, fixed: true}
)

// CardAsked is a card that is to be laid on the paper: its title and words are
// plain. It lies beside the first of what it shows that is seen.
type CardAsked struct {
	Stop                 cm.ID
	Number, Title, Words string
	Shows                []cm.Key
}

// Cards lays small cards beside what they speak of, each where it covers the least:
// no slip, no words and no other card as long as there is a place for it nearby.
// Cards that show nothing that is seen are left out.
func Cards(sc *Scene, asked []CardAsked) []Card {
	taken, lines := sc.taken(), sc.alongLines()
	var all []Card
	for _, a := range asked {
		of, at, ok := sc.firstSeen(a.Shows)
		if !ok {
			continue
		}
		card := Card{Stop: a.Stop, Number: a.Number, Of: of}
		h := CardPad
		if a.Title != "" {
			card.Title = block(wordsTo(a.Title, cardShows), cardTitle)
			h += card.Title.H
		}
		if a.Words != "" {
			card.Words = block(wordsTo(a.Words, cardShows), cardWords)
			if card.Title != nil {
				h += 3
			} else {
				h += cardTitle.lineHeight // beside the number
			}
			h += card.Words.H
		}
		if card.Title == nil && card.Words == nil {
			h += cardTitle.lineHeight
		}
		card.Box = beside(at, math.Ceil(cardWide+2*CardPad), math.Ceil(h+CardPad), taken, lines)
		card.From, card.To = between(at, card.Box)
		taken = append(taken, card.Box)
		all = append(all, card)
	}
	return all
}

// wordsTo gives the beginning of words, cut between two of them.
func wordsTo(words string, most int) string {
	short := shortenedTo(words, most)
	if i := strings.LastIndexByte(short, ' '); short != words && i > 0 {
		return short[:i] + " …"
	}
	return short
}

// firstSeen finds the first of some things that is drawn.
func (sc *Scene) firstSeen(shows []cm.Key) (cm.Key, Rect, bool) {
	for _, key := range shows {
		if s := sc.Slips[key.ID]; key.Kind == cm.EntityConcept && s != nil {
			return key, s.Box, true
		}
		if l := sc.Links[key.ID]; key.Kind == cm.EntityLink && l != nil && !l.Veiled() {
			return key, l.Gap, true
		}
	}
	return cm.Key{}, Rect{}, false
}

// taken lists what a card must not cover: slips, phrases, tabs of regions, the key.
func (sc *Scene) taken() []Rect {
	var all []Rect
	for _, id := range cm.SortedIDs(sc.Slips) {
		all = append(all, sc.Slips[id].Box)
	}
	for _, id := range cm.SortedIDs(sc.Links) {
		all = append(all, sc.Links[id].Gap)
	}
	for _, r := range sc.Regions {
		all = append(all, r.Tab)
	}
	if sc.Key != nil {
		all = append(all, sc.Key.Box)
	}
	return all
}

// alongLines gives points along all lines.
func (sc *Scene) alongLines() []Point {
	var all []Point
	for _, id := range cm.SortedIDs(sc.Links) {
		for _, leg := range sc.Links[id].Legs {
			for i := range 13 {
				all = append(all, leg.Path.At(float64(i)/12*float64(len(leg.Path))))
			}
		}
	}
	return all
}

// cardApart is the room between a card and what it must not cover.
const cardApart = 7.0

// beside finds a place for a box near another one: around it, at growing distances,
// where the least is covered; of places alike, the nearest. Lines under it count a
// little.
func beside(at Rect, w, h float64, taken []Rect, lines []Point) Rect {
	reach := at.Grown(w+260, h+260)
	var near []Rect
	for _, t := range taken {
		if t.Meets(reach) {
			near = append(near, t)
		}
	}
	lines = slices.DeleteFunc(slices.Clone(lines), func(p Point) bool { return !reach.Holds(p) })
	best, least := Rect{}, math.Inf(1)
	try := func(x, y float64) {
		box := Rect{X: x, Y: y, W: w, H: h}
		room := box.Grown(cardApart, cardApart)
		cost := math.Hypot(box.Middle().X-at.Middle().X, box.Middle().Y-at.Middle().Y) / 4
		for _, t := range near {
			across := min(room.X+room.W, t.X+t.W) - max(room.X, t.X)
			down := min(room.Y+room.H, t.Y+t.H) - max(room.Y, t.Y)
			if across > 0 && down > 0 {
				cost += 400 + across*down
			}
		}
		for _, p := range lines {
			if box.Holds(p) {
				cost += 14
			}
		}
		if cost < least {
			best, least = box, cost
		}
	}
	for _, gap := range []float64{10, 34, 70, 120, 180} {
		for part := range 5 {
			slide := float64(part) / 4
			y := at.Y - h + slide*(at.H+h)
			x := at.X - w + slide*(at.W+w)
			try(at.X+at.W+gap, y)
			try(at.X-gap-w, y)
			try(x, at.Y+at.H+gap)
			try(x, at.Y-gap-h)
		}
	}
	return best
}

// between gives the ends of the shortest line from one box to another.
func between(a, b Rect) (Point, Point) {
	x0, x1 := nearest(a.X, a.X+a.W, b.X, b.X+b.W)
	y0, y1 := nearest(a.Y, a.Y+a.H, b.Y, b.Y+b.H)
	return Point{X: x0, Y: y0}, Point{X: x1, Y: y1}
}

// nearest gives the nearest points of two stretches; the middle of what they share
// where they do.
func nearest(a0, a1, b0, b1 float64) (float64, float64) {
	switch {
	case a1 < b0:
		return a1, b0
	case b1 < a0:
		return a0, b1
	}
	m := (max(a0, b0) + min(a1, b1)) / 2
	return m, m
}

package scene

import (
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// obstacles are the slips and phrases of a scene, as far as they were asked for.
type obstacles struct {
	sc    *Scene
	many  bool       // they are asked for so often that an index of all is worth while
	room  route.Rect // in which they were gathered; it grows as it is asked for
	index *route.Index
	boxes []route.Rect
	slips []*Slip // of the first boxes
	links []*Link // of the others
}

// fewPorts is for how many slips ports are found without an index, obstacleRoom how far
// around what is asked for it is looked at once, in pixels.
const (
	fewPorts     = 100
	obstacleRoom = 500.0
)

func (o *obstacles) gather(room route.Rect) {
	if o.room = union(o.room, room.Grown(obstacleRoom)); o.many {
		o.room = geometry.Everywhere
	}
	o.boxes, o.slips, o.links = o.boxes[:0], o.slips[:0], o.links[:0]
	for i, r := range o.sc.stand.boxes {
		if r = r.Grown(phraseClear); r.Meets(o.room) {
			o.slips, o.boxes = append(o.slips, o.sc.stand.slips[i]), append(o.boxes, r)
		}
	}
	for _, k := range o.sc.straight {
		if r := rectOf(k.Gap).Grown(phraseClear); r.Meets(o.room) {
			o.links, o.boxes = append(o.links, k), append(o.boxes, r)
		}
	}
	if o.many {
		o.index = route.NewIndex(o.boxes)
	}
}

// inWay tells whether a straight piece of a link's line runs through a slip or a phrase that
// is not its own.
func (o *obstacles) inWay(a, b Point, own *Link) bool {
	span := geometry.Span(a, b)
	if !o.room.Contains(span) {
		o.gather(span)
	}
	foreign := func(i int) bool {
		if i < len(o.slips) {
			return !slices.ContainsFunc(own.ends, func(e end) bool { return e.Slip == o.slips[i] })
		}
		return o.links[i-len(o.slips)] != own
	}
	if o.many {
		met := false
		o.index.Along(a, b, 0, func(i int, _ route.Rect) bool { met = foreign(i); return !met })
		return met
	}
	for i := range o.boxes {
		if o.boxes[i].Meets(span) && o.boxes[i].Cut(a, b) && foreign(i) {
			return true
		}
	}
	return false
}

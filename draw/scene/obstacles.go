package scene

import (
	"slices"

	"mevrin/core/geometry"
	"mevrin/core/layout/route"
)

// obstacles are the slips and phrases of a scene.
type obstacles struct {
	sc    *Scene
	many  bool // they are asked for so often that an index is worth while
	index *route.Index
	boxes []route.Rect
	slips []*Slip // of the first boxes
	links []*Link // of the others

	room route.Rect // in which it was looked last
	near []int      // what stands there
}

// fewPorts is for how many slips ports are found without an index; obstacleRoom how far around
// what is asked for it is looked at once, in pixels.
const (
	fewPorts     = 100
	obstacleRoom = 60.0
)

func (o *obstacles) gather() {
	n, m := len(o.sc.Slips), len(o.sc.straight)
	o.boxes, o.slips, o.links = make([]route.Rect, 0, n+m), o.sc.stand.slips, make([]*Link, 0, m)
	for _, r := range o.sc.stand.boxes {
		o.boxes = append(o.boxes, r.Grown(phraseClear))
	}
	for _, k := range o.sc.straight {
		o.links, o.boxes = append(o.links, k), append(o.boxes, rectOf(k.Gap).Grown(phraseClear))
	}
	if o.many {
		o.index = route.NewIndex(o.boxes)
	}
}

// turnTo turns to another part of the scene.
func (o *obstacles) turnTo(part route.Rect) {
	if o.room, o.near = (route.Rect{}), o.near[:0]; !o.many {
		o.look(part)
	}
}

// look makes sure that a part of the scene is known.
func (o *obstacles) look(at route.Rect) {
	if o.boxes == nil {
		o.gather()
	}
	if o.room.Contains(at) {
		return
	}
	o.room, o.near = union(o.room, at.Grown(obstacleRoom)), o.near[:0]
	for i := range o.boxes {
		if o.boxes[i].Meets(o.room) {
			o.near = append(o.near, i)
		}
	}
}

// inWay tells whether a straight piece of a link's line runs through a slip or a phrase that
// is not its own.
func (o *obstacles) inWay(a, b Point, own *Link) bool {
	if o.boxes == nil {
		o.gather()
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
	span := geometry.Span(a, b)
	o.look(span)
	for _, i := range o.near {
		if o.boxes[i].Meets(span) && o.boxes[i].Cut(a, b) && foreign(i) {
			return true
		}
	}
	return false
}

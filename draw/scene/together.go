package scene

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/core/structure"
)

// togetherGap is what is left of an empty distance that is closed up: room for a dart and for a line
// to turn, in pixels.
const togetherGap = 44.0

// Together gives a map of which the empty distances are closed up, as it is seen: no row and no
// column of the paper lies empty for long. A map on a picture stays as it is, since its places mean
// something there.
func Together(m *cm.Map, s *structure.Structure, v View) *cm.Map {
	if m.Look.Picture != nil {
		return m
	}
	sc := Build(m, s, v, nil)
	boxes := make([]Rect, 0, len(sc.Slips)+len(sc.Links))
	for _, slip := range sc.Slips {
		boxes = append(boxes, slip.Box)
	}
	for _, l := range sc.Links {
		boxes = append(boxes, l.Gap)
	}
	closing := layout.CloseUp(boxes, togetherGap)
	next := m.Clone()
	for id, c := range m.Concepts {
		at := *c
		at.At = cm.ClampPoint(closing.At(c.At))
		next.Concepts[id] = &at
	}
	for id, l := range m.Links {
		led := *l
		if l.Hub != nil {
			hub := cm.ClampPoint(closing.At(*l.Hub))
			led.Hub = &hub
		}
		led.Bends = map[cm.ID][]cm.Point{}
		for end, bends := range l.Bends {
			for _, bend := range bends {
				led.Bends[end] = append(led.Bends[end], cm.ClampPoint(closing.At(bend)))
			}
		}
		next.Links[id] = &led
	}
	return next
}

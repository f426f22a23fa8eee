package query

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/core/layout"
	"mevrin/draw/scene"
	"mevrin/workspace"
)

// slipToCome is how large a concept is taken to be that has no words yet.
var slipToCome = layout.Size{W: 120, H: 37}

// Places gives, for each side of a concept or of a phrase, the free place for a concept
// to be joined with it: the middle of the upper edge of its slip, as somebody sees the
// map. What is not in sight has none.
func (s Reading) Places(view scene.View, element string) map[layout.Side]cm.Point {
	places := map[layout.Side]cm.Point{}
	seen := s.Seen(view)
	key, _ := workspace.KeyOf(element)
	var own scene.Rect
	switch slip, link := seen.Slips[key.ID], seen.Links[key.ID]; {
	case key.Kind == cm.EntityConcept && slip != nil:
		own = slip.Box
	case key.Kind == cm.EntityLink && link != nil:
		own = link.Gap
	default:
		return places
	}
	edges := func(b scene.Rect) geometry.Rect {
		return geometry.Rect{X0: b.X, Y0: b.Y, X1: b.X + b.W, Y1: b.Y + b.H}
	}
	var standing layout.Standing
	var children []geometry.Rect
	for id, slip := range seen.Slips {
		if id == key.ID {
			continue
		}
		standing.Slips = append(standing.Slips, edges(slip.Box))
		if slip.Parent == key.ID {
			children = append(children, edges(slip.Box))
		}
	}
	for id, link := range seen.Links {
		if id == key.ID {
			continue
		}
		standing.Phrases = append(standing.Phrases, edges(link.Gap))
	}
	near := layout.Near
	if s.Map.KeepTidy {
		near = layout.NearInOrder
	}
	for _, side := range layout.Sides {
		places[side] = cm.RoundPoint(near(standing, edges(own), children, side, slipToCome))
	}
	return places
}

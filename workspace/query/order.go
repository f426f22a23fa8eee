package query

import (
	cm "mevrin/core/conceptmap"
	"mevrin/workspace"
)

// ofOrder is what the margin says of how the map is put in order.
type ofOrder struct {
	Patterns []patternView
	Freely   bool
	KeepTidy bool
	Top      cm.ID // the concept selected, where something is below it
	Pinned   bool  // all concepts selected are
	Siblings int   // how many hang from it
	Ordered  bool  // they keep the order that their author gave them
	Held     bool  // all concepts selected stand where a hand placed them, on a map that keeps itself in order
	When     string
	Placed   int // concepts placed by hand since
}

// patternView is a pattern on offer.
type patternView struct {
	Pattern     cm.Pattern
	Name        string
	Map, Branch bool // it is that of the map, of the branch selected
}

// patternNames are what the patterns are called on the page.
var patternNames = map[cm.Pattern]string{
	cm.PatternLevels: "Levels, down", cm.PatternUp: "Levels, up", cm.PatternRight: "Levels, to the right", cm.PatternLeft: "Levels, to the left",
	cm.PatternSides: "Both sides", cm.PatternRings: "Rings", cm.PatternWeb: "Network", cm.PatternSpine: "Spine and ribs",
	cm.PatternTime: "Along time", cm.PatternRows: "Rows and columns",
}

// Orders are the ways in which a new map can keep itself in order, the last one that it
// does not.
func Orders() []Choice {
	var all []Choice
	for _, p := range cm.Patterns {
		all = append(all, Choice{Value: string(p), Name: patternNames[p]})
	}
	return append(all, Choice{Value: string(workspace.OrderFree), Name: "As I place it"})
}

func (s Reading) describeOrder(v *Margin, concepts []cm.ID) {
	o := &v.ofOrder
	o.Freely, o.KeepTidy = s.Map.Freely, s.Map.KeepTidy
	own := cm.PatternNone
	if len(concepts) == 1 {
		c := s.Map.Concepts[concepts[0]]
		o.When = c.When
		if len(s.Structure.Places[c.ID].Children) > 0 {
			o.Top, own = c.ID, c.Pattern
			o.Siblings, o.Ordered = len(s.Structure.Places[c.ID].Children), c.Ordered || !s.Map.Freely
		}
	}
	o.Pinned = len(concepts) > 0
	o.Held = o.Pinned && s.Map.KeepTidy
	for _, id := range concepts {
		hold := s.Map.Concepts[id].Hold
		o.Pinned, o.Held = o.Pinned && hold == cm.HoldPin, o.Held && hold == cm.HoldHand
	}
	for _, c := range s.Map.Concepts {
		if c.Hold == cm.HoldHand {
			o.Placed++
		}
	}
	for _, p := range cm.Patterns {
		o.Patterns = append(o.Patterns, patternView{p, s.t(patternNames[p]), p == s.Map.Pattern, p == own})
	}
}

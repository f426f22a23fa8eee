package query

import cm "mevrin/core/conceptmap"

// ofOrder is what the margin says of how the map is put in order.
type ofOrder struct {
	Patterns []patternView
	Freely   bool
	KeepTidy bool
	Top      cm.ID // the concept selected, where something is below it
	Pinned   bool  // all concepts selected are
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
	cm.PatternSides: "Both sides", cm.PatternRings: "Rings", cm.PatternWeb: "Web", cm.PatternSpine: "Spine and ribs",
	cm.PatternTime: "Along time", cm.PatternRows: "Rows and columns",
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
		}
	}
	o.Pinned = len(concepts) > 0
	for _, id := range concepts {
		o.Pinned = o.Pinned && s.Map.Concepts[id].Hold == cm.HoldPin
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

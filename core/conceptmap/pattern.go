package conceptmap

import "slices"

// Pattern names a way to put a map, or a branch of it, in order.
type Pattern string

// The patterns. The empty one is, of a branch, that of what it hangs from.
const (
	PatternNone   Pattern = ""
	PatternLevels Pattern = "levels"       // level below level
	PatternUp     Pattern = "levels-up"    // level above level
	PatternRight  Pattern = "levels-right" // level beside level
	PatternLeft   Pattern = "levels-left"
	PatternSides  Pattern = "sides" // to both sides of a centre
	PatternRings  Pattern = "rings" // around a centre
	PatternWeb    Pattern = "web"   // by forces
	PatternSpine  Pattern = "spine" // ribs along a spine
	PatternTime   Pattern = "time"  // along an axis of time
	PatternRows   Pattern = "rows"  // rows and columns
)

// Patterns lists all patterns, in the order in which they are offered.
var Patterns = []Pattern{PatternLevels, PatternUp, PatternRight, PatternLeft, PatternSides, PatternRings, PatternWeb, PatternSpine, PatternTime, PatternRows}

// Valid tells whether there is such a pattern.
func (p Pattern) Valid() bool { return p == PatternNone || slices.Contains(Patterns, p) }

// Grows tells to which side of its focus concept a map grows by the pattern: down, up,
// right, left or around.
func (p Pattern) Grows() string {
	switch p {
	case PatternNone, PatternLevels, PatternRows, PatternSpine:
		return "down"
	case PatternUp:
		return "up"
	case PatternRight, PatternTime:
		return "right"
	case PatternLeft:
		return "left"
	}
	return "around"
}

// Hold says how firmly a concept stands where it is.
type Hold string

// The three ways in which a concept stands.
const (
	HoldNone Hold = ""
	HoldHand Hold = "hand" // placed by hand since the map was last put in order
	HoldPin  Hold = "pin"  // pinned: it is never moved by putting the map in order
)

// Valid tells whether a concept can be held so.
func (h Hold) Valid() bool { return h == HoldNone || h == HoldHand || h == HoldPin }

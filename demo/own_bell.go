package demo

import (
	"mevrin/core/conceptmap/edit"
)

// ownBell is the argument map, in outline: claims, reasons, evidence,
// assumptions and counter-claims of a made-up dispute.
func ownBell() Map {
	m := maker{Map: Map{ID: "own-bell"}}
	m.do(
		&edit.NameMap{Title: "The school bell"},
		&edit.Ask{Question: "Should the Hollin school ring its own bell again?"},
		// The claims and reasons of an argument are statements, as they should be.
		&edit.SetRule{Rule: "label-sentence"},
	)
	m.concepts(ownBellConcepts)
	m.do(&edit.SetFocus{Concept: "claim"})
	for _, l := range ownBellLinks {
		m.link(l)
	}
	return m.Map
}

var ownBellConcepts = []concept{
	{"claim", "the school should ring its own bell again", 0, 0},
	{"together", "everyone begins together", -160, 140},
	{"late", "fewer late arrivals", -280, 270},
	{"count", "the count of spring term", -320, 400},
	{"heard", "a bell is heard outdoors", 210, 250},
	{"field", "tries on the far field", 140, 370},
	{"craft", "pupils learn a craft", 160, 190},
	{"works", "the bell works lends a ringer", -120, 300},
	{"old", "the old bell still hangs", -90, 450},
	{"sound", "its frame is sound", -60, 580},
	{"report", "the founder's report of May", 10, 700},
	{"noise", "neighbours lose their quiet", 550, 210},
	{"shift", "night workers sleep at nine", 520, 540},
	{"letters", "eleven letters", 520, 690},
	{"soft", "a leather pad softens the blow", 420, 340},
	{"measured", "measured at the garden wall", 210, 440},
	{"twice", "ringing twice a day is enough", 270, 650},
}

var ownBellLinks = []link{
	{one("claim"), "since then", one("together")},
	{one("claim"), "because so", one("craft")},
	{one("claim"), "is opposed, because", one("noise")},
	{one("together"), "which brings", one("late")},
	{one("late"), "as is shown by", one("count")},
	{one("together"), "because", one("heard")},
	{one("heard"), "as is shown by", one("field")},
	{one("craft"), "since", one("works")},
	{one("works"), "provided that", one("old")},
	{one("old"), "as long as", one("sound")},
	{one("sound"), "as stated in", one("report")},
	{one("noise"), "since", one("shift")},
	{one("noise"), "is answered by", one("soft")},
	{one("shift"), "as told in", one("letters")},
	{one("soft"), "which was", one("measured")},
	{one("shift"), "is met by", one("twice")},
	{one("soft"), "weakens that", one("heard")},
	{one("twice"), "is enough for", one("together")},
}

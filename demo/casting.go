package demo

import (
	cm "mevrin/core/conceptmap"
)

// casting is the map of a process: how the Hollin bell works cast a bell, in days
// from the order on.
func casting() Map {
	m := maker{Map: Map{ID: "bell-casting"}}
	m.do(
		&cm.NameMap{Title: "Casting a bell"},
		&cm.Ask{Question: "How is a bell cast at the Hollin works, day by day?"},
	)
	m.concepts(castingConcepts)
	m.do(&cm.SetFocus{Concept: "order"})
	for _, l := range castingLinks {
		m.link(l)
	}
	for _, at := range castingDays {
		m.do(&cm.SetWhen{Concept: cm.ID(at[0]), When: at[1]})
	}
	// The places are those of the pattern.
	m.do(&cm.Bend{Link: "link03", End: "t1", Bends: []cm.Point{{X: 132, Y: 54}, {X: 112, Y: 110}}})
	m.do(&cm.Tidy{Pattern: cm.PatternTime})
	return m.Map
}

var castingConcepts = []concept{
	{"order", "the order", 0, 0},
	{"profile", "the profile", 12, 101},
	{"core", "the core of loam", 73, 189},
	{"false", "the false bell", 163, 7},
	{"cope", "the cope", 212, 101},
	{"fire", "a drying fire", 366, 7},
	{"melt", "molten bronze", 455, 101},
	{"pour", "the pour", 446, 189},
	{"cool", "slow cooling", 458, 277},
	{"break", "the broken mould", 548, 7},
	{"lathe", "tuning on the lathe", 583, 365},
	{"hang", "the hanging", 693, 101},
	{"ring", "the first ring", 715, 7},
	{"founder", "the founder", 581, 517},
}

var castingDays = [][2]string{
	{"order", "0"}, {"profile", "2/6"}, {"core", "6/16"}, {"false", "16/22"}, {"cope", "22/36"}, {"fire", "36/44"}, {"melt", "44"}, {"pour", "45"},
	{"cool", "45/52"}, {"break", "52"}, {"lathe", "55/61"}, {"hang", "68"}, {"ring", "70"},
}

var castingLinks = []link{
	{one("order"), "sets", one("profile")},
	{one("profile"), "shapes", one("core")},
	{one("core"), "carries", one("false")},
	{one("false"), "is covered by", one("cope")},
	{one("fire"), "hardens", one("cope")},
	{one("cope"), "holds", one("pour")},
	{one("melt"), "feeds", one("pour")},
	{one("pour"), "needs", one("cool")},
	{one("cool"), "ends with", one("break")},
	{one("break"), "lets begin", one("lathe")},
	{one("lathe"), "comes before", one("hang")},
	{one("hang"), "allows", one("ring")},
	{one("founder"), "watches over", one("pour")},
	{one("founder"), "hears", one("ring")},
}

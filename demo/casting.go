package demo

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// casting is the map of a process: how the Hollin bell works cast a bell, in days
// from the order on.
func casting() Map {
	m := maker{Map: Map{ID: "bell-casting"}}
	m.do(
		&edit.NameMap{Title: "Casting a bell"},
		&edit.Ask{Question: "How is a bell cast at the Hollin works, day by day?"},
	)
	m.concepts(castingConcepts)
	m.do(&edit.SetFocus{Concept: "order"})
	for _, l := range castingLinks {
		m.link(l)
	}
	for _, at := range castingDays {
		m.do(&edit.SetWhen{Concept: cm.ID(at[0]), When: at[1]})
	}
	m.set("process", castingKinds)
	for _, kind := range []string{"choice", "then", "needs"} {
		m.do(&edit.RemoveKind{Kind: m.kind("process", kind)})
	}
	for _, l := range castingLasts {
		m.do(&edit.SetDuration{Concept: cm.ID(l[0]), Lasts: l[1]})
	}
	for i := range castingTasks {
		m.do(&castingTasks[i])
	}
	m.do(&edit.NumberSteps{Concepts: castingKinds["step"], From: 1})
	m.do(&edit.SetRemark{Concept: "core", Remark: "three coats, each dried"})
	// The places are those of the pattern.
	m.do(&edit.Tidy{Pattern: cm.PatternTime})
	return m.Map
}

var castingConcepts = []concept{
	{"order", "the order", 0, 0},
	{"profile", "the profile", 0, 138},
	{"core", "the core of loam", 69, 243},
	{"false", "the false bell", 177, 138},
	{"cope", "the cope", 237, 17},
	{"fire", "a drying fire", 417, 138},
	{"melt", "molten bronze", 521, 17},
	{"pour", "the pour", 514, 243},
	{"cool", "slow cooling", 526, 348},
	{"break", "the broken mould", 628, 138},
	{"lathe", "tuning on the lathe", 669, 453},
	{"hang", "the hanging", 803, 17},
	{"ring", "the first ring", 833, 138},
	{"founder", "the founder", 673, 622},
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

var castingKinds = map[string][]cm.ID{
	"start": {"order"}, "step": {"profile", "core", "false", "cope", "pour", "cool", "break", "lathe", "hang"}, "means": {"fire", "melt", "founder"}, "result": {"ring"},
}

var castingLasts = [][2]string{
	{"profile", "4 days"}, {"core", "10 days"}, {"false", "6 days"}, {"cope", "2 wk"}, {"pour", "20 min"}, {"cool", "1 wk"}, {"lathe", "6 days"},
}

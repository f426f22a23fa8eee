package demo

import (
	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// lesson is the plan of a lesson, made for a brief of which two lines are not met yet.
func lesson() Map {
	m := maker{Map: Map{ID: "loudness"}}
	m.do(&edit.NameMap{Title: "A lesson on loudness"}, &edit.Ask{Question: "Why is a bell quieter from further away?"}, &edit.SetRule{Rule: "label-sentence"})
	m.concepts(lessonConcepts)
	m.do(&edit.SetFocus{Concept: "loudness"})
	for _, l := range lessonLinks {
		m.link(l)
	}
	m.set("lesson", map[string][]cm.ID{
		"aim": {"explain", "measure", "compare"}, "activity": {"walk", "meter"}, "material": {"app", "rope", "handbell"}, "check": {"sketch"},
	})
	take := &edit.TakeBrief{ID: "lesson", Title: "A lesson plan", Before: []cm.Known{{Words: "what a wave is"}, {Words: "how to read a scale"}}}
	plan := brief.Starters["lesson"]
	take.Task = plan.Task
	for _, l := range plan.Lines {
		take.Lines = append(take.Lines, l.Demand)
	}
	one := 1
	take.Lines = append(take.Lines,
		cm.Demand{Says: "the words that the test asks for", Of: cm.CountRequired, Points: 2, Must: []cm.Must{{Concept: "loudness"}, {Concept: "distance", Or: []string{"how far away one stands"}}}},
		cm.Demand{Says: "a link between branches", Step: cm.StepStretch, Of: cm.CountCrossLinks, AtLeast: &one, Points: 1})
	m.do(take)
	m.do(&edit.Tidy{Pattern: cm.PatternLevels}, &edit.KeepTidy{On: true, Pattern: cm.PatternLevels})
	return m.Map
}

var lessonConcepts = []concept{
	{"loudness", "loudness", 0, 0},
	{"explain", "explain how loudness falls with distance", -300, 140},
	{"measure", "measure loudness with a meter", 0, 140},
	{"compare", "compare two bells by ear", 300, 140},
	{"walk", "walk away from a ringing handbell", -300, 280},
	{"meter", "read the meter every ten steps", 0, 280},
	{"handbell", "a handbell of the Hollin works", -420, 420},
	{"rope", "a rope with a knot at each ten steps", -180, 420},
	{"app", "a sound meter", 60, 420},
	{"sketch", "each draws the curve from memory", 0, 560},
	{"distance", "distance", 360, 420},
}

var lessonLinks = []link{
	{one("loudness"), "is understood by who can", []string{"explain", "measure", "compare"}},
	{one("explain"), "is reached by those who", one("walk")},
	{one("measure"), "is reached by those who", one("meter")},
	{one("walk"), "needs", []string{"handbell", "rope"}},
	{one("meter"), "needs", one("app")},
	{one("meter"), "is tried out when", one("sketch")},
	{one("distance"), "lowers", one("loudness")},
	{one("rope"), "marks the", one("distance")},
}

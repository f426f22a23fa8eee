package demo

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// firstTry is what a pupil of the Hollin school drew at first: a map with flaws of nearly every
// sort, to see what Check makes of them.
func firstTry() Map {
	m := maker{Map: Map{ID: "first-try"}}
	m.do(&edit.NameMap{Title: "A first try"}, &edit.Ask{Question: "What is a bell?"})
	m.concepts(firstConcepts)
	m.do(&edit.SetFocus{Concept: "bell"})
	for _, l := range firstLinks {
		m.link(l)
	}
	m.set("argument", map[string][]cm.ID{"claim": {"best"}})
	m.set("process", map[string][]cm.ID{"step": {"pour"}})
	claims := kindColour("argument", "claim")
	byKind := cm.ByKind
	m.do(&edit.SetLook{By: &byKind}, &edit.SetPaint{Concepts: []cm.ID{"rope"}, Fill: &claims})
	m.do(&edit.SetNote{On: on("rope"), Note: "Where the rope ends, the sound wave begins, said my brother."})
	m.route("first", "My walk", []stop{
		{[]string{"bell"}, "The bell", "This is the bell.", ""},
		{[]string{"rope"}, "", "", ""},
		{[]string{"moon"}, "The moon", "Bells are rung at night, too.", ""},
		{[]string{"gone"}, "A drum", "It is louder.", ""},
	})
	m.do(&edit.Remove{Concepts: []cm.ID{"gone"}}, &edit.PlaceKey{Folded: yes()})
	// The places are those of the pattern.
	m.do(&edit.Tidy{Pattern: cm.PatternLevels, Freely: true})
	return m.Map
}

var firstConcepts = []concept{
	{"bell", "the bell", 0, 0},
	{"metal", "copper and tin", 241, 266},
	{"bronze", "bronze", 364, 135},
	{"clapper", "the clapper", -178, 135},
	{"sound", "the sound", -136, 266},
	{"wave", "sound wave", -416, 407},
	{"waves", "waves of sound", -268, 407},
	{"loud", "loudness", -129, 407},
	{"loud2", "loudnes", -14, 407},
	{"pitch", "frequency", 104, 407},
	{"hertz", "440", 77, 538},
	{"far", "distance", -121, 538},
	{"rope", "the rope", 60, 257},
	{"ringer", "The ringer pulls the rope very hard every morning.", 277, 397},
	{"pupil", "pupils", -61, 135},
	{"student", "students", 47, 135},
	{"pour", "pouring", 386, 266},
	{"best", "our bell is the best", 208, 135},
	{"moon", "the moon", -423, 631},
	{"gone", "a drum", 640, 140},
}

var firstLinks = []link{
	{one("bell"), "has", one("clapper")},
	{one("bell"), "is a part of", one("bronze")},
	{one("bronze"), "is a part of", one("bell")},
	{one("bronze"), "mixture", one("metal")},
	{one("clapper"), "causes", one("sound")},
	{one("clapper"), "is caused by", one("sound")},
	{one("sound"), "is related to", one("wave")},
	{one("sound"), "moves in", one("waves")},
	{one("sound"), "important", one("loud")},
	{one("sound"), "", one("loud2")},
	{one("sound"), "is heard at a", one("pitch")},
	{one("pitch"), "is", one("hertz")},
	{one("far"), "weakens", one("loud")},
	{one("far"), "strengthens", one("loud")},
	{one("clapper"), "is swung by", one("rope")},
	{one("rope"), "is pulled when", one("ringer")},
	{one("bell"), "calls", one("pupil")},
	{one("bell"), "wakes", one("student")},
	{one("bronze"), "is used in", one("pour")},
	{one("bell"), "proves that", one("best")},
	{one("bell"), "reaches", one("wave")},
}

package demo

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// ringing is an argument: whether the school should ring its own bell again. Two
// of its parts are left without what they need, so that Check has something to
// say.
func ringing() Map {
	m := maker{Map: Map{ID: "ring-again"}}
	m.do(
		&edit.NameMap{Title: "Ring it again?"},
		&edit.Ask{Question: "Should the Hollin school ring its own bell again?"},
	)
	m.concepts(ringingConcepts)
	m.do(&edit.SetFocus{Concept: "ring"})
	for _, l := range ringingLinks {
		m.link(l)
	}
	m.set("argument", ringingKinds)
	for part, phrases := range ringingSorts {
		var ids []cm.ID
		for i, l := range ringingLinks {
			for _, p := range phrases {
				if l.phrase == p {
					ids = append(ids, linkID(i+1))
				}
			}
		}
		m.do(&edit.AssignKind{Links: ids, Kind: m.kind("argument", part)})
	}
	m.do(&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "logbook"}, Note: "The caretaker's book of 2024, pages 3 to 9: lessons began *four minutes* later on average in the weeks without the bell."})
	straw := cm.Colour("straw")
	m.do(&edit.SetNoteCard{On: on("logbook"), Colour: &straw})
	m.talked(ringingTalk)
	return m.Map
}

var ringingConcepts = []concept{
	{"ring", "The school should ring its own bell again", 0, 0},
	{"time", "Everybody would know when lessons begin", -420, 190},
	{"belong", "A bell of one's own makes a school a place", 0, 190},
	{"teach", "One can learn from it how sound is made", 400, 190},
	{"logbook", "Lessons began later in the weeks without it", -520, 370},
	{"clocks", "Not every room has a clock that is right", -250, 370},
	{"survey", "41 of 52 former pupils remember its tone first", 60, 370},
	{"visits", "Six classes came to the bell works last year", 420, 370},
	{"noise", "It would disturb the street", -150, -170},
	{"pad", "With the leather pad it is as loud as talk at 30 metres", -330, -330},
	{"phones", "Everybody has a phone that tells the time", 280, -170},
	{"crack", "Is the old bell still sound?", 560, 10},
}

var ringingLinks = []link{
	{one("ring"), "since", one("time")},
	{one("ring"), "because", one("belong")},
	{one("ring"), "and also since", one("teach")},
	{one("time"), "is shown by", one("logbook")},
	{one("time"), "takes for granted that", one("clocks")},
	{one("belong"), "is borne out by", one("survey")},
	{one("teach"), "can be seen from", one("visits")},
	{one("noise"), "speaks against", one("ring")},
	{one("noise"), "is answered by", one("pad")},
	{one("phones"), "makes less needed", one("ring")},
	{one("ring"), "raises the question", one("crack")},
}

var ringingKinds = map[string][]cm.ID{
	"claim": {"ring"}, "reason": {"time", "belong", "teach"}, "evidence": {"logbook", "survey", "visits", "pad"}, "assumption": {"clocks"},
	"counter": {"noise", "phones"}, "question": {"crack"},
}

// ringingSorts are the phrases of each kind of links.
var ringingSorts = map[string][]string{
	"for":      {"since", "because", "and also since", "is shown by", "is borne out by", "can be seen from"},
	"against":  {"speaks against", "is answered by", "makes less needed"},
	"presumes": {"takes for granted that"},
}

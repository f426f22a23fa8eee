package demo

import (
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// saying is what one person says of a map: a comment, an answer or a vote.
type saying struct {
	who string
	op  edit.Operation
}

// talked lets people say what they have to say, some minutes after one another.
func (m *maker) talked(all []saying) {
	at := time.Date(2026, 11, 19, 9, 10, 0, 0, time.UTC)
	for i, s := range all {
		ops := []edit.Operation{s.op}
		edit.Sign(ops, edit.Speaker{ID: cm.ID("demo-" + s.who), At: at.Add(time.Duration(7*i) * time.Minute).Format(cm.MomentForm)})
		m.do(ops...)
	}
}

func yes() *bool { t := true; return &t }
func no() *bool  { return new(bool) }

// ringingTalk is what a class says of the argument.
var ringingTalk = []saying{
	{"mara", &edit.Vote{Concept: "belong", For: yes()}}, {"jory", &edit.Vote{Concept: "belong", For: yes()}}, {"ines", &edit.Vote{Concept: "belong", For: yes()}}, {"tam", &edit.Vote{Concept: "belong", For: no()}},
	{"mara", &edit.Vote{Concept: "phones", For: no()}}, {"jory", &edit.Vote{Concept: "phones", For: yes()}}, {"ines", &edit.Vote{Concept: "phones", For: no()}},
	{"mara", &edit.Vote{Concept: "ring", For: yes()}}, {"tam", &edit.Vote{Concept: "ring", For: yes()}},
	{"jory", &edit.AddComment{ID: "talk-phones", On: on("phones"), Name: "Jory", Words: "Nobody has one in class, so who answers this?"}},
	{"mara", &edit.AddComment{ID: "talk-phones-2", Answers: "talk-phones", Name: "Mara", Words: "Let us put that below it as evidence."}},
	{"ines", &edit.AddComment{ID: "talk-survey", On: on("survey"), Name: "Ines", Words: "Who asked them, and how?"}},
	{"tam", &edit.AddComment{ID: "talk-map", On: cm.Key{Kind: cm.EntityMap, ID: "ring-again"}, Name: "Tam", Words: "Does the street know that we are asking this?"}},
}

// castingTasks say who does what on the way to a bell.
var castingTasks = []edit.SetTask{
	{Concept: "order", What: words("write down pitch and weight"), Who: words("Jory"), Lasts: words("1 h"), Done: yes()},
	{Concept: "cope", Who: words("Mara"), Lasts: words("3 days")},
	{Concept: "pour", What: words("stand by with dry sand"), Who: words("Tam")},
	{Concept: "lathe", What: words("take down all five tones"), Who: words("Mara"), When: words("56/58"), Lasts: words("4 h")},
}

func words(w string) *string { return &w }

package demo

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// People are the made-up people of the demo: a teacher whose maps they are, a colleague, two learners.
var People = []people.Person{
	{ID: people.FirstOwner, Name: "Ines Hallam", Mail: "ines.hallam@hollin.example", Role: people.RoleOwner},
	{ID: "jory", Name: "Jory Pell", Mail: "jory.pell@hollin.example", Role: people.RoleAuthor},
	{ID: "wren", Name: "Wren Abbott", Mail: "wren.abbott@hollin.example", Role: people.RoleLearner},
	{ID: "tamsin", Name: "Tamsin Rook", Mail: "tamsin.rook@hollin.example", Role: people.RoleLearner},
}

// Shares says with whom the maps of the demo are shared.
var Shares = []struct {
	Map    cm.ID
	Person string
	Allows people.Right
}{
	{"bell-sound", "jory", people.RightEdit}, {"ring-again", "jory", people.RightComment},
	{"bell-sound", "wren", people.RightLook}, {"bell-sound", "tamsin", people.RightLook},
}

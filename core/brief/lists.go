package brief

import (
	_ "embed"
	"encoding/json"
)

//go:embed lists.json
var listed []byte

// List is a list of words to begin with, with where it comes from.
type List struct {
	Title  string   `json:"title"`
	Source string   `json:"source"`
	Words  []string `json:"words"`
}

// Lists are those that ship, by their names.
var Lists = func() map[string]*List {
	var all map[string]*List
	if err := json.Unmarshal(listed, &all); err != nil {
		panic("brief: " + err.Error()) // part of the program
	}
	return all
}()

// ListNames are the names of Lists, in the order in which they are offered.
var ListNames = []string{"aims-remember", "aims-understand", "aims-apply", "aims-analyse", "aims-evaluate", "aims-create"}

// StarterNames are the names of Starters, in the order in which they are offered.
var StarterNames = []string{"first-map", "argument", "process", "lesson", "revision"}

//go:embed starters.json
var starting []byte

// Starters are briefs to begin with, by their names.
var Starters = func() map[string]*Brief {
	var raw map[string]json.RawMessage
	err := json.Unmarshal(starting, &raw)
	all := map[string]*Brief{}
	for name, one := range raw {
		if err == nil {
			all[name], err = Read(one)
		}
	}
	if err != nil {
		panic("brief: " + err.Error()) // part of the program
	}
	return all
}()

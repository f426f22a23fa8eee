// Package kinds holds sets of kinds to begin a key with. They are data
// (sets.json), each with the reason why one would sort ideas that way.
package kinds

import (
	_ "embed"
	"encoding/json"
	"strings"

	cm "mevrin/core/conceptmap"
)

//go:embed sets.json
var sets []byte

// Set is a key to begin with.
type Set struct {
	ID    string  `json:"id"`
	Title string  `json:"title"`
	Why   string  `json:"why"`
	Kinds []Start `json:"kinds"`
}

// Start is a kind of a set.
type Start struct {
	Names   map[cm.Lang]string `json:"name"`
	Colour  cm.Colour          `json:"colour"`
	Outline cm.Outline         `json:"outline"`
}

// Name gives what the kind is called in a language, or else in English.
func (s Start) Name(lang cm.Lang) string {
	primary, _, _ := strings.Cut(string(lang), "-")
	if name := s.Names[cm.Lang(primary)]; name != "" {
		return name
	}
	return s.Names["en"]
}

// Shipped are the sets, in the order in which they are offered.
var Shipped = func() []Set {
	var all []Set
	if err := json.Unmarshal(sets, &all); err != nil {
		panic("kinds: " + err.Error())
	}
	return all
}()

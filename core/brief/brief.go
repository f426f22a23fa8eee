// Package brief holds lists of requirements that a map must meet, and counts how far it meets
// them. A brief is data; docs/briefs.md describes its form.
package brief

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
)

// Brief is a list of requirements.
type Brief struct {
	Version int    `json:"brief"` // 1
	Title   string `json:"title,omitempty"`
	Task    string `json:"task,omitempty"` // what is to be done, in words
	// Before is what learners should know before, with where it can be learnt.
	Before []Known `json:"before,omitempty"`
	Lines  []Line  `json:"lines"`
}

// Known is something that learners should know before.
type Known struct {
	Words   string `json:"words"`
	Address string `json:"address,omitempty"`
}

// Line is one requirement: how many of what, where, with what words.
type Line struct {
	ID     string `json:"id"`
	Says   string `json:"says,omitempty"` // in its author's words
	Step   Step   `json:"step,omitempty"`
	Points int    `json:"points,omitempty"` // for meeting it
	// AtLeast and AtMost bound the count; exactly is both alike. Neither means at least one.
	AtLeast *int `json:"atLeast,omitempty"`
	AtMost  *int `json:"atMost,omitempty"`
	Of      What `json:"of"`
	// What narrows what is counted.
	Kind   string `json:"kind,omitempty"`   // by the name of the kind
	Tag    string `json:"tag,omitempty"`    // by the name of the tag
	Region string `json:"region,omitempty"` // by the title of the region
	Level  int    `json:"level,omitempty"`  // on it; of branches: that reach down to it
	Source string `json:"source,omitempty"` // web, picture, sound, video, file or cite
	Where  *Where `json:"where,omitempty"`  // the whole map where absent
	Words  *Words `json:"words,omitempty"`
	// Must are concepts or propositions that have to be there; each is counted once.
	Must []Must `json:"must,omitempty"`
}

// Step is how demanding a line is.
type Step string

// The steps, from what all should reach. Empty is first.
const (
	First   Step = "first"
	Further Step = "further"
	Stretch Step = "stretch"
)

// What is counted.
type What string

// All that can be counted.
const (
	Concepts     What = "concepts"
	Links        What = "links"
	Propositions What = "propositions"
	CrossLinks   What = "cross-links"
	Levels       What = "levels"
	Branches     What = "branches"
	Sources      What = "sources"
	Notes        What = "notes"
	Pictures     What = "pictures"
	Stops        What = "stops"
	Held         What = "judged-to-hold" // propositions
	Required     What = "required"       // what Must names
)

// Whats lists them.
var Whats = []What{Concepts, Links, Propositions, CrossLinks, Levels, Branches, Sources, Notes, Pictures, Stops, Held, Required}

// Where is the part of the map in which a line counts.
type Where struct {
	Branch string `json:"branch,omitempty"` // below a concept, by its label, with it
	// Under counts apart below every concept of a kind, and below each there must be as many.
	Under string `json:"under,omitempty"`
}

// Words are those that what is counted must hold.
type Words struct {
	Contains []string `json:"contains,omitempty"` // one of them, anywhere
	Begins   []string `json:"begins,omitempty"`   // one of them, at the front
	List     string   `json:"list,omitempty"`     // one of a list that ships, at the front
}

// Must is a concept, or a proposition if it has a phrase.
type Must struct {
	Concept string   `json:"concept"`
	Or      []string `json:"or,omitempty"` // other wordings of the concept
	Phrase  string   `json:"phrase,omitempty"`
	To      string   `json:"to,omitempty"` // the object of the proposition
}

// Least and Most give the bounds of a line; Most is -1 where there is none.
func (l Line) bounds() (least, most int) {
	least, most = 0, -1
	if l.AtLeast != nil {
		least = *l.AtLeast
	}
	if l.AtMost != nil {
		most = *l.AtMost
	}
	if l.AtLeast == nil && l.AtMost == nil {
		if least = 1; l.Of == Required {
			least = len(l.Must)
		}
	}
	return least, most
}

// What one brief may hold.
const (
	maxLines = 200
	maxWords = 500
	maxText  = 4000
	maxCount = 100_000
)

// Read reads a brief. Errors say in plain words what is wrong, and where.
func Read(raw []byte) (*Brief, error) {
	from := json.NewDecoder(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))))
	from.DisallowUnknownFields()
	var b Brief
	if err := from.Decode(&b); err != nil {
		return nil, fmt.Errorf("this is no sound brief: %w", plainly(err))
	}
	if from.More() {
		return nil, errors.New("this is no sound brief: something stands behind it")
	}
	if err := b.sound(); err != nil {
		return nil, fmt.Errorf("this is no sound brief: %w", err)
	}
	return &b, nil
}

// plainly says what a decoder found in words without the names of Go's types.
func plainly(err error) error {
	var wrong *json.UnmarshalTypeError
	var broken *json.SyntaxError
	switch {
	case errors.As(err, &wrong):
		return fmt.Errorf("“%s” does not hold what belongs there", wrong.Field)
	case errors.As(err, &broken):
		return fmt.Errorf("it is not JSON from byte %d on", broken.Offset)
	case strings.Contains(err.Error(), "unknown field"):
		return fmt.Errorf("it has a member that no brief has: %s", strings.TrimPrefix(err.Error(), "json: unknown field "))
	}
	return errors.New("it is not JSON")
}

func (b *Brief) sound() error {
	if b.Version != 1 {
		return errors.New("“brief” must be 1, or it is of a newer version")
	}
	if len(b.Lines) > maxLines {
		return fmt.Errorf("it has more than %d lines", maxLines)
	}
	if len(b.Title)+len(b.Task) > 2*maxText {
		return errors.New("its title and task are too long")
	}
	seen := map[string]bool{}
	for i, l := range b.Lines {
		if err := l.sound(); err != nil {
			return fmt.Errorf("line %d: %w", i+1, err)
		}
		if seen[l.ID] {
			return fmt.Errorf("line %d: its id “%s” is taken", i+1, l.ID)
		}
		seen[l.ID] = true
	}
	return nil
}

func (l Line) sound() error {
	least, most := l.bounds()
	switch {
	case !cm.ID(l.ID).Valid():
		return errors.New("it needs an id of letters, digits, hyphens and underscores")
	case !slices.Contains(Whats, l.Of):
		return fmt.Errorf("“%s” cannot be counted", l.Of)
	case l.Step != "" && !slices.Contains([]Step{First, Further, Stretch}, l.Step):
		return fmt.Errorf("“%s” is no step; steps are first, further, stretch", l.Step)
	case least < 0 || most < -1 || most >= 0 && most < least || least > maxCount:
		return errors.New("its bounds leave no number")
	case l.Level < 0 || l.Points < 0 || l.Points > maxCount:
		return errors.New("a level or its points are out of range")
	case (l.Of == Required) != (len(l.Must) > 0):
		return errors.New("what is required is named in “must”, and there alone")
	case len(l.Must) > maxWords:
		return fmt.Errorf("it requires more than %d things", maxWords)
	case l.Source != "" && !slices.Contains(cm.SourceKinds, cm.SourceKind(l.Source)):
		return fmt.Errorf("“%s” is no sort of source", l.Source)
	case l.Where != nil && (l.Where.Branch == "") == (l.Where.Under == ""):
		return errors.New("“where” names a branch or a kind, one of them")
	case len(l.Says) > maxText:
		return errors.New("its words are too long")
	}
	if w := l.Words; w != nil {
		if w.List != "" && Lists[w.List] == nil {
			return fmt.Errorf("there is no list “%s”", w.List)
		}
		if len(w.Contains)+len(w.Begins) > maxWords {
			return fmt.Errorf("it has more than %d words", maxWords)
		}
		if w.List == "" && len(w.Contains)+len(w.Begins) == 0 {
			return errors.New("“words” names none")
		}
	}
	for _, m := range l.Must {
		if m.Concept == "" || (m.Phrase == "") != (m.To == "") {
			return errors.New("what must be there is a concept, or a concept with “phrase” and “to”")
		}
	}
	return nil
}

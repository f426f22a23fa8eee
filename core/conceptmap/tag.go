package conceptmap

import (
	"slices"
	"strings"
)

// Filter is a choice among the concepts of a map, kept under a name.
type Filter struct {
	ID         ID          `json:"id"`
	Name       Text        `json:"name,omitempty" mevrin:"limit=name"`
	Match      Match       `json:"match"`
	Conditions []Condition `json:"conditions,omitempty" mevrin:"limit=conditions"`
	// Hide says that the rest is hidden; otherwise it fades.
	Hide bool   `json:"hide,omitempty"`
	Rank string `json:"rank" mevrin:"form=rank"` // orders the filters (see KeyBetween)
}

// Match says how the conditions of a filter go together.
type Match string

// The ways in which conditions go together.
const (
	MatchAll Match = "all" // each of them holds
	MatchAny Match = "any" // at least one does
)

// About says what a term speaks of.
type About string

// What a condition can speak of.
const (
	AboutKind   About = "kind"   // its value is the id of a kind, or empty for none
	AboutTag    About = "tag"    // the id of a tag, or empty for none
	AboutRegion About = "region" // the id of a region, or empty for none
	AboutBranch About = "branch" // the id of a concept: it and what hangs from it
	AboutLevel  About = "level"  // a level as a number
	AboutWords  About = "words"  // letters of its label, remark or note
	AboutHas    About = "has"    // one of Has
)

// Has is what a condition can ask a concept to have. A task that is open is not
// done yet, a comment is one of a thread that is not settled; a verdict is that on a proposition
// of the concept, by what was settled or by the map's own people.
var Has = []string{"note", "remark", "source", "time", "task", "open-task", "comment", "vote", "holds", "in-part", "does-not-hold", "not-sure", "not-judged"}

// Condition is one thing that a concept can be asked for; Not asks for the contrary.
type Condition struct {
	About About  `json:"about"`
	Value string `json:"value,omitempty"`
	Not   bool   `json:"not,omitempty"`
}

// The bounds of filters.
const (
	MaxFilters    = 60
	MaxConditions = 40
	MaxValue      = 200
)

// Sound tells whether the filter is one that can be asked.
func (f *Filter) Sound() error {
	if f.Match != MatchAll && f.Match != MatchAny {
		return Refusef("A filter asks for all of its conditions, or for any of them.")
	}
	if len(f.Conditions) > MaxConditions {
		return Refusef("A filter can have at most %d conditions.", MaxConditions)
	}
	for _, t := range f.Conditions {
		sound := false
		switch t.About {
		case AboutKind, AboutTag, AboutRegion:
			sound = t.Value == "" || ID(t.Value).Valid()
		case AboutBranch:
			sound = ID(t.Value).Valid()
		case AboutLevel:
			sound = len(t.Value) > 0 && len(t.Value) <= 4 && strings.Trim(t.Value, "0123456789") == ""
		case AboutWords:
			clean, err := Clean(t.Value, MaxValue, "The words of a filter")
			sound = err == nil && clean == t.Value && clean != ""
		case AboutHas:
			sound = slices.Contains(Has, t.Value)
		}
		if !sound {
			return Refusef("This filter asks for something that cannot be asked.")
		}
	}
	return nil
}

// FilterList gives all filters in their order.
func (m *Map) FilterList() []*Filter {
	all := InOrder(m.Filters)
	slices.SortStableFunc(all, func(a, b *Filter) int { return strings.Compare(a.Rank, b.Rank) })
	return all
}

// Tag is a word by which concepts are found and filtered. A concept may carry
// any number.
type Tag struct {
	ID     ID     `json:"id"`
	Name   Text   `json:"name,omitempty" mevrin:"limit=name"`
	Colour Colour `json:"colour,omitempty"`
	Rank   string `json:"rank" mevrin:"form=rank"` // orders the tags (see KeyBetween)
}

// MaxTags bounds the tags of a map.
const MaxTags = 200

// TagList gives all tags in their order.
func (m *Map) TagList() []*Tag {
	all := InOrder(m.Tags)
	slices.SortStableFunc(all, func(a, b *Tag) int { return strings.Compare(a.Rank, b.Rank) })
	return all
}

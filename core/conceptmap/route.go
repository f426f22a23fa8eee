package conceptmap

import "slices"

// Route is a way through the map that somebody chose.
type Route struct {
	ID    ID   `json:"id"`
	Title Text `json:"title,omitempty" mevrin:"limit=title"`
	// Purpose is what the route is for, Audience for whom.
	Purpose  Text   `json:"purpose,omitempty" mevrin:"limit=note"`
	Audience string `json:"audience,omitempty" mevrin:"limit=title"`
	// Minutes is how long it is planned to take; 0 where nobody said.
	Minutes int `json:"minutes,omitempty"`
	// Language is the one in which it is written and walked; empty for that of whoever walks it,
	// as far as the map has words in it.
	Language Lang `json:"language,omitempty"`
	// Together tells that a walk closes up what lies empty between the things that the route shows.
	Together bool `json:"together,omitempty"`
	// Around tells that whoever walks may look around the whole map.
	Around bool `json:"around,omitempty"`
}

// Told gives a text as a route tells it: in the language of the route, else in that of the map.
func (m *Map) Told(route ID, t Text) string {
	if r := m.Routes[route]; r != nil && r.Language != "" {
		return t.For(r.Language, m.Language)
	}
	return m.Words(t)
}

// MaxMinutes bounds how long a route or a stop is planned to take.
const MaxMinutes = 10_000

// Sound tells what is wrong with a route as a whole.
func (r *Route) Sound() error {
	if r.Minutes < 0 || r.Minutes > MaxMinutes {
		return Refusef("Minutes are a number from 0 to %d.", MaxMinutes)
	}
	if r.Language != "" && !r.Language.Valid() {
		return Refusef("That is not the name of a language.")
	}
	return nil
}

// Stop is one step of a route. It outlives what it shows: deleting a concept
// or a link leaves its stops standing, with the words that were last seen.
type Stop struct {
	ID    ID     `json:"id"`
	Route ID     `json:"route" mevrin:"needs=route"`
	Rank  string `json:"rank" mevrin:"form=rank"` // orders the stops of a route (see KeyBetween)
	Title Text   `json:"title,omitempty" mevrin:"limit=title"`
	Card  Text   `json:"card,omitempty" mevrin:"limit=note"` // what the learner reads, Markdown
	// FromMap tells that a card on which nothing is written reads what the map says: the notes of
	// what the stop shows, and the sentences that it brings.
	FromMap bool `json:"fromMap,omitempty"`
	// Question is asked on the card, Answer is what can be uncovered below it, Markdown.
	Question Text `json:"question,omitempty" mevrin:"limit=question"`
	Answer   Text `json:"answer,omitempty" mevrin:"limit=note"`
	// Sources are the card's own pictures, sounds, films and links, by their ids; those of what the
	// stop shows come with it.
	Sources    map[ID]Source `json:"sources,omitempty" mevrin:"limit=sources"`
	GuideNotes Text          `json:"guideNotes,omitempty" mevrin:"limit=note"` // for the one who guides, never for the room
	Minutes    int           `json:"minutes,omitempty"`                        // that it is planned to take; 0 where nobody said
	Refs       []Ref         `json:"refs,omitempty" mevrin:"limit=refs"`
	// Layout is how the card and the map share the screen.
	Layout Layout `json:"layout,omitempty"`
	// Distance is how close the view goes.
	Distance Distance `json:"distance,omitempty"`
	// Fades tells that all else that stands fades beside what the stop shows.
	Fades bool `json:"fades,omitempty"`
	// OneByOne tells that what the stop brings comes one thing after the other where a room is led.
	OneByOne bool `json:"oneByOne,omitempty"`
	// Branches tells that all that hangs from the concepts it shows belongs to them.
	Branches bool `json:"branches,omitempty"`
	// Skipped tells that the stop is left out for now: it is on the list, and on no walk.
	Skipped bool `json:"skipped,omitempty"`
	// Opens is the title of the part of the route that begins with this stop.
	Opens Text `json:"opens,omitempty" mevrin:"limit=title"`
	// Choices are where whoever walks can go on from here, Then is where they go on without being
	// asked; without either it is the next stop on the list. A stop that is named and gone, or left
	// out, counts as not named.
	Choices []Choice `json:"choices,omitempty" mevrin:"limit=choices"`
	Then    ID       `json:"then,omitempty"`
	// Took is how many seconds the stop took when it was rehearsed last; 0 where it was not.
	Took int `json:"took,omitempty"`
	// Mends are what was found wanting at a rehearsal.
	Mends map[ID]Mend `json:"mends,omitempty" mevrin:"limit=mends"`
}

// Layout is how the card of a stop and the map share the screen.
type Layout string

// The layouts.
const (
	LayoutBoth    Layout = ""        // the map, the card beside it
	LayoutPicture Layout = "picture" // the card large, its pictures over all of it
	LayoutText    Layout = "text"    // the card alone
	LayoutMap     Layout = "map"     // the map alone
)

// Layouts lists them.
var Layouts = []Layout{LayoutBoth, LayoutPicture, LayoutText, LayoutMap}

// Valid tells whether a layout is one.
func (l Layout) Valid() bool { return slices.Contains(Layouts, l) }

// Distance is how close the view goes at a stop.
type Distance string

// The distances.
const (
	DistanceFit   Distance = ""      // what the stop shows and what it brings
	DistanceClose Distance = "close" // what the stop shows, large
	DistanceAll   Distance = "all"   // all that stands so far
)

// Distances lists them.
var Distances = []Distance{DistanceFit, DistanceClose, DistanceAll}

// Valid tells whether a distance is one.
func (d Distance) Valid() bool { return slices.Contains(Distances, d) }

// Choice is one way on from a stop.
type Choice struct {
	ID    ID   `json:"id"` // among those of its stop
	Words Text `json:"words,omitempty" mevrin:"limit=title"`
	To    ID   `json:"to"`
}

// MaxChoices bounds the ways on from a stop.
const MaxChoices = 12

// Mend is something that is to be mended, found while a route was rehearsed.
type Mend struct {
	Words string `json:"words,omitempty" mevrin:"limit=remark"`
	Done  bool   `json:"done,omitempty"`
}

// MaxMends bounds what is to be mended at one stop, MaxTook the seconds that a stop can take.
const (
	MaxMends = 100
	MaxTook  = MaxMinutes * 60
)

// Ref points from a stop to what it shows (the map as a whole goes by no id), or from a comment to what it is about,
// which may be gone. Seen holds the words that stood there when last recorded: at the
// making of the reference and when its target vanished.
type Ref struct {
	Kind Entity `json:"kind"`
	ID   ID     `json:"id"`
	Seen Text   `json:"seen,omitempty" mevrin:"limit=label"`
}

// WalkedStops gives the stops of a route that are not left out, in their order.
func (m *Map) WalkedStops(route ID) []*Stop {
	return slices.DeleteFunc(m.StopsOf(route), func(s *Stop) bool { return s.Skipped })
}

// StopsOf gives the stops of a route in their order.
func (m *Map) StopsOf(route ID) []*Stop {
	var all []*Stop
	for _, id := range SortedIDs(m.Stops) {
		if s := m.Stops[id]; s.Route == route {
			all = append(all, s)
		}
	}
	slices.SortStableFunc(all, func(a, b *Stop) int {
		switch {
		case a.Rank < b.Rank:
			return -1
		case a.Rank > b.Rank:
			return 1
		}
		return 0
	})
	return all
}

// MaxRefs bounds what one stop can show.
const MaxRefs = 500

// Sound tells what is wrong with a stop as a whole. What it shows may be gone.
func (s *Stop) Sound() error {
	if s.Minutes < 0 || s.Minutes > MaxMinutes {
		return Refusef("Minutes are a number from 0 to %d.", MaxMinutes)
	}
	seen := map[ID]bool{}
	for _, c := range s.Choices {
		if !c.ID.Valid() || !c.To.Valid() || seen[c.ID] {
			return Refusef("A choice has a name of its own, and leads to a stop.")
		}
		seen[c.ID] = true
	}
	if len(s.Choices) > MaxChoices || s.Then != "" && !s.Then.Valid() {
		return Refusef("A stop leads on to at most %d others.", MaxChoices)
	}
	if !s.Layout.Valid() {
		return Refusef("A card cannot be laid out so.")
	}
	if !s.Distance.Valid() {
		return Refusef("A view cannot go that close.")
	}
	if s.Took < 0 || s.Took > MaxTook {
		return Refusef("A stop takes from 0 to %d seconds.", MaxTook)
	}
	for _, ref := range s.Refs {
		whole := ref.Kind == EntityMap && ref.ID == ""
		if !whole && (!ref.ID.Valid() || ref.Kind != EntityConcept && ref.Kind != EntityLink && ref.Kind != EntityRegion) {
			return Refusef("A stop shows concepts, links, regions, or the whole map.")
		}
	}
	return nil
}

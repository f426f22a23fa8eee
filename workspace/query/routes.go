package query

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/markdown"
	"mevrin/workspace"
)

// Guide is what the margin offers for routes.
type Guide struct {
	Routes []routeRow
	Route  cm.ID // the one that is open
	Title  string
	Stops  []stopRow
	// Purpose, Audience and Minutes are what is planned; Sum is what the stops take together.
	Purpose, Audience string
	Minutes, Sum      int
	Language          cm.Lang
	Languages         []languageView
	Together, Around  bool
	Shape             string // how the route runs beside its list (see guide.Shape), for the page
	Open              *stopCard
	Links             []Link
	// Took is how many seconds the stops took together at a rehearsal; 0 where there was none.
	Took  int
	Mends []mendRow // what is to be mended, over all stops
	// Fill are the operations that fill the empty cards from the map, Empty how many that are.
	Fill    string
	Empty   int
	Regions []Choice // that can become stops
	// Branch is the selected concept if something hangs from it.
	Branch cm.ID
}

// mendRow is something that is to be mended at a stop.
type mendRow struct {
	Stop, ID cm.ID
	At       string // what the stop is called
	Words    string
	Done     bool
}

// gapRow is a jump before a stop, with what would bridge it.
type gapRow struct {
	Over  string // words of the concepts that lie between
	Steps string // the operations that put a stop of them in
	Links string // elements of the links that lead there
}

type routeRow struct {
	ID   cm.ID
	Name string
}

type stopRow struct {
	ID       cm.ID
	Number   int
	Name     string
	Elements string // what it shows, on the paper
	Open     bool
	Opens    string // the title of the part that begins here
	Skipped  bool
	Minutes  int
	Took     int
	Mends    int // that are not done
	Gap      *gapRow
	Ways     []wayRow // where it goes on, if not to the next
	Excerpt  string   // how its card begins
	Picture  string   // of the first picture that lies on it, its address below that of the map
	Asks     bool     // it asks a question
}

// wayRow is a way on from a stop, as its author sees it.
type wayRow struct {
	ID     cm.ID // of a choice; empty where nobody is asked
	Words  string
	To     cm.ID
	Number int // of the stop to which it leads
	Name   string
}

type stopCard struct {
	ID                      cm.ID
	Number, Minutes, Took   int
	Title, Card, GuideNotes string
	Opens                   string
	Question, Answer        string
	// Named is what it is called as long as it has no title, Says what the map says for its card;
	// Follows tells that the card reads so.
	Named, Says       string
	Follows           bool
	Pictures, Sounds  int          // that come from the map
	Sources           []sourceView // of its own
	Distance          cm.Distance
	Distances         []Choice
	OneByOne, Skipped bool
	Fades             bool
	Layout            cm.Layout
	Layouts           []Choice
	Then              cm.ID
	Choices           []wayRow
	Others            []wayRow // all other stops of the route
	Branches          bool
	Refs              []shownRef
	// WithNotes is the card with the notes of what it shows, where there are some
	// that are not in it.
	WithNotes string
}

type shownRef struct {
	Element, Words string
	Gone, Verb     bool
}

type Link struct{ ID, Token, Since string }

// guideOf gathers the routes of a map, with one route and one stop open: those
// asked for, else the first route and no stop.
func (s Reading) guideOf(route, stop cm.ID) Guide {
	var v Guide
	for _, id := range cm.SortedIDs(s.Map.Routes) {
		name := s.Map.Words(s.Map.Routes[id].Title)
		if name == "" {
			name = s.t("A route without a title")
		}
		v.Routes = append(v.Routes, routeRow{id, name})
	}
	if len(v.Routes) == 0 {
		return v
	}
	if at := s.Map.Stops[stop]; at != nil && route == "" {
		route = at.Route
	}
	if v.Route = route; s.Map.Routes[route] == nil {
		v.Route = v.Routes[0].ID
	}
	r := s.Map.Routes[v.Route]
	s.Lang = r.Language
	v.Title, v.Purpose, v.Audience, v.Minutes = s.words(r.Title), s.words(r.Purpose), r.Audience, r.Minutes
	v.Language, v.Languages, v.Together, v.Around = r.Language, languageViews(r.Language), r.Together, r.Around
	v.Shape = shapeOf(s.Map, v.Route)
	said, brings := guide.Said(s.Map, s.Structure, v.Route, s.words), s.brought(v.Route)
	number := 0
	for _, st := range s.Map.StopsOf(v.Route) {
		row := stopRow{ID: st.ID, Name: guide.Name(s.Map, st), Open: st.ID == stop, Opens: s.words(st.Opens), Skipped: st.Skipped, Minutes: st.Minutes, Took: st.Took, Asks: !st.Question.Empty()}
		card := s.words(st.Card)
		if guide.FollowsMap(st) {
			card = said[st.ID]
		}
		row.Excerpt = cm.Shortened(strings.Join(strings.Fields(markdown.Plain(card)), " "), excerptLength)
		if of := brings[st.ID]; len(of.Pictures) > 0 {
			row.Picture = of.Pictures[0].Href
		}
		if !st.Skipped {
			number++
			row.Number = number
			v.Sum += st.Minutes
			v.Took += st.Took
		}
		for _, id := range cm.SortedIDs(st.Mends) {
			mend := st.Mends[id]
			v.Mends = append(v.Mends, mendRow{st.ID, id, row.Name, mend.Words, mend.Done})
			if !mend.Done {
				row.Mends++
			}
		}
		var on []string
		for _, ref := range st.Refs {
			key := cm.Key{Kind: ref.Kind, ID: ref.ID}
			if s.has(key) {
				on = append(on, workspace.Element(key))
			}
		}
		row.Elements = strings.Join(on, " ")
		if row.Open {
			v.Open = s.cardOf(st, row.Number)
			v.Open.Says, v.Open.Follows = said[st.ID], guide.FollowsMap(st)
			v.Open.Pictures, v.Open.Sounds = fromMap(brings[st.ID].Pictures), fromMap(brings[st.ID].Sounds)
			v.Open.Sources = sourceViews(st.Sources, cm.Key{Kind: cm.EntityStop, ID: st.ID})
		}
		for _, c := range st.Choices {
			row.Ways = append(row.Ways, wayRow{ID: c.ID, Words: s.words(c.Words), To: c.To})
		}
		if len(st.Choices) == 0 && st.Then != "" {
			row.Ways = []wayRow{{To: st.Then}}
		}
		v.Stops = append(v.Stops, row)
	}
	v.lead()
	return v
}

// lead says of the ways on where they lead, once all stops are numbered.
func (v *Guide) lead() {
	at := map[cm.ID]stopRow{}
	for _, row := range v.Stops {
		at[row.ID] = row
	}
	known := func(w wayRow) wayRow {
		w.Number, w.Name = at[w.To].Number, at[w.To].Name
		return w
	}
	for i := range v.Stops {
		for j, w := range v.Stops[i].Ways {
			v.Stops[i].Ways[j] = known(w)
		}
		if row := v.Stops[i]; row.Open && v.Open != nil {
			for _, w := range row.Ways {
				if w.ID != "" {
					v.Open.Choices = append(v.Open.Choices, w)
				}
			}
		}
	}
	if v.Open == nil {
		return
	}
	for _, row := range v.Stops {
		if row.ID != v.Open.ID {
			v.Open.Others = append(v.Open.Others, wayRow{To: row.ID, Number: row.Number, Name: row.Name})
		}
	}
}

// offer adds what only the margin shows: jumps, what empty cards could say, and what can become
// stops beside what is selected.
func (v *Guide) offer(s Reading, chosen *cm.Concept) {
	for _, id := range cm.SortedIDs(s.Map.Regions) {
		v.Regions = append(v.Regions, Choice{string(id), s.Map.Words(s.Map.Regions[id].Title), ""})
	}
	for _, gap := range guide.Gaps(s.Map, s.Structure, v.Route) {
		if i := slices.IndexFunc(v.Stops, func(row stopRow) bool { return row.ID == gap.Stop }); i >= 0 {
			v.Stops[i].Gap = s.gapRow(v.Route, gap)
		}
	}
	var fill []edit.Operation
	said, yes := guide.Said(s.Map, s.Structure, v.Route, s.words), true
	for _, id := range cm.SortedIDs(said) {
		if stop := s.Map.Stops[id]; stop.Card.Empty() && !stop.FromMap {
			fill = append(fill, &edit.PlanStop{Stop: id, FromMap: &yes})
		}
	}
	if v.Empty = len(fill); v.Empty > 0 {
		raw, _ := edit.MarshalOperations(fill) // what was just made can be written
		v.Fill = string(raw)
	}
	if chosen == nil {
		return
	}
	for _, id := range s.Structure.Order {
		if s.Structure.Places[id].Parent == chosen.ID {
			v.Branch = chosen.ID
		}
	}
}

// shapeOf gives how a route runs beside its list, for the page; empty where it goes down its list.
func shapeOf(m *cm.Map, route cm.ID) string {
	bends := guide.Shape(m, route)
	if bends == nil {
		return ""
	}
	raw, _ := json.Marshal(bends) // names and numbers alone
	return string(raw)
}

// excerptLength is how many characters of a card stand in the list.
const excerptLength = 90

// brought gives what the stops of a route have of pictures and of sounds and films, by stop.
func (s Reading) brought(route cm.ID) map[cm.ID]walkStop {
	all := map[cm.ID]walkStop{}
	for _, step := range guide.Growth(s.Map, route) {
		w := walkStop{}
		w.tell(cm.Key{Kind: cm.EntityStop, ID: step.Stop}, s.Map.Stops[step.Stop].Sources)
		for _, key := range step.Shows {
			w.tell(key, guide.SourcesAt(s.Map, key))
		}
		all[step.Stop] = w
	}
	return all
}

// fromMap counts the sources that are those of what a stop shows.
func fromMap(all []walkSource) (n int) {
	for _, src := range all {
		if src.Thing != string(cm.EntityStop) {
			n++
		}
	}
	return n
}

// distanceNames say how close a view goes.
var distanceNames = []Choice{{"", "so that all is seen that it shows and brings", ""}, {string(cm.DistanceClose), "close to what it shows", ""}, {string(cm.DistanceAll), "so far that all is seen that stands", ""}}

// layoutNames say how cards are laid out.
var layoutNames = []Choice{{"", "card and map beside each other", ""}, {string(cm.LayoutPicture), "its pictures large", ""}, {string(cm.LayoutText), "the card alone", ""}, {string(cm.LayoutMap), "the map alone", ""}}

// gapRow says how a jump can be bridged.
func (s Reading) gapRow(route cm.ID, gap guide.Gap) *gapRow {
	row := &gapRow{}
	var words []string
	op := &edit.AddStop{ID: workspace.NewThingID("s"), Route: route, After: gap.Before}
	for _, id := range gap.Over {
		words = append(words, "“"+s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id})+"”")
		op.Refs = append(op.Refs, cm.Key{Kind: cm.EntityConcept, ID: id})
	}
	var links []string
	for _, id := range gap.Links {
		links = append(links, "l-"+string(id))
	}
	row.Over, row.Links = strings.Join(words, ", "), strings.Join(links, " ")
	if len(op.Refs) > 0 {
		raw, _ := edit.MarshalOperations([]edit.Operation{op}) // what was just made can be written
		row.Steps = string(raw)
	}
	return row
}

func (s Reading) cardOf(st *cm.Stop, number int) *stopCard {
	card := &stopCard{ID: st.ID, Minutes: st.Minutes, Took: st.Took, Number: number, Opens: s.words(st.Opens), Question: s.words(st.Question), Answer: s.words(st.Answer), Distance: st.Distance, Distances: distanceNames, Fades: st.Fades, OneByOne: st.OneByOne, Skipped: st.Skipped, Branches: st.Branches, Layout: st.Layout, Layouts: layoutNames, Then: st.Then, Title: s.words(st.Title), Card: s.words(st.Card), GuideNotes: s.words(st.GuideNotes)}
	untitled := *st
	untitled.Title = nil
	card.Named = guide.Name(s.Map, &untitled)
	for _, ref := range st.Refs {
		key := cm.Key{Kind: ref.Kind, ID: ref.ID}
		card.Refs = append(card.Refs, shownRef{workspace.Element(key), guide.Words(s.Map, ref), !s.has(key), ref.Kind == cm.EntityLink})
		note := s.words(guide.NoteAt(s.Map, key))
		if note != "" && !strings.Contains(card.Card, note) {
			if card.WithNotes == "" {
				card.WithNotes = card.Card
			}
			card.WithNotes = strings.TrimSpace(card.WithNotes + "\n\n" + note)
		}
	}
	return card
}

func (s Reading) has(key cm.Key) bool {
	switch key.Kind {
	case cm.EntityConcept:
		return s.Map.Concepts[key.ID] != nil
	case cm.EntityLink:
		return s.Map.Links[key.ID] != nil
	case cm.EntityRegion:
		return s.Map.Regions[key.ID] != nil
	}
	return key.Kind == cm.EntityMap
}

// RouteLine is the way of a route over the map as somebody sees it, as markup: the band to lie under
// all else, and the numerals beside what the stops show.
type RouteLine struct {
	Way     string `json:"way"`
	Numbers string `json:"numbers"`
}

// RouteLine leads the line of a route.
func (s Reading) RouteLine(view scene.View, route cm.ID) RouteLine {
	var stops [][]cm.Key
	var numbers []string
	for i, step := range guide.Growth(s.Map, route) {
		shows := step.Shows
		if len(shows) > manyShown { // a numeral beside each of them would say nothing
			shows = shows[:1]
		}
		stops, numbers = append(stops, shows), append(numbers, strconv.Itoa(i+1))
	}
	line := s.Seen(view).RouteLine(stops, numbers)
	return RouteLine{svg.RouteWay(line), svg.RouteNumbers(line)}
}

// manyShown is from how many things on that a stop shows only the first has its numeral.
const manyShown = 8

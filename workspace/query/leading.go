package query

import (
	"cmp"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/workspace"
)

// Led is a map as it is led through at one moment.
type Led struct {
	Reading
	Stage *workspace.Stage
	Now   workspace.Now
	Frame guide.Frame
}

// Led gives how a room is led at present.
func (s Reading) Led(l *workspace.Leading) (Led, error) {
	stage, err := l.Stage(s.State)
	if err != nil {
		return Led{}, err
	}
	now := l.Now(stage)
	s.State = &workspace.State{Map: stage.Map, Revision: s.Revision, Structure: s.Structure, Scene: s.Scene}
	if r := stage.Map.Routes[stage.Route]; r != nil {
		s.Lang = r.Language
	}
	return Led{s, stage, now, now.Frame}, nil
}

func elementsOfAll(keys []cm.Key) []string {
	all := make([]string, len(keys))
	for i, key := range keys {
		all[i] = workspace.Element(key)
	}
	return all
}

// Fresh, Means and Faded are elements of the drawing: what came last, what is spoken of, and what
// is faded.
func (l Led) Fresh() []string { return elementsOfAll(l.Frame.Fresh) }

// Means are the elements that are spoken of.
func (l Led) Means() []string { return elementsOfAll(l.Frame.Means) }

// Faded are the elements that are faded.
func (l Led) Faded() []string {
	all := []string{}
	for _, id := range cm.SortedIDs(l.Frame.Faded) {
		if !l.Frame.Faded[id] {
			continue
		}
		kind := cm.EntityLink
		if l.Map.Concepts[id] != nil {
			kind = cm.EntityConcept
		}
		all = append(all, workspace.Element(cm.Key{Kind: kind, ID: id}))
	}
	return all
}

// Regions are those of which all stands that is inside.
func (l Led) Regions() *scene.Scene {
	sc := *l.Stage.Scene
	sc.Regions = slices.DeleteFunc(slices.Clone(sc.Regions), func(r *scene.Region) bool {
		return slices.ContainsFunc(r.Inside, func(id cm.ID) bool { return !l.Frame.Stands[id] })
	})
	return &sc
}

// RoomCard is what stands beside the map on a room screen.
type RoomCard struct {
	Title    string // of the route
	Question string
	Number   int
	Name     string
	Card     string // as its author wrote it
	Aside    bool   // it is about a concept beside the route
	Says     []Sentence
	Base     string // under which files are
	Pictures []walkSource
	Layout   cm.Layout
	Choices  []string // where one can go on, if there are several ways
	// Asks is the question on the card, Answer what is uncovered of it.
	Asks, Answer string
	Lang         cm.Lang // that of the route; empty for the map's own
}

// Card gives what stands beside the map.
func (l Led) Card(base string) RoomCard {
	m := l.Map
	card := RoomCard{Base: base, Lang: l.Lang, Title: cmp.Or(l.words(m.Routes[l.Stage.Route].Title), m.Name()), Question: l.words(m.Question), Number: l.Frame.Number}
	stop := m.Stops[l.Now.Lead.Stop]
	switch {
	case l.Frame.Concept != "":
		card.Aside, card.Name, card.Says = true, l.words(m.Concepts[l.Frame.Concept].Label), l.sentences()
	case l.Frame.Number == 0:
		card.Name, card.Card = cmp.Or(card.Question, card.Title), l.words(m.Routes[l.Stage.Route].Purpose)
	case stop != nil:
		card.Name, card.Card, card.Layout, card.Asks = guide.Name(m, stop), l.cardOf(stop), stop.Layout, l.words(stop.Question)
		if l.Now.Lead.Answer {
			card.Answer = l.words(stop.Answer)
		}
		if on := guide.Next(m, stop.ID); len(on) > 1 {
			for _, way := range on {
				card.Choices = append(card.Choices, cmp.Or(l.words(way.Words), guide.Name(m, m.Stops[way.To])))
			}
		}
		if card.Card == "" {
			card.Says = l.sentences()
		}
	}
	for _, src := range l.sources() {
		if src.Kind == cm.SourcePicture && len(card.Pictures) < maxPictures {
			card.Pictures = append(card.Pictures, src)
		}
	}
	return card
}

// cardOf gives what is read on the card of a stop.
func (l Led) cardOf(stop *cm.Stop) string {
	if guide.FollowsMap(stop) {
		return l.Stage.Said(l.words)[stop.ID]
	}
	return l.words(stop.Card)
}

// Large is the sentence that is shown by itself; nil for none.
func (l Led) Large() *Sentence {
	if l.Now.Lead.Large == nil {
		return nil
	}
	for _, p := range l.Structure.Propositions() {
		if proposed(p) == *l.Now.Lead.Large {
			one := l.sentenceOf(p)
			return &one
		}
	}
	return nil
}

// Source is the source that is shown large; nil for none.
func (l Led) Source() *walkSource {
	at := l.Now.Lead.Source
	if at == nil {
		return nil
	}
	for _, v := range sourceViews(guide.SourcesAt(l.Map, at.Of), at.Of) {
		if v.ID == at.ID {
			return &walkSource{v, workspace.Element(at.Of)}
		}
	}
	return nil
}

// about tells whether something belongs to what is spoken of: it itself, or a link of it.
func (l Led) about(p structure.Proposition) bool {
	return slices.ContainsFunc(l.Frame.Means, func(k cm.Key) bool { return k.ID == p.Subject || k.ID == p.Object || k.ID == p.Strand.Link })
}

// sentences are those on the paper that say something of what is spoken of.
func (l Led) sentences() (all []Sentence) {
	for _, p := range l.Structure.Propositions() {
		if !p.Open && l.Frame.Stands[p.Strand.Link] && l.about(p) && len(all) < maxLedSentences {
			all = append(all, l.sentenceOf(p))
		}
	}
	return all
}

// maxLedSentences bounds the sentences that are offered at once.
const maxLedSentences = 12

// sources are those of what is spoken of.
func (l Led) sources() (all []walkSource) {
	about := l.Frame.Means
	if l.Frame.Concept == "" {
		about = append([]cm.Key{{Kind: cm.EntityStop, ID: l.Now.Lead.Stop}}, about...)
	}
	for _, key := range about {
		for _, v := range sourceViews(guide.SourcesAt(l.Map, key), key) {
			all = append(all, walkSource{v, workspace.Element(key)})
		}
	}
	return all
}

// Desk is what whoever guides sees beside the room.
type Desk struct {
	Notes     string // of the stop, as written
	Answer    string // to its question, as written
	Answered  bool   // the room sees it
	Stop      cm.ID
	Parts     int // of the stop
	Part      int
	Stops     []deskStop
	Shape     string // how the route runs beside its list (see guide.Shape), for the page
	Next      *RoomCard
	NextPart  bool // the next press brings more of this stop
	Choices   []wayOn
	Aside     bool
	Here      []deskThing // what is spoken of
	Near      []deskThing // what is linked with it
	Sentences []Sentence
	Large     string // the key of the sentence that is shown large
	Sources   []walkSource
	Source    *guide.SourceOf
	Kinds     []Choice // and tags
	Only      cm.ID
	Mends     []deskMend
}

type deskStop struct {
	ID      cm.ID
	Number  int
	Name    string
	Opens   string // the title of the part that begins here
	Minutes int
	Now,
	Visited bool
}

type deskThing struct {
	ID     cm.ID
	Kind   cm.Entity
	Words  string
	Phrase string // how it is linked with what is spoken of
	Tucked bool
	Hides  bool // something hangs below it
	New    bool // not on the paper
}

type deskMend struct {
	Stop, ID cm.ID
	Words    string
}

// Desk gives what whoever guides sees beside the room.
func (l Led) Desk() Desk {
	m, lead := l.Map, l.Now.Lead
	d := Desk{Stop: lead.Stop, Part: lead.Part, Aside: l.Frame.Concept != "", Only: lead.Only, Source: lead.Source, Sentences: l.sentences(), Sources: l.sources()}
	d.Shape = shapeOf(m, l.Stage.Route)
	steps := guide.GrowthAlong(m, lead.Way)
	at := len(steps) - 1
	stops := m.WalkedStops(l.Stage.Route)
	for i, stop := range stops {
		d.Stops = append(d.Stops, deskStop{ID: stop.ID, Number: i + 1, Name: guide.Name(m, stop), Opens: l.words(stop.Opens), Minutes: stop.Minutes, Now: stop.ID == lead.Stop, Visited: lead.Visited[stop.ID]})
	}
	if stop := m.Stops[lead.Stop]; stop != nil && at >= 0 {
		d.Notes, d.Parts = l.words(stop.GuideNotes), len(steps[at].Parts(m))
		d.Answer, d.Answered = l.words(stop.Answer), lead.Answer
		for _, id := range cm.SortedIDs(stop.Mends) {
			if mend := stop.Mends[id]; !mend.Done {
				d.Mends = append(d.Mends, deskMend{stop.ID, id, mend.Words})
			}
		}
	}
	if d.Aside {
		d.Notes = l.words(m.Concepts[l.Frame.Concept].Note)
	}
	on := guide.Next(m, lead.Stop)
	if lead.Stop == "" && len(stops) > 0 {
		on = []guide.WayOn{{To: stops[0].ID}}
	}
	if d.NextPart = at >= 0 && lead.Part < d.Parts; !d.NextPart && len(on) > 0 {
		next := m.Stops[on[0].To]
		d.Next = &RoomCard{Number: 1 + slices.Index(stops, next), Name: guide.Name(m, next), Card: l.cardOf(next)}
	}
	if len(on) > 1 {
		for _, way := range on {
			d.Choices = append(d.Choices, wayOn{way.To, cmp.Or(l.words(way.Words), guide.Name(m, m.Stops[way.To]))})
		}
	}
	if one := l.Large(); one != nil {
		d.Large = one.Key
	}
	l.things(&d)
	for _, k := range m.Key() {
		if !k.Links {
			d.Kinds = append(d.Kinds, Choice{string(k.ID), l.words(k.Name), ""})
		}
	}
	for _, id := range cm.SortedIDs(m.Tags) {
		d.Kinds = append(d.Kinds, Choice{string(id), l.words(m.Tags[id].Name), ""})
	}
	return d
}

// Everything lists all concepts.
func (l Led) Everything() (all []deskThing) {
	for _, id := range l.Structure.Order {
		all = append(all, deskThing{ID: id, Words: strings.Join(strings.Fields(l.words(l.Map.Concepts[id].Label)), " ")})
	}
	return all
}

// things gathers what is spoken of, and what is linked with it.
func (l Led) things(d *Desk) {
	m := l.Map
	parents := map[cm.ID]bool{}
	for _, id := range l.Structure.Order {
		parents[l.Structure.Places[id].Parent] = true
	}
	here := map[cm.ID]bool{}
	for _, key := range l.Frame.Means {
		words, _ := m.WordsAt(key)
		d.Here = append(d.Here, deskThing{ID: key.ID, Kind: key.Kind, Words: l.words(words), Tucked: l.Now.Lead.Tucked[key.ID], Hides: key.Kind == cm.EntityConcept && parents[key.ID]})
		if here[key.ID] = true; key.Kind == cm.EntityLink {
			for _, e := range m.Links[key.ID].Ends() {
				here[e.Concept] = true
			}
		}
	}
	told := map[cm.ID]bool{}
	for _, p := range l.Structure.Propositions() {
		other := p.Object
		if here[p.Object] {
			other = p.Subject
		}
		if p.Open || here[other] || told[other] || !here[p.Object] && !here[p.Subject] {
			continue
		}
		told[other] = true
		d.Near = append(d.Near, deskThing{ID: other, Kind: cm.EntityConcept, Words: l.words(m.Concepts[other].Label), Phrase: l.words(m.Links[p.Strand.Link].Phrase), New: !l.Frame.Stands[other]})
	}
}

// FindSentence gives the proposition that a key names.
func (l Led) FindSentence(key string) (cm.Proposed, bool) {
	for _, p := range l.Structure.Propositions() {
		if keyOf(proposed(p)) == key {
			return proposed(p), true
		}
	}
	return cm.Proposed{}, false
}

// ShowsFile tells whether a file belongs to what a room may see.
func (s Reading) ShowsFile(hash string) bool {
	for _, stop := range s.Map.Stops {
		for _, src := range stop.Sources {
			if src.File != nil && src.File.Hash == hash {
				return true
			}
		}
	}
	return slices.ContainsFunc(guide.All(s.Map).Files(), func(f cm.File) bool { return f.Hash == hash })
}

package query

import (
	"cmp"
	"context"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/store"
	"mevrin/workspace"
)

// Walk is a route as a learner meets it. It holds what the route reveals
// and nothing else of the map.
type Walk struct {
	Look                  string // the classes that dress the paper
	OEmbed                string // where it is told how to show it on another page; empty for most
	Own                   bool   // in colours of its own
	Films                 string // hosts whose films may be played in a frame
	Route                 cm.ID
	Lang                  cm.Lang
	Title, Question, Name string
	Key                   string       // under which a browser keeps how far it came
	Drawn                 string       // under which each stop is drawn together; empty where it is not
	Back                  string       // where the author came from; empty for a learner
	Export                string       // where whoever may look at the map takes the walk out; empty for a learner
	Base                  string       // under which files are
	Scene                 *scene.Scene // what the route reveals
	Legend                *scene.Key   // of that; nil where there is none
	Stops                 []walkStop
	Aim                   string       // what the route is for
	Together              bool         // each stop is drawn anew, see Drawn
	Around                bool         // one may look around the whole map
	Beyond                []walkSource // what is attached to the rest of it
	Shape                 string       // how the route runs beside its list (see guide.Shape), for the page
	Said                  []saidOnWay  // the sentences met on the way
}

type saidOnWay struct {
	Link  cm.ID
	Words string
}

// wayOn is one way on from a stop.
type wayOn struct {
	To    cm.ID
	Words string // of a choice
}

type walkStop struct {
	ID     cm.ID
	Number int
	Name   string
	Card   string // as its author wrote it, or as the map says it
	// Asks is the question on the card, Answer what is uncovered below it.
	Asks, Answer string
	// New and Shows list elements of the drawing: those that this stop adds, and
	// those that it speaks of.
	New, Shows string
	// Brings are the concepts that stand at this stop, if nothing stood before; Way the stops that one
	// has gone through by then, where nobody says otherwise.
	Brings, Way string
	// Keeps are the elements that do not fade; all where it is empty.
	Keeps    string
	Distance cm.Distance
	Next     []wayOn
	Missing  bool
	Whole    bool // it shows the map as a whole
	Layout   cm.Layout
	Pictures []walkSource // of what it speaks of
	Sounds   []walkSource // and films that are files: they are played on the card
	Sources  []walkSource // the others
}

// walkSource is a source of a concept or a link.
type walkSource struct {
	sourceView
	On string // its element
}

// tell lists what is attached to something that a stop speaks of.
func (w *walkStop) tell(key cm.Key, sources map[cm.ID]cm.Source) {
	for _, v := range sourceViews(sources, key) {
		if one := (walkSource{v, workspace.Element(key)}); v.Kind == cm.SourcePicture && len(w.Pictures) < maxPictures {
			w.Pictures = append(w.Pictures, one)
		} else if (v.Kind == cm.SourceSound || v.Kind == cm.SourceVideo) && v.Href != "" {
			w.Sounds = append(w.Sounds, one)
		} else {
			w.Sources = append(w.Sources, one)
		}
	}
}

// maxPictures is how many pictures lie on a card at most.
const maxPictures = 3

// Walk gives a route as a learner meets it, who understands some languages, by
// preference: what the map has no words for in the first that it has stands in its own.
func (s Reading) Walk(route cm.ID, understands ...cm.Lang) Walk {
	m := s.Map
	r := m.Routes[route]
	lang := cmp.Or(r.Language, m.FirstOf(understands))
	words := func(t cm.Text) string { return t.For(lang, m.Language) }
	steps := guide.Growth(m, route)
	part := s.walked(route, steps)
	sc := scene.Build(part, s.Structure, scene.View{Lang: lang}, nil)
	v := Walk{
		Route: route, Lang: lang, Title: words(r.Title), Question: words(m.Question), Name: m.Name(), Look: workspace.LookOf(m.Look), Own: m.Look.Own != nil,
		Scene: sc, Legend: scene.KeyAlone(part, s.Structure, scene.View{Lang: lang}),
	}
	if v.Title == "" {
		v.Title = v.Name
	}
	v.Aim, v.Said, v.Around = words(r.Purpose), s.saidOn(steps, words), r.Around
	v.Together = r.Together
	said := map[cm.ID]string{}
	if slices.ContainsFunc(m.WalkedStops(route), guide.FollowsMap) {
		said = guide.Said(m, s.Structure, route, words)
	}
	ways := guide.WaysTo(m, route)
	for i, step := range steps {
		stop := m.Stops[step.Stop]
		w := walkStop{ID: stop.ID, Number: i + 1, Name: guide.NameIn(m, stop, words), Missing: step.Missing > 0, Whole: step.Whole, Layout: stop.Layout, Distance: stop.Distance}
		w.Card, w.Asks, w.Answer = words(stop.Card), words(stop.Question), words(stop.Answer)
		if guide.FollowsMap(stop) {
			w.Card = said[stop.ID]
		}
		w.Keeps = s.elements(guide.Keeps(m, step))
		var fresh, shows []string
		for _, id := range step.Concepts {
			fresh = append(fresh, workspace.Element(cm.Key{Kind: cm.EntityConcept, ID: id}))
		}
		for _, id := range step.Links {
			fresh = append(fresh, workspace.Element(cm.Key{Kind: cm.EntityLink, ID: id}))
		}
		w.tell(cm.Key{Kind: cm.EntityStop, ID: stop.ID}, stop.Sources)
		for _, key := range step.Shows {
			shows = append(shows, workspace.Element(key))
			if c := m.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
				w.tell(key, c.Sources)
			}
			if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
				w.tell(key, l.Sources)
			}
		}
		w.New, w.Shows = strings.Join(fresh, " "), strings.Join(shows, " ")
		var brings []string
		for _, alone := range guide.GrowthAlong(m, []cm.ID{stop.ID}) {
			for _, id := range alone.Concepts {
				brings = append(brings, workspace.Element(cm.Key{Kind: cm.EntityConcept, ID: id}))
			}
		}
		w.Brings = strings.Join(brings, " ")
		for i, id := range ways[stop.ID] {
			if i > 0 {
				w.Way += " "
			}
			w.Way += string(id)
		}
		for _, on := range guide.Next(m, stop.ID) {
			w.Next = append(w.Next, wayOn{on.To, cmp.Or(words(on.Words), guide.NameIn(m, m.Stops[on.To], words))})
		}
		v.Stops = append(v.Stops, w)
	}
	v.Shape = shapeOf(m, route)
	if v.Around {
		v.Beyond = attached(part)
	}
	return v
}

// Drawn gives what stands at the end of a way along a route, drawn together, for somebody who
// understands some languages. Stops that are not on the route are passed over.
func (s Reading) Drawn(route cm.ID, way []cm.ID, understands ...cm.Lang) *scene.Scene {
	m := s.Map
	way = slices.DeleteFunc(way, func(id cm.ID) bool { stop := m.Stops[id]; return stop == nil || stop.Route != route || stop.Skipped })
	view := scene.View{Lang: cmp.Or(m.Routes[route].Language, m.FirstOf(understands))}
	return scene.Build(scene.Together(guide.Part(m, guide.GrowthAlong(m, way)), s.Structure, view), s.Structure, view, nil)
}

// walked gives the part of the map that a walk may show.
func (s Reading) walked(route cm.ID, steps []guide.Step) *cm.Map {
	if s.Map.Routes[route].Around {
		return guide.All(s.Map)
	}
	return guide.Part(s.Map, steps)
}

// elements names the elements of concepts and links, in the order of ids.
func (s Reading) elements(ids map[cm.ID]bool) string {
	var all []string
	for _, id := range cm.SortedIDs(ids) {
		kind := cm.EntityConcept
		if s.Map.Links[id] != nil {
			kind = cm.EntityLink
		}
		all = append(all, workspace.Element(cm.Key{Kind: kind, ID: id}))
	}
	return strings.Join(all, " ")
}

// attached lists what is attached to the concepts and links of a map.
func attached(m *cm.Map) (all []walkSource) {
	add := func(key cm.Key, sources map[cm.ID]cm.Source) {
		for _, v := range sourceViews(sources, key) {
			all = append(all, walkSource{v, workspace.Element(key)})
		}
	}
	for _, id := range cm.SortedIDs(m.Concepts) {
		add(cm.Key{Kind: cm.EntityConcept, ID: id}, m.Concepts[id].Sources)
	}
	for _, id := range cm.SortedIDs(m.Links) {
		add(cm.Key{Kind: cm.EntityLink, ID: id}, m.Links[id].Sources)
	}
	return all
}

// saidOn gives the sentences that are met on a way, in the order in which they come.
func (s Reading) saidOn(steps []guide.Step, words func(cm.Text) string) (all []saidOnWay) {
	of := map[cm.ID][]saidOnWay{}
	for _, p := range s.Structure.Propositions() {
		if !p.Open {
			sentence := words(s.Map.Concepts[p.Subject].Label) + " " + words(s.Map.Links[p.Strand.Link].Phrase) + " " + words(s.Map.Concepts[p.Object].Label)
			of[p.Strand.Link] = append(of[p.Strand.Link], saidOnWay{p.Strand.Link, strings.Join(strings.Fields(sentence), " ")})
		}
	}
	for _, step := range steps {
		for _, link := range step.Links {
			all = append(all, of[link]...)
		}
	}
	return all
}

func LinksFor(ctx context.Context, w *workspace.Workspace, who workspace.Person, id cm.ID, allows store.Allows, route cm.ID) ([]Link, error) {
	all, err := w.Store.For(who.Scope).Grants(ctx, id)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(all, func(gr store.Grant) bool { return gr.Allows != allows || gr.Route != route })
	links := make([]Link, len(all))
	for i, gr := range all {
		links[i] = Link{gr.ID, gr.Token, gr.Created.Local().Format("2 January 2006")}
	}
	return links, nil
}

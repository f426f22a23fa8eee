package web

import (
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/store"
)

// walkView is a route as a learner meets it. It holds what the route reveals
// and nothing else of the map.
type walkView struct {
	Look                  string // the classes that dress the paper
	Own                   bool   // in colours of its own
	Films                 string // hosts whose films may be played in a frame
	Route                 cm.ID
	Lang                  cm.Lang
	Title, Question, Name string
	Key                   string       // under which a browser keeps how far it came
	Back                  string       // where the author came from; empty for a learner
	Base                  string       // under which files are
	Scene                 *scene.Scene // what the route reveals
	Stops                 []walkStop
}

type walkStop struct {
	ID     cm.ID
	Number int
	Name   string
	Card   string // as its author wrote it
	// New and Shows list elements of the drawing: those that this stop adds, and
	// those that it speaks of.
	New, Shows string
	Missing    bool
	Sources    []walkSource // of what it speaks of
}

// walkSource is a source of a concept or a link.
type walkSource struct {
	sourceView
	On string // its element
}

// tell lists what is attached to something that a stop speaks of.
func (w *walkStop) tell(key cm.Key, sources map[cm.ID]cm.Source) {
	for _, v := range sourceViews(sources, key) {
		w.Sources = append(w.Sources, walkSource{v, element(key)})
	}
}

// walkPage is a walk with its drawing.
type walkPage struct {
	walkView
	Paper paper
}

// walked gives the map of a link to a walk, and what the link allows; nil where it
// has answered itself.
func (s *server) walked(g *gin.Context) (*reading, store.Grant) {
	grant := admitted(g).grant
	now, err := s.work.Session(grant.MapID).look(g.Request.Context())
	if err != nil {
		s.failWith(g, err) // which tells no learner of a bin
		return nil, grant
	}
	return &reading{now}, grant
}

// walk leads along a route whoever has a link to it.
func (s *server) walk(g *gin.Context) {
	if now, grant := s.walked(g); now != nil {
		s.showWalk(g, now, grant.Route, "walk:"+grant.ID, "", "/walk/"+g.Param("token"))
	}
}

// lookAtWalk shows an author the walk as learners see it.
func (s *server) lookAtWalk(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		id := string(now.m.ID)
		s.showWalk(g, now, cm.ID(g.Param("route")), "look:"+id+":"+g.Param("route"), "/maps/"+id, "/maps/"+id)
	}
}

func (s *server) showWalk(g *gin.Context, now *reading, route cm.ID, key, back, base string) {
	if now.m.Routes[route] == nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
		return
	}
	v := now.walkOf(route)
	v.Base, v.Key, v.Back, v.Films = base, key, back, strings.Join(s.Films, " ")
	g.Header("Cache-Control", "no-store")
	g.HTML(http.StatusOK, "walk.html", walkPage{v, paperOf(v.Scene, base)})
}

func (s reading) walkOf(route cm.ID) walkView {
	m := s.m
	steps := guide.Growth(m, route)
	part := guide.Part(m, steps)
	sc := scene.Build(part, s.structure, scene.View{}, nil)
	v := walkView{
		Route: route, Lang: m.Language, Title: m.Words(m.Routes[route].Title), Question: m.Words(m.Question), Name: m.Name(), Look: lookOf(m.Look), Own: m.Look.Own != nil,
		Scene: sc,
	}
	if v.Title == "" {
		v.Title = v.Name
	}
	for i, step := range steps {
		stop := m.Stops[step.Stop]
		w := walkStop{ID: stop.ID, Number: i + 1, Name: guide.Name(m, stop), Missing: step.Missing > 0}
		w.Card = m.Words(stop.Card)
		var fresh, shows []string
		for _, id := range step.Concepts {
			fresh = append(fresh, element(cm.Key{Kind: cm.EntityConcept, ID: id}))
		}
		for _, id := range step.Links {
			fresh = append(fresh, element(cm.Key{Kind: cm.EntityLink, ID: id}))
		}
		for _, key := range step.Shows {
			shows = append(shows, element(key))
			if c := m.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
				w.tell(key, c.Sources)
			}
			if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
				w.tell(key, l.Sources)
			}
		}
		w.New, w.Shows = strings.Join(fresh, " "), strings.Join(shows, " ")
		v.Stops = append(v.Stops, w)
	}
	return v
}

// element names a thing as its group in a drawing does.
func element(key cm.Key) string {
	switch key.Kind {
	case cm.EntityLink:
		return "l-" + string(key.ID)
	case cm.EntityRegion:
		return "r-" + string(key.ID)
	case cm.EntityMap:
		return "m-" + string(key.ID)
	}
	return "c-" + string(key.ID)
}

// guideView is what the margin offers for routes.
type guideView struct {
	Routes []routeRow
	Route  cm.ID // the one that is open
	Title  string
	Stops  []stopRow
	Open   *stopCard
	Links  []walkLink
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
}

type stopCard struct {
	ID                      cm.ID
	Number                  int
	Title, Card, GuideNotes string
	Refs                    []shownRef
	// WithNotes is the card with the notes of what it shows, where there are some
	// that are not in it.
	WithNotes string
}

type shownRef struct {
	Element, Words string
	Gone, Verb     bool
}

type walkLink struct{ ID, Token, Since string }

// guideOf gathers the routes of a map, with one route and one stop open: those
// asked for, else the first route and no stop.
func (s reading) guideOf(route, stop cm.ID) guideView {
	var v guideView
	for _, id := range cm.SortedIDs(s.m.Routes) {
		name := s.m.Words(s.m.Routes[id].Title)
		if name == "" {
			name = "A route without a title"
		}
		v.Routes = append(v.Routes, routeRow{id, name})
	}
	if len(v.Routes) == 0 {
		return v
	}
	if v.Route = route; s.m.Routes[route] == nil {
		v.Route = v.Routes[0].ID
	}
	v.Title = s.m.Words(s.m.Routes[v.Route].Title)
	for i, st := range s.m.StopsOf(v.Route) {
		row := stopRow{ID: st.ID, Number: i + 1, Name: guide.Name(s.m, st), Open: st.ID == stop}
		var on []string
		for _, ref := range st.Refs {
			key := cm.Key{Kind: ref.Kind, ID: ref.ID}
			if s.has(key) {
				on = append(on, element(key))
			}
		}
		row.Elements = strings.Join(on, " ")
		v.Stops = append(v.Stops, row)
		if row.Open {
			v.Open = s.cardOf(st, i+1)
		}
	}
	return v
}

func (s reading) cardOf(st *cm.Stop, number int) *stopCard {
	card := &stopCard{ID: st.ID, Number: number, Title: s.m.Words(st.Title), Card: s.m.Words(st.Card), GuideNotes: s.m.Words(st.GuideNotes)}
	for _, ref := range st.Refs {
		key := cm.Key{Kind: ref.Kind, ID: ref.ID}
		card.Refs = append(card.Refs, shownRef{element(key), guide.Words(s.m, ref), !s.has(key), ref.Kind == cm.EntityLink})
		note := ""
		if c := s.m.Concepts[ref.ID]; ref.Kind == cm.EntityConcept && c != nil {
			note = s.m.Words(c.Note)
		} else if l := s.m.Links[ref.ID]; ref.Kind == cm.EntityLink && l != nil {
			note = s.m.Words(l.Note)
		}
		if note != "" && !strings.Contains(card.Card, note) {
			if card.WithNotes == "" {
				card.WithNotes = card.Card
			}
			card.WithNotes = strings.TrimSpace(card.WithNotes + "\n\n" + note)
		}
	}
	return card
}

func (s reading) has(key cm.Key) bool {
	return key.Kind == cm.EntityConcept && s.m.Concepts[key.ID] != nil || key.Kind == cm.EntityLink && s.m.Links[key.ID] != nil
}

// postGrant makes a link to a route.
func (s *server) postGrant(g *gin.Context) {
	_, id := asker(g)
	route := cm.ID(g.PostForm("route"))
	err := s.work.LinkRoute(g.Request.Context(), id, route)
	s.answerGrants(g, err, id, route)
}

// closeGrant closes a link for good.
func (s *server) closeGrant(g *gin.Context) {
	_, id := asker(g)
	err := s.work.CloseLink(g.Request.Context(), id, g.Param("grant"))
	if g.PostForm("allows") == string(store.AllowsHand) {
		s.answerHandLinks(g, err, id)
		return
	}
	s.answerGrants(g, err, id, cm.ID(g.PostForm("route")))
}

func (s *server) answerGrants(g *gin.Context, err error, id, route cm.ID) {
	var links []walkLink
	if err == nil {
		links, err = linksFor(g.Request.Context(), s.work, id, store.AllowsWalk, route)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.HTML(http.StatusOK, "walk-links", guideView{Route: route, Links: links})
}

func linksFor(ctx context.Context, w *Workspace, id cm.ID, allows store.Allows, route cm.ID) ([]walkLink, error) {
	all, err := w.Store.Grants(ctx, id)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(all, func(gr store.Grant) bool { return gr.Allows != allows || gr.Route != route })
	links := make([]walkLink, len(all))
	for i, gr := range all {
		links[i] = walkLink{gr.ID, gr.Token, gr.Created.Local().Format("2 January 2006")}
	}
	return links, nil
}

package web

import (
	"html/template"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/svg"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// walkPage is a walk with its drawing.
type walkPage struct {
	query.Walk
	Paper paper
}

// walked gives the map of a link to a walk, and what the link allows; nil where it
// has answered itself.
func (s *server) walked(g *gin.Context) (*query.Reading, store.Grant) {
	grant := admitted(g).grant
	now, err := s.work.Session(grant.MapID).Look(g.Request.Context())
	if err != nil {
		s.failWith(g, err) // which tells no learner of a bin
		return nil, grant
	}
	return &query.Reading{State: now, Say: say(g)}, grant
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
		who, mapID := asker(g)
		id := string(mapID)
		if cm.ID(g.Param("route")) == guide.AsRead {
			s.showAsRead(g, now, "/maps/"+id)
			return
		}
		s.went(g, who, now, cm.ID(g.Param("route")))
		s.showWalk(g, now, cm.ID(g.Param("route")), "look:"+id+":"+g.Param("route"), "/maps/"+id, "/maps/"+id)
	}
}

// showAsRead shows a map as it is read, concept by concept, to whoever may look at it and no more.
func (s *server) showAsRead(g *gin.Context, now *query.Reading, base string) {
	m, route := guide.Way(now.Map, now.Structure, guide.AsRead)
	if route == "" {
		s.fail(g, http.StatusNotFound, "There is nothing on this map yet.", nil)
		return
	}
	m.Routes[route].Around = true
	along := &query.Reading{State: &workspace.State{Map: m, Revision: now.Revision, Structure: now.Structure, Scene: now.Scene}, Say: now.Say}
	s.showWalk(g, along, route, "look:"+string(m.ID)+":"+string(route), leadsBack(g), base)
}

func (s *server) showWalk(g *gin.Context, now *query.Reading, route cm.ID, key, back, base string) {
	if now.Map.Routes[route] == nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
		return
	}
	v := now.Walk(route, langsOf(g)...)
	if v.Together {
		v.Drawn = g.Request.URL.Path + "/drawn"
	}
	v.Base, v.Key, v.Back, v.Films = base, key, back, strings.Join(s.Films, " ")
	if f := admitted(g).grant.Frame; f != nil {
		v.OEmbed = originOf(g) + "/oembed?" + url.Values{"url": {originOf(g) + base}}.Encode()
		if f.Look != cm.ThemePlain {
			v.Look, v.Own = workspace.LookOf(cm.Look{Theme: f.Look}), false
		}
	}
	if admitted(g).may[CanExport] {
		v.Export = base + "/export?use=teach"
		if route == cm.ID(g.Param("route")) {
			v.Export += "&what=" + url.QueryEscape("route "+string(route))
		}
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "walk.html", walkPage{v, paperOf(v.Scene, base)})
}

// langsOf are the languages that whoever asks understands, by preference.
func langsOf(g *gin.Context) (all []cm.Lang) {
	for _, tag := range understood(g) {
		all = append(all, cm.Lang(tag))
	}
	return all
}

// walkDrawn draws what stands at a stop of a walk, for whoever has its link.
func (s *server) walkDrawn(g *gin.Context) {
	if now, grant := s.walked(g); now != nil {
		s.sendDrawn(g, now, grant.Route, "/walk/"+g.Param("token"))
	}
}

// lookDrawn does so for an author who looks at a walk.
func (s *server) lookDrawn(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		s.sendDrawn(g, now, cm.ID(g.Param("route")), "/maps/"+g.Param("map"))
	}
}

// maxWayDrawn bounds the stops that one can have gone through.
const maxWayDrawn = 1000

func (s *server) sendDrawn(g *gin.Context, now *query.Reading, route cm.ID, base string) {
	if now.Map.Routes[route] == nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
		return
	}
	var way []cm.ID
	for id := range strings.SplitSeq(g.Query("way"), ",") {
		if way = append(way, cm.ID(id)); len(way) > maxWayDrawn {
			s.fail(g, http.StatusBadRequest, "This way is too long to be drawn.", nil)
			return
		}
	}
	defer now.Turn(g.Request.Context())()
	sc := now.Drawn(route, way, langsOf(g)...)
	drawn := drawnStop{Slips: map[string]string{}, Links: map[string]string{}, Regions: string(filesAt(base, template.HTML(svg.Regions(sc))))}
	for id, slip := range sc.Slips {
		drawn.Slips["c-"+string(id)] = string(filesAt(base, template.HTML(svg.Slip(slip))))
	}
	for id, link := range sc.Links {
		drawn.Links["l-"+string(id)] = svg.Link(link)
	}
	g.Header("Cache-Control", "no-store")
	g.JSON(http.StatusOK, drawn)
}

// drawnStop is what stands at a stop, as markup by element.
type drawnStop struct {
	Slips   map[string]string `json:"slips"`
	Links   map[string]string `json:"links"`
	Regions string            `json:"regions"`
}

// postGrant makes a link to a route.
func (s *server) postGrant(g *gin.Context) {
	who, id := asker(g)
	route := cm.ID(g.PostForm("route"))
	err := s.work.MakeLink(g.Request.Context(), who, id, store.AllowsWalk, route, workspace.Limits{})
	s.answerGrants(g, err, id, route)
}

// closeGrant closes a link for good.
func (s *server) closeGrant(g *gin.Context) {
	who, id := asker(g)
	err := s.work.CloseLink(g.Request.Context(), who, id, g.Param("grant"))
	switch store.Allows(g.PostForm("allows")) {
	case store.AllowsHand:
		s.answerHandLinks(g, err, id)
		return
	case store.AllowsPicture:
		s.backToExport(g, err, id)
		return
	case store.AllowsJudge:
		s.answerJudgeLinks(g, err, id)
		return
	}
	s.answerGrants(g, err, id, cm.ID(g.PostForm("route")))
}

func (s *server) answerGrants(g *gin.Context, err error, id, route cm.ID) {
	who, _ := asker(g)
	var links []query.Link
	if err == nil {
		links, err = query.LinksFor(g.Request.Context(), s.work, who, id, store.AllowsWalk, route)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "walk-links", query.Guide{Route: route, Links: links})
}

// went keeps that an author goes along a route, so that they learn what changed since.
func (s *server) went(g *gin.Context, who workspace.Person, now *query.Reading, route cm.ID) {
	if now.Map.Routes[route] == nil || who.Nobody {
		return
	}
	if err := s.reach(g).SetWalked(g.Request.Context(), now.Map.ID, who.ID, route, now.Revision); err != nil {
		s.Log.Warn("what was walked is not kept", "map", now.Map.ID, "err", err) // the walk goes on all the same
	}
}

// routeChanges tells what changed along a route since the person asking went along it.
func (s *server) routeChanges(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Walked(g.Request.Context(), s.work, who, cm.ID(g.Param("route")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "route-changes", v)
}

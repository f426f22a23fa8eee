package web

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// mapPage is the page on which a map is made.
func (s *server) mapPage(g *gin.Context) {
	who, id := asker(g)
	may := admitted(g).may
	switch {
	case may[CanEdit] || may[CanAdd] || may[CanComment]:
	case may[CanJudge]:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/judging")
		return
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/walk/"+guide.AsRead)
		return
	}
	d := s.work.Session(id)
	now, view, err := d.LookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer now.Turn(g.Request.Context())()
	var flags workspace.Answer
	d.Flags(&flags, who)
	reading := query.Reading{State: now, Say: say(g), Rules: s.rulesOf(g)}
	margin := reading.BeginMargin(who, view)
	// The page holds the map as it is now; a copy kept for the back button
	// would show an old one.
	g.Header("Cache-Control", "no-store")
	commenting := !may[CanEdit] && !may[CanAdd]
	plain := who.AdditiveOnly || commenting || now.Map.Hand == cm.HandPlain
	base, waiting := "/maps/"+string(id), 0
	if may[CanComment] {
		if waiting, err = s.reach(g).CountSuggestions(g.Request.Context(), id); err != nil {
			s.failWith(g, err)
			return
		}
	}
	sheet, err := s.reach(g).Suggests(g.Request.Context(), id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	trial := false
	if who.Bearer && s.Tries && sheet == "" {
		if trial, err = s.Store.IsTrial(g.Request.Context(), id); err != nil {
			s.failWith(g, err)
			return
		}
	}
	if g.Param("token") != "" {
		base = "/hand/" + g.Param("token")
	} else if asked, ok := g.GetQuery("hand"); ok && !commenting {
		plain = asked == string(cm.HandPlain)
	}
	s.html(g, http.StatusOK, "map.html", gin.H{
		"Base": base, "Plain": plain, "Brief": reading.Brief(who), "Bearer": who.AdditiveOnly || who.Bearer, "Trial": trial, "Sheet": sheet, "Commenting": commenting, "Waiting": waiting,
		"ID": id, "Lang": now.Map.Language, "Head": now.Head(view), "Paper": paperOf(now.Seen(view), base), "Revision": now.Revision, "Focus": now.Map.Focus,
		"Undo": flags.Undo, "Redo": flags.Redo, "Licences": s.work.Shelf.Licences(), "Films": strings.Join(s.Films, " "), "Margin": margin,
	})
}

// margin is the page's margin for what is selected: whole, or one part of it.
func (s *server) margin(g *gin.Context) {
	who, _ := asker(g)
	page := "margin.html"
	if part := g.Param("part"); part != "" {
		if page = "margin-" + part; s.pages[say(g).Language()].Lookup(page) == nil {
			s.fail(g, http.StatusNotFound, "The margin has no such part.", nil)
			return
		}
	}
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	asked := query.MarginAsked{Part: g.Param("part"), Phase: g.Query("phase"), Route: cm.ID(g.Query("route")), Stop: cm.ID(g.Query("stop")), Kind: cm.ID(g.Query("kind")), Open: []string{"*"}}
	if open, some := g.GetQuery("open"); some {
		asked.Open = strings.Split(open, ",")
	}
	if list := g.Query("chosen"); list != "" {
		asked.Chosen = strings.Split(list, ",")
	}
	now.Rules = s.rulesOf(g)
	v, err := now.Margin(g.Request.Context(), s.work, who, view, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, page, v)
}

// lookAt gives the present state of the map asked for, to one who may look at
// it, for an answer that must not be kept; nil where it has answered itself.
func (s *server) lookAt(g *gin.Context) *query.Reading {
	_, id := asker(g)
	now, err := s.work.Session(id).Look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return nil
	}
	g.Header("Cache-Control", "no-store")
	return &query.Reading{State: now, Say: say(g)}
}

// lookAtAs does as lookAt and gives, too, how the person asking sees the map.
func (s *server) lookAtAs(g *gin.Context) (*query.Reading, scene.View) {
	who, id := asker(g)
	now, view, err := s.work.Session(id).LookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return nil, scene.View{}
	}
	g.Header("Cache-Control", "no-store")
	return &query.Reading{State: now, Say: say(g)}, view
}

package web

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// mapPage is the page on which a map is made.
func (s *server) mapPage(g *gin.Context) {
	who, id := asker(g)
	d := s.work.Session(id)
	now, view, err := d.lookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer now.turn(g.Request.Context())()
	var flags Answer
	d.flags(&flags, who)
	margin := reading{now}.beginMargin(who, view)
	// The page holds the map as it is now; a copy kept for the back button
	// would show an old one.
	g.Header("Cache-Control", "no-store")
	plain := who.Gentle || now.m.Hand == cm.HandPlain
	base := "/maps/" + string(id)
	if who.Gentle {
		base = "/hand/" + g.Param("token")
	} else if asked, ok := g.GetQuery("hand"); ok {
		plain = asked == string(cm.HandPlain)
	}
	g.HTML(http.StatusOK, "map.html", gin.H{
		"Base": base, "Plain": plain, "Bearer": who.Gentle,
		"ID": id, "Lang": now.m.Language, "Head": now.head(view), "Paper": paperOf(now.seen(view), base), "Revision": now.revision, "Focus": now.m.Focus,
		"Undo": flags.Undo, "Redo": flags.Redo, "Films": strings.Join(s.Films, " "), "Margin": margin,
	})
}

// margin is the page's margin for what is selected.
func (s *server) margin(g *gin.Context) {
	who, _ := asker(g)
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	asked := marginAsked{Phase: g.Query("phase"), Route: cm.ID(g.Query("route")), Stop: cm.ID(g.Query("stop")), Figures: g.Query("figures") != ""}
	if list := g.Query("chosen"); list != "" {
		asked.Chosen = strings.Split(list, ",")
	}
	v, err := now.margin(g.Request.Context(), s.work, who, view, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.HTML(http.StatusOK, "margin.html", v)
}

// lookAt gives the present state of the map asked for, to one who may look at
// it, for an answer that must not be kept; nil where it has answered itself.
func (s *server) lookAt(g *gin.Context) *reading {
	_, id := asker(g)
	now, err := s.work.Session(id).look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return nil
	}
	g.Header("Cache-Control", "no-store")
	return &reading{now}
}

// lookAtAs does as lookAt and gives, too, how the person asking sees the map.
func (s *server) lookAtAs(g *gin.Context) (*reading, scene.View) {
	who, id := asker(g)
	now, view, err := s.work.Session(id).lookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return nil, scene.View{}
	}
	g.Header("Cache-Control", "no-store")
	return &reading{now}, view
}

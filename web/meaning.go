package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/display"
	"mevrin/store"
	"mevrin/workspace/query"
)

// icons is the choice of icons by group.
func (s *server) icons(g *gin.Context) {
	g.Header("Cache-Control", "max-age=300")
	s.html(g, http.StatusOK, "icons.html", query.Reading{Say: say(g)}.IconGroups(g.Query("seek")))
}

// set gives the operations that begin a key with a set of kinds.
func (s *server) set(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	ops, err := now.BeginKey(g.Param("set"))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Data(http.StatusOK, "application/json; charset=utf-8", ops)
}

// ideas offers what could be added to a concept: what the author's other maps say
// of it, and what the helper knows. Nothing is added unasked.
func (s *server) ideas(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	words, all, err := now.Ideas(g.Request.Context(), s.work, who, cm.ID(g.Query("concept")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "ideas.html", gin.H{"Ideas": all, "Words": words})
}

// postLook keeps the look of a map under a name.
func (s *server) postLook(g *gin.Context) {
	who, id := asker(g)
	if err := s.work.KeepLook(g.Request.Context(), who, id, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// lookSheet is the style sheet of colours of one's own: those of the map, or those
// that somebody tries on.
func (s *server) lookSheet(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	look := now.Map.Look
	if paper, tried := g.GetQuery("paper"); tried {
		var err error
		if look, err = look.TriedOn(cm.OwnColours{Paper: paper, Slip: g.Query("slip"), Ink: g.Query("ink")}); err != nil {
			s.failWith(g, err)
			return
		}
	}
	sendSheet(g, look)
}

// walkSheet is the style sheet of colours of one's own, for a walk.
func (s *server) walkSheet(g *gin.Context) {
	if now, _ := s.walked(g); now != nil {
		sendSheet(g, now.Map.Look)
	}
}

func sendSheet(g *gin.Context, l cm.Look) {
	g.Header("Cache-Control", "no-store")
	g.Data(http.StatusOK, "text/css; charset=utf-8", []byte(display.Own(l)))
}

// dropLook forgets a look of the author's own.
func (s *server) dropLook(g *gin.Context) {
	who, _ := asker(g)
	if err := s.reach(g).Drop(g.Request.Context(), who.ID, store.KeptLook, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

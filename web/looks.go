package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/display"
)

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
	if err := s.reach(g).DropLook(g.Request.Context(), who.ID, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

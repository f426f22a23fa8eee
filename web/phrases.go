package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/core/phrases"
)

// phrases gives the phrases on offer for a map.
func (s *server) phrases(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	out, err := now.Offered(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, out)
}

// setPhrase adds a phrase to the bank of whoever asks, takes one out, or makes
// a group as shipped again.
func (s *server) setPhrase(g *gin.Context) {
	who, _ := asker(g)
	own := phrases.Own{Group: g.PostForm("group"), Words: g.PostForm("words"), Removed: g.PostForm("do") == "remove"}
	if err := s.work.SetPhrase(g.Request.Context(), who, own, g.PostForm("do") == "reset"); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

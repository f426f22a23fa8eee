package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/workspace/query"
)

// icons is the choice of icons by group.
func (s *server) icons(g *gin.Context) {
	g.Header("Cache-Control", "max-age=300")
	s.html(g, http.StatusOK, "icons.html", query.IconGroups(g.Query("seek")))
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

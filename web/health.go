package web

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// health tells whoever watches the server whether it can read its folder; nothing of what is in it.
func (s *server) health(g *gin.Context) {
	g.Header("Cache-Control", "no-store")
	if _, err := s.Store.HasPeople(g.Request.Context()); err != nil {
		s.Log.Error("health", "err", err)
		g.String(http.StatusServiceUnavailable, "the data folder cannot be read\n")
		return
	}
	g.String(http.StatusOK, "ok\n")
}

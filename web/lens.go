package web

import (
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/workspace/query"
)

// getLens answers with what a lens shows.
func (s *server) getLens(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	steps, _ := strconv.Atoi(g.Query("steps"))
	v, err := now.Lens(g.Request.Context(), view, query.LensAsked{
		What: g.Query("what"), Chosen: strings.Split(g.Query("chosen"), ","), Steps: steps,
		Filter: cm.ID(g.Query("filter")), Kind: cm.ID(g.Query("kind")), Tag: cm.ID(g.Query("tag")), Has: g.Query("has"), Conditions: g.Query("asked"),
	})
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, v)
}

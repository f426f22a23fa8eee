package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/workspace/query"
)

// column is the map as text: outline, propositions, loose ideas, in reading
// order.
func (s *server) column(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	s.html(g, http.StatusOK, "column.html", now.Column(view, query.ColumnAsked{Seek: g.Query("seek"), Which: g.Query("which"), Sort: g.Query("sort")}))
}

// order shows the children of a concept in another order.
func (s *server) order(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Order(cm.ID(g.Query("parent")), layout.Order(g.Query("way")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "order.html", v)
}

package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

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

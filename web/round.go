package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/workspace/query"
)

// getRound is the order of a round of checking, and the proposition at which it begins.
func (s *server) getRound(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v := now.Round(g.Query("order"), who)
	switch {
	case len(v.Keys) == 0 && g.Query("order") == query.OrderDisputed:
		s.fail(g, http.StatusUnprocessableEntity, "There is nothing left on which raters disagree.", nil)
		return
	case len(v.Keys) == 0:
		s.fail(g, http.StatusUnprocessableEntity, "There is no sentence to check yet. Give a link its words first.", nil)
		return
	}
	v.One, _ = now.RoundOne(v.Keys[v.At], g.Query("order"), who)
	s.html(g, http.StatusOK, "round", v)
}

// getRoundOne is one proposition of a round.
func (s *server) getRoundOne(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, known := now.RoundOne(g.Query("key"), g.Query("order"), who)
	if !known {
		g.Status(http.StatusNoContent) // it is gone, and the round goes on
		return
	}
	s.html(g, http.StatusOK, "round-one", v)
}

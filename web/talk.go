package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// talk is what was said of a thing, in a panel of its own.
func (s *server) talk(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	s.html(g, http.StatusOK, "talk-panel", now.Talk(g.Query("on"), who))
}

// noteCard is a note as it lies open on the paper.
func (s *server) noteCard(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, there := now.NoteCard(g.Query("on"))
	if !there {
		s.fail(g, http.StatusNotFound, "There is no note on it any more.", nil)
		return
	}
	s.html(g, http.StatusOK, "note-card", v)
}

// cards are the cards of a route, small, beside what they speak of.
func (s *server) cards(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	route := cm.ID(g.Query("route"))
	if now.Map.Routes[route] == nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
		return
	}
	g.Data(http.StatusOK, "image/svg+xml", []byte(now.CardsOf(view, route)))
}

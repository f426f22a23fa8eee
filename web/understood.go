package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/workspace/query"
)

// isUnderstanding tells that one goes through concepts, to say which are clear.
func isUnderstanding(g *gin.Context) bool {
	order := g.Query("order")
	return order == query.OrderUnderstand || order == query.OrderUnclear
}

// getUnderstanding is the order in which one goes through concepts, and the first of them.
func (s *server) getUnderstanding(g *gin.Context, now *query.Reading) {
	who, _ := asker(g)
	v, err := now.Understood(g.Request.Context(), s.work, who, g.Query("order"))
	switch {
	case err != nil:
		s.failWith(g, err)
	case len(v.Keys) == 0 && g.Query("order") == query.OrderUnclear:
		s.fail(g, http.StatusUnprocessableEntity, "Nothing is marked as unclear.", nil)
	case len(v.Keys) == 0:
		s.fail(g, http.StatusUnprocessableEntity, "There is no concept yet.", nil)
	default:
		s.html(g, http.StatusOK, "understand", v)
	}
}

// getUnderstood is what a person marked for themselves.
func (s *server) getUnderstood(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Understood(g.Request.Context(), s.work, who, query.OrderUnclear)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "understood", v)
}

// postUnderstood marks a concept as clear or unclear, for whoever asks alone.
func (s *server) postUnderstood(g *gin.Context) {
	who, id := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	concept := cm.ID(g.PostForm("concept"))
	known := func(c cm.ID) bool { return now.Map.Concepts[c] != nil }
	if !known(concept) {
		s.failWith(g, cm.Refusef("That concept is no longer on the map."))
		return
	}
	var clear *bool
	if mark := g.PostForm("mark"); mark != "" {
		is := mark == "clear"
		clear = &is
	}
	if err := s.reach(g).SetUnderstood(g.Request.Context(), id, who.ID, concept, clear, known); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// unclearList is what is unclear to a person, as a file.
func (s *server) unclearList(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	words, err := now.UnclearText(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Content-Disposition", `attachment; filename="unclear.txt"`)
	g.Data(http.StatusOK, "text/plain; charset=utf-8", []byte(words))
}

package web

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"mevrin/core/conceptmap/edit"
	"mevrin/workspace"
)

// postEntry takes one gesture down the road.
func (s *server) postEntry(g *gin.Context) {
	who, id := asker(g)
	var asked workspace.Asked
	if err := s.readJSON(g, &asked, "This change did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).Perform(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// changesSince brings a window up to date that shows an earlier revision.
func (s *server) changesSince(g *gin.Context) {
	who, id := asker(g)
	since, err := strconv.Atoi(g.Query("since"))
	if err != nil || since < 0 {
		s.fail(g, http.StatusBadRequest, "That is no revision of this map.", nil)
		return
	}
	answer, err := s.work.Session(id).CatchUp(g.Request.Context(), who, since)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// postView changes how the person asking sees a map.
func (s *server) postView(g *gin.Context) {
	who, id := asker(g)
	var asked workspace.AskedView
	const refused = "What to show did not arrive whole. Please reload the page."
	if err := s.readJSON(g, &asked, refused); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).SetView(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// postTried answers with the drawing as it would be.
func (s *server) postTried(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		Operations edit.Operations `json:"operations"`
	}
	if err := s.readJSON(g, &asked, "What to try out did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).TryOut(g.Request.Context(), who, asked.Operations.List)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

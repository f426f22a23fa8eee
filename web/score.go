package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/score"
	"mevrin/store"
)

// getScore is what the map earns by its rubric.
func (s *server) getScore(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Score(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "score", v)
}

// postWeight gives the operations that change a weight, readRubric those that take up the rubric of
// a file: they come back by the road of any other edit.
func (s *server) postWeight(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	steps, err := now.StepsToWeigh(cm.Earns(g.PostForm("what")), g.PostForm("points"))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, gin.H{"steps": steps})
}

func (s *server) readRubric(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	raw, err := uploaded(g)
	if err == nil {
		raw, err = now.StepsToRead(raw)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Data(http.StatusOK, "application/json; charset=utf-8", append(append([]byte(`{"steps":`), raw...), '}'))
}

// rubricFile is the rubric of the map as a file.
func (s *server) rubricFile(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		g.Header("Content-Disposition", `attachment; filename="rubric.json"`)
		g.IndentedJSON(http.StatusOK, score.Rubric{Version: 1, Rubric: now.Map.Rubric})
	}
}

// keepRubric keeps the rubric of a map under its title, for other maps; dropRubric forgets one.
func (s *server) keepRubric(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	name := g.PostForm("name")
	if err := s.reach(g).Keep(g.Request.Context(), who.ID, store.KeptRubric, name, score.Rubric{Version: 1, Rubric: now.Map.Rubric}); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

func (s *server) dropRubric(g *gin.Context) {
	who, _ := asker(g)
	if err := s.reach(g).Drop(g.Request.Context(), who.ID, store.KeptRubric, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

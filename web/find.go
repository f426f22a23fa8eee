package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// find seeks words on the map.
func (s *server) find(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	s.html(g, http.StatusOK, "found.html", now.Find(g.Query("q")))
}

// replaced shows what replacing words would do. Nothing is done yet: the
// operations come back by the road of any other edit.
func (s *server) replaced(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	s.html(g, http.StatusOK, "replaced.html", now.Replaced(g.PostForm("seek"), g.PostForm("with")))
}

func (s *server) split(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Split(cm.ID(g.Query("concept")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "split.html", v)
}

// places gives the free places around a concept or a phrase.
func (s *server) places(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	g.JSON(http.StatusOK, now.Places(view, g.Query("of")))
}

package web

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/workspace/query"
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

// getWho answers with who put what on the map, as a lens.
func (s *server) getWho(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	who, id := asker(g)
	names, err := s.names(g)
	deeds, errs := s.reach(g).DeedsOn(g.Request.Context(), id)
	if err = errors.Join(err, errs); err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, now.Who(deeds, names, who.ID))
}

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

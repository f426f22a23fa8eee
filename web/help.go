package web

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"mevrin/docs"
)

// helpView is what the handbook shows: its pages, or those on which something stands,
// and the one that is open.
type helpView struct {
	Pages  []docs.Page
	Open   *docs.Page
	Sought string
}

// help shows a page of the handbook, or finds pages; to a script the inside alone.
func (s *server) help(g *gin.Context) {
	v := helpView{Pages: docs.Find(g.Query("seek")), Sought: g.Query("seek")}
	name := g.Param("page")
	if name == "" && v.Sought == "" {
		name = docs.Pages[0].Name
	}
	if name != "" {
		at := slices.IndexFunc(docs.Pages, func(p docs.Page) bool { return p.Name == name })
		if at < 0 {
			s.fail(g, http.StatusNotFound, "The handbook has no such page.", nil)
			return
		}
		v.Open = &docs.Pages[at]
	}
	page := "help.html"
	if g.GetHeader("HX-Request") != "" {
		page = "help-inside"
	}
	s.html(g, http.StatusOK, page, v)
}

// helpPicture sends a picture of the handbook.
func (s *server) helpPicture(g *gin.Context) {
	raw, err := docs.Screenshot(g.Param("name"))
	if err != nil {
		s.fail(g, http.StatusNotFound, "The handbook has no such picture.", nil)
		return
	}
	g.Header("Cache-Control", "max-age=3600")
	g.Data(http.StatusOK, "image/png", raw)
}

package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// makeMap makes a map: with one concept in the middle, empty, from an outline,
// or with a loose idea for each line. What is refused comes back in the form.
func (s *server) makeMap(g *gin.Context) {
	who, _ := asker(g)
	form := beginForm{g.PostForm("question"), g.PostForm("begin"), g.PostForm("lines"), cm.Dress(g.PostForm("dress")), g.PostForm("key"), g.PostForm("picture")}
	id, err := s.work.Begin(g.Request.Context(), who, form)
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showLibrary(g, http.StatusUnprocessableEntity, libraryView{Fault: refusal.Words, Form: form}, "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
	}
}

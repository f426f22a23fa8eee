package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// pasted reads lines from outside and shows what would become of them. Nothing
// is done yet: the operations come back by the road of any other edit.
func (s *server) pasted(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Pasted(g.PostForm("text"), cm.ID(g.PostForm("under")), g.PostForm("shorten") != "false")
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		v.Fault = refusal.In(say(g))
	} else if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "pasted.html", v)
}

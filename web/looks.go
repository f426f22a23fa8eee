package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/store"
)

// ownLookView is a look of the author's own, with what puts it on.
type ownLookView struct{ Name, Steps string }

func (s *server) ownLooks(g *gin.Context, v *marginView, author string) error {
	all, err := s.Store.OwnLooks(g.Request.Context(), author)
	for _, own := range all {
		steps := written(map[string]any{"do": "set-look", "plain": true, "dress": own.Look.Dress, "paper": own.Look.Paper, "line": own.Look.Line, "large": own.Look.Large, "by": own.Look.By})
		v.OwnLooks = append(v.OwnLooks, ownLookView{own.Name, steps})
	}
	return err
}

// postLook keeps the look of a map under a name.
func (s *server) postLook(g *gin.Context) {
	who, id, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	now, err := s.desks.get(id).look(g.Request.Context())
	if err == nil {
		err = s.Store.KeepLook(g.Request.Context(), who.ID, store.OwnLook{Name: g.PostForm("name"), Look: now.m.Look.Portable()})
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// dropLook forgets a look of the author's own.
func (s *server) dropLook(g *gin.Context) {
	who, _, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	if err := s.Store.DropLook(g.Request.Context(), who.ID, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

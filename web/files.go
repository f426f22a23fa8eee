package web

import (
	"mime"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
)

// document sends the map as a file that Mevrin reads again.
func (s *server) document(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.turn(g.Request.Context())()
	m := now.m
	if g.Query("talk") == "no" {
		m = m.WithoutTalk()
	}
	raw, err := document.Write(m)
	if err != nil {
		s.failWith(g, err)
		return
	}
	attach(g, now.m, ".json", "application/json", raw)
}

// drawing sends the map as a picture.
func (s *server) drawing(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.turn(g.Request.Context())()
	attach(g, now.m, ".svg", "image/svg+xml", []byte(now.Picture(s.work.pictures(g.Request.Context(), now.m.ID))))
}

func attach(g *gin.Context, m *cm.Map, ending, kind string, raw []byte) {
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": FileName(m.Name()) + ending}))
	g.Data(http.StatusOK, kind, raw)
}

package web

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/store"
	"mevrin/workspace"
)

// currentPicture is the picture of a map as it is at any time, for whoever has its address: documents and
// pages that refresh it bring later changes along.
func (s *server) currentPicture(g *gin.Context) {
	p := admitted(g)
	name := g.Param("name")
	f := formats.ByName(name, "")
	if !strings.HasPrefix(name, "map.") || f == nil || f.ID != "svg" && f.ID != "png" {
		s.fail(g, http.StatusNotFound, "This address has pictures as map.svg and map.png.", nil)
		return
	}
	now, err := s.work.Session(p.grant.MapID).Look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	mark := fmt.Sprintf(`"%d-%s"`, now.Revision, f.ID)
	g.Header("ETag", mark)
	g.Header("Cache-Control", "no-cache") // kept, and asked about each time
	g.Header("Cross-Origin-Resource-Policy", "cross-origin")
	if g.GetHeader("If-None-Match") == mark {
		g.Status(http.StatusNotModified)
		return
	}
	done, err := workspace.TakeTurn(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer done()
	e := content.New(f.Leaving(now.Map, false, false))
	e.Picture = s.work.Pictures(g.Request.Context(), p.who, p.grant.MapID)
	raw, err := f.Write(e)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Data(http.StatusOK, f.Type, raw)
}

// postPictureLink makes an address at which the picture of a map stays current.
func (s *server) postPictureLink(g *gin.Context) {
	who, id := asker(g)
	s.backToExport(g, s.work.MakeLink(g.Request.Context(), who, id, store.AllowsPicture, "", workspace.Limits{}), id)
}

// backToExport leads back to where the address was asked for.
func (s *server) backToExport(g *gin.Context, err error, id cm.ID) {
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/export?format=svg#current")
}

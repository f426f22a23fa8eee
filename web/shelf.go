package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/workspace"
)

// shelf lists pictures and sounds that can be attached, found by words.
func (s *server) shelf(g *gin.Context) {
	s.html(g, http.StatusOK, "shelf.html", gin.H{"Items": s.work.Shelf.Find(g.Query("seek"), g.Query("licence")), "Seek": g.Query("seek")})
}

// shelfItem shows or plays an item before it is taken.
func (s *server) shelfItem(g *gin.Context) {
	item, raw, ok := s.work.Shelf.Content(g.Param("item"))
	if !ok {
		s.fail(g, http.StatusNotFound, "There is nothing of that name on the shelf.", nil)
		return
	}
	g.Header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox; frame-ancestors 'none'")
	g.Header("Cache-Control", "max-age=300")
	kind := map[string]string{"picture": "image/svg+xml", "sound": "audio/wav"}[item.Kind]
	g.Data(http.StatusOK, kind, raw)
}

// takeFromShelf keeps an item as a file of the map, with its description and
// licence.
func (s *server) takeFromShelf(g *gin.Context) {
	who, id := asker(g)
	source, err := s.work.FromShelf(g.Request.Context(), id, who, g.Param("item"))
	switch {
	case errors.Is(err, workspace.ErrNotOnShelf):
		s.fail(g, http.StatusNotFound, "There is nothing of that name on the shelf.", nil)
	case err != nil:
		s.failWith(g, err)
	default:
		g.JSON(http.StatusOK, keptView{File: *source.File, Title: source.Title, Kind: source.Kind(), Says: source.Says, Licence: source.Licence})
	}
}

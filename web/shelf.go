package web

import (
	"bytes"
	"net/http"

	"github.com/gin-gonic/gin"
)

// shelf lists pictures and sounds that can be attached, found by words.
func (s *server) shelf(g *gin.Context) {
	if _, _, ok := s.allow(g, MayEdit); !ok {
		return
	}
	g.HTML(http.StatusOK, "shelf.html", gin.H{"Items": s.Shelf.Find(g.Query("seek"), g.Query("licence")), "Seek": g.Query("seek")})
}

// shelfItem shows or plays an item before it is taken.
func (s *server) shelfItem(g *gin.Context) {
	item, raw, ok := s.Shelf.Content(g.Param("item"))
	if !ok {
		s.fail(g, http.StatusNotFound, "There is nothing of that name on the shelf.", nil)
		return
	}
	g.Header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox")
	g.Header("Cache-Control", "max-age=300")
	kind := map[string]string{"picture": "image/svg+xml", "sound": "audio/wav"}[item.Kind]
	g.Data(http.StatusOK, kind, raw)
}

// takeFromShelf keeps an item as a file of the map, with its description and
// licence.
func (s *server) takeFromShelf(g *gin.Context) {
	who, id, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	item, raw, ok := s.Shelf.Content(g.Param("item"))
	if !ok {
		s.fail(g, http.StatusNotFound, "There is nothing of that name on the shelf.", nil)
		return
	}
	kept, err := s.Store.KeepFile(g.Request.Context(), id, who.ID, item.File, bytes.NewReader(raw), Recognise)
	if err != nil {
		s.failWith(g, err)
		return
	}
	view := keptViewOf(kept)
	view.Title, view.Says, view.Licence = item.Title, item.Says, item.Licence
	g.JSON(http.StatusOK, view)
}

package web

import (
	"bytes"
	"errors"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/format/cite"
	"mevrin/format/picture"
	"mevrin/markdown"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// document sends the map as a file that Mevrin reads again.
func (s *server) document(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	m := now.Map
	if g.Query("talk") == "no" {
		m = m.WithoutDiscussion()
	}
	raw, err := document.Write(m)
	if err != nil {
		s.failWith(g, err)
		return
	}
	attach(g, now.Map, ".json", "application/json", raw)
}

// part gives concepts of a map, as it was at a revision, as a map of their own that can be
// put down elsewhere.
func (s *server) part(g *gin.Context) {
	who, id := asker(g)
	revision, err := strconv.Atoi(g.Query("revision"))
	if err != nil {
		s.fail(g, http.StatusBadRequest, "That is no revision of this map.", nil)
		return
	}
	var concepts []cm.ID
	for _, one := range strings.Split(g.Query("concepts"), ",") {
		concepts = append(concepts, cm.ID(one))
	}
	part, err := s.work.Part(g.Request.Context(), who, id, revision, concepts)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	g.JSON(http.StatusOK, part)
}

// drawing sends the map as a picture.
func (s *server) drawing(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	attach(g, now.Map, ".svg", "image/svg+xml", []byte(now.Picture(g.Query("judged") == "yes", s.work.Pictures(g.Request.Context(), who, now.Map.ID))))
}

func attach(g *gin.Context, m *cm.Map, ending, kind string, raw []byte) {
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": workspace.FileName(m.Name()) + ending}))
	g.Data(http.StatusOK, kind, raw)
}

// keptView is a file that was kept, as the page attaches it.
type keptView struct {
	File  cm.File       `json:"file"`
	Title string        `json:"title"`
	Kind  cm.SourceKind `json:"kind"`
	// Of something taken from the shelf.
	Says    string `json:"says,omitempty"`
	Licence string `json:"licence,omitempty"`
}

// Size says how large the file is.
func (k keptView) Size() string { return query.BytesWords(k.File.Size) }

func keptViewOf(k store.Kept) keptView {
	return keptView{File: k.File, Title: k.Name, Kind: cm.Source{File: &k.File}.Kind()}
}

// postFile keeps a file that was dropped, pasted or chosen. The body is the file
// itself; its name stands in the address.
func (s *server) postFile(g *gin.Context) {
	who, id := asker(g)
	name, kept, err := s.work.KeepFile(g.Request.Context(), who, id, g.Query("name"), g.Request.Body)
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		s.failSaying(g, http.StatusRequestEntityTooLarge, say(g).Sprintf("“%s” is too large: a file can have at most %s. Nothing on the map has changed.", name, query.BytesWords(maxFile)), nil)
	case errors.Is(err, picture.ErrTooLarge):
		s.failWith(g, cm.Refusef("“%s” has more pixels than can be shown. Save it smaller, at most 40 megapixels and 20,000 pixels wide or high, and bring it again.", name))
	case err != nil:
		s.failWith(g, err)
	default:
		g.JSON(http.StatusOK, keptViewOf(kept))
	}
}

// inPlace are the sorts of files that a browser shows itself without running
// anything of them.
func inPlace(kind string) bool {
	switch {
	case kind == "image/svg+xml":
		return true // as a picture; opened by itself the policy below holds it still
	case strings.HasPrefix(kind, "image/"), strings.HasPrefix(kind, "audio/"), strings.HasPrefix(kind, "video/"):
		return true
	}
	return kind == "application/pdf"
}

// file sends a file of a map: what can be shown is shown, the rest is saved. It
// can run nothing and load nothing.
func (s *server) file(g *gin.Context) {
	if kept, path, ok := s.fileAsked(g); ok {
		s.sendFile(g, kept, path)
	}
}

// keepable says how long a browser may keep a file: for good where its content is
// named by its address and whoever asks is at home here; whoever has a link asks
// each time, since the link may be closed.
func keepable(g *gin.Context, hash string) {
	h := g.Writer.Header()
	h.Set("Cache-Control", "private, max-age=31536000, immutable")
	if g.Param("token") != "" {
		h.Set("Cache-Control", "private, no-cache")
	}
	h.Set("ETag", `"`+hash+`"`)
}

func (s *server) sendFile(g *gin.Context, kept store.Kept, path string) {
	content, err := s.Store.OpenFile(path)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer func() { _ = content.Close() }()
	h := g.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox; frame-ancestors 'none'")
	if kept.Type == "application/pdf" {
		h.Set("Content-Security-Policy", "default-src 'none'; object-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'none'")
	}
	keepable(g, kept.Hash)
	way := "attachment"
	kind := "application/octet-stream"
	if inPlace(kept.Type) {
		way, kind = "inline", kept.Type
	}
	h.Set("Content-Type", kind)
	h.Set("Content-Disposition", mime.FormatMediaType(way, map[string]string{"filename": kept.Name}))
	http.ServeContent(g.Writer, g.Request, "", time.Time{}, content)
}

// smallFile sends a picture as it stands on a slip.
func (s *server) smallFile(g *gin.Context) {
	if kept, path, ok := s.fileAsked(g); ok {
		s.sendSmall(g, kept, path)
	}
}

func (s *server) sendSmall(g *gin.Context, kept store.Kept, path string) {
	if kept.Type == "image/svg+xml" || !strings.HasPrefix(kept.Type, "image/") {
		s.sendFile(g, kept, path)
		return
	}
	raw, err := s.work.SmallPicture(g.Request.Context(), kept, path)
	if err != nil {
		s.sendFile(g, kept, path) // a sort that only browsers know
		return
	}
	g.Header("Content-Security-Policy", "default-src 'none'; sandbox; frame-ancestors 'none'")
	keepable(g, kept.Hash+"-small")
	g.Header("Content-Type", http.DetectContentType(raw[:min(len(raw), 512)]))
	http.ServeContent(g.Writer, g.Request, "", time.Time{}, bytes.NewReader(raw))
}

// fileAsked finds the file that is asked for, for one who may look at its map.
func (s *server) fileAsked(g *gin.Context) (store.Kept, string, bool) {
	_, id := asker(g)
	kept, path, err := s.reach(g).FileOf(g.Request.Context(), id, g.Param("file"))
	if err != nil {
		s.failWith(g, err)
		return store.Kept{}, "", false
	}
	return kept, path, true
}

// ownSmallFile shows a file that the person brought to any map, small.
func (s *server) ownSmallFile(g *gin.Context) {
	who, _ := asker(g)
	kept, path, err := s.reach(g).OwnFile(g.Request.Context(), who.ID, g.Param("file"))
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.sendSmall(g, kept, path)
}

// files are those that the person brought before, to be used again.
func (s *server) files(g *gin.Context) {
	who, _ := asker(g)
	all, err := s.reach(g).FilesBy(g.Request.Context(), who.ID)
	if err != nil {
		s.failWith(g, err)
		return
	}
	views := make([]keptView, len(all))
	for i, k := range all {
		views[i] = keptViewOf(k)
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "files.html", views)
}

// useFile lets this map use a file that the person brought to another.
func (s *server) useFile(g *gin.Context) {
	who, id := asker(g)
	if err := s.reach(g).UseFile(g.Request.Context(), id, who.ID, g.Param("file")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// walkFile sends a file that belongs to what a walk shows, to whoever has its link.
func (s *server) walkFile(g *gin.Context) {
	now, grant := s.walked(g)
	if now == nil {
		return
	}
	shown := now.Shows(grant.Route, g.Param("file"))
	kept, path, err := s.reach(g).FileOf(g.Request.Context(), grant.MapID, g.Param("file"))
	if !shown || err != nil {
		s.failWith(g, store.ErrNoFile)
		return
	}
	if strings.HasSuffix(g.FullPath(), "/small") {
		s.sendSmall(g, kept, path)
		return
	}
	s.sendFile(g, kept, path)
}

// cited reads works that were pasted as BibTeX or CSL-JSON, for the page to attach.
func (s *server) cited(g *gin.Context) {
	all, err := query.ReadCited(g.PostForm("text"))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, all)
}

// passage gives what was copied from a page as text for a note.
func (s *server) passage(g *gin.Context) {
	g.String(http.StatusOK, "%s", markdown.Passage(g.PostForm("page"), cm.CleanAddress))
}

// citations sends all works that the map cites, each once.
func (s *server) citations(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	all := now.Structure.Citations()
	if g.Param("form") == "bib" {
		attach(g, now.Map, ".bib", "application/x-bibtex; charset=utf-8", []byte(cite.WriteBibTeX(all)))
		return
	}
	raw, err := cite.WriteCSL(all)
	if err != nil {
		s.failWith(g, err)
		return
	}
	attach(g, now.Map, ".csl.json", "application/vnd.citationstyles.csl+json", raw)
}

// preview tells what is known of the page at an address, before it is attached.
func (s *server) preview(g *gin.Context) {
	g.JSON(http.StatusOK, s.Previewer.Preview(g.Query("url")))
}

package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gabriel-vasile/mimetype"
	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/format/cite"
	"mevrin/format/picture"
	"mevrin/store"
)

// sourceView is a source as the margin shows it.
type sourceView struct {
	ID cm.ID
	cm.Source
	Kind cm.SourceKind
	Name string
	Href string // relative to the map's address
	Size string
	Thing,
	ThingID string // what it is attached to, for its operations
}

func sourceViews(all map[cm.ID]cm.Source, on cm.Key) []sourceView {
	var views []sourceView
	for _, id := range cm.SourceList(all) {
		src := all[id]
		v := sourceView{ID: id, Source: src, Kind: src.Kind(), Name: src.Name(), Thing: string(on.Kind), ThingID: string(on.ID)}
		if src.File != nil {
			v.Href, v.Size = "files/"+src.File.Hash, bytesWords(src.File.Size)
		}
		views = append(views, v)
	}
	return views
}

func bytesWords(n int64) string {
	switch {
	case n >= 1<<20:
		return fmt.Sprintf("%.1f MB", float64(n)/(1<<20))
	case n >= 1<<10:
		return fmt.Sprintf("%d kB", n>>10)
	}
	return fmt.Sprintf("%d bytes", n)
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

func keptViewOf(k store.Kept) keptView {
	return keptView{File: k.File, Title: k.Name, Kind: cm.Source{File: &k.File}.Kind()}
}

// postFile keeps a file that was dropped, pasted or chosen. The body is the file
// itself; its name stands in the address.
func (s *server) postFile(g *gin.Context) {
	who, id := asker(g)
	if _, err := s.sessions.get(id).look(g.Request.Context()); err != nil {
		s.failWith(g, err)
		return
	}
	name, err := cm.Clean(filepath.Base(strings.ReplaceAll(g.Query("name"), `\`, "/")), cm.MaxSourceName, "The name of a file")
	if err != nil || name == "." || name == "/" {
		name = ""
	}
	kept, err := s.Store.KeepFile(g.Request.Context(), id, who.ID, name, g.Request.Body, Recognise)
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		s.fail(g, http.StatusRequestEntityTooLarge, fmt.Sprintf("“%s” is too large: a file can have at most %s. Nothing on the map has changed.", name, bytesWords(maxFile)), nil)
	case errors.Is(err, picture.ErrTooLarge):
		s.failWith(g, &cm.Refusal{Words: "“" + name + "” has more pixels than can be shown. Save it smaller, at most 40 megapixels and 20,000 pixels wide or high, and bring it again."})
	case err != nil:
		s.failWith(g, err)
	default:
		s.prepare(g, id, kept)
		g.JSON(http.StatusOK, keptViewOf(kept))
	}
}

// prepare makes what a picture looks like on a slip, so that nobody waits for it
// when the map is opened. Where it cannot be made the picture itself is shown.
func (s *server) prepare(g *gin.Context, id cm.ID, kept store.Kept) {
	if kept.W == 0 || kept.Type == "image/svg+xml" {
		return
	}
	if _, path, err := s.Store.FileOf(g.Request.Context(), id, kept.Hash); err == nil {
		_, _ = s.smallOf(g.Request.Context(), kept, path)
	}
}

// Recognise tells what a file is by what is in it, never by its name, and how
// large it is where it is a picture; it says why where it cannot be kept.
func Recognise(f *cm.File, path string) error {
	if f.Size == 0 {
		return &cm.Refusal{Words: "That file is empty."}
	}
	kind, err := mimetype.DetectFile(path)
	if err != nil {
		return err
	}
	f.Type, _, _ = mime.ParseMediaType(kind.String())
	if !strings.HasPrefix(f.Type, "image/") {
		return nil
	}
	raw, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	f.W, f.H, err = picture.Extent(raw, f.Type)
	if errors.Is(err, picture.ErrUnreadable) {
		// It says that it is a picture, and is none that can be shown.
		f.Type = "application/octet-stream"
		return nil
	}
	return err
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

// smallSize is how large the pictures on slips are at most, in pixels: twice as
// large as they stand there, for fine screens.
const smallSize = 2 * cm.MaxPicture

// smallFile sends a picture as it stands on a slip.
func (s *server) smallFile(g *gin.Context) {
	if kept, path, ok := s.fileAsked(g); ok {
		s.sendSmall(g, kept, path)
	}
}

// decoding is held by whoever decodes a picture: one at a time, since one may take
// as much memory as all else together.
var decoding = make(chan struct{}, 1)

// errNoSmall tells that a picture could not be made smaller when it was tried.
var errNoSmall = errors.New("this picture cannot be made smaller here")

// smallOf gives a picture as it stands on a slip, made once; what failed once is
// not tried again.
func (s *server) smallOf(ctx context.Context, kept store.Kept, path string) ([]byte, error) {
	small, made := s.Store.Beside(kept.Hash, "small")
	if !made {
		if err := s.makeSmall(ctx, path, small); err != nil {
			return nil, err
		}
	}
	raw, err := s.readFile(small)
	if err == nil && len(raw) == 0 {
		err = errNoSmall
	}
	return raw, err
}

func (s *server) makeSmall(ctx context.Context, path, small string) error {
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-ctx.Done():
		return ctx.Err()
	}
	if _, err := os.Lstat(small); err == nil {
		return nil // another request made it
	}
	raw, err := s.readFile(path)
	if err != nil {
		return err
	}
	out, _, err := picture.Small(raw, smallSize)
	if err != nil {
		out = nil // remembered as what cannot be made
	}
	temp, err := os.CreateTemp(filepath.Dir(small), "small-*")
	if err != nil {
		return err
	}
	_, err = temp.Write(out)
	if err := errors.Join(err, temp.Close(), os.Rename(temp.Name(), small)); err != nil {
		_ = os.Remove(temp.Name())
		return err
	}
	return nil
}

func (s *server) readFile(path string) ([]byte, error) {
	file, err := s.Store.OpenFile(path)
	if err != nil {
		return nil, err
	}
	defer func() { _ = file.Close() }()
	return io.ReadAll(file)
}

// pictures gives those on the slips of a map, for a drawing that leaves it.
func (s *server) pictures(g *gin.Context, id cm.ID) func(string) (string, []byte, bool) {
	return func(hash string) (string, []byte, bool) {
		kept, path, err := s.Store.FileOf(g.Request.Context(), id, hash)
		if err != nil {
			return "", nil, false
		}
		if kept.Type == "image/svg+xml" {
			raw, err := s.readFile(path)
			return kept.Type, raw, err == nil
		}
		raw, err := s.smallOf(g.Request.Context(), kept, path)
		return http.DetectContentType(raw[:min(len(raw), 512)]), raw, err == nil
	}
}

func (s *server) sendSmall(g *gin.Context, kept store.Kept, path string) {
	if kept.Type == "image/svg+xml" || !strings.HasPrefix(kept.Type, "image/") {
		s.sendFile(g, kept, path)
		return
	}
	raw, err := s.smallOf(g.Request.Context(), kept, path)
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
	kept, path, err := s.Store.FileOf(g.Request.Context(), id, g.Param("file"))
	if err != nil {
		s.failWith(g, err)
		return store.Kept{}, "", false
	}
	return kept, path, true
}

// files are those that the person brought before, to be used again.
func (s *server) files(g *gin.Context) {
	who, _ := asker(g)
	all, err := s.Store.FilesBy(g.Request.Context(), who.ID)
	if err != nil {
		s.failWith(g, err)
		return
	}
	views := make([]keptView, len(all))
	for i, k := range all {
		views[i] = keptViewOf(k)
	}
	g.Header("Cache-Control", "no-store")
	g.JSON(http.StatusOK, views)
}

// useFile lets this map use a file that the person brought to another.
func (s *server) useFile(g *gin.Context) {
	who, id := asker(g)
	if err := s.Store.UseFile(g.Request.Context(), id, who.ID, g.Param("file")); err != nil {
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
	part := guide.Part(now.m, guide.Growth(now.m, grant.Route))
	shown := slices.ContainsFunc(part.Files(), func(f cm.File) bool { return f.Hash == g.Param("file") })
	kept, path, err := s.Store.FileOf(g.Request.Context(), grant.MapID, g.Param("file"))
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
	all, err := cite.Read(g.PostForm("text"))
	switch {
	case errors.Is(err, cite.ErrNone):
		err = &cm.Refusal{Words: "There is no cited work in that. Paste BibTeX entries, or CSL-JSON as reference managers export it."}
	case errors.Is(err, cite.ErrTooMany):
		err = &cm.Refusal{Words: fmt.Sprintf("That is too much at once: at most %d works.", cite.MaxWorks)}
	case errors.Is(err, cite.ErrBroken):
		err = &cm.Refusal{Words: "That cannot be read to its end: is a bracket missing? Nothing was attached."}
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, all)
}

// citations sends all works that the map cites, each once.
func (s *server) citations(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	all := now.structure.Citations()
	if g.Param("form") == "bib" {
		attach(g, now.m, ".bib", "application/x-bibtex; charset=utf-8", []byte(cite.WriteBibTeX(all)))
		return
	}
	raw, err := cite.WriteCSL(all)
	if err != nil {
		s.failWith(g, err)
		return
	}
	attach(g, now.m, ".csl.json", "application/vnd.citationstyles.csl+json", raw)
}

// preview tells what is known of the page at an address, before it is attached.
func (s *server) preview(g *gin.Context) {
	g.JSON(http.StatusOK, s.Previewer.Preview(g.Query("url")))
}

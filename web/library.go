package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/standin/shelf"
	"mevrin/store"
)

// libraryView is the list of maps, with what was just done to one of them.
type libraryView struct {
	Maps   []store.Summary
	Binned int
	Done   string // discarded, restored, copied, renamed
	Fault  string
	Of     *store.Summary
	Form   beginForm
	// What a new map can begin with.
	Dresses  []choiceView
	Sets     []kinds.Set
	Pictures []shelf.Item
}

// library lists the maps.
func (s *server) library(g *gin.Context) {
	s.showLibrary(g, http.StatusOK, libraryView{Done: g.Query("done"), Form: beginForm{Begin: "concept"}}, cm.ID(g.Query("map")))
}

func (s *server) showLibrary(g *gin.Context, status int, v libraryView, of cm.ID) {
	var err error
	if v.Maps, err = s.Store.List(g.Request.Context()); err != nil {
		s.failWith(g, err)
		return
	}
	binned, err := s.Store.Bin(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	v.Binned = len(binned)
	v.Dresses, v.Sets, v.Pictures = dresses, kinds.Shipped, s.drawings()
	for _, all := range [][]store.Summary{v.Maps, binned} {
		for i := range all {
			if all[i].ID == of {
				v.Of = &all[i]
			}
		}
	}
	g.Header("Cache-Control", "no-store")
	g.HTML(status, "library.html", v)
}

// bin lists the maps that were deleted.
func (s *server) bin(g *gin.Context) {
	all, err := s.Store.Bin(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	g.HTML(http.StatusOK, "bin.html", gin.H{"Maps": all})
}

// upload makes a map of a file.
func (s *server) upload(g *gin.Context) {
	who, _ := asker(g)
	m, err := uploaded(g)
	if err == nil {
		m.ID = newMapID()
		err = s.Store.Put(g.Request.Context(), m, who.ID, nil)
		// What the person brought to another map here is there for this one, too.
		for _, f := range m.Files() {
			if err == nil {
				err = s.Store.UseFile(g.Request.Context(), m.ID, who.ID, f.Hash)
			}
			if errors.Is(err, store.ErrNoFile) {
				err = nil // its place on the map says what is missing
			}
		}
	}
	var refusal *cm.Refusal
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		s.showLibrary(g, http.StatusRequestEntityTooLarge, libraryView{Fault: "This file is too large for a map. Nothing was changed.", Form: beginForm{Begin: "concept"}}, "")
	case errors.As(err, &refusal):
		s.showLibrary(g, http.StatusUnprocessableEntity, libraryView{Fault: refusal.Words, Form: beginForm{Begin: "concept"}}, "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(m.ID))
	}
}

func uploaded(g *gin.Context) (*cm.Map, error) {
	parts, err := g.Request.MultipartReader()
	if err != nil {
		return nil, &cm.Refusal{Words: "Choose a file first."}
	}
	for {
		part, err := parts.NextPart()
		if errors.Is(err, io.EOF) {
			return nil, &cm.Refusal{Words: "Choose a file first."}
		} else if err != nil {
			return nil, brokenOff(err)
		}
		if part.FormName() != "file" {
			continue
		}
		raw, err := io.ReadAll(part)
		if err != nil {
			return nil, brokenOff(err)
		}
		if len(raw) == 0 {
			return nil, &cm.Refusal{Words: "This file is empty, or none was chosen."}
		}
		return document.Read(raw)
	}
}

// brokenOff tells an upload that ended before its end from one that is too large.
func brokenOff(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return &cm.Refusal{Words: "The file did not arrive whole. Nothing was changed; please try again."}
}

// renameMap names a map from the list: an edit like any other.
func (s *server) renameMap(g *gin.Context) {
	who, id := asker(g)
	title, named := g.GetPostForm("title")
	ops, err := edit.MarshalOperations([]edit.Operation{&edit.NameMap{Title: title}})
	if !named {
		err = &cm.Refusal{Words: "The new name did not arrive. The map keeps the one that it has."}
	}
	if err == nil {
		_, err = s.sessions.get(id).perform(g.Request.Context(), who, Asked{ID: newThingID("g"), Window: "library", Operations: json.RawMessage(ops)})
	}
	s.backToLibrary(g, err, "renamed", id)
}

// copyMap makes a map like another one; links to its routes, comments and votes
// are not copied.
func (s *server) copyMap(g *gin.Context) {
	who, id := asker(g)
	now, err := s.sessions.get(id).look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer now.turn(g)()
	m := now.m
	twin := *m.WithoutTalk() // what was said was said of the other one
	twin.ID = newMapID()
	if name := []rune(m.Name()); len(name) > 0 {
		twin.Title = m.Title.With(m.Language, "Copy of "+string(name[:min(len(name), cm.MaxTitle-8)]))
	}
	err = s.Store.Put(g.Request.Context(), &twin, who.ID, nil)
	if err == nil {
		err = s.Store.ShareFiles(g.Request.Context(), twin.ID, id)
	}
	s.backToLibrary(g, err, "copied", twin.ID)
}

func (s *server) discardMap(g *gin.Context) { s.moveMap(g, s.Store.Discard, "discarded") }
func (s *server) restoreMap(g *gin.Context) { s.moveMap(g, s.Store.Restore, "restored") }

func (s *server) moveMap(g *gin.Context, move func(context.Context, cm.ID) error, done string) {
	_, id := asker(g)
	err := move(g.Request.Context(), id)
	s.sessions.forget(id)
	s.backToLibrary(g, err, done, id)
}

// destroyMap deletes a map in the bin for good.
func (s *server) destroyMap(g *gin.Context) {
	_, id := asker(g)
	if err := s.Store.Destroy(g.Request.Context(), id); err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/bin")
}

func (s *server) backToLibrary(g *gin.Context, err error, done string, id cm.ID) {
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/?"+url.Values{"done": {done}, "map": {string(id)}}.Encode())
}

// small is the drawing of a map in the list. Its address names the revision,
// so that a browser may keep it for good.
func (s *server) small(g *gin.Context) {
	_, id := asker(g)
	// A map that nobody works on is not kept for its small drawing.
	m, revision, err := s.Store.Load(g.Request.Context(), id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer (&state{m: m}).turn(g)()
	if g.Query("r") == fmt.Sprint(revision) {
		g.Header("Cache-Control", "private, max-age=31536000, immutable")
	}
	m = m.WithoutTalk()
	g.Data(http.StatusOK, "image/svg+xml", []byte(svg.Small(scene.Build(m, structure.Of(m), scene.View{}, nil))))
}

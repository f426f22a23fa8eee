package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/people"
	"mevrin/standin/shelf"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// makeMap makes a map: with one concept in the middle, empty, from an outline,
// or with a loose idea for each line. What is refused comes back in the form.
func (s *server) makeMap(g *gin.Context) {
	who, _ := asker(g)
	form := workspace.BeginForm{Question: g.PostForm("question"), Begin: g.PostForm("begin"), Lines: g.PostForm("lines"), Theme: cm.Theme(g.PostForm("dress")), Set: g.PostForm("key"), Picture: g.PostForm("picture"), Order: cm.Pattern(g.PostForm("order"))}
	id, err := s.work.Begin(g.Request.Context(), who, form)
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showLibrary(g, http.StatusUnprocessableEntity, libraryView{Fault: refusal.In(say(g)), Form: form}, "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
	}
}

// libraryView is the list of maps, with what was just done to one of them.
type libraryView struct {
	Me     *people.Person // nil where there are no accounts
	Sought string         // what is sought on all maps
	Found  []query.FoundMap
	Maps   []store.Summary
	Binned int
	Done   string // discarded, restored, copied, renamed
	Fault  string
	Of     *store.Summary
	Form   workspace.BeginForm
	// What a new map can begin with.
	Themes   []query.Choice
	Orders   []query.Choice
	Sets     []kinds.Set
	Pictures []shelf.Item
}

// library lists the maps.
func (s *server) library(g *gin.Context) {
	s.showLibrary(g, http.StatusOK, libraryView{Done: g.Query("done"), Form: workspace.BeginForm{Begin: "concept"}}, cm.ID(g.Query("map")))
}

func (s *server) showLibrary(g *gin.Context, status int, v libraryView, of cm.ID) {
	var err error
	v.Me = admitted(g).who.Account
	if v.Maps, err = s.reach(g).List(g.Request.Context()); err != nil {
		s.failWith(g, err)
		return
	}
	binned, err := s.reach(g).Bin(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	v.Binned = len(binned)
	if v.Sought = strings.TrimSpace(g.Query("seek")); v.Sought != "" && g.Request.Method == http.MethodGet {
		hits, err := s.reach(g).Search(g.Request.Context(), cm.Shortened(v.Sought, 200), query.MaxHits)
		if err != nil {
			s.failWith(g, err)
			return
		}
		v.Found = query.FoundOn(v.Maps, hits)
	}
	v.Themes, v.Orders, v.Sets, v.Pictures = query.Themes, query.Orders(), kinds.Shipped, s.work.Drawings()
	for _, all := range [][]store.Summary{v.Maps, binned} {
		for i := range all {
			if all[i].ID == of {
				v.Of = &all[i]
			}
		}
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "library.html", v)
}

// bin lists the maps that were deleted.
func (s *server) bin(g *gin.Context) {
	all, err := s.reach(g).Bin(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "bin.html", gin.H{"Maps": all})
}

// upload makes a map of a file of ours, and takes others to be looked at first.
func (s *server) upload(g *gin.Context) {
	who, _ := asker(g)
	files, err := brought(g)
	id := cm.ID("")
	if err == nil && (len(files) > 1 || !isOurs(files[0])) {
		var ids []string
		for _, f := range files {
			ids = append(ids, s.work.Wait(who, "", f.name, f.raw))
		}
		g.Redirect(http.StatusSeeOther, "/import?"+url.Values{"file": ids}.Encode())
		return
	}
	if err == nil {
		id, err = s.work.Upload(g.Request.Context(), who, files[0].raw)
	}
	var refusal *cm.Refusal
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		s.showLibrary(g, http.StatusRequestEntityTooLarge, libraryView{Fault: say(g).Sprintf("This file is too large for a map. Nothing was changed."), Form: workspace.BeginForm{Begin: "concept"}}, "")
	case errors.As(err, &refusal):
		s.showLibrary(g, http.StatusUnprocessableEntity, libraryView{Fault: refusal.In(say(g)), Form: workspace.BeginForm{Begin: "concept"}}, "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
	}
}

// brokenOff tells an upload that ended before its end from one that is too large.
func brokenOff(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return cm.Refusef("The file did not arrive whole. Nothing was changed; please try again.")
}

// renameMap names a map from the list: an edit like any other.
func (s *server) renameMap(g *gin.Context) {
	who, id := asker(g)
	title, named := g.GetPostForm("title")
	err := error(nil)
	if named {
		err = s.work.Rename(g.Request.Context(), who, id, title)
	} else {
		err = cm.Refusef("The new name did not arrive. The map keeps the one that it has.")
	}
	s.backToLibrary(g, err, "renamed", id)
}

// copyMap makes a map like another one.
func (s *server) copyMap(g *gin.Context) {
	who, id := asker(g)
	twin, err := s.work.Copy(g.Request.Context(), who, id)
	s.backToLibrary(g, err, "copied", twin)
}

func (s *server) discardMap(g *gin.Context) { s.moveMap(g, s.work.Discard, "discarded") }

func (s *server) restoreMap(g *gin.Context) { s.moveMap(g, s.work.Restore, "restored") }

func (s *server) moveMap(g *gin.Context, move func(context.Context, workspace.Person, cm.ID) error, done string) {
	who, id := asker(g)
	err := move(g.Request.Context(), who, id)
	s.backToLibrary(g, err, done, id)
}

// destroyMap deletes a map in the bin for good.
func (s *server) destroyMap(g *gin.Context) {
	_, id := asker(g)
	if err := s.reach(g).Destroy(g.Request.Context(), id); err != nil {
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
	who, id := asker(g)
	drawing, revision, err := s.work.Small(g.Request.Context(), who, id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	if g.Query("r") == fmt.Sprint(revision) {
		g.Header("Cache-Control", "private, max-age=31536000, immutable")
	}
	g.Data(http.StatusOK, "image/svg+xml", []byte(drawing))
}

package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/people"
	"mevrin/core/starters"
	"mevrin/standin/shelf"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// makeMap makes a map: with one concept in the middle, empty, from an outline,
// or with a loose idea for each line. What is refused comes back in the form.
func (s *server) makeMap(g *gin.Context) {
	who, _ := asker(g)
	form := workspace.BeginForm{Question: g.PostForm("question"), Begin: g.PostForm("begin"), Lines: g.PostForm("lines"), Theme: cm.Theme(g.PostForm("dress")), Set: g.PostForm("key"), Picture: g.PostForm("picture"), Order: cm.Pattern(g.PostForm("order")), Starter: g.PostForm("starter")}
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
	Here   string         // the address of the section
	Title  string         // of the section; a key of the catalogue
	Path   []store.Folder // the folders down to the one that is shown
	Folder *store.Folder  // the one that is shown; nil at the top
	Inside []store.Folder // the folders in it
	All    []query.Choice // all folders of one's own, indented, to move something into
	By     store.Order
	Count  int    // of all maps of the section and folder
	Next   int    // from which further ones are listed; 0 where there are none
	Shared int    // how many maps others share with me
	Sought string // what is sought on all maps
	Found  []query.FoundMap
	Maps   []store.Summary
	Binned int
	Done   string // discarded, restored, copied, renamed, filed, binned, template, first, not-first
	N      int    // with how many that was done
	Fault  string
	Of     *store.Summary
	Form   workspace.BeginForm
	// What a new map can begin with.
	Themes   []query.Choice
	Orders   []query.Choice
	Sets     []kinds.Set
	Pictures []shelf.Item
	Starters []starters.Starter

	nobody bool
}

// Manages tells that whoever looks looks after this Mevrin.
func (v libraryView) Manages() bool { return v.Me != nil && roleCan[v.Me.Role][CanManage] }

// First tells that a map is the first of those that were picked, Rest that it is the first of the others.
func (v libraryView) First(i int) bool { return i == 0 && v.Maps[0].Picked && v.Here == "/open" }
func (v libraryView) Rest(i int) bool {
	return i > 0 && v.Here == "/open" && v.Maps[i-1].Picked && !v.Maps[i].Picked
}

// Nobody tells that it is not known who looks.
func (v libraryView) Nobody() bool { return v.nobody }

// shownMaps is how many maps the library shows at once.
const shownMaps = 60

// library lists the maps.
func (s *server) library(g *gin.Context) {
	n, _ := strconv.Atoi(g.Query("n"))
	s.showLibrary(g, http.StatusOK, libraryView{Done: g.Query("done"), N: n, Form: workspace.BeginForm{Begin: "concept"}}, cm.ID(g.Query("map")))
}

// openToAll lets those come to what is open to all who are not signed in.
func (s *server) openToAll(g *gin.Context) {
	p, err := s.principalOf(g)
	if errors.Is(err, errSignIn) {
		p, err = principal{who: workspace.Person{ID: "nobody", Nobody: true, Say: say(g)}}, nil
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Set(principalKey, p)
}

func (s *server) showLibrary(g *gin.Context, status int, v libraryView, of cm.ID) {
	if err := s.listMaps(g, &v, of); err != nil {
		s.failWith(g, err)
		return
	}
	v.Themes, v.Orders, v.Sets, v.Pictures = query.Themes, query.Orders(), kinds.Shipped, s.work.Drawings()
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "library.html", v)
}

// listMaps reads what the library shows.
func (s *server) listMaps(g *gin.Context, v *libraryView, of cm.ID) error {
	ctx, reach := g.Request.Context(), s.reach(g)
	v.Here, v.Me, v.nobody = g.Request.URL.Path, admitted(g).who.Account, admitted(g).who.Nobody
	section, known := sections[v.Here]
	if !known { // what was refused comes back in the form
		v.Here, section = "/", store.SectionOwn
	}
	v.Title, v.By = nameOfSection(v.Here), store.Order(g.DefaultQuery("by", string(store.OrderChanged)))
	from, err := strconv.Atoi(g.DefaultQuery("from", "0"))
	if err != nil || from < 0 {
		return cm.Refusef("This address cannot be read: a part of it is damaged.")
	}
	listing := store.Listing{Section: section, Folder: g.Query("folder"), By: v.By, From: from, Most: shownMaps}
	if listing.Folder != "" {
		if v.Path, err = reach.Path(ctx, listing.Folder); err != nil {
			return err
		}
		v.Folder = &v.Path[len(v.Path)-1]
	}
	if section == store.SectionOwn || section == store.SectionShared {
		if v.Inside, err = reach.Folders(ctx, listing.Folder, section == store.SectionShared); err != nil {
			return err
		}
	}
	if section == store.SectionTemplates {
		v.Starters = starters.Shipped
	}
	if v.Maps, v.Count, err = reach.ListOf(ctx, listing); err != nil {
		return err
	}
	if v.Next = from + len(v.Maps); v.Next >= v.Count {
		v.Next = 0
	}
	if v.Me != nil || s.Accounts == nil {
		own, err := reach.AllFolders(ctx)
		if err != nil {
			return err
		}
		v.All = query.Indented(own)
	}
	if v.Me != nil {
		if _, v.Shared, err = reach.ListOf(ctx, store.Listing{Section: store.SectionShared, Most: 1}); err != nil {
			return err
		}
	}
	if v.Binned, err = reach.CountBin(ctx); err != nil {
		return err
	}
	if v.Sought = strings.TrimSpace(g.Query("seek")); v.Sought != "" && g.Request.Method == http.MethodGet {
		if v.Found, err = s.sought(g, v.Sought); err != nil {
			return err
		}
	}
	if of.Valid() {
		one, err := reach.Summary(ctx, of)
		if errors.Is(err, store.ErrNoMap) && section == store.SectionOpen { // it may be anybody's
			var open []store.Summary
			if open, _, err = reach.ListOf(ctx, store.Listing{Section: section, Only: []cm.ID{of}}); len(open) == 0 {
				return err
			}
			one = open[0]
		}
		if errors.Is(err, store.ErrNoMap) {
			return nil
		}
		v.Of = &one
		return err
	}
	return nil
}

// sought gives the maps on which words are found.
func (s *server) sought(g *gin.Context, words string) ([]query.FoundMap, error) {
	hits, err := s.reach(g).Search(g.Request.Context(), cm.Shortened(words, 200), query.MaxHits)
	if err != nil || len(hits) == 0 {
		return nil, err
	}
	only := []cm.ID{}
	for _, h := range hits {
		if !slices.Contains(only, h.MapID) {
			only = append(only, h.MapID)
		}
	}
	all, _, err := s.reach(g).ListOf(g.Request.Context(), store.Listing{Only: only})
	return query.FoundOn(all, hits), err
}

// bin lists the maps that were deleted.
func (s *server) bin(g *gin.Context) {
	all, err := s.reach(g).Bin(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "bin.html", gin.H{"Maps": all, "Days": store.DaysInBin})
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
	s.backTo(g, err, url.Values{"done": {done}, "map": {string(id)}})
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

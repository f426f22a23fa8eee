package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// sheetPage is what somebody sees of a sheet before they suggest what they did on it.
type sheetPage struct {
	query.SuggestionView
	MapID, Of cm.ID
	Title     string
	Drawing   string
	Marks     query.Marks
	Fault     string
	Said      string // the reason, as it was filled in
	Named     bool   // it is known what they are called
}

// beginSheet leads to somebody's sheet of a map.
func (s *server) beginSheet(g *gin.Context) {
	who, id := asker(g)
	if who.Bearer {
		s.beginGuestSheet(g)
		return
	}
	sheet, err := s.work.Sheet(g.Request.Context(), who, id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.keepFrom(g, sheet)
	g.Redirect(http.StatusSeeOther, "/maps/"+string(sheet))
}

// keepFrom lets a browser show, at the addresses of a sheet, by which link it came to the map of which it is one.
func (s *server) keepFrom(g *gin.Context, sheet cm.ID) {
	if came, err := g.Request.Cookie(linkCookie); err == nil {
		s.keepUnder(g, fromCookie, came.Value, sheet)
	}
}

// keepUnder has a browser keep something for the addresses of a map.
func (s *server) keepUnder(g *gin.Context, name, value string, under cm.ID) {
	http.SetCookie(g.Writer, &http.Cookie{Name: name, Value: value, Path: "/maps/" + string(under),
		HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: secure(g), MaxAge: 400 * 24 * 3600})
}

// fromCookie is where the browser of somebody who came by a link keeps, for the addresses of their sheet, by which
// link they came to the map of which it is one; sheetCookie, for those of the map, which sheet is theirs.
const fromCookie, sheetCookie = "mevrin-from", "mevrin-sheet"

// guestSheet gives the sheet that whoever came by a link has of a map already; empty where there is none.
func (s *server) guestSheet(g *gin.Context) (cm.ID, error) {
	_, id := asker(g)
	kept, err := g.Cookie(sheetCookie)
	sheet := cm.ID(kept)
	if err != nil || !sheet.Valid() {
		return "", nil
	}
	is, err := s.Store.IsTrial(g.Request.Context(), sheet)
	if err != nil || !is {
		return "", err
	}
	of, err := s.Store.All().Suggests(g.Request.Context(), sheet)
	if err != nil || of != id {
		return "", err
	}
	return sheet, nil
}

// beginGuestSheet leads whoever came by a link to a sheet of theirs. Their browser alone knows that it is theirs,
// as it knows by which link they came.
func (s *server) beginGuestSheet(g *gin.Context) {
	who, id := asker(g)
	sheet, err := s.guestSheet(g)
	if err != nil {
		s.failWith(g, err)
		return
	}
	if sheet != "" {
		g.Redirect(http.StatusSeeOther, "/maps/"+string(sheet))
		return
	}
	if s.sheets.TooOften(g.ClientIP()) {
		s.failWith(g, workspace.ErrTooOften)
		return
	}
	s.sheets.Failed(g.ClientIP()) // each counts; a class has one address
	grant, err := s.work.GuestSheet(g.Request.Context(), who, id)
	if err != nil {
		s.backToSuggestions(g, err, "", "")
		return
	}
	s.keepFrom(g, grant.MapID)
	s.keepUnder(g, sheetCookie, string(grant.MapID), id)
	s.showCameBy(g, grant)
}

// sheetOf gives the map of which one is a sheet, and whoever asks as they are known there, if they may still
// suggest something on it; it answers where they may not.
func (s *server) sheetOf(g *gin.Context) (who workspace.Person, of cm.ID, ok bool) {
	_, sheet := asker(g)
	of, err := s.reach(g).Suggests(g.Request.Context(), sheet)
	if err == nil && of != "" {
		var may Capabilities
		if who, may, err = s.Access.Ask(g.Request, of); err == nil && may[CanComment] {
			who.Say = say(g)
			return who, of, true
		}
	}
	if err == nil || errors.Is(err, store.ErrNoMap) || errors.Is(err, errSignIn) { // by a link that ended nobody is known
		s.fail(g, http.StatusNotFound, "There is nothing that this could be suggested for: the map is gone, or no longer open to you.", nil)
	} else {
		s.failWith(g, err)
	}
	return who, "", false
}

// sheet shows what would come of it.
func (s *server) sheet(g *gin.Context) { s.showSheet(g, http.StatusOK, "", "") }

func (s *server) showSheet(g *gin.Context, status int, fault, reason string) {
	who, id := asker(g)
	suggests, of, ok := s.sheetOf(g)
	if !ok {
		return
	}
	ctx := g.Request.Context()
	now, err := s.work.Session(of).Look(ctx)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer now.Turn(ctx)()
	v := sheetPage{MapID: id, Of: of, Title: now.Map.Name(), Fault: fault, Said: reason, Named: suggests.Name() != ""}
	if v.Seen, err = s.work.SheetSeen(ctx, who, id, now); err != nil {
		s.failWith(g, err)
		return
	}
	var refusal *cm.Refusal
	if errors.As(v.Seen.Why, &refusal) {
		v.Why = refusal.In(say(g))
	}
	v.Drawing, v.Marks = drawSuggested(g, v.Seen)
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "sheet.html", v)
}

// postSheet suggests what was done on a sheet, or throws it away.
func (s *server) postSheet(g *gin.Context) {
	who, id := asker(g)
	ctx := g.Request.Context()
	if g.PostForm("do") == "drop" {
		of, err := s.reach(g).Suggests(ctx, id)
		if err == nil {
			err = s.work.DropSheet(ctx, who, id)
		}
		if err != nil {
			s.failWith(g, err)
			return
		}
		to := "/maps/" + string(of)
		if _, _, err := s.Access.Ask(g.Request, of); err != nil { // it is no longer open to them
			to = "/"
		}
		g.Redirect(http.StatusSeeOther, to)
		return
	}
	suggests, of, ok := s.sheetOf(g)
	if !ok {
		return
	}
	which, err := s.work.SuggestSheet(ctx, who, id, suggests, of, g.PostForm("reason"), g.PostForm("name"))
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		s.showSheet(g, http.StatusUnprocessableEntity, refusal.In(say(g)), g.PostForm("reason"))
		return
	} else if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(of)+"/suggestions?done=suggested&show="+which)
}

package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
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
}

// beginSheet leads to somebody's sheet of a map.
func (s *server) beginSheet(g *gin.Context) {
	who, id := asker(g)
	if who.Scope.Person == "" && !who.Scope.All {
		s.fail(g, http.StatusForbidden, "A sheet of your own needs an account. Without one, fill in what you would alter.", nil)
		return
	}
	sheet, err := s.work.Sheet(g.Request.Context(), who, id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(sheet))
}

// sheetOf gives the map of which one is a sheet, if whoever asks may still suggest something on it; it answers
// where they may not.
func (s *server) sheetOf(g *gin.Context) (of cm.ID, ok bool) {
	_, sheet := asker(g)
	of, err := s.reach(g).Suggests(g.Request.Context(), sheet)
	if err == nil && of != "" {
		var may Capabilities
		if _, may, err = s.Access.Ask(g.Request, of); err == nil && may[CanComment] {
			return of, true
		}
	}
	if err == nil || errors.Is(err, store.ErrNoMap) {
		s.fail(g, http.StatusNotFound, "There is nothing that this could be suggested for: the map is gone, or no longer open to you.", nil)
	} else {
		s.failWith(g, err)
	}
	return "", false
}

// sheet shows what would come of it.
func (s *server) sheet(g *gin.Context) { s.showSheet(g, http.StatusOK, "", "") }

func (s *server) showSheet(g *gin.Context, status int, fault, reason string) {
	who, id := asker(g)
	of, ok := s.sheetOf(g)
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
	v := sheetPage{MapID: id, Of: of, Title: now.Map.Name(), Fault: fault, Said: reason}
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
	of, ok := s.sheetOf(g)
	if !ok {
		return
	}
	which, err := s.work.SuggestSheet(ctx, who, id, of, g.PostForm("reason"))
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

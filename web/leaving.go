package web

import (
	"errors"
	"mime"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// takeOut sends all that is of whoever asks.
func (s *server) takeOut(g *gin.Context) {
	who, _ := asker(g)
	g.Header("Content-Type", "application/zip")
	g.Header("Cache-Control", "no-store")
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": "mevrin " + workspace.FileName(who.Account.Name) + ".zip"}))
	if err := s.work.TakeOut(g.Request.Context(), who, g.Writer); err != nil {
		s.Log.Warn("what somebody took out broke off", "err", err)
		panic(http.ErrAbortHandler) // so that nobody takes half of it for all
	}
}

// leaving is the page on which somebody ends their account.
type leaving struct {
	Me       *people.Person
	Others   []people.Person
	Maps     int
	Password bool // they have one
	Fault    string
}

func (s *server) leavePage(g *gin.Context) { s.showLeaving(g, http.StatusOK, "") }

func (s *server) showLeaving(g *gin.Context, status int, fault string) {
	who, _ := asker(g)
	ctx := g.Request.Context()
	v := leaving{Me: who.Account, Fault: fault}
	all, err := s.Store.People(ctx)
	if err == nil {
		v.Others = othersThan(all, who.ID, nil)
		var secret string
		_, secret, err = s.Store.Person(ctx, who.ID)
		v.Password = workspace.HasPassword(secret)
	}
	if err == nil {
		v.Maps, err = s.reach(g).CountOwn(ctx)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "leave.html", v)
}

func (s *server) leave(g *gin.Context) {
	who, _ := asker(g)
	heir := g.PostForm("heir")
	var err error
	if g.PostForm("maps") == "delete" {
		heir = ""
	} else if heir == "" {
		err = cm.Refusef("Say who takes over the maps.")
	}
	if err == nil {
		err = s.work.Leave(g.Request.Context(), s.Accounts, who, g.PostForm("proof"), heir)
	}
	var refusal *cm.Refusal
	switch {
	case errors.Is(err, workspace.ErrTooOften):
		s.showLeaving(g, http.StatusTooManyRequests, say(g).Sprintf("That was tried too often. Please wait a minute."))
	case errors.As(err, &refusal):
		s.showLeaving(g, http.StatusUnprocessableEntity, refusal.In(say(g)))
	case err != nil:
		s.failWith(g, err)
	default:
		s.remember(g, "")
		s.showEntering(g, http.StatusOK, "sign-in.html", entering{Said: say(g).Sprintf("Your account has ended. What you said on maps of others stays there without your name.")})
	}
}

// recorded keeps that somebody took out what is of others: their map, or what they said of it.
func (s *server) recorded(g *gin.Context) {
	who, id := asker(g)
	if who.Account == nil {
		return
	}
	owner, err := s.reach(g).OwnerOf(g.Request.Context(), id)
	if err == nil && owner.ID != who.ID {
		err = s.Store.Record(g.Request.Context(), store.Deed{Person: who.ID, Deed: "exported", About: string(id) + " " + g.FullPath()})
	}
	if err != nil {
		s.Log.Warn("an export was not recorded", "map", id, "err", err)
	}
}

// recordedAlways keeps it whosever the map is: what is taken out is what others said.
func (s *server) recordedAlways(g *gin.Context) {
	who, id := asker(g)
	if who.Account == nil {
		return
	}
	if err := s.Store.Record(g.Request.Context(), store.Deed{Person: who.ID, Deed: "exported", About: string(id) + " " + g.FullPath()}); err != nil {
		s.Log.Warn("an export was not recorded", "map", id, "err", err)
	}
}

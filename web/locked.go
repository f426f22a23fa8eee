package web

import (
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"mevrin/store"
	"mevrin/workspace"
)

// errLocked tells that a link asks for a password first.
var errLocked = errors.New("the link asks for a password")

// underLink gives the path of the page of a link, under which all that belongs to it lies.
func underLink(g *gin.Context) string {
	kind, _, _ := strings.Cut(strings.TrimPrefix(g.Request.URL.Path, "/"), "/")
	return "/" + kind + "/" + g.Param("token")
}

// The names of what a browser shows of a link.
const (
	passCookie = "mevrin-pass" // that it knows the password
	seatCookie = "mevrin-seat" // that it was counted
)

// letIn refuses whoever has a link that asks for a password and does not know it, and whoever comes after as
// many as it is good for. Who opens its page is counted; once.
func (s *server) letIn(g *gin.Context, grant store.Grant) error {
	shows := func(cookie, what string) bool {
		value, err := g.Cookie(cookie)
		return err == nil && value == s.Store.Pass(grant, what)
	}
	if grant.Secret != "" && !shows(passCookie, "password") {
		return errLocked
	}
	if grant.Most == 0 || shows(seatCookie, "seat") {
		return nil
	}
	if g.Request.URL.Path != underLink(g) || g.Request.Method != http.MethodGet {
		return store.ErrNoGrant
	}
	if err := s.Store.TakeSeat(g.Request.Context(), grant); err != nil {
		return err
	}
	s.handOver(g, seatCookie, s.Store.Pass(grant, "seat"))
	return nil
}

func (s *server) handOver(g *gin.Context, name, value string) {
	http.SetCookie(g.Writer, &http.Cookie{Name: name, Value: value, Path: underLink(g), HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: secure(g), MaxAge: 400 * 24 * 3600})
}

// locked asks for the password of a link.
func (s *server) locked(g *gin.Context, status int, fault string) {
	g.Abort()
	s.showEntering(g, status, "locked.html", entering{Action: underLink(g) + "/unlock", Fault: fault})
}

// unlock lets in whoever knows the password of a link.
func (s *server) unlock(g *gin.Context) {
	grant, err := s.Access.Redeem(g.Request, g.Param("token"))
	var ok bool
	if err == nil {
		ok, err = s.work.Unlock(g.Request.Context(), grant, g.PostForm("password"), g.ClientIP())
	}
	switch {
	case errors.Is(err, workspace.ErrTooOften):
		s.locked(g, http.StatusTooManyRequests, say(g).Sprintf("That was tried too often. Please wait a minute."))
	case err != nil:
		s.failWith(g, err)
	case !ok && grant.Secret != "":
		s.locked(g, http.StatusUnprocessableEntity, say(g).Sprintf("That is not the password."))
	default:
		s.handOver(g, passCookie, s.Store.Pass(grant, "password"))
		g.Redirect(http.StatusSeeOther, underLink(g))
	}
}

package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/store"
	"mevrin/workspace"
)

// tryOut makes a map for whoever comes without an account, to try everything on: theirs as long as their browser
// remembers, and for good once they sign in and keep it.
func (s *server) tryOut(g *gin.Context) {
	if !s.Tries {
		s.fail(g, http.StatusNotFound, "There is nothing at this address.", nil)
		return
	}
	if s.trials.TooOften(g.ClientIP()) {
		s.failWith(g, workspace.ErrTooOften)
		return
	}
	s.trials.Failed(g.ClientIP()) // each counts
	grant, err := s.work.Try(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.showCameBy(g, grant)
}

// keepTrial makes a map that somebody tried things on their own, once they are signed in.
func (s *server) keepTrial(g *gin.Context) {
	who, id := asker(g)
	if who.Account == nil {
		s.failWith(g, errSignIn)
		return
	}
	if err := s.Store.Claim(g.Request.Context(), id, who.ID); err != nil && !errors.Is(err, store.ErrNoMap) { // it is kept already
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
}

package web

import (
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/workspace/query"
)

// getRound is the order of a round of checking, and the proposition at which it begins.
func (s *server) getRound(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	if g.Query("order") == "join" && who.Alters() {
		s.getJoining(g, now)
		return
	}
	if isUnderstanding(g) {
		s.getUnderstanding(g, now)
		return
	}
	now.Rules = s.rulesOf(g)
	v := now.Round(g.Query("order"), who)
	switch {
	case len(v.Keys) == 0 && g.Query("order") == query.OrderDisputed:
		s.fail(g, http.StatusUnprocessableEntity, "There is nothing left on which raters disagree.", nil)
		return
	case len(v.Keys) == 0:
		s.fail(g, http.StatusUnprocessableEntity, "There is no sentence to check yet. Give a link its words first.", nil)
		return
	}
	v.One, _ = now.RoundOne(v.Keys[v.At], g.Query("order"), who)
	s.html(g, http.StatusOK, "round", v)
}

// getRoundOne is one proposition of a round.
func (s *server) getRoundOne(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	if g.Query("order") == "join" && who.Alters() {
		one, known, err := now.JoinOne(g.Request.Context(), g.Query("key"))
		switch {
		case err != nil:
			s.failWith(g, err)
		case !known:
			g.Status(http.StatusNoContent) // it is linked by now, and the round goes on
		default:
			s.html(g, http.StatusOK, "join-one", one)
		}
		return
	}
	if isUnderstanding(g) {
		one, known, err := now.UnderstoodOne(g.Request.Context(), s.work, who, g.Query("key"))
		switch {
		case err != nil:
			s.failWith(g, err)
		case !known:
			g.Status(http.StatusNoContent)
		default:
			s.html(g, http.StatusOK, "understood-one", one)
		}
		return
	}
	now.Rules = s.rulesOf(g)
	v, known := now.RoundOne(g.Query("key"), g.Query("order"), who)
	if !known {
		g.Status(http.StatusNoContent) // it is gone, and the round goes on
		return
	}
	s.html(g, http.StatusOK, "round-one", v)
}

// getJoining is the order of a round of joining, and its first pair.
func (s *server) getJoining(g *gin.Context, now *query.Reading) {
	v, err := now.Joining(g.Request.Context())
	switch {
	case err != nil:
		s.failWith(g, err)
	case len(v.Keys) == 0:
		s.fail(g, http.StatusUnprocessableEntity, "There are no two concepts left for which a link suggests itself.", nil)
	default:
		s.html(g, http.StatusOK, "join", v)
	}
}

// getChain is a chain of sentences as a paragraph.
func (s *server) getChain(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	steps, _ := strconv.Atoi(g.Query("steps"))
	v, err := now.Chain(query.ChainAsked{From: cm.ID(g.Query("from")), To: cm.ID(g.Query("to")), Along: structure.Along(g.Query("along")), Steps: steps})
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "chain", v)
}

// getProposals are the routes that the map suggests.
func (s *server) getProposals(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	var chosen []cm.ID
	for _, element := range strings.Split(g.Query("chosen"), ",") {
		if id, is := strings.CutPrefix(element, "c-"); is {
			chosen = append(chosen, cm.ID(id))
		}
	}
	s.html(g, http.StatusOK, "proposals", now.Proposals(chosen, g.Query("from"), guide.Sorting(g.Query("by"))))
}

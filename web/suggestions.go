package web

import (
	"errors"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/core/suggestion"
	"mevrin/draw/scene"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// suggestionsPage shows what people would alter on a map, one of it on the paper, and takes further ones.
func (s *server) suggestionsPage(g *gin.Context) {
	s.showSuggestions(g, http.StatusOK, query.Suggestions{Shown: g.Query("show"), Done: g.Query("done"), Thing: g.Query("on"), Wish: suggestion.Wish{What: suggestion.WhatSay}})
}

func (s *server) showSuggestions(g *gin.Context, status int, filled query.Suggestions) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	who, _ := asker(g)
	v, err := now.Suggestions(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	if who.Bearer {
		if v.Sheet, err = s.guestSheet(g); err != nil {
			s.failWith(g, err)
			return
		}
	}
	v.Shown, v.Done, v.Thing, v.Wish, v.Fault, v.Reason = filled.Shown, filled.Done, filled.Thing, filled.Wish, filled.Fault, filled.Reason
	said := say(g).Sprintf("The map as it is now")
	v.Drawing = wholeDrawing(now.Scene, said)
	for i, one := range v.Waiting {
		if one.ID != v.Shown && !(v.Shown == "" && i == 0) {
			continue
		}
		v.Shown = one.ID
		v.Drawing, v.Marks = drawSuggested(g, one.Seen)
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "suggestions.html", v)
}

// drawSuggested draws what a suggestion would do: what would be gone is seen on the map as it is, all else on the
// map as it would be.
func drawSuggested(g *gin.Context, seen suggestion.Seen) (drawing string, marks query.Marks) {
	m, said := seen.After, say(g).Sprintf("The map as it would be")
	if len(seen.Differs.Lost) > 0 || !seen.Fits {
		m, said = seen.Before, say(g).Sprintf("The map as it is now")
	}
	return wholeDrawing(scene.Build(m, structure.Of(m), scene.View{}, nil), said), query.MarksOf(seen.Differs.Fresh, seen.Differs.Altered, seen.Differs.Lost)
}

// suggest keeps what somebody would alter.
func (s *server) suggest(g *gin.Context) {
	who, id := asker(g)
	thing, _ := workspace.KeyOf(g.PostForm("thing"))
	wish := suggestion.Wish{What: g.PostForm("what"), From: g.PostForm("from"), Phrase: g.PostForm("phrase"), To: g.PostForm("to"), Thing: thing, Words: g.PostForm("words")}
	which, err := s.work.Suggest(g.Request.Context(), who, id, wish, g.PostForm("reason"), g.PostForm("name"))
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		s.showSuggestions(g, http.StatusUnprocessableEntity, query.Suggestions{Fault: refusal.In(say(g)), Wish: wish, Thing: g.PostForm("thing"), Reason: g.PostForm("reason")})
		return
	}
	s.backToSuggestions(g, err, "suggested", which)
}

// backToSuggestions leads back to the page, or says on it why something was not done.
func (s *server) backToSuggestions(g *gin.Context, err error, done, show string) {
	_, id := asker(g)
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showSuggestions(g, http.StatusUnprocessableEntity, query.Suggestions{Fault: refusal.In(say(g)), Shown: g.Param("suggestion"), Wish: suggestion.Wish{What: suggestion.WhatSay}})
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/suggestions?"+url.Values{"done": {done}, "show": {show}}.Encode())
	}
}

func (s *server) takeSuggestion(g *gin.Context) {
	who, id := asker(g)
	s.backToSuggestions(g, s.work.TakeSuggestion(g.Request.Context(), who, id, g.Param("suggestion")), "taken", "")
}

func (s *server) refuseSuggestion(g *gin.Context) {
	who, id := asker(g)
	s.backToSuggestions(g, s.work.RefuseSuggestion(g.Request.Context(), who, id, g.Param("suggestion")), "left", "")
}

func (s *server) answerSuggestion(g *gin.Context) {
	who, id := asker(g)
	err := s.work.AnswerSuggestion(g.Request.Context(), who, id, g.Param("suggestion"), g.PostForm("words"), g.PostForm("name"))
	s.backToSuggestions(g, err, "answered", g.Param("suggestion"))
}

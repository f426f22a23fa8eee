package web

import (
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/workspace"
)

// postEntry takes one gesture down the road.
func (s *server) postEntry(g *gin.Context) {
	who, id := asker(g)
	var asked workspace.Asked
	if err := s.readJSON(g, &asked, "This change did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).Perform(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.mention(g, asked.Operations.List)
	g.JSON(http.StatusOK, answer)
}

// mention lets those know whom somebody named in a comment. What was said stands all the same.
func (s *server) mention(g *gin.Context, ops []edit.Operation) {
	who, id := asker(g)
	if s.Accounts == nil || who.Account == nil || !slices.ContainsFunc(ops, func(op edit.Operation) bool { _, is := op.(*edit.AddComment); return is }) {
		return
	}
	now, err := s.work.Session(id).Look(g.Request.Context())
	if err == nil {
		err = s.Accounts.Mention(g.Request.Context(), who, now.Map, ops, originOf(g))
	}
	if err != nil {
		s.Log.Warn("those who were mentioned were not written to", "map", id, "err", err)
	}
}

// mentionable lists those who can be mentioned on a map.
func (s *server) mentionable(g *gin.Context) {
	who, id := asker(g)
	var all []people.Person
	if who.Account != nil {
		var err error
		if all, err = s.Accounts.OnMap(g.Request.Context(), id); err != nil {
			s.failWith(g, err)
			return
		}
	}
	all = slices.DeleteFunc(all, func(p people.Person) bool { return p.ID == who.ID })
	s.html(g, http.StatusOK, "mentionable", all)
}

// changesSince brings a window up to date that shows an earlier revision.
func (s *server) changesSince(g *gin.Context) {
	who, id := asker(g)
	since, err := strconv.Atoi(g.Query("since"))
	if err != nil || since < 0 {
		s.fail(g, http.StatusBadRequest, "That is no revision of this map.", nil)
		return
	}
	answer, err := s.work.Session(id).CatchUp(g.Request.Context(), who, since)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// postView changes how the person asking sees a map.
func (s *server) postView(g *gin.Context) {
	who, id := asker(g)
	var asked workspace.AskedView
	const refused = "What to show did not arrive whole. Please reload the page."
	if err := s.readJSON(g, &asked, refused); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).SetView(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// postTried answers with the drawing as it would be.
func (s *server) postTried(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		Operations edit.Operations `json:"operations"`
	}
	if err := s.readJSON(g, &asked, "What to try out did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.work.Session(id).TryOut(g.Request.Context(), who, asked.Operations.List)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

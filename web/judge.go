package web

import (
	"encoding/csv"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// judgePage is where whoever has the link for it judges the propositions of a map. It shows the
// map without what anybody said of it.
func (s *server) judgePage(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	m := now.Map.WithoutDiscussion()
	base := "/judge/" + g.Param("token")
	if g.Param("token") == "" {
		base = g.Request.URL.Path
	}
	s.html(g, http.StatusOK, "judge.html", gin.H{
		"Base": base, "Lang": now.Map.Language, "Head": now.Head(scene.View{}), "Judge": now.Judge(who),
		"Paper": paperOf(scene.Build(m, now.Structure, scene.View{}, nil), base),
	})
}

// postJudgement takes what a rater says of one proposition. The answer tells nothing of the map.
func (s *server) postJudgement(g *gin.Context) {
	who, id := asker(g)
	var asked workspace.Asked
	if err := s.readJSON(g, &asked, "This did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	if _, err := s.work.Session(id).Perform(g.Request.Context(), who, asked); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// getRaters is the table of raters and propositions, with the figures of their agreement.
func (s *server) getRaters(g *gin.Context) {
	who, id := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	v := now.Raters(who, g.Query("not-sure") == "value")
	var err error
	if v.Links, err = query.JudgeLinksOf(g.Request.Context(), s.work, who, id); err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "raters", v)
}

// getRatings gives what raters said as a table for other programs.
func (s *server) getRatings(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	g.Header("Content-Type", "text/csv; charset=utf-8")
	g.Header("Content-Disposition", `attachment; filename="ratings.csv"`)
	to := csv.NewWriter(g.Writer)
	_ = to.WriteAll(now.Ratings(who)) // whoever went away does not need the rest
}

// postJudgeLink makes a link for judging.
func (s *server) postJudgeLink(g *gin.Context) {
	who, id := asker(g)
	s.answerJudgeLinks(g, s.work.MakeLink(g.Request.Context(), who, id, store.AllowsJudge, "", workspace.Limits{}), id)
}

func (s *server) answerJudgeLinks(g *gin.Context, err error, id cm.ID) {
	who, _ := asker(g)
	var links query.JudgeLinks
	if err == nil {
		links, err = query.JudgeLinksOf(g.Request.Context(), s.work, who, id)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "judge-links", links)
}

package web

import (
	"encoding/csv"
	"errors"
	"mime"
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// growthPart draws how a map grew, with a table of its figures.
func (s *server) growthPart(g *gin.Context) {
	c := s.courseOf(g, query.DrawnGrowth)
	if c == nil {
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "growth", query.GrowthOf(c.now.Map.ID, c.steps, query.Sat(store.SittingsOf(c.heads), c.names), c.named))
}

// growthFile sends the figures as CSV, change by change as long as they are not too many.
func (s *server) growthFile(g *gin.Context) {
	c := s.courseOf(g, query.TakenGrowth)
	if c == nil {
		return
	}
	t := say(g)
	head := []string{t.Sprintf("Change"), t.Sprintf("When"), t.Sprintf("Who"), t.Sprintf("Name"), t.Sprintf("Concepts"), t.Sprintf("Links"), t.Sprintf("Propositions"), t.Sprintf("Cross-links"), t.Sprintf("Levels"), t.Sprintf("Loose ideas"), t.Sprintf("Without a phrase")}
	g.Header("Content-Type", "text/csv; charset=utf-8")
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": workspace.FileName(c.now.Map.Name()) + ".csv"}))
	_ = csv.NewWriter(g.Writer).WriteAll(query.GrowthTable(head, c.steps, c.heads, c.names, c.named)) // whoever went away does not need the rest
}

// course is how a map grew, and who did what when.
type course struct {
	now   *workspace.State
	steps []workspace.GrowthStep
	heads []store.Head
	named []store.Version
	names map[string]string
}

// courseOf counts a map at about so many of its states; nil where that was answered already.
func (s *server) courseOf(g *gin.Context, steps int) *course {
	now := s.lookAt(g)
	if now == nil {
		return nil
	}
	defer now.Turn(g.Request.Context())()
	who, id := asker(g)
	ctx := g.Request.Context()
	c := course{now: now.State}
	var errs [4]error
	c.heads, errs[0] = s.reach(g).Heads(ctx, id)
	c.named, errs[1] = s.reach(g).Versions(ctx, id)
	c.names, errs[2] = s.names(g)
	c.steps, errs[3] = s.work.Growth(ctx, who, id, steps, query.Marked(store.SittingsOf(c.heads), c.named))
	if err := errors.Join(errs[:]...); err != nil {
		s.failWith(g, err)
		return nil
	}
	return &c
}

package web

import (
	"encoding/json"
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/store"
)

// getBrief is the brief of a map as it stands beside the paper.
func (s *server) getBrief(g *gin.Context) {
	who, _ := asker(g)
	if now := s.lookAt(g); now != nil {
		s.html(g, http.StatusOK, "brief", now.Brief(who))
	}
}

// getBriefs is the choice of briefs for a map that has none.
func (s *server) getBriefs(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	own, err := now.OwnBriefs(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "briefs", gin.H{"Offers": now.BriefsOnOffer(), "Own": own, "Brief": now.Brief(who)})
}

// getBriefLine is the form of a line, postBriefLine gives the operations that write it: they come
// back by the road of any other edit.
func (s *server) getBriefLine(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		s.html(g, http.StatusOK, "brief-line", now.BriefForm(cm.ID(g.Query("line"))))
	}
}

func (s *server) postBriefLine(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	steps, err := now.BriefLineSteps(cm.ID(g.PostForm("line")), g.PostForm, g.PostFormArray)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, gin.H{"steps": steps})
}

// readBrief gives the operations that give the map the brief of a file.
func (s *server) readBrief(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	raw, err := uploaded(g)
	if err != nil {
		s.failWith(g, err)
		return
	}
	b, err := brief.Read(raw)
	if err != nil {
		s.failWith(g, cm.Refusef("This file cannot be used: %s", err.Error()))
		return
	}
	g.JSON(http.StatusOK, gin.H{"steps": json.RawMessage(now.StepsToTake(b))})
}

// briefFile is the brief as a file.
func (s *server) briefFile(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	b := brief.Of(now.Map)
	if b == nil {
		s.fail(g, http.StatusNotFound, "This map has no brief.", nil)
		return
	}
	g.Header("Content-Disposition", `attachment; filename="brief.json"`)
	g.IndentedJSON(http.StatusOK, b)
}

// keepBrief keeps the brief of a map under a name, for other maps; dropBrief forgets one.
func (s *server) keepBrief(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	err := error(cm.Refusef("This map has no brief."))
	if b := brief.Of(now.Map); b != nil {
		err = s.reach(g).Keep(g.Request.Context(), who.ID, store.KeptBrief, g.PostForm("name"), b)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

func (s *server) dropBrief(g *gin.Context) {
	who, _ := asker(g)
	if err := s.reach(g).Drop(g.Request.Context(), who.ID, store.KeptBrief, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

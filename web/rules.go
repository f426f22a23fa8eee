package web

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
)

// rulesOf gives how whoever asks wants the rules on all maps: for what shows findings. Where that cannot be read, they are
// as they come.
func (s *server) rulesOf(g *gin.Context) check.Settings {
	who, _ := asker(g)
	set, err := s.work.Rules(g.Request.Context(), who)
	if err != nil {
		s.Log.Warn("the rules of an author cannot be read", "err", err)
	}
	return set
}

// postRules changes how whoever asks wants a rule on all maps, or which words mean the same.
func (s *server) postRules(g *gin.Context) {
	who, _ := asker(g)
	rule := g.PostForm("rule")
	err := s.work.SetRules(g.Request.Context(), who, func(set check.Settings) (check.Settings, error) {
		switch g.PostForm("what") {
		case "on", "off":
			return set.With(rule, g.PostForm("what") == "on")
		case "least":
			if g.PostForm("least") == "" {
				return set.From(rule, nil)
			}
			least, err := strconv.ParseFloat(g.PostForm("least"), 64)
			if err != nil {
				return set, cm.Refusef("“%s” is no number.", cm.Shortened(g.PostForm("least"), 40))
			}
			return set.From(rule, &least)
		case "synonyms":
			return set.Meaning(g.PostForm("synonyms"))
		}
		return set, cm.Refusef("There is no rule of that name.")
	})
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

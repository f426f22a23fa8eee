package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/phrases"
	"mevrin/workspace/query"
)

// offers gives what could be meant by what is typed: concepts or phrases, as rows of the
// list that is named.
func (s *server) offers(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	typed, offers := g.Query("typed"), []query.Offer(nil)
	if typed == g.Query("was") {
		typed = "" // it is about to be replaced as a whole
	}
	voice := "noun-words"
	if g.Query("of") == "concept" {
		offers = now.ConceptOffers(typed)
	} else if voice = "verb-words"; typed != "" || g.Query("in") == "phrase" {
		var err error
		if offers, err = now.PhraseOffers(g.Request.Context(), s.work, who, typed); err != nil {
			s.failWith(g, err)
			return
		}
	}
	s.html(g, http.StatusOK, "offers.html", gin.H{"In": g.Query("in"), "Voice": voice, "Offers": offers})
}

// setPhrase adds a phrase to the bank of whoever asks, takes one out, or makes
// a group as shipped again.
func (s *server) setPhrase(g *gin.Context) {
	who, _ := asker(g)
	own := phrases.Own{Group: g.PostForm("group"), Words: g.PostForm("words"), Removed: g.PostForm("do") == "remove"}
	if err := s.work.SetPhrase(g.Request.Context(), who, own, g.PostForm("do") == "reset"); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// pasted reads lines from outside and shows what would become of them. Nothing
// is done yet: the operations come back by the road of any other edit.
func (s *server) pasted(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.Pasted(g.PostForm("text"), cm.ID(g.PostForm("under")), g.PostForm("shorten") != "false")
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		v.Fault = refusal.In(say(g))
	} else if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "pasted.html", v)
}

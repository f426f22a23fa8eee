package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// bearerCookie tells apart those who work under one link, so that nobody takes
// back what another one did. It is sent to that link's addresses alone.
const bearerCookie = "who"

// bearer gives the principal behind a link to a map as a whole, whose pages are under an address.
// Only the page of the link makes a new one: whoever comes without a name that this server gave
// may look, and is nobody yet.
func (s *server) bearer(g *gin.Context, grant store.Grant, under, prefix string, may ...Capability) principal {
	p := principal{mapID: grant.MapID, grant: grant, may: Capabilities{}}
	for _, c := range may {
		p.may[c] = true
	}
	name, err := g.Cookie(bearerCookie)
	who, known := s.Store.Bearer(grant, name)
	switch {
	case err == nil && known:
	case g.FullPath() == under+":token":
		who, name = s.Store.NewBearer(grant)
		http.SetCookie(g.Writer, &http.Cookie{Name: bearerCookie, Value: name, Path: under + g.Param("token"), HttpOnly: true, SameSite: http.SameSiteLaxMode, MaxAge: 400 * 24 * 3600})
	default:
		p.nobody = true
	}
	p.who = workspace.Person{ID: prefix + grant.ID + ":" + who, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(grant.MapID)}
	return p
}

// key is the key to colour by: the map's own, or one to begin with.
func (s *server) key(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		all := now.Key()
		if len(all) == 0 {
			all = now.StartOf(kinds.Shipped[0])
		}
		s.html(g, http.StatusOK, "plain-key", all)
	}
}

// aloud gives what is to be read aloud: of the thing that is asked for, or of
// all that the person sees, in reading order.
func (s *server) aloud(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	g.JSON(http.StatusOK, gin.H{"language": now.Map.Language, "sentences": now.Spoken(view, g.Query("chosen"))})
}

// postHandLink makes a link for the plain hand.
func (s *server) postHandLink(g *gin.Context) {
	who, id := asker(g)
	err := s.work.MakeLink(g.Request.Context(), who, id, store.AllowsHand, "", workspace.Limits{})
	s.answerHandLinks(g, err, id)
}

func (s *server) answerHandLinks(g *gin.Context, err error, id cm.ID) {
	who, _ := asker(g)
	var links query.HandLinks
	var now *workspace.State
	if err == nil {
		now, err = s.work.Session(id).Look(g.Request.Context())
	}
	if err == nil {
		links, err = query.HandLinksOf(g.Request.Context(), s.work, who, now.Map)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.html(g, http.StatusOK, "hand-links", links)
}

// takeBack takes back all that a visitor did on a map, as one edit of whoever asks.
func (s *server) takeBack(g *gin.Context) {
	who, id := asker(g)
	answer, err := s.work.TakeBack(g.Request.Context(), who, id, cm.ID(g.Param("visitor")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, gin.H{"notices": answer.Notices, "changed": answer.Revision})
}

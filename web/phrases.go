package web

import (
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/phrases"
)

// phrasesOnOffer is what the page offers while a phrase is typed, in this
// order. What this map says it knows itself.
type phrasesOnOffer struct {
	Elsewhere []string      `json:"elsewhere"` // in the author's other maps, the most used first
	Groups    []phraseGroup `json:"groups"`
}

type phraseGroup struct {
	Title   string   `json:"title"`
	Phrases []string `json:"phrases"`
}

// phrases gives the phrases on offer for a map.
func (s *server) phrases(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	offers, err := s.bankFor(g.Request.Context(), who, now.m)
	if err != nil {
		s.failWith(g, err)
		return
	}
	var out phrasesOnOffer
	if !who.Gentle { // whoever has a link gets nothing of other maps
		if out.Elsewhere, err = s.Store.PhrasesElsewhere(g.Request.Context(), now.m.ID); err != nil {
			s.failWith(g, err)
			return
		}
	}
	if all := kinds.Phrases(now.m); len(all) > 0 {
		out.Groups = append(out.Groups, phraseGroup{"For this key", all})
	}
	for _, o := range offers {
		out.Groups = append(out.Groups, phraseGroup{o.Title, o.Phrases})
	}
	g.JSON(http.StatusOK, out)
}

// bankFor gives the phrase bank as a person sees it; a visitor sees it as shipped.
func (s *server) bankFor(ctx context.Context, who Person, m *cm.Map) ([]phrases.Offer, error) {
	if who.Gentle {
		return phrases.For(m.Language, nil), nil
	}
	own, err := s.Store.OwnPhrases(ctx, who.ID)
	if err != nil {
		return nil, err
	}
	return phrases.For(m.Language, own), nil
}

// setPhrase adds a phrase to the bank of whoever asks, takes one out, or makes
// a group as shipped again.
func (s *server) setPhrase(g *gin.Context) {
	who, _ := asker(g)
	own := phrases.Own{Group: g.PostForm("group"), Words: g.PostForm("words"), Removed: g.PostForm("do") == "remove"}
	var err error
	if g.PostForm("do") == "reset" {
		err = s.Store.ResetPhrases(g.Request.Context(), who.ID, own.Group)
	} else if own, err = phrases.CheckOwn(own); err == nil {
		err = s.Store.SetPhrase(g.Request.Context(), who.ID, own)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// phrasesHere gives the phrases of the map, the most used first.
func (s *state) phrasesHere() []string {
	count := map[string]int{}
	var all []string
	for _, id := range cm.SortedIDs(s.m.Links) {
		words := strings.Join(strings.Fields(s.m.Words(s.m.Links[id].Phrase)), " ")
		if words == "" {
			continue
		}
		if count[words]++; count[words] == 1 {
			all = append(all, words)
		}
	}
	slices.SortStableFunc(all, func(a, b string) int { return count[b] - count[a] })
	return all
}

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
	out, err := now.offered(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, out)
}

// offered gives the phrases on offer for a map. Whoever has a link gets nothing of
// other maps.
func (s reading) offered(ctx context.Context, w *Workspace, who Person) (out phrasesOnOffer, err error) {
	offers, err := w.bankFor(ctx, who, s.m)
	if err == nil && !who.Gentle {
		out.Elsewhere, err = w.Store.PhrasesElsewhere(ctx, s.m.ID)
	}
	if all := kinds.Phrases(s.m); len(all) > 0 {
		out.Groups = append(out.Groups, phraseGroup{"For this key", all})
	}
	for _, o := range offers {
		out.Groups = append(out.Groups, phraseGroup{o.Title, o.Phrases})
	}
	return out, err
}

// bankFor gives the phrase bank as a person sees it; a visitor sees it as shipped.
func (w *Workspace) bankFor(ctx context.Context, who Person, m *cm.Map) ([]phrases.Offer, error) {
	if who.Gentle {
		return phrases.For(m.Language, nil), nil
	}
	own, err := w.Store.OwnPhrases(ctx, who.ID)
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
	if err := s.work.SetPhrase(g.Request.Context(), who, own, g.PostForm("do") == "reset"); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// phrasesHere gives the phrases of the map, the most used first.
func (s reading) phrasesHere() []string {
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

// SetPhrase adds a phrase to the bank of a person, takes one out, or makes a group as
// shipped again.
func (w *Workspace) SetPhrase(ctx context.Context, who Person, own phrases.Own, reset bool) error {
	if reset {
		return w.Store.ResetPhrases(ctx, who.ID, own.Group)
	}
	own, err := phrases.CheckOwn(own)
	if err != nil {
		return err
	}
	return w.Store.SetPhrase(ctx, who.ID, own)
}

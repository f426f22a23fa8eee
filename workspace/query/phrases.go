package query

import (
	"context"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/workspace"
)

// Phrases is what the page offers while a phrase is typed, in this
// order. What this map says it knows itself.
type Phrases struct {
	Elsewhere []string      `json:"elsewhere"` // in the author's other maps, the most used first
	Groups    []phraseGroup `json:"groups"`
}

type phraseGroup struct {
	Title   string   `json:"title"`
	Phrases []string `json:"phrases"`
}

// Offered gives the phrases on offer for a map. Whoever has a link gets nothing of
// other maps.
func (s Reading) Offered(ctx context.Context, w *workspace.Workspace, who workspace.Person) (out Phrases, err error) {
	offers, err := w.BankFor(ctx, who, s.Map)
	if err == nil && !who.AdditiveOnly {
		out.Elsewhere, err = w.Store.For(who.Scope).PhrasesElsewhere(ctx, s.Map.ID)
	}
	if all := kinds.Phrases(s.Map); len(all) > 0 {
		out.Groups = append(out.Groups, phraseGroup{s.t("For this key"), all})
	}
	for _, o := range offers {
		out.Groups = append(out.Groups, phraseGroup{o.Title, o.Phrases})
	}
	return out, err
}

// phrasesHere gives the phrases of the map, the most used first.
func (s Reading) phrasesHere() []string {
	count := map[string]int{}
	var all []string
	for _, id := range cm.SortedIDs(s.Map.Links) {
		words := strings.Join(strings.Fields(s.Map.Words(s.Map.Links[id].Phrase)), " ")
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

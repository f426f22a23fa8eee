package query

import (
	"context"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/core/likeness"
	"mevrin/workspace"
)

// Offer is something that could be meant by what is being typed.
type Offer struct {
	Words string
	Of    string // where it comes from, for people
}

// Offers bounds what is offered at once: of the phrases of this map and of others so many
// that what the map says often does not crowd out what it could say.
const (
	maxOffers        = 8
	maxOffersHere    = 4
	maxOffersElse    = 2
	maxConceptOffers = 7
)

// PhraseOffers gives the phrases that fit what is typed: those that begin so before those
// that hold it, of each first this map's, then of the author's other maps, then by what
// they mean. Whoever has a link gets nothing of other maps. Nothing typed is held by all.
func (s Reading) PhraseOffers(ctx context.Context, w *workspace.Workspace, who workspace.Person, typed string) ([]Offer, error) {
	here, elsewhere := s.t("on this map"), s.t("your other maps")
	var all []Offer
	add := func(of string, phrases []string) {
		for _, words := range phrases {
			all = append(all, Offer{words, of})
		}
	}
	add(here, s.phrasesHere())
	if who.Keeps() {
		theirs, err := w.Store.For(who.Scope).PhrasesElsewhere(ctx, s.Map.ID)
		if err != nil {
			return nil, err
		}
		add(elsewhere, theirs)
	}
	bank, err := w.BankFor(ctx, who, s.Map)
	if err != nil {
		return nil, err
	}
	add(s.t("For this key"), kinds.Phrases(s.Map))
	for _, o := range bank {
		add(s.t(o.Title), o.Phrases)
	}
	all = fitting(all, typed)
	return crowdedOut(all, map[string]int{here: maxOffersHere, elsewhere: maxOffersElse}), nil
}

// crowdedOut keeps as many as are offered at once, in their order: of each source that is
// bounded no more than that, unless there is room left.
func crowdedOut(all []Offer, most map[string]int) []Offer {
	count, kept, room := map[string]int{}, map[Offer]bool{}, maxOffers
	for _, bounded := range [2]bool{true, false} {
		for _, o := range all {
			limit, is := most[o.Of]
			if room == 0 || kept[o] || bounded && is && count[o.Of] == limit {
				continue
			}
			kept[o] = true
			count[o.Of]++
			room--
		}
	}
	return slices.DeleteFunc(slices.Clone(all), func(o Offer) bool { return !kept[o] })
}

// ConceptOffers gives the concepts of the map that fit what is typed after the last
// semicolon and after a phrase that stands before it, those that begin so before those
// that hold it.
func (s Reading) ConceptOffers(typed string) []Offer {
	_, typed = edit.SplitPhrase(typed[strings.LastIndex(typed, ";")+1:])
	if strings.TrimSpace(typed) == "" {
		return nil
	}
	var all []Offer
	for _, id := range s.Structure.Order {
		all = append(all, Offer{Words: strings.Join(strings.Fields(s.Map.Words(s.Map.Concepts[id].Label)), " ")})
	}
	all = fitting(all, typed)
	return all[:min(len(all), maxConceptOffers)]
}

// fitting gives what holds what is typed and is not just that, each words once; what
// begins so comes first.
func fitting(all []Offer, typed string) []Offer {
	typed = likeness.Fold(typed)
	seen := map[string]bool{"": true, typed: true}
	var begins, holds []Offer
	for _, o := range all {
		words := likeness.Fold(o.Words)
		if seen[words] || !strings.Contains(words, typed) {
			continue
		}
		seen[words] = true
		if strings.HasPrefix(words, typed) {
			begins = append(begins, o)
		} else {
			holds = append(holds, o)
		}
	}
	return append(begins, holds...)
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

package query

import (
	"context"
	"errors"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/suggestion"
	"mevrin/store"
	"mevrin/workspace"
)

// SuggestionView is a suggestion as somebody sees it.
type SuggestionView struct {
	store.Suggestion
	suggestion.Seen
	Own   bool
	Takes bool   // whoever looks can take it
	Why   string // why it cannot be taken, in words
}

// Suggestions is the page of what people would alter on a map.
type Suggestions struct {
	MapID   cm.ID
	Title   string
	Waiting []SuggestionView
	Decided []SuggestionView
	Shown   string // which is on the paper
	Drawing string
	Marks   Marks
	Things  []Choice // what can be reworded or left out
	Nouns   []string
	Sheet   cm.ID // of whoever looks, if they have one
	Named   bool  // whoever looks has an account, by which they are named
	Sheets  bool  // they can have a sheet
	Alters  bool
	Fault   string
	Done    string
	Wish    suggestion.Wish // as it was filled in
	Thing   string
	Reason  string
}

// Marks are the elements of a drawing that differ, each list parted by spaces.
type Marks struct{ Fresh, Altered, Lost string }

// MarksOf gives the elements of a drawing by what differs.
func MarksOf(fresh, altered, lost []cm.Key) Marks {
	all := func(keys []cm.Key) string {
		var ids []string
		for _, k := range keys {
			ids = append(ids, workspace.Element(k))
		}
		return strings.Join(ids, " ")
	}
	return Marks{all(fresh), all(altered), all(lost)}
}

// firstSentence gives a link as the first sentence that it makes.
func (s Reading) firstSentence(l *cm.Link) string {
	words := func(ends []cm.End) string { return s.Map.Words(s.Map.Concepts[ends[0].Concept].Label) }
	return strings.Join(strings.Fields(words(l.From)+" — "+s.Map.Words(l.Phrase)+" → "+words(l.To)), " ")
}

// inWords gives what a refusal says; nothing of any other error is told.
func (s Reading) inWords(err error) string {
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		return refusal.In(s.Say)
	}
	return s.t("The map has moved on since.")
}

// Suggestions gives what people would alter on the map.
func (s Reading) Suggestions(ctx context.Context, w *workspace.Workspace, who workspace.Person) (v Suggestions, err error) {
	v = Suggestions{MapID: s.Map.ID, Title: s.Map.Name(), Named: who.Account != nil, Sheets: who.Account != nil || who.Bearer, Alters: who.Alters()}
	all, err := w.Store.For(who.Scope).Suggestions(ctx, s.Map.ID)
	if err != nil {
		return v, err
	}
	if v.Named {
		if v.Sheet, err = w.Store.For(who.Scope).SheetOf(ctx, s.Map.ID); err != nil {
			return v, err
		}
	}
	for _, one := range all {
		view := SuggestionView{Suggestion: one, Own: one.Person == who.ID, Takes: who.Alters()}
		if one.State != store.SuggestionWaits {
			v.Decided = append(v.Decided, view)
			continue
		}
		view.Seen = s.Suggested(ctx, one)
		if view.Seen.Why != nil {
			view.Why = s.inWords(view.Seen.Why)
		}
		v.Waiting = append(v.Waiting, view)
	}
	for _, place := range s.Structure.Order {
		if words := s.Map.Words(s.Map.Concepts[place].Label); words != "" {
			v.Things = append(v.Things, Choice{Value: "c-" + string(place), Name: words})
			if !slices.Contains(v.Nouns, words) {
				v.Nouns = append(v.Nouns, words)
			}
		}
	}
	for _, id := range cm.SortedIDs(s.Map.Links) {
		if s.Map.Words(s.Map.Links[id].Phrase) != "" {
			v.Things = append(v.Things, Choice{Value: "l-" + string(id), Name: s.firstSentence(s.Map.Links[id])})
		}
	}
	return v, nil
}

package workspace

import (
	"cmp"
	"context"
	"errors"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/suggestion"
	"mevrin/store"
)

// Suggest keeps a change that somebody would make, to be taken or refused by those who may make it.
func (w *Workspace) Suggest(ctx context.Context, who Person, id cm.ID, wish suggestion.Wish, reason, name string) (string, error) {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return "", err
	}
	ops, err := wish.Operations(now.Map, NewThingID)
	if err != nil {
		return "", err
	}
	return w.suggest(ctx, who, now, ops, reason, name)
}

func (w *Workspace) suggest(ctx context.Context, who Person, now *State, ops []edit.Operation, reason, name string) (_ string, err error) {
	id := now.Map.ID
	if reason, err = cm.Clean(reason, suggestion.MaxReason, "The reason"); err != nil {
		return "", err
	}
	if name, err = calledBy(who, now.Map, name); err != nil {
		return "", err
	}
	if seen := now.tried(ctx, ops); !seen.Fits {
		return "", seen.Why
	}
	raw, err := edit.MarshalOperations(ops)
	if err != nil {
		return "", err
	}
	sid := string(NewThingID("s"))
	return sid, w.Store.For(who.Scope).AddSuggestion(ctx, store.Suggestion{ID: sid, MapID: id, Person: who.ID, Name: name, Operations: raw, Reason: reason})
}

// calledBy gives the name under which somebody speaks: that of their account, or what they call themselves,
// which must not be what somebody is called whom the map belongs to.
func calledBy(who Person, m *cm.Map, name string) (string, error) {
	name, err := cm.Clean(strings.Join(strings.Fields(cmp.Or(who.Name(), name)), " "), cm.MaxName, "The name")
	if err == nil && who.Account == nil && (who.AdditiveOnly || who.Bearer) && m.SpeaksHere(name) {
		err = cm.Refusef("“%s” is what somebody is called who this map belongs to. Please choose another name.", name)
	}
	return name, err
}

// operationsOf reads what a suggestion would do.
func operationsOf(one store.Suggestion) (edit.Operations, error) {
	var ops edit.Operations
	err := ops.UnmarshalJSON(one.Operations)
	return ops, err
}

// Suggested tells what a suggestion would do to the map as it is now.
func (s *State) Suggested(ctx context.Context, one store.Suggestion) suggestion.Seen {
	ops, err := operationsOf(one)
	if err != nil {
		return suggestion.See(s.Map, nil, err)
	}
	return s.tried(ctx, ops.List)
}

func (s *State) tried(ctx context.Context, ops []edit.Operation) suggestion.Seen {
	out, err := apply(ctx, s.Map, s.Scene, ops)
	return suggestion.See(s.Map, out.Map, err)
}

// TakeSuggestion makes the change that somebody suggested: as one entry of whoever takes it, which they can undo. It is
// taken once, whoever presses at the same time.
func (w *Workspace) TakeSuggestion(ctx context.Context, who Person, id cm.ID, which string) error {
	r := w.Store.For(who.Scope)
	one, err := r.Suggestion(ctx, id, which)
	if err != nil {
		return err
	}
	ops, err := operationsOf(one)
	if err != nil {
		return err
	}
	if err := r.Decide(ctx, id, which, store.SuggestionWaits, store.SuggestionTaken, who.ID); err != nil {
		return err
	}
	_, err = w.Session(id).Perform(ctx, who, Asked{ID: cm.ID("take-" + which), Window: "suggestions", Operations: ops})
	if err != nil { // it waits again: the map has moved on, or the disk is full
		return errors.Join(err, r.Decide(context.WithoutCancel(ctx), id, which, store.SuggestionTaken, store.SuggestionWaits, ""))
	}
	return nil
}

// RefuseSuggestion leaves the map as it is; whoever made the suggestion takes it back so.
func (w *Workspace) RefuseSuggestion(ctx context.Context, who Person, id cm.ID, which string) error {
	r := w.Store.For(who.Scope)
	one, err := r.Suggestion(ctx, id, which)
	if err != nil {
		return err
	}
	next := store.SuggestionRefused
	switch {
	case one.Person == who.ID:
		next = store.SuggestionBack
	case !who.Alters():
		return cm.Refusef("Only whoever suggested something can take it back.")
	}
	return r.Decide(ctx, id, which, store.SuggestionWaits, next, who.ID)
}

// AnswerSuggestion says something of a suggestion.
func (w *Workspace) AnswerSuggestion(ctx context.Context, who Person, id cm.ID, which, words, name string) error {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return err
	}
	if words, err = cm.Clean(words, cm.MaxCommentWords, "An answer"); err != nil {
		return err
	}
	if words == "" {
		return cm.Refusef("Write something first.")
	}
	if name, err = calledBy(who, now.Map, name); err != nil {
		return err
	}
	return w.Store.For(who.Scope).AnswerSuggestion(ctx, id, store.SuggestionAnswer{Suggestion: which, Person: who.ID, Name: name, Words: words})
}

package workspace

import (
	"context"
	"errors"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/people"
	"mevrin/core/suggestion"
	"mevrin/store"
)

// Sheet gives somebody's sheet of a map, a copy of their own on which they do by hand what they would
// alter; it is made where there is none yet.
func (w *Workspace) Sheet(ctx context.Context, who Person, id cm.ID) (cm.ID, error) {
	r := w.Store.For(who.Scope)
	sheet, err := r.SheetOf(ctx, id)
	if sheet != "" || err != nil {
		return sheet, err
	}
	if sheet, err = w.twin(ctx, who, id, false, func(m *cm.Map) *cm.Map { return m }); err != nil {
		return "", err
	}
	return sheet, r.MakeSheet(ctx, sheet, id)
}

// maxGuestSheets bounds the sheets of a map of those who have no account.
const maxGuestSheets = 100

// GuestSheet makes a sheet of a map for whoever came to it by a link, and gives the link by which they come to the
// sheet. It is left alone as long as a map that somebody tries things on.
func (w *Workspace) GuestSheet(ctx context.Context, who Person, id cm.ID) (store.Grant, error) {
	here, all, err := w.Store.CountGuestSheets(ctx, id)
	if err != nil {
		return store.Grant{}, err
	}
	if here >= maxGuestSheets || all >= store.MaxTrials {
		return store.Grant{}, cm.Refusef("Many have a sheet just now. Please fill in below what you would alter.")
	}
	r := w.Store.For(store.Scope{Map: id, Person: store.Trial})
	sheet, err := w.twin(ctx, Person{ID: who.ID, Scope: store.Scope{Map: id, Person: store.Trial}}, id, false, func(m *cm.Map) *cm.Map { return m })
	if err == nil {
		err = r.MakeSheet(ctx, sheet, id)
	}
	if err != nil {
		return store.Grant{}, err
	}
	return r.AddGrant(ctx, store.Grant{ID: string(NewThingID("w")), MapID: sheet, Allows: store.Allows(people.RightEdit)})
}

// DoneOn gives what was done on a sheet and still stands, as operations; what was said of it is left out.
func (w *Workspace) DoneOn(ctx context.Context, who Person, sheet cm.ID) ([]edit.Operation, error) {
	entries, err := w.Store.For(who.Scope).Since(ctx, sheet, 1)
	if err != nil {
		return nil, err
	}
	log, of := make([]history.Step, len(entries)), map[cm.ID]*store.Entry{}
	for i, e := range entries {
		log[i], of[e.ID] = history.Step{Entry: e.ID, Author: e.Author, Undoes: e.Undoes}, e
	}
	var all []edit.Operation
	for _, id := range history.Standing(log) {
		e := of[id]
		if len(e.Changes) == 0 || edit.OnlySaid(e.Changes) {
			continue
		}
		var ops edit.Operations
		if err := ops.UnmarshalJSON(e.Operations); err != nil {
			return nil, err
		}
		if len(ops.List) == 0 {
			return nil, cm.Refusef("A state of before was brought back on this sheet, which cannot be told as changes. Undo that first, or throw the sheet away and begin anew.")
		}
		if all = append(all, ops.List...); len(all) > suggestion.MaxSteps {
			return nil, cm.Refusef("That is more than one suggestion holds: at most %d steps. Undo some, and suggest the rest afterwards.", suggestion.MaxSteps)
		}
	}
	return all, nil
}

// SheetSeen tells what would come of a sheet on the map of which it is one, or why it cannot be suggested.
func (w *Workspace) SheetSeen(ctx context.Context, who Person, sheet cm.ID, now *State) (suggestion.Seen, error) {
	ops, err := w.DoneOn(ctx, who, sheet)
	if err == nil && len(ops) == 0 {
		err = errSheetEmpty
	}
	if err != nil {
		var refusal *cm.Refusal
		if errors.As(err, &refusal) {
			return suggestion.See(now.Map, nil, err), nil
		}
		return suggestion.Seen{}, err
	}
	return now.tried(ctx, ops), nil
}

var errSheetEmpty = cm.Refusef("Nothing was altered on the sheet yet.")

// SuggestSheet suggests what was done on a sheet, as one suggestion, and throws the sheet away. Who works on the
// sheet and who suggests are two where somebody came by a link: each reaches one of the maps.
func (w *Workspace) SuggestSheet(ctx context.Context, who Person, sheet cm.ID, suggests Person, of cm.ID, reason, name string) (string, error) {
	ops, err := w.DoneOn(ctx, who, sheet)
	if err != nil {
		return "", err
	}
	if len(ops) == 0 {
		return "", errSheetEmpty
	}
	now, err := w.Session(of).Look(ctx)
	if err != nil {
		return "", err
	}
	which, err := w.suggest(ctx, suggests, now, ops, reason, name)
	if err != nil {
		return "", err
	}
	// What it shows has to be there when it is taken.
	if err := w.Store.All().ShareFiles(ctx, of, sheet); err != nil {
		return "", err
	}
	return which, w.DropSheet(ctx, who, sheet)
}

// DropSheet throws a sheet away.
func (w *Workspace) DropSheet(ctx context.Context, who Person, sheet cm.ID) error {
	r := w.Store.For(who.Scope)
	of, err := r.Suggests(ctx, sheet)
	if err == nil && of == "" {
		err = store.ErrNoMap
	}
	if err != nil {
		return err
	}
	err = errors.Join(r.Discard(ctx, sheet), r.Destroy(ctx, sheet))
	w.sessions.forget(sheet)
	return err
}

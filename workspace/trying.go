package workspace

import (
	"context"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// Try makes a map that is nobody's yet, and a link to work on it.
func (w *Workspace) Try(ctx context.Context) (store.Grant, error) {
	if n, err := w.Store.CountTrials(ctx); err != nil {
		return store.Grant{}, err
	} else if n >= store.MaxTrials {
		return store.Grant{}, cm.Refusef("Many are trying things out just now. Please come back later, or ask for an account.")
	}
	trial := Person{ID: store.Trial, Scope: store.Scope{Person: store.Trial}}
	id, err := w.Begin(ctx, trial, BeginForm{Begin: "concept"})
	if err != nil {
		return store.Grant{}, err
	}
	return w.Store.For(trial.Scope).AddGrant(ctx, store.Grant{ID: string(NewThingID("w")), MapID: id, Allows: store.Allows(people.RightEdit)})
}

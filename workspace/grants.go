package workspace

import (
	"context"
	"errors"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// CloseLink closes a link for good; whoever listens under it is asked again. One that
// was closed before is closed: what is wanted holds.
func (w *Workspace) CloseLink(ctx context.Context, who Person, id cm.ID, grant string) error {
	err := w.Store.For(who.Scope).Revoke(ctx, id, grant)
	if errors.Is(err, store.ErrNoGrant) {
		err = nil
	}
	w.Hub.AskAgain(id)
	return err
}

// ShareWith lets somebody do something with a map, or no longer; whoever has it open is asked again.
func (w *Workspace) ShareWith(ctx context.Context, who Person, id cm.ID, person string, right people.Right) error {
	if right != people.RightNone && !right.Valid() {
		return cm.Refusef("Say what they may do with the map.")
	}
	p, _, err := w.Store.Person(ctx, person)
	if errors.Is(err, store.ErrNoPerson) {
		return cm.Refusef("Say with whom the map is to be shared.")
	} else if err != nil {
		return err
	}
	if err := w.Store.For(who.Scope).ShareWith(ctx, id, person, right); err != nil {
		return err
	}
	w.Hub.AskAgain(id)
	deed := store.Deed{Person: who.ID, Deed: "shared", About: string(id) + " " + p.Mail + " " + string(right)}
	if right == people.RightNone {
		deed.Deed = "unshared"
	}
	return w.Store.Record(ctx, deed)
}

// TakeBack takes back all that a visitor did on a map, named as a speaker, as one edit
// of whoever asks.
func (w *Workspace) TakeBack(ctx context.Context, who Person, id, visitor cm.ID) (*Answer, error) {
	did, err := w.Store.For(who.Scope).Visitors(ctx, id, HandPrefix)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(did, func(a store.Author) bool { return SpeakerOf(id, a.Author, true) == visitor })
	if i < 0 {
		return nil, cm.Refusef("Nothing of this visitor is on the map.")
	}
	return w.Session(id).Perform(ctx, who, Asked{ID: NewThingID("g"), Window: "library", takesBack: did[i].Author})
}

// KeepLook keeps the look of a map under a name, for other maps of the person.
func (w *Workspace) KeepLook(ctx context.Context, who Person, id cm.ID, name string) error {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).Keep(ctx, who.ID, store.KeptLook, name, now.Map.Look.Portable())
}

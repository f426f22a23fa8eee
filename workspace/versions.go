package workspace

import (
	"context"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/store"
)

// MaxVersionName bounds the name of a state of a map.
const MaxVersionName = 80

// NameVersion gives a state of a map a name; without one it has none any more.
func (w *Workspace) NameVersion(ctx context.Context, who Person, id cm.ID, revision int, name string) error {
	name, err := cm.Clean(name, MaxVersionName, "The name")
	if err != nil {
		return err
	}
	now, err := w.Session(id).Look(ctx)
	if err == nil && (revision < 0 || revision > now.Revision) {
		err = cm.Refusef("This map was never in that state.")
	}
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).NameVersion(ctx, id, store.Version{Revision: revision, Name: name, Person: who.ID})
}

// GoBack makes a map what it was at a revision: as one more entry, which can be undone like any other.
func (w *Workspace) GoBack(ctx context.Context, who Person, id cm.ID, revision int) error {
	now, err := w.Session(id).Look(ctx)
	if err == nil && (revision < 0 || revision > now.Revision) {
		err = cm.Refusef("This map was never in that state.")
	}
	if err == nil {
		_, err = w.Session(id).Perform(ctx, who, Asked{ID: NewThingID("g"), Window: "versions", Seen: now.Revision, restores: &revision})
	}
	return err
}

// StateAt gives a map as it was at a revision, drawn.
func (w *Workspace) StateAt(ctx context.Context, who Person, id cm.ID, revision int) (*State, error) {
	m, err := w.Store.For(who.Scope).At(ctx, id, revision)
	if err != nil {
		return nil, err
	}
	s := structure.Of(m)
	return &State{Map: m, Revision: revision, Structure: s, Scene: scene.Build(m, s, scene.View{}, nil)}, nil
}

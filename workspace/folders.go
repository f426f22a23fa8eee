package workspace

import (
	"context"
	"errors"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/core/starters"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/store"
)

// folderName gives the name of a folder on one line.
func folderName(name string) (string, error) {
	name, err := cm.Clean(strings.Join(strings.Fields(name), " "), people.MaxFolderName, "The name")
	if err == nil && name == "" {
		err = cm.Refusef("Give the folder a name.")
	}
	return name, err
}

// AddFolder makes a folder of one's own in another one, or at the top, and gives its id.
func (w *Workspace) AddFolder(ctx context.Context, who Person, parent, name string) (string, error) {
	name, err := folderName(name)
	if err != nil {
		return "", err
	}
	id := string(NewThingID("f"))
	return id, w.Store.For(who.Scope).AddFolder(ctx, id, parent, name)
}

// RenameFolder gives a folder of one's own another name.
func (w *Workspace) RenameFolder(ctx context.Context, who Person, id, name string) error {
	name, err := folderName(name)
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).RenameFolder(ctx, id, name)
}

// RemoveFolder takes a folder of one's own away; what was in it lies where it lay.
func (w *Workspace) RemoveFolder(ctx context.Context, who Person, id string) error {
	return w.within(ctx, who, id, func(r *store.Reach) error { return r.RemoveFolder(ctx, id) })
}

// within does something by which others can gain or lose what is in a folder; whoever has a map in it open is
// asked again.
func (w *Workspace) within(ctx context.Context, who Person, folder string, do func(*store.Reach) error) error {
	r := w.Store.For(who.Scope)
	ids, err := r.MapsIn(ctx, folder)
	if err == nil {
		err = do(r)
	}
	for _, id := range ids {
		w.Hub.AskAgain(id)
	}
	return err
}

// File puts maps and folders of one's own into a folder, or, where it is empty, out of any.
func (w *Workspace) File(ctx context.Context, who Person, into string, maps []cm.ID, folders []string) error {
	r := w.Store.For(who.Scope)
	for _, f := range folders {
		if err := w.within(ctx, who, f, func(r *store.Reach) error { return r.MoveFolder(ctx, f, into) }); err != nil {
			return err
		}
	}
	if err := r.File(ctx, into, maps...); err != nil {
		return err
	}
	for _, id := range maps {
		w.Hub.AskAgain(id)
	}
	return nil
}

// ShareFolder lets somebody do something with all that is in a folder, or no longer.
func (w *Workspace) ShareFolder(ctx context.Context, who Person, id, person string, right people.Right) error {
	if right != people.RightNone && !right.Valid() {
		return cm.Refusef("Say what they may do with the map.")
	}
	p, _, err := w.Store.Person(ctx, person)
	if errors.Is(err, store.ErrNoPerson) {
		return cm.Refusef("Say with whom it is to be shared.")
	} else if err != nil {
		return err
	}
	if err := w.within(ctx, who, id, func(r *store.Reach) error { return r.ShareFolder(ctx, id, person, right) }); err != nil {
		return err
	}
	deed := store.Deed{Person: who.ID, Deed: "shared", About: "folder " + id + " " + p.Mail + " " + string(right)}
	if right == people.RightNone {
		deed.Deed = "unshared"
	}
	return w.Store.Record(ctx, deed)
}

// SetOpen opens a map to everybody who reaches this Mevrin, or to nobody but those with whom it is shared; that
// holds at once, also for whoever looks just now.
func (w *Workspace) SetOpen(ctx context.Context, who Person, id cm.ID, right people.Right) error {
	if right != people.RightNone && !slices.Contains(people.ForAll, right) {
		return cm.Refusef("Say what everybody may do with the map.")
	}
	err := w.Store.For(who.Scope).SetOpen(ctx, id, right)
	w.Hub.AskAgain(id)
	if err != nil {
		return err
	}
	deed := store.Deed{Person: who.ID, Deed: "opened to all", About: string(id) + " " + string(right)}
	if right == people.RightNone {
		deed.Deed = "closed to all"
	}
	return w.Store.Record(ctx, deed)
}

// LookLink gives the token of a link by which somebody may look at a map and no more: one without limits that
// there is already, or a new one.
func (w *Workspace) LookLink(ctx context.Context, who Person, id cm.ID) (string, error) {
	r := w.Store.For(who.Scope)
	find := func() (string, error) {
		all, err := r.Grants(ctx, id)
		for _, g := range all {
			if g.Allows == store.Allows(people.RightLook) && g.Secret == "" && g.Most == 0 && g.Until.IsZero() {
				return g.Token, err
			}
		}
		return "", err
	}
	token, err := find()
	if err != nil || token != "" {
		return token, err
	}
	if err := w.MakeLink(ctx, who, id, store.Allows(people.RightLook), "", Limits{}); err != nil {
		return "", err
	}
	return find()
}

// MakeTemplate makes a map like another one with which further ones are begun: with its words, or with their
// places alone, which are to be filled.
func (w *Workspace) MakeTemplate(ctx context.Context, who Person, id cm.ID, shapeOnly bool) (cm.ID, error) {
	return w.twin(ctx, who, id, true, func(m *cm.Map) *cm.Map {
		name := m.Name()
		if shapeOnly {
			m = m.ShapeOnly()
		}
		m.Title = m.Title.With(m.Language, cm.Shortened(name, cm.MaxTitle))
		return m
	})
}

// BeginWith makes a map like one that others are begun with.
func (w *Workspace) BeginWith(ctx context.Context, who Person, id cm.ID) (cm.ID, error) {
	return w.twin(ctx, who, id, false, func(m *cm.Map) *cm.Map { m.Title = nil; return m })
}

// twin makes a map like another one, altered by as; links to its routes, comments and votes are not copied: what
// was said was said of the other one.
func (w *Workspace) twin(ctx context.Context, who Person, id cm.ID, template bool, as func(*cm.Map) *cm.Map) (cm.ID, error) {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return "", err
	}
	defer now.Turn(ctx)()
	twin := as(now.Map.WithoutDiscussion())
	twin.ID = newMapID()
	r := w.Store.For(who.Scope)
	if err := r.Put(ctx, twin, who.ID, nil); err != nil {
		return "", err
	}
	if template {
		err = r.SetTemplate(ctx, twin.ID, true)
	}
	return twin.ID, errors.Join(err, r.ShareFiles(ctx, twin.ID, id))
}

// StarterDrawing gives the small drawing of a shipped map to begin with.
func StarterDrawing(id string) (string, error) {
	ops, err := starters.Operations(id, "", NewThingID)
	if err != nil {
		return "", err
	}
	out, err := apply(context.Background(), cm.NewMap("m", "en"), nil, ops)
	if err != nil {
		return "", err
	}
	return svg.Small(scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)), nil
}

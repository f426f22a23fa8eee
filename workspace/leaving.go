package workspace

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
)

// ownAccount is what is kept of somebody, as they take it out.
type ownAccount struct {
	Name    string      `json:"name"`
	Mail    string      `json:"mail"`
	Role    people.Role `json:"role"`
	SignIns []ownSignIn `json:"signIns"`
	Maps    []ownMap    `json:"maps"`
	Said    []ownSaid   `json:"said"`
}

type ownSignIn struct {
	Device      string
	Since, Seen time.Time
}

type ownMap struct {
	File string `json:"file"`
	Name string `json:"name"`
	Bin  bool   `json:"bin,omitempty"`
}

// ownSaid is what somebody said on a map.
type ownSaid struct {
	Map   string `json:"map"` // its name
	At    string `json:"at"`
	On    string `json:"on,omitempty"`
	Words string `json:"words"`
}

// TakeOut writes all that is of somebody as a ZIP archive: their maps as documents, with what is attached to them,
// what they said on all maps that they may see, and their account.
func (w *Workspace) TakeOut(ctx context.Context, who Person, to io.Writer) error {
	r := w.Store.For(who.Scope)
	z := zip.NewWriter(to)
	add := func(name string, from io.Reader) error {
		f, err := z.Create(name)
		if err == nil {
			_, err = io.Copy(f, from)
		}
		return err
	}
	maps, err := r.List(ctx)
	if err != nil {
		return err
	}
	own := ownAccount{Name: who.Account.Name, Mail: who.Account.Mail, Role: who.Account.Role}
	signIns, err := w.Store.SignIns(ctx, who.ID)
	if err != nil {
		return err
	}
	for _, one := range signIns {
		own.SignIns = append(own.SignIns, ownSignIn{one.Device, one.Since, one.Seen})
	}
	files := map[string]bool{}
	for i, s := range maps {
		m, _, err := r.Load(ctx, s.ID)
		if errors.Is(err, store.ErrNoMap) || errors.Is(err, store.ErrBinned) {
			continue // it went meanwhile
		} else if err != nil {
			return err
		}
		me := who.Speaker(s.ID)
		for _, c := range cm.InOrder(m.Comments) {
			if c.By == me {
				own.Said = append(own.Said, ownSaid{s.Name, c.At, m.Words(c.On.Seen), c.Words})
			}
		}
		if s.Owner != "" {
			continue // it is somebody else's
		}
		raw, err := document.Write(m)
		if err != nil {
			return err
		}
		name := fmt.Sprintf("maps/%03d %s.json", i+1, FileName(s.Name))
		f, err := z.Create(name)
		if err == nil {
			_, err = f.Write(raw)
		}
		if err != nil {
			return err
		}
		own.Maps = append(own.Maps, ownMap{File: name, Name: s.Name})
		for _, file := range m.Files() {
			if files[file.Hash] {
				continue
			}
			files[file.Hash] = true
			_, path, err := r.FileOf(ctx, s.ID, file.Hash)
			if err != nil {
				continue // the folder lost it; the map says so
			}
			in, err := w.Store.OpenFile(path)
			if err != nil {
				continue
			}
			err = errors.Join(add("files/"+file.Hash, in), in.Close())
			if err != nil {
				return err
			}
		}
	}
	f, err := z.Create("account.json")
	if err == nil {
		out := json.NewEncoder(f)
		out.SetIndent("", "  ")
		err = out.Encode(own)
	}
	return errors.Join(err, z.Close())
}

// Leave ends somebody's own account. Their maps go to an heir, or, where there is none, are deleted for good; what they
// said on maps of others stays without their name. Proof is their password, or, where they have none here, their mail
// address.
func (w *Workspace) Leave(ctx context.Context, a *Accounts, who Person, proof, heir string) error {
	p := *who.Account
	_, secret, err := a.Store.Person(ctx, p.ID)
	if err != nil {
		return err
	}
	if HasPassword(secret) {
		err = a.confirmed(ctx, p, proof)
	} else if mail, bad := people.CleanMail(proof); bad != nil || mail != p.Mail {
		err = cm.Refusef("Write your mail address, so that nobody ends your account by mistake.")
	}
	if err != nil {
		return err
	}
	all, err := a.Store.People(ctx)
	if err != nil {
		return err
	}
	owners := slices.DeleteFunc(slices.Clone(all), func(o people.Person) bool { return o.Role != people.RoleOwner || o.ID == p.ID })
	if p.Role == people.RoleOwner && len(owners) == 0 {
		return cm.Refusef("Somebody has to be the owner. Make somebody else one first.")
	}
	if heir != "" && !slices.ContainsFunc(all, func(o people.Person) bool { return o.ID == heir && o.ID != p.ID }) {
		return cm.Refusef("Say who takes over the maps.")
	}
	if err := w.forget(ctx, p); err != nil {
		return err
	}
	if heir == "" {
		if err := w.destroyAll(ctx, who); err != nil {
			return err
		}
		heir = people.FirstOwner // of what is left: nothing
		if len(owners) > 0 {
			heir = owners[0].ID
		}
	}
	if err := a.Store.RemovePerson(ctx, p.ID, heir); err != nil {
		return err
	}
	return a.Store.Record(ctx, store.Deed{Deed: "left", About: string(p.Role)})
}

// forget takes somebody's name off all that they said.
func (w *Workspace) forget(ctx context.Context, p people.Person) error {
	ids, err := w.Store.Commented(ctx)
	if err != nil {
		return err
	}
	// Whatever they may do there now: it is about their own name.
	as := Person{ID: p.ID, Scope: store.Everything}
	for _, id := range ids {
		m, _, err := w.Store.All().Load(ctx, id)
		if errors.Is(err, store.ErrNoMap) || errors.Is(err, store.ErrBinned) {
			continue
		} else if err != nil {
			return err
		}
		if m.NameOf(as.Speaker(id)) == "" && !m.JudgedBy(as.Speaker(id)) {
			continue
		}
		ops, err := edit.Sent(&edit.ForgetSpeaker{})
		if err == nil {
			_, err = w.Session(id).Perform(ctx, as, Asked{ID: NewThingID("g"), Window: "leaving", Operations: ops})
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// destroyAll deletes all maps of somebody for good.
func (w *Workspace) destroyAll(ctx context.Context, who Person) error {
	r := w.Store.For(store.Scope{Person: who.ID})
	maps, err := r.List(ctx)
	if err != nil {
		return err
	}
	for _, m := range maps {
		if m.Owner == "" {
			if err := w.Discard(ctx, who, m.ID); err != nil && !errors.Is(err, store.ErrNoMap) {
				return err
			}
			w.Hub.AskAgain(m.ID)
		}
	}
	bin, err := r.Bin(ctx)
	for _, m := range bin {
		if err == nil && m.Owner == "" {
			err = r.Destroy(ctx, m.ID)
		}
	}
	return err
}

package workspace

import (
	"context"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
)

// OnMap gives those who may look at a map by an account: whose it is, and with whom it is shared.
func (a *Accounts) OnMap(ctx context.Context, id cm.ID) ([]people.Person, error) {
	r := a.Store.For(store.OneMap(id))
	owner, err := r.OwnerOf(ctx, id)
	if err != nil {
		return nil, err
	}
	var all []people.Person
	known := map[string]bool{"": true}
	add := func(p people.Person) {
		if !known[p.ID] {
			known[p.ID] = true
			all = append(all, p)
		}
	}
	add(owner)
	shares, err := r.Shares(ctx, id)
	if err != nil {
		return nil, err
	}
	inherited, err := r.FolderSharesOf(ctx, id)
	for _, s := range append(shares, inherited...) {
		add(s.Person)
	}
	return all, err
}

// Mention writes to those whom somebody names in what they say of a map, and who may look at it; nobody else is
// written to, and nobody by themselves.
func (a *Accounts) Mention(ctx context.Context, who Person, m *cm.Map, ops []edit.Operation, origin string) error {
	var all []people.Person
	for _, op := range ops {
		said, is := op.(*edit.AddComment)
		if !is || who.Account == nil {
			continue
		}
		if all == nil {
			var err error
			if all, err = a.OnMap(ctx, m.ID); err != nil {
				return err
			}
		}
		for _, p := range people.Mentioned(said.Words, all) {
			if p.ID == who.ID {
				continue
			}
			err := a.Letters.Put(ctx, store.Letter{Recipient: p.Mail, Subject: who.Says().Sprintf("%s mentions you on “%s”", who.Name(), m.Name()),
				Body: who.Says().Sprintf("Hello %s,\n\n%s wrote:\n\n%s\n\nThe map is here:\n\n%s\n", p.Name, who.Name(), said.Words, origin+"/maps/"+string(m.ID))})
			if err != nil {
				return err
			}
		}
	}
	return nil
}

package workspace

import (
	"context"

	cm "mevrin/core/conceptmap"
	"mevrin/core/phrases"
)

// BankFor gives the phrase bank as a person sees it; a visitor sees it as shipped.
func (w *Workspace) BankFor(ctx context.Context, who Person, m *cm.Map) ([]phrases.Offer, error) {
	if !who.Keeps() {
		return phrases.For(m.Language, nil), nil
	}
	own, err := w.Store.For(who.Scope).OwnPhrases(ctx, who.ID)
	if err != nil {
		return nil, err
	}
	return phrases.For(m.Language, own), nil
}

// SetPhrase adds a phrase to the bank of a person, takes one out, or makes a group as
// shipped again.
func (w *Workspace) SetPhrase(ctx context.Context, who Person, own phrases.Own, reset bool) error {
	if reset {
		return w.Store.For(who.Scope).ResetPhrases(ctx, who.ID, own.Group)
	}
	own, err := phrases.CheckOwn(own)
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).SetPhrase(ctx, who.ID, own)
}

package workspace

import (
	"context"
	"encoding/json"

	"mevrin/core/check"
	"mevrin/store"
)

// Rules gives how a person wants the rules on all maps; as they come where they said nothing, or
// have but a link.
func (w *Workspace) Rules(ctx context.Context, who Person) (set check.Settings, err error) {
	if !who.Keeps() {
		return set, nil
	}
	kept, err := w.Store.For(who.Scope).Kept(ctx, who.ID, store.KeptRules)
	if err == nil && len(kept) > 0 {
		err = json.Unmarshal(kept[0].Body, &set)
	}
	return set, err
}

// SetRules changes how a person wants the rules.
func (w *Workspace) SetRules(ctx context.Context, who Person, change func(check.Settings) (check.Settings, error)) error {
	set, err := w.Rules(ctx, who)
	if err == nil {
		set, err = change(set)
	}
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).Keep(ctx, who.ID, store.KeptRules, "", set)
}

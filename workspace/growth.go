package workspace

import (
	"context"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// GrowthStep is how large a map was after a change.
type GrowthStep struct {
	Revision int
	structure.Counts
}

// Growth gives how a map grew: how large it was after some of its changes, from the first state to the present
// one. There are about as many steps as asked for, evenly spread, and those that have to be among them.
func (w *Workspace) Growth(ctx context.Context, who Person, id cm.ID, steps int, among []int) ([]GrowthStep, error) {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return nil, err
	}
	revisions := []int{0, now.Revision}
	for i := range steps {
		revisions = append(revisions, now.Revision*i/steps)
	}
	for _, r := range among {
		if r >= 0 && r <= now.Revision {
			revisions = append(revisions, r)
		}
	}
	slices.SortFunc(revisions, func(a, b int) int { return b - a })
	var all []GrowthStep
	var near *structure.Structure
	err = w.Store.For(who.Scope).Past(ctx, id, slices.Compact(revisions), func(revision int, m *cm.Map) error {
		near = structure.Next(near, m) // quick where only words or places differ
		all = append(all, GrowthStep{revision, near.Counts()})
		return ctx.Err()
	})
	slices.Reverse(all)
	return all, err
}

package workspace

import (
	"context"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/draw/scene"
)

// CatchUp brings a window up to date that shows an earlier revision.
func (d *Session) CatchUp(ctx context.Context, who Person, since int) (*Answer, error) {
	now, err := d.Look(ctx)
	if err != nil {
		return nil, err
	}
	view, err := d.viewOf(ctx, now.Map, who)
	if err != nil {
		return nil, err
	}
	now, missed, known := d.missedSince(now, since)
	a := &Answer{Revision: now.Revision}
	d.Flags(a, who)
	switch {
	case since == now.Revision:
		a.Head = now.Head(view)
	case !known || view != (scene.View{}):
		// What differs is known for the whole map alone.
		a.Drawing = now.whole(view)
	default:
		a.Drawing = now.drawing(missed, view)
	}
	return a, nil
}

// missedSince gives what differs between the drawing at a revision and the present
// one, and the state that this was found for; known is false where it is not told
// by what is kept.
func (d *Session) missedSince(now *State, since int) (at *State, missed difference, known bool) {
	d.books.RLock()
	defer d.books.RUnlock()
	if present := d.present.Load(); present != nil {
		now = present
	}
	if since > now.Revision || len(d.recent) == 0 || d.recent[0].revision > since+1 {
		return now, difference{}, false
	}
	for _, p := range d.recent {
		if p.revision > since {
			missed.slips = append(missed.slips, slices.Concat(p.slips, p.goneSlips)...)
			missed.links = append(missed.links, slices.Concat(p.links, p.goneLinks)...)
		}
	}
	for _, ids := range []*[]cm.ID{&missed.slips, &missed.links} {
		slices.Sort(*ids)
		*ids = slices.Compact(*ids)
	}
	return now, missed, true
}

// TryOut shows what operations would do to the drawing, and does none of them.
func (d *Session) TryOut(ctx context.Context, who Person, ops []edit.Operation) (*Answer, error) {
	now, view, err := d.LookAs(ctx, who)
	if err != nil {
		return nil, err
	}
	if err := d.allowed(ctx, now, ops, who); err != nil {
		return nil, err
	}
	out, err := apply(ctx, now.Map, now.Scene, ops)
	if err != nil {
		return nil, err
	}
	next := newState(out.Map, now.Revision, now)
	return &Answer{Revision: now.Revision, Drawing: next.drawing(differenceOf(now.Seen(view), next.Seen(view)), view), Notices: who.hears(out.Notices)}, nil
}

package web

import (
	"context"
	"encoding/json"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/draw/scene"
	"slices"
)

// catchUp brings a window up to date that shows an earlier revision.
func (d *session) catchUp(ctx context.Context, who Person, since int) (*Answer, error) {
	now, err := d.look(ctx)
	if err != nil {
		return nil, err
	}
	view, err := d.viewOf(ctx, now.m, who)
	if err != nil {
		return nil, err
	}
	now, missed, known := d.missedSince(now, since)
	a := &Answer{Revision: now.revision}
	d.flags(a, who)
	switch {
	case since == now.revision:
		a.Head = now.head(view)
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
func (d *session) missedSince(now *state, since int) (at *state, missed difference, known bool) {
	d.books.RLock()
	defer d.books.RUnlock()
	if present := d.present.Load(); present != nil {
		now = present
	}
	if since > now.revision || len(d.recent) == 0 || d.recent[0].revision > since+1 {
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

// tryOut shows what operations would do to the drawing, and does none of them.
func (d *session) tryOut(ctx context.Context, who Person, raw json.RawMessage) (*Answer, error) {
	now, view, err := d.lookAs(ctx, who)
	if err != nil {
		return nil, err
	}
	ops, err := edit.ReadOperations(raw)
	if err != nil {
		return nil, err
	}
	if who.Gentle {
		if err := d.gentle(ctx, now, ops, who); err != nil {
			return nil, err
		}
	}
	out, err := apply(ctx, now.m, ops)
	if err != nil {
		return nil, err
	}
	next := newState(out.Map, now.revision, now)
	return &Answer{Revision: now.revision, Drawing: next.drawing(differenceOf(now.seen(view), next.seen(view)), view), Notices: out.Notices}, nil
}

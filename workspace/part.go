package workspace

import (
	"context"
	"encoding/json"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
)

// Part is a part of a map as it travels from one map to another.
type Part struct {
	Document json.RawMessage `json:"document"`
	// Things are the ids of all that the part holds, sorted, each of which gets a name of
	// its own where it is put down.
	Things []cm.ID `json:"things"`
	// At is the middle of the upper edge of what is copied.
	At cm.Point `json:"at"`
}

// Part gives concepts of a map as it was at a revision, with all that goes along. It fails
// with a refusal where none of them was on it.
func (w *Workspace) Part(ctx context.Context, who Person, id cm.ID, revision int, concepts []cm.ID) (p Part, err error) {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return p, err
	}
	defer now.Turn(ctx)()
	m := now.Map
	if revision < 0 || revision > now.Revision {
		return p, cm.Refusef("That is no revision of this map.")
	}
	if revision < now.Revision {
		if m, err = w.Store.For(who.Scope).At(ctx, id, revision); err != nil {
			return p, err
		}
	}
	part, err := edit.Part(m, concepts)
	if err != nil {
		return p, err
	}
	for _, d := range cm.Entities {
		if d.List != "" {
			p.Things = append(p.Things, d.IDs(part)...)
		}
	}
	low, high := 0.0, 0.0
	for i, id := range cm.SortedIDs(part.Concepts) {
		at := part.Concepts[id].At
		if i == 0 {
			low, high, p.At.Y = at.X, at.X, at.Y
		}
		low, high, p.At.Y = min(low, at.X), max(high, at.X), min(p.At.Y, at.Y)
	}
	p.At.X = (low + high) / 2
	p.Document, err = document.Write(part)
	return p, err
}

package query

import (
	"context"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/workspace"
)

// Walked is what changed along a route since somebody went along it.
type Walked struct {
	Route   cm.ID
	Known   bool // they did
	When    string
	Changes []walkedChange
}

type walkedChange struct {
	Of       guide.ChangeOf
	Stop     cm.ID
	At       string // what the stop is called
	Was, Now string
	// Steps are the operations that mend it: show what is new, leave out what is gone.
	Steps string
}

// Walked gives what changed along a route since the person asking went along it.
func (s Reading) Walked(ctx context.Context, w *workspace.Workspace, who workspace.Person, route cm.ID) (Walked, error) {
	v := Walked{Route: route}
	reach := w.Store.For(who.Scope)
	revision, at, known, err := reach.Walked(ctx, s.Map.ID, who.ID, route)
	if err != nil || !known || s.Map.Routes[route] == nil {
		return v, err
	}
	v.Known, v.When = true, at.Local().Format("2 January, 15:04")
	if revision == s.Revision {
		return v, nil
	}
	before, err := reach.At(ctx, s.Map.ID, revision)
	if err != nil {
		return v, err
	}
	for _, c := range guide.Changes(before, s.Map, route) {
		row := walkedChange{Of: c.Of, Stop: c.Stop, Was: c.Was, Now: c.Now}
		if stop := s.Map.Stops[c.Stop]; stop != nil {
			row.At = guide.Name(s.Map, stop)
			row.Steps = mendSteps(s.Map, stop, c)
		}
		v.Changes = append(v.Changes, row)
	}
	return v, nil
}

// mendSteps gives the operations that mend a change at a stop; none where there is nothing to mend.
func mendSteps(m *cm.Map, stop *cm.Stop, c guide.Change) string {
	var refs []cm.Key
	for _, ref := range stop.Refs {
		key := cm.Key{Kind: ref.Kind, ID: ref.ID}
		if c.Of != guide.ChangeGone || key != c.Key {
			refs = append(refs, key)
		}
	}
	switch c.Of {
	case guide.ChangeNear:
		refs = append(refs, c.Key)
	case guide.ChangeGone:
	default:
		return ""
	}
	raw, _ := edit.MarshalOperations([]edit.Operation{&edit.ShowAtStop{Stop: stop.ID, Refs: refs}}) // what was just made can be written
	return string(raw)
}

package workspace

import (
	"context"
	"slices"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// views is how people see a map, as far as the store was asked.
type views struct {
	mu   sync.Mutex
	kept map[string]*scene.Tucked // nil for whoever has not touched any branch
}

func (v *views) get(person string) (t *scene.Tucked, known bool) {
	v.mu.Lock()
	defer v.mu.Unlock()
	t, known = v.kept[person]
	return t, known
}

func (v *views) set(person string, t *scene.Tucked) {
	v.mu.Lock()
	defer v.mu.Unlock()
	if v.kept == nil || len(v.kept) >= maxPeople {
		v.kept = map[string]*scene.Tucked{}
	}
	v.kept[person] = t
}

// forget lets go of what is known: another process may have kept something else.
func (v *views) forget() {
	v.mu.Lock()
	defer v.mu.Unlock()
	v.kept = nil
}

// viewOf gives how a person sees the map: with the branches that they tucked
// away, or as the map opens for those who have not touched any.
func (d *Session) viewOf(ctx context.Context, m *cm.Map, who Person) (scene.View, error) {
	t, known := d.views.get(who.ID)
	if !known {
		kept, ok, err := d.store.TuckedBy(ctx, d.id, who.ID)
		if err != nil {
			return scene.View{}, err
		}
		if ok {
			tucked := scene.Tucked(kept)
			t = &tucked
		}
		d.views.set(who.ID, t)
	}
	if t == nil {
		return scene.View{Tucked: scene.TuckedOf(cm.SortedIDs(m.Tucked))}, nil
	}
	return scene.View{Tucked: *t}, nil
}

// LookAs gives the present state, and how a person sees it.
func (d *Session) LookAs(ctx context.Context, who Person) (*State, scene.View, error) {
	now, err := d.Look(ctx)
	if err != nil {
		return nil, scene.View{}, err
	}
	v, err := d.viewOf(ctx, now.Map, who)
	return now, v, err
}

// AskedView is how a person wants to see a map from now on.
type AskedView struct {
	Window string  `json:"window"`
	Tuck   []cm.ID `json:"tuck"`  // concepts whose branches are tucked away
	Bring  []cm.ID `json:"bring"` // those whose branches are brought back
	Show   []cm.ID `json:"show"`  // concepts and links of which nothing may be hidden
	Level  int     `json:"level"` // all below this level is tucked away, and nothing else
	All    bool    `json:"all"`   // everything is brought back
}

// next gives the branches tucked away after a wish. What is tucked away inside
// a branch that is brought back stays so.
func (s *State) next(t scene.Tucked, asked AskedView) scene.Tucked {
	if asked.All {
		return ""
	}
	if asked.Level > 0 {
		return scene.TuckedOf(s.Structure.At(asked.Level))
	}
	bring := map[cm.ID]bool{}
	for _, id := range asked.Bring {
		bring[id] = true
	}
	show := map[cm.ID]bool{}
	for _, id := range asked.Show {
		if l := s.Map.Links[id]; l != nil {
			for _, e := range l.Ends() {
				show[e.Concept] = true
			}
		} else {
			show[id] = true
		}
	}
	tucked := t.IDs()
	for _, id := range tucked {
		if r := s.Map.Regions[id]; r != nil {
			for c := range s.Map.Inside(r) {
				bring[id] = bring[id] || show[c]
			}
		}
	}
	above := map[cm.ID]bool{} // what was come past already
	for c := range show {
		for up := s.Structure.Places[c]; up != nil && up.Parent != "" && !above[up.Parent]; up = s.Structure.Places[up.Parent] {
			above[up.Parent], bring[up.Parent] = true, true
		}
	}
	ids := slices.DeleteFunc(append(tucked, asked.Tuck...), func(id cm.ID) bool {
		return s.Map.Concepts[id] == nil && s.Map.Regions[id] == nil || bring[id]
	})
	return scene.TuckedOf(ids)
}

// SetView changes how one person sees the map. It is no edit: nothing of the
// map changes.
func (d *Session) SetView(ctx context.Context, who Person, asked AskedView) (*Answer, error) {
	if !WindowForm.MatchString(asked.Window) || asked.Level < 0 || len(asked.Tuck)+len(asked.Bring)+len(asked.Show) > maxAsked {
		return nil, cm.Refusef("What to show did not arrive whole. Please reload the page.")
	}
	now, before, err := d.LookAs(ctx, who)
	if err != nil {
		return nil, err
	}
	v := scene.View{Tucked: now.next(before.Tucked, asked)}
	if err := d.store.SetTucked(context.WithoutCancel(ctx), d.id, who.ID, string(v.Tucked)); err != nil {
		return nil, err
	}
	d.views.set(who.ID, &v.Tucked)
	a := &Answer{Revision: now.Revision, Drawing: now.drawing(differenceOf(now.Seen(before), now.Seen(v)), v)}
	d.Flags(a, who)
	d.hub.Tell(d.id, Notice{Author: who.ID, Window: asked.Window, Event: Event{Revision: now.Revision, View: true}})
	return a, nil
}

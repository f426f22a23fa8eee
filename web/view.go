package web

import (
	"context"
	"encoding/json"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

// viewOf gives how a person sees the map: with the branches that they tucked
// away, or as the map opens for those who have not touched any.
func (d *desk) viewOf(ctx context.Context, who Person) (scene.View, error) {
	if t, known := d.tucked[who.ID]; known {
		return scene.View{Tucked: t}, nil
	}
	kept, ok, err := d.store.TuckedBy(ctx, d.id, who.ID)
	if err != nil {
		return scene.View{}, err
	}
	if !ok {
		return scene.View{Tucked: scene.TuckedOf(cm.SortedIDs(d.state.m.Tucked))}, nil
	}
	d.tucked[who.ID] = scene.Tucked(kept)
	return scene.View{Tucked: scene.Tucked(kept)}, nil
}

// lookAs gives the present state, and how a person sees it.
func (d *desk) lookAs(ctx context.Context, who Person) (*state, scene.View, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, scene.View{}, err
	}
	v, err := d.viewOf(ctx, who)
	return d.state, v, err
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
func (s *state) next(t scene.Tucked, asked AskedView) scene.Tucked {
	if asked.All {
		return ""
	}
	if asked.Level > 0 {
		return scene.TuckedOf(s.structure.At(asked.Level))
	}
	bring := slices.Clone(asked.Bring)
	for _, id := range asked.Show {
		concepts := []cm.ID{id}
		if l := s.m.Links[id]; l != nil {
			concepts = nil
			for _, e := range l.Ends() {
				concepts = append(concepts, e.Concept)
			}
		}
		for _, c := range concepts {
			for _, t := range t.IDs() {
				if r := s.m.Regions[t]; r != nil && s.m.Inside(r)[c] {
					bring = append(bring, t)
				}
			}
			for up := s.structure.Places[c]; up != nil && up.Parent != ""; up = s.structure.Places[up.Parent] {
				bring = append(bring, up.Parent)
			}
		}
	}
	ids := slices.DeleteFunc(append(t.IDs(), asked.Tuck...), func(id cm.ID) bool {
		return s.m.Concepts[id] == nil && s.m.Regions[id] == nil || slices.Contains(bring, id)
	})
	return scene.TuckedOf(ids)
}

// setView changes how one person sees the map. It is no edit: nothing of the
// map changes.
func (d *desk) setView(ctx context.Context, who Person, asked AskedView) (*Answer, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	before, err := d.viewOf(ctx, who)
	if err != nil {
		return nil, err
	}
	v := scene.View{Tucked: d.state.next(before.Tucked, asked)}
	if err := d.store.SetTucked(ctx, d.id, who.ID, string(v.Tucked)); err != nil {
		return nil, err
	}
	d.tucked[who.ID] = v.Tucked
	a := &Answer{Revision: d.state.revision, Drawing: d.state.drawing(differenceOf(d.state.seen(before), d.state.seen(v)), v)}
	d.flags(a, who)
	d.tell(Event{Revision: d.state.revision, Window: asked.Window, View: who.ID})
	return a, nil
}

// postView changes how the person asking sees a map.
func (s *server) postView(g *gin.Context) {
	who, id, ok := s.allow(g, MayLook)
	if !ok {
		return
	}
	var asked AskedView
	from := json.NewDecoder(g.Request.Body)
	from.DisallowUnknownFields()
	if err := from.Decode(&asked); err != nil || !windowForm.MatchString(asked.Window) || asked.Level < 0 {
		s.failWith(g, &cm.Refusal{Words: "What to show did not arrive whole. Please reload the page."})
		return
	}
	answer, err := s.desks.get(id).setView(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

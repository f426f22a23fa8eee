package web

import (
	"context"
	"encoding/json"
	"net/http"

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

// setTucked tucks branches away for one person, and brings all others back. It
// is no edit: nothing of the map changes.
func (d *desk) setTucked(ctx context.Context, who Person, window string, ids []cm.ID) (*Answer, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	before, err := d.viewOf(ctx, who)
	if err != nil {
		return nil, err
	}
	var there []cm.ID
	for _, id := range ids {
		if d.state.m.Concepts[id] != nil {
			there = append(there, id)
		}
	}
	v := scene.View{Tucked: scene.TuckedOf(there)}
	if err := d.store.SetTucked(ctx, d.id, who.ID, string(v.Tucked)); err != nil {
		return nil, err
	}
	d.tucked[who.ID] = v.Tucked
	a := &Answer{Revision: d.state.revision, Drawing: d.state.drawing(differenceOf(d.state.seen(before), d.state.seen(v)), v)}
	d.flags(a, who)
	d.tell(Event{Revision: d.state.revision, Window: window, View: who.ID})
	return a, nil
}

// postView changes how the person asking sees a map: the branches named are
// tucked away, or all those that begin at a level.
func (s *server) postView(g *gin.Context) {
	who, id, ok := s.allow(g, MayLook)
	if !ok {
		return
	}
	var asked struct {
		Window string  `json:"window"`
		Tucked []cm.ID `json:"tucked"`
		Level  int     `json:"level"` // show down to this one; 0: as Tucked says
	}
	from := json.NewDecoder(g.Request.Body)
	from.DisallowUnknownFields()
	if err := from.Decode(&asked); err != nil || !windowForm.MatchString(asked.Window) || asked.Level < 0 {
		s.failWith(g, &cm.Refusal{Words: "What to show did not arrive whole. Please reload the page."})
		return
	}
	d := s.desks.get(id)
	if asked.Level > 0 {
		now, err := d.look(g.Request.Context())
		if err != nil {
			s.failWith(g, err)
			return
		}
		asked.Tucked = now.structure.At(asked.Level)
	}
	answer, err := d.setTucked(g.Request.Context(), who, asked.Window, asked.Tucked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

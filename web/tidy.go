package web

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// ofOrder is what the margin says of how the map is put in order.
type ofOrder struct {
	Patterns []patternView
	Freely   bool
	KeepTidy bool
	Top      cm.ID // the concept selected, where something is below it
	Pinned   bool  // all concepts selected are
	When     string
	Placed   int // concepts placed by hand since
}

// patternView is a pattern on offer.
type patternView struct {
	Pattern     cm.Pattern
	Name        string
	Map, Branch bool // it is that of the map, of the branch selected
}

// patternNames are what the patterns are called on the page.
var patternNames = map[cm.Pattern]string{
	cm.PatternLevels: "Levels, down", cm.PatternUp: "Levels, up", cm.PatternRight: "Levels, to the right", cm.PatternLeft: "Levels, to the left",
	cm.PatternSides: "Both sides", cm.PatternRings: "Rings", cm.PatternWeb: "Web", cm.PatternSpine: "Spine and ribs",
	cm.PatternTime: "Along time", cm.PatternRows: "Rows and columns",
}

func (s *state) describeOrder(v *marginView, concepts []cm.ID) {
	o := &v.ofOrder
	o.Freely, o.KeepTidy = s.m.Freely, s.m.KeepTidy
	own := cm.PatternNone
	if len(concepts) == 1 {
		c := s.m.Concepts[concepts[0]]
		o.When = c.When
		if len(s.structure.Places[c.ID].Children) > 0 {
			o.Top, own = c.ID, c.Pattern
		}
	}
	o.Pinned = len(concepts) > 0
	for _, id := range concepts {
		o.Pinned = o.Pinned && s.m.Concepts[id].Hold == cm.HoldPin
	}
	for _, c := range s.m.Concepts {
		if c.Hold == cm.HoldHand {
			o.Placed++
		}
	}
	for _, p := range cm.Patterns {
		o.Patterns = append(o.Patterns, patternView{p, patternNames[p], p == s.m.Pattern, p == own})
	}
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

// postTried answers with the drawing as it would be.
func (s *server) postTried(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		Operations json.RawMessage `json:"operations"`
	}
	if err := s.readJSON(g, &asked, "What to try out did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	answer, err := s.sessions.get(id).tryOut(g.Request.Context(), who, asked.Operations)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

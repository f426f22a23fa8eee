package web

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/svg"
)

// ownLookView is a look of the author's own, with what puts it on.
type ownLookView struct{ Name, Steps string }

// ownLooks gives the looks that an author keeps.
func ownLooks(ctx context.Context, w *Workspace, author string) ([]ownLookView, error) {
	var views []ownLookView
	all, err := w.Store.OwnLooks(ctx, author)
	for _, own := range all {
		steps := written(map[string]any{"do": "set-look", "plain": true, "dress": own.Look.Dress, "own": own.Look.Own, "paper": own.Look.Paper, "line": own.Look.Line, "large": own.Look.Large, "by": own.Look.By})
		views = append(views, ownLookView{own.Name, steps})
	}
	return views, err
}

// postLook keeps the look of a map under a name.
func (s *server) postLook(g *gin.Context) {
	who, id := asker(g)
	if err := s.work.KeepLook(g.Request.Context(), who, id, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// lookSheet is the style sheet of colours of one's own: those of the map, or those
// that somebody tries on.
func (s *server) lookSheet(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	look := now.m.Look
	if paper, tried := g.GetQuery("paper"); tried {
		var err error
		if look, err = look.TriedOn(cm.OwnColours{Paper: paper, Slip: g.Query("slip"), Ink: g.Query("ink")}); err != nil {
			s.failWith(g, err)
			return
		}
	}
	sendSheet(g, look)
}

// walkSheet is the style sheet of colours of one's own, for a walk.
func (s *server) walkSheet(g *gin.Context) {
	if now, _ := s.walked(g); now != nil {
		sendSheet(g, now.m.Look)
	}
}

func sendSheet(g *gin.Context, l cm.Look) {
	g.Header("Cache-Control", "no-store")
	g.Data(http.StatusOK, "text/css; charset=utf-8", []byte(svg.Own(l)))
}

// dropLook forgets a look of the author's own.
func (s *server) dropLook(g *gin.Context) {
	who, _ := asker(g)
	if err := s.Store.DropLook(g.Request.Context(), who.ID, g.PostForm("name")); err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// choiceView is one of several choices, with its name and why one would take it.
type choiceView struct{ Value, Name, Why string }

var (
	dresses  = []choiceView{{"", "Page", "Warm paper, the plain look"}, {"evening", "Evening", "Dark, for dim rooms"}, {"projector", "Projector", "Black on white, heavy lines"}, {"printer", "Printer", "White and quiet, little ink"}, {"young", "Bright", "Clear and bold, for young readers"}, {"board", "Board", "Chalk on a green board"}}
	papers   = []choiceView{{"", "plain", ""}, {"lines", "lines", ""}, {"squares", "squares", ""}, {"dots", "dots", ""}, {"picture", "a picture", ""}}
	meanings = []choiceView{{"", "their kind", ""}, {"branch", "their branch", ""}, {"level", "their level", ""}, {"tag", "their first tag", ""}}
)

func (s reading) describeLook(v *marginView, concepts []cm.ID) {
	v.Look, v.Dresses, v.Papers, v.Meanings = s.m.Look, dresses, papers, meanings
	v.Colours = cm.OwnColours{Paper: svg.Colour(s.m.Look, "paper"), Slip: svg.Colour(s.m.Look, "slip"), Ink: svg.Colour(s.m.Look, "ink")}
	for i, id := range concepts {
		if p := s.m.Concepts[id].Paint; p != nil {
			v.Painted = true
			if i == 0 {
				v.Paint = *p
			}
		}
	}
}

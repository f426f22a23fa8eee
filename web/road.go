package web

import (
	"context"
	"net/http"
	"regexp"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

var windowForm = regexp.MustCompile(`^[A-Za-z0-9_-]{1,40}$`)

// postEntry takes one gesture down the road.
func (s *server) postEntry(g *gin.Context) {
	who, id := asker(g)
	var asked Asked
	if err := s.readJSON(g, &asked, "This change did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	if !windowForm.MatchString(asked.Window) {
		s.failWith(g, &cm.Refusal{Words: "This change does not say which window it comes from. Please reload the page."})
		return
	}
	answer, err := s.sessions.get(id).perform(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// changesSince brings a window up to date that shows an earlier revision.
func (s *server) changesSince(g *gin.Context) {
	who, id := asker(g)
	since, err := strconv.Atoi(g.Query("since"))
	if err != nil || since < 0 {
		s.fail(g, http.StatusBadRequest, "That is no revision of this map.", nil)
		return
	}
	answer, err := s.sessions.get(id).catchUp(g.Request.Context(), who, since)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

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

package web

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/scene"
)

var windowForm = regexp.MustCompile(`^[A-Za-z0-9_-]{1,40}$`)

// postEntry takes one gesture down the road.
func (s *server) postEntry(g *gin.Context) {
	who, id, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	var asked Asked
	from := json.NewDecoder(g.Request.Body)
	from.DisallowUnknownFields()
	if err := from.Decode(&asked); err != nil {
		var tooLarge *http.MaxBytesError
		if !errors.As(err, &tooLarge) {
			err = &cm.Refusal{Words: "This change did not arrive whole. Please reload the page and try again."}
		}
		s.failWith(g, err)
		return
	}
	if !windowForm.MatchString(asked.Window) {
		s.failWith(g, &cm.Refusal{Words: "This change does not say which window it comes from. Please reload the page."})
		return
	}
	answer, err := s.desks.get(id).perform(g.Request.Context(), who, asked)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

// changesSince brings a window up to date that shows an earlier revision.
func (s *server) changesSince(g *gin.Context) {
	who, id, ok := s.allow(g, MayLook)
	if !ok {
		return
	}
	since, err := strconv.Atoi(g.Query("since"))
	if err != nil || since < 0 {
		s.fail(g, http.StatusBadRequest, "That is no revision of this map.", nil)
		return
	}
	answer, err := s.desks.get(id).catchUp(g.Request.Context(), who, since)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, answer)
}

func (d *desk) catchUp(ctx context.Context, who Person, since int) (*Answer, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	a := &Answer{Revision: d.state.revision}
	d.flags(a, who)
	view, err := d.viewOf(ctx, who)
	if err != nil {
		return nil, err
	}
	var missed difference
	switch {
	case since == d.state.revision:
		a.Head = d.state.head(view)
		return a, nil
	case since > d.state.revision, len(d.recent) == 0, d.recent[0].revision > since+1, view != (scene.View{}):
		// What differs is known for the whole map alone.
		a.Drawing = d.state.whole(view)
		return a, nil
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
	a.Drawing = d.state.drawing(missed, view)
	return a, nil
}

// Event tells a window that the map has moved on.
type Event struct {
	Revision int    `json:"revision"`
	Window   string `json:"window"` // whose edit it was
	// View names the person who sees the map otherwise now, in all windows but
	// that one.
	View     string     `json:"view,omitempty"`
	Overtook []Overtook `json:"overtook,omitempty"`
	// Chosen is what that window has selected now; present where the event is
	// about nothing else.
	Chosen *[]string `json:"chosen,omitempty"`
}

// Overtook tells a window that another one has since written over its words.
type Overtook struct {
	Window string `json:"window"`
	What   string `json:"what"`
}

// viewer is a window that listens. A full queue drops events: the next one
// carries the revision, and the window asks for all it missed.
type viewer struct {
	events chan Event
	window string
}

func (d *desk) tell(e Event) {
	for v := range d.viewers {
		select {
		case v.events <- e:
		default:
		}
	}
}

// mostChosen bounds what is told of a selection.
const mostChosen = 50

// postChosen tells the other windows what one has selected.
func (s *server) postChosen(g *gin.Context) {
	_, id, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	var asked struct {
		Window string   `json:"window"`
		Chosen []string `json:"chosen"`
	}
	from := json.NewDecoder(g.Request.Body)
	from.DisallowUnknownFields()
	if err := from.Decode(&asked); err != nil || !windowForm.MatchString(asked.Window) {
		s.failWith(g, &cm.Refusal{Words: "What is selected did not arrive whole."})
		return
	}
	chosen := []string{}
	for _, e := range asked.Chosen[:min(len(asked.Chosen), mostChosen)] {
		if kind, name, _ := strings.Cut(e, "-"); (kind == "c" || kind == "l") && cm.ID(name).Valid() {
			chosen = append(chosen, e)
		}
	}
	d := s.desks.get(id)
	d.mu.Lock()
	d.tell(Event{Window: asked.Window, Chosen: &chosen})
	d.mu.Unlock()
	g.Status(http.StatusNoContent)
}

// live is the stream of events of one map.
func (s *server) live(g *gin.Context) {
	_, id, ok := s.allow(g, MayLook)
	if !ok {
		return
	}
	d := s.desks.get(id)
	ctx := g.Request.Context()
	now, err := d.look(ctx)
	if err != nil {
		s.failWith(g, err)
		return
	}
	conn, err := websocket.Accept(g.Writer, g.Request, nil)
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = conn.CloseNow() }()
	ctx = conn.CloseRead(ctx)
	v := &viewer{events: make(chan Event, 64)}
	if window := g.Query("window"); windowForm.MatchString(window) {
		v.window = window
	}
	d.mu.Lock()
	d.viewers[v] = true
	d.mu.Unlock()
	defer func() {
		d.mu.Lock()
		delete(d.viewers, v)
		d.tell(Event{Window: v.window, Chosen: &[]string{}})
		d.mu.Unlock()
	}()
	send := func(e Event) bool {
		ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
		defer cancel()
		return wsjson.Write(ctx, conn, e) == nil
	}
	if !send(Event{Revision: now.revision}) {
		return
	}
	for {
		select {
		case e := <-v.events:
			if !send(e) {
				return
			}
		case <-ctx.Done():
			return
		}
	}
}

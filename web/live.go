package web

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"strings"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// Event tells a window that the map has moved on. It names no person and no key of
// one: another person's window goes by a name that only tells it from others.
type Event struct {
	Revision int    `json:"revision"`
	Window   string `json:"window"` // whose edit it was
	// View tells that the person who listens sees the map otherwise now.
	View bool `json:"view,omitempty"`
	// Overtook are things whose words this window wrote, and that edit wrote over.
	Overtook []string `json:"overtook,omitempty"`
	// Chosen is what that window has selected now; present where the event is
	// about nothing else.
	Chosen *[]string `json:"chosen,omitempty"`
}

// notice is what happened on a map, and by whom; each viewer gets the event that
// is meant for them.
type notice struct {
	author, window string
	event          Event
	overtook       []overtook
}

// overtook tells that a window of somebody has been written over.
type overtook struct{ author, window, what string }

// viewer is a window that listens. A full queue drops events: the next one
// carries the revision, and the window asks for all it missed.
type viewer struct {
	events chan Event
	again  chan struct{} // asks whether it may listen still
	who    Person
	window string
}

// eventFor gives the event as a viewer may see it; false where it is not for them.
func (n notice) eventFor(v *viewer) (Event, bool) {
	e := n.event
	if e.View && v.who.ID != n.author {
		return e, false
	}
	e.Window = n.window
	if v.who.ID != n.author {
		sum := sha256.Sum256([]byte(n.author + "\x00" + n.window))
		e.Window = "of" + hex.EncodeToString(sum[:8])
	}
	for _, o := range n.overtook {
		if o.author == v.who.ID && o.window == v.window {
			e.Overtook = append(e.Overtook, o.what)
		}
	}
	return e, true
}

// tell lets all who listen know.
func (d *session) tell(n notice) {
	d.listening.Lock()
	defer d.listening.Unlock()
	for v := range d.viewers {
		if e, ok := n.eventFor(v); ok {
			select {
			case v.events <- e:
			default:
			}
		}
	}
}

// askAgain lets all who listen ask whether they may still.
func (d *session) askAgain() {
	d.listening.Lock()
	defer d.listening.Unlock()
	for v := range d.viewers {
		select {
		case v.again <- struct{}{}:
		default: // it is about to ask
		}
	}
}

// join lets a window listen; false where too many do.
func (d *session) join(v *viewer) bool {
	d.listening.Lock()
	defer d.listening.Unlock()
	if len(d.viewers) >= maxViewers {
		return false
	}
	d.viewers[v] = true
	return true
}

func (d *session) leave(v *viewer) {
	d.listening.Lock()
	delete(d.viewers, v)
	d.listening.Unlock()
	d.tell(notice{author: v.who.ID, window: v.window, event: Event{Chosen: &[]string{}}})
}

// postChosen tells the other windows what one has selected.
func (s *server) postChosen(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		Window string   `json:"window"`
		Chosen []string `json:"chosen"`
	}
	const refused = "What is selected did not arrive whole."
	err := s.readJSON(g, &asked, refused)
	if err == nil && !windowForm.MatchString(asked.Window) {
		err = &cm.Refusal{Words: refused}
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	chosen := []string{}
	for _, e := range asked.Chosen[:min(len(asked.Chosen), maxChosen)] {
		if kind, name, _ := strings.Cut(e, "-"); (kind == "c" || kind == "l") && cm.ID(name).Valid() {
			chosen = append(chosen, e)
		}
	}
	s.sessions.get(id).tell(notice{author: who.ID, window: asked.Window, event: Event{Chosen: &chosen}})
	g.Status(http.StatusNoContent)
}

// How long a window is waited for that takes in nothing, and how often one that
// says nothing is asked whether it is there, and whether it may be.
const (
	patience = 10 * time.Second
	interval = 30 * time.Second
)

// live is the stream of events of one map.
func (s *server) live(g *gin.Context) {
	p := admitted(g)
	who, id := p.who, p.mapID
	d := s.sessions.get(id)
	ctx := g.Request.Context()
	now, err := d.look(ctx)
	if err != nil {
		s.failWith(g, err)
		return
	}
	v := &viewer{events: make(chan Event, 64), again: make(chan struct{}, 1), who: who}
	if window := g.Query("window"); windowForm.MatchString(window) {
		v.window = window
	}
	if !d.join(v) {
		s.fail(g, http.StatusServiceUnavailable, "Too many windows show this map. Please close some.", nil)
		return
	}
	defer d.leave(v)
	conn, err := websocket.Accept(g.Writer, g.Request, nil)
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = conn.CloseNow() }()
	ctx = conn.CloseRead(ctx)
	if d.send(ctx, conn, Event{Revision: now.revision}) != nil {
		return
	}
	if until := p.grant.Until; !until.IsZero() {
		ending := time.AfterFunc(time.Until(until), func() { // by itself, as the link does
			select {
			case v.again <- struct{}{}:
			default:
			}
		})
		defer ending.Stop()
	}
	for s.next(ctx, d, v, conn, func() bool { return s.still(ctx, g, who, id) }) {
	}
}

// next waits for what comes next in a stream, and tells whether it goes on.
func (s *server) next(ctx context.Context, d *session, v *viewer, conn *websocket.Conn, may func() bool) bool {
	asleep := time.NewTimer(interval)
	defer asleep.Stop()
	select {
	case e := <-v.events:
		return d.send(ctx, conn, e) == nil
	case <-v.again:
	case <-asleep.C:
		ctx, cancel := context.WithTimeout(ctx, patience)
		defer cancel()
		if conn.Ping(ctx) != nil {
			return false
		}
	case <-ctx.Done():
		return false
	}
	if may() {
		return true
	}
	_ = conn.Close(websocket.StatusPolicyViolation, "closed") // the page asks no more
	return false
}

func (d *session) send(ctx context.Context, conn *websocket.Conn, e Event) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	return wsjson.Write(ctx, conn, e)
}

// still tells whether one who listens to a map may go on.
func (s *server) still(ctx context.Context, g *gin.Context, who Person, id cm.ID) bool {
	again, err := s.principalOf(g)
	if err != nil || again.can(CanLook) != nil || again.who.ID != who.ID || again.mapID != id {
		return false
	}
	_, err = s.sessions.get(id).look(ctx)
	return err == nil
}

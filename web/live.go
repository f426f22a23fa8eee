package web

import (
	"cmp"
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/workspace"
)

// postChosen tells the other windows what one has selected.
func (s *server) postChosen(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		Window string   `json:"window"`
		Chosen []string `json:"chosen"`
	}
	const refused = "What is selected did not arrive whole."
	err := s.readJSON(g, &asked, refused)
	if err == nil {
		err = s.work.Session(id).Choose(who, asked.Window, asked.Chosen)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
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
	d := s.work.Session(id)
	ctx := g.Request.Context()
	now, err := d.Look(ctx)
	if err != nil {
		s.failWith(g, err)
		return
	}
	v := workspace.NewListener(who, "")
	if window := g.Query("window"); workspace.WindowForm.MatchString(window) {
		v.Window = window
	}
	v.Seated = p.may[CanComment] || p.may[CanAdd]
	conn, leave, ok := s.stream(g, id, v)
	if !ok {
		return
	}
	defer leave()
	if v.Seated {
		ctx = s.hear(ctx, conn, v, id)
	} else {
		ctx = conn.CloseRead(ctx)
	}
	if send(ctx, conn, workspace.Event{Revision: now.Revision}) != nil {
		return
	}
	if until := cmp.Or(p.grant.Until, who.Until); !until.IsZero() {
		ending := time.AfterFunc(time.Until(until), v.Ask) // by itself, as the link does
		defer ending.Stop()
	}
	needs := CanComment
	if g.Param("token") != "" {
		needs = CanLook
	}
	for next(ctx, v, conn, func() bool { return s.still(ctx, g, who, id, needs) }) {
	}
}

// How often a window may tell where its pointer is, and how long what it says may be, in bytes.
const (
	spotEvery = 60 * time.Millisecond
	maxHeard  = 200
)

// hear takes in where the pointer of a window is, for the others, until the window goes; what comes too often, or cannot
// be read, is left out.
func (s *server) hear(ctx context.Context, conn *websocket.Conn, v *workspace.Listener, id cm.ID) context.Context {
	ctx, cancel := context.WithCancel(ctx)
	conn.SetReadLimit(maxHeard)
	go func() {
		defer cancel()
		var last time.Time
		for {
			_, raw, err := conn.Read(ctx)
			if err != nil {
				return
			}
			var told struct {
				Spot *[2]float64 `json:"spot"`
			}
			if json.Unmarshal(raw, &told) != nil || told.Spot == nil || time.Since(last) < spotEvery {
				continue
			}
			if x, y := told.Spot[0], told.Spot[1]; x != x || y != y || max(x, -x, y, -y) > cm.FarthestPlace {
				continue
			}
			last = time.Now()
			s.work.Session(id).Spot(v.Who, v.Window, *told.Spot)
		}
	}()
	return ctx
}

// stream opens a stream for a window that listens to a map; where it cannot, it has answered.
func (s *server) stream(g *gin.Context, id cm.ID, v *workspace.Listener) (conn *websocket.Conn, leave func(), ok bool) {
	left, ok := s.work.Hub.Join(id, v)
	if !ok {
		s.fail(g, http.StatusServiceUnavailable, "Too many windows show this map. Please close some.", nil)
		return nil, nil, false
	}
	conn, err := websocket.Accept(g.Writer, g.Request, nil)
	if err != nil { // Accept has answered
		left()
		return nil, nil, false
	}
	return conn, func() { _ = conn.CloseNow(); left() }, true
}

// next waits for what comes next in a stream, and tells whether it goes on.
func next(ctx context.Context, v *workspace.Listener, conn *websocket.Conn, may func() bool) bool {
	asleep := time.NewTimer(interval)
	defer asleep.Stop()
	select {
	case e := <-v.Events:
		return send(ctx, conn, e) == nil
	case <-v.Again:
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

func send(ctx context.Context, conn *websocket.Conn, e workspace.Event) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	return wsjson.Write(ctx, conn, e)
}

// still tells whether one who listens to a map may go on.
func (s *server) still(ctx context.Context, g *gin.Context, who workspace.Person, id cm.ID, needs Capability) bool {
	again, err := s.principalOf(g)
	if err != nil || again.can(needs) != nil || again.who.ID != who.ID || again.mapID != id {
		return false
	}
	_, err = s.work.Session(id).Look(ctx)
	return err == nil
}

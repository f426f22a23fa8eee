package web

import (
	"bytes"
	"context"
	"html/template"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/svg"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// roomFrame is what changed of what a room sees.
type roomFrame struct {
	Version int  `json:"version"`
	Whole   bool `json:"whole,omitempty"` // it holds all there is
	// Slips and Links are drawn by their elements; Gone are off the paper.
	Slips   map[string]string `json:"slips,omitempty"`
	Links   map[string]string `json:"links,omitempty"`
	Gone    []string          `json:"gone,omitempty"`
	Regions string            `json:"regions"`
	Fresh   []string          `json:"fresh"`
	Means   []string          `json:"means"`
	Faded   []string          `json:"faded"`
	All     bool              `json:"all,omitempty"` // the map as a whole is looked at
	Stop    cm.ID             `json:"stop"`
	Card    string            `json:"card"` // markup
	Large   *query.Sentence   `json:"large"`
	Source  map[string]string `json:"source"`
	Closer  bool              `json:"closer"`
	Close   bool              `json:"close,omitempty"` // the view goes close to what is spoken of
	Dark    bool              `json:"dark"`
	Spot    *cm.Point         `json:"spot"`
	Look    string            `json:"look"`
	Ended   bool              `json:"ended,omitempty"`
	// Side and Clock are for the desk alone.
	Side  string `json:"side,omitempty"` // markup
	Aside bool   `json:"aside,omitempty"`
	// Concepts are all of the map, as markup; sent when they changed.
	Concepts string     `json:"concepts,omitempty"`
	Clock    *deskClock `json:"clock,omitempty"`
}

// deskClock is how the time goes, in seconds.
type deskClock struct {
	Began float64           `json:"began"` // ago
	Since float64           `json:"since"` // the stop began, ago
	Spent map[cm.ID]float64 `json:"spent"` // by stop, without the present one but before
	// From and To are when the room is at this stop if all goes as planned, since the beginning; nil
	// where nothing is planned.
	From  *float64 `json:"from"`
	To    *float64 `json:"to"`
	Rooms int      `json:"rooms"`
}

// watching is a screen that follows a room.
type watching struct {
	s     *server
	g     *gin.Context
	conn  *websocket.Conn
	l     *workspace.Leading
	desk  bool
	base  string
	sent  map[string]string // what was drawn, by element
	stage *workspace.Stage
	seen  int // the version
	spot  *cm.Point
	rooms int
}

// deskAfter is how long a desk waits for the rooms to be told: too short to be felt.
const deskAfter = 15 * time.Millisecond

// liveRoom is the stream of what a room sees.
func (s *server) liveRoom(g *gin.Context) {
	l, err := s.work.Room(g.Param("code"))
	s.watch(g, l, err, false, "/room/"+g.Param("code"))
}

// liveDesk is the stream of what a desk shows.
func (s *server) liveDesk(g *gin.Context) {
	who, id := asker(g)
	l, err := s.work.Led(who, id, rehearses(g))
	s.watch(g, l, err, true, "/maps/"+string(id))
}

func (s *server) watch(g *gin.Context, l *workspace.Leading, err error, desk bool, base string) {
	p := admitted(g)
	if err == nil {
		_, err = s.work.Session(p.mapID).Look(g.Request.Context())
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	edits := workspace.NewListener(p.who, "")
	conn, leave, ok := s.stream(g, p.mapID, edits)
	if !ok {
		return
	}
	defer leave()
	needs := CanFollow
	if desk {
		needs = CanGuide
	}
	may := func(ctx context.Context) bool {
		if s.still(ctx, g, p.who, p.mapID, needs) {
			return true
		}
		_ = conn.Close(websocket.StatusPolicyViolation, "closed") // the page asks why
		return false
	}
	ctx := conn.CloseRead(g.Request.Context())
	woken, left := l.Watch(!desk)
	defer left()
	w := &watching{s: s, g: g, conn: conn, l: l, desk: desk, base: base, sent: map[string]string{}}
	asleep := time.NewTicker(interval)
	defer asleep.Stop()
	for w.tell(ctx) {
		select {
		case <-woken:
			if desk { // the rooms come first: what is seen there is waited for
				time.Sleep(deskAfter)
			}
		case <-edits.Events:
		case <-edits.Again:
			if !may(ctx) {
				return
			}
		case <-asleep.C:
			if !pinged(ctx, conn) || !may(ctx) {
				return
			}
		case <-ctx.Done():
			return
		}
	}
}

func pinged(ctx context.Context, conn *websocket.Conn) bool {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	return conn.Ping(ctx) == nil
}

// tell sends what changed, and says whether it goes on.
func (w *watching) tell(ctx context.Context) bool {
	state, err := w.s.work.Session(w.l.MapID).Look(ctx)
	if err != nil {
		_ = w.conn.Close(websocket.StatusPolicyViolation, "closed") // the page asks why
		return false
	}
	reading := query.Reading{State: state, Say: say(w.g)}
	led, err := reading.Led(w.l)
	if err != nil {
		_ = w.conn.Close(websocket.StatusPolicyViolation, "closed")
		return false
	}
	var news any
	switch {
	case led.Now.Ended:
		news = roomFrame{Ended: true}
	case w.stage == led.Stage && w.seen == led.Now.Version:
		// What moves often is no reason to work out all the rest; the desk knows where it points.
		if w.desk && w.rooms == led.Now.Rooms || !w.desk && w.spot == led.Now.Spot {
			return true
		}
		news = gin.H{"spot": led.Now.Spot}
		if w.desk {
			news = gin.H{"rooms": led.Now.Rooms}
		}
	default:
		news = w.frame(led)
	}
	w.stage, w.seen, w.spot, w.rooms = led.Stage, led.Now.Version, led.Now.Spot, led.Now.Rooms
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	if wsjson.Write(ctx, w.conn, news) != nil {
		return false
	}
	if led.Now.Ended {
		_ = w.conn.Close(websocket.StatusNormalClosure, "ended")
	}
	return !led.Now.Ended
}

func (w *watching) frame(led query.Led) roomFrame {
	f := roomFrame{Version: led.Now.Version, Whole: len(w.sent) == 0, Slips: map[string]string{}, Links: map[string]string{},
		Fresh: led.Fresh(), Means: led.Means(), Faded: led.Faded(), Stop: led.Now.Lead.Stop, Large: led.Large(), Closer: led.Now.Lead.Closer, Close: led.Frame.Close, Dark: led.Now.Lead.Dark, All: led.Frame.Whole, Spot: led.Now.Spot, Look: workspace.LookOf(led.Map.Look)}
	f.Regions = string(filesAt(w.base, template.HTML(svg.Regions(led.Regions()))))
	stands := map[string]bool{}
	anew := w.stage != led.Stage
	put := func(element string, into map[string]string) {
		stands[element] = true
		if _, known := w.sent[element]; known && !anew {
			return
		}
		if drawn := led.Stage.Drawn(element); drawn != "" && w.sent[element] != drawn {
			w.sent[element] = drawn
			into[element] = string(filesAt(w.base, template.HTML(drawn)))
		}
	}
	for id := range led.Frame.Stands {
		if led.Map.Concepts[id] != nil {
			put("c-"+string(id), f.Slips)
		} else {
			put("l-"+string(id), f.Links)
		}
	}
	for element := range w.sent {
		if !stands[element] {
			f.Gone = append(f.Gone, element)
			delete(w.sent, element)
		}
	}
	f.Card = w.markup("room-card", led.Card(w.base))
	if src := led.Source(); src != nil {
		f.Source = map[string]string{"kind": string(src.Kind), "leads": string(src.LeadsTo()), "href": src.Href, "url": src.URL, "name": src.Name, "says": src.Says, "licence": src.Licence}
		if src.File != nil {
			f.Source["type"] = src.File.Type
		}
	}
	if w.desk {
		if anew {
			f.Concepts = w.markup("desk-concepts", led.Everything())
		}
		f.Side, f.Clock, f.Aside = w.markup("desk-side", led.Desk()), w.clock(led), led.Frame.Concept != ""
	}
	return f
}

func (w *watching) clock(led query.Led) *deskClock {
	now := w.s.Store.Now()
	c := &deskClock{Began: now.Sub(led.Now.Began).Seconds(), Since: now.Sub(led.Now.Since).Seconds(), Spent: map[cm.ID]float64{}, Rooms: led.Now.Rooms}
	for stop, took := range led.Now.Spent {
		if stop != "" {
			c.Spent[stop] = took.Seconds()
		}
	}
	if from, to, planned := guide.Due(led.Map, led.Stage.Route, led.Now.Lead.Stop); planned {
		a, b := 60*from, 60*to
		c.From, c.To = &a, &b
	}
	return c
}

// markup gives a part of a page in the reader's language.
func (w *watching) markup(name string, data any) string {
	var out bytes.Buffer
	if err := w.s.pages[say(w.g).Language()].ExecuteTemplate(&out, name, data); err != nil {
		w.s.Log.Error("a part of a page", "name", name, "err", err)
		return ""
	}
	return out.String()
}

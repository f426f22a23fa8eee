package workspace

import (
	"crypto/rand"
	"errors"
	"maps"
	"sync"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
)

// ErrNoRoom tells that a code opens no room, or no longer.
var ErrNoRoom = errors.New("there is no such room")

// Leadings are the rooms that are led at present. They last as long as the program runs.
type Leadings struct {
	mu   sync.Mutex
	code map[string]*Leading
	of   map[leadKey]*Leading
}

// leadKey tells rooms apart: a rehearsal and a room that is led at the same time are two.
type leadKey struct {
	who       string
	mapID     cm.ID
	rehearsal bool
}

// The bounds of rooms: how many there are at once, and after how long without a deed one ends.
const (
	maxRooms  = 500
	roomLasts = 12 * time.Hour
)

// codeLetters make up codes: none can be taken for another, nor do they make words.
const codeLetters = "BCDFGHJKMPQRTVWXY346789"

// CodeLength is how many letters a code has: some 148 million codes.
const CodeLength = 6

func newCode() string {
	code := make([]byte, 0, CodeLength)
	for len(code) < CodeLength {
		var b [1]byte
		_, _ = rand.Read(b[:]) // never fails
		if int(b[0]) < 256/len(codeLetters)*len(codeLetters) {
			code = append(code, codeLetters[int(b[0])%len(codeLetters)])
		}
	}
	return string(code)
}

// Leading is a room that somebody leads through a map.
type Leading struct {
	Code  string
	MapID cm.ID
	Who   Person
	// Rehearsal tells that it is led for nobody yet.
	Rehearsal bool

	mu      sync.Mutex
	by      cm.ID // the route or the order by which it is led
	lead    guide.Lead
	spot    *cm.Point
	version int // counts what changes what the room sees, but the spot
	began   time.Time
	since   time.Time // when the stop began
	spent   map[cm.ID]time.Duration
	last    time.Time // when something was done
	ended   bool
	wakes   map[chan struct{}]bool
	rooms   int
	stage   *Stage
	// frame is what the room sees of that stage, at that version.
	frame   guide.Frame
	framed  *Stage
	frameOf int
}

// Stage is a map as rooms and desks look at it, at one revision.
type Stage struct {
	Revision  int
	by        cm.ID
	Map       *cm.Map // with the route by which it is led
	Structure *structure.Structure
	Route     cm.ID
	Scene     *scene.Scene // of all that a room may see

	drawing sync.Mutex
	drawn   map[string]string // by element
	said    map[cm.ID]string
}

// Said gives what the map says at the stops of the route, worked out once.
func (s *Stage) Said(words func(cm.Text) string) map[cm.ID]string {
	s.drawing.Lock()
	defer s.drawing.Unlock()
	if s.said == nil {
		s.said = guide.Said(s.Map, s.Structure, s.Route, words)
	}
	return s.said
}

// Drawn gives the markup of an element, worked out once for all screens; empty where there is none.
func (s *Stage) Drawn(element string) string {
	s.drawing.Lock()
	defer s.drawing.Unlock()
	if markup, known := s.drawn[element]; known {
		return markup
	}
	id := cm.ID(element[2:])
	markup := ""
	if e := s.Scene.Slips[id]; e != nil && element[0] == 'c' {
		markup = svg.Slip(e)
	} else if e := s.Scene.Links[id]; e != nil && element[0] == 'l' {
		markup = svg.Link(e)
	}
	s.drawn[element] = markup
	return markup
}

// Leading gives the room that somebody leads on a map, beginning one where there is none. By names
// the route or the order by which it is led, empty for what it is led by already or else the first
// route; another one than so far begins anew.
func (w *Workspace) Leading(who Person, mapID, by cm.ID, rehearsal bool) (*Leading, error) {
	all := &w.leadings
	all.mu.Lock()
	defer all.mu.Unlock()
	now := w.Store.Now()
	for code, l := range all.code {
		if l.over(now) {
			delete(all.code, code)
			delete(all.of, leadKey{l.Who.ID, l.MapID, l.Rehearsal})
		}
	}
	key := leadKey{who.ID, mapID, rehearsal}
	if l := all.of[key]; l != nil {
		l.By(by, now)
		return l, nil
	}
	if len(all.code) >= maxRooms {
		return nil, cm.Refusef("Too many rooms are led at once. Please try again in a while.")
	}
	if all.code == nil {
		all.code, all.of = map[string]*Leading{}, map[leadKey]*Leading{}
	}
	code := newCode()
	for all.code[code] != nil {
		code = newCode()
	}
	l := &Leading{Code: code, MapID: mapID, Who: who, Rehearsal: rehearsal, by: by, began: now, since: now, last: now, spent: map[cm.ID]time.Duration{}, wakes: map[chan struct{}]bool{}}
	all.code[code], all.of[key] = l, l
	return l, nil
}

// Led gives the room that somebody leads on a map, or their rehearsal; ErrNoRoom where there is none.
func (w *Workspace) Led(who Person, mapID cm.ID, rehearsal bool) (*Leading, error) {
	w.leadings.mu.Lock()
	defer w.leadings.mu.Unlock()
	if l := w.leadings.of[leadKey{who.ID, mapID, rehearsal}]; l != nil && !l.over(w.Store.Now()) {
		return l, nil
	}
	return nil, ErrNoRoom
}

// Room gives the room of a code; ErrNoRoom where there is none (any more).
func (w *Workspace) Room(code string) (*Leading, error) {
	w.leadings.mu.Lock()
	defer w.leadings.mu.Unlock()
	if l := w.leadings.code[code]; l != nil && !l.Rehearsal && !l.over(w.Store.Now()) {
		return l, nil
	}
	return nil, ErrNoRoom
}

func (l *Leading) over(now time.Time) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.ended || now.Sub(l.last) > roomLasts
}

// By leads on by another route or order, from before its first stop; nothing happens where it is
// empty or the same.
func (l *Leading) By(by cm.ID, now time.Time) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if by == "" || by == l.by {
		return
	}
	l.by, l.lead, l.spent, l.began, l.since, l.last = by, guide.Lead{}, map[cm.ID]time.Duration{}, now, now, now
	l.changed()
}

// Stage gives the map as it is led now.
func (l *Leading) Stage(now *State) (*Stage, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.staged(now)
}

func (l *Leading) staged(now *State) (*Stage, error) {
	if s := l.stage; s != nil && s.Revision == now.Revision && s.by == l.by {
		return s, nil
	}
	m, route := guide.Way(now.Map, now.Structure, l.by)
	if route == "" && l.by != "" { // the route is gone meanwhile
		m, route = guide.Way(now.Map, now.Structure, guide.AsRead)
	}
	if route == "" {
		return nil, cm.Refusef("There is nothing on this map yet that could be presented.")
	}
	if l.by == "" {
		l.by = route // another route may come to be the first one
		if m != now.Map {
			l.by = guide.AsRead
		}
	}
	l.stage = &Stage{Revision: now.Revision, by: l.by, Map: m, Structure: now.Structure, Route: route, Scene: scene.Build(guide.All(now.Map), now.Structure, scene.View{Lang: m.Routes[route].Language}, nil), drawn: map[string]string{}}
	return l.stage, nil
}

// Do does what whoever guides does.
func (l *Leading) Do(now *State, at time.Time, c guide.Command) error {
	l.mu.Lock()
	defer l.mu.Unlock()
	s, err := l.staged(now)
	if err != nil {
		return err
	}
	next, err := l.lead.Do(s.Map, s.Route, c)
	if err != nil {
		return err
	}
	if next.Stop != l.lead.Stop {
		l.spent[l.lead.Stop] += at.Sub(l.since)
		l.since = at
		l.spot = nil
	}
	if l.lead.Stop == "" && next.Stop != "" && len(l.lead.Visited) == 0 {
		l.began, l.since = at, at // the clock runs from the first stop on
		l.spent = map[cm.ID]time.Duration{}
	}
	l.lead, l.last = next, at
	l.changed()
	return nil
}

// Spot shows the room where something is, on the paper; nil for nowhere.
func (l *Leading) Spot(at *cm.Point) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.spot = at
	l.wake()
}

// End ends it: the room is told.
func (l *Leading) End() {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.ended = true
	l.wake()
}

func (l *Leading) changed() {
	l.version++
	l.wake()
}

func (l *Leading) wake() {
	for c := range l.wakes {
		select {
		case c <- struct{}{}:
		default: // it is about to look
		}
	}
}

// Watch wakes a channel whenever something changed, until it is left; room says that it is a room
// screen that watches.
func (l *Leading) Watch(room bool) (woken <-chan struct{}, leave func()) {
	l.mu.Lock()
	defer l.mu.Unlock()
	c := make(chan struct{}, 1)
	l.wakes[c] = true
	if room {
		l.rooms++
		l.wake() // the desk shows how many there are
	}
	return c, func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		delete(l.wakes, c)
		if room {
			l.rooms--
			l.wake()
		}
	}
}

// Now is how a room is led at one moment.
type Now struct {
	Version int
	Lead    guide.Lead
	By      cm.ID
	Spot    *cm.Point
	Began   time.Time
	Since   time.Time // when the stop began
	Spent   map[cm.ID]time.Duration
	Rooms   int
	Ended   bool
	Frame   guide.Frame // shared: it is not to be changed
}

// Now tells how it is led on a stage.
func (l *Leading) Now(s *Stage) Now {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.framed != s || l.frameOf != l.version { // worked out once for all screens
		l.frame, l.framed, l.frameOf = l.lead.Frame(s.Map, s.Structure, s.Route), s, l.version
	}
	return Now{l.version, l.lead, l.by, l.spot, l.began, l.since, maps.Clone(l.spent), l.rooms, l.ended, l.frame}
}

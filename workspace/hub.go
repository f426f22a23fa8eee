package workspace

import (
	"crypto/sha256"
	"encoding/hex"
	"strings"
	"sync"

	cm "mevrin/core/conceptmap"
)

// Hub carries what happens on maps to all windows that listen, in this process or in
// others that serve the same folder.
type Hub interface {
	// Tell lets all who listen to a map know.
	Tell(mapID cm.ID, n Notice)
	// AskAgain lets all who listen to a map ask whether they may still.
	AskAgain(mapID cm.ID)
	// Join lets a window listen until it leaves; ok is false where too many do.
	Join(mapID cm.ID, l *Listener) (leave func(), ok bool)
}

// Event tells a window that the map has moved on. It names no person and no key of
// one: another person's window goes by a name that only tells it from others.
type Event struct {
	Revision int    `json:"revision"`
	Window   string `json:"window"` // whose edit it was
	// View tells that the person who listens sees the map otherwise now.
	View bool `json:"view,omitempty"`
	// Overtook are things whose words this window wrote, and that edit wrote over.
	Overtook []Overtaken `json:"overtook,omitempty"`
	// Chosen is what that window has selected now; present where the event is
	// about nothing else.
	Chosen *[]string `json:"chosen,omitempty"`
}

// Notice is what happened on a map, and by whom; each viewer gets the event that
// is meant for them.
type Notice struct {
	Author, Window string
	Event          Event
	overtook       []overtook
}

// Overtaken is a thing whose words somebody else wrote over: what it is called now, and
// its id, by which the window knows what it had written there.
type Overtaken struct {
	What string `json:"what"`
	ID   cm.ID  `json:"id"`
}

// overtook tells that a window of somebody has been written over.
type overtook struct {
	author, window string
	what           Overtaken
}

// Listener is a window that listens. A full queue drops events: the next one
// carries the revision, and the window asks for all it missed.
type Listener struct {
	Events chan Event
	Again  chan struct{} // asks whether it may listen still
	Who    Person
	Window string
}

// eventFor gives the event as a viewer may see it; false where it is not for them.
func (n Notice) eventFor(v *Listener) (Event, bool) {
	e := n.Event
	if e.View && v.Who.ID != n.Author {
		return e, false
	}
	e.Window = n.Window
	if v.Who.ID != n.Author {
		sum := sha256.Sum256([]byte(n.Author + "\x00" + n.Window))
		e.Window = "of" + hex.EncodeToString(sum[:8])
	}
	for _, o := range n.overtook {
		if o.author == v.Who.ID && o.window == v.Window {
			e.Overtook = append(e.Overtook, o.what)
		}
	}
	return e, true
}

// NewListener gives a window of somebody that is ready to listen.
func NewListener(who Person, window string) *Listener {
	return &Listener{Events: make(chan Event, 64), Again: make(chan struct{}, 1), Who: who, Window: window}
}

// Ask asks a listener whether they may listen still.
func (v *Listener) Ask() {
	select {
	case v.Again <- struct{}{}:
	default: // it is about to ask
	}
}

// LocalHub serves the windows of one process. The zero value is ready to use.
type LocalHub struct {
	mu        sync.Mutex
	listeners map[cm.ID]map[*Listener]bool
}

// Tell lets all who listen to a map know.
func (h *LocalHub) Tell(mapID cm.ID, n Notice) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for v := range h.listeners[mapID] {
		if e, ok := n.eventFor(v); ok {
			select {
			case v.Events <- e:
			default:
			}
		}
	}
}

// AskAgain lets all who listen to a map ask whether they may still.
func (h *LocalHub) AskAgain(mapID cm.ID) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for v := range h.listeners[mapID] {
		v.Ask()
	}
}

// Join lets a window listen until it leaves; ok is false where too many do. The others
// learn that it has nothing selected any more.
func (h *LocalHub) Join(mapID cm.ID, v *Listener) (leave func(), ok bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.listeners[mapID]) >= maxViewers {
		return nil, false
	}
	if h.listeners == nil {
		h.listeners = map[cm.ID]map[*Listener]bool{}
	}
	if h.listeners[mapID] == nil {
		h.listeners[mapID] = map[*Listener]bool{}
	}
	h.listeners[mapID][v] = true
	return func() {
		h.mu.Lock()
		if delete(h.listeners[mapID], v); len(h.listeners[mapID]) == 0 {
			delete(h.listeners, mapID)
		}
		h.mu.Unlock()
		h.Tell(mapID, Notice{Author: v.Who.ID, Window: v.Window, Event: Event{Chosen: &[]string{}}})
	}, true
}

// Choose tells the other windows what one has selected: elements of the drawing.
func (d *Session) Choose(who Person, window string, elements []string) error {
	if !WindowForm.MatchString(window) {
		return cm.Refusef("What is selected did not arrive whole.")
	}
	chosen := []string{}
	for _, e := range elements[:min(len(elements), maxChosen)] {
		if kind, name, _ := strings.Cut(e, "-"); (kind == "c" || kind == "l") && cm.ID(name).Valid() {
			chosen = append(chosen, e)
		}
	}
	d.hub.Tell(d.id, Notice{Author: who.ID, Window: window, Event: Event{Chosen: &chosen}})
	return nil
}

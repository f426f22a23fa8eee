package workspace

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strings"
	"sync"
	"time"

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
	// Here are the others who work on the map or talk of it just now; present where the event is about nothing else.
	Here *[]Seat `json:"here,omitempty"`
	// Spot is where on the paper the pointer of that window is; present where the event is about nothing else.
	Spot *[2]float64 `json:"spot,omitempty"`
}

// Seat is somebody who is here, as others see them: by one of their windows.
type Seat struct {
	Window string `json:"window"`
	Name   string `json:"name,omitempty"` // of their account; visitors have none
	Hue    int    `json:"hue"`            // which of Hues marks what they do
}

// Hues is how many people at once are told apart by colour; further ones share theirs.
const Hues = 8

// maxSeats is how many who are here are told of; a class does not need the list of all.
const maxSeats = 30

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
	// Seated tells that others see that they are here.
	Seated  bool
	hue     int
	company bool // it was told that somebody else is here
}

// nameOf gives the name by which a window goes at somebody else: it only tells it from others.
func nameOf(author, window string) string {
	sum := sha256.Sum256([]byte(author + "\x00" + window))
	return "of" + hex.EncodeToString(sum[:8])
}

// eventFor gives the event as a viewer may see it; false where it is not for them.
func (n Notice) eventFor(v *Listener) (Event, bool) {
	e := n.Event
	if e.View && v.Who.ID != n.Author {
		return e, false
	}
	e.Window = n.Window
	if v.Who.ID != n.Author {
		e.Window = nameOf(n.Author, n.Window)
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
	// elsewhere are those who are here at other processes, by map and process; seated tells others who is here.
	elsewhere map[cm.ID]map[string]awaySeats
	seated    func(id cm.ID, here []announcedFor)
}

// awaySeats is who is here at another process, as it said last.
type awaySeats struct {
	all  []announcedFor
	told time.Time
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

// Listening gives how many windows listen to maps, where the hub knows.
func (w *Workspace) Listening() int {
	var h *LocalHub
	switch hub := w.Hub.(type) {
	case *LocalHub:
		h = hub
	case *SharedHub:
		h = &hub.LocalHub
	default:
		return 0
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	n := 0
	for _, all := range h.listeners {
		n += len(all)
	}
	return n
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
	if v.Seated {
		v.hue = h.freeHue(mapID, v)
		h.tellHere(mapID)
	}
	return func() {
		h.mu.Lock()
		if delete(h.listeners[mapID], v); len(h.listeners[mapID]) == 0 {
			delete(h.listeners, mapID)
		}
		if v.Seated {
			h.tellHere(mapID)
		}
		h.mu.Unlock()
		h.Tell(mapID, Notice{Author: v.Who.ID, Window: v.Window, Event: Event{Chosen: &[]string{}}})
	}, true
}

// freeHue gives the colour that a person has on a map already, or else the one that the fewest have.
func (h *LocalHub) freeHue(mapID cm.ID, v *Listener) int {
	var taken [Hues]int
	for other := range h.listeners[mapID] {
		switch {
		case other == v || !other.Seated:
		case other.Who.ID == v.Who.ID:
			return other.hue
		default:
			taken[other.hue]++
		}
	}
	for _, there := range h.elsewhere[mapID] {
		for _, other := range there.all {
			if other.Person == v.Who.ID {
				return other.Hue
			}
			taken[other.Hue%Hues]++
		}
	}
	least := 0
	for i, n := range taken {
		if n < taken[least] {
			least = i
		}
	}
	return least
}

// tellHere tells all who are here who else is, each person by the first of their windows, and
// other processes who is here.
func (h *LocalHub) tellHere(mapID cm.ID) {
	if h.seated != nil {
		h.seated(mapID, h.seats(mapID))
	}
	h.tellSeats(mapID)
}

// seats are those who are here at this process.
func (h *LocalHub) seats(mapID cm.ID) []announcedFor {
	all := []announcedFor{}
	for v := range h.listeners[mapID] {
		if v.Seated {
			all = append(all, announcedFor{v.Who.ID, v.Window, v.Who.Name(), v.hue})
		}
	}
	return all
}

func (h *LocalHub) tellSeats(mapID cm.ID) {
	seated := h.seats(mapID)
	for _, there := range h.elsewhere[mapID] {
		if time.Since(there.told) < 3*seatsEvery {
			seated = append(seated, there.all...)
		}
	}
	slices.SortFunc(seated, func(a, b announcedFor) int {
		return cmp.Or(cmp.Compare(a.Hue, b.Hue), cmp.Compare(a.Person, b.Person), cmp.Compare(a.Window, b.Window))
	})
	for v := range h.listeners[mapID] {
		if !v.Seated {
			continue
		}
		here, last := []Seat{}, v.Who.ID
		for _, other := range seated {
			if other.Person == v.Who.ID || other.Person == last || len(here) == maxSeats {
				continue
			}
			last = other.Person
			here = append(here, Seat{Window: nameOf(other.Person, other.Window), Name: other.Name, Hue: other.Hue})
		}
		if len(here) == 0 && !v.company {
			continue // it knows
		}
		v.company = len(here) > 0
		select {
		case v.Events <- Event{Here: &here}:
		default:
		}
	}
}

// away takes who is here at another process.
func (h *LocalHub) away(mapID cm.ID, process string, all []announcedFor) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.elsewhere == nil {
		h.elsewhere = map[cm.ID]map[string]awaySeats{}
	}
	if h.elsewhere[mapID] == nil {
		h.elsewhere[mapID] = map[string]awaySeats{}
	}
	was := h.elsewhere[mapID][process].all
	h.elsewhere[mapID][process] = awaySeats{all, time.Now()}
	if len(all) == 0 {
		if delete(h.elsewhere[mapID], process); len(h.elsewhere[mapID]) == 0 {
			delete(h.elsewhere, mapID)
		}
	}
	if !sameSeats(was, all) {
		h.tellSeats(mapID)
		if len(was) == 0 && h.seated != nil && len(h.listeners[mapID]) > 0 { // it may not know of us
			h.seated(mapID, h.seats(mapID))
		}
	}
}

func sameSeats(a, b []announcedFor) bool {
	if len(a) != len(b) {
		return false
	}
	for _, one := range a {
		if !slices.Contains(b, one) {
			return false
		}
	}
	return true
}

// seatAll tells other processes again who is here, and forgets those of processes that are gone.
func (h *LocalHub) seatAll() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for id, all := range h.elsewhere {
		for process, there := range all {
			if time.Since(there.told) >= 3*seatsEvery {
				delete(all, process)
				h.tellSeats(id)
			}
		}
		if len(all) == 0 {
			delete(h.elsewhere, id)
		}
	}
	for id := range h.listeners {
		if here := h.seats(id); len(here) > 0 && h.seated != nil {
			h.seated(id, here)
		}
	}
}

// Spot tells the other windows where on the paper somebody's pointer is.
func (d *Session) Spot(who Person, window string, at [2]float64) {
	d.hub.Tell(d.id, Notice{Author: who.ID, Window: window, Event: Event{Spot: &at}})
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

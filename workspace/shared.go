package workspace

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"sync"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"mevrin/store"
)

// SharedHub serves the windows of one process among several that work on one served database: what
// happens on maps here is announced to the others, and what they announce is told to the windows
// here, after the session of the map has caught up.
type SharedHub struct {
	LocalHub
	store *store.Store
	// process tells this process from the others.
	process string
	leaving chan announced
	// catchUp brings a map that is held in memory to what is stored; all does so with each.
	catchUp func(ctx context.Context, id cm.ID)
	all     func(ctx context.Context)
}

// announced is what one process tells the others. It goes through the database and to nobody else.
type announced struct {
	Process string          `json:"process"`
	Map     cm.ID           `json:"map"`
	Notice  *announcedAs    `json:"notice,omitempty"`
	Again   bool            `json:"again,omitempty"` // all who listen are to ask whether they may still
	Seats   *[]announcedFor `json:"seats,omitempty"` // who is here at that process
}

// announcedAs is a notice with what it keeps to itself.
type announcedAs struct {
	Author   string       `json:"author"`
	Window   string       `json:"window"`
	Event    Event        `json:"event"`
	Overtook []overtookAs `json:"overtook,omitempty"`
}

type overtookAs struct {
	Author string    `json:"author"`
	Window string    `json:"window"`
	What   Overtaken `json:"what"`
}

// announcedFor is somebody who is here at another process.
type announcedFor struct {
	Person string `json:"person"`
	Window string `json:"window"`
	Name   string `json:"name,omitempty"`
	Hue    int    `json:"hue"`
}

// mostLeaving is how much may wait to be announced.
const mostLeaving = 4096

// seatsEvery is how often it is announced who is here, though nothing changed; who was not heard of
// for three times as long is gone, with their process.
const seatsEvery = 20 * time.Second

// NewSharedHub gives a hub for the workspace of a served database.
func NewSharedHub(s *store.Store) *SharedHub {
	h := &SharedHub{store: s, process: rand.Text(), leaving: make(chan announced, mostLeaving)}
	h.seated = func(id cm.ID, here []announcedFor) { h.announce(announced{Map: id, Seats: &here}) }
	return h
}

// Run carries what happens between the processes until the context ends.
func (h *SharedHub) Run(ctx context.Context) {
	var both sync.WaitGroup
	both.Go(func() { h.store.Hear(ctx, func(words string) { h.heard(ctx, words) }, func() { h.all(ctx) }) })
	both.Go(func() {
		again := time.NewTicker(seatsEvery)
		defer again.Stop()
		for {
			select {
			case a := <-h.leaving:
				h.send(ctx, a)
			case <-again.C:
				h.LocalHub.seatAll()
			case <-ctx.Done():
				return
			}
		}
	})
	both.Wait()
}

func (h *SharedHub) announce(a announced) {
	a.Process = h.process
	select {
	case h.leaving <- a:
	default: // the database is away; the others catch up when it is back
	}
}

// send announces something. What does not fit is told without what it was about: the others ask.
func (h *SharedHub) send(ctx context.Context, a announced) {
	words, err := json.Marshal(a)
	if err == nil && len(words) > store.MostAnnounced && a.Notice != nil {
		a.Notice = &announcedAs{Author: a.Notice.Author, Window: a.Notice.Window, Event: Event{Revision: a.Notice.Event.Revision}}
		words, err = json.Marshal(a)
	}
	if err == nil && len(words) <= store.MostAnnounced {
		_ = h.store.Announce(ctx, string(words)) // where it fails, so does every edit, which is told
	}
}

// heard takes what a process announced.
func (h *SharedHub) heard(ctx context.Context, words string) {
	var a announced
	if json.Unmarshal([]byte(words), &a) != nil || a.Process == h.process {
		return
	}
	switch {
	case a.Again:
		h.catchUp(ctx, a.Map)
		h.LocalHub.AskAgain(a.Map)
	case a.Seats != nil:
		h.LocalHub.away(a.Map, a.Process, *a.Seats)
	case a.Notice != nil:
		if a.Notice.Event.Revision > 0 || a.Notice.Event.View {
			h.catchUp(ctx, a.Map)
		}
		n := Notice{Author: a.Notice.Author, Window: a.Notice.Window, Event: a.Notice.Event}
		for _, o := range a.Notice.Overtook {
			n.overtook = append(n.overtook, overtook{o.Author, o.Window, o.What})
		}
		h.LocalHub.Tell(a.Map, n)
	}
}

// Tell lets all who listen to a map know, wherever they do.
func (h *SharedHub) Tell(mapID cm.ID, n Notice) {
	h.LocalHub.Tell(mapID, n)
	out := &announcedAs{Author: n.Author, Window: n.Window, Event: n.Event}
	for _, o := range n.overtook {
		out.Overtook = append(out.Overtook, overtookAs{o.author, o.window, o.what})
	}
	h.announce(announced{Map: mapID, Notice: out})
}

// AskAgain lets all who listen to a map ask whether they may still.
func (h *SharedHub) AskAgain(mapID cm.ID) {
	h.LocalHub.AskAgain(mapID)
	h.announce(announced{Map: mapID, Again: true})
}

// catchUp brings what is held of a map to what is stored, entry by entry, as if they had been made
// here: windows get the difference, and whoever was written over is told.
func (d *Session) catchUp(ctx context.Context) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.takeUp(ctx)
}

// takeUp does so for whoever holds the session.
func (d *Session) takeUp(ctx context.Context) {
	d.views.forget()
	now := d.present.Load()
	if now == nil {
		return
	}
	entries, err := d.store.Since(ctx, d.id, now.Revision)
	if err == nil && len(entries) == 0 {
		var s store.Summary
		if s, err = d.store.Summary(ctx, d.id); err == nil && !s.Deleted.IsZero() {
			err = store.ErrBinned
		}
	}
	for _, e := range entries {
		if err == nil {
			err = d.follow(e)
		}
	}
	if err != nil { // it is read anew when it is asked for
		d.drop()
		return
	}
	d.weighed(d.present.Load())
}

// errGap tells that an entry does not follow on what is held.
var errGap = errors.New("an entry is missing")

// follow takes up an entry that another process wrote.
func (d *Session) follow(e *store.Entry) error {
	now := d.present.Load()
	if e.Revision != now.Revision+1 {
		return errGap
	}
	m, err := history.Replay(now.Map, e.Changes)
	if err != nil {
		return err
	}
	next := newState(m, e.Revision, now)
	p := patch{revision: e.Revision, author: e.Author, window: e.Window, written: history.WrittenBy(e.Changes), entry: e.ID, difference: differenceOf(now.Scene, next.Scene)}
	p.weight = weightOf(p.written)
	d.books.Lock()
	defer d.books.Unlock()
	d.history.Add(history.Step{Entry: e.ID, Author: e.Author, Undoes: e.Undoes, Idle: len(e.Changes) == 0 || e.Window == ""})
	d.recent = append(d.recent, p)
	d.trim()
	d.present.Store(next)
	return nil
}

// known gives the session of a map where there is one.
func (ds *sessions) known(id cm.ID) *Session {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	return ds.made[id].Value()
}

// held gives all sessions that there are.
func (ds *sessions) held() (all []*Session) {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	for _, w := range ds.made {
		if d := w.Value(); d != nil {
			all = append(all, d)
		}
	}
	return all
}

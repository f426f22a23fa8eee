package workspace

import (
	"runtime"
	"slices"
	"sync"
	"weak"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
)

// sessions gives the session of each map. There is at most one for a map at any time:
// whoever holds a session (a request, a window that listens) keeps it the session of
// its map, and another one is made only when nobody holds it any more. What a
// session has in memory is bounded over all of them, in bytes: the one that was used
// longest ago lets go of its map first, and reads it again when it is asked.
type sessions struct {
	store *store.Store
	hub   Hub
	most  int64 // bytes

	mu   sync.Mutex
	made map[cm.ID]weak.Pointer[Session]
	full []*Session // those that hold a map, the one used longest ago first
}

// get gives the session of a map, whether there is such a map or not.
func (ds *sessions) get(id cm.ID) *Session {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	if d := ds.made[id].Value(); d != nil {
		return d
	}
	d := &Session{id: id, sessions: ds, store: ds.store.For(store.OneMap(id)), hub: ds.hub}
	ds.made[id] = weak.Make(d)
	runtime.AddCleanup(d, ds.sweep, id)
	return d
}

// sweep forgets the place of a session that nobody held any more.
func (ds *sessions) sweep(id cm.ID) {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	if ds.made[id].Value() == nil {
		delete(ds.made, id)
	}
}

// filled takes note that a session holds a map now, or more or less of one, and lets
// others go where all together hold too much. A session at work is passed over.
func (ds *sessions) filled(d *Session) {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	ds.full = append(slices.DeleteFunc(ds.full, func(other *Session) bool { return other == d }), d)
	total := int64(0)
	for _, one := range ds.full {
		total += one.weight.Load()
	}
	ds.full = slices.DeleteFunc(ds.full, func(oldest *Session) bool {
		if total <= ds.most || oldest == d || !oldest.mu.TryLock() {
			return false
		}
		defer oldest.mu.Unlock()
		total -= oldest.weight.Load()
		oldest.drop()
		return true
	})
}

// forget drops what is held of a map, after the store has changed without it, and
// lets all who listen ask again whether they may.
func (ds *sessions) forget(id cm.ID) {
	d := ds.get(id)
	d.mu.Lock()
	defer d.mu.Unlock()
	d.drop()
	d.hub.AskAgain(id)
}

// Estimates of what a map in memory takes, in bytes, as measured on maps of 10,000
// concepts and 19,000 links with their drawings.
const (
	weightOfMap  = 64 << 10
	weightOfSlip = 1 << 10
	weightOfLink = 1 << 10
	weightOfStep = 200
)

// weigh estimates what a state takes.
func (s *State) weigh() int64 {
	strands := 0
	for _, l := range s.Map.Links {
		strands += len(l.From) * len(l.To)
	}
	return weightOfMap + int64(len(s.Map.Concepts))*weightOfSlip + int64(len(s.Map.Links)+strands)*weightOfLink
}

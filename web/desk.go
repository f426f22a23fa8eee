package web

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"sync"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/store"
)

// desks holds the maps that are being worked on, ready in memory.
type desks struct {
	store *store.Store
	mu    sync.Mutex
	open  map[cm.ID]*desk
}

// mostDesks bounds the maps kept in memory without anybody looking at them.
const mostDesks = 32

func newDesks(s *store.Store) *desks { return &desks{store: s, open: map[cm.ID]*desk{}} }

// desk is one map being worked on. Its state is what the store holds; edits go
// through it one at a time.
type desk struct {
	id    cm.ID
	store *store.Store

	mu      sync.Mutex
	state   *state // nil until loaded, and after a failure that leaves doubts
	history *cm.History
	recent  []patch // the last entries, oldest first, without gaps
	viewers map[*viewer]bool
	tucked  map[string]scene.Tucked // how each person sees the map, once asked
	used    time.Time
}

// state is a map at one revision with what derives from it. It is never
// altered, so a page can be made from it while the next edit goes on; drawings
// for other views than the whole map are made when they are first asked for.
type state struct {
	m         *cm.Map
	revision  int
	structure *structure.Structure
	scene     *scene.Scene // of the whole map

	mu     sync.Mutex
	views  map[scene.View]*scene.Scene
	former map[scene.View]*scene.Scene // of the state before
}

// seen gives the drawing for a view.
func (s *state) seen(v scene.View) *scene.Scene {
	if v == (scene.View{}) {
		return s.scene
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	sc := s.views[v]
	if sc == nil {
		prev := s.former[v]
		if prev == nil {
			prev = s.scene // most of it is alike
		}
		sc = scene.Build(s.m, s.structure, v, prev)
		s.views[v] = sc
	}
	return sc
}

func newState(m *cm.Map, revision int, before *state) *state {
	var prev *scene.Scene
	var shape *structure.Structure
	var former map[scene.View]*scene.Scene
	if before != nil {
		prev, shape = before.scene, before.structure
		before.mu.Lock()
		former = before.views
		before.mu.Unlock()
	}
	st := structure.Next(shape, m)
	return &state{m: m, revision: revision, structure: st, scene: scene.Build(m, st, scene.View{}, prev), views: map[scene.View]*scene.Scene{}, former: former}
}

// patch is what one entry did to the drawing, and to whose work.
type patch struct {
	revision       int
	author, window string
	changes        []cm.Change
	difference     // in the drawing of the whole map
	entry          cm.ID
	answer         *Answer
}

// difference is what differs between two drawings.
type difference struct {
	slips, links         []cm.ID
	goneSlips, goneLinks []cm.ID
}

func differenceOf(before, after *scene.Scene) (d difference) {
	d.slips, d.links, d.goneSlips, d.goneLinks = scene.Diff(before, after)
	return d
}

// mostRecent is how many entries a window may have missed and still be brought
// up to date piece by piece.
const mostRecent = 300

func (ds *desks) get(id cm.ID) *desk {
	ds.mu.Lock()
	defer ds.mu.Unlock()
	d := ds.open[id]
	if d == nil {
		ds.clearOldest()
		d = &desk{id: id, store: ds.store, viewers: map[*viewer]bool{}, tucked: map[string]scene.Tucked{}}
		ds.open[id] = d
	}
	return d
}

func (ds *desks) clearOldest() {
	if len(ds.open) < mostDesks {
		return
	}
	var oldest *desk
	for _, d := range ds.open {
		if !d.mu.TryLock() {
			continue
		}
		if len(d.viewers) == 0 && (oldest == nil || d.used.Before(oldest.used)) {
			oldest = d
		}
		d.mu.Unlock()
	}
	if oldest != nil {
		delete(ds.open, oldest.id)
	}
}

// forget drops what is held of a map, after the store has changed without it.
func (ds *desks) forget(id cm.ID) {
	d := ds.get(id)
	d.mu.Lock()
	defer d.mu.Unlock()
	d.state = nil
}

// look gives the present state.
func (d *desk) look(ctx context.Context) (*state, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	return d.state, nil
}

func (d *desk) load(ctx context.Context) error {
	d.used = time.Now()
	if d.state != nil {
		return nil
	}
	m, revision, err := d.store.Load(ctx, d.id)
	if err != nil {
		return err
	}
	if d.history, err = d.store.History(ctx, d.id); err != nil {
		return err
	}
	d.state = newState(m, revision, nil)
	d.recent = nil
	return nil
}

// Asked is one gesture as a window sends it.
type Asked struct {
	ID     cm.ID  `json:"id"`
	Window string `json:"window"`
	Seen   int    `json:"seen"` // the revision that the window showed
	// Operations, or Back for an undo ("undo") and a redo ("redo").
	Operations json.RawMessage `json:"operations,omitempty"`
	Back       string          `json:"back,omitempty"`
}

// Answer is what became of it.
type Answer struct {
	Entry    cm.ID `json:"entry"`
	Revision int   `json:"revision"`
	Drawing
	Notices []string `json:"notices,omitempty"`
	// Moved tells which things go by another name than the page gave them.
	Moved []cm.Moved `json:"moved,omitempty"`
	// Glide asks the page to let things be seen to move.
	Glide bool `json:"glide,omitempty"`
	Undo  bool `json:"undo"` // whether the author can undo and redo now
	Redo  bool `json:"redo"`
}

// perform carries out a gesture, or gives the answer again that it had.
func (d *desk) perform(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	answer, err := d.performOnce(ctx, who, asked)
	if errors.Is(err, store.ErrStale) {
		// Somebody else wrote to the folder; take up what is there and try again.
		d.state = nil
		answer, err = d.performOnce(ctx, who, asked)
	}
	return answer, err
}

func (d *desk) performOnce(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	if answer, err := d.repeat(ctx, who, asked.ID); answer != nil || err != nil {
		return answer, err
	}
	entry := &store.Entry{Revision: d.state.revision + 1, ID: asked.ID, Author: who.ID, Window: asked.Window}
	out, err := d.decide(ctx, asked, entry, who)
	if err != nil {
		return nil, err
	}
	if entry.Undoes == "" && asked.Back != "" {
		return d.nothingTo(who, asked), nil
	}
	entry.Changes, entry.Moved, entry.Notices = out.Changes, out.Moved, out.Notices
	if err := d.store.Append(ctx, entry, out.Map); err != nil {
		if !errors.Is(err, store.ErrStale) {
			d.state = nil // whether it was written is not known: read it again
		}
		return nil, err
	}
	view, err := d.viewOf(ctx, who)
	if err != nil {
		return nil, err
	}
	before := d.state.seen(view)
	next := newState(out.Map, entry.Revision, d.state)
	p := patch{revision: entry.Revision, author: who.ID, window: asked.Window, changes: out.Changes, entry: entry.ID}
	p.difference = differenceOf(d.state.scene, next.scene)
	d.state = next
	d.history.Add(cm.Step{Entry: entry.ID, Author: who.ID, Undoes: entry.Undoes, Idle: len(out.Changes) == 0})
	p.answer = &Answer{Entry: entry.ID, Revision: entry.Revision, Drawing: next.drawing(differenceOf(before, next.seen(view)), view), Notices: out.Notices, Moved: out.Moved, Glide: asked.Back != "" || out.Map.KeepTidy}
	d.flags(p.answer, who)
	d.remember(p, asked.Seen)
	return p.answer, nil
}

// decide applies operations, an undo or a redo to the present map; of gentle
// hands, gentle operations alone.
func (d *desk) decide(ctx context.Context, asked Asked, entry *store.Entry, who Person) (cm.Outcome, error) {
	switch asked.Back {
	case "":
		ops, err := cm.ReadOperations(asked.Operations)
		if err != nil {
			return cm.Outcome{}, err
		}
		cm.Sign(ops, cm.Speaker{ID: who.speaker(d.id), At: d.store.Now().UTC().Format(cm.MomentForm), Gentle: who.Gentle})
		if who.Gentle {
			if err := cm.Gentle(ops); err != nil {
				return cm.Outcome{}, err
			}
		}
		entry.Operations = asked.Operations
		return cm.Apply(d.state.m, ops, layout.Room{Measurer: scene.Measurer{}})
	case "undo":
		entry.Undoes = d.history.Undoable(entry.Author)
	case "redo":
		entry.Undoes = d.history.Redoable(entry.Author)
	default:
		return cm.Outcome{}, &cm.Refusal{Words: "One can go back, or forward again."}
	}
	if entry.Undoes == "" {
		return cm.Outcome{}, nil
	}
	entry.Operations = json.RawMessage("[]")
	target, err := d.store.Entry(ctx, d.id, entry.Undoes)
	if err != nil {
		return cm.Outcome{}, err
	}
	return cm.Invert(d.state.m, target.Changes), nil
}

// nothingTo answers an undo or redo where there is none left.
func (d *desk) nothingTo(who Person, asked Asked) *Answer {
	a := &Answer{Entry: asked.ID, Revision: d.state.revision, Notices: []string{"There is nothing left to " + asked.Back + "."}}
	d.flags(a, who)
	return a
}

func (d *desk) flags(a *Answer, who Person) {
	a.Undo, a.Redo = d.history.Undoable(who.ID) != "", d.history.Redoable(who.ID) != ""
}

// repeat finds the answer to an entry that has been carried out before: among
// the recent ones, or drawn again from the log.
func (d *desk) repeat(ctx context.Context, who Person, id cm.ID) (*Answer, error) {
	if !id.Valid() {
		return nil, &cm.Refusal{Words: "This change came without a name of its own. Please reload the page."}
	}
	if i := slices.IndexFunc(d.recent, func(p patch) bool { return p.entry == id && p.author == who.ID }); i >= 0 {
		return d.recent[i].answer, nil
	}
	logged, err := d.store.Entry(ctx, d.id, id)
	if logged == nil || err != nil {
		return nil, err
	}
	if logged.Author != who.ID {
		return nil, &cm.Refusal{Words: "Another change has that name already. Please reload the page."}
	}
	after, err := d.store.At(ctx, d.id, logged.Revision)
	if err != nil {
		return nil, err
	}
	before, err := cm.Replay(after, cm.Reversed(logged.Changes))
	if err != nil {
		return nil, err
	}
	was := newState(before, logged.Revision-1, nil)
	is := newState(after, logged.Revision, was)
	view, err := d.viewOf(ctx, who)
	if err != nil {
		return nil, err
	}
	a := &Answer{Entry: id, Revision: logged.Revision, Drawing: is.drawing(differenceOf(was.seen(view), is.seen(view)), view), Notices: logged.Notices, Moved: logged.Moved}
	d.flags(a, who)
	return a, nil
}

// remember keeps a patch for windows that missed it, and tells all viewers.
func (d *desk) remember(p patch, seen int) {
	var overtook []Overtook
	for _, earlier := range d.recent {
		if earlier.revision > seen && earlier.window != p.window {
			for _, key := range cm.Overtaken(p.changes, earlier.changes) {
				overtook = append(overtook, Overtook{earlier.window, d.name(key)})
			}
		}
	}
	d.recent = append(d.recent, p)
	if len(d.recent) > mostRecent {
		d.recent = slices.Clone(d.recent[len(d.recent)-mostRecent:])
	}
	d.tell(Event{Revision: p.revision, Window: p.window, Overtook: overtook})
}

func (d *desk) name(key cm.Key) string {
	words := ""
	if c := d.state.m.Concepts[key.ID]; c != nil {
		words = d.state.m.Words(c.Label)
	} else if l := d.state.m.Links[key.ID]; l != nil {
		words = d.state.m.Words(l.Phrase)
	}
	if words == "" {
		return "something"
	}
	return "“" + words + "”"
}

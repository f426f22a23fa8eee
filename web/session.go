package web

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"regexp"
	"slices"
	"sync"
	"sync/atomic"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/draw/scene"
	"mevrin/store"
)

// session is one map being worked on. Its state is what the store holds; edits go
// through it one at a time, and those who only look never wait for them.
type session struct {
	id       cm.ID
	sessions *sessions
	store    *store.Store
	weight   atomic.Int64 // of what it holds, in bytes
	// present is the state; nil until loaded, and after a failure that leaves
	// doubts. It is replaced under mu.
	present atomic.Pointer[state]

	mu sync.Mutex // held by the one who edits, or loads

	// books guards what readers and the one who edits share; whoever holds it does
	// no work. The two are nil while there is no state.
	books   sync.RWMutex
	history *history.History
	recent  []patch // the last entries, oldest first, without gaps

	views views // how each person sees the map
	hub   Hub
}

// look gives the present state.
func (d *session) look(ctx context.Context) (*state, error) {
	if now := d.present.Load(); now != nil {
		return now, nil
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	return d.present.Load(), nil
}

// load makes sure that there is a state.
func (d *session) load(ctx context.Context) error {
	if d.present.Load() != nil {
		return nil
	}
	m, revision, err := d.store.Load(ctx, d.id)
	if err != nil {
		return err
	}
	history, err := d.store.History(ctx, d.id)
	if err != nil {
		return err
	}
	next := newState(m, revision, nil)
	d.books.Lock()
	d.history, d.recent = history, nil
	d.present.Store(next)
	d.books.Unlock()
	d.weighed(next)
	return nil
}

// weighed takes note of what the session holds now.
func (d *session) weighed(now *state) {
	weight := now.weigh() + int64(d.history.Steps())*weightOfStep
	for _, p := range d.recent {
		if weight += p.weight; p.answer != nil {
			weight += p.answered
		}
	}
	d.weight.Store(weight)
	d.sessions.filled(d)
}

// drop lets go of the state and all that goes with it.
func (d *session) drop() {
	d.books.Lock()
	defer d.books.Unlock()
	d.present.Store(nil)
	d.history, d.recent = nil, nil
	d.weight.Store(0)
}

var windowForm = regexp.MustCompile(`^[A-Za-z0-9_-]{1,40}$`)

// Asked is one gesture as a window sends it.
type Asked struct {
	ID     cm.ID  `json:"id"`
	Window string `json:"window"`
	Seen   int    `json:"seen"` // the revision that the window showed
	// Operations, or Back for an undo ("undo") and a redo ("redo").
	Operations json.RawMessage `json:"operations,omitempty"`
	Back       string          `json:"back,omitempty"`
	takesBack  string          // the author all of whose entries are undone; never asked by a page
}

// Answer is what became of it.
type Answer struct {
	Entry    cm.ID `json:"entry"`
	Revision int   `json:"revision"`
	Drawing
	Notices []string `json:"notices,omitempty"`
	// Moved tells which things go by another name than the page gave them.
	Moved []draft.Moved `json:"moved,omitempty"`
	// Glide asks the page to let things be seen to move.
	Glide bool `json:"glide,omitempty"`
	Undo  bool `json:"undo"` // whether the author can undo and redo now
	Redo  bool `json:"redo"`
}

// perform carries out a gesture, or gives the answer again that it had. What is
// worked out ends with the request; once it is written, nothing does.
func (d *session) perform(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	if !windowForm.MatchString(asked.Window) {
		return nil, cm.Refusef("This change does not say which window it comes from. Please reload the page.")
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	answer, err := d.performOnce(ctx, who, asked)
	if errors.Is(err, store.ErrStale) {
		// Somebody else wrote to the folder; take up what is there and try again.
		d.drop()
		answer, err = d.performOnce(ctx, who, asked)
	}
	return answer, err
}

func (d *session) performOnce(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	if answer, err := d.repeat(ctx, who, asked); answer != nil || err != nil {
		return answer, err
	}
	now := d.present.Load()
	entry := &store.Entry{Revision: now.revision + 1, ID: asked.ID, Author: who.ID, Window: asked.Window}
	out, err := d.decide(ctx, now, asked, entry, who)
	if err != nil {
		return nil, err
	}
	view, err := d.viewOf(ctx, now.m, who)
	if err != nil {
		return nil, err
	}
	if entry.Undoes == "" && asked.Back != "" {
		return d.nothingTo(now, view, who, asked), nil
	}
	entry.Changes, entry.Moved, entry.Notices = out.Changes, out.Moved, out.Notices
	// From here on it must not matter whether anybody waits for the answer.
	if err := d.store.Append(context.WithoutCancel(ctx), entry, out.Map); err != nil {
		if !errors.Is(err, store.ErrStale) {
			d.drop() // whether it was written is not known: read it again
		}
		return nil, err
	}
	next := newState(out.Map, entry.Revision, now)
	p := patch{revision: entry.Revision, author: who.ID, window: asked.Window, changes: out.Changes, entry: entry.ID, asked: asked.digest()}
	p.difference = differenceOf(now.scene, next.scene)
	p.answer = &Answer{Entry: entry.ID, Revision: entry.Revision, Drawing: next.drawing(differenceOf(now.seen(view), next.seen(view)), view), Notices: out.Notices, Moved: out.Moved, Glide: asked.Back != "" || out.Map.KeepTidy}
	step := history.Step{Entry: entry.ID, Author: who.ID, Undoes: entry.Undoes, Idle: len(out.Changes) == 0}
	d.remember(next, p, step, who, asked.Seen)
	d.weighed(next)
	return p.answer, nil
}

// decide applies operations, an undo or a redo to the present map; of gentle
// hands, gentle operations alone.
func (d *session) decide(ctx context.Context, now *state, asked Asked, entry *store.Entry, who Person) (history.Outcome, error) {
	if asked.takesBack != "" {
		entry.Operations = json.RawMessage("[]")
		did, err := d.store.By(ctx, d.id, asked.takesBack)
		if err != nil {
			return history.Outcome{}, err
		}
		changes := make([][]history.Change, len(did))
		for i, e := range did {
			changes[i] = e.Changes
		}
		return history.TakeBack(now.m, changes), nil
	}
	switch asked.Back {
	case "":
		ops, err := edit.ReadOperations(asked.Operations)
		if err != nil {
			return history.Outcome{}, err
		}
		edit.Sign(ops, edit.Speaker{ID: who.speaker(d.id), At: d.store.Now().UTC().Format(cm.MomentForm), Gentle: who.Gentle})
		if who.Gentle {
			if err := d.gentle(ctx, now, ops, who); err != nil {
				return history.Outcome{}, err
			}
		}
		entry.Operations = asked.Operations
		return apply(ctx, now.m, ops)
	case "undo":
		entry.Undoes = d.history.Undoable(entry.Author)
	case "redo":
		entry.Undoes = d.history.Redoable(entry.Author)
	default:
		return history.Outcome{}, &cm.Refusal{Words: "One can go back, or forward again."}
	}
	if entry.Undoes == "" {
		return history.Outcome{}, nil
	}
	entry.Operations = json.RawMessage("[]")
	target, err := d.store.Entry(ctx, d.id, entry.Undoes)
	if err != nil {
		return history.Outcome{}, err
	}
	return history.Invert(now.m, target.Changes), nil
}

// gentle refuses what a bearer of a link may not do: take anything off, or write
// over what somebody else put there.
func (d *session) gentle(ctx context.Context, now *state, ops []edit.Operation, who Person) error {
	var made map[cm.Key]bool
	return edit.Gentle(now.m, ops, func(key cm.Key) (bool, error) {
		var err error
		if made == nil {
			made, err = d.store.MadeBy(ctx, d.id, who.ID)
		}
		return made[key], err
	})
}

// nothingTo answers an undo or redo where there is none left.
func (d *session) nothingTo(now *state, view scene.View, who Person, asked Asked) *Answer {
	a := &Answer{Entry: asked.ID, Revision: now.revision, Drawing: Drawing{Head: now.head(view)}, Notices: []string{"There is nothing left to " + asked.Back + "."}}
	d.flags(a, who)
	return a
}

// flags tells whether a person can undo and redo now.
func (d *session) flags(a *Answer, who Person) {
	d.books.RLock()
	defer d.books.RUnlock()
	if d.history != nil {
		a.Undo, a.Redo = d.history.Undoable(who.ID) != "", d.history.Redoable(who.ID) != ""
	}
}

// digest tells one gesture from another that goes by the same id.
func (a Asked) digest() [sha256.Size]byte {
	var plain bytes.Buffer
	if len(a.Operations) > 0 {
		if err := json.Compact(&plain, a.Operations); err != nil {
			plain.Write(a.Operations)
		}
	}
	return sha256.Sum256([]byte(a.Back + "\x00" + plain.String()))
}

// conflict is a request that contradicts an earlier one.
type conflict struct{ words string }

func (c *conflict) Error() string { return c.words }

// repeat finds the answer to an entry that has been carried out before: among
// the recent ones, or drawn again from the log. Another gesture, or that of
// somebody else, under the same id is refused.
func (d *session) repeat(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	id, taken := asked.ID, &conflict{"Another change has that name already, so this one was not made. Please reload the page."}
	if !id.Valid() {
		return nil, &cm.Refusal{Words: "This change came without a name of its own. Please reload the page."}
	}
	if i := slices.IndexFunc(d.recent, func(p patch) bool { return p.entry == id }); i >= 0 {
		switch p := d.recent[i]; {
		case p.author != who.ID || p.asked != asked.digest():
			return nil, taken
		case p.answer != nil:
			return p.answer, nil
		}
	}
	logged, err := d.store.Entry(ctx, d.id, id)
	if logged == nil || err != nil {
		return nil, err
	}
	same := Asked{Operations: logged.Operations}.digest() == Asked{Operations: asked.Operations}.digest()
	if logged.Undoes != "" {
		same = true
	}
	if logged.Author != who.ID || (logged.Undoes != "") != (asked.Back != "") || !same {
		return nil, taken
	}
	after, err := d.store.At(ctx, d.id, logged.Revision)
	if err != nil {
		return nil, err
	}
	before, err := history.Replay(after, history.Reversed(logged.Changes))
	if err != nil {
		return nil, err
	}
	was := newState(before, logged.Revision-1, nil)
	is := newState(after, logged.Revision, was)
	view, err := d.viewOf(ctx, is.m, who)
	if err != nil {
		return nil, err
	}
	a := &Answer{Entry: id, Revision: logged.Revision, Drawing: is.drawing(differenceOf(was.seen(view), is.seen(view)), view), Notices: logged.Notices, Moved: logged.Moved}
	d.flags(a, who)
	return a, nil
}

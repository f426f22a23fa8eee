package workspace

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
	"mevrin/core/message"
	"mevrin/draw/scene"
	"mevrin/store"
)

// Session is one map being worked on. Its state is what the store holds; edits go
// through it one at a time, and those who only look never wait for them.
type Session struct {
	id       cm.ID
	sessions *sessions
	store    *store.Reach
	weight   atomic.Int64 // of what it holds, in bytes
	// present is the state; nil until loaded, and after a failure that leaves
	// doubts. It is replaced under mu.
	present atomic.Pointer[State]

	mu sync.Mutex // held by the one who edits, or loads

	// books guards what readers and the one who edits share; whoever holds it does
	// no work. The two are nil while there is no state.
	books   sync.RWMutex
	history *history.History
	recent  []patch // the last entries, oldest first, without gaps

	views views // how each person sees the map
	hub   Hub
}

// Look gives the present state.
func (d *Session) Look(ctx context.Context) (*State, error) {
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
func (d *Session) load(ctx context.Context) error {
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
	next.missing = func(hash string) bool { return !d.store.HoldsFile(hash) }
	d.books.Lock()
	d.history, d.recent = history, nil
	d.present.Store(next)
	d.books.Unlock()
	d.weighed(next)
	return nil
}

// weighed takes note of what the session holds now.
func (d *Session) weighed(now *State) {
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
func (d *Session) drop() {
	d.books.Lock()
	defer d.books.Unlock()
	d.present.Store(nil)
	d.history, d.recent = nil, nil
	d.weight.Store(0)
}

var WindowForm = regexp.MustCompile(`^[A-Za-z0-9_-]{1,40}$`)

// Asked is one gesture as a window sends it.
type Asked struct {
	ID     cm.ID  `json:"id"`
	Window string `json:"window"`
	Seen   int    `json:"seen"` // the revision that the window showed
	// Operations, or Back for an undo ("undo") and a redo ("redo").
	Operations edit.Operations `json:"operations,omitzero"`
	Back       string          `json:"back,omitempty"`
	restores   *int            // the revision to whose state the map goes back; never asked by a page
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

// Perform carries out a gesture, or gives the answer again that it had. What is
// worked out ends with the request; once it is written, nothing does.
func (d *Session) Perform(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	if !WindowForm.MatchString(asked.Window) {
		return nil, cm.Refusef("This change does not say which window it comes from. Please reload the page.")
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	if ctx.Err() != nil { // whoever asked went away while others had their turn
		return nil, ctx.Err()
	}
	answer, err := d.performOnce(ctx, who, asked)
	for range mostStale {
		if !errors.Is(err, store.ErrStale) || ctx.Err() != nil {
			break
		}
		// Another process wrote to the map; take up what is there and try again.
		d.takeUp(ctx)
		answer, err = d.performOnce(ctx, who, asked)
	}
	return answer, err
}

// mostStale bounds how often an edit makes way for those of other processes.
const mostStale = 100

func (d *Session) performOnce(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	if err := d.load(ctx); err != nil {
		return nil, err
	}
	if answer, err := d.repeat(ctx, who, asked); answer != nil || err != nil {
		return answer, err
	}
	now := d.present.Load()
	entry := &store.Entry{Revision: now.Revision + 1, ID: asked.ID, Author: who.ID, Window: asked.Window}
	out, err := d.decide(ctx, now, asked, entry, who)
	if err != nil {
		return nil, err
	}
	view, err := d.viewOf(ctx, now.Map, who)
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
	p := patch{revision: entry.Revision, author: who.ID, window: asked.Window, entry: entry.ID, asked: asked.digest()}
	p.difference = differenceOf(now.Scene, next.Scene)
	p.answer = &Answer{Entry: entry.ID, Revision: entry.Revision, Drawing: next.drawing(differenceOf(now.Seen(view), next.Seen(view)), view), Notices: who.hears(out.Notices), Moved: out.Moved, Glide: asked.Back != "" || out.Map.KeepTidy}
	step := history.Step{Entry: entry.ID, Author: who.ID, Undoes: entry.Undoes, Idle: len(out.Changes) == 0}
	d.remember(next, p, out.Changes, step, who, asked.Seen)
	d.weighed(next)
	return p.answer, nil
}

// decide applies operations, an undo or a redo to the present map; of gentle
// hands, gentle operations alone.
func (d *Session) decide(ctx context.Context, now *State, asked Asked, entry *store.Entry, who Person) (history.Outcome, error) {
	if asked.restores != nil {
		entry.Operations = json.RawMessage("[]")
		then, err := d.store.At(ctx, d.id, *asked.restores)
		if err != nil {
			return history.Outcome{}, err
		}
		return history.Outcome{Map: then, Changes: history.Between(now.Map, then)}, nil
	}
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
		return history.TakeBack(now.Map, changes), nil
	}
	switch asked.Back {
	case "":
		ops := asked.Operations.List
		if asked.Operations.Sent == nil {
			return history.Outcome{}, cm.Refusef("This change did not arrive in a form that can be read. Please reload the page and try again.")
		}
		edit.Sign(ops, edit.Speaker{ID: who.Speaker(d.id), At: d.store.Now().UTC().Format(cm.MomentForm), AdditiveOnly: !who.Alters(), Name: who.Name()})
		if err := d.allowed(ctx, now, ops, who); err != nil {
			return history.Outcome{}, err
		}
		if err := d.takeFiles(ctx, who, ops); err != nil {
			return history.Outcome{}, err
		}
		entry.Operations = asked.Operations.Sent
		return apply(ctx, now.Map, now.Scene, ops)
	case "undo":
		entry.Undoes = d.history.Undoable(entry.Author)
	case "redo":
		entry.Undoes = d.history.Redoable(entry.Author)
	default:
		return history.Outcome{}, cm.Refusef("One can go back, or forward again.")
	}
	if entry.Undoes == "" {
		return history.Outcome{}, nil
	}
	entry.Operations = json.RawMessage("[]")
	target, err := d.store.Entry(ctx, d.id, entry.Undoes)
	if err != nil {
		return history.Outcome{}, err
	}
	// Whoever could alter the map once goes back in what they said, and in nothing else.
	if (who.CommentsOnly || who.JudgesOnly) && !edit.OnlySaid(target.Changes) {
		return history.Outcome{}, edit.ErrCommentsOnly
	}
	return history.Invert(now.Map, target.Changes), nil
}

// allowed refuses what somebody may not do who does not alter the map in any way.
func (d *Session) allowed(ctx context.Context, now *State, ops []edit.Operation, who Person) error {
	switch {
	case who.JudgesOnly:
		return edit.JudgesOnly(ops)
	case who.CommentsOnly:
		return edit.CommentsOnly(ops)
	case who.AdditiveOnly:
		return d.gentle(ctx, now, ops, who)
	}
	return nil
}

// gentle refuses what a bearer of a link may not do: take anything off, or write
// over what somebody else put there.
func (d *Session) gentle(ctx context.Context, now *State, ops []edit.Operation, who Person) error {
	var made map[cm.Key]bool
	return edit.AdditiveOnly(now.Map, ops, func(key cm.Key) (bool, error) {
		var err error
		if made == nil {
			made, err = d.store.MadeBy(ctx, d.id, who.ID)
		}
		return made[key], err
	})
}

// nothingLeftTexts say that there is nothing to go back to, or forward.
var nothingLeftTexts = map[string]string{"undo": "There is nothing left to undo.", "redo": "There is nothing left to redo."}

// nothingTo answers an undo or redo where there is none left.
func (d *Session) nothingTo(now *State, view scene.View, who Person, asked Asked) *Answer {
	a := &Answer{Entry: asked.ID, Revision: now.Revision, Drawing: Drawing{Head: now.Head(view)}, Notices: who.hears([]message.Message{message.Of(nothingLeftTexts[asked.Back])})}
	d.Flags(a, who)
	return a
}

// Flags tells whether a person can undo and redo now.
func (d *Session) Flags(a *Answer, who Person) {
	d.books.RLock()
	defer d.books.RUnlock()
	if d.history != nil {
		a.Undo, a.Redo = d.history.Undoable(who.ID) != "", d.history.Redoable(who.ID) != ""
	}
}

// digest tells one gesture from another that goes by the same id.
func (a Asked) digest() [sha256.Size]byte {
	var plain bytes.Buffer
	if len(a.Operations.Sent) > 0 {
		if err := json.Compact(&plain, a.Operations.Sent); err != nil {
			plain.Write(a.Operations.Sent)
		}
	}
	return sha256.Sum256([]byte(a.Back + "\x00" + plain.String()))
}

// Conflict is a request that contradicts an earlier one.
type Conflict struct{ message.Message }

func (c *Conflict) Error() string { return c.String() }

// repeat finds the answer to an entry that has been carried out before: among
// the recent ones, or drawn again from the log. Another gesture, or that of
// somebody else, under the same id is refused.
func (d *Session) repeat(ctx context.Context, who Person, asked Asked) (*Answer, error) {
	id, taken := asked.ID, &Conflict{message.Of("Another change has that name already, so this one was not made. Please reload the page.")}
	if !id.Valid() {
		return nil, cm.Refusef("This change came without a name of its own. Please reload the page.")
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
	same := Asked{Operations: edit.Operations{Sent: logged.Operations}}.digest() == Asked{Operations: asked.Operations}.digest()
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
	view, err := d.viewOf(ctx, is.Map, who)
	if err != nil {
		return nil, err
	}
	a := &Answer{Entry: id, Revision: logged.Revision, Drawing: is.drawing(differenceOf(was.Seen(view), is.Seen(view)), view), Notices: who.hears(logged.Notices), Moved: logged.Moved}
	d.Flags(a, who)
	return a, nil
}

package workspace

import (
	"context"
	"strings"
	"time"
	"weak"

	"github.com/google/uuid"

	cm "mevrin/core/conceptmap"
	"mevrin/standin/ideas"
	"mevrin/standin/shelf"
	"mevrin/store"
)

// Workspace is the maps of one data folder, as people work on them: a session for each
// that is in use, and what concerns maps as a whole. Everything that a page or another
// program asks goes through it.
type Workspace struct {
	Store    *store.Store
	Shelf    shelf.Searcher // finds pictures and sounds
	Ideas    ideas.Helper   // offers what could be added to a concept
	Hub      Hub            // carries events to those who listen
	sessions *sessions
	leadings Leadings
	imports  Imports
	secrets  secrets
	wrong    Tries // of the passwords of links
}

// Options say what a workspace works with; what is nil is the shipped stand-in.
type Options struct {
	Shelf shelf.Searcher
	Ideas ideas.Helper
	Hub   Hub
	// Memory bounds what the sessions hold, in bytes; 0 for the usual.
	Memory int64
}

// NewWorkspace gives the workspace of a data folder.
func NewWorkspace(s *store.Store, o Options) *Workspace {
	if o.Shelf == nil {
		o.Shelf = shelf.Local{}
	}
	if o.Ideas == nil {
		o.Ideas = ideas.Local{}
	}
	if o.Hub == nil {
		o.Hub = &LocalHub{}
		if s.Served() {
			o.Hub = NewSharedHub(s)
		}
	}
	if o.Memory == 0 {
		o.Memory = maxSessions
	}
	w := &Workspace{Store: s, Shelf: o.Shelf, Ideas: o.Ideas, Hub: o.Hub, secrets: newSecrets(), wrong: Tries{Once: 10, Again: 15 * time.Second}}
	w.sessions = &sessions{store: s, hub: o.Hub, most: o.Memory, made: map[cm.ID]weak.Pointer[Session]{}}
	if h, is := o.Hub.(*SharedHub); is {
		h.catchUp = func(ctx context.Context, id cm.ID) {
			if d := w.sessions.known(id); d != nil {
				d.catchUp(ctx)
			}
		}
		h.all = func(ctx context.Context) {
			for _, d := range w.sessions.held() {
				d.catchUp(ctx)
				h.LocalHub.AskAgain(d.id)
			}
		}
	}
	return w
}

// Run carries what happens on maps between this process and others that serve the same people, where
// there are any, until the context ends.
func (w *Workspace) Run(ctx context.Context) {
	if h, is := w.Hub.(*SharedHub); is {
		h.Run(ctx)
	}
}

// Session gives the session of a map, whether there is such a map or not.
func (w *Workspace) Session(id cm.ID) *Session { return w.sessions.get(id) }

func newMapID() cm.ID { return cm.ID(uuid.Must(uuid.NewV7()).String()) }

// NewThingID makes an id for a thing on a map, where no page makes it.
func NewThingID(kind string) cm.ID {
	return cm.ID(kind + strings.ReplaceAll(uuid.Must(uuid.NewV7()).String(), "-", ""))
}

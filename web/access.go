package web

import (
	"crypto/sha256"
	"errors"
	"net/http"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
)

// Person is who is asking.
type Person struct {
	// ID is how the log records an author. It is sent to nobody: others know the
	// person by the name that speaker gives.
	ID string
	// Gentle tells that they may do nothing that takes anything off a map: whoever
	// has a link, and no more.
	Gentle bool
}

// speaker names the person in comments and votes on a map. It is the same each
// time, other on each map, and tells nobody by what they are known to the log. A
// bearer of a link is named so that they cannot be taken for the map's own people.
func (p Person) speaker(mapID cm.ID) cm.ID { return speakerOf(mapID, p.ID, p.Gentle) }

func speakerOf(mapID cm.ID, person string, visitor bool) cm.ID {
	sum := sha256.Sum256([]byte("speaker\x00" + string(mapID) + "\x00" + person))
	return cm.SpeakerID(sum[:8], visitor)
}

// Right is what someone may do with a map.
type Right int

// The rights, each including those before it.
const (
	MayLook Right = iota
	MayEdit
	MayMake // new maps, and the list of all
)

var (
	errNotAllowed = errors.New("not allowed")
	errNobody     = errors.New("it is not known who asks")
)

// Access answers who is asking and what they may do. Every handler asks here
// and nowhere else.
type Access interface {
	// Ask gives the person behind a request if they have a right on a map; an
	// empty map stands for the whole library.
	Ask(r *http.Request, right Right, mapID cm.ID) (Person, error)
	// Redeem gives what the bearer of a link may do, whoever they are.
	Redeem(r *http.Request, token string) (store.Grant, error)
}

// OneAuthor is the access of a Mevrin that serves a single person on their own
// machine, without accounts: whoever reaches it is its author.
type OneAuthor struct{ Store *store.Store }

// Ask lets everyone do everything, as the one author.
func (OneAuthor) Ask(*http.Request, Right, cm.ID) (Person, error) {
	return Person{ID: "author"}, nil
}

// Redeem asks the store.
func (o OneAuthor) Redeem(r *http.Request, token string) (store.Grant, error) {
	return o.Store.Redeem(r.Context(), token)
}

package web

import (
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// Capability is one thing that somebody may do.
type Capability string

// The capabilities. Each stands for itself: none brings another one along.
const (
	CanOpen  Capability = "open"  // what needs nobody to be known
	CanLook  Capability = "look"  // see a map, and what belongs to it
	CanAdd   Capability = "add"   // add to a map, and take nothing off it
	CanEdit  Capability = "edit"  // alter a map in any way
	CanShare Capability = "share" // make links to a map and close them, and take back what visitors did
	CanKeep  Capability = "keep"  // the library: list maps, make, copy and delete them
	CanWalk  Capability = "walk"  // walk the route of a link
	CanJudge Capability = "judge" // say of the propositions of a map whether they hold

	CanGuide  Capability = "guide"  // lead a room through a map
	CanFollow Capability = "follow" // see what a room is shown
	CanSee    Capability = "see"    // see the picture of a map, and nothing else of it

	CanExport  Capability = "export"  // take a map out as a file
	CanCopy    Capability = "copy"    // make a copy of a map among one's own
	CanComment Capability = "comment" // say what one thinks of a map, and suggest how to alter it
	CanComeIn  Capability = "come in" // come to a map by a link

	CanOwn    Capability = "own"    // put a map into the bin, take it out, delete it for good
	CanBe     Capability = "be"     // look after one's own account
	CanManage Capability = "manage" // look after the accounts of all
)

func (c Capability) known() bool {
	return slices.Contains([]Capability{CanOpen, CanLook, CanAdd, CanEdit, CanShare, CanKeep, CanWalk, CanJudge, CanGuide, CanFollow, CanSee, CanExport, CanCopy, CanComment, CanComeIn, CanOwn, CanBe, CanManage}, c)
}

// Capabilities is a set of them.
type Capabilities map[Capability]bool

// AuthorCan is what the author of all maps may do.
var AuthorCan = Capabilities{CanLook: true, CanExport: true, CanCopy: true, CanJudge: true, CanComment: true, CanAdd: true, CanEdit: true, CanShare: true, CanKeep: true, CanGuide: true, CanOwn: true}

// principal is who a request comes from, which map it is about, and what they may do
// with that. It is worked out once, before any handler.
type principal struct {
	who   workspace.Person
	mapID cm.ID // empty for the library
	may   Capabilities
	grant store.Grant // of the bearer of a link; empty for others
	// nobody tells that the bearer of a link has not opened its page yet.
	nobody bool
}

// principalKey is where a request keeps its principal.
const principalKey = "principal"

// admit works out who asks and lets them pass where they can do what is needed.
func (s *server) admit(needs Capability) gin.HandlerFunc {
	return func(g *gin.Context) {
		if needs == CanOpen {
			return
		}
		p, err := s.principalOf(g)
		if err == nil {
			err = p.can(needs)
		}
		if err != nil {
			s.failWith(g, err)
			return
		}
		if p.grant.ID != "" {
			g.Header("Referrer-Policy", "no-referrer") // the address is the key
			g.Header("X-Robots-Tag", "noindex")
		}
		g.Set(principalKey, p)
	}
}

// can tells why somebody may not do something. Whoever has a link that does not allow
// it is not told that there is more.
func (p principal) can(needs Capability) error {
	switch {
	case p.may[needs] && p.nobody && needs != CanLook && needs != CanExport:
		return errNobody
	case p.may[needs]:
		return nil
	case p.grant.ID != "":
		return store.ErrNoGrant
	}
	return errNotAllowed
}

// asAbout gives whoever asks as somebody who may do something with a map that the address does not name.
func (s *server) asAbout(g *gin.Context, id cm.ID, needs Capability) (workspace.Person, error) {
	who, may, err := s.Access.Ask(g.Request, id)
	if err == nil {
		err = principal{may: may}.can(needs)
	}
	who.Say = say(g)
	return who, err
}

// principalOf works out who a request comes from.
func (s *server) principalOf(g *gin.Context) (principal, error) {
	if token := g.Param("token"); token != "" {
		grant, err := s.Access.Redeem(g.Request, token)
		if err == nil {
			err = s.letIn(g, grant)
		}
		switch {
		case err != nil:
			return principal{}, err
		case grant.Allows == store.AllowsHand:
			return s.bearer(g, grant, "/hand/", workspace.HandPrefix, CanLook, CanAdd), nil
		case grant.Allows == store.AllowsJudge:
			p := s.bearer(g, grant, "/judge/", workspace.JudgePrefix, CanJudge)
			p.who.JudgesOnly = true
			return p, nil
		case grant.Allows.Right() != people.RightNone:
			return principal{mapID: grant.MapID, grant: grant, may: Capabilities{CanComeIn: true}, who: workspace.Person{ID: "link:" + grant.ID, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(grant.MapID)}}, nil
		case grant.Allows == store.AllowsPicture:
			return principal{mapID: grant.MapID, grant: grant, may: Capabilities{CanSee: true}, who: workspace.Person{ID: "picture:" + grant.ID, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(grant.MapID)}}, nil
		case grant.Allows == store.AllowsFrame:
			if !strings.HasPrefix(g.FullPath(), "/frame/") {
				return principal{}, store.ErrNoGrant
			}
			return principal{mapID: grant.MapID, grant: grant, may: Capabilities{CanWalk: true}, who: workspace.Person{ID: "frame:" + grant.ID, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(grant.MapID)}}, nil
		case strings.HasPrefix(g.FullPath(), "/frame/"):
			return principal{}, store.ErrNoGrant
		case grant.Allows == store.AllowsWalk:
			return principal{mapID: grant.MapID, grant: grant, may: Capabilities{CanWalk: true}, who: workspace.Person{ID: "walk:" + grant.ID, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(grant.MapID)}}, nil
		}
		return principal{}, store.ErrNoGrant
	}
	if code := g.Param("code"); code != "" {
		l, err := s.roomOf(g, code)
		if err != nil {
			return principal{}, err
		}
		return principal{mapID: l.MapID, may: Capabilities{CanFollow: true}, who: workspace.Person{ID: "room:" + code, AdditiveOnly: true, Say: say(g), Scope: store.OneMap(l.MapID)}}, nil
	}
	if s.measurer(g) {
		return principal{may: Capabilities{CanManage: true}, who: workspace.Person{ID: "measuring", Nobody: true, Say: say(g)}}, nil
	}
	id := cm.ID(g.Param("map"))
	if id != "" && !id.Valid() {
		return principal{}, store.ErrNoMap
	}
	who, may, err := s.Access.Ask(g.Request, id)
	who.Say = say(g)
	return principal{who: who, mapID: id, may: may, nobody: who.Nobody}, err
}

// The codes that one address may get wrong: so many at once, and one more in so much time.
const (
	wrongCodes = 8
	codeAgain  = 10 * time.Second
)

// roomOf gives the room of a code, for an address that did not get too many wrong.
func (s *server) roomOf(g *gin.Context, code string) (*workspace.Leading, error) {
	if s.triers.TooOften(g.ClientIP()) {
		return nil, workspace.ErrTooOften
	}
	l, err := s.work.Room(code)
	if err != nil {
		s.triers.Failed(g.ClientIP())
	}
	return l, err
}

// asker gives who was admitted, and the map that they ask about.
func asker(g *gin.Context) (workspace.Person, cm.ID) {
	p := admitted(g)
	return p.who, p.mapID
}

// reach gives the folder as far as whoever asks may reach.
func (s *server) reach(g *gin.Context) *store.Reach { return s.Store.For(admitted(g).who.Scope) }

func admitted(g *gin.Context) principal { return g.MustGet(principalKey).(principal) }

var (
	errNotAllowed = errors.New("not allowed")
	errNobody     = errors.New("it is not known who asks")
)

// Access answers who is asking and what they may do. It is asked once for
// a request, before any handler.
type Access interface {
	// Ask gives the person behind a request and what they may do with a map; an
	// empty map stands for the whole library.
	Ask(r *http.Request, mapID cm.ID) (workspace.Person, Capabilities, error)
	// Redeem gives what the bearer of a link may do, whoever they are.
	Redeem(r *http.Request, token string) (store.Grant, error)
}

// OneAuthor is the access of a Mevrin that serves a single person on their own
// machine, without accounts: whoever reaches it is its author.
type OneAuthor struct{ Store *store.Store }

// Ask lets everyone do everything, as the one author.
func (OneAuthor) Ask(*http.Request, cm.ID) (workspace.Person, Capabilities, error) {
	return workspace.Person{ID: "author", Scope: store.Everything}, AuthorCan, nil
}

// Redeem asks the store.
func (o OneAuthor) Redeem(r *http.Request, token string) (store.Grant, error) {
	return o.Store.Redeem(r.Context(), token)
}

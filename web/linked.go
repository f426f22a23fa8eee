package web

import (
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// linkCookie is where a browser keeps by which link it came to a map: the link's token, who its bearer is, and
// that they know its password. It is sent to the addresses of that map alone.
const linkCookie = "mevrin-link"

// comeIn leads whoever has a link to a map as a whole to that map, and lets their browser show by which link
// they came. Whoever may do more already comes as they are.
func (s *server) comeIn(g *gin.Context) {
	s.showCameBy(g, admitted(g).grant)
}

func (s *server) showCameBy(g *gin.Context, grant store.Grant) {
	_, name := s.Store.NewBearer(grant)
	if old, err := g.Request.Cookie(linkCookie); err == nil {
		if parts := strings.Split(old.Value, "|"); len(parts) == 3 && parts[0] == grant.Token {
			if _, known := s.Store.Bearer(grant, parts[1]); known {
				name = parts[1] // they were here before
			}
		}
	}
	s.keepUnder(g, linkCookie, grant.Token+"|"+name+"|"+s.Store.Pass(grant, "password"), grant.MapID)
	g.Header("Cache-Control", "no-store")
	g.Redirect(http.StatusSeeOther, "/maps/"+string(grant.MapID))
}

// cameBy gives whoever shows that they came to a map by a link, and what it allows; RightNone where they did
// not, or the link leads there no longer.
func (a ByAccount) cameBy(r *http.Request, mapID cm.ID) (workspace.Person, people.Right, error) {
	for _, name := range []string{linkCookie, fromCookie} {
		if shown, err := r.Cookie(name); err == nil {
			if who, right, err := a.shows(r, shown, mapID); err != nil || right != people.RightNone {
				return who, right, err
			}
		}
	}
	return workspace.Person{}, people.RightNone, nil
}

// shows gives whom a cookie names, and what their link allows on a map.
func (a ByAccount) shows(r *http.Request, shown *http.Cookie, mapID cm.ID) (workspace.Person, people.Right, error) {
	parts := strings.Split(shown.Value, "|")
	if len(parts) != 3 {
		return workspace.Person{}, people.RightNone, nil
	}
	grant, err := a.Store.Redeem(r.Context(), parts[0])
	if errors.Is(err, store.ErrNoGrant) {
		return workspace.Person{}, people.RightNone, nil
	} else if err != nil {
		return workspace.Person{}, people.RightNone, err
	}
	bearer, known := a.Store.Bearer(grant, parts[1])
	if !known || grant.MapID != mapID || parts[2] != a.Store.Pass(grant, "password") {
		return workspace.Person{}, people.RightNone, nil
	}
	right := grant.Allows.Right()
	return workspace.Person{ID: workspace.LinkPrefix + grant.ID + ":" + bearer, Bearer: true, AdditiveOnly: !right.Allows(people.RightEdit), Until: grant.Until, Scope: store.OneMap(mapID)}, right, nil
}

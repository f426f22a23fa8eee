package web

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/skip2/go-qrcode"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// sharing is the page that says who may do what with a map.
type sharing struct {
	ID         cm.ID
	Title      string
	Owner      people.Person
	Shares     []store.Share
	Rights     []query.Choice
	Others     []people.Person // with whom it could be shared
	Links      []query.SharedLink
	Fors       []query.Choice // what a new link could be for
	New        query.SharedLink
	Origin     string
	Fault, Who string
	ByFolder   []store.Share  // who has access by a folder in which it is
	ForAll     []query.Choice // what everybody could be let do
	Open       people.Right   // what everybody may do
	Done       string         // opened, closed
	// For a frame on other pages: its size, its look, and what it shows.
	Sizes, Looks, Routes []query.Choice
	Manages              bool // whoever asks can invite people
	Mails                bool // whoever asks sees mail addresses
}

func (s *server) showSharing(g *gin.Context, status int, fault, person string) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	who, id := asker(g)
	ctx := g.Request.Context()
	v := sharing{ID: id, Title: now.Map.Name(), Fault: fault, Who: person}
	if p := who.Account; p != nil {
		v.Manages, v.Mails = roleCan[p.Role][CanManage], p.Role.SeesMail()
	}
	v.Done = g.Query("done")
	var errs [6]error
	var all []people.Person
	if s.Accounts != nil {
		v.Owner, errs[0] = s.reach(g).OwnerOf(ctx, id)
		v.Shares, errs[1] = s.reach(g).Shares(ctx, id)
		all, errs[2] = s.Store.People(ctx)
	}
	v.Links, errs[3] = now.Links(ctx, s.work, who)
	v.ByFolder, errs[4] = s.reach(g).FolderSharesOf(ctx, id)
	listed, err := s.reach(g).Summary(ctx, id)
	v.Open, errs[5] = listed.Open, err
	if err := errors.Join(errs[:]...); err != nil {
		s.failWith(g, err)
		return
	}
	v.Sizes, v.Looks = sizeChoices(say(g).Sprintf), query.Themes
	for _, id := range cm.SortedIDs(now.Map.Routes) {
		v.Routes = append(v.Routes, query.Choice{Value: string(id), Name: now.Map.Words(now.Map.Routes[id].Title)})
	}
	for i, l := range v.Links {
		if l.Frame != nil {
			v.Links[i].Code = frameCode(originOf(g), v.Title, *l.Frame, l.Address)
		}
	}
	v.Fors, v.New, v.Origin = now.LinkChoices(), query.SharedLink{Counts: true}, originOf(g)
	v.Rights, v.Others = rightChoices(), othersThan(all, v.Owner.ID, v.Shares)
	if s.Accounts != nil {
		for _, r := range people.ForAll {
			i := slices.IndexFunc(v.Rights, func(c query.Choice) bool { return c.Value == string(r) })
			v.ForAll = append(v.ForAll, v.Rights[i])
		}
		v.Fors = append(now.RightChoices(), v.Fors...)
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "sharing.html", v)
}

func (s *server) sharingPage(g *gin.Context) { s.showSharing(g, http.StatusOK, "", "") }

// postSharing lets somebody do something with a map, or no longer; closing ends a link.
func (s *server) postSharing(g *gin.Context) {
	who, id := asker(g)
	person, right := g.PostForm("person"), people.Right(g.PostForm("right"))
	err := s.work.ShareWith(g.Request.Context(), who, id, person, right)
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showSharing(g, http.StatusUnprocessableEntity, refusal.In(say(g)), person)
	default:
		s.backToSharing(g, err)
	}
}

func (s *server) backToSharing(g *gin.Context, err error) {
	_, id := asker(g)
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showSharing(g, http.StatusUnprocessableEntity, refusal.In(say(g)), "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/sharing")
	}
}

func limitsOf(g *gin.Context) workspace.Limits {
	return workspace.Limits{Password: g.PostForm("password"), Open: g.PostForm("open") != "", Until: g.PostForm("until"), Most: g.PostForm("most")}
}

// makeLink makes a link for whoever has it.
func (s *server) makeLink(g *gin.Context) {
	who, id := asker(g)
	allows, route, _ := strings.Cut(g.PostForm("for"), " ")
	s.backToSharing(g, s.work.MakeLink(g.Request.Context(), who, id, store.Allows(allows), cm.ID(route), limitsOf(g)))
}

// limitLink gives a link other limits.
func (s *server) limitLink(g *gin.Context) {
	who, id := asker(g)
	s.backToSharing(g, s.work.LimitLink(g.Request.Context(), who, id, g.Param("grant"), limitsOf(g)))
}

// codePage is the address of a link as a code that cameras read, large for the wall.
type codePage struct {
	Address, Says, Title string
	ID                   cm.ID
	Side                 int
	Path                 string // of the dark squares
}

// linkCode shows the code of a link (ISO/IEC 18004).
func (s *server) linkCode(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	who, id := asker(g)
	links, err := now.Links(g.Request.Context(), s.work, who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	i := slices.IndexFunc(links, func(l query.SharedLink) bool { return l.ID == g.Param("grant") })
	if i < 0 {
		s.failWith(g, store.ErrNoGrant)
		return
	}
	v := codePage{Address: originOf(g) + links[i].Address, Says: links[i].Says, Title: now.Map.Name(), ID: id}
	code, err := qrcode.New(v.Address, qrcode.Medium)
	if err != nil {
		s.failWith(g, err)
		return
	}
	dark := code.Bitmap()
	v.Side = len(dark)
	var path strings.Builder
	for y, row := range dark {
		for x, is := range row {
			if is {
				fmt.Fprintf(&path, "M%d %dh1v1h-1z", x, y)
			}
		}
	}
	v.Path = path.String()
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "code.html", v)
}

func (s *server) closeLink(g *gin.Context) {
	who, id := asker(g)
	s.backToSharing(g, s.work.CloseLink(g.Request.Context(), who, id, g.Param("grant")))
}

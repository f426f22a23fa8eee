package web

import (
	"cmp"
	"errors"
	"maps"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// errSignIn tells that it is not known who asks: they have to sign in first.
var errSignIn = errors.New("not signed in")

// signInCookie is where a browser keeps what shows that somebody is signed in.
const signInCookie = "mevrin-person"

// roleCan says what people may do apart from any map, by what they are to the whole.
var roleCan = map[people.Role]Capabilities{
	people.RoleOwner:   {CanBe: true, CanKeep: true, CanManage: true},
	people.RoleAuthor:  {CanBe: true, CanKeep: true},
	people.RoleLearner: {CanBe: true, CanKeep: true},
}

// rightCan says what people may do with a map, by their right on it.
var rightCan = func() map[people.Right]Capabilities {
	all, so := map[people.Right]Capabilities{}, Capabilities{CanBe: true, CanKeep: true}
	adds := map[people.Right][]Capability{
		people.RightLook: {CanLook}, people.RightCopy: {CanExport, CanCopy}, people.RightJudge: {CanJudge}, people.RightComment: {CanComment},
		people.RightGuide: {CanGuide}, people.RightEdit: {CanAdd, CanEdit}, people.RightOwn: {CanShare, CanOwn},
	}
	for _, r := range people.Rights {
		for _, c := range adds[r.ID] {
			so[c] = true
		}
		all[r.ID] = maps.Clone(so)
	}
	return all
}()

// accountCan are those among them that need an account: a place of one's own where things are kept.
var accountCan = []Capability{CanBe, CanKeep, CanCopy}

// ByAccount is the access of a Mevrin that several people share: each sees the maps that are theirs, and
// those that others share with them.
type ByAccount struct{ Store *store.Store }

// Ask gives whoever is signed in, and otherwise whoever came by a link to the map, or comes to one that is open
// to all. A map on which somebody has no right is not there for them.
func (a ByAccount) Ask(r *http.Request, mapID cm.ID) (workspace.Person, Capabilities, error) {
	p, signIn, err := a.signedIn(r)
	if err != nil || p.ID == "" && mapID == "" {
		return workspace.Person{}, nil, cmp.Or(err, errSignIn)
	}
	who := workspace.Person{ID: p.ID, Account: &p, SignIn: signIn, Scope: store.Scope{Person: p.ID, Map: mapID}}
	if mapID == "" {
		return who, roleCan[p.Role], nil
	}
	right, err := a.Store.RightOn(r.Context(), p.ID, mapID)
	if err != nil {
		return workspace.Person{}, nil, err
	}
	came, allows, err := a.cameBy(r, mapID)
	if err != nil {
		return workspace.Person{}, nil, err
	}
	switch {
	case right == people.RightNone && allows == people.RightNone && p.ID == "":
		return workspace.Person{}, nil, errSignIn // it does not say whether there is such a map
	case right == people.RightNone && allows == people.RightNone:
		return who, nil, store.ErrNoMap
	case p.ID == "" && allows != people.RightNone && allows.Allows(right):
		who = came
	case p.ID == "":
		who = workspace.Person{ID: "nobody", Nobody: true, Scope: store.OneMap(mapID)}
	}
	right = people.Greater(right, allows)
	who.JudgesOnly, who.CommentsOnly = !right.Allows(people.RightComment), !right.Allows(people.RightEdit)
	may := rightCan[right]
	if p.ID == "" {
		may = maps.Clone(may)
		for _, c := range accountCan {
			delete(may, c)
		}
	}
	return who, may, nil
}

func (a ByAccount) signedIn(r *http.Request) (people.Person, string, error) {
	token, err := r.Cookie(signInCookie)
	if err != nil {
		return people.Person{}, "", nil
	}
	p, signIn, err := a.Store.SignedIn(r.Context(), token.Value)
	if errors.Is(err, store.ErrNoPerson) {
		err = nil
	}
	return p, signIn, err
}

// Redeem asks the store.
func (a ByAccount) Redeem(r *http.Request, token string) (store.Grant, error) {
	return a.Store.Redeem(r.Context(), token)
}

// withAccounts lets what concerns accounts be asked for only where there are any.
func (s *server) withAccounts(g *gin.Context) {
	if s.Accounts == nil {
		s.fail(g, http.StatusNotFound, "There is nothing at this address.", nil)
	}
}

// remember lets the browser show from now on who is signed in.
func (s *server) remember(g *gin.Context, token string) {
	cookie := &http.Cookie{Name: signInCookie, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: secure(g), MaxAge: 400 * 24 * 3600}
	if token == "" {
		cookie.MaxAge = -1
	}
	http.SetCookie(g.Writer, cookie)
}

// secure tells whether whoever asks comes by TLS, here or at a proxy.
func secure(g *gin.Context) bool {
	return g.Request.TLS != nil || g.GetHeader("X-Forwarded-Proto") == "https"
}

// onward gives where somebody goes after they signed in: to where they wanted to, on this site.
func onward(g *gin.Context, to string) string {
	if len(to) < 2 || to[0] != '/' || to[1] == '/' || to[1] == '\\' || len(to) > 1000 {
		return "/"
	}
	for _, r := range to {
		if r < ' ' || r == '\\' {
			return "/"
		}
	}
	return to
}

// entering is a page on which somebody comes in: signs in, or makes an account.
type entering struct {
	Fault, Said string
	To          string
	Mail, Name  string
	Action      string // of the form
	People      []people.Person
	Code        bool
	Tries       bool   // one can try everything without an account
	School      string // the name of the school by whose identity one can sign in; empty for none
}

func (s *server) showEntering(g *gin.Context, status int, page string, v entering) {
	g.Header("Cache-Control", "no-store")
	g.Header("Referrer-Policy", "no-referrer") // an address may be a key
	if s.School != nil {
		v.School = s.School.Name
	}
	v.Tries = s.Tries
	s.html(g, status, page, v)
}

// entered lets somebody in, or says why not, on the page where they filled it in.
func (s *server) entered(g *gin.Context, page string, v entering, token string, err error) {
	var refusal *cm.Refusal
	switch {
	case errors.Is(err, workspace.ErrTooOften):
		v.Fault = say(g).Sprintf("That was tried too often. Please wait a minute.")
		s.showEntering(g, http.StatusTooManyRequests, page, v)
	case errors.As(err, &refusal):
		v.Fault = refusal.In(say(g))
		s.showEntering(g, http.StatusUnprocessableEntity, page, v)
	case err != nil:
		s.failWith(g, err)
	default:
		s.remember(g, token)
		g.Redirect(http.StatusSeeOther, onward(g, v.To))
	}
}

// signInPage is where people sign in; where there are none yet, it says how the first comes.
func (s *server) signInPage(g *gin.Context) {
	there, err := s.Store.HasPeople(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.showSignIn(g, http.StatusOK, entering{To: g.Query("to"), Code: !there})
}

func (s *server) showSignIn(g *gin.Context, status int, v entering) {
	var err error
	if v.People, err = s.demoPeople(g); err != nil {
		s.failWith(g, err)
		return
	}
	s.showEntering(g, status, "sign-in.html", v)
}

// demoPeople are those as whom anybody may sign in by one press; there are some in the demo alone.
func (s *server) demoPeople(g *gin.Context) ([]people.Person, error) {
	if !s.Demo {
		return nil, nil
	}
	return s.Store.People(g.Request.Context())
}

func (s *server) signIn(g *gin.Context) {
	v := entering{To: g.PostForm("to"), Mail: g.PostForm("mail")}
	var token string
	var err error
	if as := g.PostForm("as"); as != "" && s.Demo {
		token, err = s.Accounts.As(g.Request.Context(), as, g.Request.UserAgent())
	} else {
		token, err = s.Accounts.SignIn(g.Request.Context(), v.Mail, g.PostForm("password"), g.ClientIP(), g.Request.UserAgent())
	}
	s.entered(g, "sign-in.html", v, token, err)
}

// firstPage is where the owner of a new Mevrin makes their account.
func (s *server) firstPage(g *gin.Context) {
	if there, err := s.Store.HasPeople(g.Request.Context()); err != nil || there || g.Param("ticket") != s.Accounts.Code {
		s.failWith(g, errors.Join(err, store.ErrNoTicket))
		return
	}
	s.showEntering(g, http.StatusOK, "first.html", entering{Action: g.Request.URL.Path})
}

func (s *server) first(g *gin.Context) {
	v := entering{Action: g.Request.URL.Path, Name: g.PostForm("name"), Mail: g.PostForm("mail")}
	token, err := s.Accounts.First(g.Request.Context(), g.Param("ticket"), workspace.Entry{Name: v.Name, Mail: v.Mail, Password: g.PostForm("password")}, g.Request.UserAgent())
	s.entered(g, "first.html", v, token, err)
}

// joinPage is where somebody who was invited makes their account.
func (s *server) joinPage(g *gin.Context) {
	ticket, err := s.Store.TicketOf(g.Request.Context(), g.Param("ticket"))
	if err == nil && ticket.Sort != store.TicketInvitation {
		err = store.ErrNoTicket
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.showEntering(g, http.StatusOK, "join.html", entering{Action: g.Request.URL.Path, Mail: ticket.Mail})
}

func (s *server) join(g *gin.Context) {
	v := entering{Action: g.Request.URL.Path, Name: g.PostForm("name"), Mail: g.PostForm("mail")}
	token, err := s.Accounts.Join(g.Request.Context(), g.Param("ticket"), workspace.Entry{Name: v.Name, Password: g.PostForm("password")}, g.Request.UserAgent())
	s.entered(g, "join.html", v, token, err)
}

func (s *server) forgotPage(g *gin.Context) {
	s.showEntering(g, http.StatusOK, "forgot.html", entering{})
}

func (s *server) forgot(g *gin.Context) {
	v := entering{Mail: g.PostForm("mail")}
	if err := s.Accounts.Forgot(g.Request.Context(), v.Mail, g.ClientIP(), originOf(g), say(g)); err != nil {
		s.entered(g, "forgot.html", v, "", err)
		return
	}
	v.Said = say(g).Sprintf("If there is an account of this address, a letter with a link is on its way to it. The link can be used for an hour.")
	s.showEntering(g, http.StatusOK, "forgot.html", v)
}

// renewPage is where somebody chooses a new password who has a link to do so.
func (s *server) renewPage(g *gin.Context) {
	ticket, err := s.Store.TicketOf(g.Request.Context(), g.Param("ticket"))
	if err == nil && ticket.Sort != store.TicketPassword {
		err = store.ErrNoTicket
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.showEntering(g, http.StatusOK, "password.html", entering{Action: g.Request.URL.Path, Mail: ticket.Mail})
}

func (s *server) renew(g *gin.Context) {
	token, err := s.Accounts.Renew(g.Request.Context(), g.Param("ticket"), g.PostForm("password"), g.Request.UserAgent())
	s.entered(g, "password.html", entering{Action: g.Request.URL.Path, Mail: g.PostForm("mail")}, token, err)
}

// signOut ends the sign-in of this browser.
func (s *server) signOut(g *gin.Context) {
	who, _ := asker(g)
	if err := s.Store.SignOut(g.Request.Context(), who.ID, who.SignIn); err != nil {
		s.failWith(g, err)
		return
	}
	s.remember(g, "")
	g.Redirect(http.StatusSeeOther, "/sign-in")
}

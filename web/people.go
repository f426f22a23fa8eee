package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// account is the page on which somebody looks after their own account.
type account struct {
	Me          *people.Person
	Here        string // the sign-in of this browser
	SignIns     []store.SignIn
	Fault, Done string
}

func (s *server) showAccount(g *gin.Context, status int, v account) {
	who, _ := asker(g)
	v.Me, v.Here = who.Account, who.SignIn
	var err error
	if v.SignIns, err = s.Store.SignIns(g.Request.Context(), who.ID); err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "account.html", v)
}

func (s *server) accountPage(g *gin.Context) {
	s.showAccount(g, http.StatusOK, account{Done: g.Query("done")})
}

// postAccount changes one's own name or password, or ends sign-ins.
func (s *server) postAccount(g *gin.Context) {
	who, _ := asker(g)
	ctx, p := g.Request.Context(), *who.Account
	var err error
	what := g.PostForm("what")
	switch what {
	case "name":
		p.Name = g.PostForm("name")
		err = s.Accounts.Alter(ctx, *who.Account, p)
	case "password":
		err = s.Accounts.ChangePassword(ctx, p, who.SignIn, g.PostForm("now"), g.PostForm("next"))
	case "sign-out":
		err = s.Store.SignOut(ctx, who.ID, g.PostForm("sign-in"))
	default:
		err = cm.Refusef("There is nothing of that sort to change.")
	}
	var refusal *cm.Refusal
	switch {
	case errors.Is(err, workspace.ErrTooOften):
		s.showAccount(g, http.StatusTooManyRequests, account{Fault: say(g).Sprintf("That was tried too often. Please wait a minute.")})
	case errors.As(err, &refusal):
		s.showAccount(g, http.StatusUnprocessableEntity, account{Fault: refusal.In(say(g))})
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/account?done="+what)
	}
}

// everybody is the page on which the owner looks after all people.
type everybody struct {
	Me      *people.Person
	People  []people.Person
	Roles   []query.Choice
	Letters []store.Letter
	Deeds   []store.Deed
	Names   map[string]string
	Link    string // of an invitation that was just made
	Mail    string
	Fault   string
	Posts   bool // letters are sent by a mail server
}

// shownDeeds is how many lines of the record are shown.
const shownDeeds = 60

func (s *server) showPeople(g *gin.Context, status int, v everybody) {
	ctx := g.Request.Context()
	who, _ := asker(g)
	v.Me, v.Names, v.Posts = who.Account, map[string]string{}, s.Accounts.Letters.Post != nil
	for _, r := range people.Roles {
		v.Roles = append(v.Roles, query.Choice{Value: string(r.ID), Name: r.Title})
	}
	var errs [3]error
	v.People, errs[0] = s.Store.People(ctx)
	v.Letters, errs[1] = s.Store.Letters(ctx)
	v.Deeds, errs[2] = s.Store.Deeds(ctx, shownDeeds)
	if err := errors.Join(errs[:]...); err != nil {
		s.failWith(g, err)
		return
	}
	for _, p := range v.People {
		v.Names[p.ID] = p.Name
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "people.html", v)
}

func (s *server) peoplePage(g *gin.Context) { s.showPeople(g, http.StatusOK, everybody{}) }

// postPeople invites somebody, gives them another role, or takes an account away.
func (s *server) postPeople(g *gin.Context) {
	who, _ := asker(g)
	ctx := g.Request.Context()
	v := everybody{}
	var err error
	switch g.PostForm("what") {
	case "invite":
		v.Mail = g.PostForm("mail")
		if v.Link, err = s.Accounts.Invite(ctx, *who.Account, v.Mail, people.Role(g.PostForm("role")), originOf(g), say(g)); err == nil {
			v.Mail = ""
		}
	case "role":
		var p people.Person
		if p, _, err = s.Store.Person(ctx, g.PostForm("person")); err == nil {
			p.Role = people.Role(g.PostForm("role"))
			err = s.Accounts.Alter(ctx, *who.Account, p)
		}
	case "remove":
		err = s.Accounts.Remove(ctx, *who.Account, g.PostForm("person"))
	default:
		err = cm.Refusef("There is nothing of that sort to change.")
	}
	status := http.StatusOK
	var refusal *cm.Refusal
	switch {
	case errors.Is(err, store.ErrNoPerson):
		status, v.Fault = http.StatusUnprocessableEntity, say(g).Sprintf("This account is no longer there.")
	case errors.As(err, &refusal):
		status, v.Fault = http.StatusUnprocessableEntity, refusal.In(say(g))
	case err != nil:
		s.failWith(g, err)
		return
	case v.Link == "":
		g.Redirect(http.StatusSeeOther, "/people")
		return
	}
	s.showPeople(g, status, v)
}

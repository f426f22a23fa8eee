package workspace

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"strings"
	"time"

	"github.com/mileusna/useragent"

	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/core/people"
	"mevrin/store"
)

// Accounts are the people of a Mevrin that several share: how they come, sign in and go.
type Accounts struct {
	Store *store.Store
	// Code lets whoever starts a Mevrin without people make its first owner.
	Code string
	// Letters are those to people.
	Letters *Mailroom

	byAddress, byMail Tries
	secrets           secrets
}

// NewAccounts gives the accounts of a folder.
func NewAccounts(s *store.Store) *Accounts {
	return &Accounts{Store: s, Code: rand.Text()[:12], Letters: NewMailroom(s, nil), secrets: newSecrets(),
		byAddress: Tries{Once: 20, Again: 10 * time.Second}, byMail: Tries{Once: 8, Again: 30 * time.Second}}
}

func (a *Accounts) secretOf(ctx context.Context, password string, of people.Person) (secret string, err error) {
	if err := people.CheckPassword(password, of); err != nil {
		return "", err
	}
	return a.secrets.hash(ctx, password)
}

// wrong is said of any sign-in that fails: it does not tell whether there is such an account.
func wrong() error {
	return cm.Refusef("The mail address or the password is not right.")
}

// SignIn signs somebody in, and gives what their browser shows from then on. Address is where they come
// from. It takes as long, and says the same, whether there is such an account or not.
func (a *Accounts) SignIn(ctx context.Context, mail, password, address, device string) (token string, err error) {
	mail, err = people.CleanMail(mail)
	if err != nil {
		return "", err
	}
	if a.byMail.TooOften(mail) || a.byAddress.TooOften(address) {
		return "", ErrTooOften
	}
	p, secret, err := a.Store.PersonOf(ctx, mail)
	if errors.Is(err, store.ErrNoPerson) {
		secret, err = "", nil
	}
	if err != nil {
		return "", err
	}
	ok, err := a.secrets.match(ctx, password, secret)
	if err != nil {
		return "", err
	}
	if !ok || p.ID == "" {
		a.byMail.Failed(mail)
		a.byAddress.Failed(address)
		return "", errors.Join(wrong(), a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "sign-in failed", About: address}))
	}
	return a.enter(ctx, p, device)
}

func (a *Accounts) enter(ctx context.Context, p people.Person, device string) (string, error) {
	device = deviceOf(device)
	token, err := a.Store.SignIn(ctx, p.ID, device)
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "signed in", About: device})
	}
	return token, err
}

// deviceOf gives in a few words what a browser says of itself; empty where that cannot be told.
func deviceOf(agent string) string {
	ua := useragent.Parse(cm.Shortened(agent, 500))
	return cm.Shortened(strings.Trim(strings.Join([]string{ua.Name, ua.OS}, ", "), ", "), 80)
}

// As signs somebody in without a password; only the demo offers that.
func (a *Accounts) As(ctx context.Context, id, device string) (string, error) {
	p, _, err := a.Store.Person(ctx, id)
	if err != nil {
		return "", err
	}
	return a.enter(ctx, p, device)
}

// Entry is what somebody fills in who makes an account.
type Entry struct{ Name, Mail, Password string }

// First makes the first owner, for whoever has the code; where there are people already it is refused.
func (a *Accounts) First(ctx context.Context, code string, e Entry, device string) (string, error) {
	if there, err := a.Store.HasPeople(ctx); err != nil {
		return "", err
	} else if there || subtle.ConstantTimeCompare([]byte(code), []byte(a.Code)) != 1 {
		return "", store.ErrNoTicket
	}
	mail, err := people.CleanMail(e.Mail)
	if err != nil {
		return "", err
	}
	return a.make(ctx, people.Person{ID: people.FirstOwner, Mail: mail, Role: people.RoleOwner}, e, device, func() error { return nil })
}

// Join makes the account of whoever was invited.
func (a *Accounts) Join(ctx context.Context, token string, e Entry, device string) (string, error) {
	ticket, err := a.Store.TicketOf(ctx, token)
	if err == nil && ticket.Sort != store.TicketInvitation {
		err = store.ErrNoTicket
	}
	if err != nil {
		return "", err
	}
	p := people.Person{ID: string(NewThingID("p")), Mail: ticket.Mail, Role: ticket.Role}
	return a.make(ctx, p, e, device, func() error { return a.Store.UseTicket(ctx, token) })
}

func (a *Accounts) make(ctx context.Context, p people.Person, e Entry, device string, use func() error) (string, error) {
	var err error
	if p.Name, err = people.CleanName(e.Name); err != nil {
		return "", err
	}
	secret, err := a.secretOf(ctx, e.Password, p)
	if err == nil {
		err = use()
	}
	if err == nil {
		err = a.Store.AddPerson(ctx, p, secret)
	}
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "joined", About: string(p.Role)})
	}
	if err != nil {
		return "", err
	}
	return a.enter(ctx, p, device)
}

// Invite lets somebody make an account, by a letter with a link; it gives that link, too. Origin is where
// this Mevrin is reached.
func (a *Accounts) Invite(ctx context.Context, by people.Person, mail string, role people.Role, origin string, say *message.Printer) (link string, err error) {
	if mail, err = people.CleanMail(mail); err != nil {
		return "", err
	}
	if !role.Valid() {
		return "", cm.Refusef("Say as what they are invited.")
	}
	if _, _, err := a.Store.PersonOf(ctx, mail); err == nil {
		return "", cm.Refusef("There is an account of this address already.")
	}
	token, err := a.Store.AddTicket(ctx, store.Ticket{Sort: store.TicketInvitation, Mail: mail, Role: role})
	if err != nil {
		return "", err
	}
	link = origin + "/join/" + token
	err = a.Letters.Put(ctx, store.Letter{Recipient: mail, Subject: say.Sprintf("%s invites you to Mevrin", by.Name),
		Body: say.Sprintf("Hello,\n\n%s invites you to make and share concept maps. Choose a name and a password here within two weeks:\n\n%s\n", by.Name, link)})
	return link, errors.Join(err, a.Store.Record(ctx, store.Deed{Person: by.ID, Deed: "invited", About: mail}))
}

// Forgot sends a letter with a link to a new password, where there is such an account. It tells nobody
// whether there is: the letter is written after the answer.
func (a *Accounts) Forgot(ctx context.Context, mail, address, origin string, say *message.Printer) error {
	mail, err := people.CleanMail(mail)
	if err != nil {
		return err
	}
	if a.byMail.TooOften("forgot "+mail) || a.byAddress.TooOften(address) {
		return ErrTooOften
	}
	a.byMail.Failed("forgot " + mail)
	a.byAddress.Failed(address)
	go func() {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Minute)
		defer cancel()
		if _, _, err := a.Store.PersonOf(ctx, mail); err != nil {
			return
		}
		token, err := a.Store.AddTicket(ctx, store.Ticket{Sort: store.TicketPassword, Mail: mail})
		if err != nil {
			return // whoever asked asks again
		}
		_ = a.Letters.Put(ctx, store.Letter{Recipient: mail, Subject: say.Sprintf("A new password for Mevrin"),
			Body: say.Sprintf("Hello,\n\nsomebody asked for a new password for this address. If that was you, choose it here within an hour:\n\n%s\n\nIf not, nothing has changed.\n", origin+"/password/"+token)})
	}()
	return nil
}

// PasswordLink gives a link by which somebody chooses a new password within an hour, for whoever looks after accounts.
func (a *Accounts) PasswordLink(ctx context.Context, by, p people.Person, origin string) (string, error) {
	token, err := a.Store.AddTicket(ctx, store.Ticket{Sort: store.TicketPassword, Mail: p.Mail})
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: by.ID, Deed: "password link", About: p.Mail})
	}
	return origin + "/password/" + token, err
}

// Renew sets a new password for whoever was sent a link to do so, and ends all sign-ins.
func (a *Accounts) Renew(ctx context.Context, token, password, device string) (string, error) {
	ticket, err := a.Store.TicketOf(ctx, token)
	if err == nil && ticket.Sort != store.TicketPassword {
		err = store.ErrNoTicket
	}
	if err != nil {
		return "", err
	}
	p, _, err := a.Store.PersonOf(ctx, ticket.Mail)
	if err != nil {
		return "", store.ErrNoTicket
	}
	secret, err := a.secretOf(ctx, password, p)
	if err == nil {
		err = a.Store.UseTicket(ctx, token)
	}
	if err == nil {
		err = a.Store.SetSecret(ctx, p.ID, secret, "")
	}
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "new password"})
	}
	if err != nil {
		return "", err
	}
	return a.enter(ctx, p, device)
}

// confirmed refuses whoever does not know the password of an account.
func (a *Accounts) confirmed(ctx context.Context, p people.Person, password string) error {
	if a.byMail.TooOften(p.Mail) {
		return ErrTooOften
	}
	_, secret, err := a.Store.Person(ctx, p.ID)
	if err != nil {
		return err
	}
	ok, err := a.secrets.match(ctx, password, secret)
	if err == nil && !ok {
		a.byMail.Failed(p.Mail)
		err = cm.Refusef("The password you have now is another one.")
	}
	return err
}

// ChangePassword sets another password for somebody who knows the present one; every other browser is
// signed out.
func (a *Accounts) ChangePassword(ctx context.Context, p people.Person, signIn, now, next string) error {
	err := a.confirmed(ctx, p, now)
	var secret string
	if err == nil {
		secret, err = a.secretOf(ctx, next, p)
	}
	if err == nil {
		err = a.Store.SetSecret(ctx, p.ID, secret, signIn)
	}
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "new password"})
	}
	return err
}

// Alter gives somebody another name or role.
func (a *Accounts) Alter(ctx context.Context, by, p people.Person) error {
	name, err := people.CleanName(p.Name)
	if err == nil && !p.Role.Valid() {
		err = cm.Refusef("There is no such role.")
	}
	if err != nil {
		return err
	}
	p.Name = name
	if err := a.Store.AlterPerson(ctx, p); err != nil {
		return err
	}
	return a.Store.Record(ctx, store.Deed{Person: by.ID, Deed: "altered", About: p.Mail + " " + string(p.Role)})
}

// Remove takes an account away; the maps go to whoever does it.
func (a *Accounts) Remove(ctx context.Context, by people.Person, id string) error {
	p, _, err := a.Store.Person(ctx, id)
	if err == nil {
		err = a.Store.RemovePerson(ctx, id, by.ID)
	}
	if err == nil {
		err = a.Store.Record(ctx, store.Deed{Person: by.ID, Deed: "removed", About: p.Mail})
	}
	return err
}

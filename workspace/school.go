package workspace

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// Vouched is what a school's identity says of somebody who signed in there.
type Vouched struct {
	Issuer, Subject string
	Mail            string
	MailVerified    bool // it knows that the address is theirs
	Name            string
}

// BySchool lets in whoever a school's identity vouches for: by who they are there, or, the first time, by a mail
// address that it has verified. Who has no account gets one with the role joins; where that is empty they have to
// be invited.
func (a *Accounts) BySchool(ctx context.Context, v Vouched, joins people.Role, device string) (string, error) {
	if v.Issuer == "" || v.Subject == "" {
		return "", cm.Refusef("The school's sign-in does not say who you are.")
	}
	p, err := a.Store.PersonByIdentity(ctx, v.Issuer, v.Subject)
	if err == nil {
		return a.enter(ctx, p, device)
	} else if !errors.Is(err, store.ErrNoPerson) {
		return "", err
	}
	mail, err := people.CleanMail(v.Mail)
	if err != nil || !v.MailVerified {
		return "", cm.Refusef("The school's sign-in does not vouch for a mail address of yours. Ask those who look after it.")
	}
	p, _, err = a.Store.PersonOf(ctx, mail)
	switch {
	case errors.Is(err, store.ErrNoPerson) && !joins.Valid():
		return "", cm.Refusef("You have no account here yet. Ask the owner of this Mevrin for an invitation.")
	case errors.Is(err, store.ErrNoPerson):
		name, _, _ := strings.Cut(mail, "@")
		if p.Name, err = people.CleanName(cm.Shortened(cmp.Or(strings.TrimSpace(v.Name), name), people.MaxName)); err != nil {
			return "", err
		}
		p.ID, p.Mail, p.Role = string(NewThingID("p")), mail, joins
		if err = a.Store.AddPerson(ctx, p, "none:"+rand.Text()); err == nil {
			err = a.Store.Record(ctx, store.Deed{Person: p.ID, Deed: "joined", About: string(p.Role) + " " + v.Issuer})
		}
	}
	if err == nil {
		err = a.Store.AddIdentity(ctx, v.Issuer, v.Subject, p.ID)
	}
	if err != nil {
		return "", err
	}
	return a.enter(ctx, p, device)
}

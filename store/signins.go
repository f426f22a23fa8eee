package store

import (
	"context"
	"crypto/rand"
	"errors"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// SignIn is a browser in which somebody is signed in.
type SignIn struct {
	ID     string
	Device string // what the browser says of itself
	Since  time.Time
	Seen   time.Time
}

type signInRow struct {
	Hash   []byte `gorm:"primaryKey"` // of the token that the browser shows
	ID     string
	Person string
	Device string
	Since  time.Time
	Seen   time.Time
}

func (signInRow) TableName() string { return "signins" }

const (
	// signInLasts is for how long a browser stays signed in that is not used.
	signInLasts = 30 * 24 * time.Hour
	// seenEvery is how often it is written down that a browser is in use.
	seenEvery = time.Hour
)

// SignIn signs somebody in, and gives what their browser shows from then on.
func (s *Store) SignIn(ctx context.Context, person, device string) (token string, err error) {
	token = rand.Text() + rand.Text()
	now := s.Now().UTC()
	return token, s.transaction(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("seen < ?", now.Add(-signInLasts)).Delete(&signInRow{}).Error; err != nil {
			return err
		}
		return tx.Create(&signInRow{hashOf(token), rand.Text(), person, cm.Shortened(device, 200), now, now}).Error
	})
}

// SignedIn tells who shows a token, and by which sign-in; ErrNoPerson where nobody does.
func (s *Store) SignedIn(ctx context.Context, token string) (p people.Person, id string, err error) {
	var row struct {
		SignIn signInRow `gorm:"embedded;embeddedPrefix:s_"`
		Person personRow `gorm:"embedded;embeddedPrefix:p_"`
	}
	now := s.Now().UTC()
	err = s.db.WithContext(ctx).Raw(`SELECT s.id AS s_id, s.seen AS s_seen, p.id AS p_id, p.name AS p_name, p.mail AS p_mail, p.role AS p_role
		FROM signins s JOIN people p ON p.id = s.person WHERE s.hash = ? AND s.seen > ?`, hashOf(token), now.Add(-signInLasts)).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return people.Person{}, "", ErrNoPerson
	} else if err != nil {
		return people.Person{}, "", err
	}
	if now.Sub(row.SignIn.Seen) > seenEvery {
		err = s.transaction(ctx, func(tx *gorm.DB) error {
			return tx.Model(&signInRow{}).Where("id = ?", row.SignIn.ID).Update("seen", now).Error
		})
	}
	return row.Person.person(), row.SignIn.ID, err
}

// SignIns gives the browsers in which somebody is signed in, the one used last first.
func (s *Store) SignIns(ctx context.Context, person string) ([]SignIn, error) {
	var rows []signInRow
	if err := s.db.WithContext(ctx).Where("person = ? AND seen > ?", person, s.Now().UTC().Add(-signInLasts)).Order("seen DESC, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]SignIn, len(rows))
	for i, r := range rows {
		all[i] = SignIn{r.ID, r.Device, r.Since.UTC(), r.Seen.UTC()}
	}
	return all, nil
}

// SignOut ends one sign-in of somebody, or all where the id is empty.
func (s *Store) SignOut(ctx context.Context, person, id string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		which := tx.Where("person = ?", person)
		if id != "" {
			which = which.Where("id = ?", id)
		}
		return which.Delete(&signInRow{}).Error
	})
}

// Ticket lets whoever has it do one thing once: make an account, or set a new password.
type Ticket struct {
	Sort TicketSort
	Mail string
	Role people.Role // of an invitation
}

// TicketSort is what a ticket is for.
type TicketSort string

// The sorts of tickets, and for how long each lasts.
const (
	TicketInvitation TicketSort = "invitation"
	TicketPassword   TicketSort = "password"

	invitationLasts = 14 * 24 * time.Hour
	passwordLasts   = time.Hour
)

// ErrNoTicket tells that a link to make an account or to set a password was used, or is too old.
var ErrNoTicket = errors.New("there is no such ticket")

type ticketRow struct {
	Hash  []byte `gorm:"primaryKey"`
	Sort  TicketSort
	Mail  string
	Role  people.Role
	Until time.Time
}

func (ticketRow) TableName() string { return "tickets" }

// AddTicket makes a ticket; an earlier one of the same sort for the same address ends.
func (s *Store) AddTicket(ctx context.Context, t Ticket) (token string, err error) {
	token = rand.Text()
	lasts := invitationLasts
	if t.Sort == TicketPassword {
		lasts = passwordLasts
	}
	return token, s.transaction(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("(sort = ? AND mail = ?) OR until < ?", t.Sort, t.Mail, s.Now().UTC()).Delete(&ticketRow{}).Error; err != nil {
			return err
		}
		return tx.Create(&ticketRow{hashOf(token), t.Sort, t.Mail, t.Role, s.Now().UTC().Add(lasts)}).Error
	})
}

// TicketOf gives the ticket of a token.
func (s *Store) TicketOf(ctx context.Context, token string) (Ticket, error) {
	var row ticketRow
	err := s.db.WithContext(ctx).Take(&row, "hash = ? AND until > ?", hashOf(token), s.Now().UTC()).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Ticket{}, ErrNoTicket
	}
	return Ticket{row.Sort, row.Mail, row.Role}, err
}

// UseTicket ends a ticket: of two who use it at once, the second is refused.
func (s *Store) UseTicket(ctx context.Context, token string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Where("hash = ?", hashOf(token)).Delete(&ticketRow{}), ErrNoTicket)
	})
}

package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// ErrNoPerson tells that nobody of that id or mail address has an account.
var ErrNoPerson = errors.New("there is no such person")

type personRow struct {
	ID     string `gorm:"primaryKey"`
	Name   string
	Mail   string
	Secret string // the password, as argon2id made it
	Role   people.Role
	Since  time.Time
}

func (personRow) TableName() string { return "people" }

func (r personRow) person() people.Person {
	return people.Person{ID: r.ID, Name: r.Name, Mail: r.Mail, Role: r.Role}
}

// AddPerson keeps somebody with their password as it is kept. A mail address that has an account is refused.
func (s *Store) AddPerson(ctx context.Context, p people.Person, secret string) error {
	s.writing.Lock()
	defer s.writing.Unlock()
	err := s.db.WithContext(ctx).Create(&personRow{p.ID, p.Name, p.Mail, secret, p.Role, s.Now().UTC()}).Error
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return cm.Refusef("There is an account of this address already.")
	}
	return err
}

// People gives all who have accounts, by their names.
func (s *Store) People(ctx context.Context) ([]people.Person, error) {
	var rows []personRow
	if err := s.db.WithContext(ctx).Order("name, id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading people: %w", err)
	}
	all := make([]people.Person, len(rows))
	for i, r := range rows {
		all[i] = r.person()
	}
	return all, nil
}

// CountPeople gives how many have accounts.
func (s *Store) CountPeople(ctx context.Context) (int, error) { return s.count(ctx, &personRow{}) }

// CountMaps gives how many maps are not in the bin, CountEntries how many entries all logs have.
func (s *Store) CountMaps(ctx context.Context) (int, error) {
	return s.count(ctx, &mapRow{}, "deleted IS NULL")
}

func (s *Store) CountEntries(ctx context.Context) (int, error) { return s.count(ctx, &entryRow{}) }

func (s *Store) count(ctx context.Context, of any, where ...any) (int, error) {
	db := s.db.WithContext(ctx).Model(of)
	if len(where) > 0 {
		db = db.Where(where[0], where[1:]...)
	}
	var n int64
	err := db.Count(&n).Error
	return int(n), err
}

// HasPeople tells whether anybody has an account.
func (s *Store) HasPeople(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&personRow{}).Limit(1).Count(&n).Error
	return n > 0, err
}

// Person gives somebody by their id, with their password as it is kept.
func (s *Store) Person(ctx context.Context, id string) (people.Person, string, error) {
	return s.personBy(ctx, "id = ?", id)
}

// PersonOf gives somebody by their mail address.
func (s *Store) PersonOf(ctx context.Context, mail string) (people.Person, string, error) {
	return s.personBy(ctx, "mail = ?", mail)
}

func (s *Store) personBy(ctx context.Context, where, value string) (people.Person, string, error) {
	var row personRow
	err := s.db.WithContext(ctx).Take(&row, where, value).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return people.Person{}, "", ErrNoPerson
	}
	return row.person(), row.Secret, err
}

// PersonByIdentity gives somebody by who they are at a school's identity.
func (s *Store) PersonByIdentity(ctx context.Context, issuer, subject string) (people.Person, error) {
	var row personRow
	err := s.db.WithContext(ctx).Where("id = (SELECT person FROM identities WHERE issuer = ? AND subject = ?)", issuer, subject).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return people.Person{}, ErrNoPerson
	}
	return row.person(), err
}

// AddIdentity keeps who somebody is at a school's identity.
func (s *Store) AddIdentity(ctx context.Context, issuer, subject, person string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return tx.Exec("INSERT INTO identities (issuer, subject, person) VALUES (?, ?, ?)", issuer, subject, person).Error
	})
}

// AlterPerson keeps another name and role of somebody. The last owner cannot cease to be one.
func (s *Store) AlterPerson(ctx context.Context, p people.Person) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.one(tx.Model(&personRow{}).Where("id = ?", p.ID).Updates(map[string]any{"name": p.Name, "role": p.Role}), ErrNoPerson); err != nil {
			return err
		}
		return owned(tx)
	})
}

// owned refuses what leaves nobody who owns the whole.
func owned(tx *gorm.DB) error {
	var n int64
	if err := tx.Model(&personRow{}).Where("role = ?", people.RoleOwner).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return cm.Refusef("Somebody has to be the owner. Make somebody else one first.")
	}
	return nil
}

// SetSecret keeps another password of somebody, and ends all their sign-ins but one; empty for none.
func (s *Store) SetSecret(ctx context.Context, id, secret, but string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.one(tx.Model(&personRow{}).Where("id = ?", id).Update("secret", secret), ErrNoPerson); err != nil {
			return err
		}
		return tx.Where("person = ? AND id <> ?", id, but).Delete(&signInRow{}).Error
	})
}

// Commented gives the maps on which somebody said something.
func (s *Store) Commented(ctx context.Context) (ids []cm.ID, err error) {
	err = s.db.WithContext(ctx).Model(&entityRow{}).Where("entity IN ?", []cm.Entity{cm.EntityComment, cm.EntityJudgement}).Distinct("map_id").Pluck("map_id", &ids).Error
	return ids, err
}

// RemovePerson takes an account away. Their maps go to somebody else; what they said on maps of others
// stays without their name.
func (s *Store) RemovePerson(ctx context.Context, id, heir string) error {
	if id == heir {
		return cm.Refusef("Say who takes over the maps.")
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		// Nobody goes on with sheets of theirs.
		if err := tx.Model(&mapRow{}).Where("owner = ? AND suggests <> '' AND deleted IS NULL", id).Update("deleted", s.Now().UTC()).Error; err != nil {
			return err
		}
		if err := tx.Exec("UPDATE maps SET owner = ? WHERE owner = ?", heir, id).Error; err != nil {
			return err
		}
		if err := tx.Exec("UPDATE folders SET owner = ? WHERE owner = ?", heir, id).Error; err != nil {
			return err
		}
		if err := tx.Exec("DELETE FROM folder_shares WHERE person = ? AND folder IN (SELECT id FROM folders WHERE owner = ?)", heir, heir).Error; err != nil {
			return err
		}
		// What is one's own needs no share.
		if err := tx.Exec("DELETE FROM shares WHERE person = ? AND map_id IN (SELECT id FROM maps WHERE owner = ?)", heir, heir).Error; err != nil {
			return err
		}
		if err := s.one(tx.Where("id = ?", id).Delete(&personRow{}), ErrNoPerson); err != nil {
			return err
		}
		return owned(tx)
	})
}

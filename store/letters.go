package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// Letter is mail that was to be sent.
type Letter struct {
	ID        int64
	Recipient string
	Subject   string
	Body      string
	Made      time.Time
}

// TableName is where letters are.
func (Letter) TableName() string { return "letters" }

// maxLetters bounds how many letters are kept; the oldest go first.
const maxLetters = 500

// AddLetter keeps a letter.
func (s *Store) AddLetter(ctx context.Context, l Letter) error {
	l.Made = s.Now().UTC()
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := tx.Create(&l).Error; err != nil {
			return err
		}
		return tx.Where("id <= ?", l.ID-maxLetters).Delete(&Letter{}).Error
	})
}

// Letters gives the letters that are kept, the newest first.
func (s *Store) Letters(ctx context.Context) (all []Letter, err error) {
	return all, s.db.WithContext(ctx).Order("id DESC").Find(&all).Error
}

// Deed is a line of the record of what concerns people's access and their data.
type Deed struct {
	ID     int64
	At     time.Time
	Person string // who did it, by their id; empty where nobody is known
	Deed   string // signed-in, failed, invited, joined, altered, removed, shared, unshared …
	About  string // whom or what it concerns
}

// TableName is where deeds are.
func (Deed) TableName() string { return "audit" }

// maxDeeds bounds how many lines are kept.
const maxDeeds = 20_000

// Record writes a line.
func (s *Store) Record(ctx context.Context, d Deed) error {
	d.At = s.Now().UTC()
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := tx.Create(&d).Error; err != nil {
			return err
		}
		return tx.Where("id <= ?", d.ID-maxDeeds).Delete(&Deed{}).Error
	})
}

// Deeds gives the newest lines.
func (s *Store) Deeds(ctx context.Context, most int) (all []Deed, err error) {
	return all, s.db.WithContext(ctx).Order("id DESC").Limit(most).Find(&all).Error
}

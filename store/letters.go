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
	Sent      *time.Time // nil where it waits, or nothing sends letters here
	Tries     int
	Fault     string // why it was not sent the last time
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

// The bounds of sending: how often a letter is tried, and how old it may be.
const (
	maxTries  = 8
	maxWaited = 2 * 24 * time.Hour
)

// Unsent gives the letters that wait to be sent, the oldest first.
func (s *Store) Unsent(ctx context.Context) (all []Letter, err error) {
	return all, s.db.WithContext(ctx).Where("sent IS NULL AND tries < ? AND made > ?", maxTries, s.Now().UTC().Add(-maxWaited)).Order("id").Limit(50).Find(&all).Error
}

// Posted keeps that a letter was sent, or why it was not.
func (s *Store) Posted(ctx context.Context, id int64, fault string) error {
	with := map[string]any{"tries": gorm.Expr("tries + 1"), "fault": fault}
	if fault == "" {
		with["sent"] = s.Now().UTC()
	}
	return s.transaction(ctx, func(tx *gorm.DB) error { return tx.Model(&Letter{}).Where("id = ?", id).Updates(with).Error })
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

package store

import (
	"context"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
)

// Trial is whose maps are that somebody tries things on who has no account, and their sheets of other maps.
const Trial = "trial"

// MaxTrials bounds how many of them there are, DaysOfTrial how long one is left alone that nobody works on.
const (
	MaxTrials   = 500
	DaysOfTrial = 7
)

// CountGuestSheets gives how many sheets of a map there are of those who have no account, and how many of all maps.
func (s *Store) CountGuestSheets(ctx context.Context, of cm.ID) (here, all int, err error) {
	if here, err = s.count(ctx, &mapRow{}, "suggests = ? AND owner = ?", of, Trial); err == nil {
		all, err = s.count(ctx, &mapRow{}, "suggests <> '' AND owner = ?", Trial)
	}
	return here, all, err
}

// CountTrials gives how many maps there are on which somebody tries things.
func (s *Store) CountTrials(ctx context.Context) (int, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&mapRow{}).Where("owner = ? AND suggests = ''", Trial).Count(&n).Error
	return int(n), err
}

// IsTrial tells whether a map is one of them.
func (s *Store) IsTrial(ctx context.Context, id cm.ID) (bool, error) {
	n, err := s.count(ctx, &mapRow{}, "id = ? AND owner = ?", id, Trial)
	return n > 0, err
}

// Claim gives such a map to somebody; links to it are closed. ErrNoMap where it is none.
func (s *Store) Claim(ctx context.Context, id cm.ID, person string) error {
	now := s.Now().UTC()
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.one(tx.Model(&mapRow{}).Where("id = ? AND owner = ? AND suggests = '' AND deleted IS NULL", id, Trial).Update("owner", person), ErrNoMap); err != nil {
			return err
		}
		return tx.Model(&grantRow{}).Where("map_id = ? AND revoked IS NULL", id).Update("revoked", &now).Error
	})
}

// EndTrials deletes those on which nobody worked since a time.
func (s *Store) EndTrials(ctx context.Context, before time.Time) error {
	var ids []cm.ID
	err := s.db.WithContext(ctx).Model(&mapRow{}).Where("owner = ? AND changed < ? AND (deleted IS NULL OR deleted <> ?)", Trial, before.UTC(), unfinished).Pluck("id", &ids).Error
	for _, id := range ids {
		if err == nil {
			_ = s.All().Discard(ctx, id) // it may be there already
			err = s.All().Destroy(ctx, id)
		}
	}
	return err
}

package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
)

type walkedRow struct {
	MapID    cm.ID  `gorm:"primaryKey"`
	Person   string `gorm:"primaryKey"`
	Route    cm.ID  `gorm:"primaryKey"`
	Revision int
	At       time.Time
}

func (walkedRow) TableName() string { return "walked" }

// Walked gives at which revision of a map, and when, a person went along one of its routes last;
// known is false where they never did.
func (s *Reach) Walked(ctx context.Context, id cm.ID, person string, route cm.ID) (revision int, at time.Time, known bool, err error) {
	if err := s.reaches(id); err != nil {
		return 0, at, false, err
	}
	var row walkedRow
	err = s.db.WithContext(ctx).Take(&row, "map_id = ? AND person = ? AND route = ?", id, person, route).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return 0, at, false, nil
	}
	if err != nil {
		return 0, at, false, fmt.Errorf("reading when %s walked route %s of map %s: %w", person, route, id, err)
	}
	return row.Revision, row.At, true, nil
}

// SetWalked keeps that a person goes along a route of a map as it is at a revision.
func (s *Reach) SetWalked(ctx context.Context, id cm.ID, person string, route cm.ID, revision int) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&walkedRow{id, person, route, revision, s.Now().UTC()}).Error
	if errors.Is(err, gorm.ErrForeignKeyViolated) {
		return ErrNoMap
	}
	return err
}

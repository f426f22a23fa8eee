package store

import (
	"context"
	"errors"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
)

// A sheet is a copy of a map on which somebody does what they would alter on it. It is theirs, and
// stands in no list.

// MakeSheet says that a map of somebody's own is a sheet of another one.
func (s *Reach) MakeSheet(ctx context.Context, sheet, of cm.ID) error {
	if err := s.reaches(sheet); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&mapRow{}).Where("id = ? AND owner = ?", sheet, s.me()).Update("suggests", of), ErrNoMap)
	})
}

// SheetOf gives one's own sheet of a map; empty where there is none.
func (s *Reach) SheetOf(ctx context.Context, of cm.ID) (cm.ID, error) {
	var row mapRow
	err := s.db.WithContext(ctx).Select("id").Where("suggests = ? AND owner = ? AND deleted IS NULL", of, s.me()).Order("created").Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return "", nil
	}
	return row.ID, err
}

// Suggests gives the map of which another one is a sheet; empty where it is none.
func (s *Reach) Suggests(ctx context.Context, sheet cm.ID) (cm.ID, error) {
	if err := s.reaches(sheet); err != nil {
		return "", err
	}
	var row mapRow
	err := s.db.WithContext(ctx).Select("suggests").Take(&row, "id = ?", sheet).Error
	return row.Suggests, err
}

package store

import (
	"context"
	"errors"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
)

// TuckedBy gives which branches of a map a person has tucked away; ok is false
// where they never tucked any, and see the map as its author opens it.
func (s *Reach) TuckedBy(ctx context.Context, id cm.ID, person string) (tucked string, ok bool, err error) {
	if err := s.reaches(id); err != nil {
		return "", false, err
	}
	var row viewRow
	err = s.db.WithContext(ctx).Take(&row, "map_id = ? AND person = ?", id, person).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return "", false, nil
	} else if err != nil {
		return "", false, fmt.Errorf("reading how %s sees map %s: %w", person, id, err)
	}
	return row.Tucked, true, nil
}

// SetTucked keeps which branches of a map a person has tucked away.
func (s *Reach) SetTucked(ctx context.Context, id cm.ID, person, tucked string) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&viewRow{id, person, tucked}).Error
	if errors.Is(err, gorm.ErrForeignKeyViolated) {
		return ErrNoMap
	} else if err != nil {
		return fmt.Errorf("keeping how %s sees map %s: %w", person, id, err)
	}
	return nil
}

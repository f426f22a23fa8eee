package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
)

type understoodRow struct {
	MapID  cm.ID  `gorm:"primaryKey"`
	Person string `gorm:"primaryKey"`
	Marks  string
}

func (understoodRow) TableName() string { return "understood" }

// Understood gives which concepts of a map a person marked for themselves: true for clear, false
// for unclear.
func (s *Reach) Understood(ctx context.Context, id cm.ID, person string) (map[cm.ID]bool, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var row understoodRow
	marks := map[cm.ID]bool{}
	err := s.db.WithContext(ctx).Take(&row, "map_id = ? AND person = ?", id, person).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return marks, nil
	}
	if err == nil {
		err = json.Unmarshal([]byte(row.Marks), &marks)
	}
	if err != nil {
		return nil, fmt.Errorf("reading what %s understands of map %s: %w", person, id, err)
	}
	return marks, nil
}

// SetUnderstood keeps how a person marked one concept; nil takes the mark away. Marks of what is
// not among known any more go.
func (s *Reach) SetUnderstood(ctx context.Context, id cm.ID, person string, concept cm.ID, clear *bool, known func(cm.ID) bool) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	marks, err := s.Understood(ctx, id, person)
	if err != nil {
		return err
	}
	if delete(marks, concept); clear != nil {
		marks[concept] = *clear
	}
	for c := range marks {
		if !known(c) {
			delete(marks, c)
		}
	}
	raw, err := json.Marshal(marks)
	if err != nil {
		return err
	}
	err = s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&understoodRow{id, person, string(raw)}).Error
	if errors.Is(err, gorm.ErrForeignKeyViolated) {
		return ErrNoMap
	}
	return err
}

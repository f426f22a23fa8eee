package store

import (
	"context"

	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// OwnLook is a look that an author keeps under a name, to use on any map.
type OwnLook struct {
	Name string
	Look cm.Look
}

type lookRow struct {
	Author string `gorm:"primaryKey"`
	Folded string `gorm:"primaryKey"` // the name, as it is compared
	Name   string
	Look   cm.Look `gorm:"serializer:json"`
}

func (lookRow) TableName() string { return "looks" }

// MaxLooks bounds the looks of one author.
const MaxLooks = 60

// KeepLook keeps a look under a name; one of that name is replaced.
func (s *Reach) KeepLook(ctx context.Context, author string, own OwnLook) error {
	if !s.scope.All {
		return ErrNoMap
	}
	name, err := cm.Clean(own.Name, cm.MaxKindName, "The name of a look")
	if err != nil {
		return err
	}
	if name == "" {
		return cm.Refusef("Give the look a name to keep it.")
	}
	db := s.db.WithContext(ctx)
	var count int64
	if err := db.Model(&lookRow{}).Where("author = ? AND folded <> ?", author, likeness.Fold(name)).Count(&count).Error; err != nil {
		return err
	}
	if count >= MaxLooks {
		return cm.Refusef("At most %d looks are kept. Forget some first.", MaxLooks)
	}
	row := lookRow{author, likeness.Fold(name), name, own.Look}
	return db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error
}

// OwnLooks gives the looks of an author, by their names.
func (s *Reach) OwnLooks(ctx context.Context, author string) ([]OwnLook, error) {
	if !s.scope.All {
		return nil, ErrNoMap
	}
	var rows []lookRow
	if err := s.db.WithContext(ctx).Where("author = ?", author).Order("folded").Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]OwnLook, len(rows))
	for i, row := range rows {
		all[i] = OwnLook{row.Name, row.Look}
	}
	return all, nil
}

// DropLook forgets a look.
func (s *Reach) DropLook(ctx context.Context, author, name string) error {
	if !s.scope.All {
		return ErrNoMap
	}
	return s.db.WithContext(ctx).Where("author = ? AND folded = ?", author, likeness.Fold(name)).Delete(&lookRow{}).Error
}

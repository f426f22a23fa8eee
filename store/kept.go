package store

import (
	"context"
	"encoding/json"

	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// KeptSort is a sort of thing that an author keeps for other maps.
type KeptSort string

// The sorts of what is kept.
const (
	KeptLook   KeptSort = "look"
	KeptBrief  KeptSort = "brief"
	KeptRubric KeptSort = "rubric"
	KeptRules  KeptSort = "rules" // one of each author, without a name
)

// KeptThing is something that an author keeps under a name, to use on any map.
type KeptThing struct {
	Name string
	Body json.RawMessage
}

type keptRow struct {
	Author string   `gorm:"primaryKey"`
	Sort   KeptSort `gorm:"primaryKey"`
	Folded string   `gorm:"primaryKey"` // the name, as it is compared
	Name   string
	Body   string
}

func (keptRow) TableName() string { return "kept" }

// MaxKept bounds the things of one sort that one author keeps, MaxKeptBytes each of them.
const (
	MaxKept      = 60
	MaxKeptBytes = 500_000
)

// Keep keeps something under a name; what was kept under it is replaced.
func (s *Reach) Keep(ctx context.Context, author string, sort KeptSort, name string, thing any) error {
	if !s.keeps(author) {
		return ErrNoMap
	}
	name, err := cm.Clean(name, cm.MaxKindName, "The name")
	if err != nil {
		return err
	}
	if name == "" && sort != KeptRules {
		return cm.Refusef("Give it a name to keep it.")
	}
	body, err := json.Marshal(thing)
	if err != nil {
		return err
	}
	if len(body) > MaxKeptBytes {
		return cm.Refusef("That is too much to be kept.")
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	db := s.db.WithContext(ctx)
	var count int64
	if err := db.Model(&keptRow{}).Where("author = ? AND sort = ? AND folded <> ?", author, sort, likeness.Fold(name)).Count(&count).Error; err != nil {
		return err
	}
	if count >= MaxKept {
		return cm.Refusef("At most %d are kept. Forget some first.", MaxKept)
	}
	return db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&keptRow{author, sort, likeness.Fold(name), name, string(body)}).Error
}

// Kept gives what an author keeps of a sort, by the names.
func (s *Reach) Kept(ctx context.Context, author string, sort KeptSort) ([]KeptThing, error) {
	if !s.keeps(author) {
		return nil, ErrNoMap
	}
	var rows []keptRow
	if err := s.db.WithContext(ctx).Where("author = ? AND sort = ?", author, sort).Order("folded").Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]KeptThing, len(rows))
	for i, row := range rows {
		all[i] = KeptThing{row.Name, json.RawMessage(row.Body)}
	}
	return all, nil
}

// Drop forgets something.
func (s *Reach) Drop(ctx context.Context, author string, sort KeptSort, name string) error {
	if !s.keeps(author) {
		return ErrNoMap
	}
	s.writing.Lock()
	defer s.writing.Unlock()
	return s.db.WithContext(ctx).Where("author = ? AND sort = ? AND folded = ?", author, sort, likeness.Fold(name)).Delete(&keptRow{}).Error
}

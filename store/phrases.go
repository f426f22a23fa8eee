package store

import (
	"context"
	"fmt"

	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
	"mevrin/core/phrases"
)

// OwnPhrases gives what an author changed about the phrase bank, in the order
// in which it was done.
func (s *Reach) OwnPhrases(ctx context.Context, author string) ([]phrases.Own, error) {
	if !s.keeps(author) {
		return nil, ErrNoMap
	}
	var rows []bankRow
	if err := s.db.WithContext(ctx).Where("author = ?", author).Order("changed, group_id, folded").Limit(phrases.MaxOwn).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading phrases: %w", err)
	}
	own := make([]phrases.Own, len(rows))
	for i, r := range rows {
		own[i] = phrases.Own{Group: r.GroupID, Words: r.Words, Removed: r.Removed}
	}
	return own, nil
}

// SetPhrase keeps a change of an author's phrase bank; the same phrase, whatever
// its case, is kept once in a group.
func (s *Reach) SetPhrase(ctx context.Context, author string, own phrases.Own) error {
	if !s.keeps(author) {
		return ErrNoMap
	}
	db := s.db.WithContext(ctx)
	var count int64
	if err := db.Model(&bankRow{}).Where("author = ?", author).Count(&count).Error; err != nil {
		return err
	}
	if count >= phrases.MaxOwn {
		return cm.Refusef("Your phrase bank is full. Take some phrases out first.")
	}
	row := bankRow{Author: author, GroupID: own.Group, Folded: likeness.Fold(own.Words), Words: own.Words, Removed: own.Removed, Changed: s.Now().UTC()}
	if err := db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error; err != nil {
		return fmt.Errorf("keeping a phrase: %w", err)
	}
	return nil
}

// ResetPhrases makes a group of an author's phrase bank as shipped again.
func (s *Reach) ResetPhrases(ctx context.Context, author, group string) error {
	if !s.keeps(author) {
		return ErrNoMap
	}
	return s.db.WithContext(ctx).Where("author = ? AND group_id = ?", author, group).Delete(&bankRow{}).Error
}

// maxElsewhere bounds the phrases taken from other maps.
const maxElsewhere = 300

// PhrasesElsewhere gives the phrases of all other maps, the most used first.
func (s *Reach) PhrasesElsewhere(ctx context.Context, but cm.ID) ([]string, error) {
	if err := s.reaches(but); err != nil {
		return nil, err
	}
	var rows []struct {
		Phrase   cm.Text `gorm:"serializer:json"`
		Language cm.Lang
	}
	phrase := s.member("entities.body", "phrase")
	err := s.within(s.db.WithContext(ctx).Model(&entityRow{}), "maps.id").
		Select(phrase+" AS phrase, "+s.member("maps.head", "language")+" AS language").
		Joins("JOIN maps ON maps.id = entities.map_id AND maps.deleted IS NULL").
		Where("entities.map_id <> ? AND entities.entity = ? AND "+phrase+" IS NOT NULL", but, cm.EntityLink).
		Group("phrase, language").Order("count(*) DESC, phrase").Limit(maxElsewhere).Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading phrases: %w", err)
	}
	var all []string
	for _, r := range rows {
		if words := r.Phrase.For(r.Language); words != "" {
			all = append(all, words)
		}
	}
	return all, nil
}

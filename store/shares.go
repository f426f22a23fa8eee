package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// Share says what somebody may do with a map that is not theirs.
type Share struct {
	Person people.Person
	Allows people.Right
	Since  time.Time
}

type shareRow struct {
	MapID  cm.ID  `gorm:"primaryKey"`
	Person string `gorm:"primaryKey"`
	Allows people.Right
	Since  time.Time
}

func (shareRow) TableName() string { return "shares" }

// RightOn gives what somebody may do with a map, wherever it is: everything with their own. It is RightNone
// where they may do nothing, and where there is no such map.
func (s *Store) RightOn(ctx context.Context, person string, id cm.ID) (people.Right, error) {
	var allows people.Right
	err := s.db.WithContext(ctx).Raw(`SELECT CASE WHEN m.owner = @person THEN 'own' ELSE coalesce(s.allows, '') END
		FROM maps m LEFT JOIN shares s ON s.map_id = m.id AND s.person = @person WHERE m.id = @id`, map[string]any{"person": person, "id": id}).Scan(&allows).Error
	return allows, err
}

// OwnerOf gives whose a map is.
func (s *Reach) OwnerOf(ctx context.Context, id cm.ID) (people.Person, error) {
	if err := s.reaches(id); err != nil {
		return people.Person{}, err
	}
	var row personRow
	err := s.db.WithContext(ctx).Where("id = (SELECT owner FROM maps WHERE id = ?)", id).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return people.Person{}, nil // nobody has an account
	}
	return row.person(), err
}

// Shares gives with whom a map is shared, by their names.
func (s *Reach) Shares(ctx context.Context, id cm.ID) ([]Share, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var rows []struct {
		Share  shareRow  `gorm:"embedded;embeddedPrefix:s_"`
		Person personRow `gorm:"embedded;embeddedPrefix:p_"`
	}
	err := s.db.WithContext(ctx).Raw(`SELECT s.allows AS s_allows, s.since AS s_since, p.id AS p_id, p.name AS p_name, p.mail AS p_mail, p.role AS p_role
		FROM shares s JOIN people p ON p.id = s.person WHERE s.map_id = ? ORDER BY p.name, p.id`, id).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading with whom map %s is shared: %w", id, err)
	}
	all := make([]Share, len(rows))
	for i, r := range rows {
		all[i] = Share{r.Person.person(), r.Share.Allows, r.Share.Since.UTC()}
	}
	return all, nil
}

// ShareWith lets somebody do something with a map, instead of what they might before; RightNone takes it
// away. Whose the map is needs no share.
func (s *Reach) ShareWith(ctx context.Context, id cm.ID, person string, allows people.Right) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if allows == people.RightNone {
			return tx.Where("map_id = ? AND person = ?", id, person).Delete(&shareRow{}).Error
		}
		var owns int64
		if err := tx.Model(&mapRow{}).Where("id = ? AND owner = ?", id, person).Count(&owns).Error; err != nil {
			return err
		}
		if owns > 0 {
			return cm.Refusef("The map is theirs already.")
		}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "map_id"}, {Name: "person"}}, DoUpdates: clause.AssignmentColumns([]string{"allows"})}).
			Create(&shareRow{id, person, allows, s.Now().UTC()}).Error
	})
}

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
	Folder string // the name of the folder by which they have it; empty where it is by itself
}

type shareRow struct {
	MapID  cm.ID  `gorm:"primaryKey"`
	Person string `gorm:"primaryKey"`
	Allows people.Right
	Since  time.Time
}

func (shareRow) TableName() string { return "shares" }

// upwards are the folders in which a map is, each in the next.
const upwards = `WITH RECURSIVE up(id) AS (SELECT folder FROM maps WHERE id = @id AND folder <> '' UNION SELECT f.parent FROM folders f JOIN up ON f.id = up.id WHERE f.parent <> '')`

// RightOn gives what somebody may do with a map, wherever it is: everything with their own, and otherwise the
// most of what it, the folders in which it is, and that it is open to all allow. It is RightNone where they
// may do nothing, and where there is no such map.
func (s *Store) RightOn(ctx context.Context, person string, id cm.ID) (people.Right, error) {
	var all []people.Right
	err := s.db.WithContext(ctx).Raw(upwards+` SELECT 'own' FROM maps WHERE id = @id AND owner = @person AND owner <> ''
		UNION SELECT open FROM maps WHERE id = @id AND deleted IS NULL UNION SELECT allows FROM shares WHERE map_id = @id AND person = @person
		UNION SELECT allows FROM folder_shares WHERE person = @person AND folder IN (SELECT id FROM up)`, map[string]any{"person": person, "id": id}).Scan(&all).Error
	most := people.RightNone
	for _, r := range all {
		most = people.Greater(most, r)
	}
	return most, err
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

// Shares gives with whom a map is shared by itself, by their names.
func (s *Reach) Shares(ctx context.Context, id cm.ID) ([]Share, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	return s.sharesOf(ctx, "shares", "map_id", string(id))
}

func (s *Reach) sharesOf(ctx context.Context, table, of, id string) ([]Share, error) {
	var rows []struct {
		Allows people.Right
		Since  time.Time
		Person personRow `gorm:"embedded;embeddedPrefix:p_"`
	}
	err := s.db.WithContext(ctx).Raw(`SELECT s.allows, s.since, p.id AS p_id, p.name AS p_name, p.mail AS p_mail, p.role AS p_role
		FROM `+table+` s JOIN people p ON p.id = s.person WHERE s.`+of+` = ? ORDER BY p.name, p.id`, id).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading with whom %s is shared: %w", id, err)
	}
	all := make([]Share, len(rows))
	for i, r := range rows {
		all[i] = Share{Person: r.Person.person(), Allows: r.Allows, Since: r.Since.UTC()}
	}
	return all, nil
}

// FolderSharesOf gives with whom the folders are shared in which a map is, by folder and name, so that it is
// seen why somebody has access who has none by itself.
func (s *Reach) FolderSharesOf(ctx context.Context, id cm.ID) (all []Share, err error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var folders []folderRow
	if err := s.db.WithContext(ctx).Raw(upwards+` SELECT f.* FROM folders f JOIN up ON f.id = up.id ORDER BY f.name`, map[string]any{"id": id}).Scan(&folders).Error; err != nil {
		return nil, err
	}
	for _, f := range folders {
		some, err := s.sharesOf(ctx, "folder_shares", "folder", f.ID)
		if err != nil {
			return nil, err
		}
		for _, one := range some {
			one.Folder = f.Name
			all = append(all, one)
		}
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

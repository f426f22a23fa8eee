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

// ErrNoFolder tells that there is no such folder, or none that somebody may see.
var ErrNoFolder = errors.New("there is no such folder")

// Folder holds maps of one person, and other folders of theirs. It has nothing to do with where on a disk
// anything lies.
type Folder struct {
	ID     string
	Owner  string
	Parent string // the folder in which it is; empty for none
	Name   string
	// Maps is how many maps are in it, not counting those in the bin; Folders how many folders.
	Maps, Folders int
	// Allows is what whoever asks may do with all that is in it, OwnedBy the name of whose it is where it is
	// not theirs.
	Allows  people.Right
	OwnedBy string
}

type folderRow struct {
	ID      string `gorm:"primaryKey"`
	Owner   string
	Parent  string
	Name    string
	Created time.Time
}

func (folderRow) TableName() string { return "folders" }

type folderShareRow struct {
	Folder string `gorm:"primaryKey"`
	Person string `gorm:"primaryKey"`
	Allows people.Right
	Since  time.Time
}

func (folderShareRow) TableName() string { return "folder_shares" }

// The bounds of folders: how deep they lie in each other, and how many somebody has.
const (
	MaxFolderDepth = 8
	MaxFolders     = 1000
)

// me is who keeps folders: the one author where nobody has an account.
func (s *Reach) me() string {
	if s.scope.Person == "" && s.scope.All {
		return people.FirstOwner
	}
	return s.scope.Person
}

// Folders gives the folders in another one, by their names; at the top, those of one's own, and, where shared
// is set, those that others shared, wherever they lie.
func (s *Reach) Folders(ctx context.Context, in string, shared bool) ([]Folder, error) {
	where, by := "f.owner = @me AND f.parent = ''", map[string]any{"me": s.me(), "in": in}
	switch {
	case in != "":
		if _, err := s.Folder(ctx, in); err != nil {
			return nil, err
		}
		where = "f.parent = @in"
	case shared:
		where = "f.id IN (SELECT folder FROM folder_shares WHERE person = @me) AND f.owner <> @me"
	}
	return s.folders(ctx, where, by)
}

// AllFolders gives all folders of one's own, by their names.
func (s *Reach) AllFolders(ctx context.Context) ([]Folder, error) {
	return s.folders(ctx, "f.owner = @me", map[string]any{"me": s.me()})
}

func (s *Reach) folders(ctx context.Context, where string, by map[string]any) ([]Folder, error) {
	var all []Folder
	err := s.db.WithContext(ctx).Raw(`SELECT f.id, f.owner, f.parent, f.name, (SELECT count(*) FROM maps WHERE folder = f.id AND deleted IS NULL) AS maps,
		(SELECT count(*) FROM folders WHERE parent = f.id) AS folders, (SELECT name FROM people WHERE id = f.owner AND id <> @me) AS owned_by
		FROM folders f WHERE `+where+` ORDER BY lower(f.name), f.id`, by).Scan(&all).Error
	if err != nil {
		return nil, fmt.Errorf("reading folders: %w", err)
	}
	return all, nil
}

// Folder gives a folder with what whoever asks may do with it; ErrNoFolder where that is nothing.
func (s *Reach) Folder(ctx context.Context, id string) (Folder, error) {
	all, err := s.folders(ctx, "f.id = @id", map[string]any{"me": s.me(), "id": id})
	if err != nil || len(all) == 0 {
		return Folder{}, errors.Join(err, ErrNoFolder)
	}
	f := all[0]
	if f.Owner == s.me() {
		f.Allows = people.RightOwn
		return f, nil
	}
	var rights []people.Right
	err = s.db.WithContext(ctx).Raw(`WITH RECURSIVE up(id) AS (SELECT @id UNION SELECT f.parent FROM folders f JOIN up ON f.id = up.id WHERE f.parent <> '')
		SELECT allows FROM folder_shares WHERE person = @me AND folder IN (SELECT id FROM up)`, map[string]any{"me": s.me(), "id": id}).Scan(&rights).Error
	for _, r := range rights {
		f.Allows = people.Greater(f.Allows, r)
	}
	if err == nil && f.Allows == people.RightNone {
		err = ErrNoFolder
	}
	return f, err
}

// Path gives the folders in which a folder is, as far as whoever asks may see them, the outermost first, and
// then the folder.
func (s *Reach) Path(ctx context.Context, id string) ([]Folder, error) {
	var path []Folder
	for id != "" && len(path) <= MaxFolderDepth {
		f, err := s.Folder(ctx, id)
		if errors.Is(err, ErrNoFolder) && len(path) > 0 {
			break // what it lies in is not shared
		} else if err != nil {
			return nil, err
		}
		path = append([]Folder{f}, path...)
		id = f.Parent
	}
	return path, nil
}

// ownFolder refuses a folder that is not one's own; none is.
func (s *Reach) ownFolder(tx *gorm.DB, id string) error {
	if id == "" {
		return nil
	}
	var n int64
	if err := tx.Model(&folderRow{}).Where("id = ? AND owner = ?", id, s.me()).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return ErrNoFolder
	}
	return nil
}

// AddFolder makes a folder of one's own in another one, or at the top.
func (s *Reach) AddFolder(ctx context.Context, id, parent, name string) error {
	if s.me() == "" {
		return ErrNoFolder
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.ownFolder(tx, parent); err != nil {
			return err
		}
		var n int64
		if err := tx.Model(&folderRow{}).Where("owner = ?", s.me()).Count(&n).Error; err != nil {
			return err
		}
		if n >= MaxFolders {
			return cm.Refusef("You have %d folders, and that is as many as there can be.", MaxFolders)
		}
		if err := tx.Create(&folderRow{id, s.me(), parent, name, s.Now().UTC()}).Error; err != nil {
			return err
		}
		return nested(tx, id)
	})
}

// nested refuses a folder that lies too deep, or in itself.
func nested(tx *gorm.DB, id string) error {
	var down, up int
	// The depth of what is in it is bounded, since it could be in itself now.
	err := tx.Raw(`WITH RECURSIVE up(id, n) AS (SELECT @id, 0 UNION SELECT f.parent, n + 1 FROM folders f JOIN up ON f.id = up.id WHERE f.parent <> '' AND n <= @most)
		SELECT max(n) FROM up`, map[string]any{"id": id, "most": MaxFolderDepth}).Scan(&up).Error
	if err == nil {
		err = tx.Raw(`WITH RECURSIVE down(id, n) AS (SELECT @id, 0 UNION SELECT f.id, n + 1 FROM folders f JOIN down ON f.parent = down.id WHERE n <= @most)
			SELECT max(n) FROM down`, map[string]any{"id": id, "most": MaxFolderDepth}).Scan(&down).Error
	}
	if err == nil && up+down >= MaxFolderDepth {
		return cm.Refusef("Folders can lie in each other %d deep, and none in itself.", MaxFolderDepth)
	}
	return err
}

// RenameFolder gives a folder of one's own another name.
func (s *Reach) RenameFolder(ctx context.Context, id, name string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&folderRow{}).Where("id = ? AND owner = ?", id, s.me()).Update("name", name), ErrNoFolder)
	})
}

// MoveFolder puts a folder of one's own into another one, or to the top.
func (s *Reach) MoveFolder(ctx context.Context, id, parent string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.ownFolder(tx, parent); err != nil {
			return err
		}
		if err := s.one(tx.Model(&folderRow{}).Where("id = ? AND owner = ?", id, s.me()).Update("parent", parent), ErrNoFolder); err != nil {
			return err
		}
		return nested(tx, id)
	})
}

// RemoveFolder takes a folder of one's own away; what was in it lies where it lay.
func (s *Reach) RemoveFolder(ctx context.Context, id string) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		var row folderRow
		if err := tx.Take(&row, "id = ? AND owner = ?", id, s.me()).Error; errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNoFolder
		} else if err != nil {
			return err
		}
		for _, table := range []any{&mapRow{}, &folderRow{}} {
			column := "folder"
			if _, is := table.(*folderRow); is {
				column = "parent"
			}
			if err := tx.Model(table).Where(column+" = ?", id).Update(column, row.Parent).Error; err != nil {
				return err
			}
		}
		return tx.Delete(&row).Error
	})
}

// File puts maps of one's own into a folder of one's own; an empty one takes them out of any.
func (s *Reach) File(ctx context.Context, folder string, ids ...cm.ID) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.ownFolder(tx, folder); err != nil {
			return err
		}
		for _, id := range ids {
			if err := s.one(tx.Model(&mapRow{}).Where("id = ? AND owner = ?", id, s.me()).Update("folder", folder), cm.Refusef("Only maps of your own can be put into a folder.")); err != nil {
				return err
			}
		}
		return nil
	})
}

// FolderShares gives with whom a folder of one's own is shared, by their names.
func (s *Reach) FolderShares(ctx context.Context, id string) ([]Share, error) {
	if f, err := s.Folder(ctx, id); err != nil {
		return nil, err
	} else if f.Owner != s.me() {
		return nil, ErrNoFolder
	}
	return s.sharesOf(ctx, "folder_shares", "folder", id)
}

// ShareFolder lets somebody do something with all that is in a folder of one's own; RightNone takes it away.
func (s *Reach) ShareFolder(ctx context.Context, id, person string, allows people.Right) error {
	if person == s.me() {
		return cm.Refusef("The folder is theirs already.")
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := s.ownFolder(tx, id); err != nil || id == "" {
			return errors.Join(err, cm.Refusef("Say which folder."))
		}
		if allows == people.RightNone {
			return tx.Where("folder = ? AND person = ?", id, person).Delete(&folderShareRow{}).Error
		}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "folder"}, {Name: "person"}}, DoUpdates: clause.AssignmentColumns([]string{"allows"})}).
			Create(&folderShareRow{id, person, allows, s.Now().UTC()}).Error
	})
}

// MapsIn gives the maps in a folder and in all folders in it.
func (s *Reach) MapsIn(ctx context.Context, folder string) (ids []cm.ID, err error) {
	err = s.db.WithContext(ctx).Raw(`WITH RECURSIVE down(id) AS (SELECT id FROM folders WHERE id = ? AND owner = ? UNION SELECT f.id FROM folders f JOIN down ON f.parent = down.id)
		SELECT id FROM maps WHERE folder IN (SELECT id FROM down)`, folder, s.me()).Scan(&ids).Error
	return ids, err
}

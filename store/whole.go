package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
)

// A map that comes or goes whole may have tens of thousands of rows. They are written
// and deleted some at a time, so that nobody else's edit waits for all of them. While
// that lasts the map is in nobody's sight: it is marked as deleted at a time that no map
// was deleted at, and what a process left so that ended meanwhile is deleted when the
// folder is opened.
var unfinished = time.Unix(0, 0).UTC()

// othersWork is how old what is unfinished has to be before it counts as left behind, where other
// processes work on the same database.
const othersWork = time.Hour

// someChanges is how many changes are written in one transaction; it takes well below
// a tenth of a second.
const someChanges = 400

// Put makes a map with all that is on it: an entry without a window, which
// nobody undoes, since it would leave nothing.
func (s *Reach) Put(ctx context.Context, m *cm.Map, author string, operations json.RawMessage) error {
	owner, err := s.makes(m.ID)
	if err != nil {
		return err
	}
	now := s.Now().UTC()
	if operations == nil {
		operations = json.RawMessage("[]")
	}
	head := mapRow{ID: m.ID, Owner: owner, Head: cm.Header{Language: m.Language}, Created: now, Changed: now, Deleted: &unfinished}
	if err := s.db.WithContext(ctx).Create(&head).Error; err != nil {
		return fmt.Errorf("making map %s: %w", m.ID, err)
	}
	changes := history.Contents(m)
	for some := range slices.Chunk(changes, someChanges) {
		var rows []statement
		if rows, err = s.prepare(some, m); err == nil {
			err = s.transaction(ctx, func(tx *gorm.DB) error { return run(tx, rows) })
		}
		if err != nil {
			break
		}
	}
	if err == nil {
		err = s.finish(context.WithoutCancel(ctx), &Entry{Revision: 1, ID: "begin", Author: author, At: now, Operations: operations, Changes: changes}, m)
	}
	if err != nil {
		return errors.Join(fmt.Errorf("making map %s: %w", m.ID, err), s.erase(context.WithoutCancel(ctx), m.ID))
	}
	return nil
}

// finish lets a map be seen that has all its rows.
func (s *Store) finish(ctx context.Context, e *Entry, m *cm.Map) error {
	row, err := s.entryStatement(e, m.ID)
	if err != nil {
		return err
	}
	return commit(func() error {
		return s.transaction(ctx, func(tx *gorm.DB) error {
			if err := tx.Model(&mapRow{}).Where("id = ?", m.ID).Update("deleted", nil).Error; err != nil || len(e.Changes) == 0 {
				return err
			}
			if err := writeHead(tx, e, m); err != nil {
				return err
			}
			return run(tx, []statement{row})
		})
	})
}

// Destroy deletes a map that is in the bin for good, its log and links too.
func (s *Reach) Destroy(ctx context.Context, id cm.ID) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	ctx = context.WithoutCancel(ctx)
	hidden := s.db.WithContext(ctx).Model(&mapRow{}).Where("id = ? AND deleted <> ?", id, unfinished).Update("deleted", &unfinished)
	if err := s.one(hidden, ErrNoMap); err != nil {
		return fmt.Errorf("deleting map %s: %w", id, err)
	}
	return s.erase(ctx, id)
}

// erase deletes an unfinished map, some rows at a time.
func (s *Store) erase(ctx context.Context, id cm.ID) error {
	db := s.db.WithContext(ctx)
	for _, t := range []struct{ table, key string }{{"words", "id"}, {"entities", "id"}, {"entries", "revision"}} {
		for more := true; more; {
			s.writing.Lock()
			done := db.Exec(fmt.Sprintf("DELETE FROM %[1]s WHERE map_id = @map AND %[2]s IN (SELECT DISTINCT %[2]s FROM %[1]s WHERE map_id = @map LIMIT %[3]d)", t.table, t.key, someChanges), map[string]any{"map": id})
			s.writing.Unlock()
			if done.Error != nil {
				return fmt.Errorf("deleting map %s: %w", id, done.Error)
			}
			more = done.RowsAffected > 0
		}
	}
	var orphans []string
	err := s.transaction(ctx, func(tx *gorm.DB) error {
		err := tx.Raw(`SELECT hash FROM files f WHERE map_id = ? AND NOT EXISTS (SELECT 1 FROM files o WHERE o.hash = f.hash AND o.map_id <> f.map_id)`, id).Scan(&orphans).Error
		if err != nil {
			return err
		}
		// Sheets of it are maps like any other now.
		if err := tx.Model(&mapRow{}).Where("suggests = ?", id).Update("suggests", "").Error; err != nil {
			return err
		}
		return tx.Delete(&mapRow{ID: id}).Error
	})
	if err != nil {
		return fmt.Errorf("deleting map %s: %w", id, err)
	}
	s.dropFiles(orphans)
	return nil
}

// eraseUnfinished deletes what a process left that ended while a map came or went.
func (s *Store) eraseUnfinished() error {
	var ids []cm.ID
	left := s.db.Model(&mapRow{}).Where("deleted = ?", unfinished)
	if s.Served() { // another process may be at it just now
		left = left.Where("changed < ?", s.Now().UTC().Add(-othersWork))
	}
	if err := left.Pluck("id", &ids).Error; err != nil {
		return err
	}
	for _, id := range ids {
		if err := s.erase(context.Background(), id); err != nil {
			return err
		}
	}
	return nil
}

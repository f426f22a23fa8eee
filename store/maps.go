package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/message"
)

// ErrNoMap tells that there is no map with that id.
var ErrNoMap = errors.New("there is no such map")

// ErrBinned tells that the map is in the bin, where it can only be restored.
var ErrBinned = errors.New("the map is in the bin")

// ErrStale tells that the map has moved on since the caller read it.
var ErrStale = errors.New("the map has moved on")

// Entry is one line of a map's log.
type Entry struct {
	Revision   int
	ID         cm.ID
	Author     string
	Window     string
	At         time.Time
	Undoes     cm.ID
	Operations json.RawMessage // as asked; for the record
	Changes    []history.Change
	Moved      []draft.Moved
	Notices    []message.Message
}

// Create makes an empty map in a language.
func (s *Reach) Create(ctx context.Context, id cm.ID, lang cm.Lang) (*cm.Map, error) {
	owner, err := s.makes(id)
	if err != nil {
		return nil, err
	}
	now := s.Now().UTC()
	row := mapRow{ID: id, Owner: owner, Head: cm.Header{Language: lang}, Created: now, Changed: now}
	if err := s.db.WithContext(ctx).Create(&row).Error; err != nil {
		return nil, fmt.Errorf("making map %s: %w", id, err)
	}
	return cm.NewMap(id, lang), nil
}

// Append writes an entry and the state that it leads to, in one transaction.
// The entry's revision must be the one after the stored; otherwise nothing is
// written and the error is ErrStale. An entry id that the map's log holds
// already is refused with gorm.ErrDuplicatedKey.
func (s *Reach) Append(ctx context.Context, e *Entry, next *cm.Map) error {
	if err := s.reaches(next.ID); err != nil {
		return err
	}
	if e.At.IsZero() {
		e.At = s.Now()
	}
	e.At = e.At.UTC()
	if e.Changes == nil {
		e.Changes = []history.Change{} // an entry that changed nothing is logged as such
	}
	rows, err := s.prepare(e.Changes, next)
	if err == nil {
		err = commit(func() error { return s.write(context.WithoutCancel(ctx), e, next, rows) })
	}
	if err != nil {
		return fmt.Errorf("writing revision %d of map %s: %w", e.Revision, next.ID, err)
	}
	return nil
}

// write writes an entry with the rows that it changes, in one transaction.
func (s *Store) write(ctx context.Context, e *Entry, next *cm.Map, rows []statement) error {
	row, err := s.entryStatement(e, next.ID)
	if err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := writeHead(tx, e, next); err != nil {
			return err
		}
		return run(tx, append([]statement{row}, rows...))
	})
}

// writeHead writes what the map says of itself, at the revision of an entry. It is
// refused with ErrStale where the map is at another one.
func writeHead(tx *gorm.DB, e *Entry, next *cm.Map) error {
	head := tx.Model(&mapRow{}).Where("id = ? AND revision = ? AND deleted IS NULL", next.ID, e.Revision-1).
		Select("Head", "Revision", "Changed").
		Updates(&mapRow{Head: next.Header, Revision: e.Revision, Changed: e.At})
	if head.Error != nil {
		return head.Error
	}
	if head.RowsAffected != 1 {
		return ErrStale
	}
	return nil
}

// Load reads a map and its revision from the rows.
func (s *Reach) Load(ctx context.Context, id cm.ID) (m *cm.Map, revision int, err error) {
	if err := s.reaches(id); err != nil {
		return nil, 0, err
	}
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		m, revision, err = load(tx, id)
		return err
	}, s.oneMoment())
	return m, revision, err
}

func load(tx *gorm.DB, id cm.ID) (*cm.Map, int, error) {
	var head mapRow
	if err := tx.Take(&head, "id = ?", id).Error; errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, 0, ErrNoMap
	} else if err != nil {
		return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
	}
	if head.Deleted != nil && head.Deleted.Equal(unfinished) {
		return nil, 0, ErrNoMap
	}
	if head.Deleted != nil {
		return nil, 0, ErrBinned
	}
	m := cm.NewMap(id, head.Head.Language)
	m.Header = head.Head
	var rows []entityRow
	if err := tx.Where("map_id = ?", id).Find(&rows).Error; err != nil {
		return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
	}
	for _, row := range rows {
		if err := row.into(m); err != nil {
			return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
		}
	}
	return m, head.Revision, nil
}

// Import makes a map by performing entries one after another, each logged as
// if its author had made it by hand.
func (s *Reach) Import(ctx context.Context, id cm.ID, lang cm.Lang, entries [][]edit.Operation) error {
	m, err := s.Create(ctx, id, lang)
	if err != nil {
		return err
	}
	for i, ops := range entries {
		out, err := edit.Apply(m, ops, nil)
		if err != nil {
			return fmt.Errorf("map %s, entry %d: %w", id, i+1, err)
		}
		raw, err := edit.MarshalOperations(ops)
		if err != nil {
			return err
		}
		e := &Entry{Revision: i + 1, ID: cm.ID(fmt.Sprintf("import%d", i+1)), Author: "author", Window: "import",
			Operations: raw, Changes: out.Changes, Moved: out.Moved, Notices: out.Notices}
		if err := s.Append(ctx, e, out.Map); err != nil {
			return err
		}
		m = out.Map
	}
	return nil
}

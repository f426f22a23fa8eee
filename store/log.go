package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
)

func (row entryRow) entry() *Entry {
	return &Entry{row.Revision, row.ID, row.Author, row.Window, row.At, row.Undoes,
		json.RawMessage(row.Operations), row.Changes, row.Moved, row.Notices}
}

// Entry looks up an entry of a map's log by its id; nil where there is none.
func (s *Reach) Entry(ctx context.Context, mapID, id cm.ID) (*Entry, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	var row entryRow
	err := s.db.WithContext(ctx).Take(&row, "map_id = ? AND id = ?", mapID, id).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	} else if err != nil {
		return nil, fmt.Errorf("reading entry %s of map %s: %w", id, mapID, err)
	}
	return row.entry(), nil
}

// Since gives the entries of a map's log after a revision, in order.
func (s *Reach) Since(ctx context.Context, mapID cm.ID, revision int) ([]*Entry, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	return s.entries(ctx, mapID, "revision > ?", revision)
}

// By gives the entries of one author, in order.
func (s *Reach) By(ctx context.Context, mapID cm.ID, author string) ([]*Entry, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	return s.entries(ctx, mapID, "author = ?", author)
}

func (s *Reach) entries(ctx context.Context, mapID cm.ID, which string, value any) ([]*Entry, error) {
	var rows []entryRow
	err := s.db.WithContext(ctx).Where("map_id = ?", mapID).Where(which, value).Order("revision").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the log of map %s: %w", mapID, err)
	}
	entries := make([]*Entry, len(rows))
	for i, r := range rows {
		entries[i] = r.entry()
	}
	return entries, nil
}

// History gives what each author of a map can undo and redo.
func (s *Reach) History(ctx context.Context, mapID cm.ID) (*history.History, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	var rows []struct {
		ID, Undoes cm.ID
		Author     string
		Idle       bool
	}
	err := s.db.WithContext(ctx).Model(&entryRow{}).Select("id", "author", "undoes", `(changes = '[]' OR "window" = '') AS idle`).Where("map_id = ?", mapID).Order("revision").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the log of map %s: %w", mapID, err)
	}
	var h history.History
	for _, r := range rows {
		h.Add(history.Step{Entry: r.ID, Author: r.Author, Undoes: r.Undoes, Idle: r.Idle})
	}
	return &h, nil
}

// At gives a map as it was at a revision, going back from its present state.
func (s *Reach) At(ctx context.Context, mapID cm.ID, revision int) (at *cm.Map, err error) {
	err = s.Past(ctx, mapID, []int{revision}, func(_ int, m *cm.Map) error {
		at = m
		return nil
	})
	return at, err
}

// goneBack is how many entries are held at once while a map is led back.
const goneBack = 500

// Past visits a map as it was at each of several revisions, which are given from the latest to the earliest: its
// log is read once.
func (s *Reach) Past(ctx context.Context, mapID cm.ID, revisions []int, visit func(revision int, m *cm.Map) error) error {
	if err := s.reaches(mapID); err != nil {
		return err
	}
	m, at, err := s.Load(ctx, mapID)
	if err != nil {
		return err
	}
	var later []*Entry // before at, the latest first
	for _, revision := range revisions {
		if revision < 0 || revision > at {
			return fmt.Errorf("map %s has no revision %d, or not in this order", mapID, revision)
		}
		for at > revision {
			if len(later) == 0 {
				if later, err = s.entriesDown(ctx, mapID, revisions[len(revisions)-1], at); err != nil {
					return err
				}
			}
			if len(later) == 0 || later[0].Revision <= revision { // what was brought in whole has no log of before
				at = revision
				break
			}
			if m, err = history.Replay(m, history.Reversed(later[0].Changes)); err != nil {
				return fmt.Errorf("going back to revision %d of map %s: %w", revision, mapID, err)
			}
			at, later = later[0].Revision-1, later[1:]
		}
		if err := visit(revision, m); err != nil {
			return err
		}
	}
	return nil
}

// entriesDown gives entries from one revision down to another, which is not among them; as many as are held at
// once.
func (s *Reach) entriesDown(ctx context.Context, mapID cm.ID, after, from int) ([]*Entry, error) {
	var rows []entryRow
	err := s.db.WithContext(ctx).Where("map_id = ? AND revision > ? AND revision <= ?", mapID, after, from).Order("revision DESC").Limit(goneBack).Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the log of map %s: %w", mapID, err)
	}
	entries := make([]*Entry, len(rows))
	for i, r := range rows {
		entries[i] = r.entry()
	}
	return entries, nil
}

// MadeBy gives what an author has put on a map, also what is gone again.
func (s *Reach) MadeBy(ctx context.Context, mapID cm.ID, author string) (map[cm.Key]bool, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	entries, err := s.By(ctx, mapID, author)
	if err != nil {
		return nil, err
	}
	made := map[cm.Key]bool{}
	for _, e := range entries {
		for _, c := range e.Changes {
			if c.Made() {
				made[c.Key] = true
			}
		}
	}
	return made, nil
}

// Author sums up what one author did on a map.
type Author struct {
	Author  string
	Entries int
	Latest  time.Time
}

// Visitors sums up what those who work under links did on a map, whoever came last
// first. Under is the beginning of their names in the log. It is asked often: where
// there never was a link the log is not looked at, and what entries hold never is.
func (s *Reach) Visitors(ctx context.Context, mapID cm.ID, under string) ([]Author, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	var rows []struct {
		Author string
		At     time.Time // of the latest
		Count  int
	}
	err := s.db.WithContext(ctx).Raw(`SELECT e.author, e.at, g.count FROM entries e JOIN (SELECT count(*) AS count, max(revision) AS latest FROM entries
		WHERE map_id = ? AND substr(author, 1, ?) = ? AND EXISTS (SELECT 1 FROM grants WHERE map_id = ? AND access = ?)
		GROUP BY author) g ON g.latest = e.revision WHERE e.map_id = ? ORDER BY e.revision DESC`, mapID, len(under), under, mapID, AllowsHand, mapID).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the log of map %s: %w", mapID, err)
	}
	all := make([]Author, len(rows))
	for i, r := range rows {
		all[i] = Author{r.Author, r.Count, r.At.UTC()}
	}
	return all, nil
}

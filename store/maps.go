package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
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
	Changes    []cm.Change
	Moved      []cm.Moved
	Notices    []string
}

// Create makes an empty map in a language.
func (s *Store) Create(ctx context.Context, id cm.ID, lang cm.Lang) (*cm.Map, error) {
	now := s.Now().UTC()
	row := mapRow{ID: id, Language: lang, Created: now, Changed: now}
	if err := s.db.WithContext(ctx).Create(&row).Error; err != nil {
		return nil, fmt.Errorf("making map %s: %w", id, err)
	}
	return cm.NewMap(id, lang), nil
}

// Append writes an entry and the state that it leads to, in one transaction.
// The entry's revision must be the one after the stored; otherwise nothing is
// written and the error is ErrStale. An entry id that the map's log holds
// already is refused with gorm.ErrDuplicatedKey.
func (s *Store) Append(ctx context.Context, e *Entry, next *cm.Map) error {
	if e.At.IsZero() {
		e.At = s.Now()
	}
	e.At = e.At.UTC()
	if e.Changes == nil {
		e.Changes = []cm.Change{} // an entry that changed nothing is logged as such
	}
	err := commit(func() error {
		return s.db.WithContext(context.WithoutCancel(ctx)).Transaction(func(tx *gorm.DB) error {
			return write(tx, e, next)
		})
	})
	if err != nil {
		return fmt.Errorf("writing revision %d of map %s: %w", e.Revision, next.ID, err)
	}
	return nil
}

func write(tx *gorm.DB, e *Entry, next *cm.Map) error {
	if err := writeHead(tx, e, next); err != nil {
		return err
	}
	return writeRows(tx, e.Changes, next)
}

// writeHead writes the entry and what the map says of itself.
func writeHead(tx *gorm.DB, e *Entry, next *cm.Map) error {
	head := tx.Model(&mapRow{}).Where("id = ? AND revision = ? AND deleted IS NULL", next.ID, e.Revision-1).
		Select("Language", "Title", "Question", "Focus", "RulesOff", "Tucked", "Hand", "Pattern", "Freely", "KeepTidy", "Note", "KeyPlace", "Look", "Tray", "Revision", "Changed").
		Updates(&mapRow{Language: next.Language, Title: next.Title, Question: next.Question, Focus: next.Focus, RulesOff: next.RulesOff, Tucked: next.Tucked, Hand: next.Hand, Pattern: next.Pattern, Freely: next.Freely, KeepTidy: next.KeepTidy, Note: next.Note, KeyPlace: next.KeyPlace, Look: next.Look, Tray: next.Tray, Revision: e.Revision, Changed: e.At})
	if head.Error != nil {
		return head.Error
	}
	if head.RowsAffected != 1 {
		return ErrStale
	}
	return tx.Create(&entryRow{
		MapID: next.ID, Revision: e.Revision, ID: e.ID, Author: e.Author, Window: e.Window, At: e.At, Undoes: e.Undoes,
		Operations: string(e.Operations), Changes: e.Changes, Moved: e.Moved, Notices: e.Notices,
	}).Error
}

// batch bounds the rows of one statement, below SQLite's limit of parameters.
const batch = 500

// writeRows brings the rows of everything that changed to its next state.
func writeRows(tx *gorm.DB, changes []cm.Change, next *cm.Map) error {
	var kinds []kindRow
	var concepts []conceptRow
	var links []linkRow
	var ends []endRow
	var parts []partRow
	var routes []routeRow
	var stops []stopRow
	for _, c := range changes {
		var row any
		switch c.Kind {
		case cm.EntityMap:
			continue // written with the revision
		case cm.EntityKind:
			if now := next.Kinds[c.ID]; now != nil {
				kinds = append(kinds, kindRowOf(next.ID, now))
				continue
			}
			row = &kindRow{MapID: next.ID, ID: c.ID}
		case cm.EntityConcept:
			if now := next.Concepts[c.ID]; now != nil {
				concepts = append(concepts, conceptRowOf(next.ID, now))
				continue
			}
			row = &conceptRow{MapID: next.ID, ID: c.ID}
		case cm.EntityLink:
			if !c.Made() {
				if err := tx.Where("map_id = ? AND link_id = ?", next.ID, c.ID).Delete(&endRow{}).Error; err != nil {
					return err
				}
			}
			if now := next.Links[c.ID]; now != nil {
				links = append(links, linkRowOf(next.ID, now))
				ends = append(ends, endRowsOf(next.ID, now)...)
				continue
			}
			row = &linkRow{MapID: next.ID, ID: c.ID}
		case cm.EntityTag, cm.EntityRegion, cm.EntityFilter, cm.EntityComment:
			part, there, err := partRowOf(next, c.Key)
			if err != nil {
				return err
			}
			if there {
				parts = append(parts, part)
				continue
			}
			row = &partRow{MapID: next.ID, ID: c.ID}
		case cm.EntityRoute:
			if now := next.Routes[c.ID]; now != nil {
				routes = append(routes, routeRow{next.ID, now.ID, now.Title})
				continue
			}
			row = &routeRow{MapID: next.ID, ID: c.ID}
		case cm.EntityStop:
			if now := next.Stops[c.ID]; now != nil {
				stops = append(stops, stopRowOf(next.ID, now))
				continue
			}
			row = &stopRow{MapID: next.ID, ID: c.ID}
		default:
			return fmt.Errorf("there is no table for %q", c.Kind)
		}
		if err := tx.Delete(row).Error; err != nil {
			return err
		}
	}
	upsert := tx.Clauses(clause.OnConflict{UpdateAll: true}).Session(&gorm.Session{})
	return errors.Join(
		createAll(upsert, kinds), createAll(upsert, parts), createAll(upsert, concepts), createAll(upsert, links), createAll(upsert, ends),
		createAll(upsert, routes), createAll(upsert, stops),
	)
}

func createAll[R any](tx *gorm.DB, rows []R) error {
	if len(rows) == 0 {
		return nil
	}
	return tx.CreateInBatches(rows, batch).Error
}

// Load reads a map and its revision from the rows.
func (s *Store) Load(ctx context.Context, id cm.ID) (m *cm.Map, revision int, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		m, revision, err = load(tx, id)
		return err
	})
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
	m := cm.NewMap(id, head.Language)
	m.Title, m.Question, m.Focus, m.RulesOff, m.Tucked, m.Hand = head.Title, head.Question, head.Focus, head.RulesOff, head.Tucked, head.Hand
	m.Pattern, m.Freely, m.KeepTidy = head.Pattern, head.Freely, head.KeepTidy
	m.Note, m.KeyPlace, m.Look, m.Tray = head.Note, head.KeyPlace, head.Look, head.Tray
	var kinds []kindRow
	var concepts []conceptRow
	var links []linkRow
	var ends []endRow
	var parts []partRow
	var routes []routeRow
	var stops []stopRow
	for _, rows := range []any{&kinds, &parts, &concepts, &links, &routes, &stops} {
		if err := tx.Where("map_id = ?", id).Find(rows).Error; err != nil {
			return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
		}
	}
	// The order of ends is that of their ids, which is the key's.
	if err := tx.Where("map_id = ?", id).Order("link_id, id").Find(&ends).Error; err != nil {
		return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
	}
	for _, p := range parts {
		if err := p.into(m); err != nil {
			return nil, 0, fmt.Errorf("reading map %s: %w", id, err)
		}
	}
	for _, r := range kinds {
		m.Kinds[r.ID] = r.kind()
	}
	for _, r := range concepts {
		m.Concepts[r.ID] = r.concept()
	}
	for _, r := range links {
		m.Links[r.ID] = r.link()
	}
	for _, r := range ends {
		l, end := m.Links[r.LinkID], cm.End{ID: r.ID, Concept: r.ConceptID}
		if r.Side == cm.SideFrom {
			l.From = append(l.From, end)
		} else {
			l.To = append(l.To, end)
		}
	}
	for _, r := range routes {
		m.Routes[r.ID] = &cm.Route{ID: r.ID, Title: r.Title}
	}
	for _, r := range stops {
		m.Stops[r.ID] = r.stop()
	}
	return m, head.Revision, nil
}

// Import makes a map by performing entries one after another, each logged as
// if its author had made it by hand.
func (s *Store) Import(ctx context.Context, id cm.ID, lang cm.Lang, entries [][]cm.Operation) error {
	m, err := s.Create(ctx, id, lang)
	if err != nil {
		return err
	}
	for i, ops := range entries {
		out, err := cm.Apply(m, ops, nil)
		if err != nil {
			return fmt.Errorf("map %s, entry %d: %w", id, i+1, err)
		}
		raw, err := cm.MarshalOperations(ops)
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

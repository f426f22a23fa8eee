package store

import (
	"database/sql/driver"
	"fmt"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
)

// statement is ready to be run: whatever takes time has been done before the
// transaction begins, since all other writers wait while it lasts.
type statement struct {
	sql  string
	vars []any
}

// run runs statements in a transaction.
func run(tx *gorm.DB, all []statement) error {
	for _, s := range all {
		if _, err := tx.Statement.ConnPool.ExecContext(tx.Statement.Context, s.sql, s.vars...); err != nil {
			if own, ok := tx.Dialector.(gorm.ErrorTranslator); ok {
				err = own.Translate(err)
			}
			return err
		}
	}
	return nil
}

// ready gives what a call of GORM would run, with all values written out.
func ready(done *gorm.DB) (statement, error) {
	if done.Error != nil {
		return statement{}, done.Error
	}
	s := statement{sql: done.Statement.SQL.String(), vars: make([]any, len(done.Statement.Vars))}
	for i, v := range done.Statement.Vars {
		if valuer, ok := v.(driver.Valuer); ok {
			value, err := valuer.Value()
			if err != nil {
				return statement{}, err
			}
			v = value
		}
		s.vars[i] = v
	}
	return s, nil
}

// dry is a session in which nothing is run.
func (s *Store) dry() *gorm.DB { return s.db.Session(&gorm.Session{DryRun: true, NewDB: true}) }

func (s *Store) entryStatement(e *Entry, mapID cm.ID) (statement, error) {
	return ready(s.dry().Create(&entryRow{
		MapID: mapID, Revision: e.Revision, ID: e.ID, Author: e.Author, Window: e.Window, At: e.At, Undoes: e.Undoes,
		Operations: string(e.Operations), Changes: e.Changes, Moved: e.Moved, Notices: e.Notices,
	}))
}

// batch bounds the rows of one statement, well below SQLite's limit of parameters.
const batch = 200

// prepare gives what brings the rows of everything that changed to its next state.
func (s *Store) prepare(changes []cm.Change, next *cm.Map) ([]statement, error) {
	w := rowWriter{Store: s}
	for _, c := range changes {
		w.take(c, next)
	}
	writeAll(&w, w.kinds)
	writeAll(&w, w.parts)
	writeAll(&w, w.concepts)
	writeAll(&w, w.links)
	writeAll(&w, w.ends)
	writeAll(&w, w.routes)
	writeAll(&w, w.stops)
	return w.all, w.err
}

// rowWriter gathers rows by their tables: what goes is deleted first.
type rowWriter struct {
	*Store
	kinds    []kindRow
	concepts []conceptRow
	links    []linkRow
	ends     []endRow
	parts    []partRow
	routes   []routeRow
	stops    []stopRow

	all []statement
	err error
}

func (w *rowWriter) add(done *gorm.DB) {
	one, err := ready(done)
	if w.err == nil {
		w.err = err
	}
	w.all = append(w.all, one)
}

func writeAll[R any](w *rowWriter, rows []R) {
	for some := range slices.Chunk(rows, batch) {
		w.add(w.dry().Clauses(clause.OnConflict{UpdateAll: true}).Create(some))
	}
}

// take takes in the rows of an entity as it is now, or that it is no more.
func (w *rowWriter) take(c cm.Change, next *cm.Map) {
	m, id := next.ID, c.ID
	var gone any
	switch c.Kind {
	case cm.EntityMap: // written with the revision
	case cm.EntityKind:
		if k := next.Kinds[id]; k != nil {
			w.kinds = append(w.kinds, kindRowOf(m, k))
			return
		}
		gone = &kindRow{MapID: m, ID: id}
	case cm.EntityConcept:
		if c := next.Concepts[id]; c != nil {
			w.concepts = append(w.concepts, conceptRowOf(m, c))
			return
		}
		gone = &conceptRow{MapID: m, ID: id}
	case cm.EntityLink:
		ends := c.Ends()
		if !c.Made() && ends {
			w.add(w.dry().Where("map_id = ? AND link_id = ?", m, id).Delete(&endRow{}))
		}
		if l := next.Links[id]; l != nil {
			w.links = append(w.links, linkRowOf(m, l))
			if ends {
				w.ends = append(w.ends, endRowsOf(m, l)...)
			}
			return
		}
		gone = &linkRow{MapID: m, ID: id}
	case cm.EntityTag, cm.EntityRegion, cm.EntityFilter, cm.EntityComment:
		part, there, err := partRowOf(next, c.Key)
		if err != nil {
			w.err = err
		}
		if there {
			w.parts = append(w.parts, part)
			return
		}
		gone = &partRow{MapID: m, ID: id}
	case cm.EntityRoute:
		if r := next.Routes[id]; r != nil {
			w.routes = append(w.routes, routeRow{m, r.ID, r.Title})
			return
		}
		gone = &routeRow{MapID: m, ID: id}
	case cm.EntityStop:
		if s := next.Stops[id]; s != nil {
			w.stops = append(w.stops, stopRowOf(m, s))
			return
		}
		gone = &stopRow{MapID: m, ID: id}
	default:
		w.err = fmt.Errorf("there is no table for %q", c.Kind)
	}
	if gone != nil {
		w.add(w.dry().Delete(gone))
	}
}

package store

import (
	"database/sql/driver"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
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

// prepare gives what brings the rows of everything that changed to its next state. What
// goes is deleted first.
func (s *Store) prepare(changes []history.Change, next *cm.Map) ([]statement, error) {
	var all []statement
	add := func(done *gorm.DB) error {
		one, err := ready(done)
		all = append(all, one)
		return err
	}
	var rows []entityRow
	for _, c := range changes {
		if c.Kind == cm.EntityMap { // written with the revision
			continue
		}
		row, there, err := rowOf(next, c.Key)
		if there {
			rows = append(rows, row)
		} else if err == nil {
			err = add(s.dry().Delete(&entityRow{MapID: next.ID, ID: c.ID}))
		}
		if err != nil {
			return nil, err
		}
	}
	for some := range slices.Chunk(rows, batch) {
		if err := add(s.dry().Clauses(clause.OnConflict{UpdateAll: true}).Create(some)); err != nil {
			return nil, err
		}
	}
	words, err := s.index(changes, next)
	return append(all, words...), err
}

package store

import (
	"database/sql"
	"errors"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	driver "modernc.org/sqlite"
	codes "modernc.org/sqlite/lib"
)

// dialector is GORM's SQLite dialect over a driver in pure Go, with that
// driver's errors told to GORM.
type dialector struct{ *sqlite.Dialector }

func (dialector) Translate(err error) error {
	var coded *driver.Error
	if errors.As(err, &coded) {
		switch coded.Code() {
		case codes.SQLITE_CONSTRAINT_UNIQUE, codes.SQLITE_CONSTRAINT_PRIMARYKEY:
			return gorm.ErrDuplicatedKey
		case codes.SQLITE_CONSTRAINT_FOREIGNKEY:
			return gorm.ErrForeignKeyViolated
		case codes.SQLITE_CONSTRAINT_CHECK:
			return gorm.ErrCheckConstraintViolated
		}
	}
	return err
}

// Served tells that the tables lie in a database that is served, so that several processes may
// work on them.
func (s *Store) Served() bool { return s.database != "" }

// member gives the SQL for a member of a JSON text: words as they are, an object as JSON.
func (s *Store) member(column, name string) string {
	if s.Served() {
		return "(" + column + "::json ->> '" + name + "')"
	}
	return "json_extract(" + column + ", '$." + name + "')"
}

// words gives the SQL for the words of a text in the map's own language, NULL where there are none.
func (s *Store) words(column, name string) string {
	language := s.member("maps.head", "language")
	if s.Served() {
		return "nullif(" + column + "::json #>> ARRAY['" + name + "', " + language + "], '')"
	}
	return `nullif(json_extract(` + column + `, '$.` + name + `."' || ` + language + ` || '"'), '')`
}

// focusLabel gives the SQL for the label of a map's focus concept, as JSON.
func (s *Store) focusLabel() string {
	return "(SELECT " + s.member("body", "label") + " FROM entities WHERE map_id = maps.id AND id = " + s.member("maps.head", "focus") + ")"
}

// byName gives the SQL by which maps are sorted by their names.
func (s *Store) byName() string {
	return "lower(coalesce(" + s.words("maps.head", "question") + ", " + s.words("maps.head", "title") +
		", (SELECT " + s.words("body", "label") + " FROM entities WHERE map_id = maps.id AND id = " + s.member("maps.head", "focus") + "))), id"
}

// oneMoment is how a transaction reads that sees the database as it is at one moment.
func (s *Store) oneMoment() *sql.TxOptions {
	o := &sql.TxOptions{ReadOnly: true} // without it nobody could write meanwhile
	if s.Served() {
		o.Isolation = sql.LevelRepeatableRead
	}
	return o
}

// servedBusy tells whether an error says that a served database is away, full or overloaded
// (postgresql.org/docs/current/errcodes-appendix.html: classes 08, 53, 57 and 58).
func servedBusy(err error) bool {
	var coded *pgconn.PgError
	if errors.As(err, &coded) {
		return strings.Contains(" 08 53 57 58 ", " "+coded.Code[:min(2, len(coded.Code))]+" ")
	}
	var away *pgconn.ConnectError
	return errors.As(err, &away)
}

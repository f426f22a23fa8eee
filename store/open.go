package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	driver "modernc.org/sqlite"
	codes "modernc.org/sqlite/lib"
)

// Store is an open data folder.
type Store struct {
	db     *gorm.DB
	folder string
	secret []byte
	// Now gives the time written into the log; tests replace it.
	Now func() time.Time
}

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

// pragmas apply to every connection of the pool: they stand in its address.
var pragmas = url.Values{
	"_pragma": {"busy_timeout(5000)", "journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)"},
	"_txlock": {"immediate"}, "_time_format": {"sqlite"},
}

// Open opens the data folder, makes it where it is missing, and brings its
// tables up to this version. A folder written by a newer version is refused.
func Open(folder string) (*Store, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("the data folder cannot be made: %w", err)
	}
	file := url.URL{Scheme: "file", Opaque: url.PathEscape(filepath.Join(folder, "mevrin.db")), RawQuery: pragmas.Encode()}
	db, err := gorm.Open(
		dialector{&sqlite.Dialector{DriverName: "sqlite", DSN: file.String()}},
		&gorm.Config{
			Logger: logger.Discard, TranslateError: true, PrepareStmt: true,
			SkipDefaultTransaction: true,
		})
	if err != nil {
		return nil, fmt.Errorf("the data folder %s cannot be opened: %w", folder, err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(8)
	options := *gormigrate.DefaultOptions
	options.UseTransaction, options.ValidateUnknownMigrations = true, true
	err = gormigrate.New(db, &options, migrations).Migrate()
	if errors.Is(err, gormigrate.ErrUnknownPastMigration) {
		err = errors.New("it was written by a newer version of Mevrin; please use that one")
	}
	if err != nil {
		_ = pool.Close()
		return nil, fmt.Errorf("the data folder %s cannot be used: %w", folder, err)
	}
	secret, err := readSecret(folder)
	if err != nil {
		_ = pool.Close()
		return nil, err
	}
	return &Store{db: db, folder: folder, secret: secret, Now: time.Now}, nil
}

// Close lets go of the data folder.
func (s *Store) Close() error { return s.Pool().Close() }

// CheckIntegrity asks the database to examine itself, and each log whether it
// has a hole.
func (s *Store) CheckIntegrity(ctx context.Context) error {
	db := s.db.WithContext(ctx)
	var verdict []string
	if err := db.Raw("PRAGMA integrity_check").Scan(&verdict).Error; err != nil {
		return err
	}
	if len(verdict) != 1 || verdict[0] != "ok" {
		return fmt.Errorf("the database is damaged: %v", verdict)
	}
	var holes int64
	err := db.Raw(`SELECT count(*) FROM maps m WHERE m.revision <> (SELECT count(*) FROM entries e WHERE e.map_id = m.id)
		OR m.revision <> (SELECT coalesce(max(e.revision), 0) FROM entries e WHERE e.map_id = m.id)`).Scan(&holes).Error
	if err == nil && holes > 0 {
		err = fmt.Errorf("the logs of %d maps have holes", holes)
	}
	return err
}

// Pool gives the pool of database connections, for examining it.
func (s *Store) Pool() *sql.DB {
	pool, err := s.db.DB()
	if err != nil {
		panic("store: an open store has a pool: " + err.Error())
	}
	return pool
}

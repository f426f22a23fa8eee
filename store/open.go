package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"syscall"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"github.com/gofrs/flock"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	driver "modernc.org/sqlite"
	codes "modernc.org/sqlite/lib"
)

// Store is an open data folder.
type Store struct {
	db   *gorm.DB
	lock *flock.Flock
	// writing is held by whoever writes: the database lets one write at a time, and
	// lets the others try again now and then, which whoever writes often always wins.
	// Here they have their turn in the order in which they came.
	writing sync.Mutex
	folder  string
	secret  []byte
	// database is the address of a served database; empty for the one in the folder.
	database string
	// Now gives the time written into the log; tests replace it.
	Now func() time.Time
}

// pragmas apply to every connection of the pool: they stand in its address.
var pragmas = url.Values{
	"_pragma": {"busy_timeout(5000)", "journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)"},
	"_txlock": {"immediate"}, "_time_format": {"sqlite"},
}

// Options say how a data folder is opened.
type Options struct {
	// NewSecret gives the folder a secret where it lost the one it had. All links
	// made before are closed.
	NewSecret bool
	// Database is the address of a PostgreSQL database that holds the tables, instead of the one in the folder.
	// Several processes may open it, and the folder, then.
	Database string
	// Beside opens the folder also where another process works on it, for what concerns people alone: maps are held in
	// that one's memory. Tables are not altered then, and a folder of another version is refused.
	Beside bool
}

// databaseName is the file of the database in a data folder.
const databaseName = "mevrin.db"

// Open opens the data folder, makes it where it is missing, and brings its
// tables up to this version. Only one process at a time opens a folder. One that
// was written by a newer version, or of which a part is missing or damaged, is
// refused with words that say what is safe and what to do.
func Open(folder string) (*Store, error) { return OpenWith(folder, Options{}) }

// OpenWith opens the data folder as Open does, with options.
func OpenWith(folder string, options Options) (_ *Store, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("the data folder cannot be made: %w", err)
	}
	s := &Store{folder: folder, database: options.Database, Now: time.Now}
	beside := s.Served() && options.Beside
	if !s.Served() {
		s.lock, err = lockFolder(folder)
		beside = errors.Is(err, errTaken) && options.Beside
		if err != nil && !beside {
			return nil, err
		}
	}
	defer func() {
		if err != nil {
			_ = s.Close()
		}
	}()
	if err := s.examine(); err != nil {
		return nil, err
	}
	open := s.openDatabase
	if s.Served() {
		open = s.openServed
	}
	if err := open(beside); err != nil {
		return nil, err
	}
	if s.secret, err = s.openSecret(options.NewSecret); err != nil {
		return nil, err
	}
	if beside {
		return s, nil
	}
	if err := s.eraseUnfinished(); err != nil {
		return nil, s.unusable(err)
	}
	if err := s.indexAll(); err != nil {
		return nil, s.unusable(err)
	}
	s.sweep()
	return s, nil
}

// errTaken begins what is said where another process works on a folder.
var errTaken = errors.New("another Mevrin works on the data folder")

// lockFolder makes this process the only one that works on a folder; a process
// that ends, however it does, lets go of it.
func lockFolder(folder string) (*flock.Flock, error) {
	lock := flock.New(filepath.Join(folder, "lock"), flock.SetPermissions(0o600))
	switch got, err := lock.TryLock(); {
	case err != nil:
		return nil, fmt.Errorf("the data folder %s cannot be locked: %w", folder, err)
	case !got:
		return nil, fmt.Errorf("%w %s already. Stop that one first, or choose another folder with --data", errTaken, folder)
	}
	return lock, nil
}

func (s *Store) openDatabase(beside bool) error {
	path := filepath.Join(s.folder, databaseName)
	file := url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: pragmas.Encode()}
	db, err := gorm.Open(
		dialector{&sqlite.Dialector{DriverName: "sqlite", DSN: file.String()}},
		&gorm.Config{
			Logger: logger.Discard, TranslateError: true, PrepareStmt: true,
			SkipDefaultTransaction: true,
		})
	if err != nil {
		return s.unusable(err)
	}
	s.db = db
	pool, err := db.DB()
	if err != nil {
		return err
	}
	pool.SetMaxOpenConns(8)
	if beside {
		return s.sameVersion(migrations)
	}
	return s.migrate(migrations)
}

// migrate brings the tables up to this version.
func (s *Store) migrate(all []*gormigrate.Migration) error {
	options := *gormigrate.DefaultOptions
	options.UseTransaction, options.ValidateUnknownMigrations = true, true
	err := gormigrate.New(s.db, &options, all).Migrate()
	if errors.Is(err, gormigrate.ErrUnknownPastMigration) {
		return fmt.Errorf("the data folder %s was written by a newer version of Mevrin. Nothing in it was changed; please use that version, or choose another folder with --data", s.folder)
	}
	if err != nil {
		return s.unusable(err)
	}
	return nil
}

// unusable says what to do about a database that cannot be used.
func (s *Store) unusable(err error) error {
	if s.Served() { // its address may hold a password
		return fmt.Errorf("the database named by --database cannot be used: %w", withoutAddress(err))
	}
	var coded *driver.Error
	if errors.As(err, &coded) && (coded.Code() == codes.SQLITE_NOTADB || coded.Code()&0xff == codes.SQLITE_CORRUPT) {
		return fmt.Errorf("the database %s is damaged or is none. The files beside it are safe, and nothing was changed. Put a copy of the database in its place, or choose another folder with --data (%w)", filepath.Join(s.folder, databaseName), err)
	}
	return fmt.Errorf("the data folder %s cannot be used: %w", s.folder, err)
}

// Busy tells whether an error says that the disk is full, failing or taken: the same
// can be tried again later.
func Busy(err error) bool {
	var coded *driver.Error
	if errors.As(err, &coded) {
		switch coded.Code() & 0xff {
		case codes.SQLITE_BUSY, codes.SQLITE_LOCKED, codes.SQLITE_FULL, codes.SQLITE_IOERR, codes.SQLITE_NOMEM, codes.SQLITE_CANTOPEN, codes.SQLITE_READONLY:
			return true
		}
	}
	return errors.Is(err, syscall.ENOSPC) || servedBusy(err)
}

// Close lets go of the data folder.
func (s *Store) Close() error {
	var err error
	if s.db != nil {
		err = s.Pool().Close()
	}
	if s.lock != nil {
		err = errors.Join(err, s.lock.Unlock())
	}
	return err
}

// transaction writes, in turn with all others.
func (s *Store) transaction(ctx context.Context, do func(tx *gorm.DB) error) error {
	s.writing.Lock()
	defer s.writing.Unlock()
	return s.db.WithContext(ctx).Transaction(do)
}

// CheckIntegrity asks the database to examine itself, and each log whether it
// has a hole.
func (s *Store) CheckIntegrity(ctx context.Context) error {
	db := s.db.WithContext(ctx)
	if !s.Served() {
		var verdict []string
		if err := db.Raw("PRAGMA integrity_check").Scan(&verdict).Error; err != nil {
			return err
		}
		if len(verdict) != 1 || verdict[0] != "ok" {
			return fmt.Errorf("the database is damaged: %v", verdict)
		}
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

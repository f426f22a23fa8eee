package store

import (
	"archive/zip"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
)

// Backed says what a backup holds.
type Backed struct {
	Maps, Files int
	Missing     []string // hashes of files that the folder lost
}

// Backup writes all of a data folder, as it is at one moment, as a ZIP archive: the database, the secret and
// the files of maps. It may be in use meanwhile; nobody waits for it.
func Backup(ctx context.Context, folder string, to io.Writer) (done Backed, err error) {
	path := filepath.Join(folder, databaseName)
	if _, err := os.Stat(path); err != nil {
		return done, fmt.Errorf("there is no data folder %s: %w", folder, err)
	}
	// The copy lies beside the folder's own database: as safe, and on a disk that has room for one.
	copied := filepath.Join(folder, "backup-"+rand.Text()+".db")
	defer func() { _ = os.Remove(copied) }()
	file := url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: url.Values{"_pragma": {"busy_timeout(5000)"}}.Encode()}
	db, err := sql.Open("sqlite", file.String())
	if err != nil {
		return done, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", copied); err != nil { // sqlite.org/lang_vacuum.html: of one moment
		return done, fmt.Errorf("copying the database: %w", err)
	}
	if err := os.Chmod(copied, 0o600); err != nil {
		return done, err
	}
	hashes, maps, err := contents(ctx, copied)
	if err != nil {
		return done, err
	}
	done.Maps = maps
	z := zip.NewWriter(to)
	add := func(name, from string) error {
		in, err := os.Open(from)
		if err != nil {
			return err
		}
		defer func() { _ = in.Close() }()
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate})
		if err == nil {
			_, err = io.Copy(w, in)
		}
		return err
	}
	if err := add(databaseName, copied); err != nil {
		return done, err
	}
	if err := add("secret", filepath.Join(folder, "secret")); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return done, err
	}
	s := &Store{folder: folder}
	for _, hash := range hashes {
		if err := ctx.Err(); err != nil {
			return done, err
		}
		switch err := add("files/"+hash, s.filePath(hash)); {
		case errors.Is(err, fs.ErrNotExist):
			done.Missing = append(done.Missing, hash)
		case err != nil:
			return done, err
		default:
			done.Files++
		}
	}
	return done, z.Close()
}

// contents gives the hashes of the files that a database knows, and how many maps it holds.
func contents(ctx context.Context, path string) (hashes []string, maps int, err error) {
	file := url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: "mode=ro"}
	db, err := sql.Open("sqlite", file.String())
	if err != nil {
		return nil, 0, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM maps").Scan(&maps); err != nil {
		return nil, 0, err
	}
	rows, err := db.QueryContext(ctx, "SELECT DISTINCT hash FROM files ORDER BY hash")
	if err != nil {
		return nil, 0, err
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var hash string
		if err := rows.Scan(&hash); err != nil {
			return nil, 0, err
		}
		if !backedFile.MatchString("files/" + hash) {
			return nil, 0, fmt.Errorf("the database names a file %q", hash)
		}
		hashes = append(hashes, hash)
	}
	return hashes, maps, rows.Err()
}

// backedFile is the name of a file of maps in a backup.
var backedFile = regexp.MustCompile(`^files/([0-9a-f]{64})$`)

// ErrNoBackup tells that a file is none that Backup wrote, or that it is damaged.
var ErrNoBackup = errors.New("this is no backup, or it is damaged")

// Restore makes a data folder of a backup. The folder must not be there yet, or be empty. Everything is
// checked before it comes to be there: what is damaged is refused, and leaves nothing behind.
func Restore(ctx context.Context, from io.ReaderAt, size int64, folder string) (done Backed, err error) {
	if all, err := os.ReadDir(folder); err == nil && len(all) > 0 {
		return done, fmt.Errorf("the folder %s is not empty; nothing was changed. Choose one that is not there yet", folder)
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return done, err
	}
	archive, err := zip.NewReader(from, size)
	if err != nil {
		return done, ErrNoBackup
	}
	draft := strings.TrimRight(folder, string(filepath.Separator)) + ".restoring-" + rand.Text()
	defer func() { _ = os.RemoveAll(draft) }()
	if err := os.MkdirAll(draft, 0o700); err != nil {
		return done, err
	}
	s := &Store{folder: draft}
	found := false
	for _, f := range archive.File {
		if err := ctx.Err(); err != nil {
			return done, err
		}
		hash := backedFile.FindStringSubmatch(f.Name)
		switch {
		case f.Name == databaseName:
			found = true
			err = unpack(f, filepath.Join(draft, databaseName), "")
		case f.Name == "secret":
			err = unpack(f, filepath.Join(draft, "secret"), "")
		case hash != nil:
			done.Files++
			err = unpack(f, s.filePath(hash[1]), hash[1])
		default:
			err = fmt.Errorf("%w: it holds %q", ErrNoBackup, f.Name)
		}
		if err != nil {
			return done, err
		}
	}
	if !found {
		return done, fmt.Errorf("%w: there is no database in it", ErrNoBackup)
	}
	hashes, maps, err := contents(ctx, filepath.Join(draft, databaseName))
	if err != nil {
		return done, fmt.Errorf("%w (%w)", ErrNoBackup, err)
	}
	done.Maps = maps
	for _, hash := range hashes {
		if _, err := os.Stat(s.filePath(hash)); err != nil {
			done.Missing = append(done.Missing, hash)
		}
	}
	opened, err := Open(draft)
	if err == nil {
		err = errors.Join(opened.CheckIntegrity(ctx), opened.Close())
	}
	if err != nil {
		return done, fmt.Errorf("%w (%w)", ErrNoBackup, err)
	}
	if err := os.Remove(folder); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return done, err
	}
	return done, os.Rename(draft, folder)
}

// unpack writes a part of an archive, whose content has the hash where one is given.
func unpack(f *zip.File, to, hash string) error {
	if err := os.MkdirAll(filepath.Dir(to), 0o700); err != nil {
		return err
	}
	in, err := f.Open()
	if err != nil {
		return fmt.Errorf("%w (%w)", ErrNoBackup, err)
	}
	defer func() { _ = in.Close() }()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	sum := sha256.New()
	_, err = io.Copy(io.MultiWriter(out, sum), in)
	if err = errors.Join(err, out.Sync(), out.Close()); err != nil {
		return fmt.Errorf("%w: %s (%w)", ErrNoBackup, f.Name, err)
	}
	if hash != "" && hex.EncodeToString(sum.Sum(nil)) != hash {
		return fmt.Errorf("%w: %s is not what it was", ErrNoBackup, f.Name)
	}
	return nil
}

package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
)

// ErrNoFile tells that a map has no such file.
var ErrNoFile = errors.New("there is no such file")

// Kept is a file that somebody brought to a map.
type Kept struct {
	cm.File
	Name string // as it was called where it came from
}

// KeepFile keeps what is read under the hash of its content: the same content
// lies in the folder once. Look sees the first bytes, and all of what is small,
// and fills in what the file is; an error of it keeps nothing.
func (s *Reach) KeepFile(ctx context.Context, mapID cm.ID, author, name string, from io.Reader, look func(f *cm.File, path string) error) (Kept, error) {
	if err := s.reaches(mapID); err != nil {
		return Kept{}, err
	}
	var maps int64
	if err := s.db.WithContext(ctx).Model(&mapRow{}).Where("id = ? AND deleted IS NULL", mapID).Count(&maps).Error; err != nil {
		return Kept{}, err
	} else if maps == 0 {
		return Kept{}, ErrNoMap
	}
	folder := filepath.Join(s.folder, "files")
	if err := ownFolder(folder); err != nil {
		return Kept{}, err
	}
	temp, err := os.CreateTemp(folder, "coming-*")
	if err != nil {
		return Kept{}, err
	}
	defer func() { _ = temp.Close(); _ = os.Remove(temp.Name()) }() // gone where it was kept
	sum := sha256.New()
	size, err := io.Copy(io.MultiWriter(temp, sum), from)
	if err != nil {
		return Kept{}, err
	}
	if err := temp.Sync(); err != nil {
		return Kept{}, err
	}
	kept := Kept{cm.File{Hash: hex.EncodeToString(sum.Sum(nil)), Size: size}, name}
	if err := look(&kept.File, temp.Name()); err != nil {
		return Kept{}, err
	}
	path := s.filePath(kept.Hash)
	if err := ownFolder(filepath.Dir(path)); err != nil {
		return Kept{}, err
	}
	if err := os.Rename(temp.Name(), path); err != nil {
		return Kept{}, err
	}
	row := fileRow{mapID, kept.Hash, kept.Type, kept.Size, kept.W, kept.H, name, s.Now(), author}
	err = s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error
	return kept, err
}

// Scratch gives an empty file that is gone when it is closed. It lies in the data folder, which is there, can be
// written to and is no memory, whatever stands for the folder of temporary files.
func (s *Store) Scratch() (*os.File, error) {
	folder := filepath.Join(s.folder, "files")
	if err := ownFolder(folder); err != nil {
		return nil, err
	}
	f, err := os.CreateTemp(folder, "coming-*")
	if err != nil {
		return nil, err
	}
	return f, os.Remove(f.Name()) // it goes with the last who has it open
}

// ownFolder makes a folder where there is none. One that a link stands for is not
// ours.
func ownFolder(path string) error {
	if err := os.MkdirAll(path, 0o700); err != nil {
		return err
	}
	info, err := os.Lstat(path)
	if err == nil && !info.IsDir() {
		err = fmt.Errorf("%s is a link to somewhere else", path)
	}
	return err
}

func (s *Store) filePath(hash string) string {
	return filepath.Join(s.folder, "files", hash[:2], hash)
}

// HoldsFile tells that the content of a file is still there.
func (s *Reach) HoldsFile(hash string) bool {
	if len(hash) < 3 {
		return false
	}
	info, err := os.Lstat(s.filePath(hash))
	return err == nil && info.Mode().IsRegular()
}

// FileOf gives what is known of a file of a map and where its content lies. A map
// in the bin has none.
func (s *Reach) FileOf(ctx context.Context, mapID cm.ID, hash string) (Kept, string, error) {
	if err := s.reaches(mapID); err != nil {
		return Kept{}, "", err
	}
	var row fileRow
	err := s.db.WithContext(ctx).Where("map_id = ? AND hash = ? AND map_id IN (SELECT id FROM maps WHERE deleted IS NULL)", mapID, hash).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Kept{}, "", ErrNoFile
	}
	return row.kept(), s.filePath(row.Hash), err
}

func (row fileRow) kept() Kept {
	return Kept{cm.File{Hash: row.Hash, Type: row.Type, Size: row.Size, W: row.W, H: row.H}, row.Name}
}

// maxOffered is how many files are offered to be used again.
const maxOffered = 200

// FilesBy gives the files that an author has brought to any map, the newest
// first, each once.
func (s *Reach) FilesBy(ctx context.Context, author string) ([]Kept, error) {
	if !s.keeps(author) {
		return nil, ErrNoMap
	}
	var rows []fileRow
	err := s.db.WithContext(ctx).Raw(`SELECT hash, max(type) AS type, max(size) AS size, max(w) AS w, max(h) AS h, max(name) AS name FROM files WHERE author = ? GROUP BY hash ORDER BY max(made) DESC LIMIT ?`, author, maxOffered).Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	all := make([]Kept, len(rows))
	for i, row := range rows {
		all[i] = row.kept()
	}
	return all, nil
}

// OwnFile gives a file that an author has brought to any map, and where its content lies.
func (s *Reach) OwnFile(ctx context.Context, author, hash string) (Kept, string, error) {
	if !s.keeps(author) {
		return Kept{}, "", ErrNoFile
	}
	var row fileRow
	err := s.db.WithContext(ctx).Where("author = ? AND hash = ?", author, hash).Order("made DESC").Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Kept{}, "", ErrNoFile
	}
	return row.kept(), s.filePath(row.Hash), err
}

// OpenFile opens the content of a file, or what is made of it, for reading. A link
// in the folder is not followed.
func (s *Store) OpenFile(path string) (*os.File, error) {
	for _, part := range []string{filepath.Dir(path), path} {
		info, err := os.Lstat(part)
		if err == nil && info.Mode()&fs.ModeSymlink != 0 || errors.Is(err, fs.ErrNotExist) {
			return nil, ErrNoFile
		} else if err != nil {
			return nil, err
		}
	}
	return os.Open(path)
}

// UseFile lets a map use a file that its author brought to another one.
func (s *Reach) UseFile(ctx context.Context, mapID cm.ID, author, hash string) error {
	if err := s.reaches(mapID); err != nil {
		return err
	}
	result := s.db.WithContext(ctx).Exec(`INSERT INTO files (map_id, hash, type, size, w, h, name, made, author)
		SELECT ?, hash, type, size, w, h, name, made, author FROM files WHERE author = ? AND hash = ? LIMIT 1 ON CONFLICT DO NOTHING`, mapID, author, hash)
	if errors.Is(result.Error, gorm.ErrForeignKeyViolated) {
		return ErrNoMap
	} else if result.Error != nil {
		return result.Error
	}
	_, _, err := s.FileOf(ctx, mapID, hash)
	return err
}

// ShareFiles lets a map that was made of another one use the files that it names.
func (s *Reach) ShareFiles(ctx context.Context, to, from cm.ID) error {
	if err := s.reaches(to); err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec(`INSERT INTO files (map_id, hash, type, size, w, h, name, made, author)
		SELECT ?, hash, type, size, w, h, name, made, author FROM files WHERE map_id = ? ON CONFLICT DO NOTHING`, to, from).Error
}

// Beside gives the place for something that is made of a file, such as a smaller
// picture; made tells whether it is there already.
func (s *Store) Beside(hash, what string) (path string, made bool) {
	path = s.filePath(hash) + "." + what
	_, err := os.Stat(path)
	return path, !errors.Is(err, fs.ErrNotExist)
}

// dropFiles deletes the content of files that no map has any more. What cannot be
// deleted now does no harm: it takes room.
func (s *Store) dropFiles(hashes []string) {
	for _, hash := range hashes {
		path := s.filePath(hash)
		_ = os.Remove(path)
		if small, made := s.Beside(hash, "small"); made {
			_ = os.Remove(small)
		}
	}
}

package store

import (
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"
)

// examine looks at a folder before it is opened, so that what is missing or broken
// is said before anything is written.
func (s *Store) examine() error {
	for _, name := range []string{databaseName, databaseName + "-wal", databaseName + "-shm", "secret", "files"} {
		info, err := os.Lstat(filepath.Join(s.folder, name))
		if errors.Is(err, fs.ErrNotExist) {
			continue
		} else if err != nil {
			return fmt.Errorf("the data folder %s cannot be read: %w", s.folder, err)
		}
		if info.Mode()&fs.ModeSymlink != 0 {
			return fmt.Errorf("%s in the data folder %s is a link to somewhere else, which is not followed. Nothing was changed; put the file itself there", name, s.folder)
		}
	}
	if s.Served() {
		return nil
	}
	path := filepath.Join(s.folder, databaseName)
	info, err := os.Stat(path)
	missing, empty := errors.Is(err, fs.ErrNotExist), err == nil && info.Size() == 0
	if (missing || empty) && s.holdsMore() {
		state := "is missing"
		if empty {
			state = "is empty"
		}
		return fmt.Errorf("the database %s %s, though the folder holds files of maps. Those are safe, and nothing was changed. Put a copy of the database there, or choose another folder with --data", path, state)
	}
	return s.examineLog(path + "-wal")
}

// holdsMore tells whether there is something in the folder that goes with a
// database which was there before.
func (s *Store) holdsMore() bool {
	if info, err := os.Stat(filepath.Join(s.folder, databaseName+"-wal")); err == nil && info.Size() > 0 {
		return true
	}
	if _, err := os.Stat(filepath.Join(s.folder, "secret")); err == nil {
		return true
	}
	all, err := os.ReadDir(filepath.Join(s.folder, "files"))
	return err == nil && len(all) > 0
}

// examineLog looks whether the write-ahead log of the database begins as one does
// (sqlite.org/fileformat2.html, "WAL File Format"): the database itself would pass
// over one that does not, and with it over the latest changes, without a word.
func (s *Store) examineLog(path string) error {
	file, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	} else if err != nil {
		return fmt.Errorf("the data folder %s cannot be read: %w", s.folder, err)
	}
	defer func() { _ = file.Close() }()
	head := make([]byte, 32)
	switch _, err := io.ReadFull(file, head); {
	case errors.Is(err, io.EOF):
		return nil // empty
	case err == nil && soundLog(head):
		return nil
	}
	return fmt.Errorf("the file %s, in which the database keeps its latest changes, is damaged. What is in the database itself is safe, and nothing was changed. Put copies of both in their place; or move that file away, which leaves the maps as they were before its changes", path)
}

func soundLog(head []byte) bool {
	magic := binary.BigEndian.Uint32(head)
	if magic&^1 != 0x377f0682 || binary.BigEndian.Uint32(head[4:]) != 3007000 {
		return false
	}
	var order binary.ByteOrder = binary.LittleEndian
	if magic&1 == 1 {
		order = binary.BigEndian
	}
	var a, b uint32
	for i := 0; i < 24; i += 8 {
		a += order.Uint32(head[i:]) + b
		b += order.Uint32(head[i+4:]) + a
	}
	return a == binary.BigEndian.Uint32(head[24:]) && b == binary.BigEndian.Uint32(head[28:])
}

// openSecret reads the folder's secret. One that is missing though links were made
// with it is missed: they could not be shown to anyone again.
func (s *Store) openSecret(renew bool) ([]byte, error) {
	_, err := os.Lstat(filepath.Join(s.folder, "secret"))
	if errors.Is(err, fs.ErrNotExist) {
		var links int64
		if err := s.db.Model(&grantRow{}).Where("revoked IS NULL").Count(&links).Error; err != nil {
			return nil, err
		}
		if links > 0 && !renew {
			return nil, fmt.Errorf("the file secret is missing in the data folder %s. All maps are safe, but the %d links made for learners need it. Put it back from a copy; or start once with --new-secret, which closes those links, and make new ones", s.folder, links)
		}
		if links > 0 {
			if err := s.db.Model(&grantRow{}).Where("revoked IS NULL").Update("revoked", s.Now().UTC()).Error; err != nil {
				return nil, err
			}
		}
	}
	return readSecret(s.folder)
}

// contentName is how the content of files is named in the folder, and what is made
// of it.
var contentName = regexp.MustCompile(`^([0-9a-f]{64})(\.[a-z]+)?$`)

// sweep takes away what uploads left that were broken off: drafts, and content that
// no map has. Content that came after the last change of any map stays: the
// database may be an older copy. What cannot be taken away does no harm.
func (s *Store) sweep() {
	old := func(path string) bool { // another process may be at it just now
		info, err := os.Lstat(path)
		return !s.Served() || err == nil && time.Since(info.ModTime()) > othersWork
	}
	drafts, _ := filepath.Glob(filepath.Join(s.folder, "secret.*"))
	coming, _ := filepath.Glob(filepath.Join(s.folder, "files", "coming-*"))
	small, _ := filepath.Glob(filepath.Join(s.folder, "files", "??", "small-*"))
	copies, _ := filepath.Glob(filepath.Join(s.folder, "backup-*.db")) // of a backup that was broken off
	for _, all := range [][]string{drafts, coming, small, copies} {
		for _, path := range slices.DeleteFunc(all, func(path string) bool { return !old(path) }) {
			_ = os.Remove(path)
		}
	}
	var hashes []string
	var last *time.Time
	var newest mapRow
	if s.db.Model(&fileRow{}).Distinct("hash").Pluck("hash", &hashes).Error != nil {
		return
	}
	if err := s.db.Order("changed DESC").Take(&newest).Error; err == nil {
		last = &newest.Changed
	}
	known := map[string]bool{}
	for _, hash := range hashes {
		known[hash] = true
	}
	content, _ := filepath.Glob(filepath.Join(s.folder, "files", "??", "*"))
	for _, path := range content {
		name := contentName.FindStringSubmatch(filepath.Base(path))
		if name == nil || known[name[1]] || last == nil || !strings.HasPrefix(name[1], filepath.Base(filepath.Dir(path))) {
			continue
		}
		if info, err := os.Lstat(path); err == nil && info.Mode().IsRegular() && info.ModTime().Before(*last) && old(path) {
			_ = os.Remove(path)
		}
	}
}

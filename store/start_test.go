package store_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/phrases"
	"mevrin/store"
)

func filled(t *testing.T) (folder string) {
	folder = t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	_, err = s.All().Create(t.Context(), "m", "en")
	require.NoError(t, err)
	out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "a", Label: "bell"}}, nil)
	require.NoError(t, err)
	require.NoError(t, s.All().Append(t.Context(), &store.Entry{Revision: 1, ID: "e", Author: "ada", Window: "w", Changes: out.Changes}, out.Map))
	_, err = s.All().KeepFile(t.Context(), "m", "ada", "a.txt", strings.NewReader("words"), func(*cm.File, string) error { return nil })
	require.NoError(t, err)
	_, err = s.All().AddGrant(t.Context(), store.Grant{ID: "w1", MapID: "m", Allows: store.AllowsHand})
	require.NoError(t, err)
	require.NoError(t, s.Close())
	return folder
}

// Two servers never work on one folder: the second is told why, and the first goes on.
func TestOneServerAFolder(t *testing.T) {
	folder := filled(t)
	first, err := store.Open(folder)
	require.NoError(t, err)
	_, err = store.Open(folder)
	require.ErrorContains(t, err, "another Mevrin works on the data folder")
	require.ErrorContains(t, err, "--data")
	_, _, err = first.All().Load(t.Context(), "m")
	require.NoError(t, err)
	require.NoError(t, first.Close())
	again, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, again.Close())
}

// What is missing or damaged in a folder is said, with what is safe and what to do,
// and nothing of it is altered.
func TestWhatIsMissingAtTheStartIsSaid(t *testing.T) {
	at := func(folder, name string) string { return filepath.Join(folder, name) }
	for what, c := range map[string]struct {
		harm func(folder string)
		says string
	}{
		"no database":    {func(f string) { _ = os.Remove(at(f, "mevrin.db")) }, "is missing"},
		"empty database": {func(f string) { _ = os.WriteFile(at(f, "mevrin.db"), nil, 0o600) }, "is empty"},
		"no secret":      {func(f string) { _ = os.Remove(at(f, "secret")) }, "--new-secret"},
		"short secret":   {func(f string) { _ = os.WriteFile(at(f, "secret"), []byte("x"), 0o600) }, "32 bytes"},
		"no SQLite":      {func(f string) { _ = os.WriteFile(at(f, "mevrin.db"), []byte(strings.Repeat("words ", 900)), 0o600) }, "is damaged or is none"},
		"garbage in the log": {func(f string) {
			_ = os.WriteFile(at(f, "mevrin.db-wal"), []byte(strings.Repeat("garbage ", 900)), 0o600)
		}, "keeps its latest changes, is damaged"},
		"a linked database": {func(f string) {
			_ = os.Rename(at(f, "mevrin.db"), at(f, "elsewhere"))
			_ = os.Symlink(at(f, "elsewhere"), at(f, "mevrin.db"))
		}, "link to somewhere else"},
		"linked files": {func(f string) {
			_ = os.Rename(at(f, "files"), at(f, "elsewhere"))
			_ = os.Symlink(at(f, "elsewhere"), at(f, "files"))
		}, "link to somewhere else"},
	} {
		folder := filled(t)
		c.harm(folder)
		before := listing(t, folder)
		_, err := store.Open(folder)
		require.ErrorContains(t, err, c.says, what)
		assert.Regexp(t, `safe|altered|changed|used|put`, err.Error(), what)
		assert.Equal(t, before, listing(t, folder), what)
	}
	folder := filled(t)
	require.NoError(t, os.Remove(at(folder, "secret")))
	s, err := store.OpenWith(folder, store.Options{NewSecret: true})
	require.NoError(t, err)
	left, err := s.All().Grants(t.Context(), "m")
	require.NoError(t, err)
	assert.Empty(t, left, "the links of the old one are closed")
	require.NoError(t, s.CheckIntegrity(t.Context()))
	require.NoError(t, s.Close())

	newer := filled(t)
	s, err = store.Open(newer)
	require.NoError(t, err)
	_, err = s.Pool().Exec("INSERT INTO migrations (id) VALUES ('2099-newer')")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, err = store.Open(newer)
	require.ErrorContains(t, err, "newer version")
}

// listing gives the names and sizes of what lies in a folder, but for the lock.
func listing(t *testing.T, folder string) map[string]int64 {
	all := map[string]int64{}
	require.NoError(t, filepath.Walk(folder, func(path string, info os.FileInfo, err error) error {
		if err == nil && !info.IsDir() && info.Name() != "lock" && !strings.HasSuffix(path, "-shm") {
			all[path] = info.Size()
		}
		return err
	}))
	return all
}

// What broken uploads left is gone after a start; what a map has stays, and so does
// what came after its last change: the database may be an older copy.
func TestOrphansAreSwept(t *testing.T) {
	folder := filled(t)
	kept, err := filepath.Glob(filepath.Join(folder, "files", "??", "*"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	orphan := filepath.Join(folder, "files", "ab", "ab"+strings.Repeat("0", 62))
	later := filepath.Join(folder, "files", "ab", "ab"+strings.Repeat("1", 62))
	require.NoError(t, os.MkdirAll(filepath.Dir(orphan), 0o700))
	drafts := []string{filepath.Join(folder, "files", "coming-1"), filepath.Join(folder, "files", "ab", "small-1"), filepath.Join(folder, "secret.XY")}
	for _, path := range append(drafts, orphan, orphan+".small", later, filepath.Join(folder, "files", "ab", "notes.txt")) {
		require.NoError(t, os.WriteFile(path, []byte("x"), 0o600))
	}
	old := time.Now().Add(-time.Hour)
	require.NoError(t, os.Chtimes(orphan, old, old))
	require.NoError(t, os.Chtimes(orphan+".small", old, old))
	require.NoError(t, os.Chtimes(later, time.Now().Add(time.Hour), time.Now().Add(time.Hour)))
	s, err := store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	for _, path := range append(drafts, orphan, orphan+".small") {
		assert.NoFileExists(t, path)
	}
	for _, path := range []string{kept[0], later, filepath.Join(folder, "files", "ab", "notes.txt")} {
		assert.FileExists(t, path)
	}
	// And what a destroyed map had goes with it.
	require.NoError(t, s.All().Discard(t.Context(), "m"))
	require.NoError(t, s.All().Destroy(t.Context(), "m"))
	assert.NoFileExists(t, kept[0])
}

// A link that somebody laid into the folder is not followed.
func TestLinksInTheFolderAreNotFollowed(t *testing.T) {
	folder := filled(t)
	s, err := store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	files, err := s.All().FilesBy(t.Context(), "ada")
	require.NoError(t, err)
	_, path, err := s.All().FileOf(t.Context(), "m", files[0].Hash)
	require.NoError(t, err)
	open, err := s.OpenFile(path)
	require.NoError(t, err)
	require.NoError(t, open.Close())
	require.NoError(t, os.Remove(path))
	require.NoError(t, os.Symlink(filepath.Join(folder, "secret"), path))
	_, err = s.OpenFile(path)
	require.ErrorIs(t, err, store.ErrNoFile)
	require.NoError(t, os.RemoveAll(filepath.Dir(path)))
	elsewhere := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(elsewhere, files[0].Hash), []byte("x"), 0o600))
	require.NoError(t, os.Symlink(elsewhere, filepath.Dir(path)))
	_, err = s.OpenFile(path)
	require.ErrorIs(t, err, store.ErrNoFile)
	_, err = s.All().KeepFile(t.Context(), "m", "ada", "a.txt", strings.NewReader("words"), func(*cm.File, string) error { return nil })
	require.ErrorContains(t, err, "link to somewhere else")
}

// A map that is being written is in nobody's sight, and what a process left of one
// that ended meanwhile is gone after a start.
func TestAnUnfinishedMapIsNone(t *testing.T) {
	folder := filled(t)
	s, err := store.Open(folder)
	require.NoError(t, err)
	_, err = s.Pool().Exec("UPDATE maps SET deleted = ? WHERE id = 'm'", time.Unix(0, 0).UTC())
	require.NoError(t, err)
	_, _, err = s.All().Load(t.Context(), "m")
	require.ErrorIs(t, err, store.ErrNoMap)
	require.ErrorIs(t, s.All().Restore(t.Context(), "m"), store.ErrNoMap)
	for _, list := range []func(context.Context) ([]store.Summary, error){s.All().List, s.All().Bin} {
		all, err := list(t.Context())
		require.NoError(t, err)
		assert.Empty(t, all)
	}
	require.NoError(t, s.Close())
	s, err = store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	for _, table := range []string{"maps", "entities", "entries", "files", "grants"} {
		var rows int
		require.NoError(t, s.Pool().QueryRow("SELECT count(*) FROM "+table).Scan(&rows))
		assert.Zero(t, rows, table)
	}
	require.NoError(t, s.CheckIntegrity(t.Context()))
}

// A phrase bank takes so many phrases and no more.
func TestThePhraseBankHasAQuota(t *testing.T) {
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	_, err = s.Pool().Exec("WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 1000) INSERT INTO bank_phrases (author, group_id, folded, words, removed, changed) SELECT 'ada', 'part', 'p' || i, 'p' || i, 0, '2026-11-27' FROM n")
	require.NoError(t, err)
	var full *cm.Refusal
	require.ErrorAs(t, s.All().SetPhrase(t.Context(), "ada", phrases.Own{Group: "part", Words: "one more"}), &full)
	assert.Contains(t, full.Error(), "full")
	require.NoError(t, s.All().SetPhrase(t.Context(), "ben", phrases.Own{Group: "part", Words: "one more"}), "that of another has room")
}

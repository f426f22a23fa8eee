package store_test

import (
	"bytes"
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
)

// What is in a file is kept once, whoever brings it to which map; one that is not
// wanted leaves nothing behind.
func TestFilesAreKeptOnce(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	for _, id := range []cm.ID{"a", "b"} {
		_, err := s.All().Create(t.Context(), id, "en")
		require.NoError(t, err)
	}
	keep := func(id cm.ID, author, name, content string) store.Kept {
		kept, err := s.All().KeepFile(t.Context(), id, author, name, bytes.NewReader([]byte(content)), func(f *cm.File, path string) error {
			raw, err := os.ReadFile(path)
			assert.Equal(t, content, string(raw))
			f.Type = "text/plain"
			return err
		})
		require.NoError(t, err)
		return kept
	}
	first, again := keep("a", "ada", "one.txt", "ding"), keep("b", "bea", "two.txt", "ding")
	assert.Equal(t, first.Hash, again.Hash)
	other := keep("a", "ada", "three.txt", "dong")
	var files []string
	require.NoError(t, filepath.WalkDir(filepath.Join(folder, "files"), func(path string, d os.DirEntry, err error) error {
		if !d.IsDir() {
			files = append(files, filepath.Base(path))
		}
		return err
	}))
	assert.ElementsMatch(t, []string{first.Hash, other.Hash}, files)

	_, err = s.All().KeepFile(t.Context(), "a", "ada", "no.txt", bytes.NewReader([]byte("dang")), func(*cm.File, string) error { return errors.New("not wanted") })
	require.ErrorContains(t, err, "not wanted")
	left, err := filepath.Glob(filepath.Join(folder, "files", "coming-*"))
	require.NoError(t, err)
	assert.Empty(t, left)

	kept, path, err := s.All().FileOf(t.Context(), "b", first.Hash)
	require.NoError(t, err)
	assert.Equal(t, "two.txt", kept.Name)
	assert.FileExists(t, path)
	_, _, err = s.All().FileOf(t.Context(), "b", other.Hash)
	require.ErrorIs(t, err, store.ErrNoFile)
	mine, err := s.All().FilesBy(t.Context(), "ada")
	require.NoError(t, err)
	assert.Len(t, mine, 2)
	require.ErrorIs(t, s.All().UseFile(t.Context(), "b", "bea", other.Hash), store.ErrNoFile)
	require.ErrorIs(t, s.All().UseFile(t.Context(), "gone", "ada", other.Hash), store.ErrNoMap)
	_, _, err = s.All().FileOf(t.Context(), "b", other.Hash)
	require.ErrorIs(t, err, store.ErrNoFile, "nobody uses what another brought")
	require.NoError(t, s.All().ShareFiles(t.Context(), "b", "a"))
	_, _, err = s.All().FileOf(t.Context(), "b", other.Hash)
	require.NoError(t, err)
}

func TestLooksOfOnesOwn(t *testing.T) {
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	look := cm.Look{Theme: cm.ThemeBoard, Large: true}
	require.NoError(t, s.All().KeepLook(t.Context(), "ada", store.OwnLook{Name: "Chalk", Look: cm.Look{}}))
	require.NoError(t, s.All().KeepLook(t.Context(), "ada", store.OwnLook{Name: " chalk ", Look: look}))
	require.NoError(t, s.All().KeepLook(t.Context(), "ada", store.OwnLook{Name: "Air", Look: look}))
	all, err := s.All().OwnLooks(t.Context(), "ada")
	require.NoError(t, err)
	assert.Equal(t, []store.OwnLook{{Name: "Air", Look: look}, {Name: "chalk", Look: look}}, all, "one name is one look")
	others, err := s.All().OwnLooks(t.Context(), "bea")
	require.NoError(t, err)
	assert.Empty(t, others)
	require.NoError(t, s.All().DropLook(t.Context(), "ada", "CHALK"))
	all, err = s.All().OwnLooks(t.Context(), "ada")
	require.NoError(t, err)
	assert.Len(t, all, 1)
	assert.Error(t, s.All().KeepLook(t.Context(), "ada", store.OwnLook{Name: "  "}))
}

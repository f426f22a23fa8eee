package store_test

import (
	"bytes"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
	"mevrin/store/storetest"
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

// What is kept for other maps belongs to one author, each sort apart; one name is one thing.
func TestWhatAnAuthorKeeps(t *testing.T) {
	s := storetest.Open(t)
	keep := func(name string, what any) error { return s.All().Keep(t.Context(), "ada", store.KeptLook, name, what) }
	names := func(author string, sort store.KeptSort) (all []string) {
		kept, err := s.All().Kept(t.Context(), author, sort)
		require.NoError(t, err)
		for _, k := range kept {
			all = append(all, k.Name+" "+string(k.Body))
		}
		return all
	}
	require.NoError(t, keep("Chalk", 1))
	require.NoError(t, keep(" chalk ", 2))
	require.NoError(t, keep("Air", 3))
	require.NoError(t, s.All().Keep(t.Context(), "ada", store.KeptRules, "", "all"))
	assert.Equal(t, []string{"Air 3", "chalk 2"}, names("ada", store.KeptLook))
	assert.Equal(t, []string{` "all"`}, names("ada", store.KeptRules))
	assert.Empty(t, names("bea", store.KeptLook))
	require.NoError(t, s.All().Drop(t.Context(), "ada", store.KeptLook, "CHALK"))
	assert.Equal(t, []string{"Air 3"}, names("ada", store.KeptLook))
	assert.Error(t, keep("  ", 1))
	assert.Error(t, keep("Large", strings.Repeat("x", store.MaxKeptBytes)))
	require.ErrorIs(t, s.For(store.OneMap("m")).Keep(t.Context(), "ada", store.KeptLook, "Air", 1), store.ErrNoMap)
}

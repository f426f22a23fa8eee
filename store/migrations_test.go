package store_test

import (
	"compress/gzip"
	"context"
	"database/sql"
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"mevrin/store"
)

// A folder that was written when every entity had a table and every member a column
// gives the same maps, from its rows and from its logs. Each map of the file was made by
// some hundred random edits; beside it stands the document that was written of it then.
func TestFoldersOfEarlierVersionsAreRead(t *testing.T) {
	folder := t.TempDir()
	file, err := os.Open("testdata/v11.sql.gz")
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	unpacked, err := gzip.NewReader(file)
	require.NoError(t, err)
	dump, err := io.ReadAll(unpacked)
	require.NoError(t, err)
	db, err := sql.Open("sqlite", filepath.Join(folder, "mevrin.db"))
	require.NoError(t, err)
	_, err = db.Exec(string(dump))
	require.NoError(t, err)
	want := map[cm.ID]string{}
	rows, err := db.Query("SELECT map_id, document FROM expected")
	require.NoError(t, err)
	for rows.Next() {
		var id cm.ID
		var document string
		require.NoError(t, rows.Scan(&id, &document))
		want[id] = document
	}
	require.NoError(t, rows.Close())
	require.NoError(t, db.Close())
	require.NoError(t, os.WriteFile(filepath.Join(folder, "secret"), make([]byte, 32), 0o600))

	s, err := store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	require.NoError(t, s.CheckIntegrity(context.Background()))
	require.Len(t, want, 4)
	for id, document := range want {
		m, revision, err := s.All().Load(t.Context(), id)
		require.NoError(t, err)
		assert.Equal(t, document, doc(t, m))
		entries, err := s.All().Since(t.Context(), id, 0)
		require.NoError(t, err)
		require.Len(t, entries, revision)
		again := cm.NewMap(id, "en")
		for _, e := range entries {
			again, err = history.Replay(again, e.Changes)
			require.NoError(t, err)
		}
		assert.Equal(t, document, doc(t, again))
	}
	all, err := s.All().List(t.Context())
	require.NoError(t, err)
	require.Len(t, all, 4)
	for _, one := range all {
		m, _, err := s.All().Load(t.Context(), one.ID)
		require.NoError(t, err)
		assert.Equal(t, m.Name(), one.Name)
		assert.Len(t, m.Concepts, one.Concepts)
		assert.Len(t, m.Routes, one.Routes)
	}
}

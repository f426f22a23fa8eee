package store_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/store"
)

func restored(t *testing.T, raw []byte) (string, error) {
	folder := filepath.Join(t.TempDir(), "restored")
	_, err := store.Restore(context.Background(), bytes.NewReader(raw), int64(len(raw)), folder)
	return folder, err
}

// A backup is of one moment, also while others write; what is restored of it opens, with its files and its
// secret, and each log is whole.
func TestABackupIsOfOneMoment(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	ctx := t.Context()
	require.NoError(t, s.All().Import(ctx, "m", "en", [][]edit.Operation{{&edit.AddConcept{ID: "a", Label: "bell"}}}))
	kept, err := s.All().KeepFile(ctx, "m", "author", "note.txt", strings.NewReader("a hum"), func(f *cm.File, _ string) error { f.Type = "text/plain"; return nil })
	require.NoError(t, err)
	grant, err := s.All().AddGrant(ctx, store.Grant{ID: "g", MapID: "m", Allows: store.AllowsHand})
	require.NoError(t, err)

	var writing sync.WaitGroup
	stop := make(chan struct{})
	writing.Go(func() {
		m, revision, err := s.All().Load(context.Background(), "m")
		for i := 0; err == nil; i++ {
			select {
			case <-stop:
				return
			default:
			}
			out, err := edit.Apply(m, []edit.Operation{&edit.NameConcept{Concept: "a", Label: fmt.Sprint("bell ", i)}}, nil)
			if assert.NoError(t, err) {
				revision++
				assert.NoError(t, s.All().Append(context.Background(), &store.Entry{Revision: revision, ID: cm.ID(fmt.Sprint("e", i)), Author: "author", Changes: out.Changes}, out.Map))
				m = out.Map
			}
		}
	})
	var raw []byte
	for range 5 {
		var out bytes.Buffer
		done, err := store.Backup(ctx, folder, &out)
		require.NoError(t, err)
		assert.Equal(t, store.Backed{Maps: 1, Files: 1}, done)
		raw = out.Bytes()
		back, err := restored(t, raw)
		require.NoError(t, err)
		again, err := store.Open(back)
		require.NoError(t, err)
		require.NoError(t, again.CheckIntegrity(ctx))
		m, _, err := again.All().Load(ctx, "m")
		require.NoError(t, err)
		assert.Contains(t, m.Words(m.Concepts["a"].Label), "bell")
		assert.True(t, again.All().HoldsFile(kept.Hash))
		_, err = again.Redeem(ctx, grant.Token)
		assert.NoError(t, err, "links lead where they did")
		require.NoError(t, again.Close())
	}
	close(stop)
	writing.Wait()
	left, err := filepath.Glob(filepath.Join(folder, "backup-*"))
	require.NoError(t, err)
	assert.Empty(t, left)
	require.NoError(t, s.Close())

	// What is damaged, cut off or something else is refused, and leaves nothing.
	refused := func(raw []byte) {
		t.Helper()
		folder, err := restored(t, raw)
		assert.ErrorIs(t, err, store.ErrNoBackup)
		left, err := filepath.Glob(folder + "*")
		require.NoError(t, err)
		assert.Empty(t, left)
	}
	refused(nil)
	refused(raw[:len(raw)/2])
	refused([]byte("no backup at all"))
	for _, parts := range []map[string]string{{"../outside": "x"}, {"mevrin.db": "no database"}, {"secret": "s"}, {"files/" + kept.Hash: "another hum"}} {
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		for name, body := range parts {
			w, err := z.Create(name)
			require.NoError(t, err)
			_, err = w.Write([]byte(body))
			require.NoError(t, err)
		}
		require.NoError(t, z.Close())
		refused(out.Bytes())
	}
	_, err = store.Restore(ctx, bytes.NewReader(raw), int64(len(raw)), folder)
	assert.ErrorContains(t, err, "is not empty")
}

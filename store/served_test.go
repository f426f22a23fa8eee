package store_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/store"
	"mevrin/store/storetest"
)

// The tables of a served database are those of the folder, column by column.
func TestServedTablesAreTheSame(t *testing.T) {
	served, err := store.OpenWith(t.TempDir(), store.Options{Database: storetest.Served(t)})
	require.NoError(t, err)
	defer func() { _ = served.Close() }()
	inFolder, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = inFolder.Close() }()
	columns := func(s *store.Store, query string) (all []string) {
		rows, err := s.Pool().Query(query)
		require.NoError(t, err)
		defer func() { _ = rows.Close() }()
		for rows.Next() {
			var one string
			require.NoError(t, rows.Scan(&one))
			all = append(all, one)
		}
		require.NoError(t, rows.Err())
		slices.Sort(all)
		return all
	}
	want := columns(inFolder, `SELECT m.name || '.' || c.name FROM sqlite_master m, pragma_table_info(m.name) c WHERE m.type = 'table' AND m.name NOT LIKE 'found%'`)
	got := columns(served, `SELECT table_name || '.' || column_name FROM information_schema.columns WHERE table_schema = 'public' AND column_name <> 'found'`)
	assert.NotEmpty(t, want)
	assert.Equal(t, want, got)
}

// What is announced is heard by all who listen; one alone does what one does for all, until it ends.
func TestProcessesHearOfEachOther(t *testing.T) {
	address := storetest.Served(t)
	folder := t.TempDir()
	open := func() *store.Store {
		s, err := store.OpenWith(folder, store.Options{Database: address})
		require.NoError(t, err)
		t.Cleanup(func() { _ = s.Close() })
		return s
	}
	a, b := open(), open()
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	heard, ready := make(chan string, 8), make(chan bool, 1)
	go b.Hear(ctx, func(words string) { heard <- words }, func() { ready <- true })
	<-ready
	require.NoError(t, a.Announce(ctx, "the bell"))
	next := func(from chan string) string {
		select {
		case words := <-from:
			return words
		case <-ctx.Done():
			return "nothing"
		}
	}
	assert.Equal(t, "the bell", next(heard))

	order := make(chan string, 4)
	first, end := context.WithCancel(ctx)
	go a.Alone(first, func(ctx context.Context) { order <- "a"; <-ctx.Done(); order <- "a ends" })
	require.Equal(t, "a", next(order))
	go b.Alone(ctx, func(context.Context) { order <- "b" })
	end()
	assert.Equal(t, []string{"a ends", "b"}, []string{next(order), next(order)})
}

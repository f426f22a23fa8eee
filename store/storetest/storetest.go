// Package storetest opens stores for tests: in a folder of their own, or, where MEVRIN_TEST_DATABASE
// names a PostgreSQL server (scripts/with-postgres.sh starts one), in a new database on that.
package storetest

import (
	"context"
	"crypto/rand"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"mevrin/store"
)

// Open opens an empty store, which is closed with the test.
func Open(t testing.TB) *store.Store { return OpenIn(t, t.TempDir()) }

// of are the databases that go with folders.
var of sync.Map

// OpenIn opens the store of a folder, again where it was opened before.
func OpenIn(t testing.TB, folder string) *store.Store {
	t.Helper()
	address, known := of.Load(folder)
	if !known {
		address = database(t)
		of.Store(folder, address)
	}
	s, err := store.OpenWith(folder, store.Options{Database: address.(string)})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// InFolder leaves a test out where a server is named: it is about the database in the folder.
func InFolder(t testing.TB) {
	t.Helper()
	if os.Getenv("MEVRIN_TEST_DATABASE") != "" {
		t.Skip("this is about the database in the folder")
	}
}

// Served gives the address of an empty database on the server; the test is left out where none is
// named.
func Served(t testing.TB) string {
	t.Helper()
	if os.Getenv("MEVRIN_TEST_DATABASE") == "" {
		t.Skip("no PostgreSQL server is named: scripts/with-postgres.sh starts one")
	}
	return database(t)
}

func database(t testing.TB) string {
	server := os.Getenv("MEVRIN_TEST_DATABASE")
	if server == "" {
		return ""
	}
	address, err := url.Parse(server)
	require.NoError(t, err)
	name := "t" + strings.ToLower(rand.Text())
	run := func(sql string) error {
		conn, err := pgx.Connect(context.Background(), server)
		if err != nil {
			return err
		}
		_, err = conn.Exec(context.Background(), sql)
		_ = conn.Close(context.Background())
		return err
	}
	require.NoError(t, run("CREATE DATABASE "+name))
	t.Cleanup(func() { _ = run("DROP DATABASE " + name + " WITH (FORCE)") })
	address.Path = "/" + name
	return address.String()
}

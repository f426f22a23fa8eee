package store_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/people"
	"mevrin/store"
)

// A map put down whole is the same when it is read, and nothing undoes that it
// began.
func TestPutKeepsEverything(t *testing.T) {
	ctx, s, n := context.Background(), open(t, t.TempDir()), 0
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		n++
		m.ID = cm.ID("m" + time.Unix(int64(n), 0).UTC().Format("20060102150405"))
		require.NoError(t, s.All().Put(ctx, m, "ada", nil))
		loaded, _, err := s.All().Load(ctx, m.ID)
		require.NoError(t, err)
		require.Equal(t, doc(t, m), doc(t, loaded))
		history, err := s.All().History(ctx, m.ID)
		require.NoError(t, err)
		require.Empty(t, history.Undoable("ada"))
	})
	require.NoError(t, s.CheckIntegrity(ctx))
}

func names(all []store.Summary) []string {
	var out []string
	for _, m := range all {
		out = append(out, m.Name)
	}
	return out
}

func TestTheLibraryAndItsBin(t *testing.T) {
	ctx, s := context.Background(), open(t, t.TempDir())
	clock := time.Date(2026, 5, 1, 8, 0, 0, 0, time.UTC)
	s.Now = func() time.Time { clock = clock.Add(time.Minute); return clock }
	put := func(id cm.ID, ops ...edit.Operation) *cm.Map {
		out, err := edit.Apply(cm.NewMap(id, "en"), ops, nil)
		require.NoError(t, err)
		require.NoError(t, s.All().Put(ctx, out.Map, "ada", nil))
		return out.Map
	}
	put("empty")
	bell := put("bell", &edit.Ask{Question: "How?"}, &edit.AddConcept{ID: "c", Label: "the\nbell"}, &edit.AddConcept{ID: "d"}, &edit.SetFocus{Concept: "c"},
		&edit.AddLink{ID: "l", From: []cm.End{{ID: "e", Concept: "c"}}, To: []cm.End{{ID: "f", Concept: "d"}}}, &edit.AddRoute{ID: "r"}, &edit.AddStop{ID: "s", Route: "r"})
	put("named", &edit.Ask{Question: "Why?"}, &edit.NameMap{Title: "Casting"})
	list := func() []store.Summary {
		all, err := s.All().List(ctx)
		require.NoError(t, err)
		return all
	}
	bin := func() []store.Summary {
		all, err := s.All().Bin(ctx)
		require.NoError(t, err)
		return all
	}
	assert.Equal(t, []string{"Casting", "the bell", ""}, names(list()))
	assert.Equal(t, store.Summary{ID: "bell", Name: "the bell", Question: "How?", Concepts: 2, Routes: 1, Revision: 1, Changed: list()[1].Changed, Made: list()[1].Made, Allows: people.RightOwn}, list()[1])
	assert.Equal(t, "Why?", list()[0].Question)

	grant, err := s.All().AddGrant(ctx, store.Grant{ID: "g", MapID: "bell", Allows: store.AllowsWalk, Route: "r"})
	require.NoError(t, err)
	require.NoError(t, s.All().Discard(ctx, "bell"))
	require.ErrorIs(t, s.All().Discard(ctx, "bell"), store.ErrNoMap)
	assert.Equal(t, []string{"Casting", ""}, names(list()))
	assert.Equal(t, []string{"the bell"}, names(bin()))
	_, _, err = s.All().Load(ctx, "bell")
	require.ErrorIs(t, err, store.ErrBinned)
	require.ErrorIs(t, s.All().Append(ctx, &store.Entry{Revision: 2, ID: "e2", Window: "w"}, bell), store.ErrStale, "nothing is written to a map in the bin")

	require.NoError(t, s.All().Restore(ctx, "bell"))
	loaded, revision, err := s.All().Load(ctx, "bell")
	require.NoError(t, err)
	assert.Equal(t, doc(t, bell), doc(t, loaded))
	assert.Equal(t, 1, revision)
	_, err = s.Redeem(ctx, grant.Token)
	require.NoError(t, err, "its links lead there again")

	require.ErrorIs(t, s.All().Destroy(ctx, "bell"), store.ErrNoMap, "only what is in the bin is deleted for good")
	require.NoError(t, s.All().Discard(ctx, "bell"))
	require.NoError(t, s.All().Destroy(ctx, "bell"))
	assert.Empty(t, bin())
	_, err = s.Redeem(ctx, grant.Token)
	require.ErrorIs(t, err, store.ErrNoGrant)
	require.NoError(t, s.CheckIntegrity(ctx))
}

func TestALinkOpensUntilItIsClosed(t *testing.T) {
	ctx, folder := context.Background(), t.TempDir()
	s := open(t, folder)
	now := time.Date(2026, 5, 1, 8, 0, 0, 0, time.UTC)
	s.Now = func() time.Time { return now }
	for _, id := range []cm.ID{"m", "other"} {
		_, err := s.All().Create(ctx, id, "en")
		require.NoError(t, err)
	}
	lasting, err := s.All().AddGrant(ctx, store.Grant{ID: "g1", MapID: "m", Allows: store.AllowsWalk, Route: "r"})
	require.NoError(t, err)
	short, err := s.All().AddGrant(ctx, store.Grant{ID: "g2", MapID: "m", Allows: store.AllowsWalk, Route: "r", Until: now.Add(time.Hour)})
	require.NoError(t, err)
	assert.Regexp(t, `^[A-Za-z0-9_-]{22}$`, lasting.Token)
	assert.NotEqual(t, lasting.Token, short.Token)

	opens := func(token string) bool {
		g, err := s.Redeem(ctx, token)
		if err != nil {
			require.ErrorIs(t, err, store.ErrNoGrant)
			return false
		}
		return assert.Equal(t, []cm.ID{"m", "r"}, []cm.ID{g.MapID, g.Route})
	}
	assert.True(t, opens(lasting.Token))
	assert.True(t, opens(short.Token))
	assert.False(t, opens("g1"))
	assert.False(t, opens(""))
	now = now.Add(time.Hour)
	assert.False(t, opens(short.Token), "past its end")
	all, err := s.All().Grants(ctx, "m")
	require.NoError(t, err)
	assert.Equal(t, []store.Grant{lasting}, all)
	require.ErrorIs(t, s.All().Revoke(ctx, "other", "g1"), store.ErrNoGrant, "a link is closed on its own map only")
	require.NoError(t, s.All().Revoke(ctx, "m", "g1"))
	assert.False(t, opens(lasting.Token))
	require.ErrorIs(t, s.All().Revoke(ctx, "m", "g1"), store.ErrNoGrant)

	// Neither token is in the database; with the same folder it is made again.
	third, err := s.All().AddGrant(ctx, store.Grant{ID: "g3", MapID: "m", Allows: store.AllowsWalk, Route: "r"})
	require.NoError(t, err)
	require.NoError(t, s.Close())
	files, err := filepath.Glob(filepath.Join(folder, "*"))
	require.NoError(t, err)
	assert.Contains(t, files, filepath.Join(folder, "secret"))
	for _, file := range files {
		raw, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.NotContains(t, string(raw), third.Token, file)
	}
	s = open(t, folder)
	assert.True(t, opens(third.Token))
	all, err = s.All().Grants(ctx, "m")
	require.NoError(t, err)
	assert.Equal(t, third.Token, all[0].Token)
}

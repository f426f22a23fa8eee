package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/conceptmap/maptest"
	"mevrin/store"
	"mevrin/store/storetest"
)

func open(t testing.TB, folder string) *store.Store { return storetest.OpenIn(t, folder) }

func doc(t require.TestingT, m *cm.Map) string {
	raw, err := document.Write(m)
	require.NoError(t, err)
	return string(raw)
}

// Random entries and undos are appended; the rows, and the log replayed from
// its beginning and back from its end, give each state that there was.
func TestTheLogReplayedIsTheStoredMap(t *testing.T) {
	ctx, s, maps := context.Background(), open(t, t.TempDir()), 0
	rapid.Check(t, func(t *rapid.T) {
		maps++
		id := cm.ID(fmt.Sprintf("map%d", maps))
		m, err := s.All().Create(ctx, id, "en")
		require.NoError(t, err)
		states := []string{doc(t, m)}
		me := &maptest.Author{Name: "a"}
		for range rapid.IntRange(1, 12).Draw(t, "entries") {
			e := &store.Entry{Revision: len(states), ID: cm.ID(fmt.Sprintf("e%d", len(states))), Author: "ada", Window: "w"}
			past, err := s.All().History(ctx, id)
			require.NoError(t, err)
			var out history.Outcome
			if target := past.Undoable("ada"); target != "" && rapid.IntRange(0, 4).Draw(t, "undo") == 0 {
				logged, err := s.All().Entry(ctx, id, target)
				require.NoError(t, err)
				out, e.Undoes = history.Invert(m, logged.Changes), target
				require.Equal(t, states[logged.Revision-1], doc(t, out.Map))
			} else if out, err = edit.Apply(m, []edit.Operation{me.Operation(t, m)}, nil); err != nil {
				continue
			}
			e.Changes = out.Changes
			require.NoError(t, s.All().Append(ctx, e, out.Map))
			m = out.Map
			states = append(states, doc(t, m))
		}
		loaded, revision, err := s.All().Load(ctx, id)
		require.NoError(t, err)
		require.Equal(t, len(states)-1, revision)
		require.Equal(t, states[revision], doc(t, loaded))

		replayed := cm.NewMap(id, "en")
		entries, err := s.All().Since(ctx, id, 0)
		require.NoError(t, err)
		for i, e := range entries {
			replayed, err = history.Replay(replayed, e.Changes)
			require.NoError(t, err)
			require.Equal(t, states[i+1], doc(t, replayed))
		}
		back := rapid.IntRange(0, revision).Draw(t, "back to")
		old, err := s.All().At(ctx, id, back)
		require.NoError(t, err)
		require.Equal(t, states[back], doc(t, old))
		var past []int
		for at := revision; at >= 0; at -= rapid.IntRange(0, 3).Draw(t, "further") + 1 {
			past = append(past, at)
		}
		require.NoError(t, s.All().Past(ctx, id, past, func(at int, m *cm.Map) error {
			require.Equal(t, past[0], at)
			require.Equal(t, states[at], doc(t, m))
			past = past[1:]
			return nil
		}))
		require.Empty(t, past)
	})
	require.NoError(t, s.CheckIntegrity(ctx))
}

func TestAppendIsAllOrNothing(t *testing.T) {
	ctx, s := context.Background(), open(t, t.TempDir())
	m, err := s.All().Create(ctx, "m", "en")
	require.NoError(t, err)
	out, err := edit.Apply(m, []edit.Operation{&edit.AddConcept{ID: "c", Label: "bell"}}, nil)
	require.NoError(t, err)
	first := &store.Entry{Revision: 1, ID: "e1", Author: "ada", Window: "w", Changes: out.Changes}
	require.NoError(t, s.All().Append(ctx, first, out.Map))

	require.ErrorIs(t, s.All().Append(ctx, &store.Entry{Revision: 1, ID: "e2", Author: "ada", Window: "w", Changes: out.Changes}, out.Map), store.ErrStale)
	require.ErrorIs(t, s.All().Append(ctx, &store.Entry{Revision: 2, ID: "e1", Author: "ada", Window: "w"}, out.Map), gorm.ErrDuplicatedKey)
	// A state that its rows cannot hold: a link to a concept that is not there.
	broken, err := history.Replay(out.Map, []history.Change{{Key: cm.Key{Kind: cm.EntityLink, ID: "l"}, After: history.Fields{
		"heads": []byte(`"one"`), "from/a": []byte(`"c"`), "to/b": []byte(`"gone"`)}}})
	require.NoError(t, err)
	err = s.All().Append(ctx, &store.Entry{Revision: 2, ID: "e3", Author: "ada", Window: "w", Changes: []history.Change{{Key: cm.Key{Kind: cm.EntityLink, ID: "l"}, After: history.Fields{}}}}, broken)
	require.ErrorContains(t, err, "not there")
	// The database fails in the midst of a write: nothing of it stays.
	fails := `CREATE TRIGGER full BEFORE INSERT ON entities WHEN new.id = 'full' BEGIN SELECT RAISE(ABORT, 'full'); END`
	if s.Served() {
		fails = `ALTER TABLE entities ADD CHECK (id <> 'full')`
	}
	_, err = s.Pool().Exec(fails)
	require.NoError(t, err)
	more, err := edit.Apply(out.Map, []edit.Operation{&edit.AddConcept{ID: "d", Label: "rim"}, &edit.AddConcept{ID: "full", Label: "lip"}}, nil)
	require.NoError(t, err)
	require.Error(t, s.All().Append(ctx, &store.Entry{Revision: 2, ID: "e4", Author: "ada", Window: "w", Changes: more.Changes}, more.Map))

	loaded, revision, err := s.All().Load(ctx, "m")
	require.NoError(t, err)
	assert.Equal(t, 1, revision)
	assert.Equal(t, doc(t, out.Map), doc(t, loaded))
	require.NoError(t, s.CheckIntegrity(ctx))
	_, _, err = s.All().Load(ctx, "other")
	require.ErrorIs(t, err, store.ErrNoMap)
}

func TestEveryConnectionIsDurable(t *testing.T) {
	storetest.InFolder(t)
	ctx, s := context.Background(), open(t, t.TempDir())
	pool := s.Pool()
	held := make([]*sql.Conn, 0, 8)
	for range 8 { // all at once, so that none is used twice
		c, err := pool.Conn(ctx)
		require.NoError(t, err)
		held = append(held, c)
	}
	for _, c := range held {
		var mode string
		var sync, keys int
		require.NoError(t, c.QueryRowContext(ctx, "PRAGMA journal_mode").Scan(&mode))
		require.NoError(t, c.QueryRowContext(ctx, "PRAGMA synchronous").Scan(&sync))
		require.NoError(t, c.QueryRowContext(ctx, "PRAGMA foreign_keys").Scan(&keys))
		assert.Equal(t, []any{"wal", 2, 1}, []any{mode, sync, keys})
		require.NoError(t, c.Close())
	}
}

func TestAFolderOfANewerVersionIsRefused(t *testing.T) {
	storetest.InFolder(t)
	folder := t.TempDir()
	s := open(t, folder)
	_, err := s.Pool().Exec("INSERT INTO migrations (id) VALUES ('9999-from-the-future')")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, err = store.Open(folder)
	require.ErrorContains(t, err, "newer version")
}

func BenchmarkAppend1000(b *testing.B) {
	ctx, s := context.Background(), open(b, b.TempDir())
	m, err := s.All().Create(ctx, "m", "en")
	require.NoError(b, err)
	out, err := edit.Apply(m, maptest.Large(1000), nil)
	require.NoError(b, err)
	require.NoError(b, s.All().Append(ctx, &store.Entry{Revision: 1, ID: "e1", Changes: out.Changes}, out.Map))
	m = out.Map
	for i := 2; b.Loop(); i++ {
		out, err := edit.Apply(m, []edit.Operation{&edit.NameConcept{Concept: "c00500", Label: fmt.Sprint("renamed ", i)}}, nil)
		require.NoError(b, err)
		require.NoError(b, s.All().Append(ctx, &store.Entry{Revision: i, ID: cm.ID(fmt.Sprintf("e%d", i)), Changes: out.Changes}, out.Map))
		m = out.Map
	}
}

// Whoever reaches one map finds that one and no other, whatever is asked.
func TestAScopeReachesNoFurther(t *testing.T) {
	ctx, s := context.Background(), open(t, t.TempDir())
	for _, id := range []cm.ID{"mine", "theirs"} {
		out, err := edit.Apply(cm.NewMap(id, "en"), []edit.Operation{
			&edit.AddConcept{ID: "bell", Label: "the bell"}, &edit.AddConcept{ID: "rim", Label: "the rim"},
			&edit.AddLink{ID: "l", Phrase: "has " + string(id), From: []cm.End{{ID: "f", Concept: "bell"}}, To: []cm.End{{ID: "t", Concept: "rim"}}}}, nil)
		require.NoError(t, err)
		require.NoError(t, s.All().Put(ctx, out.Map, "ada", nil))
	}
	for scope, want := range map[store.Scope][]cm.ID{store.Everything: {"mine", "theirs"}, store.OneMap("mine"): {"mine"}, {}: nil} {
		r := s.For(scope)
		all, err := r.List(ctx)
		require.NoError(t, err)
		var seen []cm.ID
		for _, one := range all {
			seen = append(seen, one.ID)
		}
		assert.ElementsMatch(t, want, seen)
		_, _, err = r.Load(ctx, "theirs")
		assert.Equal(t, scope.All, err == nil)
		_, err = r.Since(ctx, "theirs", 0)
		assert.Equal(t, scope.All, err == nil)
		_, err = r.Grants(ctx, "theirs")
		assert.Equal(t, scope.All, err == nil)
		_, err = r.OwnPhrases(ctx, "ada")
		assert.Equal(t, scope.All, err == nil)
		said, _ := r.SaidElsewhere(ctx, "mine", func(string) bool { return true })
		assert.Equal(t, scope.All, len(said) > 0)
		phrases, _ := r.PhrasesElsewhere(ctx, "mine")
		assert.Equal(t, scope.All, len(phrases) > 0)
	}
}

package store_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/store/storetest"
)

// Words are found wherever they stand on maps in reach, by their beginnings and without their accents; what
// is taken off is found no more, nor what is in the bin or belongs to others.
func TestWordsAreSoughtOnAllMaps(t *testing.T) {
	s := storetest.Open(t)
	ctx := t.Context()
	ada, ben := s.For(store.Scope{Person: "ada"}), s.For(store.Scope{Person: "ben"})
	end := func(id, c cm.ID) []cm.End { return []cm.End{{ID: id, Concept: c}} }
	require.NoError(t, ada.Import(ctx, "m", "en", [][]edit.Operation{
		{&edit.Ask{Question: "Why does bronze ring?"}, &edit.AddConcept{ID: "a", Label: "the clöche"}, &edit.AddConcept{ID: "b", Label: "the tower"}},
		{&edit.AddLink{ID: "l", Phrase: "hums in", From: end("f", "a"), To: end("t", "b")}, &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: "b"}, Note: "of stone"}},
		{&edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: "b"}, ID: "s", Source: cm.Source{URL: "https://hollin.example/", Title: "The Hollin foundry"}}},
	}))
	find := func(r *store.Reach, words string) (out []string) {
		hits, err := r.Search(ctx, words, 20)
		require.NoError(t, err, words)
		for _, h := range hits {
			out = append(out, fmt.Sprintf("%s %s %s|%s|%s", h.MapID, h.Entity, h.From, strings.ReplaceAll(h.Words, "\n", "/"), h.To))
		}
		slices.Sort(out)
		return out
	}
	for words, want := range map[string][]string{
		"cloch": {"m concept |the clöche|", "m link the clöche|hums in|the tower"}, "CLÖCHE": {"m concept |the clöche|", "m link the clöche|hums in|the tower"},
		"cloche hums tower": {"m link the clöche|hums in|the tower"}, "hum": {"m link the clöche|hums in|the tower"}, "stone of": {"m concept |the tower/of stone/The Hollin foundry|"},
		"foundry": {"m concept |the tower/of stone/The Hollin foundry|"}, "bronze ring": {"m map |Why does bronze ring?|"}, "bronze tower": nil, "": nil, `"*() NEAR -^:`: nil, "gone": nil,
	} {
		assert.Equal(t, want, find(ada, words), words)
		assert.Empty(t, find(ben, words), words)
	}
	m, revision, err := ada.Load(ctx, "m")
	require.NoError(t, err)
	out, err := edit.Apply(m, []edit.Operation{&edit.NameConcept{Concept: "a", Label: "the bell"}, &edit.Remove{Concepts: []cm.ID{"b"}}}, nil)
	require.NoError(t, err)
	require.NoError(t, ada.Append(ctx, &store.Entry{Revision: revision + 1, ID: "x", Author: "ada", Changes: out.Changes}, out.Map))
	assert.Empty(t, find(ada, "clöche"))
	assert.Empty(t, find(ada, "stone"))
	assert.Len(t, find(ada, "the bell"), 1)
	require.NoError(t, ada.Discard(ctx, "m"))
	assert.Empty(t, find(ada, "bell"))
	require.NoError(t, ada.Destroy(ctx, "m"))
	var left int64
	require.NoError(t, s.Pool().QueryRow("SELECT count(*) FROM words").Scan(&left))
	assert.Zero(t, left)
	if !s.Served() {
		_, err := s.Pool().Exec("INSERT INTO found(found) VALUES ('integrity-check')")
		assert.NoError(t, err)
	}
}

// Whatever is done to a map, the words that are kept for it are those that it holds; and a folder that has
// none of them gets them when it is opened.
func TestTheWordsThatAreSoughtFollowTheMap(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(folder)
	require.NoError(t, err)
	words := func() string {
		rows, err := s.Pool().Query("SELECT map_id || '/' || id || '/' || entity || '/' || words FROM words ORDER BY map_id, id")
		require.NoError(t, err)
		defer func() { _ = rows.Close() }()
		all := ""
		for rows.Next() {
			var one string
			require.NoError(t, rows.Scan(&one))
			all += one + "\n"
		}
		return all
	}
	n := 0
	rapid.Check(t, func(r *rapid.T) {
		n++
		id := cm.ID(fmt.Sprint("m", n))
		m, err := s.All().Create(context.Background(), id, "en")
		require.NoError(r, err)
		me := &maptest.Author{Name: fmt.Sprint("a", n)}
		revision := 0
		for range rapid.IntRange(1, 12).Draw(r, "entries") {
			out, err := edit.Apply(m, []edit.Operation{me.Operation(r, m)}, nil)
			if err != nil {
				continue
			}
			revision++
			require.NoError(r, s.All().Append(context.Background(), &store.Entry{Revision: revision, ID: cm.ID(fmt.Sprint("e", revision)), Author: "author", Changes: out.Changes}, out.Map))
			m = out.Map
		}
	})
	was := words()
	require.NotEmpty(t, was)
	_, err = s.Pool().Exec("DELETE FROM words")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	s, err = store.Open(folder)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	assert.True(t, was == words(), "words made anew are not those that were kept")
}

// word gives one of some 2,000 made-up words, the first ones far more often.
func word(n int) string {
	n = (n * 2654435761 >> 7) & 0xffff
	n = n * n / 0xffff * 2000 / 0xffff
	return string(rune('a'+n%26)) + string(rune('a'+n/26%26)) + "bell" + string(rune('a'+n/676))
}

func BenchmarkSearch10000(b *testing.B) {
	s, err := store.Open(b.TempDir())
	require.NoError(b, err)
	defer func() { _ = s.Close() }()
	for i := range 10_000 {
		m, err := s.All().Create(b.Context(), cm.ID(fmt.Sprint("m", i)), "en")
		require.NoError(b, err)
		var ops []edit.Operation
		for j := range 8 {
			ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprint("c", j)), Label: fmt.Sprintf("%s %s of %s", word(i*31+j*7), word(i+j*j*13), word(i*j+5)), At: cm.Point{X: float64(j) * 200}})
		}
		out, err := edit.Apply(m, ops, nil)
		require.NoError(b, err)
		require.NoError(b, s.All().Append(b.Context(), &store.Entry{Revision: 1, ID: "e", Author: "author", Changes: out.Changes}, out.Map))
	}
	b.Run("the list of them", func(b *testing.B) {
		for b.Loop() {
			all, n, err := s.All().ListOf(b.Context(), store.Listing{Section: store.SectionOwn, By: store.OrderName, Most: 60})
			require.NoError(b, err)
			require.Equal(b, []int{60, 10_000}, []int{len(all), n})
		}
	})
	for _, by := range []store.Order{store.OrderChanged, store.OrderName} {
		b.Run("those that are open to all, by "+string(by), func(b *testing.B) {
			for i := 0; b.N == 1 && i < 10_000; i++ {
				require.NoError(b, s.All().SetOpen(b.Context(), cm.ID(fmt.Sprint("m", i)), people.RightLook))
			}
			for b.Loop() {
				all, n, err := s.For(store.Scope{Person: "ben"}).ListOf(b.Context(), store.Listing{Section: store.SectionOpen, By: by, Most: 60})
				require.NoError(b, err)
				require.Equal(b, []int{60, 10_000}, []int{len(all), n})
			}
		})
	}
	for _, words := range []string{word(3), word(9) + " of", word(1)[:3]} {
		b.Run(words, func(b *testing.B) {
			for b.Loop() {
				hits, err := s.All().Search(b.Context(), words, 300)
				require.NoError(b, err)
				require.NotEmpty(b, hits)
			}
		})
	}
}

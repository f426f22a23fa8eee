package web_test

import (
	"archive/zip"
	"bytes"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/conceptmap/document"
	"mevrin/core/people"
	"mevrin/store"
)

// Somebody takes out all that is theirs, and ends their account: their maps are handed on or deleted, and what they said
// on maps of others stays without their name.
func TestSomebodyLeaves(t *testing.T) {
	folder, accounts, browser := shared(t)
	ada := linked(t, folder)
	sign := func(id, name string) *someone {
		require.NoError(t, folder.AddPerson(t.Context(), person(id, name), "none"))
		token, err := folder.SignIn(t.Context(), id, "")
		require.NoError(t, err)
		b := browser()
		b.cookie = "mevrin-person=" + token
		return b
	}
	ben, cleo := sign("ben", "Ben Tull"), sign("cleo", "Cleo Marsh")
	require.NoError(t, ada.ShareWith(t.Context(), "m", "ben", people.RightEdit))
	status, answer := ben.json("/maps/m/entries", entry("k", "w", 1, `[{"do":"add-comment","id":"k","on":{"kind":"concept","id":"bell"},"words":"Which one?"}]`))
	require.Equal(t, 200, status, answer)
	_, _, at := ben.post("/maps", "question", "What is tin?", "begin", "concept")
	_, _, second := cleo.post("/maps", "question", "What is a rope?", "begin", "concept")

	_, raw, _ := ben.ask("GET", "/account/all", "")
	z, err := zip.NewReader(bytes.NewReader([]byte(raw)), int64(len(raw)))
	require.NoError(t, err)
	held := map[string]string{}
	for _, f := range z.File {
		in, err := f.Open()
		require.NoError(t, err)
		content, err := io.ReadAll(in)
		require.NoError(t, err)
		held[f.Name] = string(content)
	}
	require.Len(t, held, 2, "the map of another is not Ben's")
	assert.Contains(t, held["account.json"], "Which one?")
	assert.Contains(t, held["account.json"], "ben@hollin.example")
	for name, content := range held {
		if name != "account.json" {
			m, err := document.Read([]byte(content))
			require.NoError(t, err)
			assert.Equal(t, "What is tin?", m.Words(m.Question))
		}
	}
	// What is of others is taken out in sight.
	status, _, _ = ben.ask("GET", "/maps/m/document", "")
	assert.Equal(t, 200, status)
	status, _, _ = ben.ask("GET", at+"/document", "")
	assert.Equal(t, 200, status)
	deeds, err := folder.Deeds(t.Context(), 50)
	require.NoError(t, err)
	exported := 0
	for _, d := range deeds {
		if d.Deed == "exported" {
			exported++
			assert.Equal(t, []string{"ben", "m /maps/:map/document"}, []string{d.Person, d.About})
		}
	}
	assert.Equal(t, 1, exported)

	for _, bad := range []string{"maps=give&heir=ben&proof=ben@hollin.example", "maps=give&heir=none&proof=ben@hollin.example", "maps=give&heir=&proof=ben@hollin.example", "maps=give&heir=cleo&proof=else@hollin.example"} {
		status, _, _ = ben.ask("POST", "/account/leave", bad)
		assert.Equal(t, 422, status, bad)
	}
	status, _, _ = ben.ask("POST", "/account/leave", "maps=give&heir=cleo&proof=ben@hollin.example")
	assert.Equal(t, 200, status)
	status, _, _ = ben.ask("GET", "/", "")
	assert.Equal(t, 303, status)
	status, _, _ = cleo.ask("GET", at, "")
	assert.Equal(t, 200, status, "the map is Cleo's now")
	m, _, err := ada.Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, []string{"", "Which one?"}, []string{m.Comments["k"].Name, m.Comments["k"].Words})

	secret, err := accounts.Hash(t.Context(), "bronze rope lantern")
	require.NoError(t, err)
	require.NoError(t, folder.SetSecret(t.Context(), "cleo", secret, signInOf(t, folder, cleo)))
	status, _, _ = cleo.ask("POST", "/account/leave", "maps=delete&proof=cleo@hollin.example")
	assert.Equal(t, 422, status, "she has a password")
	status, _, _ = cleo.ask("POST", "/account/leave", "maps=delete&proof=bronze+rope+lantern")
	assert.Equal(t, 200, status)
	for _, path := range []string{at, second} {
		r, err := folder.RightOn(t.Context(), "ada", mapOf(path))
		require.NoError(t, err)
		assert.Empty(t, r)
		_, _, err = folder.All().Load(t.Context(), mapOf(path))
		assert.ErrorIs(t, err, store.ErrNoMap)
	}
	token, err := folder.SignIn(t.Context(), "ada", "")
	require.NoError(t, err)
	me := browser()
	me.cookie = "mevrin-person=" + token
	status, page, _ := me.ask("POST", "/account/leave", "maps=delete&proof=ada@hollin.example")
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "Somebody has to be the owner")
	_, _, err = ada.Load(t.Context(), "m")
	assert.NoError(t, err)
}

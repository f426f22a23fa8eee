package main

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/people"
	"mevrin/store"
)

// The owner looks after accounts without a browser, also while Mevrin runs.
func TestAccountsAreLookedAfterWithoutABrowser(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	running, err := store.Open(data)
	require.NoError(t, err)
	defer func() { _ = running.Close() }()
	for _, p := range []people.Person{{ID: "author", Name: "Ines", Mail: "ines@hollin.example", Role: people.RoleOwner}, {ID: "jory", Name: "Jory", Mail: "jory@hollin.example", Role: people.RoleAuthor}} {
		require.NoError(t, running.AddPerson(t.Context(), p, "none"))
	}
	_, err = running.For(store.Scope{Person: "jory"}).Create(t.Context(), "m", "en")
	require.NoError(t, err)
	_, err = running.SignIn(t.Context(), "jory", "")
	require.NoError(t, err)
	users := func(args ...string) (string, error) {
		var out bytes.Buffer
		c := rootCommand()
		c.SetOut(&out)
		c.SetArgs(append([]string{"users", "--data", data, "--at", "https://maps.hollin.example"}, args...))
		err := c.ExecuteContext(t.Context())
		return out.String(), err
	}
	out, err := users("list")
	require.NoError(t, err)
	assert.Equal(t, "ines@hollin.example  Ines  owner\njory@hollin.example  Jory  author\n", out)
	out, err = users("invite", "fern@hollin.example", "--role", "learner")
	require.NoError(t, err)
	assert.Regexp(t, `^https://maps\.hollin\.example/join/\S+\n$`, out)
	out, err = users("password", "jory@hollin.example")
	require.NoError(t, err)
	assert.Contains(t, out, "/password/")
	_, err = users("role", "jory@hollin.example", "learner")
	require.NoError(t, err)
	p, _, err := running.Person(t.Context(), "jory")
	require.NoError(t, err)
	assert.Equal(t, people.RoleLearner, p.Role)
	_, err = users("sign-out", "jory@hollin.example")
	require.NoError(t, err)
	in, err := running.SignIns(t.Context(), "jory")
	require.NoError(t, err)
	assert.Empty(t, in)
	for _, bad := range [][]string{{"role", "ines@hollin.example", "learner"}, {"role", "jory@hollin.example", "king"}, {"remove", "none@hollin.example", "--to", "ines@hollin.example"}, {"remove", "jory@hollin.example"}, {"remove", "jory@hollin.example", "--to", "jory@hollin.example"}, {"invite", "nobody"}} {
		_, err = users(bad...)
		assert.Error(t, err, bad)
	}
	_, err = users("remove", "jory@hollin.example", "--to", "ines@hollin.example")
	require.NoError(t, err)
	right, err := running.RightOn(t.Context(), "author", "m")
	require.NoError(t, err)
	assert.Equal(t, people.RightOwn, right)
}

// A backup can be led elsewhere as it is written; nothing else is in it.
func TestABackupIsWrittenOut(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	running, err := store.Open(data)
	require.NoError(t, err)
	defer func() { _ = running.Close() }()
	_, err = running.All().Create(t.Context(), "bells", "en")
	require.NoError(t, err)
	run := func(args ...string) (out, said bytes.Buffer) {
		c := rootCommand()
		c.SetOut(&out)
		c.SetErr(&said)
		c.SetArgs(args)
		require.NoError(t, c.ExecuteContext(t.Context()))
		return out, said
	}
	raw, said := run("backup", "-", "--data", data)
	assert.Equal(t, "maps 1 · files 0 in what was written\n", said.String())
	file, again := filepath.Join(t.TempDir(), "led.zip"), filepath.Join(t.TempDir(), "again")
	require.NoError(t, os.WriteFile(file, raw.Bytes(), 0o600))
	out, _ := run("restore", file, "--data", again)
	assert.Contains(t, out.String(), "maps 1 · files 0")
	assert.NoFileExists(t, "-")
}

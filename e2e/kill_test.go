package e2e_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/history"
	"mevrin/e2e/drive"
	"mevrin/store"
)

// writer sends edits to a map as fast as they are answered, and keeps the ids
// of those that were, with their revisions.
type writer struct {
	base     string
	name     string
	sent     int
	answered map[string]int
	begun    chan<- struct{} // told of the first answers
}

// run goes on until the server is gone.
func (w *writer) run(stop <-chan struct{}) {
	for {
		select {
		case <-stop:
			return
		default:
		}
		w.sent++
		id := fmt.Sprintf("%s-%d", w.name, w.sent)
		ops := fmt.Sprintf(`[{"do":"add-concept","id":"c%s","label":"idea %d","at":{"x":%d,"y":%d}}]`, id, w.sent, rand.IntN(2000), rand.IntN(2000))
		switch w.sent % 4 {
		case 2:
			ops = fmt.Sprintf(`[{"do":"add-link","id":"l%s","phrase":"meets","from":[{"id":"f","concept":"c%s-%d"}],"to":[{"id":"t","concept":"bell"}]}]`, id, w.name, w.sent-1)
		case 3:
			ops = fmt.Sprintf(`[{"do":"move","places":{"c%s-%d":{"x":%d,"y":5}}},{"do":"name-concept","concept":"bell","label":"bell %s"}]`, w.name, w.sent-2, w.sent, id)
		}
		body := fmt.Sprintf(`{"id":"g%s","window":"%s","seen":1,"operations":%s}`, id, w.name, ops)
		if w.sent%4 == 0 {
			body = fmt.Sprintf(`{"id":"g%s","window":"%s","seen":1,"back":"undo"}`, id, w.name)
		}
		response, err := http.Post(w.base+"/maps/bell-sound/entries", "application/json", bytes.NewBufferString(body))
		if err != nil {
			return
		}
		raw, err := io.ReadAll(response.Body)
		_ = response.Body.Close()
		var answer struct{ Revision int }
		if err != nil || response.StatusCode != http.StatusOK || json.Unmarshal(raw, &answer) != nil {
			continue // refused, since what it builds on was undone, or cut off
		}
		w.answered["g"+id] = answer.Revision
		select {
		case w.begun <- struct{}{}:
		default:
		}
	}
}

// killAmidEdits starts a server, lets hands edit, kills it after a while, and
// looks at what it left. It gives the number of entries that had been answered
// and how many of them are lost.
func killAmidEdits(t *testing.T, binary, data string, round int, after time.Duration) (answered, lost int) {
	app := drive.Start(t, binary, "demo", data)
	stop, begun := make(chan struct{}), make(chan struct{}, 1000)
	var all sync.WaitGroup
	writers := make([]*writer, 3)
	for i := range writers {
		writers[i] = &writer{base: app.URL, name: fmt.Sprintf("r%dw%d", round, i), answered: map[string]int{}, begun: begun}
		all.Go(func() { writers[i].run(stop) })
	}
	select {
	case <-begun:
	case <-time.After(10 * time.Second):
	}
	time.Sleep(after) // not a wait for anything: it chooses the moment of death
	app.Kill()
	close(stop)
	all.Wait()

	ctx := context.Background()
	s, err := store.Open(data)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	require.NoError(t, s.CheckIntegrity(ctx), "round %d", round)
	for _, w := range writers {
		for id, revision := range w.answered {
			answered++
			e, err := s.All().Entry(ctx, "bell-sound", cm.ID(id))
			require.NoError(t, err)
			if e == nil || e.Revision != revision {
				lost++
			}
		}
	}
	// The rows are what the log leads to.
	m, revision, err := s.All().Load(ctx, "bell-sound")
	require.NoError(t, err)
	if round%20 == 0 {
		entries, err := s.All().Since(ctx, "bell-sound", 0)
		require.NoError(t, err)
		require.Len(t, entries, revision)
		replayed := cm.NewMap("bell-sound", "en")
		for _, e := range entries {
			replayed, err = history.Replay(replayed, e.Changes)
			require.NoError(t, err)
		}
		a, err := document.Write(m)
		require.NoError(t, err)
		b, err := document.Write(replayed)
		require.NoError(t, err)
		require.Equal(t, string(a), string(b))
	}
	return answered, lost
}

// Again and again the process is killed amid edits, at a moment of chance: MEVRIN_KILLS
// says how often.
func TestWhatWasAnsweredSurvivesTheProcess(t *testing.T) {
	t.Parallel()
	data, answered, kills := t.TempDir(), 0, 6
	if n, err := strconv.Atoi(os.Getenv("MEVRIN_KILLS")); err == nil {
		kills = n
	}
	for round := range kills {
		n, lost := killAmidEdits(t, binary, data, round, time.Duration(5+rand.IntN(180))*time.Millisecond)
		require.Zero(t, lost, "round %d", round)
		answered += n
	}
	assert.Greater(t, answered, kills, "the kills came amid edits")
	t.Logf("%d entries were answered, none is lost", answered)
}

// The same test must find a server that answers before it has written: such a
// binary is built here on purpose.
func TestTheKillTestSeesAnAnswerGivenTooEarly(t *testing.T) {
	t.Parallel()
	inSoak(t)
	dir := t.TempDir()
	early := build(t, dir, "early", "-tags", "answerearly")
	lost := 0
	for round := range 10 {
		data := filepath.Join(dir, fmt.Sprint(round))
		require.NoError(t, os.MkdirAll(data, 0o700))
		prepared := drive.Start(t, binary, "demo", data)
		prepared.Kill()
		_, gone := killAmidEdits(t, early, data, round+1, 120*time.Millisecond)
		if lost += gone; lost > 0 {
			return
		}
	}
	t.Fatal("no entry was ever lost: the kill test cannot see what it is for")
}

// inSoak leaves a long test to make soak, so that the daily run stays within its minutes.
func inSoak(t *testing.T) {
	t.Helper()
	if os.Getenv("MEVRIN_KILLS") == "" {
		t.Skip("make soak runs it")
	}
}

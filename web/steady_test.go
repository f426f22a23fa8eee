package web_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/store"
	"mevrin/store/storetest"
	"mevrin/workspace"
)

// Many maps in use, more than are kept in memory: whoever edits one reads their own
// edit back, and whoever listens to one hears of each. Run with -race it holds, too,
// that views, edits and catching up share nothing that two alter at once.
func TestManyMapsInUseAreNeverStale(t *testing.T) {
	s := serve(t, t.TempDir())
	const maps, edits = 24, 5
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(12), nil)
	require.NoError(t, err)
	for i := range maps {
		m := *out.Map
		m.ID = cm.ID(fmt.Sprint("map", i))
		require.NoError(t, s.store.All().Put(t.Context(), &m, "author", nil))
	}
	old := s.smallMemory(t) // a fraction of what they take together
	var all sync.WaitGroup
	var heard atomic.Int64
	for i := range maps {
		base := fmt.Sprint("/maps/map", i)
		conn, _, err := websocket.Dial(t.Context(), "ws"+strings.TrimPrefix(old.URL, "http")+base+"/live?window=ear", nil)
		require.NoError(t, err)
		defer func() { _ = conn.CloseNow() }()
		all.Go(func() {
			ctx, cancel := context.WithTimeout(t.Context(), 60*time.Second)
			defer cancel()
			for e := (struct{ Revision int }{}); e.Revision < 1+edits; {
				if !assert.NoError(t, wsjson.Read(ctx, conn, &e)) {
					return
				}
			}
			heard.Add(1)
		})
		all.Go(func() {
			for n := range edits {
				words := fmt.Sprintf("%d of %d", n, i)
				body := entry(fmt.Sprintf("g%d-%d", i, n), "w", 1, fmt.Sprintf(`[{"do":"ask","question":%q}]`, words))
				status, answer := post(t, old, base+"/entries", body)
				assert.Equal(t, 200, status, answer)
				_, read := get(t, old, base+"/changes?since=999999")
				assert.Contains(t, read, words, "what was answered is read back")
				_, _ = post(t, old, base+"/view", fmt.Sprintf(`{"window":"w","tuck":["c0000%d"]}`, n%4))
				_, _ = get(t, old, fmt.Sprintf("%s/changes?since=%d", base, n))
			}
		})
	}
	all.Wait()
	assert.EqualValues(t, maps, heard.Load())
}

func post(t *testing.T, s *httptest.Server, path, body string) (int, string) {
	return (&served{Server: s, t: t, client: http.DefaultClient}).post(path, body)
}

func get(t *testing.T, s *httptest.Server, path string) (int, string) {
	return (&served{Server: s, t: t, client: http.DefaultClient}).get(path)
}

// One map, many people, each with a view of their own, edits meanwhile: for -race.
func TestViewsAndEditsAtOnce(t *testing.T) {
	s := serve(t, t.TempDir())
	app := httptest.NewServer(handler(t, s.config(byHeader{})))
	defer app.Close()
	var all sync.WaitGroup
	for who := range 12 {
		all.Go(func() {
			ask := func(method, path, body string) int {
				request, _ := http.NewRequest(method, app.URL+path, strings.NewReader(body))
				request.Header.Set("Person", fmt.Sprint("p", who))
				response, err := http.DefaultClient.Do(request)
				if !assert.NoError(t, err) {
					return 0
				}
				defer func() { _ = response.Body.Close() }()
				return response.StatusCode
			}
			for n := range 6 {
				assert.Equal(t, 200, ask("POST", "/maps/m/view", fmt.Sprintf(`{"window":"w","tuck":["c0000%d"]}`, (who+n)%6)))
				assert.Equal(t, 200, ask("POST", "/maps/m/entries", entry(fmt.Sprintf("g%d-%d", who, n), "w", 1, fmt.Sprintf(`[{"do":"ask","question":"%d %d"}]`, who, n))))
				assert.Equal(t, 200, ask("GET", "/maps/m/changes?since=1", ""))
				assert.Equal(t, 200, ask("GET", "/maps/m/margin", ""))
			}
		})
	}
	all.Wait()
	_, revision, err := s.store.All().Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Equal(t, 1+12*6, revision)
}

// Whoever asked goes away while their edit is being written: it is there, and so is
// the next one.
func TestACancelledRequestLeavesNothingBehind(t *testing.T) {
	s := serve(t, t.TempDir())
	for i := range 120 {
		ctx, cancel := context.WithCancel(t.Context())
		request, err := http.NewRequestWithContext(ctx, "POST", s.URL+"/maps/m/entries", strings.NewReader(entry(fmt.Sprint("cut", i), "w", 1, fmt.Sprintf(`[{"do":"ask","question":"cut %d"}]`, i))))
		require.NoError(t, err)
		go func() { time.Sleep(time.Duration(i%40) * 250 * time.Microsecond); cancel() }()
		if response, err := http.DefaultClient.Do(request); err == nil {
			_ = response.Body.Close()
		}
		// What is read is what is stored, whether it came in time or not.
		require.Eventually(t, func() bool {
			var read struct{ Revision int }
			_, page := s.get("/maps/m/changes?since=999999")
			_, stored, err := s.store.All().Load(t.Context(), "m")
			return err == nil && json.Unmarshal([]byte(page), &read) == nil && read.Revision == stored
		}, 3*time.Second, 5*time.Millisecond, i)
		status, answer := s.post("/maps/m/entries", entry(fmt.Sprint("next", i), "w", 1, fmt.Sprintf(`[{"do":"ask","question":"next %d"}]`, i)))
		require.Equal(t, 200, status, answer)
		m := s.load("m")
		require.Equal(t, fmt.Sprint("next ", i), m.Words(m.Question))
		_, page := s.get("/maps/m/changes?since=999999")
		require.Contains(t, page, fmt.Sprint("next ", i))
	}
	require.NoError(t, s.store.CheckIntegrity(t.Context()))
}

// Somebody else wrote to the map behind the session: the entry is applied to what is
// there, not refused and not written over it.
func TestAStaleDeskReadsAnew(t *testing.T) {
	s := serve(t, t.TempDir())
	_, _ = s.get("/maps/m/changes?since=0") // the session holds revision 1
	m, revision, err := s.store.All().Load(t.Context(), "m")
	require.NoError(t, err)
	out, err := edit.Apply(m, []edit.Operation{&edit.Ask{Question: "From elsewhere?"}}, nil)
	require.NoError(t, err)
	require.NoError(t, s.store.All().Append(t.Context(), &store.Entry{Revision: revision + 1, ID: "else", Author: "other", Window: "x", Changes: out.Changes}, out.Map))
	status, body := s.post("/maps/m/entries", entry("g1", "w", 1, `[{"do":"name-map","title":"Both"}]`))
	require.Equal(t, 200, status, body)
	var answer struct{ Revision int }
	require.NoError(t, json.Unmarshal([]byte(body), &answer))
	assert.Equal(t, 3, answer.Revision)
	m = s.load("m")
	assert.Equal(t, []string{"Both", "From elsewhere?"}, []string{m.Words(m.Title), m.Words(m.Question)})
}

// A full disk is said to be one, and the same entry can be sent again.
func TestAFullDiskIsSaid(t *testing.T) {
	storetest.InFolder(t)
	s := serve(t, t.TempDir())
	s.store.Pool().SetMaxOpenConns(1)
	_, err := s.store.Pool().Exec("PRAGMA max_page_count = 1")
	require.NoError(t, err)
	body := entry("g1", "w", 1, `[{"do":"set-note","on":{"kind":"concept","id":"c00001"},"note":"`+strings.Repeat("long ", 3900)+`"}]`)
	status, answer := s.post("/maps/m/entries", body)
	assert.Equal(t, http.StatusServiceUnavailable, status, answer)
	assert.Contains(t, answer, "full or busy")
	_, err = s.store.Pool().Exec("PRAGMA max_page_count = 1000000")
	require.NoError(t, err)
	status, answer = s.post("/maps/m/entries", body)
	assert.Equal(t, http.StatusOK, status, answer)
}

// One id is one entry: another one under it is refused, also after a restart; undo and
// redo are others than operations.
func TestAnIDNamesOneEntry(t *testing.T) {
	data := t.TempDir()
	s := serve(t, data)
	first := entry("g1", "w", 1, `[{"do":"ask","question":"First?"}]`)
	status, _ := s.post("/maps/m/entries", first)
	require.Equal(t, 200, status)
	check := func() {
		for body, want := range map[string]int{
			first: 200, strings.ReplaceAll(first, `"seen":1`, `"seen":9`): 200,
			entry("g1", "w", 1, `[ {"do": "ask", "question": "First?"} ]`): 200,
			entry("g1", "w", 1, `[{"do":"ask","question":"Second?"}]`):     409,
			`{"id":"g1","window":"w","seen":1,"back":"undo"}`:              409,
		} {
			status, answer := s.post("/maps/m/entries", body)
			assert.Equal(t, want, status, body)
			if want == 409 {
				assert.Contains(t, answer, "has that name already")
			}
		}
		m := s.load("m")
		assert.Equal(t, "First?", m.Words(m.Question))
	}
	check()
	s.stop()
	s = serve(t, data)
	check()
}

// An entry that changed nothing is no step of undo, before and after a restart.
func TestIdleEntriesAreNoSteps(t *testing.T) {
	data := t.TempDir()
	s := serve(t, data)
	for i := range 2 { // the second time it is called so already
		status, body := s.post("/maps/m/entries", entry(fmt.Sprint("g", i), "w", 1, `[{"do":"name-map","title":"Bells"}]`))
		require.Equal(t, 200, status, body)
	}
	s.stop()
	s = serve(t, data)
	status, body := s.post("/maps/m/entries", `{"id":"u","window":"w","seen":1,"back":"undo"}`)
	require.Equal(t, 200, status)
	assert.Contains(t, body, `"undo":false`)
	m := s.load("m")
	assert.Empty(t, m.Title)
}

// Whatever others compute, an edit is made at once, and so is what is
// put in order soon.
func TestNobodyWaitsForWhatOthersCompute(t *testing.T) {
	s := serve(t, t.TempDir())
	out, err := edit.Apply(cm.NewMap("big", "en"), maptest.Large(12), nil)
	require.NoError(t, err)
	require.NoError(t, s.store.All().Put(t.Context(), out.Map, "author", nil))
	s.get("/maps/big")          // fonts are read, and the map is drawn once
	for range workspace.Turns { // others compute
		done, err := workspace.TakeTurn(t.Context())
		require.NoError(t, err)
		defer done()
	}
	answered := make(chan int, 2)
	go func() {
		for i, ops := range []string{`[{"do":"name-concept","concept":"c00003","label":"another"}]`, `[{"do":"tidy","pattern":"rows"}]`} {
			status, _ := s.post("/maps/big/entries", entry(fmt.Sprint("g", i), "w", 1, ops))
			answered <- status
		}
	}()
	for range 2 {
		select {
		case status := <-answered:
			assert.Equal(t, http.StatusOK, status)
		case <-time.After(20 * time.Second): // it would wait for 30
			t.Fatal("it waits for others")
		}
	}
}

package web_test

import (
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/people"
	"mevrin/store"
	"mevrin/store/storetest"
	"mevrin/web"
	"mevrin/workspace"
)

// Two processes serve one school from one database: whoever works at the one sees at once what is done at the
// other, is told who is there and who wrote over them, nothing is lost where both write, and a right that is
// taken away at the one ends at the other.
func TestTwoProcessesServeOneSchool(t *testing.T) {
	address, data := storetest.Served(t), t.TempDir()
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	var at [2]string
	var folders [2]*store.Store
	for i := range at {
		folder, err := store.OpenWith(data, store.Options{Database: address})
		require.NoError(t, err)
		t.Cleanup(func() { _ = folder.Close() })
		served := httptest.NewServer(handler(t, web.Config{Store: folder, Access: web.ByAccount{Store: folder}, Accounts: workspace.NewAccounts(folder), Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}, Context: ctx}))
		t.Cleanup(served.Close)
		at[i], folders[i] = served.URL, folder
	}
	ada := linked(t, folders[0])
	require.NoError(t, folders[1].AddPerson(ctx, person("ben", "Ben Tull"), "none"))
	require.NoError(t, ada.ShareWith(ctx, "m", "ben", people.RightEdit))
	who := map[string]*someone{}
	for i, id := range []string{"ada", "ben"} {
		token, err := folders[i].SignIn(ctx, id, "")
		require.NoError(t, err)
		who[id] = &someone{t: t, base: at[i], cookie: "mevrin-person=" + token}
	}
	listen := func(id string) func(holds func(workspace.Event) bool) workspace.Event {
		conn, _, err := websocket.Dial(ctx, "ws"+strings.TrimPrefix(who[id].base, "http")+"/maps/m/live?window=w-"+id, &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {who[id].cookie}}})
		require.NoError(t, err)
		t.Cleanup(func() { _ = conn.CloseNow() })
		return func(holds func(workspace.Event) bool) workspace.Event {
			t.Helper()
			for {
				var e workspace.Event
				require.NoError(t, wsjson.Read(ctx, conn, &e))
				if holds(e) {
					return e
				}
			}
		}
	}
	name := func(id, words string, n, seen int) (int, string) {
		return who[id].json("/maps/m/entries", fmt.Sprintf(`{"id":"%s-%d","window":"w-%s","seen":%d,"operations":[{"do":"name-concept","concept":"bell","label":%q}]}`, id, n, id, seen, words))
	}
	adaHears, benHears := listen("ada"), listen("ben")
	here := func(e workspace.Event) bool { return e.Here != nil && len(*e.Here) == 1 }
	assert.Equal(t, "Ben Tull", (*adaHears(here).Here)[0].Name)
	assert.Equal(t, "Ada", (*benHears(here).Here)[0].Name)

	status, answer := name("ada", "tower bell", 1, 1)
	require.Equal(t, 200, status, answer)
	benHears(func(e workspace.Event) bool { return e.Revision == 2 })
	status, page, _ := who["ben"].ask("GET", "/maps/m", "")
	require.Equal(t, 200, status)
	assert.Contains(t, page, "tower")
	// Ben has not seen it yet, and writes over it: Ada is told, at the other process.
	status, answer = name("ben", "hand bell", 1, 1)
	require.Equal(t, 200, status, answer)
	told := adaHears(func(e workspace.Event) bool { return len(e.Overtook) > 0 })
	assert.Equal(t, 3, told.Revision)
	// An answer is given again, whichever process is asked.
	status, again := who["ben"].json("/maps/m/entries", `{"id":"ben-1","window":"w-ben","seen":1,"operations":[{"do":"name-concept","concept":"bell","label":"hand bell"}]}`)
	require.Equal(t, 200, status)
	assert.Contains(t, again, `"revision":3`)

	// Both write at the same time: every entry is in the log, once.
	const each = 25
	done := make(chan error, 2)
	for _, id := range []string{"ada", "ben"} {
		go func() {
			for n := range each {
				if status, answer := name(id, fmt.Sprint(id, n), 10+n, 3); status != 200 {
					done <- fmt.Errorf("%s %d: %d %s", id, n, status, answer)
					return
				}
			}
			done <- nil
		}()
	}
	require.NoError(t, <-done)
	require.NoError(t, <-done)
	last := 3 + 2*each
	for _, hears := range []func(func(workspace.Event) bool) workspace.Event{adaHears, benHears} {
		hears(func(e workspace.Event) bool { return e.Revision == last })
	}
	require.NoError(t, folders[0].CheckIntegrity(ctx))
	entries, err := folders[1].All().Since(ctx, "m", 3)
	require.NoError(t, err)
	assert.Len(t, entries, 2*each)

	status, _, _ = who["ada"].post("/maps/m/sharing", "person", "ben", "right", "")
	require.Equal(t, 303, status)
	adaHears(func(e workspace.Event) bool { return e.Here != nil && len(*e.Here) == 0 })
	status, _ = name("ben", "mine", 99, last)
	assert.Equal(t, 404, status)
}

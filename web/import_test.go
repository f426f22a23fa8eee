package web_test

import (
	"bytes"
	"io"
	"log/slog"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/web"
	"mevrin/workspace"
)

// lending is the access of somebody whose map can be taken away from them.
type lending struct {
	web.OneAuthor
	away bool
}

func (l *lending) Ask(r *http.Request, id cm.ID) (workspace.Person, web.Capabilities, error) {
	who, may, err := l.OneAuthor.Ask(r, id)
	if l.away && id != "" {
		may = nil
	}
	return who, may, err
}

// What waits is not lost when something beside it cannot be taken, and it goes into no map that whoever
// brought it may not alter any more.
func TestFilesWaitUntilTheyAreTaken(t *testing.T) {
	s := serve(t, t.TempDir())
	access := &lending{OneAuthor: web.OneAuthor{Store: s.store}}
	server := httptest.NewServer(handler(t, web.Config{Store: s.store, Access: access, Log: slog.New(slog.DiscardHandler), Hosts: []string{"127.0.0.1"}}))
	t.Cleanup(server.Close)
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	ended := func(response *http.Response, err error) (int, string, *url.URL) {
		require.NoError(t, err)
		defer response.Body.Close()
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		at, _ := response.Location()
		return response.StatusCode, string(raw), at
	}
	bring := func(path string, files ...[2]string) []string {
		var body bytes.Buffer
		form := multipart.NewWriter(&body)
		for _, f := range files {
			part, err := form.CreateFormFile("file", f[0])
			require.NoError(t, err)
			_, err = io.WriteString(part, f[1])
			require.NoError(t, err)
		}
		require.NoError(t, form.Close())
		status, page, at := ended(client.Post(server.URL+path, form.FormDataContentType(), &body))
		require.Equal(t, 303, status, page)
		return at.Query()["file"]
	}
	take := func(as string, ids []string) (int, string) {
		status, page, _ := ended(client.PostForm(server.URL+"/import", url.Values{"as": {as}, "take": ids, "file": ids}))
		return status, page
	}
	maps := func() int {
		all, err := s.store.All().List(t.Context())
		require.NoError(t, err)
		return len(all)
	}

	ids := bring("/upload", [2]string{"good.csv", "the bell,hums in,the tower\n"}, [2]string{"broken.opml", "<opml><body>"}, [2]string{"later.csv", "the rope,swings,the bell\n"})
	require.Len(t, ids, 3)
	status, page := take("new", ids)
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "broken.opml: This file is broken")
	assert.Contains(t, page, "later.csv", "what stands behind it waits on")
	assert.NotContains(t, page, "good.csv", "what was taken does not come again")
	assert.Equal(t, 2, maps())
	status, _ = take("new", ids[2:])
	assert.Equal(t, 303, status)
	assert.Equal(t, 3, maps())

	ids = bring("/maps/m/import", [2]string{"more.csv", "the rope,swings,the bell\n"})
	access.away = true
	status, _ = take("added", ids)
	assert.Equal(t, 403, status)
	_, page, _ = ended(client.Get(server.URL + "/import?file=" + ids[0]))
	assert.NotContains(t, page, `value="added"`)
	access.away = false
	status, _ = take("added", ids)
	assert.Equal(t, 303, status)
	m, _, err := s.store.All().Load(t.Context(), "m")
	require.NoError(t, err)
	assert.Len(t, m.Concepts, 8)
	assert.Equal(t, 3, maps())
}

// What people said of a map leaves with no format but our own, and with that unless it is left out.
func TestWhatPeopleSaidLeavesOnlyWhereItIsWished(t *testing.T) {
	s := serve(t, t.TempDir())
	status, said := s.post("/maps/m/entries", entry("g", "w", 1, `[{"do":"add-comment","id":"k","on":{"kind":"concept","id":"c00001"},"name":"Ada","words":"Is that so?"}]`))
	require.Equal(t, 200, status, said)
	for query, leaves := range map[string]bool{
		"format=json": true, "format=json&talk=no": false, "format=json&set=json": false, "format=json&set=json&talk=1": true,
		"format=json&set=json&judged=1": false, "format=svg": false, "format=md": false, "format=md&talk=1": false, "format=graphml&talk=1": false,
	} {
		status, file := s.get("/maps/m/export/file?" + query)
		require.Equal(t, 200, status, query)
		assert.Equal(t, leaves, bytes.Contains([]byte(file), []byte("Is that so?")), query)
	}
}

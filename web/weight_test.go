package web_test

import (
	"compress/gzip"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"

	cm "mevrin/core/conceptmap"
)

// A page of a map travels as a fraction of its size, and is the same when it arrives; a
// page of forty concepts and its margin are light.
func TestPagesTravelCompressed(t *testing.T) {
	s := serve(t, t.TempDir())
	out, err := edit.Apply(cm.NewMap("some", "en"), maptest.Large(40), nil)
	require.NoError(t, err)
	require.NoError(t, s.store.All().Put(t.Context(), out.Map, "author", nil))
	weigh := func(path string) (sent, whole int) {
		ask, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+path, nil)
		require.NoError(t, err)
		ask.Header.Set("Accept-Encoding", "gzip")
		response, err := http.DefaultTransport.RoundTrip(ask)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.Equal(t, "gzip", response.Header.Get("Content-Encoding"), path)
		counted := &counting{Reader: response.Body}
		raw, err := gzip.NewReader(counted)
		require.NoError(t, err)
		all, err := io.ReadAll(raw)
		require.NoError(t, err)
		_, plain := s.get(path)
		assert.Len(t, all, len(plain), path)
		return counted.n, len(all)
	}
	page, whole := weigh("/maps/some")
	assert.Less(t, page, 60<<10)
	assert.Less(t, page*3, whole)
	margin, _ := weigh("/maps/some/margin?open=&chosen=c-c00003")
	assert.Less(t, margin, 20<<10)
	_, _ = weigh("/assets/app.css")
}

type counting struct {
	io.Reader
	n int
}

func (c *counting) Read(into []byte) (int, error) {
	n, err := c.Reader.Read(into)
	c.n += n
	return n, err
}

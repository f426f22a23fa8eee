package web

import (
	"bytes"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/store"
)

// An answer arrives as it was written, whole, however large it is and in whatever pieces it came; and where there
// is no room for a large one, that is a fault and not an empty success.
func TestAnswersAreSentWhole(t *testing.T) {
	var pieces []int
	folder, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer func() { _ = folder.Close() }()
	scratch := folder.Scratch
	engine := gin.New()
	engine.GET("/", spool(func() (*os.File, error) { return scratch() }, slog.New(slog.DiscardHandler)), func(g *gin.Context) {
		g.Status(http.StatusAccepted)
		for i, n := range pieces {
			_, _ = g.Writer.Write(bytes.Repeat([]byte{byte('a' + i)}, n))
		}
	})
	serving := httptest.NewServer(engine)
	defer serving.Close()
	ask := func(sizes ...int) (status int, body []byte) {
		t.Helper()
		pieces = sizes
		answer, err := http.Get(serving.URL)
		require.NoError(t, err)
		defer func() { _ = answer.Body.Close() }()
		body, err = io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, body
	}
	for _, sizes := range [][]int{{}, {1}, {spoolFrom}, {spoolFrom + 1}, {5*spoolFrom + 7}, {10, spoolFrom}, {spoolFrom, 10}, {spoolFrom - 1, 1, 1}, {3 * spoolFrom, 4, 2 * spoolFrom}} {
		var want []byte
		for i, n := range sizes {
			want = append(want, bytes.Repeat([]byte{byte('a' + i)}, n)...)
		}
		status, body := ask(sizes...)
		assert.Equal(t, http.StatusAccepted, status, sizes)
		assert.True(t, bytes.Equal(want, body), "%v: %d bytes of %d", sizes, len(body), len(want))
	}
	scratch = func() (*os.File, error) { return nil, os.ErrPermission }
	status, body := ask(spoolFrom + 1)
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Empty(t, body)
	status, _ = ask(spoolFrom)
	assert.Equal(t, http.StatusAccepted, status, "what fits in memory needs no room")
}

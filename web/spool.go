package web

import (
	"bytes"
	"io"
	"log/slog"
	"net/http"
	"os"
	"time"

	"github.com/gin-gonic/gin"
)

const (
	// spoolFrom is how many bytes of an answer are kept in memory.
	spoolFrom = 256 << 10
	// sendChunk is sent at a time; who does not take that in within sendPatience is
	// not waited for.
	sendChunk    = 128 << 10
	sendPatience = 15 * time.Second
)

// spool collects what a handler answers, and sends it when that is whole. What does not fit in memory waits in
// a file that scratch gives.
func spool(scratch func() (*os.File, error), log *slog.Logger) gin.HandlerFunc {
	return func(g *gin.Context) {
		w := &spooled{ResponseWriter: g.Writer, scratch: scratch}
		g.Writer = w
		defer func() { // also after a fault, of which others tell
			g.Writer = w.ResponseWriter
			w.close()
		}()
		g.Next()
		if w.err != nil {
			log.Error("there is no room for a large answer", "path", g.FullPath(), "err", w.err)
		}
		w.send()
	}
}

// spooled is an answer that is collected.
type spooled struct {
	gin.ResponseWriter
	head bytes.Buffer // the first part
	rest *os.File     // what does not fit there
	err  error

	scratch func() (*os.File, error)
}

func (w *spooled) Write(p []byte) (int, error) {
	if w.rest == nil && w.head.Len()+len(p) <= spoolFrom {
		return w.head.Write(p)
	}
	if w.rest == nil && w.err == nil {
		w.rest, w.err = w.scratch()
	}
	if w.err != nil {
		return 0, w.err
	}
	n, err := w.rest.Write(p)
	w.err = err
	return n, err
}

func (w *spooled) WriteString(s string) (int, error) { return w.Write([]byte(s)) }

// WriteHeaderNow waits: the header goes with the answer.
func (w *spooled) WriteHeaderNow() {}

func (w *spooled) Written() bool {
	return w.head.Len() > 0 || w.rest != nil || w.ResponseWriter.Written()
}

func (w *spooled) send() {
	if w.err != nil {
		w.ResponseWriter.WriteHeader(http.StatusServiceUnavailable)
		w.ResponseWriter.WriteHeaderNow()
		return
	}
	if !w.Written() {
		w.ResponseWriter.WriteHeaderNow()
		return
	}
	if w.rest == nil {
		_, _ = w.ResponseWriter.Write(w.head.Bytes())
		return
	}
	if _, err := w.rest.Seek(0, io.SeekStart); err != nil {
		panic(http.ErrAbortHandler)
	}
	slow := http.NewResponseController(w.ResponseWriter)
	from := io.MultiReader(bytes.NewReader(w.head.Bytes()), w.rest)
	for {
		_ = slow.SetWriteDeadline(time.Now().Add(sendPatience))
		if _, err := io.CopyN(w.ResponseWriter, from, sendChunk); err != nil {
			return
		}
	}
}

func (w *spooled) close() {
	if w.rest != nil {
		_ = w.rest.Close()
	}
}

package e2e_test

import (
	"net"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// wire is a connection to the application that takes its time and can be cut:
// requests, answers and the live stream alike.
type wire struct {
	net.Listener
	mu   sync.Mutex
	cut  bool
	open map[net.Conn]bool
}

func (w *wire) Accept() (net.Conn, error) {
	for {
		c, err := w.Listener.Accept()
		if err != nil {
			return nil, err
		}
		w.mu.Lock()
		cut := w.cut
		if !cut {
			w.open[c] = true
		}
		w.mu.Unlock()
		if !cut {
			return c, nil
		}
		_ = c.Close()
	}
}

// Cut breaks every connection, and every new one until it is mended.
func (w *wire) Cut(cut bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.cut = cut
	if cut {
		for c := range w.open {
			_ = c.Close()
		}
		clear(w.open)
	}
}

func newWire(t *testing.T, app *drive.App, delay time.Duration) (*wire, string) {
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	proxy := &httputil.ReverseProxy{
		Rewrite:      func(r *httputil.ProxyRequest) { r.SetURL(target); r.Out.Host = r.In.Host },
		ErrorHandler: func(http.ResponseWriter, *http.Request, error) {},
	}
	server := httptest.NewUnstartedServer(http.HandlerFunc(func(rw http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost || r.URL.Query().Has("since") {
			time.Sleep(delay)
		}
		proxy.ServeHTTP(rw, r)
	}))
	w := &wire{Listener: server.Listener, open: map[net.Conn]bool{}}
	server.Listener = w
	server.Start()
	t.Cleanup(func() { w.Cut(true); server.Close() })
	return w, server.URL
}

// Two windows on slow lines, one of them cut off for a while: each goes on
// working; afterwards both show the same map with all that both did, the later
// words stand, and whose words were written over is told.
func TestTwoWindowsApartAndTogetherAgain(t *testing.T) {
	t.Parallel()
	inSoak(t)
	app := drive.Start(t, binary, "demo", t.TempDir())
	_, nearURL := newWire(t, app, 120*time.Millisecond)
	line, farURL := newWire(t, app, 250*time.Millisecond)
	near, far := browser.Page(t, 1280, 800), browser.Page(t, 1280, 800)
	near.Goto(nearURL + "/maps/bell-sound")
	far.Goto(farURL + "/maps/bell-sound")
	concepts := len(labels(near))
	for _, p := range []*drive.Page{near, far} {
		p.Press(`[data-do="fit"]`)
	}

	// Both type at once over the slow lines.
	near.Press(`[id="c-tin"]`)
	far.Press(`[id="c-damping"]`)
	near.Keys(drive.Tab, "is dug in", drive.Enter, "a mine", drive.Enter)
	far.Keys(drive.Tab, "is felt by", drive.Enter, "a hand", drive.Enter)
	for _, p := range []*drive.Page{near, far} {
		p.Settled()
		p.Wait(`["a mine", "a hand"].every(w => !!seen.concept(w))`)
	}

	// The far line is cut. Both go on, and both rename the same concept.
	line.Cut(true)
	far.Press(`[id="c-crown"]`)
	far.Keys(drive.F2, "the crown of the bell", drive.Enter)
	far.Keys(drive.Tab, "holds", drive.Enter, "a staple", drive.Enter)
	far.Wait(`document.getElementById("saved").textContent === "Waiting to be saved (2)"`)
	near.Press(`[id="c-crown"]`)
	near.Keys(drive.F2, "the top", drive.Enter)
	near.Keys(drive.Tab, "carries", drive.Enter, "a headstock", drive.Enter)
	near.Press(`[id="c-prime"]`)
	near.Keys(drive.Delete)
	near.Settled()
	assert.True(t, drive.Eval[bool](far, `!!document.getElementById("c-prime") && !seen.concept("a headstock")`), "it is cut off")

	line.Cut(false)
	far.Settled()
	near.Wait(`document.getElementById("notices").innerText.includes("somebody else has changed that too")`)
	for _, p := range []*drive.Page{near, far} {
		p.Wait(`["a mine", "a hand", "a staple", "a headstock", "the crown of the bell"].every(w => !!seen.concept(w)) && !document.getElementById("c-prime")`)
		assert.Len(t, labels(p), concepts+3)
		assert.NotContains(t, labels(p), "the top")
	}
	far.Until("both draw the same", func() bool { return drawing(near) == drawing(far) })
	// Whoever was written over can bring theirs back.
	near.Wait(`[...document.querySelectorAll(".notice button")].some(b => b.innerText === "Bring mine back")`)
	drive.Eval[bool](near, `([...document.querySelectorAll(".notice button")].find(b => b.innerText === "Bring mine back").click(), true)`)
	far.Wait(`!!seen.concept("the top")`)
	near.Settled()
	sameAfterReload(t, near)

	// Undo goes over the line that came back.
	far.Press("#undo")
	far.Settled()
	far.Wait(`!!seen.concept("the crown of the bell")`)
	far.Press("#undo")
	far.Settled()
	near.Wait(`!seen.concept("a staple")`)
	assert.Contains(t, labels(near), "a headstock")
	assert.Empty(t, near.Faults())
	assert.Empty(t, far.Faults("WebSocket", "ERR_", "Failed to fetch"))
}

package e2e_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A film from a host that the owner allowed is played in a frame of its own, on the
// paper and in a walk, and is told nothing of the map; one from any other host is
// an address that one may go to.
func TestFilmsOfAllowedHosts(t *testing.T) {
	t.Parallel()
	asked := make(chan string, 10)
	host := httptest.NewTLSServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/swing" {
			asked <- r.Host + r.URL.Path + " from " + r.Referer()
		}
		if strings.HasSuffix(r.URL.Path, ".svg") {
			w.Header().Set("Content-Type", "image/svg+xml")
			_, _ = w.Write([]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><path d="M0 0H40V30Z"/></svg>`))
			return
		}
		w.Header().Set("Content-Type", "text/html")
		_, _ = w.Write([]byte(`<!doctype html><title>film</title><body style="background:#204060;color:#fff;font:40px sans-serif">a bell swings<script>top.document.title = "taken"</script>`))
	}))
	t.Cleanup(host.Close)
	at := strings.TrimPrefix(host.URL, "https://")
	b := drive.Open(t, chromedp.Flag("ignore-certificate-errors", true), chromedp.Flag("host-resolver-rules", "MAP films.example "+at+" , MAP others.example "+at+" , MAP * ~NOTFOUND , EXCLUDE 127.0.0.1"))
	app := drive.Start(t, binary, "demo", t.TempDir(), "--films", "films.example")
	p := b.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](p, `seen.elsewhere([{ do: "attach-source", on: { kind: "concept", id: "crown" }, id: "f1", url: "https://films.example/swing", title: "A bell swings" },
		{ do: "attach-source", on: { kind: "concept", id: "waist" }, id: "f2", url: "https://others.example/swing", title: "Another" },
		{ do: "attach-source", on: { kind: "concept", id: "damping" }, id: "f3", url: "https://films.example/bow.svg", title: "A bow" },
		{ do: "attach-source", on: { kind: "concept", id: "rope" }, id: "f4", url: "https://others.example/rope.mp3", title: "A rope" },
		{ do: "add-route", id: "films", title: "Films" }, { do: "add-stop", id: "t1", route: "films", refs: [{ kind: "concept", id: "crown" }] }])`)
	p.Settled()
	p.Press(`.zoom [data-do="fit"]`)
	open := func(concept string) {
		p.Press(`[id="c-` + concept + `"] [data-mark="web"] .touch`)
		p.Wait(`document.getElementById("viewer").open`)
	}
	played := func() {
		p.Wait(`document.querySelector("#viewer[open] iframe")`)
		select {
		case got := <-asked:
			assert.Equal(t, "films.example/swing from ", got)
		case <-time.After(20 * time.Second):
			t.Fatal("the film was not asked for")
		}
	}
	open("crown")
	played()
	assert.Equal(t, "https://films.example/swing", drive.Eval[string](p, `document.querySelector("#viewer iframe").src`))
	assert.Greater(t, drive.Eval[float64](p, `document.querySelector("#viewer iframe").getBoundingClientRect().width`), 600.0)
	p.Keys(drive.Escape)
	p.Wait(`!document.querySelector("#viewer iframe")`)
	open("waist")
	assert.False(t, drive.Eval[bool](p, `!!document.querySelector("#viewer iframe")`))
	assert.Equal(t, "https://others.example/swing", drive.Eval[string](p, `document.querySelector("#viewer .viewer-address").textContent`))
	p.Keys(drive.Escape)
	open("damping")
	p.Wait(`document.querySelector("#viewer[open] img")?.naturalWidth === 40`)
	p.Keys(drive.Escape)
	open("rope")
	assert.Equal(t, []string{"https://others.example/rope.mp3", "Hear it, in a new tab"}, drive.Eval[[]string](p, `[".viewer-address", ".dialog-actions a"].map((s) => document.querySelector("#viewer " + s).textContent)`))
	p.Keys(drive.Escape)

	p.Goto(app.URL + "/maps/bell-sound/walk/films")
	p.Press(".card:not([hidden]) .walk-sources .source")
	played()
	assert.NotEqual(t, "taken", drive.Eval[string](p, "document.title"))
	assert.Empty(t, asked, "no other host was asked for anything")
}

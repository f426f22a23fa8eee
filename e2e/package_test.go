package e2e_test

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// platform is a learning platform as far as a package sees it: pages of the package, a frame that holds
// the run time of the standard, and what statements were sent.
type platform struct {
	*httptest.Server
	mu   sync.Mutex
	said []string
}

func newPlatform(t *testing.T, archive []byte) *platform {
	z, err := zip.NewReader(bytes.NewReader(archive), int64(len(archive)))
	require.NoError(t, err)
	runtime, err := os.ReadFile(filepath.Join("..", "assets", "node_modules", "scorm-again", "dist", "scorm-again.min.js"))
	require.NoError(t, err)
	l := &platform{}
	mux := http.NewServeMux()
	mux.Handle("/p/", http.StripPrefix("/p/", http.FileServerFS(z)))
	mux.HandleFunc("/run.js", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/javascript")
		_, _ = w.Write(runtime)
	})
	mux.HandleFunc("/auth", func(w http.ResponseWriter, _ *http.Request) { _, _ = io.WriteString(w, `{"auth-token":"dDp0"}`) })
	mux.HandleFunc("/xapi/statements", func(_ http.ResponseWriter, r *http.Request) {
		raw, _ := io.ReadAll(r.Body)
		l.mu.Lock()
		defer l.mu.Unlock()
		l.said = append(l.said, string(raw))
	})
	mux.HandleFunc("/", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		_, _ = io.WriteString(w, `<!doctype html><title>platform</title><script src="/run.js"></script><script>
			const settings = { autocommit: false, logLevel: 5 };
			window.API = new (window.Scorm12API)(settings); window.API_1484_11 = new (window.Scorm2004API)(settings);
		</script><iframe id="frame" width="1200" height="700" src="/p/index.html"></iframe>`)
	})
	l.Server = httptest.NewServer(mux)
	t.Cleanup(l.Close)
	return l
}

func (l *platform) told(words string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, s := range l.said {
		if strings.Contains(s, words) {
			return true
		}
	}
	return false
}

// A package tells a learning platform how far somebody came, that they came to the end, and what they
// answered: by SCORM 1.2, by SCORM 2004 and by cmi5.
func TestPackagesReportToAPlatform(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	get := func(kind string) []byte {
		raw, err := base64.StdEncoding.DecodeString(drive.Eval[string](p, `fetch("/maps/bell-sound/export/file?format=`+kind+`&what=route%20older").then(r => r.arrayBuffer()).then(b => { let s = ""; for (const x of new Uint8Array(b)) s += String.fromCharCode(x); return btoa(s); })`))
		require.NoError(t, err)
		require.True(t, bytes.HasPrefix(raw, []byte("PK")), kind)
		return raw
	}
	inner := `document.getElementById("frame").contentWindow`
	through := func(lms *drive.Page) {
		lms.Wait(inner + `?.walk?.at === 0`)
		drive.Eval[bool](lms, `(w => { w.walk.show(1); w.document.querySelector(".card:not([hidden]) textarea").value = "louder"; w.document.querySelector(".card:not([hidden]) .card-asks details").open = true; return true })(`+inner+`)`)
	}
	for _, kind := range [][3]string{
		{"scorm12", `API.cmi.core.lesson_status`, `API.cmi.core.score.raw + "|" + API.renderCMIToJSONString()`},
		{"scorm2004", `API_1484_11.cmi.completion_status`, `API_1484_11.cmi.score.raw + "|" + API_1484_11.renderCMIToJSONString()`},
	} {
		l := newPlatform(t, get(kind[0]))
		lms := browser.Page(t, 1280, 800)
		lms.Goto(l.URL)
		through(lms)
		lms.Wait(kind[1] + ` === "incomplete"`)
		drive.Eval[bool](lms, `(w => { for (let i = 2; i < w.walk.cards.length; i++) w.walk.show(i); return true })(`+inner+`)`)
		lms.Wait(kind[1] + ` === "completed"`)
		told := drive.Eval[string](lms, kind[2])
		assert.True(t, strings.HasPrefix(told, "100|"), kind[0])
		assert.Contains(t, told, "louder", kind[0])

		// Whoever comes back has seen what they saw before: the score does not fall.
		api := strings.SplitN(kind[1], ".", 2)[0]
		drive.Eval[bool](lms, `(document.getElementById("frame").src = "about:blank", true)`)
		lms.Wait(inner + `.location.href === "about:blank"`)
		drive.Eval[bool](lms, `(kept => { `+api+`.reset(); `+api+`.loadFromJSON(kept.cmi ?? kept, ""); document.getElementById("frame").src = "/p/index.html"; return true })(JSON.parse(`+quoted(told[4:])+`))`)
		lms.Wait(inner + `?.walk?.at === ` + inner + `?.walk?.cards.length - 1 && ` + inner + `.document.body.classList.contains("ready")`)
		drive.Eval[bool](lms, `(`+inner+`.walk.show(0), true)`)
		assert.True(t, strings.HasPrefix(drive.Eval[string](lms, kind[2]), "100|"), kind[0])
		lms.Wait(kind[1] + ` === "completed"`)
	}
	l := newPlatform(t, get("cmi5"))
	lms := browser.Page(t, 1280, 800)
	lms.Goto(l.URL + `/p/index.html?endpoint=` + l.URL + `/xapi/&fetch=` + l.URL + `/auth&actor=%7B%22name%22%3A%22A%22%7D&registration=r1&activityId=urn:a`)
	lms.Until("initialized", func() bool { return l.told("verbs/initialized") })
	lms.Keys(drive.End)
	lms.Until("completed", func() bool {
		return l.told("verbs/completed") && l.told(`"completion":true`) && l.told("verbs/progressed")
	})

	// One file leads along the route with no server and no network.
	one := filepath.Join(t.TempDir(), "walk.html")
	html := drive.Eval[string](p, `fetch("/maps/bell-sound/export/file?format=html&what=route%20young").then(r => r.text())`)
	require.NoError(t, os.WriteFile(one, []byte(html), 0o600))
	assert.NotContains(t, html, "/assets/")
	lms.Goto("file://" + one)
	lms.Wait(`document.body.classList.contains("ready") && walk.at === 0 && document.querySelector(".card:not([hidden]) img").naturalWidth > 0`)
	lms.Press("#next")
	lms.Wait(`walk.at === 1`)
	assert.Empty(t, p.Faults())
}

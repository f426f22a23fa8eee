package e2e_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// post sends one entry past the page.
func post(t *testing.T, base, id, ops string) {
	t.Helper()
	body := fmt.Sprintf(`{"id":%q,"window":"test","seen":0,"operations":%s}`, id, ops)
	response, err := http.Post(base+"/entries", "application/json", strings.NewReader(body))
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	require.Equal(t, http.StatusOK, response.StatusCode)
}

// emptyMap makes a map on empty paper and gives its address.
func emptyMap(t *testing.T, app *drive.App) string {
	t.Helper()
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	response, err := client.PostForm(app.URL+"/maps", url.Values{"begin": {"empty"}, "order": {"free"}})
	require.NoError(t, err)
	_ = response.Body.Close()
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	return response.Header.Get("Location")
}

// Words measured in Go have the width that the browser gives them, so that
// they fit their box: within 1 px, for accents, long words, Greek, Cyrillic,
// Arabic, Chinese, signs, and a mixture.
func TestWordsFitTheirBoxes(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	samples := []string{
		"the sound bow of the tenor bell", "Ærøskøbing façade ŵŷ Łódź đặng", "Donaudampfschifffahrtsgesellschaftskapitänsmützen",
		"ἁρμονία τῆς καμπάνας λόγος", "колокольный звон в Холлине", "صوت الجرس في البرج", "大钟的声音为什么这样低沉", "H₂O → 20 ≤ Ω √2 ≠ ∞",
		"AVAWA To. Ty, fi fl ffi “quoted” – dash", "bell صوت 钟 звук", "iiiiiiiiiiiiiiiiiiiiiiii WWWWWWWWWWWWWWW",
	}
	var ops []map[string]any
	for i, words := range samples {
		id := fmt.Sprint("c", i)
		ops = append(ops, map[string]any{"do": "add-concept", "id": id, "label": words, "at": map[string]int{"x": 0, "y": i * 160}},
			map[string]any{"do": "add-concept", "id": "o" + id, "label": "o", "at": map[string]int{"x": 700, "y": i * 160}},
			map[string]any{"do": "add-link", "id": "l" + id, "phrase": words, "from": []any{map[string]string{"id": "f", "concept": id}}, "to": []any{map[string]string{"id": "t", "concept": "o" + id}}})
	}
	ops = append(ops, map[string]any{"do": "set-focus", "concept": "c0"})
	raw, err := json.Marshal(ops)
	require.NoError(t, err)
	post(t, app.URL+address, "words", string(raw))
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + address)
	p.Wait(`document.fonts.status === "loaded"`)

	type line struct {
		Words            string
		Browser, Placer  float64
		Voice, Direction string
	}
	lines := drive.Eval[[]line](p, `document.fonts.ready.then(() => [...document.querySelectorAll(".slip, .link")].flatMap(g => [...g.querySelectorAll("tspan, text:not(:has(tspan))")].map(s => ({
		Words: s.textContent, Browser: s.getComputedTextLength(), Voice: g.dataset.kind, Direction: s.closest("text").getAttribute("direction") ?? "",
		Placer: g.dataset.kind === "concept" ? Number(g.dataset.box.split(" ")[2]) - 5 - 4 - 2 * (g.classList.contains("focus") ? 18 : 13) : Number(g.dataset.gap.split(" ")[2]) - 10 }))))`)
	require.Greater(t, len(lines), 30)
	// The width that the server computed, for each line of words.
	widest := map[string]float64{}
	for _, l := range lines {
		assert.LessOrEqual(t, l.Browser, l.Placer+1, "%s %q", l.Voice, l.Words)
		widest[l.Voice+fmt.Sprint(l.Placer)] = max(widest[l.Voice+fmt.Sprint(l.Placer)], l.Browser)
	}
	// Boxes are no wider than they need be: rounding to even pixels apart. The
	// least width of a slip is left out.
	for room, wide := range widest {
		var r float64
		_, _ = fmt.Sscan(strings.NewReplacer("concept", "", "link", "").Replace(room), &r)
		if r > 40 {
			assert.Less(t, r-wide, 4.0, room)
		}
	}
	assert.Contains(t, mustJSON(lines), `"rtl"`)
	noOverlap(t, p)
}

func mustJSON(v any) string {
	raw, _ := json.Marshal(v)
	return string(raw)
}

// slow puts a delay before each answer to an entry.
func slow(t *testing.T, app *drive.App, delay time.Duration) string {
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	proxy := httputil.NewSingleHostReverseProxy(target)
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost {
			time.Sleep(delay)
		}
		proxy.ServeHTTP(w, r)
	}))
	t.Cleanup(server.Close)
	return server.URL
}

// Typing runs ahead of a server that takes 300 ms for each answer: nothing is
// lost and nothing lands in the wrong place.
func TestTypingRunsAheadOfASlowServer(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	base := slow(t, app, 300*time.Millisecond)
	p := browser.Page(t, 1280, 800)
	p.Goto(base)
	p.Press("#question")
	p.Keys("What is a bell?", drive.Enter)
	p.Wait(`window.mevrin && document.activeElement.matches(".field")`)
	p.Keys("bell", drive.Enter)
	var want []string
	parent := "bell"
	for i := range 5 {
		phrase, noun := fmt.Sprintf("has part %d named", i), fmt.Sprintf("part %d", i)
		p.Keys(drive.Tab, phrase, drive.Enter, noun, drive.Enter)
		side := fmt.Sprintf("side %d", i)
		p.Keys(drive.Enter, side, drive.Enter)
		want = append(want, fmt.Sprintf("%s %s %s, %s", parent, phrase, noun, side))
		parent = side
	}
	assert.NotEqual(t, "Saved", drive.Eval[string](p, `document.getElementById("saved").textContent`), "the server is far behind the hands")
	p.Settled()
	assert.Equal(t, want, says(p))
	noOverlap(t, p)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".provisional").length`))
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// An edit made while the server is away waits in the page, which says so, and
// is sent when the server is back.
func TestEditsWaitForTheServer(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := drive.Start(t, binary, "serve", data)
	address := emptyMap(t, app)
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	away := false
	proxy := &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(target) }}
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if away && r.Method == http.MethodPost {
			http.Error(w, "gone", http.StatusBadGateway)
			return
		}
		proxy.ServeHTTP(w, r)
	}))
	defer server.Close()
	p := browser.Page(t, 1280, 800)
	p.Goto(server.URL + address)
	away = true
	p.DoubleClick(300, 300)
	p.Keys("written offline", drive.Enter)
	p.Wait(`document.getElementById("saved").textContent.startsWith("Waiting to be saved (1)")`)
	away = false
	p.Settled()
	assert.Equal(t, []string{"written offline"}, labels(p))
	sameAfterReload(t, p)
}

// Edits made while the server is away outlive the page: they are sent, in their
// order, when it is loaded again. One that cannot be done any more says so, with
// the reason, and can be done again.
func TestWaitingEditsOutliveThePage(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	var away atomic.Bool
	proxy := &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(target); r.Out.Host = r.In.Host }}
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if away.Load() && r.Method == http.MethodPost {
			http.Error(w, "gone", http.StatusBadGateway)
			return
		}
		proxy.ServeHTTP(w, r)
	}))
	defer server.Close()
	p := browser.Page(t, 1280, 800)
	p.Goto(server.URL + address)
	p.Press("#add")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("bell", drive.Enter)
	p.Settled()
	bell := drive.Eval[string](p, `seen.chosen().slice(2)`)
	away.Store(true)
	p.Keys(drive.Tab, "has", drive.Enter, "a rim", drive.Enter)
	p.Keys(drive.Enter, "a crown", drive.Enter)
	p.Press(p.Slip("bell"))
	p.Keys(drive.F2, "the bell", drive.Enter)
	p.Wait(`document.getElementById("saved").textContent === "Waiting to be saved (3)"`)
	p.Reload()
	p.Wait(`document.getElementById("saved").textContent === "Waiting to be saved (3)"`)
	away.Store(false)
	p.Settled()
	assert.Equal(t, []string{"the bell has a rim, a crown"}, says(p))
	assert.Empty(t, drive.Eval[[]string](p, `Object.keys(localStorage).filter(k => k.startsWith("waiting:"))`))
	sameAfterReload(t, p)

	// Somebody deletes the bell while this window is away.
	away.Store(true)
	p.Press(p.Slip("the bell"))
	p.Keys(drive.F2, "a treble", drive.Enter)
	p.Wait(`document.getElementById("saved").textContent.startsWith("Waiting")`)
	post(t, app.URL+address, "elsewhere", `[{"do":"remove","concepts":["`+bell+`"]}]`)
	away.Store(false)
	p.Wait(`document.querySelector(".notice.stays")?.textContent.includes("The words “a treble”")`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".notice.stays").textContent`), "no longer on the map")
	p.Settled()
	post(t, app.URL+address, "back", `[{"do":"add-concept","id":"`+bell+`","label":"bell","at":{"x":0,"y":0}}]`)
	p.Wait(`document.getElementById("c-` + bell + `")`)
	p.Press(".notice.stays button")
	p.Settled()
	assert.Contains(t, labels(p), "a treble")
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".notice.stays").length`))
}

// Two windows on one map keep in step, and each keeps its own view.
func TestTwoWindowsKeepInStep(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	a, b := browser.Page(t, 1280, 800), browser.Page(t, 1280, 800)
	for _, p := range []*drive.Page{a, b} {
		p.Goto(app.URL + "/maps/bell-sound")
	}
	place := drive.Eval[string](b, `document.getElementById("desk").querySelector(".layer").style.transform`)
	a.Press(`[data-do="fit"]`)
	a.Press(`[id="c-pad"]`)
	a.Keys(drive.Tab, "is tied to", drive.Enter, "a hook", drive.Enter)
	a.Press(`[id="c-nodes"]`)
	a.Keys(drive.Delete)
	a.Settled()
	b.Wait(`!!seen.concept("a hook") && !document.getElementById("c-nodes")`)
	assert.Equal(t, drawing(a), drawing(b))
	assert.Equal(t, place, drive.Eval[string](b, `document.getElementById("desk").querySelector(".layer").style.transform`))
	b.Ctrl("z")
	b.Settled()
	a.Wait(`!!document.getElementById("c-nodes")`)

	// What the other has selected is shown lightly, and no more when it is gone.
	a.Press(`[id="c-crown"]`)
	b.Wait(`document.getElementById("c-crown").matches(".theirs:not(.chosen)")`)
	assert.Zero(t, drive.Eval[int](a, `document.querySelectorAll(".theirs").length`))
	a.Goto(app.URL)
	b.Wait(`!document.querySelector(".theirs")`)
	a.Goto(app.URL + "/maps/bell-sound")
	a.Press(`[data-do="fit"]`)
	assert.Equal(t, drawing(b), drawing(a))
	assert.Empty(t, append(a.Faults(), b.Faults()...))
}

// Fingers: tap, double tap, drag, pan, pinch, and a pull from the knot.
func TestFingers(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1024, 768)
	p.Goto(app.URL + emptyMap(t, app))
	p.DoubleTap(300, 300)
	p.Wait(`document.activeElement.matches(".field")`)
	p.Keys("bell", drive.Enter)
	p.Settled()
	x, y := p.Middle(p.Slip("bell"))
	assert.InDelta(t, 300, x, 3)
	assert.InDelta(t, 300, y, 8)

	p.Touch("touchStart", drive.Finger{X: x, Y: y})
	for i := 1; i <= 5; i++ {
		p.Touch("touchMove", drive.Finger{X: x + float64(i)*20, Y: y + float64(i)*10})
	}
	p.Touch("touchEnd")
	p.Settled()
	nx, ny := p.Middle(p.Slip("bell"))
	assert.InDelta(t, x+100, nx, 2)
	assert.InDelta(t, y+50, ny, 2)

	// The knot shows at what is selected, and its place to touch is large.
	p.TapAt(nx, ny)
	p.Wait(`document.querySelector(".pull-handle").getAttribute("visibility") === "visible"`)
	assert.GreaterOrEqual(t, drive.Eval[float64](p, `document.querySelector(".pull-handle .reach").getBoundingClientRect().width`), 43.9)
	kx, ky := p.Middle(".pull-handle .reach")
	p.Touch("touchStart", drive.Finger{X: kx, Y: ky})
	for i := 1; i <= 5; i++ {
		p.Touch("touchMove", drive.Finger{X: kx + float64(i)*10, Y: ky + float64(i)*30})
	}
	p.Touch("touchEnd")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("hangs in", drive.Enter, "the tower", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"bell hangs in the tower"}, says(p))

	// One finger on empty paper pans, two zoom about their middle.
	bx, by := p.Middle(p.Slip("bell"))
	p.Touch("touchStart", drive.Finger{X: 120, Y: 600})
	p.Touch("touchMove", drive.Finger{X: 160, Y: 560})
	p.Touch("touchMove", drive.Finger{X: 170, Y: 550})
	p.Touch("touchEnd")
	mx, my := p.Middle(p.Slip("bell"))
	assert.InDelta(t, bx+50, mx, 1)
	assert.InDelta(t, by-50, my, 1)
	p.Touch("touchStart", drive.Finger{X: 300, Y: 600}, drive.Finger{X: 400, Y: 600})
	p.Touch("touchMove", drive.Finger{X: 250, Y: 600}, drive.Finger{X: 450, Y: 600})
	p.Touch("touchEnd")
	assert.InDelta(t, 2, drive.Eval[float64](p, "seen.scale()"), 0.1)
	assert.Empty(t, p.Faults())
}

// An answer that is lost on its way is asked for again under the same id: the
// edit is made once.
func TestALostAnswerIsNotASecondEdit(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	lost := 0
	proxy := &httputil.ReverseProxy{
		Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(target) },
		ModifyResponse: func(r *http.Response) error {
			if r.Request.Method == http.MethodPost && lost < 2 {
				lost++ // the server has done it; nobody will hear
				return fmt.Errorf("lost")
			}
			return nil
		},
		ErrorLog: nil,
	}
	server := httptest.NewServer(proxy)
	defer server.Close()
	p := browser.Page(t, 1280, 800)
	p.Goto(server.URL + address)
	p.DoubleClick(300, 300)
	p.Keys("said once", drive.Tab, "and", drive.Enter, "only once", drive.Enter)
	p.Settled()
	assert.Equal(t, 2, lost)
	assert.Equal(t, []string{"only once", "said once"}, labels(p))
	assert.Equal(t, []string{"said once and only once"}, says(p))
	sameAfterReload(t, p)
}

// What the view promises: zoom has bounds, fit shows all and never magnifies,
// revealing moves no further than it must.
func TestTheView(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Motion()
	p.Goto(app.URL + "/maps/bell-sound")
	place := func() []float64 {
		return drive.Eval[[]float64](p, `(p => [p.x, p.y, p.k])(seen.place())`)
	}
	find := func(words, id string) {
		p.Press(`[data-do="find"]`)
		p.Keys(words)
		p.Wait(`seen.chosen() === "c-` + id + `"`)
		p.Keys(drive.Escape)
	}
	p.Press("#desk")
	p.Keys(strings.Repeat("+", 30))
	assert.InDelta(t, 3, place()[2], 1e-9)
	p.Keys(strings.Repeat("-", 45))
	assert.InDelta(t, 0.01, place()[2], 1e-6)
	p.Press(`.zoom [data-do="fit"]`)
	assert.LessOrEqual(t, place()[2], 1.0)
	still := place()
	find("damping", "damping")
	assert.Equal(t, still, place(), "what is seen is not moved")
	drive.Eval[bool](p, `seen.elsewhere([{ do: "add-concept", id: "deep", label: "far below", at: { x: seen.at("c-sound").box.x, y: seen.at("c-sound").box.y + 4000 } }])`)
	find("far below", "deep")
	moved := place()
	assert.Equal(t, still[2], moved[2])
	assert.Less(t, moved[1], still[1])
	under := drive.Eval[float64](p, `document.getElementById("desk").getBoundingClientRect().bottom - document.querySelector("#c-deep .body").getBoundingClientRect().bottom`)
	assert.True(t, under >= 0 && under < 60, "no further than above the hints: %v", under)
	// Lost with nothing in sight, the next visit opens on the map again.
	p.Wheel(500, 400, 0, 90000, false)
	assert.False(t, drive.Eval[bool](p, `seen.inSight()`))
	p.Wait(`seen.still()`)
	p.Reload()
	assert.True(t, drive.Eval[bool](p, `seen.inSight()`))
}

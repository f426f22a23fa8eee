package e2e_test

import (
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

// between stands between page and server, and answers entries itself where a fault
// is set.
type between struct {
	*httptest.Server
	fault atomic.Pointer[http.HandlerFunc]
	delay atomic.Int64
}

func standBetween(t *testing.T, app *drive.App) *between {
	target, err := url.Parse(app.URL)
	require.NoError(t, err)
	proxy := &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(target); r.Out.Host = r.In.Host }}
	b := &between{}
	b.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if strings.HasSuffix(r.URL.Path, "/entries") {
			time.Sleep(time.Duration(b.delay.Load()))
			if fault := b.fault.Load(); fault != nil {
				(*fault)(w, r)
				return
			}
		}
		proxy.ServeHTTP(w, r)
	}))
	t.Cleanup(b.Close)
	return b
}

func (b *between) breaks(fault http.HandlerFunc) {
	if fault == nil {
		b.fault.Store(nil)
		return
	}
	b.fault.Store(&fault)
}

// Whatever the server answers but success, what was typed stays in the queue, the
// page says that it waits, and it arrives when the server is well again.
func TestNoAnswerLosesWhatWasTyped(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	b := standBetween(t, app)
	address := emptyMap(t, app)
	p := browser.Page(t, 1280, 800)
	p.Goto(b.URL + address)
	var want []string
	for what, fault := range map[string]http.HandlerFunc{
		"500 in words": func(w http.ResponseWriter, _ *http.Request) {
			w.WriteHeader(http.StatusInternalServerError)
			_, _ = w.Write([]byte(`{"error":"Oh."}`))
		},
		"500 in none": func(w http.ResponseWriter, _ *http.Request) { http.Error(w, "<html>", http.StatusInternalServerError) },
		"503": func(w http.ResponseWriter, _ *http.Request) {
			w.WriteHeader(http.StatusServiceUnavailable)
			_, _ = w.Write([]byte(`{"error":"The disk is full."}`))
		},
		"413 of a proxy": func(w http.ResponseWriter, _ *http.Request) {
			http.Error(w, "Too large", http.StatusRequestEntityTooLarge)
		},
		"a page of a hotel": func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("<html>Please sign in</html>")) },
		"JSON of another":   func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte(`{"welcome":true}`)) },
		"no answer":         func(http.ResponseWriter, *http.Request) { panic(http.ErrAbortHandler) },
	} {
		b.breaks(fault)
		words := "typed while: " + what
		p.DoubleClick(float64(300+300*(len(want)%3)), float64(160+110*(len(want)/3)))
		p.Wait(`document.activeElement.matches(".noun-field")`)
		p.Keys(words, drive.Enter)
		p.Wait(`document.getElementById("saved").textContent === "Waiting to be saved (1)"`)
		b.breaks(nil)
		p.Settled()
		want = append(want, words)
		assert.ElementsMatch(t, want, labels(p), what)
	}
	sameAfterReload(t, p)
}

// What the server refuses for good is shown with its words until it is done again
// or left, also after the page was loaded anew; nothing behind it waits.
func TestWhatIsRefusedStaysInSight(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	b := standBetween(t, app)
	address := emptyMap(t, app)
	p := browser.Page(t, 1280, 800)
	p.Goto(b.URL + address)
	b.breaks(func(w http.ResponseWriter, _ *http.Request) {
		w.WriteHeader(http.StatusUnprocessableEntity)
		_, _ = w.Write([]byte(`{"error":"Not today."}`))
	})
	p.Press("#add")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the rim", drive.Enter)
	// The words stand in the field again.
	p.Wait(`document.activeElement.matches(".noun-field") && document.activeElement.value === "the rim" && document.querySelector(".notice.fault")?.textContent.includes("Not today.")`)
	// Another field is open when the next one is refused: then the words stay below.
	release := make(chan struct{})
	b.breaks(func(w http.ResponseWriter, _ *http.Request) {
		<-release
		w.WriteHeader(http.StatusUnprocessableEntity)
		_, _ = w.Write([]byte(`{"error":"Not today."}`))
	})
	p.Keys(drive.Enter)
	p.DoubleClick(300, 500)
	p.Wait(`document.activeElement.matches(".noun-field") && document.activeElement.value === ""`)
	p.Keys("a crown")
	close(release)
	p.Wait(`document.querySelector(".notice.stays")?.textContent.includes("“the rim” could not be done. Not today.") && document.getElementById("saved").textContent === "Saved, 1 not taken"`)
	assert.Equal(t, "a crown", drive.Eval[string](p, `document.activeElement.value`), "nobody is disturbed")
	b.breaks(nil)
	p.Keys(drive.Enter)
	p.Wait(`seen.saved()`)
	assert.Equal(t, []string{"a crown"}, labels(p))
	p.Reload()
	p.Wait(`document.querySelector(".notice.stays")?.textContent.includes("the rim")`)
	p.Press(`.notice.stays button`)
	p.Settled()
	assert.ElementsMatch(t, []string{"a crown", "the rim"}, labels(p))
	assert.Empty(t, drive.Eval[[]string](p, `Object.keys(localStorage).filter(k => k.startsWith("waiting:"))`))
	sameAfterReload(t, p)
}

// More undos than there is to undo, quicker than the server answers: the queue
// empties, and what is done after them is kept.
func TestUndoPastTheBeginning(t *testing.T) {
	t.Parallel()
	inSoak(t)
	app := drive.Start(t, binary, "serve", t.TempDir())
	b := standBetween(t, app)
	address := emptyMap(t, app)
	var ops []string
	for i := range 41 {
		ops = append(ops, fmt.Sprintf(`{"do":"add-concept","id":"c%02d","label":"idea %d","at":{"x":%d,"y":%d}}`, i, i, i%8*200, i/8*90))
	}
	for i, op := range ops {
		post(t, app.URL+address, fmt.Sprint("e", i), "["+op+"]")
	}
	p := browser.Page(t, 1280, 800)
	p.Goto(b.URL + address)
	assert.Len(t, labels(p), 41)
	p.Press("#desk")
	for range 46 {
		p.Ctrl("z")
	}
	p.Settled()
	assert.Empty(t, labels(p))
	for range 46 {
		p.CtrlShift("z")
	}
	p.Settled()
	assert.Len(t, labels(p), 41)
	b.delay.Store(int64(150 * time.Millisecond))
	for range 12 {
		p.Ctrl("z")
	}
	p.Press("#add")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("after it all", drive.Enter)
	b.delay.Store(0)
	p.Settled()
	assert.Contains(t, labels(p), "after it all")
	assert.Empty(t, drive.Eval[[]string](p, `Object.keys(localStorage).filter(k => k.startsWith("waiting:"))`))
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// A fault in any step of showing an answer stops neither the other steps nor what
// waits; the page fetches the whole drawing.
func TestAFaultInShowingAnAnswerStopsNothing(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + address)
	drive.Eval[bool](p, `(performance.setResourceTimingBufferSize(5000), true)`) // or it forgets what comes after the 250th
	var want []string
	for i, step := range []string{"chosen.mark", "theirs.mark", "pointer.handle.rest", "lead.show", "sides.show", "overview.fresh", "lens.fresh", "column.refresh", "routeLine.fresh",
		"notes.fresh", "talk.fresh", "cards.fresh", "ground.take", "ground.dress", "freshMargin", "model.read", "provisional.drop", "flags", "answers.patch", "answers.take"} {
		words := fmt.Sprint("idea ", i)
		at := strings.LastIndex(step, ".")
		of, name := "mevrin", step
		if at > 0 {
			of, name = "mevrin."+step[:at], step[at+1:]
		}
		fetched := drive.Eval[int](p, `performance.getEntriesByType("resource").filter(e => e.name.includes("since=999999999")).length`)
		p.Settled()
		// It fails while the answer is taken, once.
		drive.Eval[bool](p, fmt.Sprintf(`(() => { const of = %s, was = of.%s; let left = %d; of.%s = function (...all) { if (left-- > 0) throw new Error("injected: %s"); delete of.%s; return was.apply(of, all); }; return true })()`, of, name, map[bool]int{true: 2, false: 1}[step == "flags"], name, step, name))
		drive.Eval[bool](p, fmt.Sprintf(`mevrin.send([{ do: "add-concept", id: "x%d", label: %q, at: { x: %d, y: %d } }], [])`, i, words, i%5*200, i/5*90))
		want = append(want, words)
		p.Wait(`seen.saved()`)
		p.Wait(fmt.Sprintf(`performance.getEntriesByType("resource").filter(e => e.name.includes("since=999999999")).length > %d`, fetched))
		drive.Eval[bool](p, fmt.Sprintf(`(delete %s.%s, mevrin.redraw().then(() => true))`, of, name))
		p.Wait(fmt.Sprintf(`seen.slips() === %d`, len(want)))
		assert.ElementsMatch(t, want, labels(p), step)
	}
	sameAfterReload(t, p)
}

// Undo works wherever the keyboard is, but in a field.
func TestUndoWhereverTheKeyboardIs(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + address)
	p.DoubleClick(500, 300)
	p.Keys("the rim", drive.Enter)
	p.Settled()
	undo := func(from string) {
		drive.Eval[bool](p, fmt.Sprintf(`(document.querySelector(%q).focus(), true)`, from))
		drive.Eval[bool](p, `document.activeElement.dispatchEvent(new KeyboardEvent("keydown", { key: "z", ctrlKey: true, bubbles: true, cancelable: true }))`)
	}
	undo("#say-from, .say input")
	p.Settled()
	assert.Equal(t, []string{"the rim"}, labels(p), "a field has an undo of its own")
	undo(`[data-do="phase"]`)
	p.Settled()
	assert.Empty(t, labels(p))
}

// Words outlive a click elsewhere while a new concept is typed, and the deletion
// of what they are written on by another window.
func TestWordsOfAnOpenEditorSurvive(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + address)
	p.DoubleClick(500, 200)
	p.Keys("the clapper", drive.Enter)
	p.Settled()
	// A click on the new slip goes on to its words, with the phrase.
	p.Keys(drive.Tab, "strikes")
	at := drive.Eval[[2]float64](p, `(() => { const { box: b } = seen.concepts().find(s => s.provisional), at = seen.inWindow(b.x + b.w / 2, b.y + b.h / 2); return [at.x, at.y] })()`)
	// What was on offer before a letter was typed may lie there for a moment yet.
	p.Wait(fmt.Sprintf(`!document.elementFromPoint(%g, %g).closest("#phrases")`, at[0], at[1]))
	p.Click(at[0], at[1])
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the bell wall", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"the clapper strikes the bell wall"}, says(p))
	// A click elsewhere keeps the phrase, before and after the concept is asked for.
	for i, before := range []bool{true, false} {
		p.Press(p.Slip("the clapper"))
		phrase := fmt.Sprint("swings ", i)
		p.Keys(drive.Tab, phrase)
		if !before {
			p.Keys(drive.Enter)
			p.Wait(`document.activeElement.matches(".noun-field")`)
		}
		p.Click(60, 700)
		p.Settled()
		p.Wait(fmt.Sprintf(`!!seen.link(%q)`, phrase))
	}
	p.Press(`.notice:last-child button`) // name it
	p.Wait(`document.activeElement.matches(".noun-field") && document.activeElement.value === ""`)
	p.Keys("the headstock", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the clapper swings 1 the headstock")
	// The 201st end of a phrase is refused: its words stand in the field again.
	ops := []string{`{"do":"add-concept","id":"many","label":"many","at":{"x":0,"y":2000}}`}
	for i := range 200 {
		ops = append(ops, fmt.Sprintf(`{"do":"add-concept","id":"of%d","label":"one %d","at":{"x":%d,"y":2300}}`, i, i, i*200))
	}
	ends := make([]string, 200)
	for i := range ends {
		ends[i] = fmt.Sprintf(`{"id":"t%d","concept":"of%d"}`, i, i)
	}
	post(t, app.URL+address, "many", "["+strings.Join(append(ops, `{"do":"add-link","id":"have","from":[{"id":"f","concept":"many"}],"to":[`+strings.Join(ends, ",")+`],"phrase":"are"}`), ",")+"]")
	p.Wait(`!!document.getElementById("c-of199")`)
	p.Press(`[data-do="find"]`)
	p.Keys("one 199")
	p.Wait(`seen.chosen() === "c-of199"`)
	p.Keys(drive.Escape, drive.Enter, "one too many", drive.Enter)
	p.Wait(`document.querySelector(".notice.fault")?.textContent.includes("200") && document.activeElement.value === "one too many"`)
	p.Keys(drive.Escape)
	// Another window deletes what is being renamed: its words are offered again.
	id := drive.Eval[string](p, `seen.concept("the bell wall").id`)
	p.Press(`[data-do="find"]`)
	p.Keys("the bell wall")
	p.Wait(`seen.chosen() === "c-` + id + `"`)
	p.Keys(drive.Escape, drive.F2, "the wall of bronze")
	post(t, app.URL+address, "gone", fmt.Sprintf(`[{"do":"remove","concepts":[%q]}]`, id))
	p.Wait(`!document.getElementById("c-` + id + `")`)
	p.Keys(drive.Enter)
	p.Wait(`document.querySelector(".notice.stays")?.textContent.includes("the wall of bronze")`)
	p.Press(`.notice.stays button`)
	p.Settled()
	assert.Contains(t, labels(p), "the wall of bronze")
	sameAfterReload(t, p)
}

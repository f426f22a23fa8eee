package e2e_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// says gives everything the map says, sorted, as its own page reads it.
func says(p *drive.Page) []string {
	return drive.Eval[[]string](p, `seen.links().map(l => l.el.getAttribute("aria-label")).sort()`)
}

func labels(p *drive.Page) []string {
	return drive.Eval[[]string](p, `seen.concepts().map(s => s.words).sort()`)
}

// drawing gives the whole drawing as markup, to compare what patches made of
// it with what a fresh page shows.
func drawing(p *drive.Page) string {
	return drive.Eval[string](p, `["links", "slips"].map(g => [...document.getElementById(g).children].map(e => {
		const c = e.cloneNode(true); c.classList.remove("chosen", "fed", "pointed", "theirs", ...[...c.classList].filter(n => n.startsWith("who-"))); return c.outerHTML }).join("\n")).join("\n")`)
}

// sameAfterReload holds that the page, patched many times, shows just what a
// fresh one does.
func sameAfterReload(t *testing.T, p *drive.Page) {
	t.Helper()
	p.Settled()
	before := drawing(p)
	p.Reload()
	require.Equal(t, before, drawing(p))
}

// The story of the product's first slice: from the library to a map of one's
// own, changed and mended by hand, that survives the death of the process.
func TestFromEmptyPaperToAMapThatSurvives(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := drive.Start(t, binary, "demo", data)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	p.Press(`a[href="/maps/bell-sound"]`)
	p.Wait(`window.mevrin && seen.slips() === 41`)
	assert.GreaterOrEqual(t, drive.Eval[int](p, `document.querySelectorAll(".line.cross").length`), 8)
	assert.GreaterOrEqual(t, drive.Eval[float64](p, `seen.scale() * 19`), 14.0, "the focus concept opens at a readable size")
	assert.True(t, drive.Eval[bool](p, `(() => { const b = document.querySelector(".slip.focus").getBoundingClientRect(); return b.top > 52 && b.left > 0 && b.right < innerWidth })()`))

	// A map of one's own: one concept in the middle, ready for its words.
	p.Goto(app.URL)
	p.Press("#question")
	p.Keys("Why does a bell hum?", drive.Enter)
	p.Wait(`window.mevrin && document.activeElement.matches(".field")`)
	p.Keys("the hum", drive.Enter)
	p.Settled()
	assert.Equal(t, "Why does a bell hum?", drive.Eval[string](p, `document.querySelector("h1").innerText`))

	// Keys alone: linked concepts, each phrase before its noun, and siblings.
	p.Keys(drive.Tab, "is a tone of", drive.Enter, "the bell", drive.Enter)
	p.Keys(drive.Tab, "is struck by", drive.Enter, "the clapper", drive.Enter)
	p.Keys(drive.Enter, "the hammer", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"the bell is struck by the clapper, the hammer", "the hum is a tone of the bell"}, says(p))
	assert.Equal(t, drive.Eval[string](p, `seen.chosen()`), "c-"+drive.Eval[string](p, `seen.concept("the hammer").id`))
	noOverlap(t, p)

	// An empty concept leaves nothing behind; Escape neither.
	p.Keys(drive.Enter, drive.Enter)
	p.Keys(drive.Tab, "half a thought", drive.Escape)
	p.Settled()
	assert.Equal(t, []string{"the bell", "the clapper", "the hammer", "the hum"}, labels(p))
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".provisional").length`))

	// The pointer: a loose idea on empty paper, a link pulled from its knot.
	p.Keys(drive.Escape)
	p.DoubleClick(150, 620)
	p.Wait(`document.activeElement.matches(".field")`)
	p.Keys("the ear", drive.Enter)
	p.Settled()
	assert.True(t, drive.Eval[bool](p, `document.querySelector('`+p.Slip("the ear")+`').classList.contains("loose")`))
	pull(p, "the hum", "the ear")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("reaches", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the hum reaches the ear")

	// Pulled to empty paper: a new linked concept there, its phrase asked first.
	pullTo(p, "the ear", 150, 300)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("sends signals to", drive.Enter, "the brain", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the ear sends signals to the brain")

	// Words are changed in place, by double click, F2, or just by typing.
	x, y := p.Middle(p.Slip("the brain"))
	p.DoubleClick(x, y)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the mind", drive.Enter)
	p.Settled()
	p.Keys(drive.F2, "the brain", drive.Enter)
	p.Settled()
	p.Keys("x", drive.Escape)
	assert.Contains(t, labels(p), "the brain")

	// A line break of one's own is kept when the words are opened again.
	p.Keys(drive.F2, "grey")
	p.Shift(drive.Enter)
	p.Keys("matter", drive.Enter)
	p.Settled()
	assert.Contains(t, labels(p), "grey\nmatter")
	p.Keys(drive.F2, drive.Enter)
	p.Settled()
	assert.Contains(t, labels(p), "grey\nmatter")
	p.Keys(drive.F2, "the brain", drive.Enter)
	p.Settled()

	// A click elsewhere finishes as well: the words stay, nothing is selected.
	p.Keys(drive.F2, "the mind")
	p.Click(60, 600)
	p.Settled()
	assert.Contains(t, labels(p), "the mind")
	assert.Empty(t, drive.Eval[string](p, `seen.marked().join()`))
	p.Ctrl("z")
	p.Settled()

	// A linked concept by the knot's click and by the margin, a sibling by the margin.
	p.Press(p.Slip("the ear"))
	p.Wait(`document.querySelector('[data-do="sibling"]')`)
	for _, control := range []string{`[data-do="child"]`, `[data-do="sibling"]`} {
		p.Press(control)
		p.Wait(`document.activeElement.matches(".field")`)
		p.Keys(drive.Escape)
		p.Press(p.Slip("the ear"))
	}
	x, y = p.Middle(p.Slip("the ear"))
	p.Hover(x, y)
	p.Press(".pull-handle .dot")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys(drive.Escape)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".provisional").length`))

	// A link: selected by a click, reversed, its heads and its words changed.
	link := drive.Eval[string](p, `seen.link("reaches").id`)
	p.Press(`[id="l-` + link + `"] .gap`)
	p.Wait(`document.querySelector('[data-do="reverse"]')`)
	p.Press(`[data-do="reverse"]`)
	p.Wait(`seen.links().some(l => l.el.getAttribute("aria-label") === "the ear reaches the hum")`)
	p.Press(`[data-do="heads-both"]`)
	p.Wait(`seen.at("l-` + link + `").heads === "both"`)
	p.Wait(`document.querySelector('[data-do="heads-both"][aria-pressed="true"]')`)
	p.Keys("hears", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the ear hears the hum")

	// Undo and redo, step by step, as far as the log reaches, reload included.
	sameAfterReload(t, p)
	whole := says(p)
	steps := 0
	for drive.Eval[bool](p, `!document.getElementById("undo").disabled`) {
		p.Press("#undo")
		p.Settled()
		steps++
		require.Less(t, steps, 40)
	}
	assert.Empty(t, says(p))
	p.Reload()
	p.Wait(`document.getElementById("undo").disabled && !document.getElementById("redo").disabled`)
	p.Press("#desk")
	for range steps {
		p.Ctrl("y")
		p.Settled()
	}
	assert.Equal(t, whole, says(p))
	p.Ctrl("z")
	p.Settled()
	assert.NotEqual(t, whole, says(p))
	p.Ctrl("y")
	p.Settled()

	// Delete, and the offer to take it back.
	p.Press(p.Slip("the bell"))
	p.Keys(drive.Delete)
	p.Settled()
	assert.NotContains(t, labels(p), "the bell")
	assert.Contains(t, drive.Eval[string](p, `document.getElementById("notices").innerText`), "“the bell” and 2 links deleted")
	p.Press("#notices button")
	p.Settled()
	assert.Equal(t, whole, says(p))

	// A proposition typed as a sentence; what it says and what is wrong with it.
	p.Press("#say-from")
	p.Ctrl("a")
	p.Keys("the bell", drive.Tab, drive.Tab, "a tower", drive.Enter)
	p.Settled()
	p.Press("#column-switch")
	p.Wait(`document.getElementById("propositions")?.innerText.replace(/\s+/g, " ").includes("the bell no words yet a tower")`)
	p.Press("#margin-switch")
	p.Press(`[data-phase="check"]`)
	pressFinding(p, "A link has no words", "Give it words")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("hangs in", drive.Enter)
	p.Settled()
	p.Wait(`!document.getElementById("margin").innerText.includes("A link has no words")`)

	// A route of stops, and a link to walk it.
	p.Press(`[data-phase="guide"]`)
	for _, words := range []string{"the hum", "the bell", "a tower"} {
		p.Press(p.Slip(words))
		p.Ctrl(drive.Enter)
	}
	waitForStops(p, "the hum", "the bell", "a tower")
	open(p, "card-marks")
	write(p, "#stop-card", "There it hangs.")
	p.Press(`[data-do="make-link"]`)
	p.Wait(`document.querySelector(".address")?.value.startsWith("http")`)
	p.Settled()
	walkAddress := drive.Eval[string](p, `document.querySelector(".address").value.replace(location.origin, "")`)

	// The process dies; what was answered is there.
	address := drive.Eval[string](p, `location.pathname`)
	shown := drawing(p)
	app.Kill()
	again := drive.Start(t, binary, "demo", data)
	p.Goto(again.URL + address)
	assert.Equal(t, shown, drawing(p))
	assert.Empty(t, p.Faults("Failed to load resource", "WebSocket", "Failed to fetch"))

	// And so is the walk, on a phone.
	phone := browser.Page(t, 390, 844)
	phone.Goto(again.URL + walkAddress)
	atStop(t, phone, "1 of 3: the hum, 1 concepts, 0 links")
	phone.TapAt(phone.Middle("#next"))
	atStop(t, phone, "2 of 3: the bell, 2 concepts, 1 links")
	phone.TapAt(phone.Middle("#next"))
	atStop(t, phone, "3 of 3: a tower, 3 concepts, 2 links")
	assert.Equal(t, "There it hangs.", drive.Eval[string](phone, `document.querySelector(".card:not([hidden]) .prose").innerText.trim()`))
	assert.Empty(t, phone.Faults())
	assert.NotContains(t, again.Log(), "panic")
}

// noOverlap holds that no slip covers another.
func noOverlap(t *testing.T, p *drive.Page) {
	t.Helper()
	assert.Empty(t, drive.Eval[[]string](p, `(() => { const all = seen.concepts(), bad = [];
		for (const a of all) for (const b of all) if (a.id < b.id && a.box.x < b.box.x + b.box.w && b.box.x < a.box.x + a.box.w && a.box.y < b.box.y + b.box.h && b.box.y < a.box.y + a.box.h) bad.push(a.words + " / " + b.words);
		return bad })()`))
}

// pullTo drags the knot of a concept to a place of the window.
func pullTo(p *drive.Page, from string, x, y float64) {
	sx, sy := p.Middle(p.Slip(from))
	p.Hover(sx, sy)
	p.Wait(`document.querySelector(".pull-handle").getAttribute("visibility") === "visible"`)
	kx, ky := p.Middle(".pull-handle .dot")
	p.Drag(kx, ky, x, y)
}

func pull(p *drive.Page, from, to string) {
	x, y := p.Middle(p.Slip(to))
	pullTo(p, from, x, y)
}

// Moving and looking: drag with lines that follow, pan, zoom about the
// pointer, fit, find back, select many.
func TestMovingThings(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.zoom [data-do="fit"]`)
	place := func(id string) []float64 {
		return drive.Eval[[]float64](p, fmt.Sprintf(`(() => { const b = seen.at("c-" + %q).box; return [b.x, b.y] })()`, id))
	}
	scale := drive.Eval[float64](p, "seen.scale()")

	before := place("clapper")
	x, y := p.Middle(`[id="c-clapper"]`)
	p.DragWith(kb.ModifierCtrl, x, y, x+60, y-30, func() { // held, it does not snap
		p.Wait(`document.querySelectorAll("#lifted .prov-line").length === 4`)
		assert.True(t, drive.Eval[bool](p, `[...document.querySelectorAll("#lifted .prov-line")].every(l => l.getAttribute("d").startsWith("M"))`))
	})
	p.Settled()
	after := place("clapper")
	assert.InDelta(t, 60/scale, after[0]-before[0], 1.5)
	assert.InDelta(t, -30/scale, after[1]-before[1], 1.5)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll("#lifted > *").length`))
	sameAfterReload(t, p)
	p.Press(`.zoom [data-do="fit"]`)

	// Escape in the middle of a drag leaves everything as it was.
	x, y = p.Middle(`[id="c-brain"]`)
	shown := drawing(p)
	p.Drag(x, y, x-80, y-80, func() { p.Keys(drive.Escape) })
	p.Settled()
	assert.Equal(t, shown, drawing(p))

	// Two at once: chosen with Control, moved by keys in one step of undo.
	ax, ay := p.Middle(`[id="c-pitch"]`)
	bx, by := p.Middle(`[id="c-loudness"]`)
	p.Click(ax, ay)
	p.CtrlClick(bx, by)
	a, b := place("pitch"), place("loudness")
	for range 5 {
		p.Shift(drive.Right)
	}
	p.Wait(fmt.Sprintf(`seen.at("c-pitch").box.x === %v`, a[0]+40))
	p.Keys(drive.Escape)
	p.Settled()
	assert.Equal(t, []float64{b[0] + 40, b[1]}, place("loudness"))
	p.Ctrl("z")
	p.Settled()
	assert.Equal(t, append(a, b...), append(place("pitch"), place("loudness")...))

	// A frame selects what is wholly inside.
	p.Press(`.zoom [data-do="fit"]`)
	box := drive.Eval[[]float64](p, `(() => { const r = document.querySelector("#c-copper").getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom] })()`)
	p.DragWith(8, box[0]-6, box[1]-6, box[2]+6, box[3]+6)
	assert.Equal(t, "c-copper", drive.Eval[string](p, "seen.marked().join()"))

	// The wheel pans; with Control it zooms about the pointer.
	p.Wheel(500, 400, 0, 100, false)
	at := `(() => { const q = seen.onPaper(500, 400); return [q.x, q.y, seen.scale()] })()`
	was := drive.Eval[[]float64](p, at)
	p.Wheel(500, 400, 0, -120, true)
	p.Wait(fmt.Sprintf("seen.scale() > %v", was[2]))
	is := drive.Eval[[]float64](p, at)
	assert.InDelta(t, was[0], is[0], 1/was[2]) // the paper lies on whole pixels
	assert.InDelta(t, was[1], is[1], 1/was[2])

	// Lost and found: pan away, fit brings everything back.
	p.Drag(300, 745, 300, 100)
	p.Wheel(500, 400, 0, 4000, false)
	p.Press(`.zoom [data-do="fit"]`)
	assert.True(t, drive.Eval[bool](p, `[...document.querySelectorAll(".slip")].every(s => { const r = s.getBoundingClientRect(); return r.left > 0 && r.right < 990 && r.top > 50 && r.bottom < 760 })`))

	// The zoom and place are kept for the next visit.
	p.Press(`[data-do="zoom-in"]`)
	k := drive.Eval[float64](p, "seen.scale()")
	p.Wait(`seen.still()`)
	p.Reload()
	assert.InDelta(t, k, drive.Eval[float64](p, "seen.scale()"), 1e-6)

	// Keys with nothing selected, and the way out of the paper.
	p.Press(`.zoom [data-do="fit"]`)
	p.Keys("+")
	assert.Greater(t, drive.Eval[float64](p, "seen.scale()"), scale*1.1)
	p.Keys("0")
	assert.InDelta(t, 1, drive.Eval[float64](p, "seen.scale()"), 1e-9)
	p.Keys("f", "?")
	p.Wait(`document.querySelector("#keys[open]")`)
	p.Keys(drive.Escape, drive.Tab)
	p.Wait(`seen.chosen() === "c-sound"`)
	p.Keys(drive.Down)
	p.Wait(`seen.chosen() !== "c-sound" && seen.at(seen.chosen()).box.y > seen.at("c-sound").box.y`)
	p.Keys(drive.Escape, drive.Escape)
	p.Wait(`document.activeElement !== document.getElementById("desk") && document.getElementById("announce").textContent.startsWith("Left the paper")`)
	assert.Empty(t, p.Faults())
}

// Hostile words stay words, in the drawing, the margin, the library, the title.
func TestHostileWords(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	hostile := `"><img src=x onerror=alert(1)><script>alert(2)</script>{{x}}`
	p.Press("#question")
	p.Keys(hostile, drive.Enter)
	p.Wait(`window.mevrin && document.activeElement.matches(".field")`)
	p.Keys(hostile, drive.Enter, drive.Tab, hostile, drive.Enter, "javascript:alert(3)", drive.Enter)
	p.Settled()
	more(p)
	p.Wait(`document.querySelector(".margin .sentences")`)
	p.Reload()
	assert.Equal(t, hostile, drive.Eval[string](p, `document.querySelector("h1").innerText`))
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll("img, svg image, foreignObject, script:not([src])").length`))
	p.Goto(app.URL)
	assert.Contains(t, drive.Eval[string](p, `document.body.innerText`), hostile)
	assert.Empty(t, p.Faults())
	assert.False(t, strings.Contains(app.Log(), "panic"))
}

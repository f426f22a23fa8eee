package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// clip sends a clipboard event with a text to what has the keyboard, and gives
// the text that the page leaves there.
func clip(p *drive.Page, kind, text string) string {
	return drive.Eval[string](p, `(() => { const d = window.clipped = new DataTransfer(); if (`+quoted(text)+`) d.setData("text/plain", `+quoted(text)+`);
		document.activeElement.dispatchEvent(new ClipboardEvent(`+quoted(kind)+`, { clipboardData: d, bubbles: true, cancelable: true })); return d.getData("text/plain") })()`)
}

// What is copied leaves as an outline with its sentences, which Mevrin reads
// again; a web address becomes a source of the concept selected; what is no
// address is refused, and a picture is declined with a word.
func TestTheClipboard(t *testing.T) {
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    is of: bronze\n  has: the crown")
	p.Wait(`seen.slips() === 4`)
	p.Press(p.Slip("the bell"))
	p.Ctrl("a")
	text := clip(p, "copy", "")
	assert.Equal(t, "the bell\n\thas: the rim\n\t\tis of: bronze\n\thas: the crown\n\nthe bell has the rim, the crown.\nthe rim is of bronze.", text)

	p.Keys(drive.Escape)
	p.Press(p.Slip("the rim"))
	clip(p, "paste", "https://hollin.example/rim?a=1&b=<2>")
	p.Wait(`document.querySelector(".notice.fault")?.textContent.includes("no web address")`)
	clip(p, "paste", " https://hollin.example/rim?a=1 ")
	p.Settled()
	more(p)
	p.Wait(`document.querySelector(".source")?.dataset.url === "https://hollin.example/rim?a=1"`)
	p.Press(".source")
	p.Wait(`document.querySelector("#viewer[open] a")?.href === "https://hollin.example/rim?a=1"`)
	assert.Equal(t, []string{"_blank", "noopener noreferrer nofollow"}, drive.Eval[[]string](p, `(a => [a.target, a.rel])(document.querySelector("#viewer a"))`))
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open`)
	p.Press(p.Slip("the crown"))
	p.Press(p.Slip("the rim"))
	clip(p, "paste", "https://hollin.example/rim?a=1")
	p.Wait(`[...document.querySelectorAll(".notice.fault")].some(n => n.textContent.includes("already"))`)
	p.Press(`#source`)
	p.Keys("http://hollin.example/bow", drive.Enter)
	p.Wait(`document.querySelectorAll(".source").length === 2`)
	p.Press(`.margin [data-steps*="detach-source"]`)
	p.Wait(`document.querySelectorAll(".source").length === 1`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.querySelectorAll(".source").length === 2`)
	// A copy within the map has what belongs to its original, by a key and by the clipboard.
	rim := p.Slip("the rim")
	p.Press(p.Slip("the bell"))
	p.Press(rim)
	p.Ctrl("d")
	p.Settled()
	p.Wait(`document.querySelectorAll("#desk .slip").length === 5 && !document.querySelector(` + quoted(rim+".chosen") + `) && document.querySelectorAll(".source").length === 2`)
	p.Ctrl("z")
	p.Wait(`document.querySelectorAll("#desk .slip").length === 4`)
	marginSays(p, "Nothing selected") // folds are as they were left, all the same
	p.Press(p.Slip("the bell"))
	p.Press(rim)
	drive.Eval[bool](p, `(() => { const d = new DataTransfer(), on = (what) => document.activeElement.dispatchEvent(new ClipboardEvent(what, { clipboardData: d, bubbles: true, cancelable: true }));
		on("copy"); on("paste"); return true })()`)
	p.Settled()
	p.Wait(`document.querySelectorAll("#desk .slip").length === 5 && !document.querySelector(` + quoted(rim+".chosen") + `) && document.querySelectorAll(".source").length === 2`)
	p.Keys(drive.Escape)
	drive.Eval[bool](p, `(() => { const d = new DataTransfer(); d.items.add(new File(["x"], "bell.png", { type: "image/png" }));
		document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: d, bubbles: true, cancelable: true })); return true })()`)
	p.Wait(`[...document.querySelectorAll(".notice")].some(n => n.textContent.includes("“bell.png” is attached"))`)
	p.Settled()
	assert.Len(t, labels(p), 6, "without a selection it becomes a concept of its own")
	assert.Empty(t, p.Faults("Unprocessable"))
}

// What is cut on one map and pasted on another brings its kinds, its notes, its sources
// and its links along; what is pasted again on its own map is as it was.
func TestAPartGoesToAnotherMap(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    is of: bronze")
	p.Wait(`seen.slips() === 3`)
	p.Press(p.Slip("the rim"))
	p.Press(`[data-phase="connect"]`)
	open(p, "key")
	p.Press(`.margin [data-do="begin-key"]`)
	p.Wait(`document.querySelector('.margin [data-do="give-kind"]')`)
	p.Press(`.margin [data-do="give-kind"]`)
	p.Settled()
	kind := drive.Eval[string](p, `document.querySelector('.margin [data-do="give-kind"]').dataset.name ?? document.querySelector(".key-item input").value`)
	drive.Eval[bool](p, `seen.elsewhere([{ do: "set-note", on: { kind: "concept", id: seen.chosen().slice(2) }, note: "Its edge." },
		{ do: "attach-source", on: { kind: "concept", id: seen.chosen().slice(2) }, id: "s1", url: "https://hollin.example/rim" }])`)
	p.Settled()
	p.Press(p.Slip("the bell"))
	p.CtrlClick(p.Middle(p.Slip("the rim")))
	p.CtrlClick(p.Middle(p.Slip("bronze")))
	cut := drive.Eval[string](p, `(() => { const d = new DataTransfer(); document.activeElement.dispatchEvent(new ClipboardEvent("cut", { clipboardData: d, bubbles: true, cancelable: true }));
		return JSON.stringify([...d.types].map((type) => [type, d.getData(type)])) })()`)
	p.Wait(`seen.slips() === 0`)
	p.Settled()
	paste := func() {
		drive.Eval[bool](p, `(() => { const d = new DataTransfer(); for (const [type, text] of JSON.parse(`+quoted(cut)+`)) d.setData(type, text);
			document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: d, bubbles: true, cancelable: true })); return true })()`)
		p.Wait(`seen.marked().length === 3`)
		p.Settled()
	}
	paste()
	assert.ElementsMatch(t, []string{"the bell has the rim", "the rim is of bronze"}, says(p))
	newMap(p, app.URL, "Another one", "empty", "")
	p.Press("#desk")
	paste()
	assert.ElementsMatch(t, []string{"the bell has the rim", "the rim is of bronze"}, says(p))
	assert.Contains(t, drive.Eval[string](p, `document.querySelector('`+p.Slip("the rim")+`').getAttribute("aria-label")`), kind, "its kind came along")
	p.Press(`[data-phase="gather"]`)
	p.Press("#desk")
	p.Press(p.Slip("the rim"))
	more(p)
	p.Wait(`document.querySelector(".source")?.dataset.url === "https://hollin.example/rim" && document.getElementById("note")?.value === "Its edge."`)
	p.Ctrl("z")
	p.Wait(`seen.slips() === 0`)
	assert.Empty(t, p.Faults())
}

// Words are found in labels, phrases and notes, and replaced after a look at
// each place, in one step.
func TestWordsAreFoundAndReplaced(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	// Enter pressed before the server has told of the notes goes on from there.
	p.Keys("/")
	p.Keys("air", drive.Enter)
	p.Wait(`document.getElementById("find-count").textContent.includes("2 of 5")`)
	drive.Eval[bool](p, `document.getElementById("find-words").select(), true`)
	p.Keys("bronze")
	p.Wait(`document.getElementById("find-count").textContent.includes("of 2")`)
	p.Wait(`document.querySelectorAll(".found").length === 2`)
	p.Press(`[data-do="find-on"]`)
	p.Wait(`document.getElementById("find-count").textContent === "2 of 2, in its note"`)
	p.Press("#find-with")
	p.Keys("<b>brass</b>", drive.Enter)
	p.Wait(`document.querySelector("#replaced[open] [data-do='put-replaced']")`)
	assert.Equal(t, []string{"label bell bronze<b>brass</b>", "note In air of 20 degrees. In the bronze<b>brass</b> of a bell sound is some ten times as fast."}, drive.Eval[[]string](p, `[...document.querySelectorAll("#replaced label")].map(l => l.textContent.trim().replace(/\s+/g, " "))`))
	p.Press("#replaced li:last-child input")
	p.Press(`#replaced [data-do="put-replaced"]`)
	p.Settled()
	assert.Contains(t, labels(p), "bell <b>brass</b>")
	p.Press(".notice:last-child button")
	p.Settled()
	assert.Contains(t, labels(p), "bell bronze")
	p.Press(`.top [data-do="find"]`)
	p.Wait(`document.activeElement.id === "find-words"`)
	p.Keys("340 metres a second")
	p.Wait(`document.getElementById("find-count").textContent.startsWith("1 of 1")`)
	p.Press("#find-with")
	drive.Eval[bool](p, `document.getElementById("find-with").value = "", true`)
	p.Keys(drive.Enter)
	p.Wait(`document.querySelector("#replaced[open] [role=alert]")?.textContent.includes("at least one word")`)
	p.Press(`#replaced [data-do="drop-replaced"]`)
	assert.Empty(t, p.Faults())
}

// Keys are found by what they do; hints can be put away and come back; the
// menu shows icons and keys.
func TestKeySheetAndHints(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Keys("?")
	p.Wait(`document.activeElement.id === "keys-seek"`)
	lines := func() []string {
		return drive.Eval[[]string](p, `[...document.querySelectorAll("#keys dl > div")].filter(d => d.checkVisibility()).map(d => d.innerText.replace(/\s+/g, " "))`)
	}
	assert.Greater(t, len(lines()), 35)
	assert.LessOrEqual(t, drive.Eval[float64](p, `(k => k.scrollHeight - k.clientHeight)(document.getElementById("keys"))`), 1.0, "all of it is in sight")
	p.Keys("tuck")
	p.Wait(`document.getElementById("keys-count").innerText === "2"`)
	assert.Equal(t, []string{"Ctrl + Shift + ↑ tuck away what is below it, or bring it back", "b bring back all that is tucked away"}, lines())
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("keys").open`)

	p.Press(`.hints [data-name="hints"]`)
	assert.False(t, drive.Eval[bool](p, `document.getElementById("hints").checkVisibility()`))
	p.Reload()
	p.Wait(`!!window.mevrin`)
	assert.False(t, drive.Eval[bool](p, `document.getElementById("hints").checkVisibility()`))
	open(p, "settings")
	p.Press(`.margin [data-name="hints"]`)
	assert.True(t, drive.Eval[bool](p, `document.getElementById("hints").checkVisibility()`))
	// They fit what is selected.
	before := drive.Eval[string](p, `document.getElementById("hints").textContent`)
	p.Press(`[data-do="fit"]`)
	p.Press(phraseOf(p, "guides"))
	p.Wait(`document.getElementById("hints").textContent !== ` + quoted(before))
	assert.Contains(t, drive.Eval[string](p, `document.getElementById("hints").textContent`), "phrase")
	p.RightClick(p.Middle(phraseOf(p, "guides")))
	p.Wait(`!document.getElementById("menu").hidden`)
	menu := drive.Eval[string](p, `[...document.querySelectorAll("#menu [role=menuitem]")].map(m => (m.querySelector("svg use") ? "* " : "") + m.innerText.replace(/\s+/g, " ").trim()).join("\n")`)
	assert.Contains(t, menu, "* Turn it round Ctrl+Shift+←")
	assert.NotContains(t, menu, "Linked concept")
	assert.Empty(t, p.Faults())
}

// The view: what is selected is shown large, a large map has its overview, one
// who is lost is brought back, and the paper can stand alone.
func TestOverviewAndThePaperAlone(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.zoom [data-do="fit"]`)
	p.Wait(`document.getElementById("overview").hidden`)
	p.Press(`[id="c-prime"]`)
	fitted := drive.Eval[float64](p, `seen.scale()`)
	p.Press(`.zoom [data-do="fit-chosen"]`)
	p.Wait(`seen.scale() > ` + mustJSON(fitted) + ` * 1.5`)
	assert.True(t, inSight(p, "c-prime"))
	p.Wait(`!document.getElementById("overview").hidden && document.querySelector(".overview-frame").getAttribute("width")`)
	// A press in the overview goes there.
	x, y := p.Middle("#overview")
	r := drive.Eval[[]float64](p, `(r => [r.x, r.y])(document.getElementById("overview").getBoundingClientRect())`)
	was := drive.Eval[[]float64](p, `[seen.place().x, seen.place().y]`)
	p.Drag(r[0]+8, r[1]+8, x, y)
	assert.NotEqual(t, was, drive.Eval[[]float64](p, `[seen.place().x, seen.place().y]`))

	p.Wheel(500, 400, -9000, -9000, false)
	p.Wait(`document.getElementById("lost").checkVisibility()`)
	p.Press("#lost")
	p.Wait(`!document.getElementById("lost").checkVisibility() && seen.inSight()`)

	wide := drive.Eval[float64](p, `document.getElementById("desk").clientWidth * document.getElementById("desk").clientHeight`)
	p.Keys(drive.Escape)
	p.Keys("w")
	p.Wait(`document.getElementById("desk").clientWidth * document.getElementById("desk").clientHeight > ` + mustJSON(wide*1.3))
	assert.False(t, drive.Eval[bool](p, `document.getElementById("margin").checkVisibility() || document.getElementById("say").checkVisibility()`))
	p.Press(`[id="c-sound"]`)
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys(drive.Escape, drive.Escape, drive.Escape)
	p.Wait(`document.getElementById("margin").checkVisibility()`)
	assert.Empty(t, p.Faults())
}

// A loose idea is carried from the reading column to its place, and onto a
// concept, which links it; a new concept is carried from its button.
func TestThingsAreCarriedOntoThePaper(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What rings?", "lines", "the bell\nthe rope\nthe ringer")
	p.Wait(`seen.slips() === 3`)
	p.Press(`#column-switch`)
	row := func(words string) string {
		p.Wait(`[...document.querySelectorAll("#loose .row")].some(r => r.textContent.trim() === ` + quoted(words) + `)`)
		return `#loose [data-element="` + drive.Eval[string](p, `[...document.querySelectorAll("#loose .row")].find(r => r.textContent.trim() === `+quoted(words)+`).dataset.element`) + `"]`
	}
	x, y := p.Middle(row("the rope"))
	p.Drag(x, y, 900, 600, func() { p.Wait(`document.querySelector(".carried")?.textContent === "the rope"`) })
	p.Settled()
	sx, sy := p.Middle(p.Slip("the rope"))
	assert.InDelta(t, 900, sx, 2)
	assert.InDelta(t, 600, sy, 2)
	assert.Empty(t, drive.Eval[string](p, `document.querySelector(".carried")?.textContent ?? ""`))
	p.Ctrl("z")
	p.Settled()

	x, y = p.Middle(row("the ringer"))
	bx, by := p.Middle(p.Slip("the bell"))
	p.Drag(x, y, bx, by, func() { p.Wait(`document.querySelector(".slip.target")`) })
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is rung by", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"the bell is rung by the ringer"}, says(p))
	p.Wait(`document.querySelectorAll("#loose .row").length === 1`)

	x, y = p.Middle("#add")
	p.Drag(x, y, 800, 300)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the tower", drive.Enter)
	p.Settled()
	sx, sy = p.Middle(p.Slip("the tower"))
	assert.InDelta(t, 800, sx, 2)
	assert.InDelta(t, 300, sy, 2)
	noOverlap(t, p)

	// A question helps to break a concept down: its phrase stands ready.
	p.Press(p.Slip("the bell"))
	p.Press(`#margin-switch`)
	open(p, "asks")
	p.Press(`.margin .asks li:first-child button`)
	p.Wait(`document.activeElement.id === "jots" && document.activeElement.value === "consists of: "`)
	p.Keys("a rim", drive.Enter)
	// It holds for one idea: the next one is free of it.
	p.Keys("consists of: a crown", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell consists of a rim, a crown")
	assert.Empty(t, drive.Eval[string](p, `document.getElementById("jots").value`))
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A note is written with the help of its small editor and read as it is meant; a
// look is seen before it is taken, and all of it goes back in one step.
func TestNotesAndLooks(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  is struck by: the clapper\n    is made of: iron")
	p.Wait(`seen.slips() === 4`)
	drive.Eval[bool](p, `seen.elsewhere([{ do: "set-focus", concept: seen.concept("the bell").id }])`)
	p.Settled()
	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press("#note")
	p.Keys("thick ")
	p.Press(`.margin [data-do="mark-up"][data-mark="bold"]`)
	p.Wait(`document.activeElement.id === "note"`)
	p.Keys("here")
	drive.Eval[bool](p, `(() => { const n = document.getElementById("note"); n.setSelectionRange(n.value.length, n.value.length); return true })()`)
	p.Keys(" $f = v/lambda$")
	p.Keys(drive.Escape)
	p.Wait(`document.querySelector(".note-read strong")?.textContent === "here" && document.querySelector(".note-read math mfrac")`)
	p.Settled()
	assert.Equal(t, "thick here", drive.Eval[string](p, `document.querySelector('`+p.Slip("the rim")+` [data-mark="note"] title').textContent`), "seen by whoever points at the mark")
	p.Press(p.Slip("the rim"))
	p.Keys(" ")
	p.Wait(`document.querySelector(".note-card strong")?.textContent === "here"`)
	p.Keys(drive.Escape)
	p.Wait(`!document.querySelector(".note-card") && document.activeElement.id === "desk"`)

	open(p, "look")
	paper := func() string {
		return drive.Eval[string](p, `getComputedStyle(document.getElementById("desk")).backgroundColor`)
	}
	plain := paper()
	drive.Eval[bool](p, `(document.querySelector('[data-dress="evening"]').scrollIntoView({ block: "center" }), true)`)
	x, y := p.Middle(`[data-dress="evening"]`)
	p.Hover(x, y)
	p.Wait(`document.getElementById("desk").classList.contains("look-evening")`)
	assert.NotEqual(t, plain, paper())
	p.Hover(400, 300)
	p.Wait(`document.getElementById("desk").classList.contains("look-plain")`)
	assert.Equal(t, plain, paper(), "only looked at")
	revision := drive.Eval[int](p, "Number(document.body.dataset.revision)")
	p.Press(`[data-dress="evening"]`)
	p.Settled()
	p.Wait(`document.getElementById("desk").classList.contains("look-evening")`)
	assert.Greater(t, drive.Eval[int](p, "Number(document.body.dataset.revision)"), revision)

	// Colours stand for one thing at a time, and the key says so.
	drive.Eval[bool](p, `(() => { const el = document.getElementById("colour-by"); el.value = "branch"; el.dispatchEvent(new Event("change", { bubbles: true })); return true })()`)
	p.Wait(`document.querySelectorAll("#key-on-paper .key-row[data-branch]").length === 2`)
	p.Wait(`document.querySelector('` + p.Slip("iron") + `').classList.contains("colour-straw") && document.querySelector('` + p.Slip("the clapper") + `').classList.contains("colour-straw")`)
	p.Settled()

	// Kept under a name, the look is there for another map.
	p.Press("#look-name")
	p.Keys("by lamplight", drive.Enter)
	p.Wait(`[...document.querySelectorAll('.margin [data-fold="look"] .place')].some(b => b.textContent === "by lamplight")`)
	here := drive.Eval[string](p, "location.href")
	newMap(p, app.URL, "What else?", "outline", "a tower")
	open(p, "look")
	p.Press(`.margin [data-fold="look"] .place`)
	p.Wait(`document.getElementById("desk").classList.contains("look-evening")`)
	p.Settled()
	p.Goto(here)
	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)

	// One slip of its own: words, slip and border each by a row of their own.
	open(p, "paint")
	for _, what := range []string{"Slip in plum", "Words in clay", "Border in sea"} {
		p.Press(`.margin [aria-label="` + what + `"]`)
		p.Settled()
	}
	// What hangs from a concept follows it, but for what was set apart.
	p.Press(p.Slip("the bell"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	open(p, "paint")
	p.Press(`.margin [data-name="below"]`)
	p.Press(`.margin [aria-label="Slip in leaf"]`)
	p.Wait(`document.querySelectorAll("#slips .fill-leaf").length === 3 && !document.querySelector('` + p.Slip("the rim") + `.fill-leaf')`)
	p.Settled()
	p.Press(`.margin [data-name="below"]`)
	p.Ctrl("z")
	p.Wait(`!document.querySelector("#slips .fill-leaf")`)
	p.Settled()
	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	p.Wait(`["fill-plum", "words-clay", "border-sea"].every(c => document.querySelector('` + p.Slip("the rim") + `').classList.contains(c))`)
	p.Press(`.margin [data-do="copy-look"]`)
	p.Press(p.Slip("iron"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	open(p, "paint")
	p.Press(`.margin [data-do="paste-look"]`)
	p.Wait(`document.querySelector('` + p.Slip("iron") + `').classList.contains("words-clay")`)
	p.Settled()
	open(p, "look")
	p.Press(`.margin [data-steps*='"plain":true']`)
	p.Wait(`document.getElementById("desk").classList.contains("look-plain") && !document.querySelector("#key-on-paper .key-row")`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.getElementById("desk").classList.contains("look-evening") && document.querySelectorAll("#key-on-paper .key-row").length === 2`)
	p.Settled()
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
	// A picture of one's own lies under the slips, and leaves with the drawing.
	drive.Eval[bool](p, `(async () => { const c = document.createElement("canvas"); c.width = 300; c.height = 200; c.getContext("2d").fillRect(20, 20, 90, 90);
		const data = new DataTransfer(); data.items.add(new File([await new Promise(done => c.toBlob(done))], "tower.png", { type: "image/png" }));
		const field = document.getElementById("ground"); field.files = data.files; field.dispatchEvent(new Event("change")); return true })()`)
	p.Wait(`document.querySelector("#regions > .picture")?.getBBox().width > 300`)
	p.Settled()
	assert.True(t, drive.Eval[bool](p, `fetch(document.querySelector("#regions > .picture").href.baseVal).then(r => r.ok)`))
	assert.True(t, drive.Eval[bool](p, `fetch(document.body.dataset.base + "/drawing").then(r => r.text()).then(svg => /<image class="picture backdrop" href="data:image\/png;base64,/.test(svg))`))
	p.Goto(here)
	p.Wait(`document.querySelector("#regions > .picture")`)
	p.Press(p.Slip("iron"))
	p.Ctrl("z")
	p.Wait(`!document.querySelector("#regions > .picture")`)
}

// Colours of one's own are seen while they are chosen, taken once they are, and
// corrected where words could not be read; they go along to other maps, drawings and
// walks.
func TestColoursOfOnesOwn(t *testing.T) {
	inSoak(t)
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	open(p, "look")
	open(p, "own-colours")
	paper := func() string {
		return drive.Eval[string](p, `getComputedStyle(document.getElementById("desk")).backgroundColor`)
	}
	plain, revision := paper(), drive.Eval[int](p, "Number(document.body.dataset.revision)")
	choose := func(what, colour, event string) {
		drive.Eval[bool](p, `(() => { const el = document.getElementById("own-`+what+`"); el.value = "`+colour+`"; el.dispatchEvent(new Event("`+event+`", { bubbles: true })); return true })()`)
	}
	assert.Equal(t, "#fbf6ea", drive.Eval[string](p, `document.getElementById("own-paper").value`), "as it is now")
	choose("paper", "#ffe8d0", "input")
	p.Wait(`document.getElementById("desk").classList.contains("look-own") && getComputedStyle(document.getElementById("desk")).backgroundColor === "rgb(255, 232, 208)"`)
	assert.Equal(t, revision, drive.Eval[int](p, "Number(document.body.dataset.revision)"), "only looked at")

	// No ink can be read on dark paper and on light slips: nothing changes, with words.
	choose("paper", "#102a43", "change")
	p.Wait(`document.querySelector(".notice")?.textContent.includes("No ink can be read")`)
	p.Wait(`document.getElementById("desk").classList.contains("look-plain")`)
	assert.Equal(t, plain, paper())
	drive.Eval[bool](p, `(document.getElementById("own-paper").value = "#102a43", document.getElementById("own-slip").value = "#1b3a57", true)`)
	choose("ink", "#35516b", "change")
	p.Wait(`[...document.querySelectorAll(".notice")].some(n => n.textContent.includes("The ink was made lighter"))`)
	p.Settled()
	ink := drive.Eval[string](p, `getComputedStyle(document.getElementById("desk")).getPropertyValue("--ink").trim()`)
	assert.Regexp(t, `^#[0-9a-f]{6}$`, ink)
	assert.NotEqual(t, "#35516b", ink)
	p.Wait(`document.getElementById("own-ink").value === ` + quoted(ink))

	// Kept under a name it goes to another map; drawings and walks wear it.
	p.Press("#look-name")
	p.Keys("night in the tower", drive.Enter)
	p.Wait(`[...document.querySelectorAll('.margin [data-fold="look"] .place')].some(b => b.textContent === "night in the tower")`)
	assert.Contains(t, drive.Eval[string](p, `fetch(document.body.dataset.base + "/drawing").then(r => r.text())`), `fill="#102a43"`)
	sameAfterReload(t, p)
	assert.Equal(t, "rgb(16, 42, 67)", paper(), "at once, from the style sheet of the page")
	p.Goto(app.URL + "/maps/bell-sound/walk/cause")
	p.Wait(`window.walk && walk.view.still`)
	assert.Equal(t, "rgb(16, 42, 67)", paper())
	p.Goto(app.URL + "/maps/own-bell")
	open(p, "look")
	p.Press(`.margin [data-fold="look"] .place`)
	p.Wait(`getComputedStyle(document.getElementById("desk")).getPropertyValue("--ink").trim() === ` + quoted(ink))
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.getElementById("desk").classList.contains("look-plain")`)
	assert.Empty(t, p.Faults("422"))
}

// A walk shows a region once all that is inside it stands, and lies on the picture
// that its map lies on; nothing else of the two is told.
func TestAWalkShowsRegionsAndPaper(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](p, `(async () => { const c = document.createElement("canvas"); c.width = 300; c.height = 200; c.getContext("2d").fillRect(20, 20, 90, 90);
		const data = new DataTransfer(); data.items.add(new File([await new Promise(done => c.toBlob(done))], "tower.png", { type: "image/png" }));
		const field = document.getElementById("ground"); field.files = data.files; field.dispatchEvent(new Event("change")); return true })()`)
	p.Wait(`document.querySelector("#regions > .picture")?.getBBox().width > 300`)
	p.Settled()
	p.Press(`button[data-phase="guide"]`)
	p.Wait(`document.querySelector('#margin [data-do="make-link"]')`)
	p.Press(`[data-do="make-link"]`)
	p.Wait(`document.querySelector(".address")?.value.includes("/walk/")`)
	learner := browser.Page(t, 1280, 800)
	learner.Goto(drive.Eval[string](p, `document.querySelector(".address").value`))
	learner.Wait(`window.walk && walk.view.still`)
	assert.True(t, drive.Eval[bool](learner, `fetch(document.querySelector("#regions > .picture").href.baseVal).then(r => r.ok)`))
	assert.Equal(t, 2, drive.Eval[int](learner, `document.querySelectorAll("#regions > .region").length`))
	assert.Zero(t, drive.Eval[int](learner, `document.querySelectorAll("#regions > .region:not(.hid), #regions .badge").length`))
	assert.NotContains(t, drive.Eval[string](learner, `document.documentElement.outerHTML`), "behind a bone", "the note of a region is the author's")
	seen := `document.querySelector("#r-in-metal:not(.hid)") !== null && [...document.querySelector("#r-in-metal").dataset.inside.split(" ")].every(id => !document.getElementById("c-" + id).classList.contains("hid"))`
	for range 12 {
		if drive.Eval[bool](learner, seen) {
			break
		}
		learner.Press("#next")
	}
	assert.True(t, drive.Eval[bool](learner, seen))
	assert.Empty(t, append(learner.Faults(), p.Faults()...))
}

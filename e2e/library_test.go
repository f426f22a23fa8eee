package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

func listed(p *drive.Page) []string {
	return drive.Eval[[]string](p, `[...document.querySelectorAll(".map-asks")].map(m => m.innerText)`)
}

// The list of maps: beginning by an outline typed with Tab, renaming, copying,
// the bin and back, and a file dropped on the page.
func TestTheLibrary(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	assert.Len(t, listed(p), 6)
	p.Wait(`[...document.querySelectorAll(".map-drawing")].every(i => i.complete && i.naturalWidth > 0)`)

	p.Press(`[name="begin"][value="outline"]`)
	p.Press("#lines")
	p.Keys("the bell", drive.Enter, drive.Tab, "has: the rim", drive.Enter)
	p.Keys(drive.Tab, drive.Tab, "is of: bronze", drive.Enter)
	p.Shift(drive.Tab)
	p.Keys("copper")
	assert.Equal(t, "the bell\n    has: the rim\n        is of: bronze\ncopper", drive.Eval[string](p, `document.getElementById("lines").value`))
	p.Keys(drive.Escape, drive.Tab)
	assert.NotEqual(t, "lines", drive.Eval[string](p, `document.activeElement.id`), "Escape lets Tab go on")
	p.Press("#question")
	p.Keys("What is a bell?", drive.Enter)
	p.Wait(`window.mevrin && seen.slips() === 4`)
	assert.Equal(t, []string{"the bell has the rim", "the rim is of bronze"}, says(p))
	noOverlap(t, p)

	// Named on the map and in the list; the old name comes back by undo.
	p.Press("#map-name")
	p.Keys("Bells", drive.Enter)
	p.Settled()
	p.Goto(app.URL)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".map-card").innerText`), "Bells · 4 concepts")
	p.Press(".map-card .map-menu summary")
	p.Press(`.map-actions [name="title"]`)
	p.Ctrl("a")
	p.Keys("Great bells", drive.Enter)
	p.Wait(`document.querySelector(".banner")?.innerText.includes("Great bells")`)
	p.Press(".map-card .map-menu summary")
	p.Press(`.map-actions [action$="/copy"] button`)
	p.Wait(`document.querySelectorAll(".map-card").length === 8`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".map-card").innerText`), "Copy of Great bells")
	p.Press(".map-card .map-menu summary")
	p.Press(`.map-actions [action$="/discard"] button`)
	p.Wait(`document.querySelector(".banner")?.innerText.includes("Copy of Great bells is in the bin now.")`)
	p.Press(".banner button")
	p.Wait(`document.querySelectorAll(".map-card").length === 8`)
	p.Press(".map-card .map-menu summary")
	p.Press(`.map-actions [action$="/discard"] button`)
	p.Wait(`document.querySelectorAll(".map-card").length === 7`)
	p.Press(`[href="/bin"]`)
	p.Wait(`document.querySelectorAll(".bin-list li").length === 1`)
	p.Press(".for-good summary")
	p.Press(".danger")
	p.Wait(`document.body?.innerText.includes("The bin is empty")`)

	// A file dropped on the page is opened; one that is no map is refused.
	p.Goto(app.URL)
	drop := func(name, content string) {
		drive.Eval[bool](p, `(() => { const d = new DataTransfer(); d.items.add(new File([`+quoted(content)+`], `+quoted(name)+`));
			document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: d, bubbles: true, cancelable: true })); return true })()`)
	}
	drop("letter.json", `{"to":"the founder"}`)
	p.Wait(`document.readyState === "complete" && document.querySelector(".banner.fault")?.innerText.includes("no map of Mevrin")`)
	assert.Len(t, listed(p), 7)
	drop("bell.json", `{"mevrin":1,"id":"x","language":"en","question":{"en":"Whose <b>bell</b>?"},"concepts":[{"id":"a","label":{"en":"<img src=x onerror=document.title=1>"},"at":{"x":0,"y":0}}]}`)
	p.Wait(`window.mevrin && seen.slips() === 1`)
	assert.Equal(t, "<img src=x onerror=document.title=1>", drive.Eval[string](p, `seen.concepts()[0].words`))
	assert.Equal(t, "Whose <b>bell</b>? – Mevrin", drive.Eval[string](p, `document.title`))
	assert.Empty(t, p.Faults("422"))
}

// The exported picture stands by itself: shown from a file, without the
// application, its words are set in the very fonts that they were measured in.
func TestTheExportedPictureStandsByItself(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	file := filepath.Join(t.TempDir(), "bell.svg")
	require.NoError(t, os.WriteFile(file, []byte(drive.Eval[string](p, `fetch("/maps/bell-sound/drawing").then(r => r.text())`)), 0o600))
	app.Kill()
	p.Goto("file://" + file)
	p.Wait(`document.fonts.status === "loaded" && document.fonts.size >= 2`)
	wide := drive.Eval[[]string](p, `[...document.querySelectorAll(".slip")].filter(g => {
		const t = g.querySelector("text").getBBox(), b = g.querySelector(".body").getBBox(); return t.width > b.width - 12 || t.width < 8 }).map(g => g.textContent)`)
	assert.Empty(t, wide, "words fit their slips")
	assert.True(t, drive.Eval[bool](p, `[...document.fonts].every(f => f.status === "loaded")`))
	assert.Equal(t, 41, drive.Eval[int](p, `document.querySelectorAll(".slip").length`))
}

// A map begins with a look, a key and a picture, chosen where it is made; what cannot
// be is refused with words, and the form keeps what was typed.
func TestAMapBeginsWithLookKeyAndPicture(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	p.Press("#question")
	p.Keys("What is in a bell?")
	p.Press(`[name="begin"][value="outline"]`)
	p.Press(".begin-more summary")
	drive.Eval[bool](p, `(document.querySelector('[name="dress"]').value = "board", document.querySelector('[name="key"]').value = "process", true)`)
	p.Wait(`document.querySelector('.begin-pictures img[src="/shelf/bell"]').complete`)
	p.Press(`.begin-pictures label:has([value="bell"])`)
	p.Press(".begin .button.main")
	p.Wait(`document.readyState === "complete" && document.querySelector(".banner.fault")?.textContent.includes("some lines first")`)
	assert.Equal(t, "What is in a bell? board process bell", drive.Eval[string](p, `[document.getElementById("question").value, document.querySelector('[name="dress"]').value, document.querySelector('[name="key"]').value, document.querySelector('[name="picture"]:checked').value].join(" ")`))
	drive.Eval[bool](p, `(document.getElementById("lines").value = "the bell\n  has: the rim", true)`)
	p.Press(".begin .button.main")
	p.Wait(`window.mevrin && seen.slips() === 2`)
	assert.True(t, drive.Eval[bool](p, `document.getElementById("desk").classList.contains("look-board")`))
	assert.GreaterOrEqual(t, drive.Eval[int](p, `JSON.parse(document.body.dataset.kinds).length`), 5)
	p.Wait(`document.querySelector('` + p.Slip("the bell") + ` image.picture')?.getBoundingClientRect().width > 50`)
	assert.True(t, drive.Eval[bool](p, `fetch(document.querySelector("image.picture").href.baseVal).then(r => r.ok)`))
	noOverlap(t, p)
	p.Ctrl("z")
	p.Wait(`!document.querySelector("image.picture")`)
	p.Settled()
	assert.Len(t, labels(p), 2, "undone, the picture alone is gone")
	// A text that is pasted is read, sentence by sentence.
	p.Goto(app.URL)
	p.Press(`[name="begin"][value="text"]`)
	p.Press("#lines")
	p.Insert("The bell is cast from bronze, which is a mixture of copper and tin. Who knows?")
	p.Press(".begin .button.main")
	p.Wait(`window.mevrin && seen.slips() === 4`)
	assert.ElementsMatch(t, []string{"bell", "bronze", "copper", "tin"}, labels(p))
	noOverlap(t, p)
	assert.Empty(t, p.Faults("422"))
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// The handbook opens beside the map by F1 and by the signs at what it explains, finds
// pages by words, and gives the keyboard back; each page has an address of its own.
func TestTheHandbook(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/own-bell")
	p.Keys(drive.F1)
	p.Wait(`document.querySelector("#help[open] h1")?.textContent === "Your first map"`)
	p.Keys("semicolons")
	p.Wait(`document.querySelectorAll("#help .help-pages li").length === 1`)
	p.Press(`#help .help-pages a`)
	p.Wait(`document.querySelector("#help h1")?.textContent === "Saying it in sentences"`)
	p.Wait(`(i => (i.loading = "eager", i.complete && i.naturalWidth > 0))(document.querySelector("#help img"))`)
	p.Press(`#help [name="seek"]`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("help").open && document.activeElement.id === "desk"`)
	p.Press(`[data-phase="check"]`)
	p.Settled()
	p.Press(`.phase .help-at`)
	p.Wait(`document.querySelector("#help[open] h1")?.textContent === "Checking a map"`)
	p.Goto(app.URL + "/help/order")
	assert.Equal(t, "Keeping it in order", drive.Eval[string](p, `document.querySelector("h1").textContent`))
	p.Goto(app.URL + "/help?seek=pianoforte")
	assert.Contains(t, drive.Eval[string](p, `document.body.innerText`), "Nothing is written of that")
	assert.Empty(t, p.Faults())
}

// Three hints stand on a first map at what they speak of; each goes once that was done.
func TestAFirstMapHasThreeHints(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	hints := func() []string {
		return drive.Eval[[]string](p, `[...document.querySelectorAll("[data-hint]")].filter(h => h.checkVisibility()).map(h => h.dataset.hint)`)
	}
	begin(p, app.URL, "What is in a bell?", "concept", "", "levels")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	assert.Empty(t, hints(), "nothing lies in the way of what is typed")
	p.Keys("the bell", drive.Enter)
	p.Settled()
	p.Wait(`document.querySelector('[data-hint="link"]').checkVisibility()`)
	assert.Equal(t, []string{"link", "say"}, hints())
	assert.Equal(t, "", drive.Eval[string](p, `document.getElementById("found").textContent`), "nothing is counted yet")
	p.Keys(drive.Tab, "has", drive.Enter, "a rim", drive.Enter)
	p.Settled()
	p.Wait(`!document.querySelector('[data-hint="link"]').checkVisibility()`)
	say(p, [3]string{"the bell", "hangs in", "the tower"})
	p.Wait(`document.querySelector('[data-hint="order"]').checkVisibility() && !document.querySelector('[data-hint="say"]').checkVisibility()`)
	p.Press(`[data-hint="order"] button`)
	p.Wait(`!document.querySelector('[data-hint="order"]').checkVisibility()`)
	p.Reload()
	assert.Empty(t, hints())
	assert.Empty(t, p.Faults())
}

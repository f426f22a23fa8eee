package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// The reading column is the map as text, in step with the paper, and what did
// not change in it keeps its element, its scroll and the focus.
func TestTheReadingColumn(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-do="fit"]`)
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline li").length === 41 && document.querySelectorAll("#propositions li").length === 50`)
	assert.True(t, drive.Eval[bool](p, `document.getElementById("margin").hidden`), "one side at a time on a school laptop")
	rows := func(list string) []string {
		return drive.Eval[[]string](p, `[...document.querySelectorAll("#`+list+` li")].map(r => (r.querySelector(".row") ?? r).innerText.trim().replace(/\s+/g, " "))`)
	}
	assert.Equal(t, []string{"the sound of a bell", "comes from the bell", "is cast from bell bronze", "is a mixture of copper", "is a mixture of tin"}, rows("outline")[:5])
	assert.Contains(t, rows("propositions"), "frequency is heard as pitch")

	// Selecting, both ways.
	p.Press(`#outline [data-element="c-clapper"]`)
	p.Wait(`seen.chosen() === "c-clapper"`)
	p.Press(`[id="c-pitch"]`)
	p.Wait(`document.querySelector('#outline [data-element="c-pitch"]').classList.contains("here")`)
	p.Press(`#propositions [data-element="l-link39"]`)
	p.Wait(`document.getElementById("l-link39").classList.contains("chosen")`)

	// Edits elsewhere leave the other rows their elements, scroll and focus.
	drive.Eval[bool](p, `(() => { document.getElementById("column").scrollTop = 700; window.kept = [...document.querySelectorAll("#column li")]; window.scrolled = document.getElementById("column").scrollTop;
		document.querySelector('#propositions [data-element="l-link05"]').focus({ preventScroll: true }); return true })()`)
	post(t, app.URL+"/maps/bell-sound", "other", `[{"do":"name-concept","concept":"tin","label":"pure tin"},{"do":"add-concept","id":"lone","label":"a lone idea","at":{"x":900,"y":900}},{"do":"remove","concepts":["louvres"]}]`)
	p.Wait(`[...document.querySelectorAll("#loose li")].some(r => r.innerText.includes("a lone idea"))`)
	assert.Contains(t, rows("outline"), "is a mixture of pure tin")
	assert.NotContains(t, rows("outline"), "leaves the tower by the louvres of the tower")
	assert.Equal(t, 2, drive.Eval[int](p, `kept.filter(r => !r.isConnected).length`), "only the rows of what was deleted went")
	assert.Equal(t, "l-link05", drive.Eval[string](p, `document.activeElement.dataset.element ?? document.activeElement.tagName`))
	assert.InDelta(t, drive.Eval[float64](p, "scrolled"), drive.Eval[float64](p, `document.getElementById("column").scrollTop`), 60)

	// Another order of siblings shows at once, by moving rows.
	p.Press(`[id="c-tin"]`)
	p.Ctrl(drive.Left)
	p.Settled()
	p.Wait(`[...document.querySelectorAll("#outline li")].findIndex(r => r.dataset.key === "c-tin") < [...document.querySelectorAll("#outline li")].findIndex(r => r.dataset.key === "c-copper")`)
	want := rows("outline")
	p.Reload()
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline li").length > 30`)
	assert.Equal(t, want, rows("outline"), "patched rows are those of a fresh page")
	assert.Empty(t, p.Faults())
}

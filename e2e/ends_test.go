package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// pullPhrase drags the knot of the selected phrase to a place of the window.
func pullPhrase(p *drive.Page, x, y float64) {
	p.Wait(`document.querySelector(".pull-handle").getAttribute("visibility") === "visible" && seen.knot(seen.chosen())`)
	kx, ky := p.Middle(".pull-handle .dot")
	p.Drag(kx, ky, x, y)
}

// One phrase leads to several concepts: pulled from it to one that is there and
// to empty paper, and taken off; and two concepts that are one become one.
func TestSeveralEndsOfAPhraseAndMerging(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  hangs by: the crown\n  ends in: the top")
	p.Wait(`seen.slips() === 4`)
	link := `[id="l-` + drive.Eval[string](p, `seen.link("has").id`) + `"] .gap`
	p.Press(link)
	x, y := p.Middle(p.Slip("the crown"))
	pullPhrase(p, x, y)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the crown")
	p.Press(link)
	pullPhrase(p, 300, 690)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the waist", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the crown, the waist")

	// What is there already is led to, not doubled.
	p.Press(link)
	pullPhrase(p, 760, 690)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("THE top", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the crown, the waist, the top")
	assert.Len(t, labels(p), 5)
	assert.Equal(t, "the top", drive.Eval[string](p, `seen.at(seen.chosen()).words`))

	p.Press(link)
	p.Wait(`document.querySelector('[data-do="take-off"][aria-label*="the rim"]')`)
	p.Press(`[data-do="take-off"][aria-label*="the rim"]`)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the crown, the waist, the top")
	p.Ctrl("z")
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the crown, the waist, the top")

	p.Press(p.Slip("the crown"))
	p.CtrlClick(p.Middle(p.Slip("the top")))
	p.Wait(`document.querySelector('.margin [data-do="merge"]')`)
	p.Press(`.margin [data-do="merge"]`)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the crown, the waist")
	p.Press(".notice:last-child button")
	p.Settled()
	assert.Len(t, labels(p), 5)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// What hangs from one of several concepts that a phrase leads from hangs from that one
// in the page, too.
func TestTheParentIsOneOfSeveral(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	address := emptyMap(t, app)
	post(t, app.URL+address, "several", `[{"do":"add-concept","id":"a","label":"copper","at":{"x":0,"y":0}},{"do":"add-concept","id":"b","label":"tin","at":{"x":300,"y":0}},{"do":"add-concept","id":"c","label":"bronze","at":{"x":150,"y":250}},
		{"do":"set-focus","concept":"a"},{"do":"add-link","id":"near","phrase":"is mixed with","from":[{"id":"n1","concept":"a"}],"to":[{"id":"n2","concept":"b"}]},
		{"do":"add-link","id":"l","phrase":"make","from":[{"id":"f1","concept":"a"},{"id":"f2","concept":"b"}],"to":[{"id":"t","concept":"c"}]},{"do":"set-main","concept":"c","strand":{"link":"l","from":"f2","to":"t"}}]`)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + address)
	assert.Equal(t, "b", drive.Eval[string](p, `seen.at("c-c").under`))
	p.Press(`[id="c-b"]`)
	p.Wait(`document.querySelector('.margin [data-fold="this-more"]')`)
	p.Press(`.margin [data-fold="this-more"] summary`)
	p.Press(`.margin [data-do="branch"]`)
	assert.Equal(t, []string{"c-b", "c-c"}, drive.Eval[[]string](p, `seen.marked().sort()`))
}
